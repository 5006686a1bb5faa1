package reconcile

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/names"
	"dicaxon/internal/placement"
	"dicaxon/internal/tree"
)

// regrouped finds where a file belongs that stands by what it is, in a layout that has a folder for
// each unit and in it one for each kind: app/actions/berths/index.rb in slices/berths/actions/, and
// routers/berths.py in berths/router.py. The words of its path are those of its home, in another order.
func (r *reconciler) regrouped(all []home, s *stray) []home {
	// What has a place is only looked at where a folder of its kind was taken for a unit.
	if !r.Named || s.Node().Folder != nil || s.drawn != r.inUnit(s.Folder) || s.drawn && !r.Bring {
		return all
	}
	for _, e := range r.inUnits() {
		base, rest := r.commonBase(s, e)
		if base == nil {
			continue
		}
		g := regrouping{reconciler: r, stray: s, entry: e, base: base, rest: rest}
		found := g.paths()
		if len(found) > 0 && e.Shows != nil && !r.shows(s, e) {
			continue
		}
		for _, at := range found {
			if !slices.ContainsFunc(all, func(h home) bool { return h.path == at.path }) {
				all = append(all, at)
			}
		}
	}
	return all
}

// inUnit says whether a folder lies in one of a unit.
func (r *reconciler) inUnit(f *tree.Folder) bool {
	for ; f != r.Top && f != nil; f = f.Parent {
		if place, _ := r.Folder(f); place.State == placement.Placed && place.Entry.Unit != "" {
			return true
		}
	}
	return false
}

// inUnits lists the entries of files that lie in a folder of a unit.
func (r *reconciler) inUnits() []*layout.Entry {
	if r.unitFiles == nil {
		r.unitFiles = []*layout.Entry{}
		for _, e := range r.Layout.Entries {
			if e.Folder || e.Need.Banned() || e.MadeBy != "" || e.Parent == nil || placement.IsMarker(e.Spellings[0].Exact) {
				continue
			}
			if slices.ContainsFunc(e.Chain(), ofUnits) {
				r.unitFiles = append(r.unitFiles, e)
			}
		}
	}
	return r.unitFiles
}

// ofUnits says whether an entry is for the folders of units, one each.
func ofUnits(e *layout.Entry) bool { return e.Unit != "" && e.Spellings[0].Exact == "" }

// commonBase gives the deepest folder around a stray that lies on the way to an entry, above its
// units, and what is left of the way from there.
func (r *reconciler) commonBase(s *stray, e *layout.Entry) (*tree.Folder, []*layout.Entry) {
	chain := e.Chain()
	for f := s.Folder; f != nil; f = f.Parent {
		here, _ := r.Folder(f)
		if here.State == placement.Placed {
			if f == r.Top {
				return f, chain
			}
			if i := slices.Index(chain, here.Entry); i >= 0 && !slices.ContainsFunc(chain[:i+1], ofUnits) {
				return f, chain[i+1:]
			}
		}
		if f == r.Top {
			break
		}
	}
	return nil, nil
}

// A regrouping is one stray and one entry in a unit where it may belong.
type regrouping struct {
	*reconciler
	stray *stray
	entry *layout.Entry
	base  *tree.Folder
	rest  []*layout.Entry // the folders from the base to the entry
	whole bool            // the kinds of all units stand in a folder of their own, such as app/
}

// paths gives the homes that the words of the stray's path make, none where some of them say
// nothing of it.
func (g *regrouping) paths() []home {
	name, e := g.stray.Node().Name, g.entry
	_, env := g.Folder(g.base)
	words, kinds := g.words(), 0
	for _, c := range g.rest {
		if c.Spellings[0].Exact == "" {
			continue
		}
		i := slices.IndexFunc(words, c.Called)
		switch {
		case i >= 0:
			words = slices.Delete(words, i, i+1)
			kinds++
		case !c.HoldsUnits():
			return nil // a folder for a kind that the stray does not speak of
		}
	}
	switch {
	case e.Spellings[0].Exact != "":
		return g.renamed(words, env)
	case kinds == 0 || !g.whole:
		return nil
	}
	bound, _, fits := e.Match(name, env)
	switch {
	case !fits:
		return nil
	case len(e.Spellings[0].Captures()) > 0:
		return g.at(bound, words, name)
	}
	var all []home
	first := g.first(env)
	if len(words) > 0 && (first == nil || !g.isThing(words[0])) {
		all = g.at(g.bind(env, words[0]), words[1:], name)
	}
	if first != nil && (len(words) < 2 || g.isThing(words[0])) {
		all = append(all, g.at(first, words, name)...)
	}
	return all
}

