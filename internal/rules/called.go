package rules

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/names"
)

var called = &Rule{
	Name: "called", Kind: finding.Misnamed, Level: finding.Warning,
	Doc: "A file that programs look for by its name has that name, not one that people write by mistake.",
	Example: `- rule: called
  files: ["**/init.py", "**/__int__.py"]
  as: __init__.py`,
	Options: []Option{
		{"files", Paths, true, "the names that people write", true},
		{"as", Texts, true, "the name that is looked for, or a path from the file's folder, in which \"{}\" is the file's own name; of several, which may be patterns, the one that a file's is nearly", false},
		{"beside", Paths, false, "only where one of these is in the same folder", true},
		{"where", Regexps, false, "only a file with this text", false},
		{"mistyped", Flag, false, "only a slip of the fingers: two letters changed places, or in a long name one is left out or put in", true},
	},
	Run: func(c *Call) {
		for _, f := range c.files("files") {
			folder := path.Dir(f.path)
			as := strings.ReplaceAll(c.nameMeant(path.Base(f.path)), "{}", path.Base(f.path))
			home := path.Join(folder, as)
			if as == "" || c.node(home) != nil || c.homeOf(f.path) != f.path || c.lends(f.path) || !c.saysSo(f.path) || c.paths["beside"] != nil && !c.isBeside(folder, f.path) {
				continue
			}
			slash := ""
			if c.isFolder(f.path) {
				slash = "/"
			}
			told := c.report(f.path+slash, 0, 0, nil, "nothing looks for that name; it should be called %s", as)
			told.Home = c.Top.Path() + home + slash
			if in := path.Dir(home); in != folder {
				told.Kind, told.Message = finding.Misplaced, "nothing looks for it there; it belongs in "+strings.TrimPrefix(in+"/", "./")
			}
		}
	},
}

// nameMeant gives the name that a file should have: the only one, or of several the one that
// its own is nearly; "" where it has one of them, or none is that near.
func (c *Call) nameMeant(own string) string {
	all := c.texts("as")
	if c.flag("mistyped") {
		return only(all, func(name string) bool { return names.Mistyped(own, name) })
	}
	if len(all) == 1 {
		return all[0]
	}
	if slices.ContainsFunc(all, func(as string) bool { fits, _ := path.Match(as, own); return fits }) {
		return ""
	}
	if near := names.Closest(own, all); names.Near(own, near) < names.Apart {
		return near
	}
	return ""
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
