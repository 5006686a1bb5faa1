package rules

import (
	"maps"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
)

var shared = &Rule{
	Name: "shared", Kind: finding.Misplaced, Level: finding.Warning,
	Doc: "A file that several units use lies in the shared folder, and one that a single unit uses lies with it.",
	Example: `- rule: shared
  unit: feature
  files: "src/features/<feature>/components/**"
  shared: "src/components/**"
  users: "src/features/<feature>/**"`,
	Options: []Option{
		{"unit", Text, true, "the captured name that tells one unit from another", false},
		{"files", Paths, true, "the files that belong to one unit", false},
		{"shared", Paths, true, "the files that belong to all", false},
		{"users", Paths, true, "the files of units that use them", false},
		{"by", Finders, false, "finds names by which files use others, such as pages that are rendered: as in the rule names", false},
		{"to", Texts, false, "the paths that such a name stands for: as in the rule names", false},
		{"one-user", Flag, false, "true where a shared file may have one user", false},
	},
	Run: runShared,
}

// uses notes which units use a file, and one place of each.
type uses map[string]finding.Place

// used says which files the files given use, by importing, mounting or including
// them, or by the names that the rule tells.
func (c *Call) used(files []file, yield func(by file, to string, line int)) {
	c.readAhead(files)
	for _, f := range files {
		for _, r := range c.refsOf(f.path).Refs {
			for _, to := range c.targets(f.path, r) {
				yield(f, to, r.Line)
			}
		}
	}
	for _, s := range c.spoken(files) {
		for _, to := range c.texts("to") {
			for _, at := range c.standing(fill(places(to, s.name), s.file.env, c.env)) {
				line, _ := refs.Place(c.textOf(s.file.path), s.at)
				yield(s.file, at, line)
			}
		}
	}
}

func runShared(c *Call) {
	unit := c.text("unit")
	used := map[string]uses{}
	units := map[string]bool{}
	users := slices.DeleteFunc(c.files("users"), func(f file) bool { _, in := f.env.Get(unit); return !in })
	for _, f := range users {
		value, _ := f.env.Get(unit)
		units[value] = true
	}
	c.used(users, func(by file, to string, line int) {
		value, _ := by.env.Get(unit)
		if used[to] == nil {
			used[to] = uses{}
		}
		if _, known := used[to][value]; !known {
			used[to][value] = finding.Place{Path: by.path, Line: line}
		}
	})
	for _, f := range c.files("files") {
		own, _ := f.env.Get(unit)
		for _, value := range slices.Sorted(maps.Keys(used[f.path])) {
			if at := used[f.path][value]; !names.Same(value, own) {
				found := c.report(f.path, 0, 0, &at, "%s uses it too; what several use belongs in %s", value, c.folderOf(&c.paths["shared"][0], c.env))
				found.Home = c.Top.Path() + path.Join(c.folderOf(&c.paths["shared"][0], c.env), path.Base(f.path))
				break
			}
		}
	}
	if len(units) < 2 || c.flag("one-user") {
		return // whatever is shared, there is nobody else to use it yet
	}
	for _, f := range c.files("shared") {
		if by := slices.Sorted(maps.Keys(used[f.path])); len(by) == 1 && !c.usedElsewhere(f.path) {
			at := used[f.path][by[0]]
			found := c.report(f.path, 0, 0, &at, "only %s uses it", by[0])
			found.Level = finding.Note
			found.Home = c.Top.Path() + path.Join(c.folderOf(&c.paths["files"][0], c.env.Bind(unit, by[0])), path.Base(f.path))
		}
	}
}

// folderOf gives the folder that a path pattern begins with, under the names that
// the project has for it.
func (c *Call) folderOf(p *place, env *layout.Env) string {
	var given []string
	for _, name := range strings.Split(c.pathOf(p, env), "/") {
		if strings.ContainsAny(name, "*?<") {
			break
		}
		given = append(given, name)
	}
	return strings.Join(given, "/") + "/"
}

// usedElsewhere says whether a file outside every unit uses the shared one.
func (c *Call) usedElsewhere(at string) bool {
	if c.outside == nil {
		c.outside = map[string]bool{}
		others := slices.DeleteFunc(slices.Clone(c.everything()), func(f file) bool { return c.fits("users", f.path) })
		c.used(others, func(by file, to string, _ int) {
			c.outside[to] = c.outside[to] || to != by.path
		})
	}
	return c.outside[at]
}
