package match

import (
	"fmt"
	"slices"

	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/names"
	"dicaxon/internal/tree"
)

// count compares how many nodes each entry of the folder has with how many it
// wants.
func (p *pairer) count(f *tree.Folder, env *layout.Env) {
	here := p.at(f)
	e := here.place.Entry
	for _, c := range e.Entries {
		p.counts[c.ID] = 0
	}
	for i, place := range here.nodes {
		if place.State != Placed || place.Entry.Parent != e {
			continue
		}
		p.counts[place.Entry.ID]++
		if c := place.Entry; p.counts[c.ID] > 1 && c.Spellings[0].Exact != "" {
			p.second(f, i, c)
		}
	}
	for _, c := range e.Entries {
		n := p.counts[c.ID]
		if c.AtMost > 0 && n > c.AtMost {
			p.result.Findings = append(p.result.Findings, finding.Finding{
				Kind: finding.Crowded, Level: finding.Warning, Path: f.Path(), Entry: c.Path(),
				Message: fmt.Sprintf("%d of %s, where at most %d should be", n, c.Label(), c.AtMost), Why: c.Role,
			})
		}
		if !c.Need.Wanted() || c.Deep {
			continue
		}
		if unit := p.forUnit(c, env); unit != "" {
			p.forEach = append(p.forEach, forEach{entry: c, folder: f, env: env, met: p.met(f, c, unit, env)})
			continue
		}
		g := gap{entry: c, folder: f, env: env}
		p.result.Wanted += g.weight()
		if n >= c.AtLeast {
			p.result.Found += g.weight()
		} else {
			p.gaps = append(p.gaps, g)
		}
	}
}

// second takes the place from a node whose entry is there already under
// another of its spellings: the preferred one stays.
func (p *pairer) second(f *tree.Folder, i int, c *layout.Entry) {
	here := p.at(f)
	loser := i
	if f.Nodes[i].Name == c.Spellings[0].Exact {
		for j := range i {
			if here.nodes[j].Entry == c && here.nodes[j].State == Placed {
				loser = j
			}
		}
	}
	here.nodes[loser].State = Stray
}

// forUnit gives the unit that the entry names from outside, such as
// test_<area>.py beside the areas, or "".
func (p *pairer) forUnit(c *layout.Entry, env *layout.Env) string {
	for _, name := range c.Spellings[0].Captures() {
		if _, bound := env.Get(name); !bound && c.Unit != name && slices.Contains(p.in.Layout.Units(), name) {
			return name
		}
	}
	return ""
}

func (p *pairer) met(f *tree.Folder, c *layout.Entry, unit string, env *layout.Env) map[string]int {
	met := map[string]int{}
	for i, place := range p.at(f).nodes {
		if place.State == Placed && place.Entry == c {
			if bound, _, ok := c.Match(f.Nodes[i].Name, env); ok {
				value, _ := bound.Get(unit)
				met[names.To(names.Lower, value)] = i
			}
		}
	}
	return met
}

// retake takes the place from a doubtful folder where something of its very
// name is wanted elsewhere and its contents fit that.
func (p *pairer) retake() {
	if len(p.doubtful) == 0 || len(p.gaps) == 0 {
		return
	}
	wanted := map[string][]*gap{}
	for i := range p.gaps {
		if name, complete := p.gaps[i].entry.Name(p.gaps[i].env); complete && p.gaps[i].entry.Folder {
			wanted[name] = append(wanted[name], &p.gaps[i])
		}
	}
	var taken []stray
	for _, d := range p.doubtful {
		if slices.ContainsFunc(wanted[d.node().Name], func(g *gap) bool {
			return g.folder != d.folder && p.fitOf(d.node().Folder, g.entry, g.env).fits > 0
		}) {
			taken = append(taken, d)
		}
	}
	for _, d := range taken {
		f := d.node().Folder
		if p.at(d.folder).place.State == Below {
			continue
		}
		within := func(in *tree.Folder) bool {
			for ; in != nil && in != f; in = in.Parent {
			}
			return in == f
		}
		p.strays = slices.DeleteFunc(p.strays, func(s stray) bool { return within(s.folder) })
		p.gaps = slices.DeleteFunc(p.gaps, func(g gap) bool { return within(g.folder) })
		p.at(d.folder).nodes[d.index] = Place{Stray, d.tentative}
		p.at(f).place = Place{State: Below}
		p.strays = append(p.strays, d)
	}
}

