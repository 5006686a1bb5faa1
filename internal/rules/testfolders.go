package rules

import (
	"maps"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/names"
	"dicaxon/internal/placement"
	"dicaxon/internal/refs"
)

// tellTestFolders tells of a folder of tests that is called nearly as a folder of code is, where
// another folder beside it is called exactly as one and no other has the near name: tests/crew/ for
// crews/, beside tests/shifts/ for shifts/.
func (c *Call) tellTestFolders() {
	code, tests := map[string]string{}, map[string][]string{} // folders by their names; those of tests by what they lie in
	for _, f := range c.everything() {
		if !refs.IsCode(f.path) {
			continue
		}
		for dir := path.Dir(f.path); dir != "."; dir = path.Dir(dir) {
			switch {
			case !placement.ForTests(dir):
				if name := path.Base(c.homeOf(dir)); code[name] == "" {
					code[name] = dir
				}
			case placement.ForTests(path.Dir(dir)) && !slices.Contains(tests[path.Dir(dir)], dir):
				tests[path.Dir(dir)] = append(tests[path.Dir(dir)], dir)
			}
		}
	}
	for _, in := range slices.Sorted(maps.Keys(tests)) {
		exact := slices.ContainsFunc(tests[in], func(dir string) bool { return code[path.Base(dir)] != "" })
		for _, dir := range tests[in] {
			if name := path.Base(dir); exact && code[name] == "" && c.homeOf(dir) == dir && !c.fits("except", dir) {
				c.tellTestFolder(in, dir, code)
			}
		}
	}
}

func (c *Call) tellTestFolder(in, dir string, code map[string]string) {
	var all []string
	for name := range code {
		slip := names.Near(path.Base(dir), name)
		if len(name) > 3 && (slip == names.Number || slip == names.Separator || slip == names.Typing && names.Mistyped(path.Base(dir), name)) {
			all = append(all, name)
		}
	}
	if len(all) != 1 || c.node(path.Join(in, all[0])) != nil {
		return
	}
	told := c.report(dir+"/", 0, 0, &finding.Place{Path: code[all[0]] + "/"}, "it holds tests of %s/, and is called after nothing that is here", strings.TrimSuffix(code[all[0]], "/"))
	told.Home = c.Top.Path() + path.Join(in, all[0]) + "/"
}
