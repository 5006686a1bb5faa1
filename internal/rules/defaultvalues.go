package rules

import (
	"slices"

	"dicaxon/internal/finding"
	"dicaxon/internal/refs"
)

var defaults = &Rule{
	Name: "default-values", Kind: finding.Leftover, Level: finding.Warning,
	Doc: "Settings no longer have the values that the framework's own starter gave them.",
	Example: `- rule: default-values
  files: package.json
  keys: name
  values: [vite-project, my-app]`,
	Options: []Option{
		{"files", Paths, true, "the settings", false},
		{"keys", Texts, true, "the keys; \"*\" stands for one", false},
		{"values", Texts, true, "the values that nobody chose", false},
	},
	Run: func(c *Call) {
		for _, f := range c.files("files") {
			for _, k := range c.refsOf(f.path).Of(refs.Key) {
				if c.keyed(k.Name) && slices.Contains(c.texts("values"), k.Value) {
					c.atRef(f.path, k, nil, "%s is still %q, which the framework's starter wrote", k.Name, k.Value)
				}
			}
		}
	},
}
