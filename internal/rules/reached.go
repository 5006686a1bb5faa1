package rules

import (
	"path"

	"dicaxon/internal/finding"
)

var reached = &Rule{
	Name: "reached", Kind: finding.Unwired, Level: finding.Warning,
	Doc: "Every file of these is named by another file of its language.",
	Example: `- rule: reached
  files: "src/**/*.rs"
  except: ["src/main.rs", "src/lib.rs"]`,
	Options: []Option{
		{"files", Paths, true, "the files", false},
		{"except", Paths, false, "those from which the language starts", true},
	},
	Run: func(c *Call) {
		for _, f := range c.files("files") {
			if c.fits("except", f.path) || c.lends(f.path) || c.isNamed(f.path) {
				continue
			}
			c.report(f.path, 0, 0, nil, "no %s names it, so it is not compiled", path.Ext(f.path))
		}
	},
}

// isNamed says whether another file of the same language leads to a file.
func (c *Call) isNamed(at string) bool {
	for _, e := range c.Graph.To(at) {
		if e.From != at && path.Ext(e.From) == path.Ext(at) {
			return true
		}
	}
	return false
}
