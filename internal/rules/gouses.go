package rules

import (
	"maps"
	"path"
	"slices"

	"dicaxon/internal/finding"
	"dicaxon/internal/refs"
)

// A goUse is an import of a package of the project by a file that does not say its name.
type goUse struct {
	from   string
	ref    refs.Ref
	called string // as the file says instead, "" where it says nothing of the kind
}

// tellUnused tells of packages of the project's own that a file imports and does not
// use by the name that they have: it does not compile (the Go specification, "Import
// declarations"). Another qualifier there is likely an old name. Where everybody calls a
// package as its folder is called, its own line is what is wrong.
func (c *goPackages) tellUnused() {
	odd, known := map[string][]goUse{}, map[string]bool{}
	for _, folder := range slices.Sorted(maps.Keys(c.all)) {
		for _, o := range c.all[folder] {
			c.usesOf(o.path, odd, known)
		}
	}
	for _, folder := range slices.Sorted(maps.Keys(odd)) {
		all, name := odd[folder], path.Base(folder)
		if !known[folder] && !slices.ContainsFunc(all, func(u goUse) bool { return u.called != name }) {
			c.tellMiscalled(folder, all)
			continue
		}
		for _, u := range all {
			f := c.atRef(u.from, u.ref, &finding.Place{Path: folder + "/"}, "it imports %s and never says %s., which is what that package is called", u.ref.Name, c.most(folder))
			f.Kind = finding.Dangling
			if u.called != "" {
				f.Message = "it imports " + u.ref.Name + " and says " + u.called + "., but that package is called " + c.most(folder)
			}
		}
	}
}

// usesOf notes the packages of the project that a file imports by their folders: those whose
// name it does not say, and those whose name it does.
func (c *goPackages) usesOf(at string, odd map[string][]goUse, known map[string]bool) {
	said := c.refsOf(at)
	if said.Broken != "" || said.Open {
		return // the rest is not known
	}
	for _, r := range said.Of(refs.Import) {
		to := c.targets(at, r)
		if r.Value != "" || len(to) != 1 || len(c.all[to[0]]) == 0 {
			continue
		}
		name := c.most(to[0])
		if name == "main" || len(c.minority(to[0])) > 0 || said.Words.Has(name) {
			known[to[0]] = true
			continue
		}
		use := goUse{from: at, ref: r}
		if last := path.Base(r.Name); last != name && said.Words.Has(last) {
			use.called = last
		}
		odd[to[0]] = append(odd[to[0]], use)
	}
}

// tellMiscalled tells of the package line of a folder by whose name everybody calls it.
func (c *goPackages) tellMiscalled(folder string, uses []goUse) {
	first := c.all[folder][0]
	f := c.atRef(first.path, first.said, &finding.Place{Path: folder + "/"}, "it says package %s, but its folder is %s, and so is it called where it is imported", first.said.Name, path.Base(folder))
	for _, u := range uses {
		f.AlsoAt(c.Top.Path() + u.from)
	}
	for _, o := range c.all[folder] {
		f.Fix = append(f.Fix, c.called(o, path.Base(folder))...)
	}
	if len(f.Fix) < len(c.all[folder]) {
		f.Fix = nil
	}
}