// isThing says whether a folder that stands in one of a kind stands in a folder of another such, too: things are grouped
// by those who use them, as in actions/api/berths/, and are no units themselves.
func (g *regrouping) isThing(name string) bool {
	of := g.stray.Folder
	for of.Name != name && of != g.base {
		of = of.Parent
	}
	if of == g.base || of.Parent == g.base || of.Parent.Parent == nil {
		return false
	}
	return folderIn(of.Parent.Parent, func(kind *tree.Folder) bool {
		return folderIn(kind, func(unit *tree.Folder) bool {
			return unit.Name != name && folderIn(unit, func(f *tree.Folder) bool { return f.Name == name })
		})
	})
}

// folderIn says whether a folder that fits lies in a folder.
func folderIn(in *tree.Folder, fits func(*tree.Folder) bool) bool {
	return slices.ContainsFunc(in.Nodes, func(n tree.Node) bool { return n.Folder != nil && fits(n.Folder) })
}

// words lists the names of the folders between the base and the stray that the layout does not
// look for where they stand.
func (g *regrouping) words() []string {
	var all []string
	for f := g.stray.Folder; f != g.base; f = f.Parent {
		all = append(all, f.Name)
	}
	slices.Reverse(all)
	if len(all) > 1 && !slices.ContainsFunc(g.rest, func(c *layout.Entry) bool { return c.Called(all[0]) }) {
		if around := g.base.Find(all[0]); around != nil && around.Folder != nil {
			place, _ := g.Folder(around.Folder)
			if g.whole = place.State == placement.Placed && slices.ContainsFunc(place.Entry.Entries, func(c *layout.Entry) bool { return c.Called(all[1]) }); g.whole {
				all = all[1:]
			}
		}
	}
	return all
}

// renamed gives the home of a file that is called after its unit, in a folder of its kind, where the
// unit's own file of that kind is called after the kind.
func (g *regrouping) renamed(words []string, env *layout.Env) []home {
	name := g.stray.Node().Name
	if len(words) != 1 || strings.HasPrefix(name, "_") || slices.ContainsFunc(g.entry.Parent.Entries, func(c *layout.Entry) bool { return c.Called(words[0]) }) {
		return nil
	}
	for i := range g.entry.Spellings {
		leaf := g.entry.Spellings[i].Exact
		if leaf != "" && path.Ext(leaf) == path.Ext(name) && leaf != name && names.SameInNumber(names.BeforeDot(leaf), words[0]) {
			return g.at(g.bind(env, names.BeforeDot(name)), nil, leaf)
		}
	}
	return nil
}

// bind gives a name to every unit on the way that has none.
func (g *regrouping) bind(env *layout.Env, value string) *layout.Env {
	for _, c := range g.rest {
		for _, captured := range c.Spellings[0].Captures() {
			if _, known := env.Get(captured); !known {
				env = env.Bind(captured, names.To(c.ShapeOf(captured), value))
			}
		}
	}
	return env
}

// first binds the units on the way as a new project would call the first of them, nil where they
// are there already, or nothing says how.
func (g *regrouping) first(env *layout.Env) *layout.Env {
	for _, c := range g.rest {
		for _, captured := range c.Spellings[0].Captures() {
			if _, known := env.Get(captured); known {
				continue
			}
			ask := g.Layout.Ask(captured)
			if ask == nil || len(g.Units[captured]) > 0 {
				return nil
			}
			env = env.Bind(captured, ask.Default)
		}
	}
	return env
}

// at makes the home below the folders of the way, nil where one of them has no name.
func (g *regrouping) at(env *layout.Env, below []string, name string) []home {
	if len(below) > 0 && !g.entry.Deep {
		return nil
	}
	to, makes, in := g.base.Path(), 0, g.base
	for _, c := range g.rest {
		called, whole := c.Name(env)
		if _, _, fits := c.Match(called, env); !whole || !fits {
			return nil
		}
		var next *tree.Folder
		for i := range c.Spellings {
			if spelt, whole := c.Spellings[i].Fill(env); whole && in != nil {
				if n := in.Find(spelt); n != nil && n.Folder != nil {
					called, next = spelt, n.Folder
					break
				}
			}
		}
		to, makes, in = to+called+"/", makes+truth(next == nil), next
	}
	to += path.Join(append(below, name)...)
	if placement.ForTests(parentPath(to)) != placement.ForTests(g.stray.Folder.Path()) || g.Repository.Top.At(to) != nil || strings.Contains(to, "<") {
		return nil
	}
	return []home{{kind: finding.Misplaced, path: to, entry: g.entry, env: env, evidence: Kind, slip: names.Apart, makes: makes,
		steps: steps(g.stray.Folder.Path(), parentPath(to)), says: "the words of its path say so"}}
}
