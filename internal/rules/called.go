package rules

import (
	"path"

	"dicaxon/internal/finding"
)

var called = &Rule{
	Name: "called", Kind: finding.Misnamed, Level: finding.Warning,
	Doc: "A file that programs look for by its name has that name, not one that people write by mistake.",
	Example: `- rule: called
  files: ["**/init.py", "**/__int__.py"]
  as: __init__.py`,
	Options: []Option{
		{"files", Paths, true, "the names that people write", true},
		{"as", Text, true, "the name that is looked for", false},
		{"beside", Paths, false, "only where one of these is in the same folder", true},
	},
	Run: func(c *Call) {
		for _, f := range c.files("files") {
			folder := path.Dir(f.path)
			home := path.Join(folder, c.text("as"))
			if c.node(home) != nil || c.homeOf(f.path) != f.path || c.lends(f.path) || c.paths["beside"] != nil && !c.isBeside(folder, f.path) {
				continue
			}
			c.report(f.path, 0, 0, nil, "nothing looks for that name; it should be called %s", c.text("as")).Home = c.Top.Path() + home
		}
	},
}

// isBeside says whether a file of the option lies in the folder of another.
func (c *Call) isBeside(folder, other string) bool {
	for _, f := range c.files("beside") {
		if f.path != other && path.Dir(f.path) == folder {
			return true
		}
	}
	return false
}
