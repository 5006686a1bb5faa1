package reconcile

import (
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/names"
	"dicaxon/internal/placement"
	"dicaxon/internal/tree"
)

// draw adds what has a place only by its ending, or none of its own, though
// something else of this very name is wanted: a settings file among the scripts.
func (r *reconciler) draw() {
	wanted := map[string]int{}
	for i := range r.Gaps {
		g := &r.Gaps[i]
		if name, complete := g.Name(); complete && !g.Entry.Folder && !placement.IsMarker(name) && (r.single(name, g.Entry) || r.lacking(name) == 1) {
			for k := range g.Entry.Spellings {
				if spelling, complete := g.Entry.Spellings[k].Fill(g.Env); complete {
					wanted[spelling] = i
				}
			}
		}
	}
	narrow, units := r.narrow(), len(r.Units) > 0
	if len(wanted) == 0 && narrow == nil && !units {
		return
	}
	found := map[int][]stray{}
	var all []stray
	r.weak(r.Top, func(f *tree.Folder, i int) {
		s := stray{Stray: placement.Stray{Folder: f, Index: i}, drawn: true}
		if units && r.strange(f, f.Nodes[i].Name) {
			s.other = true
			all = append(all, s)
		} else if g, ok := wanted[f.Nodes[i].Name]; ok && r.Gaps[g].Folder != f && (r.Place(f, i).State == placement.Free || r.single(f.Nodes[i].Name, r.Gaps[g].Entry) || r.waitedFor(&s, g)) {
			found[g] = append(found[g], s)
		} else if narrow != nil && !(placement.ForTests(f.Path()) && isTest(f.Nodes[i].Name)) {
			name, waits := f.Nodes[i].Name, false
			narrow.All(name, false, func(e *layout.Entry) { waits = waits || r.fitsGap(e, name) })
			if waits {
				all = append(all, s)
			}
		}
	})
	for i := range r.Gaps {
		if len(found[i]) == 1 && r.alone(found[i][0].Node().Name) {
			r.strays = append(r.strays, found[i][0])
		}
	}
	r.strays = append(r.strays, all...)
}

// waitedFor says whether a text shows a file to be what a gap of its name waits for.
func (r *reconciler) waitedFor(s *stray, gap int) bool {
	e := r.Gaps[gap].Entry
	return e.Shows != nil && r.shows(s, e)
}

// strange says whether a name in a folder is one that belongs to a unit: to another
// than that of the folder, or to one that lies below it.
func (r *reconciler) strange(f *tree.Folder, name string) bool {
	here, _ := r.Folder(f)
	if here.State != placement.Placed {
		return false
	}
	if slices.ContainsFunc(here.Entry.Entries, func(e *layout.Entry) bool { return r.ofOther(f, name, e) }) {
		return true
	}
	above := false
	r.index.All(name, false, func(e *layout.Entry) {
		if !above && !e.CatchAll() && !e.OnlyEnding() && !e.Need.Banned() && e.Parent.Unit != "" && len(e.Spellings[0].Captures()) > 0 {
			above = r.above(f, name, e)
		}
	})
	return above
}

// ofOther says whether a name in a folder of one unit is, by the entry, one of another
// unit that there is.
func (r *reconciler) ofOther(f *tree.Folder, name string, e *layout.Entry) bool {
	_, env := r.Folder(f)
	if e.Folder || e.CatchAll() || e.OnlyEnding() {
		return false
	}
	if _, _, here := e.Match(name, env); here {
		return false
	}
	bound, _, ok := e.Match(name, nil)
	if !ok {
		return false
	}
	return slices.ContainsFunc(e.Spellings[0].Captures(), func(captured string) bool {
		mine, within := env.Get(captured)
		value, _ := bound.Get(captured)
		return within && !names.Same(mine, value) && slices.ContainsFunc(r.Units[captured], func(u placement.Unit) bool {
			known, _ := u.Env.Get(captured)
			return names.Same(known, value)
		})
	})
}

// above says whether a name in a folder is that of an entry in a unit somewhere below.
func (r *reconciler) above(f *tree.Folder, name string, e *layout.Entry) bool {
	bound, _, ok := e.Match(name, nil)
	value, captured := bound.Get(e.Parent.Unit)
	return ok && captured && slices.ContainsFunc(r.Units[e.Parent.Unit], func(u placement.Unit) bool {
		known, _ := u.Env.Get(e.Parent.Unit)
		return u.Entry == e.Parent && u.Folder != f && names.Same(known, value) && strings.HasPrefix(u.Folder.Path(), f.Path()) && u.Folder.Find(name) == nil
	})
}

// alone says whether nothing else of that name is anywhere: of several readmes,
// each is that of its folder.
func (r *reconciler) alone(name string) bool {
	n := 0
	r.Top.EachFile(func(_ *tree.Folder, f *tree.Node) {
		if !f.Ignored && f.Name == name {
			n++
		}
	})
	return n == 1
}

// narrow indexes the entries that say more of a name than its ending, where the
// folder that they are in is wanted and absent: a catch-all does not keep from it
// what belongs there. Nil where there is none.
func (r *reconciler) narrow() *layout.Index {
	var all []*layout.Entry
	for i := range r.Gaps {
		e := r.Gaps[i].Entry
		if !e.Folder {
			continue
		}
		for _, c := range e.Entries {
			if !c.Folder && c.Spellings[0].Exact == "" && !c.CatchAll() && !c.OnlyEnding() && !c.Need.Banned() && c.MadeBy == "" {
				all = append(all, c)
			}
		}
	}
	if all == nil {
		return nil
	}
	return layout.NewIndex(all)
}

