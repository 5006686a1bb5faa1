package match

import (
	"slices"
	"strings"

	"dicaxon/internal/layout"
	"dicaxon/internal/names"
	"dicaxon/internal/tree"
)

// A target is a folder, there or not yet, that could take a stray.
type target struct {
	path   string
	folder *tree.Folder // nil where it is not there yet
	env    *layout.Env
	entry  *layout.Entry // the entry that describes the stray in it
	name   string
	gaps   []int // folders on the way that are wanted
	leaves bool  // it leads out of the unit that the stray stands in
	named  bool  // the stray's text names the unit
	makes  int   // how many folders on the way would have to be made
}

// mostTargets bounds how many equal places are looked at.
const mostTargets = 64

// walk gives the folders that could hold name as entry h, starting from the
// nearest folder around the stray from which the entry can be reached.
func (r *reconciler) walk(s *stray, h *layout.Entry, name string) []target {
	var chain []*layout.Entry // from the entry below the root to h's parent
	into := h.Parent
	if h.Folder && s.node().Folder == nil {
		into = h // it goes into that folder, under whichever entry
	}
	for e := into; e.Parent != nil; e = e.Parent {
		chain = append([]*layout.Entry{e}, chain...)
	}
	leaves := false
	for start := s.folder; start != nil; start = start.Parent {
		here := r.at(start)
		if here.place.State != Placed {
			continue
		}
		depth := 0
		if here.place.Entry.Parent != nil {
			if depth = slices.Index(chain, here.place.Entry) + 1; depth == 0 {
				leaves = leaves || here.place.Entry.Unit != ""
				continue
			}
		}
		if all := r.reach(s, start, chain[depth:], target{entry: h, name: name, leaves: leaves}); len(all) > 0 || start == r.in.Top {
			return all
		}
		// Its own unit has one already; it may be another's.
		leaves = leaves || here.place.Entry.Unit != ""
	}
	return nil
}

// reach gives the folders at the end of a chain of entries below start, where
// the target's name is free.
func (r *reconciler) reach(s *stray, start *tree.Folder, chain []*layout.Entry, t target) []target {
	t.path, t.folder, t.env = start.Path(), start, r.at(start).env
	if bound, _, ok := t.entry.Match(t.name, t.env); ok {
		t.env = bound
	}
	targets := []target{t}
	for _, c := range chain {
		var next []target
		for _, t := range targets {
			next = r.step(next, t, c)
		}
		targets = next
	}
	return slices.DeleteFunc(targets, func(t target) bool {
		_, _, ok := t.entry.Match(t.name, t.env)
		return !ok && s.to == nil || t.folder == s.folder || t.folder != nil && t.folder.Find(t.name) != nil
	})
}

// step goes from a target into the folders of entry c below it.
func (r *reconciler) step(all []target, t target, c *layout.Entry) []target {
	name, complete := c.Name(t.env)
	if complete {
		to := t
		if t.folder != nil {
			to.folder = nil
			for i := range c.Spellings {
				spelling, _ := c.Spellings[i].Fill(t.env)
				if n := t.folder.Find(spelling); n != nil {
					if n.Folder == nil || n.Folder.Unread {
						return all
					}
					name, to.folder = spelling, n.Folder
					break
				}
			}
		}
		to.path += name + "/"
		if to.folder == nil {
			to.makes++
		}
		if i, wanted := r.gapAt[to.path]; wanted {
			to.gaps = append(to.gaps[:len(to.gaps):len(to.gaps)], i)
		}
		return append(all, to)
	}
	if t.folder == nil || c.Deep {
		return all
	}
	nodes := r.at(t.folder).nodes
	for i := range nodes {
		if nodes[i].State != Placed || nodes[i].Entry != c || len(all) >= mostTargets {
			continue
		}
		f := t.folder.Nodes[i].Folder
		if f == nil || f.Unread {
			continue
		}
		env := r.at(f).env
		if !agree(env, t.env) {
			continue
		}
		to := t
		to.path, to.folder, to.env = f.Path(), f, join(env, t.env)
		all = append(all, to)
	}
	return all
}

// agree says whether no name is captured differently in a and b.
func agree(a, b *layout.Env) bool {
	for ; b != nil; b = b.Next {
		if value, ok := a.Get(b.Name); ok && !names.Same(value, b.Value) {
			return false
		}
	}
	return true
}

// join gives a with the names of b that it lacks.
func join(a, b *layout.Env) *layout.Env {
	for ; b != nil; b = b.Next {
		if _, ok := a.Get(b.Name); !ok {
			a = a.Bind(b.Name, b.Value)
		}
	}
	return a
}

// steps counts the folders between two folders.
func steps(a, b string) int {
	as, bs := strings.SplitAfter(a, "/"), strings.SplitAfter(b, "/")
	same := 0
	for same < len(as) && same < len(bs) && as[same] == bs[same] && as[same] != "" {
		same++
	}
	return len(as) + len(bs) - 2 - 2*same
}
