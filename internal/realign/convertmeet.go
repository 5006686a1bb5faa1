package realign

import (
	"path"
	"slices"

	"dicaxon/internal/layout"
	"dicaxon/internal/names"
	"dicaxon/internal/placement"
	"dicaxon/internal/refs"
	"dicaxon/internal/tree"
)

// know notes what a layout says of kinds.
func (c *converter) know(l *layout.Layout) {
	for _, e := range l.Entries {
		if c.isUnit[e.Unit] = e.Unit != ""; e.Folder || len(e.Kind()) == 0 {
			continue
		}
		if e.Unit != "" {
			c.makesUnits[e.Kind()[0]] = true
		}
		c.ofKinds = append(c.ofKinds, e)
	}
}

// add notes an item.
func (c *converter) add(i *item) {
	c.items = append(c.items, i)
	c.at[c.below(i)] = i
}

// byName says whether a layout has something where it is by its very name.
func byName(place placement.Place) bool {
	return place.State == placement.Placed && place.Entry.Spellings[0].Exact != "" && !place.Entry.Need.Banned()
}

// meet notes a file whose kind one of the other layouts knows, or its text shows.
func (c *converter) meet(in *tree.Folder, i int) {
	n := &in.Nodes[i]
	if n.Kind != tree.File || n.Ignored || !c.project.Placement.Seen(in, i) {
		return
	}
	here := c.project.Placement.Place(in, i)
	if here.State == placement.Placed && len(here.Entry.Kind()) > 0 {
		c.add(&item{folder: in, index: i, kinds: here.Entry.Kind(), from: here.Entry, there: true, unit: unitOf(c.project.Placement, in, here.Entry, n.Name)})
		return
	}
	for _, o := range c.others {
		place := o.Place(in, i)
		if place.State != placement.Placed || placement.IsMarker(n.Name) && place.Entry.Spellings[0].Exact == "" {
			continue
		}
		if slices.ContainsFunc(place.Entry.Kind(), func(kind string) bool { return len(c.own[kind]) > 0 }) {
			one := &item{folder: in, index: i, kinds: place.Entry.Kind(), from: place.Entry, unit: unitOf(o, in, place.Entry, n.Name)}
			if byName(here) {
				c.kept = append(c.kept, one)
			} else {
				c.add(one)
			}
			return
		}
	}
	if byName(here) {
		return
	}
	if _, test := names.Testee(n.Name); test || !refs.IsCode(n.Name) || placement.IsMarker(n.Name) || !c.begins(in, i) {
		return
	}
	if text, err := c.Repository.Text(in.Path() + n.Name); err == nil {
		if by := c.shownBy(in, n.Name, here, text); by != nil {
			c.add(&item{folder: in, index: i, kinds: by.Kind()[:1], from: by})
		}
	}
}

// begins says whether a file lies as in a beginning: in no folder for one thing or one unit, and no layout
// knows more of it than its ending.
func (c *converter) begins(in *tree.Folder, i int) bool {
	around, _ := c.project.Placement.Folder(in)
	return around.State == placement.Placed && around.Entry.Unit == "" && !slices.ContainsFunc(append(slices.Clone(c.others), c.project.Placement), func(p *placement.Placement) bool {
		place := p.Place(in, i)
		if place.State != placement.Placed {
			return false
		}
		around := place.Entry.Parent
		return !place.Entry.CatchAll() && !place.Entry.OnlyEnding() || around != nil && around.Parent != nil && (around.Spellings[0].Exact != "" || around.Unit != "")
	})
}

// shownBy gives the entry whose kind a text shows, nil where it shows none or several, or not one that the
// layout has below the folder of the file.
func (c *converter) shownBy(in *tree.Folder, name string, here placement.Place, text []byte) (by *layout.Entry) {
	if here.State == placement.Placed && here.Entry.Shows != nil && !here.Entry.ShownIn(text) {
		return nil // it lies where others may, and is none of those
	}
	around, _ := c.project.Placement.Folder(in)
	below := func(kind string) bool {
		return slices.ContainsFunc(c.own[kind], func(e *layout.Entry) bool {
			return around.Entry == c.project.Layout.Root || slices.Contains(e.Chain(), around.Entry)
		})
	}
	shows := func(e *layout.Entry) bool {
		return e.Shows != nil && slices.ContainsFunc(e.Spellings, func(s layout.Pattern) bool { return s.Ending == path.Ext(name) }) && e.ShownIn(text)
	}
	for _, e := range c.project.Layout.Entries {
		switch kind := e.Kind(); {
		case e.Folder:
		case slices.ContainsFunc(e.Spellings, func(s layout.Pattern) bool { return s.Exact == name }): // that is all that it may be
			if len(kind) > 0 && e.Shows != nil && e.ShownIn(text) && below(kind[0]) {
				return e
			}
			return nil
		case len(kind) == 0 && e.Need.Wanted() && shows(e):
			return nil // it is waited for under a name of its own, such as what makes the application
		}
	}
	for _, e := range c.ofKinds {
		if !shows(e) {
			continue
		}
		if by != nil && by.Kind()[0] != e.Kind()[0] {
			return nil
		}
		by = e
	}
	if by == nil || !below(by.Kind()[0]) {
		return nil
	}
	return by
}

// isRole says whether a folder is one for a kind in another layout, by its name, where this one has
// it for that of a unit, or has no place for it.
func (c *converter) isRole(in *tree.Folder, i int) bool {
	if byName(c.project.Placement.Place(in, i)) {
		return false
	}
	return slices.ContainsFunc(c.others, func(o *placement.Placement) bool {
		place := o.Place(in, i)
		return place.State == placement.Placed && place.Entry.Spellings[0].Exact != "" && slices.ContainsFunc(place.Entry.Entries, func(e *layout.Entry) bool { return len(e.Kind()) > 0 })
	})
}

// unitOf gives the name of the unit that a file is of by what captures it, "" where nothing does.
func unitOf(p *placement.Placement, in *tree.Folder, e *layout.Entry, name string) string {
	_, env := p.Folder(in)
	if bound, _, fits := e.Match(name, env); fits {
		env = bound
	}
	for up := e; up != nil; up = up.Parent {
		if value, known := env.Get(up.Unit); known && up.Unit != "" {
			return value
		}
	}
	for _, captured := range e.Spellings[0].Captures() {
		if value, known := env.Get(captured); known && p.Layout.IsUnit(captured) {
			return value
		}
	}
	return ""
}
