package rules

import (
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
)

var sameValue = &Rule{
	Name: "same-value", Kind: finding.Disagrees, Level: finding.Error,
	Doc: "Settings that repeat a name repeat it alike.",
	Example: `- rule: same-value
  values: ["dbt_project.yml#name", "dbt_project.yml#models.*"]`,
	Options: []Option{
		{"values", Texts, true, "file#key, the first being the one that holds; a key ending in \".*\" stands for the names of the keys below", false},
		{"ignore-case", Flag, false, "true where case and what separates words do not count", false},
	},
	Run: runSameValue,
}

func runSameValue(c *Call) {
	first := ""
	var at finding.Place
	for i, value := range c.texts("values") {
		name, key, _ := strings.Cut(value, "#")
		name = fill(name, c.env)
		if n := c.node(name); n == nil || n.Folder != nil {
			continue
		}
		for _, k := range c.refsOf(name).Of(refs.Key) {
			said := k.Value
			if above, below := strings.CutSuffix(key, ".*"); below {
				child, ok := strings.CutPrefix(k.Name, above+".")
				if !ok || strings.ContainsAny(child, ".+") || k.Value != "" {
					continue
				}
				said = child
			} else if k.Name != key || said == "" {
				continue
			}
			if first == "" && i == 0 {
				first, at = said, finding.Place{Path: name, Line: k.Line}
				continue
			}
			if first != "" && said != first && !(c.flag("ignore-case") && names.Same(said, first)) {
				c.atRef(name, k, &at, "it says %s where %s says %s", said, at.Path, first)
			}
		}
	}
}
