package rules

import (
	"maps"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
)

// importsTypes says whether the language of a file has types imported, one by one or by their file;
// findsTypes whether one finds those of its own package or namespace without; hasTypes whether its
// reader tells the types that it uses.
func importsTypes(at string) bool {
	return slices.Contains([]string{".java", ".kt", ".php", ".cs", ".dart"}, path.Ext(at))
}

func findsTypes(at string) bool {
	return slices.Contains([]string{".java", ".kt", ".php", ".cs", ".swift"}, path.Ext(at))
}

func hasTypes(at string) bool { return importsTypes(at) || findsTypes(at) || path.Ext(at) == ".rs" }

// A nearType is a type that nothing declares, and nearly the name of one that the project does.
type nearType struct {
	name, meant string
	uses        []use
}

// A use is where a file first says a name.
type use struct {
	at   string
	span refs.Span
}

// tellNearTypes tells of types that nothing in the project declares and that are a slip of the fingers
// away from one that it does: where several files use that, and nobody the one that is declared, it is
// the declaration that is mistyped.
func (g *givers) tellNearTypes() {
	for _, n := range g.nearTypes() {
		declared := g.typesOf()[n.meant][0]
		if len(n.uses) > 1 && !g.usesType(n.meant, declared) {
			g.tellDeclared(n, declared)
			continue
		}
		for _, u := range n.uses {
			if g.toldAt(u.at, u.span) {
				continue
			}
			f := g.atName(u.at, u.span, declared, "it uses %s, which nothing here declares; did it mean %s?", n.name, n.meant)
			f.About = n.name
			for _, i := range lang.Words(g.Graph.Code(u.at), n.name) {
				f.Fix = append(f.Fix, g.edit(u.at, lang.At(i, i+len(n.name)), n.meant))
			}
		}
	}
}

// nearTypes lists those types, in the order in which they are met.
func (g *givers) nearTypes() []*nearType {
	var all []*nearType
	known := map[string]*nearType{} // nil for one that is none
	types := byFirst(maps.Keys(g.typesOf()))
	g.Graph.Look().Each(func(at string) {
		if !hasTypes(at) || g.lends(at) || g.fits("except", at) || g.Graph.Noted(at).Broken != "" {
			return
		}
		for _, u := range firsts(g.Graph.Noted(at).Uses.Unbound) {
			key := u.Name + path.Ext(at)
			n, met := known[key]
			if !met && len(u.Name) > 3 {
				n = g.nearTypeOf(at, u.Name, types[u.Name[0]])
				if known[key] = n; n != nil {
					all = append(all, n)
				}
			}
			if n != nil && !taken(g.Graph.Noted(at), u.Name) {
				n.uses = append(n.uses, use{at, u.Span})
			}
		}
	})
	return slices.DeleteFunc(all, func(n *nearType) bool { return len(n.uses) == 0 })
}

// taken says whether an import of a file has a name as its last: what that leads to is told there.
func taken(said *refs.File, name string) bool {
	last := func(of string) bool {
		rest, ok := strings.CutSuffix(of, name)
		return ok && (rest == "" || !lang.WordByte(rest[len(rest)-1]))
	}
	return slices.ContainsFunc(said.Of(refs.Import), func(r refs.Ref) bool { return r.Value != "trait" && (r.Value == name || last(r.Name)) }) ||
		slices.ContainsFunc(said.Uses.Members, func(m lang.Member) bool { return m.Name == name })
}

// nearTypeOf finds the type of the project that a name in a file likely means, nil where something
// declares or imports that name.
func (g *givers) nearTypeOf(at, name string, types []string) *nearType {
	ofKin := func(f string) bool { return kin(path.Ext(f), path.Ext(at)) }
	if slices.ContainsFunc(g.typesOf()[name], ofKin) || isGiven(at, name) {
		return nil
	}
	meant := only(types, func(one string) bool {
		return names.MistypedWord(name, one) && slices.ContainsFunc(g.typesOf()[one], ofKin)
	})
	// A short name has a neighbour that is a word, too, as From has Form, unless the file is called as it.
	if len(name) < 5 && meant != "" && !names.Same(names.Title(names.BeforeDot(path.Base(g.typesOf()[meant][0]))), name) {
		return nil
	}
	if meant == "" || g.bindsAnywhere(name, ofKin) {
		return nil
	}
	return &nearType{name: name, meant: meant}
}

// binds finds the names that a text of such a language declares: of a type, in whatever way, and of
// what is called like one, a method or a case.
var binds = lazy.New(`\b(?:class|interface|object|enum|record|trait|struct|union|protocol|actor|delegate|associatedtype|typealias|typedef|mixin|case|func?|fn|function|mod|type|as)\s+(\w+)|\b(\w+)[?\])>]*\s+(\w+)\s*(?:<[\w, ]+>)?\([^;\n]*\)?\s*(?:\{|=>|$)`)

// noTypes stand before a name that is no declaration of it.
var noTypes = lang.SetOf("new return throw await yield in is not and or else case when extends implements with on by override public private protected internal static const final factory")

// bindsAnywhere says whether some file declares a name, in whatever way, or imports it from others.
func (g *givers) bindsAnywhere(name string, ofKin func(string) bool) (found bool) {
	g.Graph.Look().Each(func(at string) {
		if found || !ofKin(at) || !lang.HasWord(g.Graph.Code(at), name) {
			return
		}
		for _, m := range binds.Get().FindAllSubmatch(g.Graph.Code(at), -1) {
			found = found || string(m[1]) == name || string(m[3]) == name && !noTypes()[string(m[2])]
		}
		found = found || taken(g.refsOf(at), name) && !slices.ContainsFunc(g.refsOf(at).Of(refs.Import), func(r refs.Ref) bool {
			return strings.HasSuffix(r.Name, name) && len(g.Graph.Resolve(at, r)) > 0
		})
	})
	return found
}

// usesType says whether a file other than the one that declares a type uses it.
func (g *givers) usesType(name, declared string) (found bool) {
	g.Graph.Look().Each(func(at string) {
		found = found || at != declared && kin(path.Ext(at), path.Ext(declared)) && lang.HasWord(g.Graph.Code(at), name)
	})
	return found
}

// tellDeclared tells of a declaration that nobody uses, where others use nearly its name.
func (g *givers) tellDeclared(n *nearType, declared string) {
	said := g.refsOf(declared).Of(refs.Type)
	i := slices.IndexFunc(said, func(r refs.Ref) bool { return r.Name == n.meant })
	f := g.atRef(declared, said[i], &finding.Place{Path: n.uses[0].at}, "it declares %s, which nothing uses; did it mean %s, which nothing declares, and which %s uses?", n.meant, n.name, g.Top.Path()+n.uses[0].at)
	f.About, f.OfMove = n.meant, true
	for _, u := range n.uses[1:] {
		f.AlsoAt(g.Top.Path() + u.at)
	}
	f.Fix = g.wordsAs(declared, n.meant, strings.Clone(n.name))
}