// each compares, once all units are known, what stands for each unit with the
// units that there are.
func (p *pairer) each() {
	for _, fe := range p.forEach {
		unit := p.forUnit(fe.entry, fe.env)
		known := map[string]bool{}
		var lacking []string
		for _, u := range p.units[unit] {
			value, _ := u.env.Get(unit)
			key := names.To(names.Lower, value)
			if known[key] || p.at(u.folder).place.State != Placed {
				continue
			}
			known[key] = true
			p.result.Wanted++
			if _, there := fe.met[key]; there {
				p.result.Found++
				continue
			}
			lacking = append(lacking, key)
			p.gaps = append(p.gaps, gap{entry: fe.entry, folder: fe.folder, env: fe.env.Bind(unit, value)})
		}
		for value, i := range fe.met {
			if !known[value] && slices.ContainsFunc(lacking, func(l string) bool { return names.Near(value, l) < names.Apart }) {
				p.at(fe.folder).nodes[i] = Place{Stray, fe.entry}
				p.strays = append(p.strays, stray{folder: fe.folder, index: i, tentative: fe.entry})
			}
		}
	}
}

// fit says how well the contents of a folder suit an entry.
type fit struct {
	nodes, fits  int // nodes of version control, and those that an entry describes
	musts, found int // direct entries that must be there, and those that are
	open         bool
}

// fitOf looks one level into the folder.
func (p *pairer) fitOf(f *tree.Folder, e *layout.Entry, env *layout.Env) fit {
	var t fit
	t.open = len(e.Entries) == 0
	if t.open {
		return t
	}
	for _, c := range e.Entries {
		if c.Need == layout.Must && !c.Deep {
			t.musts++
			if stands(f, c, env) {
				t.found++
			}
		}
	}
	for i := range f.Nodes {
		n := &f.Nodes[i]
		// What may stand anywhere says nothing.
		if n.Ignored || p.anyDepth(n) != nil && e.Scope.Exact(n.Name, n.Folder != nil) == nil {
			continue
		}
		t.nodes++
		if p.suitsIn(n, e.Scope, env) {
			t.fits++
		}
	}
	return t
}

// stands says whether the folder has the entry, whose name is settled, under
// any spelling.
func stands(f *tree.Folder, c *layout.Entry, env *layout.Env) bool {
	return slices.ContainsFunc(c.Spellings, func(p layout.Pattern) bool {
		name, complete := p.Fill(env)
		return complete && (f.Find(name) != nil || p.Rewrites() && slices.ContainsFunc(f.Nodes, func(n tree.Node) bool {
			_, fits := p.Match(n.Name, env)
			return fits && (n.Folder != nil) == c.Folder
		}))
	})
}

// suitsIn says whether a name and, where the name can be anything, what is in
// it speak for a place in the scope.
func (p *pairer) suitsIn(n *tree.Node, s *layout.Scope, env *layout.Env) bool {
	folder := n.Kind == tree.IsFolder
	if s.Exact(n.Name, folder) != nil {
		return true
	}
	if c, bound := s.Pattern(n.Name, folder, env); c != nil {
		if _, settled := c.Name(env); settled || !c.CatchAll() {
			return true
		}
		if n.Folder != nil {
			t := p.fitOf(n.Folder, c, bound)
			return t.found > 0 || t.share() >= 0.5
		}
	}
	if s.Deep == nil {
		return false
	}
	c, _ := s.Deep.Pattern(n.Name, folder, env)
	return c != nil || s.Deep.Exact(n.Name, folder) != nil
}

// share gives the part of the nodes that fit, from 0 to 1.
func (t fit) share() float64 {
	switch {
	case t.open, t.nodes == 0:
		return 0
	}
	return float64(t.fits) / float64(t.nodes)
}

// likely says whether a folder may be taken for the entry on its contents.
func (t fit) likely() bool {
	return t.open || t.found > 0 || t.nodes == 0 && t.musts == 0 || t.nodes > 0 && t.fits*2 >= t.nodes
}

// certain says whether the contents leave no doubt.
func (t fit) certain() bool { return t.found > 0 }

// score orders folders that might be the one thing that an entry stands for;
// 0 is none. What is in a folder and fits counts for more than what must be
// there: a unit beside it may hold the same names among others.
func (t fit) score() int {
	switch {
	case t.open:
		return 1
	case t.fits == 0:
		return 0
	}
	score := 100 * t.fits / t.nodes
	if t.musts > 0 {
		score += 60 * t.found / t.musts
	}
	if t.musts > 0 && t.found == 0 {
		score /= 2
	}
	return max(score, 1)
}
