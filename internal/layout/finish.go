package layout

import (
	"fmt"
	"io/fs"
	"maps"
	"slices"
	"strings"
)

// finish checks the layout as a whole and compiles it.
func (p *parser) finish() error {
	l := p.layout
	if !p.checked {
		p.note(p.alike(l.Root))
	}
	l.Root.Scope = nil
	p.compile(l.Root)
	l.listDocuments()
	l.units = l.listUnits()
	units := l.units
	for _, e := range l.Entries {
		e.repeats = e.Parent != nil && slices.ContainsFunc(e.Spellings[0].Captures(), func(name string) bool { return slices.Contains(units, name) })
		p.note(p.whole(e))
	}
	for _, e := range l.Entries {
		for _, c := range e.Entries {
			if c.Singular() && c.Spellings[0].Exact == "" {
				e.Scope.singles = append(e.Scope.singles, c)
			}
		}
	}
	return nil
}

// alike gives the entries that are like another one the tree of that: without its
// starters, since a new project has it in one place only.
func (p *parser) alike(e *Entry) error {
	for _, c := range e.Entries {
		if err := p.alike(c); err != nil {
			return err
		}
	}
	if e.like == "" {
		return nil
	}
	other := p.layout.Find(e.like)
	switch {
	case other == nil || other.Parent == nil:
		return e.at.node.Errorf("%q is like %q, which is no entry of the layout", e.Key, e.like)
	case !other.Folder || !e.Folder:
		return e.at.node.Errorf("%q is like %q, but only folders have a tree to be alike in", e.Key, e.like)
	case within(e, other) || within(other, e):
		return e.at.node.Errorf("%q is like %q, which is around it or in it", e.Key, e.like)
	}
	e.like = ""
	if err := p.alike(other); err != nil {
		return err
	}
	if e.Role == "" {
		e.Role = other.Role
	}
	if !e.given["others"] {
		e.Others, e.given["others"] = other.Others, other.given["others"]
	}
	e.given["tree"] = true
	var copies []*Entry
	for _, c := range other.Entries {
		copies = append(copies, c.copied(e))
	}
	own := e.Entries
	e.Entries = copies
	if len(e.NotHere) == 0 {
		e.NotHere, e.notHereOf = other.NotHere, other.notHereOf
		goTo([]*Entry{e}, other.Path(), e.Path())
	} else {
		goTo(copies, other.Path(), e.Path())
	}
	return merge(e, own)
}

// goTo has what does not belong in copies of a tree go to the copy of its place, where that is in
// the tree, too.
func goTo(copies []*Entry, from, to string) {
	for _, c := range copies {
		c.NotHere = slices.Clone(c.NotHere)
		for i := range c.NotHere {
			if rest, inside := strings.CutPrefix(c.NotHere[i].GoesTo, from); inside {
				c.NotHere[i].GoesTo = to + rest
			}
		}
		goTo(c.Entries, from, to)
	}
}

// within says whether an entry lies below another.
func within(e, other *Entry) bool {
	for ; e != nil; e = e.Parent {
		if e == other {
			return true
		}
	}
	return false
}

// copied gives the entry and all below it once more, without starters.
func (e *Entry) copied(parent *Entry) *Entry {
	c := *e
	c.Parent, c.Starter, c.Entries, c.Scope = parent, "", nil, nil
	c.given = maps.Clone(e.given)
	for _, below := range e.Entries {
		c.Entries = append(c.Entries, below.copied(&c))
	}
	return &c
}

// compile numbers the entries below e and makes the scopes.
func (p *parser) compile(e *Entry) {
	e.ID = len(p.layout.Entries)
	p.layout.Entries = append(p.layout.Entries, e)
	if !e.Folder {
		return
	}
	if !p.checked {
		e.OthersSaid = e.given["others"]
	}
	if !p.checked && e.Parent != nil && !e.given["others"] && (len(e.Entries) > 0 || e.given["tree"]) {
		e.Others = ShouldNot
	}
	if !p.checked {
		p.note(distinct(e.Entries))
	}
	var direct, deep []*Entry
	for _, c := range e.Entries {
		if c.Deep {
			deep = append(deep, c)
		} else {
			direct = append(direct, c)
		}
	}
	e.Scope = newScope(direct)
	if deep != nil {
		e.Scope.Deep = newScope(deep)
	}
	for _, c := range e.Entries {
		c.Parent = e
		p.compile(c)
	}
}

