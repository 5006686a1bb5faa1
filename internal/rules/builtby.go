package rules

import (
	"cmp"
	"path"
	"slices"

	"dicaxon/internal/finding"
)

var builtBy = &Rule{
	Name: "built-by", Kind: finding.Unwired, Level: finding.Warning,
	Doc: "Code that a project file compiles, or that a program looks for from its own folder down, lies in the folder of one, or below it.",
	Example: `- rule: built-by
  files: "**/*.cs"
  manifests: "**/*.csproj"
  unless: '<Compile\s+Include='`,
	Options: []Option{
		{"files", Paths, true, "the code", true},
		{"where", Regexps, false, "only code with this text", false},
		{"manifests", Paths, true, "the project files, or the programs", true},
		{"shows", Regexps, false, "the text of such a program, where it is one file of many", false},
		{"what", Text, false, "what such a file is called; a project file, if left out", false},
		{"unless", Regexps, false, "what such a file says that takes in code of other folders, too", false},
	},
	Run: runBuiltBy,
}

func runBuiltBy(c *Call) {
	in := map[string]bool{}
	manifests := slices.DeleteFunc(c.files("manifests"), func(f file) bool {
		return len(c.regexps["shows"]) > 0 && !anyFits(c.regexps["shows"], c.textOf(f.path))
	})
	if len(manifests) == 0 {
		return
	}
	for _, m := range manifests {
		if anyFits(c.regexps["unless"], c.textOf(m.path)) {
			return
		}
		in[path.Dir(m.path)] = true
	}
	all := slices.DeleteFunc(c.files("files"), func(f file) bool {
		return c.lends(f.path) || len(c.regexps["where"]) > 0 && !anyFits(c.regexps["where"], c.textOf(f.path))
	})
	lost := slices.DeleteFunc(slices.Clone(all), func(f file) bool { return isBelowAny(f.path, in) })
	programs := len(c.regexps["shows"]) > 0
	switch one := manifests[0].path; {
	case 2*len(lost) <= len(all):
		for _, f := range lost {
			told := c.report(f.path, 0, 0, nil, "no %s lies above it", cmp.Or(c.text("what"), "project file"))
			if !programs {
				told.Sought = c.builtFrom(f.path, path.Ext(one))
			}
		}
	case len(manifests) == 1 && programs: // else something else builds them
		c.report(one, 0, 0, &finding.Place{Path: lost[0].path}, "most of what it looks for lies beside or above its folder")
	}
}

// builtFrom gives the project files above some code, each called as its folder: one that is missing
// there is what is told.
func (c *Call) builtFrom(at, ending string) (all []string) {
	for dir := path.Dir(at); dir != "."; dir = path.Dir(dir) {
		all = append(all, c.Top.Path()+path.Join(dir, path.Base(dir)+ending))
	}
	return all
}

// isBelowAny says whether a path lies in one of some folders, or below it.
func isBelowAny(at string, folders map[string]bool) bool {
	for dir := path.Dir(at); ; dir = path.Dir(dir) {
		if folders[dir] {
			return true
		}
		if dir == "." {
			return false
		}
	}
}
