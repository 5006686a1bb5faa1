package rules

import (
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/refs"
)

func (c *Call) isModule(r refs.Ref) bool {
	return slices.ContainsFunc(c.texts("modules"), func(m string) bool { return moduleFits(m, r.Name) })
}

// moduleFits says whether the name of a module is the one given, or one below
// it.
func moduleFits(given, name string) bool {
	if begin, open := strings.CutSuffix(given, "*"); open {
		return strings.HasPrefix(name, begin)
	}
	return name == given || strings.HasPrefix(name, given) && strings.IndexByte("./:\\", name[len(given)]) >= 0
}

var onlyHere = &Rule{
	Name: "only-here", Kind: finding.Tangled, Level: finding.Error,
	Doc: "A module is used in one part of the project only.",
	Example: `- rule: only-here
  modules: ["package:http/*"]
  files: "lib/**/*.dart"
  in: "lib/services/**"`,
	Options: []Option{
		{"modules", Texts, true, "the modules, with \"*\" at the end for all that begin so", false},
		{"files", Paths, true, "the files that are looked at", false},
		{"in", Paths, true, "those that may use it", false},
	},
	Run: func(c *Call) {
		for _, f := range c.files("files") {
			if c.fits("in", f.path) {
				continue
			}
			for _, r := range c.refsOf(f.path).Of(refs.Import) {
				if c.isModule(r) {
					c.atRef(f.path, r, nil, "it imports %s, which only %s may", r.Name, strings.Join(c.texts("in"), ", "))
				}
			}
		}
	},
}