// fitsGap says whether a name is one that the entry has in a folder that is wanted and absent:
// that of its own unit, where the name tells one.
func (r *reconciler) fitsGap(e *layout.Entry, name string) bool {
	return slices.ContainsFunc(r.Gaps, func(g placement.Gap) bool {
		_, _, fits := e.Match(name, g.Env)
		return g.Entry == e.Parent && fits
	})
}

// lacking counts the places that wait for something of that name.
func (r *reconciler) lacking(name string) int {
	n := 0
	for i := range r.Gaps {
		if called, complete := r.Gaps[i].Name(); complete && called == name {
			n++
		}
	}
	return n
}

// single says whether the layout has the name in one place only, and not once
// for each of several units.
func (r *reconciler) single(name string, e *layout.Entry) bool {
	n := 0
	r.index.Exactly(name, func(*layout.Entry) { n++ })
	for up := e.Parent; up != nil; up = up.Parent {
		if up.Unit != "" {
			return false
		}
	}
	return n == 1
}

// weak calls yield with every file whose place says little of what it is: one
// that an ending gave it, or that a name for any folder did.
func (r *reconciler) weak(f *tree.Folder, yield func(*tree.Folder, int)) {
	for i := range f.Nodes {
		n := &f.Nodes[i]
		place := r.Place(f, i)
		switch {
		case !r.Seen(f, i):
		case n.Folder != nil:
			if place.State == placement.Placed || place.State == placement.Passage {
				r.weak(n.Folder, yield)
			}
		case place.State == placement.Placed && (place.Entry.CatchAll() || place.Entry.OnlyEnding()), place.State == placement.Common, place.State == placement.Free:
			yield(f, i)
		}
	}
}

// loose adds what stands below one where anything may, though its name is a slip away from what the
// layout describes there and what is absent.
func (r *reconciler) loose(all []stray, f *tree.Folder) []stray {
	here, _ := r.Folder(f)
	var known []string // the names of files that are described here, once one is asked for
	for i := range f.Nodes {
		n := &f.Nodes[i]
		if !r.Seen(f, i) {
			continue
		}
		place := r.Place(f, i)
		open := place.State == placement.Free || place.State == placement.Placed && place.Entry.CatchAll()
		if n.Folder == nil && (open || place.State == placement.Placed && place.Entry.OnlyEnding()) {
			if known == nil {
				known = r.fileNames(f)
			}
			// Of very many files few are mistyped, and to weigh a slip takes long.
			open = slices.ContainsFunc(known, func(name string) bool { return names.Mistyped(n.Name, name) })
		}
		if open {
			s := stray{Stray: placement.Stray{Folder: f, Index: i}, drawn: true, loose: true}
			meant := r.slips(nil, &s)
			slip := len(meant) == 1 && sureSlip(n, &meant[0], place.State == placement.Free)
			if here.State == placement.Placed && (slip || place.State == placement.Free && n.Folder != nil && r.nearSibling(&s) != "") {
				all = append(all, s)
				continue
			}
		}
		if n.Folder != nil && place.State == placement.Passage && here.State == placement.Placed && r.onlyThrough(f, i) {
			all = append(all, stray{Stray: placement.Stray{Folder: f, Index: i}, drawn: true, loose: true})
			continue
		}
		if meant := r.deepSlip(f, n, place.Entry); place.State == placement.Placed && meant != nil {
			all = append(all, stray{Stray: placement.Stray{Folder: f, Index: i}, drawn: true, role: meant})
		}
		if n.Folder != nil && (place.State == placement.Placed || place.State == placement.Passage) {
			all = r.loose(all, n.Folder)
		}
	}
	return all
}

// fileNames lists the names of files that a layout gives in a folder, or that a unit still waits for
// there; never nil.
func (r *reconciler) fileNames(f *tree.Folder) []string {
	all := []string{}
	here, env := r.Folder(f)
	if here.State == placement.Placed {
		for _, c := range here.Entry.Entries {
			for i := range c.Spellings {
				if name, complete := c.Spellings[i].Fill(env); complete && !c.Folder {
					all = append(all, name)
				}
			}
		}
	}
	for _, i := range r.gapsIn[f] {
		if name, complete := r.Gaps[i].Name(); complete && !r.Gaps[i].Entry.Folder {
			all = append(all, name)
		}
	}
	return all
}

// sureSlip says whether nobody can have meant a name as it stands, where anything may: another word
// is a group or a module of its own, and what is mistyped is no word.
func sureSlip(n *tree.Node, meant *home, free bool) bool {
	want := strings.TrimSuffix(lastName(meant.path), "/")
	switch {
	case n.Folder != nil && n.Folder.Empty():
		return false
	case n.Folder != nil && (free || meant.slip <= names.Number):
		return true
	}
	return meant.slip == names.Typing && names.Mistyped(n.Name, want) && !slices.EqualFunc(names.Words(n.Name), names.Words(want), names.SameInNumber)
}

// deepSlip gives the home of a file that an entry for any depth describes by no more than its ending,
// where its name is mistyped and another such entry has the very name that is absent beside it; nil
// otherwise.
func (r *reconciler) deepSlip(f *tree.Folder, n *tree.Node, e *layout.Entry) *home {
	if n.Folder != nil || e == nil || !e.Deep || e.Parent == nil || !e.CatchAll() && !e.OnlyEnding() {
		return nil
	}
	for _, c := range e.Parent.Entries {
		if !c.Deep || c.Folder || c.MadeBy != "" || c.Need.Banned() {
			continue
		}
		for i := range c.Spellings {
			if name := c.Spellings[i].Exact; name != "" && names.Mistyped(n.Name, name) && f.Find(name) == nil {
				return &home{kind: finding.Misnamed, entry: c, env: r.around(&stray{Stray: placement.Stray{Folder: f}}), slip: names.Typing, evidence: Near, path: pathIn(f, name, false)}
			}
		}
	}
	return nil
}
