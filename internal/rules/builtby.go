package rules

import (
	"path"
	"slices"

	"dicaxon/internal/finding"
)

var builtBy = &Rule{
	Name: "built-by", Kind: finding.Unwired, Level: finding.Warning,
	Doc: "Code that a project file compiles lies in the folder of one, or below it.",
	Example: `- rule: built-by
  files: "**/*.cs"
  manifests: "**/*.csproj"
  unless: '<Compile\s+Include='`,
	Options: []Option{
		{"files", Paths, true, "the code", true},
		{"manifests", Paths, true, "the project files", true},
		{"unless", Regexps, false, "what a project file says that compiles code of other folders, too", false},
	},
	Run: func(c *Call) {
		manifests, in := c.files("manifests"), map[string]bool{}
		if len(manifests) == 0 {
			return
		}
		for _, m := range manifests {
			if anyFits(c.regexps["unless"], c.textOf(m.path)) {
				return
			}
			in[path.Dir(m.path)] = true
		}
		all := slices.DeleteFunc(c.files("files"), func(f file) bool { return c.lends(f.path) })
		lost := slices.DeleteFunc(slices.Clone(all), func(f file) bool { return isBelowAny(f.path, in) })
		if 2*len(lost) > len(all) { // something else builds them
			return
		}
		ending := path.Ext(manifests[0].path)
		for _, f := range lost {
			told := c.report(f.path, 0, 0, nil, "no project file lies above it, so nothing compiles it")
			for dir := path.Dir(f.path); dir != "."; dir = path.Dir(dir) { // one that is missing there is what is told
				told.Sought = append(told.Sought, c.Top.Path()+path.Join(dir, path.Base(dir)+ending))
			}
		}
	},
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
