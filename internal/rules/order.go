package rules

import (
	"path"

	"dicaxon/internal/finding"
	"dicaxon/internal/refs"
)

var order = &Rule{
	Name: "order", Kind: finding.Disagrees, Level: finding.Error,
	Doc: "A page loads its scripts in an order in which each finds what it needs.",
	Example: `- rule: order
  files: index.html
  links: ["js/libs/**/*.js", "js/models/*.js", "js/app.js"]`,
	Options: []Option{
		{"files", Paths, true, "the pages", false},
		{"links", Paths, true, "what is loaded, in the order in which it should be", false},
	},
	Run: func(c *Call) {
		for _, f := range c.files("files") {
			last, before := -1, refs.Ref{}
			for _, r := range c.refsOf(f.path).Of(refs.Link) {
				rank := c.rank(c.paths["links"], path.Join(path.Dir(f.path), r.Name))
				if rank < 0 || r.Value != "script" {
					continue
				}
				if rank < last {
					c.atRef(f.path, r, &finding.Place{Path: f.path, Line: before.Line}, "%s is loaded after %s, which needs it", r.Name, before.Name)
					continue
				}
				last, before = rank, r
			}
		}
	},
}
