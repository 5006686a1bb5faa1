package rules

import (
	"path"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/names"
)

var spelling = &Rule{
	Name: "spelling", Kind: finding.Misnamed, Level: finding.Warning,
	Doc: "The names of files are written in one shape.",
	Example: `- rule: spelling
  files: "lib/**/*.dart"
  shape: snake`,
	Options: []Option{
		{"files", Paths, true, "the files", false},
		{"shape", Text, true, "how the name is written before its first dot: snake, kebab, camel, pascal or another shape of the language of layouts", false},
		{"except", Paths, false, "files that are called otherwise", true},
	},
	Run: func(c *Call) {
		for _, f := range c.files("files") {
			base := path.Base(f.path)
			stem := strings.TrimLeft(names.BeforeDot(base), "_")
			shape := names.Shape(c.text("shape"))
			written := names.To(shape, stem)
			if written == "" || shape.Fits(stem) || c.fits("except", f.path) || c.lends(f.path) || c.homeOf(f.path) != f.path || inSample(f.path) {
				continue
			}
			home := path.Join(path.Dir(f.path), strings.Replace(base, stem, written, 1))
			if c.node(home) != nil {
				continue
			}
			found := c.report(f.path, 0, 0, nil, "it should be called %s: names are written so here", path.Base(home))
			found.Home = c.Top.Path() + home
		}
	},
}
