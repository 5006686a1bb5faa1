package rules

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/refs"
)

var paired = &Rule{
	Name: "paired", Kind: finding.Unpaired, Level: finding.Warning,
	Doc: "Every file has its counterpart, such as a test or a marker.",
	Example: `- rule: paired
  files: "src/<module>.js"
  with: ["src/<module>.test.js", "tests/<module>.test.js"]
  except: ["src/index.js", "src/*.test.js"]`,
	Options: []Option{
		{"files", Paths, true, "the files", false},
		{"with", Paths, false, "the counterparts, of which one must be there", false},
		{"named-in", Paths, false, "files of which one must name it, such as the handlers of a template", false},
		{"never-with", Texts, false, "names that never stand in the same folder", false},
		{"except", Paths, false, "files that need none", false},
	},
	Run: func(c *Call) {
		var namers []string
		for _, f := range c.files("files") {
			if c.fits("except", f.path) || len(c.find(c.paths["with"], f.env)) > 0 {
				continue
			}
			for _, name := range c.texts("never-with") {
				if beside := path.Join(path.Dir(f.path), name); c.node(beside) != nil {
					c.report(f.path, 0, 0, &finding.Place{Path: beside}, "%s stands beside it; only one of them can answer", name)
				}
			}
			if in := c.paths["named-in"]; in != nil {
				if namers == nil {
					namers = c.codeOf(c.find(in, c.env))
				}
				if !slices.ContainsFunc(namers, func(code string) bool { return mentions(code, path.Base(f.path)) }) {
					c.report(f.path, 0, 0, nil, "nothing names it")
				}
				continue
			}
			if c.paths["with"] == nil {
				continue
			}
			var wanted []string
			for _, w := range c.paths["with"] {
				wanted = append(wanted, c.pathOf(&w, f.env))
			}
			c.report(f.path, 0, 0, &finding.Place{Path: wanted[0]}, "it has no %s", strings.Join(wanted, " or "))
		}
	},
}

// codeOf gives the texts of files without their comments.
func (c *Call) codeOf(files []file) []string {
	var all []string
	for _, f := range files {
		all = append(all, string(refs.Code(f.path, c.textOf(f.path))))
	}
	return all
}
