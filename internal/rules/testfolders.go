package rules

import (
	"maps"
	"path"
	"slices"

	"dicaxon/internal/finding"
	"dicaxon/internal/names"
	"dicaxon/internal/placement"
	"dicaxon/internal/refs"
)

// tellTestFolders tells of a folder of tests that is called nearly as a folder of code is, where
// the most beside it are called exactly as those beside that: tests/crew/ for crews/, beside
// tests/shifts/ for shifts/.
func (c *Call) tellTestFolders() {
	code, tests := map[string][]string{}, map[string][]string{} // folders by their names; those of tests by what they lie in
	seen := map[string]bool{}
	for _, f := range c.everything() {
		if !refs.IsCode(f.path) {
			continue
		}
		for dir := path.Dir(f.path); dir != "." && !seen[dir]; dir = path.Dir(dir) {
			seen[dir] = true
			switch name := path.Base(c.homeOf(dir + "/")); {
			case !placement.ForTests(dir) && !inSample(dir+"/"):
				code[name] = append(code[name], dir)
			case placement.ForTests(path.Dir(dir)):
				tests[path.Dir(dir)] = append(tests[path.Dir(dir)], dir)
			}
		}
	}
	for _, in := range slices.Sorted(maps.Keys(tests)) {
		mirrored := map[string]int{} // how many folders have one of their name in a folder of code
		for _, dir := range tests[in] {
			for _, of := range code[path.Base(dir)] {
				mirrored[path.Dir(of)]++
			}
		}
		for _, dir := range tests[in] {
			if len(code[path.Base(dir)]) == 0 && c.homeOf(dir+"/") == dir+"/" && !c.fits("except", dir) {
				c.tellTestFolder(in, dir, code, func(of string) bool { return 2*mirrored[path.Dir(of)] >= len(tests[in]) })
			}
		}
	}
}

// tellTestFolder tells of one such folder, if there is one of nearly its name that it can mirror.
func (c *Call) tellTestFolder(in, dir string, code map[string][]string, can func(of string) bool) {
	var all []string
	for name, folders := range code {
		slip := names.Near(path.Base(dir), name)
		if len(name) > 3 && (slip == names.Number || slip == names.Separator || slip == names.Typing && names.Mistyped(path.Base(dir), name)) {
			all = append(all, slices.DeleteFunc(slices.Clone(folders), func(of string) bool { return !can(of) })...)
		}
	}
	if len(all) != 1 || c.node(path.Join(in, path.Base(all[0]))) != nil {
		return
	}
	told := c.report(dir+"/", 0, 0, &finding.Place{Path: all[0] + "/"}, "it holds tests of %s/, and is called after nothing that is here", all[0])
	told.Home = c.Top.Path() + path.Join(in, path.Base(c.homeOf(all[0]+"/"))) + "/"
}
