package rules

import (
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/refs"
)

var pinned = &Rule{
	Name: "pinned", Kind: finding.Substandard, Level: finding.Warning,
	Doc: "Every requirement of a list has an exact version.",
	Example: `- rule: pinned
  files: requirements.txt`,
	Options: []Option{{"files", Paths, true, "the requirement lists", false}},
	Run: func(c *Call) {
		for _, f := range c.files("files") {
			for _, r := range c.refsOf(f.path).Of(refs.Import) {
				if !strings.HasPrefix(r.Value, "==") && !strings.HasPrefix(r.Value, "@") {
					c.atRef(f.path, r, nil, "%s has no exact version", r.Name)
				}
			}
		}
	},
}
