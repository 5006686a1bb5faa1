package placement

import (
	"fmt"
	"slices"
	"strings"

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
		if place.Entry == nil || place.State != Placed && place.State != Apart || place.Entry.Parent != e {
			continue
		}
		p.counts[place.Entry.ID]++
		p.present[place.Entry.ID] = true
		if c := place.Entry; p.counts[c.ID] > 1 && c.Spellings[0].Exact != "" && (c.Need.Wanted() || p.alike(f, i, c)) {
			p.second(f, i, c)
		}
	}
	for _, c := range e.Entries {
		n := p.counts[c.ID]
		if c.AtMost > 0 && n > c.AtMost {
			p.Said = append(p.Said, finding.Finding{
				Kind: finding.Crowded, Level: finding.Warning, Path: f.Path(), Entry: c.Path(),
				Message: fmt.Sprintf("%d of %s, where at most %d should be", n, c.Label(), c.AtMost), Why: c.Role,
			})
		}
		if !c.Need.Wanted() || c.Deep {
			continue
		}
		if unit := p.ForUnit(c, env); unit != "" {
			p.forEach = append(p.forEach, forEach{entry: c, folder: f, env: env, met: p.met(f, c, unit, env)})
			continue
		}
		g := Gap{Entry: c, Folder: f, Env: env}
		p.Wanted += g.Weight()
		if n >= c.AtLeast {
			p.Found += g.Weight()
		} else {
			p.Gaps = append(p.Gaps, g)
		}
	}
}

// excuse drops the gaps that are none because something else is there instead, and
// those of a part of the repository that only the repository as a whole should
// fill, such as its readme.
func (p *pairer) excuse() {
	part := p.Top.Parent != nil
	p.Gaps = slices.DeleteFunc(p.Gaps, func(g Gap) bool {
		name, complete := g.Name()
		excused := slices.ContainsFunc(g.Entry.Unless, func(e *layout.Entry) bool { return p.present[e.ID] }) ||
			part && g.Folder == p.Top && complete && g.Entry.Need != layout.Must && p.commonplace(name, g.Entry.Folder, true) != nil
		if excused {
			p.Wanted -= g.Weight()
		}
		return excused
	})
}

// alike says whether a node and another of its entry beside it have names that mean one
// and the same, such as vite.config.js and vite.config.ts: lib/ and utils/ may stand
// side by side where both are allowed.
func (p *pairer) alike(f *tree.Folder, i int, c *layout.Entry) bool {
	name := f.Nodes[i].Name
	for k, place := range p.at(f).nodes {
		other := f.Nodes[k].Name
		if k != i && place.Entry == c && (names.Near(name, other) < names.Apart || strings.EqualFold(names.Stem(name), names.Stem(other))) {
			return true
		}
	}
	return false
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
	here.nodes[loser].State = Unplaced
	if c.Folder && !p.alike(f, loser, c) {
		here.nodes[loser] = Place{State: Free} // a word of its own: lib/ beside src/ is for something else
	}
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
	if len(p.doubtful) == 0 || len(p.Gaps) == 0 {
		return
	}
	wanted := map[string][]*Gap{}
	for i := range p.Gaps {
		if name, complete := p.Gaps[i].Name(); complete && p.Gaps[i].Entry.Folder {
			wanted[name] = append(wanted[name], &p.Gaps[i])
		}
	}
	var taken []Stray
	for _, d := range p.doubtful {
		if slices.ContainsFunc(wanted[d.Node().Name], func(g *Gap) bool {
			return g.Folder != d.Folder && !p.mayBeIn(d.Folder, g.Folder, d.Node().Name) && p.FitOf(d.Node().Folder, g.Entry, g.Env).Fits > 0
		}) {
			taken = append(taken, d)
		}
	}
	for _, d := range taken {
		f := d.Node().Folder
		if p.at(d.Folder).place.State == Below {
			continue
		}
		within := func(in *tree.Folder) bool {
			for ; in != nil && in != f; in = in.Parent {
			}
			return in == f
		}
		p.Strays = slices.DeleteFunc(p.Strays, func(s Stray) bool { return within(s.Folder) })
		p.Gaps = slices.DeleteFunc(p.Gaps, func(g Gap) bool { return within(g.Folder) })
		p.at(d.Folder).nodes[d.Index] = Place{Unplaced, d.Tentative}
		p.at(f).place = Place{State: Below}
		p.Strays = append(p.Strays, d)
	}
}

// mayBeIn says whether a folder of that name may stand in one, or in one around it up to another: a
// package has tests of its own, and so have its parts.
func (p *pairer) mayBeIn(f, upTo *tree.Folder, name string) bool {
	for ; f != p.Top && f != upTo && f != nil; f = f.Parent {
		if at := p.at(f).place; at.State == Placed && slices.ContainsFunc(at.Entry.Entries, func(e *layout.Entry) bool {
			return e.Folder && !e.Need.Banned() && slices.ContainsFunc(e.Spellings, func(s layout.Pattern) bool { return s.Exact == name })
		}) {
			return true
		}
	}
	return false
}

// each compares, once all units are known, what stands for each unit with the
// units that there are.
func (p *pairer) each() {
	for _, fe := range p.forEach {
		unit := p.ForUnit(fe.entry, fe.env)
		known := map[string]bool{}
		var lacking []string
		for _, u := range p.Units[unit] {
			value, _ := u.Env.Get(unit)
			key := names.To(names.Lower, value)
			if at := p.at(u.Folder).place; known[key] || at.State != Placed || u.Entry.Folder && at.Entry != u.Entry {
				continue
			}
			known[key] = true
			if _, there := fe.met[key]; there {
				continue
			}
			lacking = append(lacking, key)
			p.Gaps = append(p.Gaps, Gap{Entry: fe.entry, Folder: fe.folder, Env: fe.env.Bind(unit, value)})
		}
		for value, i := range fe.met {
			if !known[value] && slices.ContainsFunc(lacking, func(l string) bool { return names.Near(value, l) < names.Apart }) {
				p.at(fe.folder).nodes[i] = Place{Unplaced, fe.entry}
				p.Strays = append(p.Strays, Stray{Folder: fe.folder, Index: i, Tentative: fe.entry})
			}
		}
	}
}
