package rules

import (
	"maps"
	"path"
	"slices"

	"dicaxon/internal/finding"
	"dicaxon/internal/names"
	"dicaxon/internal/refs/lang"
)

// tellGoneTypes tells of types that files still use and nothing declares, where git knows a file that was
// called as one, in the languages that find a type without an import: as one cause for each type.
func (g *givers) tellGoneTypes() {
	if g.Gone == nil {
		return
	}
	gone := g.Gone()
	for _, at := range slices.Sorted(maps.Keys(gone)) {
		name := names.BeforeDot(path.Base(at))
		if !hasTypes(at) || path.Ext(at) == ".rs" || path.Ext(at) == ".dart" || g.declaresNow(name, at) {
			continue
		}
		g.Graph.Look().Each(func(from string) {
			if !kin(path.Ext(from), path.Ext(at)) || g.lends(from) || taken(g.Graph.Noted(from), name) {
				return
			}
			unbound := firsts(g.Graph.Noted(from).Uses.Unbound)
			i := slices.IndexFunc(unbound, func(u lang.Quoted) bool { return u.Name == name })
			if i < 0 || g.toldAt(from, unbound[i].Span) {
				return
			}
			for k := range g.findings {
				if f := &g.findings[k]; f.Kind == finding.Dangling && f.About == at {
					f.AlsoAt(g.Top.Path() + from)
					return
				}
			}
			f := g.atName(from, unbound[i].Span, "", "it uses %s, which nothing declares: %s is gone", name, at)
			if now := gone[at]; now != "" {
				f.Message = "it uses " + name + ", which nothing declares: " + at + " is " + now + " now"
			}
			f.About, f.Sought = at, append(f.Sought, g.Top.Path()+at)
		})
	}
}

// declaresNow says whether a file of the same kind declares a type of that name.
func (g *givers) declaresNow(name, at string) bool {
	return slices.ContainsFunc(g.typesOf()[name], func(f string) bool { return kin(path.Ext(f), path.Ext(at)) })
}
