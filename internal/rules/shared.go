package rules

import (
	"maps"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/names"
)

var shared = &Rule{
	Name: "shared", Kind: finding.Misplaced, Level: finding.Warning,
	Doc: "A file that several units use lies in the shared folder, and one that a single unit uses lies with it.",
	Example: `- rule: shared
  unit: feature
  local: "src/features/<feature>/components/**"
  shared: "src/components/**"
  users: "src/features/<feature>/**"`,
	Options: []Option{
		{"unit", Text, true, "the captured name that tells one unit from another", false},
		{"local", Paths, true, "the files that belong to one unit", false},
		{"shared", Paths, true, "the files that belong to all", false},
		{"users", Paths, true, "the files of units that use them", false},
	},
	Run: runShared,
}

// uses notes which units use a file, and one place of each.
type uses map[string]finding.Place

func runShared(c *Call) {
	unit := c.text("unit")
	used := map[string]uses{}
	units := map[string]bool{}
	users := c.files("users")
	c.readAhead(users)
	for _, f := range users {
		value, ok := f.env.Get(unit)
		if !ok {
			continue
		}
		units[value] = true
		for _, r := range c.refsOf(f.path).Refs {
			for _, to := range c.targets(f.path, r) {
				if used[to] == nil {
					used[to] = uses{}
				}
				if _, known := used[to][value]; !known {
					used[to][value] = finding.Place{Path: f.path, Line: r.Line}
				}
			}
		}
	}
	for _, f := range c.files("local") {
		own, _ := f.env.Get(unit)
		for _, value := range slices.Sorted(maps.Keys(used[f.path])) {
			if at := used[f.path][value]; !names.Same(value, own) {
				found := c.report(f.path, 0, 0, &at, "%s uses it too; what several use belongs in %s", value, c.folderOf(&c.paths["shared"][0], c.env))
				found.Home = c.Top.Path() + path.Join(c.folderOf(&c.paths["shared"][0], c.env), path.Base(f.path))
				break
			}
		}
	}
	if len(units) < 2 {
		return // whatever is shared, there is nobody else to use it yet
	}
	for _, f := range c.files("shared") {
		if by := slices.Sorted(maps.Keys(used[f.path])); len(by) == 1 && !c.usedElsewhere(f.path) {
			at := used[f.path][by[0]]
			found := c.report(f.path, 0, 0, &at, "only %s uses it", by[0])
			found.Level = finding.Note
			found.Home = c.Top.Path() + path.Join(c.folderOf(&c.paths["local"][0], c.env.Bind(unit, by[0])), path.Base(f.path))
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
		for _, f := range c.everything() {
			if c.fits("users", f.path) {
				continue
			}
			for _, r := range c.refsOf(f.path).Refs {
				for _, to := range c.targets(f.path, r) {
					c.outside[to] = c.outside[to] || to != f.path
				}
			}
		}
	}
	return c.outside[at]
}
