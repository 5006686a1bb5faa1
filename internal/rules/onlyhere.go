package rules

import (
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/refs"
)

// module gives the module, or the name in one, that a reference takes from those of
// the rule, "" if none.
func (c *Call) module(r refs.Ref) string {
	if strings.Contains(r.Name, "://") { // an address
		return ""
	}
	for _, m := range c.texts("modules") {
		if moduleFits(m, r.Name) {
			return r.Name
		}
		if r.Value != "" && m == r.Name+"."+r.Value {
			return m
		}
	}
	return ""
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
	Name: "only-here", Kind: finding.Tangled, Level: finding.Error, Arrangement: true,
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
				if name := c.module(r); name != "" {
					c.atRef(f.path, r, nil, "it imports %s, which only %s may", name, strings.Join(c.texts("in"), ", "))
				}
			}
		}
	},
}
