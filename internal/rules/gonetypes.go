package rules

import (
	"maps"
	"path"
	"slices"

	"dicaxon/internal/finding"
	"dicaxon/internal/names"
)

// tellGoneTypes tells of types that files still use and nothing declares, where git knows a file that was
// called as one, in the languages that find a type without an import: as one cause for each type.
func (g *givers) tellGoneTypes() {
	if g.Gone == nil {
		return
	}
	gone, byName := g.Gone(), map[string][]string{}
	for at := range gone {
		if name := names.BeforeDot(path.Base(at)); findsTypes(at) && !g.declaresNow(name, at) {
			byName[name] = append(byName[name], at)
		}
	}
	if len(byName) == 0 {
		return
	}
	uses := map[string][]use{} // of what each that is gone declared
	g.Graph.Look().Each(func(from string) {
		if !findsTypes(from) || g.lends(from) {
			return
		}
		said := g.Graph.Noted(from)
		for _, u := range firsts(said.Uses.Unbound) {
			for _, at := range byName[u.Name] {
				if kin(path.Ext(from), path.Ext(at)) && !taken(said, u.Name) {
					uses[at] = append(uses[at], use{from, u.Span})
				}
			}
		}
	})
	for _, at := range slices.Sorted(maps.Keys(uses)) {
		g.tellGoneType(at, gone[at], uses[at])
	}
}

// tellGoneType tells of the uses of a type whose file is gone, or is elsewhere now.
func (g *givers) tellGoneType(at, now string, all []use) {
	all = slices.DeleteFunc(all, func(u use) bool { return g.toldAt(u.at, u.span) })
	k := slices.IndexFunc(g.findings, func(f finding.Finding) bool { return f.Kind == finding.Dangling && f.About == at })
	if k < 0 && len(all) > 0 {
		where := "gone"
		if now != "" {
			where = now + " now"
		}
		f := g.atName(all[0].at, all[0].span, "", "it uses %s, which nothing declares: %s is %s", names.BeforeDot(path.Base(at)), at, where)
		f.About, f.Sought = at, append(f.Sought, g.Top.Path()+at)
		k, all = len(g.findings)-1, all[1:]
	}
	for _, u := range all {
		g.findings[k].AlsoAt(g.Top.Path() + u.at)
	}
}

// declaresNow says whether a file of the same kind declares a type of that name.
func (g *givers) declaresNow(name, at string) bool {
	return slices.ContainsFunc(g.typesOf()[name], func(f string) bool { return kin(path.Ext(f), path.Ext(at)) })
}
