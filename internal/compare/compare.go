// Package compare sets two layouts side by side, or a repository and a layout.
package compare

import (
	"dicaxon/internal/app"
	"dicaxon/internal/explain"
	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/scaffold"
)

// A Side is one of two layouts.
type Side struct {
	Name  string `json:"name"`
	Title string `json:"title"`
	Suits string `json:"suits"`
}

// A Pair is one thing that both layouts have, in different places or under
// different names.
type Pair struct {
	A    string `json:"a"`
	B    string `json:"b"`
	Role string `json:"role"`
}

// A Lone is something that only one of them has.
type Lone struct {
	Path string `json:"path"`
	Need string `json:"need"`
	Role string `json:"role"`
}

// A Refusal is something that one layout has and the other wants to be absent.
type Refusal struct {
	Path string `json:"path"`
	By   string `json:"by"`   // the layout that refuses it
	Role string `json:"role"` // in the other
	Why  string `json:"why"`
}

// Layouts is the comparison of two layouts.
type Layouts struct {
	A Side `json:"a"`
	B Side `json:"b"`
	// StartA and StartB are what scaffold makes of each without an answer; empty
	// for a layout without starters.
	StartA  []explain.Line `json:"startA,omitempty"`
	StartB  []explain.Line `json:"startB,omitempty"`
	Same    int            `json:"same"` // entries that both have in one place
	Refused []Refusal      `json:"refused"`
	Moved   []Pair         `json:"moved"`
	Renamed []Pair         `json:"renamed"`
	OnlyA   []Lone         `json:"onlyA"`
	OnlyB   []Lone         `json:"onlyB"`
}

// Two compares two layouts. An entry counts as moved where the same name
// stands in another folder with the same role, or is used once in each layout;
// as renamed where the same role stands in the same folder under another name.
func Two(a, b *layout.Layout) Layouts {
	c := &comparer{partner: map[*layout.Entry]*layout.Entry{}, refused: map[*layout.Entry]bool{}}
	refused := append(c.refuse(a, b), c.refuse(b, a)...)
	same := len(c.match(a, b, func(x, y *layout.Entry) bool { return x.Path() == y.Path() }))
	moved := c.match(a, b, func(x, y *layout.Entry) bool {
		return x.Label() == y.Label() && !x.CatchAll() && (x.Role == y.Role && !x.OnlyEnding() || alone(a, x) && alone(b, y))
	})
	renamed := c.match(a, b, func(x, y *layout.Entry) bool {
		return x.Role == y.Role && x.Folder == y.Folder && x.Parent.Path() == y.Parent.Path()
	})
	return Layouts{A: side(a), B: side(b), StartA: start(a), StartB: start(b), Same: same, Refused: refused, Moved: c.shown(moved), Renamed: c.shown(renamed), OnlyA: c.lone(a), OnlyB: c.lone(b)}
}

func side(l *layout.Layout) Side { return Side{l.Name, l.Title, l.Suits} }

// start gives the tree of a new project.
func start(l *layout.Layout) []explain.Line {
	plan, err := scaffold.Make(l, nil)
	if err != nil {
		return nil
	}
	return plan.Tree()
}

type comparer struct {
	partner map[*layout.Entry]*layout.Entry
	refused map[*layout.Entry]bool // entries of one layout that the other wants to be absent
}

// refuse pairs the entries of has with those by which other wants them absent.
func (c *comparer) refuse(has, other *layout.Layout) []Refusal {
	all := []Refusal{}
	for _, x := range c.match(has, other, func(x, y *layout.Entry) bool {
		return x.Path() == y.Path() && !x.Need.Banned() && y.Need.Banned()
	}) {
		c.refused[x] = true
		all = append(all, Refusal{Path: x.Path(), By: other.Name, Role: x.Role, Why: c.partner[x].Role})
	}
	return all
}

// match pairs entries that fit each other and have no partner yet.
func (c *comparer) match(a, b *layout.Layout, fit func(x, y *layout.Entry) bool) []*layout.Entry {
	var matched []*layout.Entry
	for _, x := range a.Entries[1:] {
		for _, y := range b.Entries[1:] {
			if c.partner[x] == nil && c.partner[y] == nil && x.Folder == y.Folder && fit(x, y) {
				c.partner[x], c.partner[y] = y, x
				matched = append(matched, x)
			}
		}
	}
	return matched
}

// alone says whether no other entry of the layout has the label.
func alone(l *layout.Layout, e *layout.Entry) bool {
	n := 0
	for _, o := range l.Entries[1:] {
		if o.Label() == e.Label() && o.Folder == e.Folder {
			n++
		}
	}
	return n == 1
}

// shown gives the pairs that are not explained by a pair of folders around
// them.
func (c *comparer) shown(matched []*layout.Entry) []Pair {
	all := []Pair{}
	for _, x := range matched {
		y := c.partner[x]
		if x.Parent.Parent != nil && c.partner[x.Parent] == y.Parent && x.Parent.Path() != y.Parent.Path() && x.Label() == y.Label() {
			continue
		}
		all = append(all, Pair{x.Path(), y.Path(), x.Role})
	}
	return all
}

// lone gives the entries of a layout that have no partner, without those in a
// folder that has none either.
func (c *comparer) lone(l *layout.Layout) []Lone {
	all := []Lone{}
	for _, e := range l.Entries[1:] {
		// Of a unit that only one layout has, what makes it one is told too.
		within := e.Parent.Parent != nil && c.partner[e.Parent] == nil
		if c.partner[e] != nil || c.refused[e.Parent] || within && (e.Parent.Unit == "" || e.Need != layout.Must) {
			continue
		}
		all = append(all, Lone{e.Path(), e.Need.String(), e.Role})
	}
	return all
}

// Distance is the comparison of a repository and a layout: how far it is from
// following it, and what would have to be done.
type Distance struct {
	Layout  Side              `json:"layout"`
	Files   int               `json:"files"`
	Placed  int               `json:"placed"`  // per cent of what is there that has a place
	Present int               `json:"present"` // per cent of what the layout wants that is there
	Moves   []finding.Finding `json:"moves"`   // misplaced and misnamed, with a home
	Unclear []finding.Finding `json:"unclear"` // misplaced without a clear home, and extra
	Missing []finding.Finding `json:"missing"` // missing and unpaired
	Further []finding.Finding `json:"further"` // all else
}

// Repository measures a checked repository whose first project follows, or
// should follow, the layout.
func Repository(r *app.Report) Distance {
	p := r.Projects[0]
	m := p.Placement
	d := Distance{Layout: side(p.Layout), Files: m.Files, Placed: share(m.Settled, m.Settled+m.Astray), Present: share(m.Found, m.Wanted),
		Moves: []finding.Finding{}, Unclear: []finding.Finding{}, Missing: []finding.Finding{}, Further: []finding.Finding{}}
	for _, f := range p.Findings {
		switch {
		case f.Home != "":
			d.Moves = append(d.Moves, f)
		case f.Kind == finding.Misplaced || f.Kind == finding.Extra:
			d.Unclear = append(d.Unclear, f)
		case f.Kind == finding.Missing || f.Kind == finding.Unpaired:
			d.Missing = append(d.Missing, f)
		default:
			d.Further = append(d.Further, f)
		}
	}
	return d
}

func share(a, b int) int {
	if b == 0 {
		return 100
	}
	return 100 * a / b
}
