package rules

import (
	"slices"

	"dicaxon/internal/finding"
	"dicaxon/internal/refs"
)

var setKeys = &Rule{
	Name: "set-keys", Kind: finding.Substandard, Level: finding.Warning,
	Doc: "Settings say what the house asks for.",
	Example: `- rule: set-keys
  files: package.json
  keys: [name, engines.node]`,
	Options: []Option{
		{"files", Paths, true, "the settings", false},
		{"keys", Texts, true, "the keys that must be there; \"*\" stands for one", false},
	},
	Run: func(c *Call) {
		for _, f := range c.files("files") {
			said := c.refsOf(f.path)
			for _, key := range c.texts("keys") {
				if !slices.ContainsFunc(said.Of(refs.Key), func(k refs.Ref) bool { return keyFits(key, k.Name) }) {
					c.report(f.path, 0, 0, nil, "it does not set %s", key)
				}
			}
		}
	},
}
