package rules

import (
	"dicaxon/internal/finding"
	"dicaxon/internal/refs"
)

var reads = &Rule{
	Name: "reads", Kind: finding.Disagrees, Level: finding.Error, Arrangement: true,
	Doc: "Models of a late layer read models of the layer before, and no source.",
	Example: `- rule: reads
  files: "models/marts/**/*.sql"
  not-sources: true`,
	Options: []Option{
		{"files", Paths, true, "the models", false},
		{"not-sources", Flag, false, "true where they may read no source", false},
		{"not", Paths, false, "models that they may not read", false},
	},
	Run: func(c *Call) {
		// A model that is declared as a source is told where it is declared.
		built := tablesOf(c.files("files"))
		for _, f := range c.files("files") {
			for _, r := range c.refsOf(f.path).Refs {
				if r.Kind == refs.Source && c.flag("not-sources") && built[r.Name] == "" {
					c.atRef(f.path, r, nil, "it reads the source %s past staging", r.Name)
				}
				if r.Kind != refs.Model {
					continue
				}
				for _, to := range c.targets(f.path, r) {
					if c.fits("not", to) {
						c.atRef(f.path, r, &finding.Place{Path: to}, "it reads %s, which it should not", to)
					}
				}
			}
		}
	},
}
