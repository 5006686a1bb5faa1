package rules

import (
	"path"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
)

var compiledList = &Rule{
	Name: "compiled-list", Kind: finding.Disagrees, Level: finding.Warning, Always: true,
	Doc: "A list of requirements that is compiled from another has all that this one asks for, each with its version.",
	Example: `- rule: compiled-list
  level: error`,
	Run: func(c *Call) {
		for _, f := range c.everything() {
			stem, ok := strings.CutSuffix(f.path, ".in")
			if base := path.Base(f.path); !ok || !strings.HasPrefix(base, "requirements") || inSample(f.path) {
				continue
			}
			if list := stem + ".txt"; c.node(list) != nil {
				c.compareLists(f.path, list)
			}
		}
	},
}

// compareLists tells of what a compiled list lacks.
func (c *Call) compareLists(source, list string) {
	compiled := c.refsOf(list)
	if len(compiled.Of(refs.Path)) > 0 {
		return // it goes on in another
	}
	has := map[string]bool{}
	for _, r := range compiled.Of(refs.Import) {
		has[names.To(names.Kebab, strings.ToLower(r.Name))] = true
		if !strings.Contains(r.Value, "==") && !strings.HasPrefix(r.Value, "@") {
			c.atRef(list, r, &finding.Place{Path: source}, "%s has no version here, though the list is compiled from %s", r.Name, source)
		}
	}
	for _, r := range c.refsOf(source).Of(refs.Import) {
		if !has[names.To(names.Kebab, strings.ToLower(r.Name))] {
			c.atRef(source, r, &finding.Place{Path: list}, "it asks for %s, which %s lacks; compile it anew", r.Name, list)
		}
	}
}
