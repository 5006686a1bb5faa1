package placement

import (
	"slices"

	"dicaxon/internal/layout"
	"dicaxon/internal/tree"
)

// A Fit says how well the contents of a folder suit an entry.
type Fit struct {
	Nodes, Fits  int // nodes of version control, and those that an entry describes
	Strong       int // of those, the ones described by more than an ending
	Musts, Found int // direct entries that must be there, and those that are
	Open         bool
}

// FitOf looks one level into the folder.
func (p *Placement) FitOf(f *tree.Folder, e *layout.Entry, env *layout.Env) Fit {
	var t Fit
	t.Open = len(e.Entries) == 0
	if t.Open {
		return t
	}
	for _, c := range e.Entries {
		if c.Need == layout.Must && !c.Deep {
			t.Musts++
			if Stands(f, c, env) {
				t.Found++
			}
		}
	}
	for i := range f.Nodes {
		n := &f.Nodes[i]
		// What may stand anywhere says nothing.
		if n.Ignored || p.anyDepth(n.Name, n.Kind == tree.IsFolder) != nil && e.Scope.Exact(n.Name, n.Folder != nil) == nil {
			continue
		}
		t.Nodes++
		fits, strong := p.suitsIn(n, e.Scope, env)
		t.Fits += fits
		t.Strong += strong
	}
	return t
}

// Stands says whether the folder has the entry, whose name is settled, under
// any spelling.
func Stands(f *tree.Folder, c *layout.Entry, env *layout.Env) bool {
	return slices.ContainsFunc(c.Spellings, func(p layout.Pattern) bool {
		name, complete := p.Fill(env)
		return complete && (f.Find(name) != nil || p.Rewrites() && slices.ContainsFunc(f.Nodes, func(n tree.Node) bool {
			_, fits := p.Match(n.Name, env)
			return fits && (n.Folder != nil) == c.Folder
		}))
	})
}

// suitsIn says, as 0 or 1, whether a name and, where the name can be anything,
// what is in it fit a place in the scope, and whether by more than an ending.
func (p *Placement) suitsIn(n *tree.Node, s *layout.Scope, env *layout.Env) (fits, strong int) {
	folder := n.Kind == tree.IsFolder
	if s.Exact(n.Name, folder) != nil {
		return 1, 1
	}
	if c, bound := s.Pattern(n.Name, folder, env); c != nil {
		if _, settled := c.Name(env); settled {
			return 1, 1
		}
		if !c.CatchAll() {
			return 1, truth(!c.OnlyEnding())
		}
		if n.Folder != nil {
			if t := p.FitOf(n.Folder, c, bound); t.Found > 0 || t.Share() >= 0.5 {
				return 1, truth(t.Found > 0)
			}
		}
	}
	if s.Deep == nil {
		return 0, 0
	}
	if s.Deep.Exact(n.Name, folder) != nil {
		return 1, 1
	}
	if c, _ := s.Deep.Pattern(n.Name, folder, env); c != nil {
		return 1, truth(!c.OnlyEnding())
	}
	looks := deepLooks
	if n.Folder != nil && !n.Ignored && holds(n.Folder, s.Deep, &looks) {
		return 1, 0
	}
	return 0, 0
}

// deepLooks is how many names below a folder are looked at to see whether it
// holds something that may lie at any depth.
const deepLooks = 60

func holds(f *tree.Folder, deep *layout.Scope, looks *int) bool {
	for i := range f.Nodes {
		n := &f.Nodes[i]
		if *looks--; *looks < 0 || n.Ignored {
			continue
		}
		if n.Folder != nil {
			if holds(n.Folder, deep, looks) {
				return true
			}
		} else if deep.Find(n.Name, false) != nil {
			return true
		}
	}
	return false
}

func truth(b bool) int {
	if b {
		return 1
	}
	return 0
}

// Share gives the part of the nodes that fit, from 0 to 1.
func (t Fit) Share() float64 {
	switch {
	case t.Open, t.Nodes == 0:
		return 0
	}
	return float64(t.Fits) / float64(t.Nodes)
}

// Likely says whether a folder may be taken for the entry on its contents.
func (t Fit) Likely() bool {
	return t.Open || t.Found > 0 || t.Nodes == 0 || t.Nodes > 0 && t.Fits*2 >= t.Nodes
}

// Certain says whether the contents leave no doubt.
func (t Fit) Certain() bool { return t.Found > 0 }

// Score orders folders that might be the one thing that an entry stands for;
// 0 is none. What is in a folder and fits counts for more than what must be
// there: a unit beside it may hold the same names among others.
func (t Fit) Score() int {
	switch {
	case t.Open:
		return 1
	case t.Fits == 0:
		return 0
	}
	score := 100 * t.Fits / t.Nodes
	if t.Musts > 0 {
		score += 60 * t.Found / t.Musts
	}
	if t.Musts > 0 && t.Found == 0 {
		score /= 2
	}
	return max(score, 1)
}
