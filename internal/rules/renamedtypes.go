package rules

import (
	"maps"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/names"
	"dicaxon/internal/refs"
)

// tellRenamedTypes tells of a file whose first type got another name than the file: nothing else uses that
// name, and others still use the one of the file, which nothing declares.
func (g *givers) tellRenamedTypes() {
	renamed := g.calledOtherwise()
	if len(renamed) == 0 {
		return
	}
	all := map[string]*nearType{}
	g.Graph.Look().Each(func(at string) {
		if !namesItsType(at) || g.lends(at) {
			return
		}
		for _, u := range firsts(g.Graph.Noted(at).Uses.Unbound) {
			declared, ok := renamed[u.Name]
			if !ok || at == declared || !kin(path.Ext(at), path.Ext(declared)) || isGiven(at, u.Name) || taken(g.Graph.Noted(at), u.Name) {
				continue
			}
			if all[declared] == nil {
				all[declared] = &nearType{name: u.Name, meant: g.refsOf(declared).Of(refs.Type)[0].Name}
			}
			all[declared].uses = append(all[declared].uses, use{at, u.Span})
		}
	})
	for _, at := range slices.Sorted(maps.Keys(all)) {
		n := all[at]
		if !g.usesType(n.meant, at) && !g.bindsAnywhere(n.name, func(f string) bool { return kin(path.Ext(f), path.Ext(at)) }) {
			g.tellDeclared(n, at)
		}
	}
}

// namesItsType says whether files of a language are called after the type that they declare, by custom.
func namesItsType(at string) bool {
	return slices.Contains([]string{".swift", ".kt", ".dart"}, path.Ext(at))
}

// calledOtherwise gives the files whose first type is not the one that they are called after, where nothing
// declares that, by its name. A file App.swift with a HarbourApp in it is called after what that is.
func (g *givers) calledOtherwise() map[string]string {
	found := map[string]string{}
	g.Graph.Look().Each(func(at string) {
		if !namesItsType(at) || g.lends(at) || g.Graph.Noted(at).Broken != "" {
			return
		}
		wanted := names.BeforeDot(path.Base(at))
		if path.Ext(at) == ".dart" {
			wanted = names.To(names.Pascal, wanted)
		}
		all := g.refsOf(at).Of(refs.Type)
		if len(all) > 0 && len(g.typesOf()[wanted]) == 0 && !strings.HasSuffix(all[0].Name, wanted) {
			found[wanted] = at
		}
	})
	return found
}