// distinct refuses two entries of one folder that no name can tell apart.
func distinct(entries []*Entry) error {
	seen := map[string]*Entry{}
	for _, e := range entries {
		for i := range e.Spellings {
			form := fmt.Sprint(e.Folder, e.Deep, e.Spellings[i].form())
			if other := seen[form]; other != nil {
				return e.at.node.Errorf("%q cannot be told apart from %q, on line %d of %s", e.Key, other.Key, other.Line, other.File)
			}
			seen[form] = e
		}
	}
	return nil
}

// whole settles what an entry says together with the rest of the layout, and
// checks it.
func (p *parser) whole(e *Entry) error {
	if e.Parent == nil {
		return nil
	}
	for i := range e.NotHere {
		e.NotHere[i].Home = p.layout.Find(e.NotHere[i].GoesTo)
	}
	e.NotHere = slices.DeleteFunc(e.NotHere, func(nh NotHere) bool {
		// What another layout said of a place that this one dropped is void.
		return nh.Home == nil && e.notHereOf != p.layout.Name
	})
	e.Unless = nil
	for _, other := range e.unless {
		there := p.layout.Find(other)
		if there == nil && !p.checked {
			return e.at.node.Errorf("%q is wanted unless %q is there, which is no entry of the layout", e.Key, other)
		}
		e.Unless = append(e.Unless, there)
	}
	if !p.checked && !e.faulty {
		p.note(p.check(e))
	}
	if e.Need.Wanted() && e.AtLeast == 0 {
		e.AtLeast = 1
	}
	return nil
}

// check says what is wrong with an entry as a part of the layout, or nil.
func (p *parser) check(e *Entry) error {
	switch {
	case e.Role == "":
		return e.at.node.Errorf("%q has no role; say in one sentence what it is for", e.Key)
	case e.Deep && e.Need.Wanted():
		return e.at.node.Errorf("%q: what may lie at any depth cannot be wanted; want it where it should be", e.Key)
	case e.AtLeast > 0 && !e.Need.Wanted():
		return e.at.node.Errorf("%q: at-least goes with need must or should", e.Key)
	}
	for _, nh := range e.NotHere {
		if nh.Home == nil || nh.Home.Parent == nil {
			return e.at.node.Errorf("%q goes to %q, which is no entry of the layout", nh.What, nh.GoesTo)
		}
	}
	if e.Starter == "" {
		return nil
	}
	if name := e.starterName(); !fs.ValidPath(name) {
		return e.at.node.Errorf("the starter %q is no name of a file in %s/", e.Starter, StarterFolder)
	} else if _, err := fs.Stat(e.starters, name); err != nil {
		return e.at.node.Errorf("the starter %q is absent: %s has no %s", e.Starter, e.File, name)
	}
	return p.startable(e)
}

// startable checks that scaffold can name the entry from the answers, or that add can: the
// name of a unit is told it.
func (p *parser) startable(e *Entry) error {
	units := map[string]bool{}
	for up := e; up.Parent != nil; up = up.Parent {
		units[up.Unit] = true
	}
	for up := e; up.Parent != nil; up = up.Parent {
		for _, part := range up.Spellings[0].parts {
			if part.kind == anyRun || part.kind == anyOne {
				return e.at.node.Errorf("%q has a starter, but %q leaves its name open", e.Key, up.Key)
			}
			if part.kind != capture {
				continue
			}
			if units[part.text] && part.shape != "" {
				continue
			}
			if ask := p.layout.Ask(part.text); ask == nil || ask.Shape == "" {
				return e.at.node.Errorf(`%q has a starter, but nothing under "asks" asks for <%s> and gives it a shape`, e.Key, part.text)
			}
		}
	}
	return nil
}

func (e *Entry) starterName() string { return StarterFolder + "/" + e.Starter + StarterEnding }

// Units gives the captured names that mark a unit, in the order of the tree.
func (l *Layout) Units() []string { return l.units }

func (l *Layout) listUnits() []string {
	var all []string
	for _, e := range l.Entries {
		if e.Unit != "" && !slices.Contains(all, e.Unit) {
			all = append(all, e.Unit)
		}
	}
	return all
}

// Ref gives the place where the entry was written, for people: "layout.yaml:12".
func (e *Entry) Ref() string {
	return fmt.Sprintf("%s:%d", e.File[strings.LastIndexByte(e.File, '/')+1:], e.Line)
}

// IsUnit says whether the captured name marks a unit.
func (l *Layout) IsUnit(name string) bool { return slices.Contains(l.Units(), name) }
