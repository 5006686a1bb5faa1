package realign

import (
	"cmp"
	"fmt"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/changes"
	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/names"
	"dicaxon/internal/placement"
	"dicaxon/internal/refs"
	"dicaxon/internal/tree"
	"dicaxon/internal/workspace"
)

// A converter brings a project from how other layouts of its framework have it to how its own
// does: a file of a kind that both know goes to where that kind lies in this one, with the unit
// that it is of. What stands by roles comes together by units, and the other way about.
type converter struct {
	*workspace.Workspace
	project *workspace.Project
	others  []*placement.Placement // the project as other layouts see it
	ofKinds []*layout.Entry        // what all of them know of kinds
	isUnit  map[string]bool        // the captured names that tell units apart in one of them
	items   []*item
	at      map[string]*item  // by their paths, once asked for
	answers map[string]string // to what the layout asks, once asked for
	units   []string          // their names, as files and folders have them
	// makesUnits says of which kinds a file stands for a unit by itself, as a module of routes does.
	makesUnits map[string]bool
}

// An item is a file of a kind.
type item struct {
	folder *tree.Folder
	index  int
	kinds  []string      // more than one where its text says which
	from   *layout.Entry // in the layout that knows its kind
	unit   string        // "" for none
	there  bool          // it lies where its kind does already
	goes   string
	kind   string // of kinds, the one by which it goes
}

func (i *item) node() *tree.Node { return &i.folder.Nodes[i.index] }
func (i *item) path() string     { return i.folder.Path() + i.node().Name }

// A Conversion is what brings a project to its layout by kinds.
type Conversion struct {
	Groups []Group // one for each unit, with the markers that it must have there, and one for each file of none
	Left   []Left  // files of several units, by what each has in them
	// Roles are the folders that others know for kinds, and that this layout would take for units.
	Roles []string
}

// Converted gives what brings a project to its layout by the kinds that the layouts of its framework have
// in common, given the project as the others see it, the best fitting first.
func Converted(w *workspace.Workspace, p *workspace.Project, others []*placement.Placement) (all Conversion) {
	c := &converter{Workspace: w, project: p, others: others, makesUnits: map[string]bool{}, isUnit: map[string]bool{}}
	c.know(p.Layout)
	for _, o := range others {
		c.know(o.Layout)
	}
	var roles []string
	p.Placement.Below(p.Placement.Top, func(in *tree.Folder, i int) bool {
		if in.Nodes[i].Folder == nil {
			c.meet(in, i)
		} else if role := in.Nodes[i].Folder; c.isRole(in, i) {
			roles = append(roles, role.Path())
		}
		return p.Placement.Seen(in, i)
	}, func(string, *tree.Node) {})
	if !slices.ContainsFunc(c.items, func(i *item) bool { return !i.there }) {
		return all
	}
	c.named()
	c.used()
	c.uses()
	c.used() // by those that use others
	moving := c.programs(c.unhidden(c.started(c.moving())))
	return Conversion{c.grouped(moving), c.cuttings(moving), roles}
}

// moving finds where each goes, and gives those that go somewhere by themselves: first those that the
// layout has elsewhere, then what is for all and only one of the units uses that others go to.
func (c *converter) moving() (all []*item) {
	taken, units := map[string]int{}, map[string]bool{}
	for _, shared := range []bool{false, true} {
		for _, i := range c.items {
			if i.there == shared && (!shared || units[i.unit] && !c.divides(i.from) && slices.ContainsFunc(i.kinds, c.divided)) {
				c.find(i)
				taken[i.goes]++
				units[i.unit] = units[i.unit] || i.goes != "" && i.unit != ""
			}
		}
	}
	c.companions()
	for _, i := range c.items {
		if i.goes != "" && taken[i.goes] == 1 && i.goes != i.path() {
			all = append(all, i)
		}
	}
	return all
}

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

// meet notes a file whose kind one of the other layouts knows, or its text shows.
func (c *converter) meet(in *tree.Folder, i int) {
	n := &in.Nodes[i]
	if n.Kind != tree.File || n.Ignored || !c.project.Placement.Seen(in, i) {
		return
	}
	here := c.project.Placement.Place(in, i)
	if here.State == placement.Placed && len(here.Entry.Kind()) > 0 {
		c.items = append(c.items, &item{folder: in, index: i, kinds: here.Entry.Kind(), from: here.Entry, there: true, unit: unitOf(c.project.Placement, in, here.Entry, n.Name)})
		return
	}
	if here.State == placement.Placed && here.Entry.Spellings[0].Exact != "" && !here.Entry.Need.Banned() {
		return // the layout has it here by its name
	}
	for _, o := range c.others {
		place := o.Place(in, i)
		if place.State != placement.Placed || len(place.Entry.Kind()) == 0 || placement.IsMarker(n.Name) && place.Entry.Spellings[0].Exact == "" {
			continue
		}
		if slices.ContainsFunc(place.Entry.Kind(), c.has) {
			c.items = append(c.items, &item{folder: in, index: i, kinds: place.Entry.Kind(), from: place.Entry, unit: unitOf(o, in, place.Entry, n.Name)})
			return
		}
	}
	c.byText(in, i)
}

// byText notes a file of which no layout knows more than its ending, where its text shows one kind that the
// layout has below the folder that it lies in.
func (c *converter) byText(in *tree.Folder, i int) {
	n := &in.Nodes[i]
	says := func(p *placement.Placement) bool {
		place := p.Place(in, i)
		if place.State != placement.Placed {
			return false
		}
		around := place.Entry.Parent // a folder for one thing says of what lies in it that it is of that
		return !place.Entry.CatchAll() && !place.Entry.OnlyEnding() || around != nil && around.Parent != nil && (around.Spellings[0].Exact != "" || around.Unit != "")
	}
	around, _ := c.project.Placement.Folder(in)
	if _, test := names.Testee(n.Name); test || !refs.IsCode(n.Name) || placement.IsMarker(n.Name) || around.State != placement.Placed || around.Entry.Unit != "" || says(c.project.Placement) || slices.ContainsFunc(c.others, says) {
		return
	}
	text, err := c.Repository.Text(in.Path() + n.Name)
	if err != nil {
		return
	}
	if here := c.project.Placement.Place(in, i); here.State == placement.Placed && here.Entry.Shows != nil && !here.Entry.ShownIn(text) {
		return // it lies where others may, and is none of those
	}
	below := func(kind string) bool {
		return slices.ContainsFunc(c.project.Layout.Entries, func(e *layout.Entry) bool {
			return !e.Folder && slices.Contains(e.Kind(), kind) && (around.Entry.Parent == nil || slices.Contains(e.Chain(), around.Entry))
		})
	}
	var by *layout.Entry
	for _, e := range c.project.Layout.Entries { // what waits under its very name is all that it may be
		if !e.Folder && slices.ContainsFunc(e.Spellings, func(s layout.Pattern) bool { return s.Exact == n.Name }) {
			if len(e.Kind()) > 0 && e.Shows != nil && e.ShownIn(text) && below(e.Kind()[0]) {
				c.items = append(c.items, &item{folder: in, index: i, kinds: e.Kind()[:1], from: e})
			}
			return
		}
		if !e.Folder && e.Shows != nil && len(e.Kind()) == 0 && e.Need.Wanted() && slices.ContainsFunc(e.Spellings, func(s layout.Pattern) bool { return s.Ending == path.Ext(n.Name) }) && e.ShownIn(text) {
			return // it is what the layout waits for under a name of its own, such as what makes the application
		}
	}
	for _, e := range c.ofKinds {
		if e.Shows == nil || !slices.ContainsFunc(e.Spellings, func(s layout.Pattern) bool { return s.Ending == path.Ext(n.Name) }) || !e.ShownIn(text) {
			continue
		}
		if by != nil && by.Kind()[0] != e.Kind()[0] {
			return
		}
		by = e
	}
	if by != nil && below(by.Kind()[0]) {
		c.items = append(c.items, &item{folder: in, index: i, kinds: by.Kind()[:1], from: by})
	}
}

// isRole says whether a folder is one for a kind in another layout, by its name, where this one has
// it for that of a unit, or has no place for it.
func (c *converter) isRole(in *tree.Folder, i int) bool {
	here := c.project.Placement.Place(in, i)
	if here.State == placement.Placed && here.Entry.Spellings[0].Exact != "" && !here.Entry.Need.Banned() {
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
		if value, known := env.Get(captured); known && unitNamed(p.Layout, captured) {
			return value
		}
	}
	return ""
}

// named gives the files that stand for a unit by themselves, and then those of no unit that are called
// after one, as models/berth.py is after berths.
func (c *converter) named() {
	for _, i := range c.items {
		if said, whole := c.unitSaid(i); i.unit == "" && !i.there && (said != "" || c.makesUnits[i.kinds[0]]) {
			i.unit = cmp.Or(said, whole)
		}
		if i.unit != "" && !slices.ContainsFunc(c.units, func(u string) bool { return names.Same(u, i.unit) }) {
			c.units = append(c.units, i.unit)
		}
	}
	for _, i := range c.items {
		stem, _ := names.Testee(i.node().Name)
		words := names.Words(stem)
		called := func(unit string) bool { // as it is, or with a word for its kind behind
			return names.SameInNumber(unit, stem) || len(words) > 1 && names.SameInNumber(unit, strings.Join(words[:len(words)-1], " "))
		}
		if k := slices.IndexFunc(c.units, called); i.unit == "" && k >= 0 {
			i.unit = c.units[k]
		}
	}
}

// unitSaid gives the unit that the name of a file says beside its kind, as pressReducer.js does of press,
// and the name itself.
func (c *converter) unitSaid(i *item) (said, whole string) {
	most := 0
	whole, _ = names.Testee(i.node().Name)
	for _, e := range c.ofKinds {
		if !slices.Contains(i.kinds, e.Kind()[0]) {
			continue
		}
		for k := range e.Spellings {
			bound, fits := e.Spellings[k].Match(i.node().Name, nil)
			if !fits || e.Spellings[k].Fixed <= most+len(e.Spellings[k].Ending) {
				continue
			}
			for _, captured := range e.Spellings[k].Captures() {
				if value, _ := bound.Get(captured); value != "" && (captured == e.Unit || c.isUnit[captured]) {
					said, most = value, e.Spellings[k].Fixed-len(e.Spellings[k].Ending)
				}
			}
		}
	}
	return said, whole
}

// used gives the files of no unit that only those of one use, tests apart, and so on from there.
func (c *converter) used() {
	graph := c.project.Placement.Graph
	for more := true; more; {
		more = false
		for _, i := range c.items {
			if i.unit != "" || !slices.ContainsFunc(i.kinds, c.divided) {
				continue
			}
			of, own := map[string]bool{}, c.below(i)
			for _, e := range graph.To(own) {
				if _, test := names.Testee(path.Base(e.From)); test || placement.ForTests(path.Dir(e.From)+"/") || e.From == own {
					continue
				}
				of[c.unitAt(e.From)] = true
			}
			more = i.join(of) || more
		}
	}
}

// uses gives the files of no unit that the layout has elsewhere those that they use, where they are all of
// one: what joins a component to the state of one topic.
func (c *converter) uses() {
	for _, i := range c.items {
		if i.unit != "" || i.there || !slices.ContainsFunc(i.kinds, c.divided) {
			continue
		}
		of := map[string]bool{}
		for _, e := range c.project.Placement.Graph.From(c.below(i)) {
			for _, to := range e.To {
				if unit := c.unitAt(to); unit != "" {
					of[unit] = true
				}
			}
		}
		i.join(of)
	}
}

// join takes the one unit of several, and says whether it is one.
func (i *item) join(of map[string]bool) bool {
	if len(of) != 1 || of[""] {
		return false
	}
	for unit := range of {
		i.unit = unit
	}
	return true
}

// below gives the path of an item as the graph has it.
func (c *converter) below(i *item) string {
	return strings.TrimPrefix(i.path(), c.project.Placement.Top.Path())
}

// unitAt gives the unit of a file, "" for none.
func (c *converter) unitAt(at string) string {
	if c.at == nil {
		c.at = map[string]*item{}
		for _, i := range c.items {
			c.at[c.below(i)] = i
		}
	}
	if i := c.at[at]; i != nil {
		return i.unit
	}
	return ""
}

// grouped makes a group of what goes for each unit, and of each file of none.
func (c *converter) grouped(moving []*item) []Group {
	var all []Group
	of := map[string]int{}
	for _, i := range moving {
		k, known := of[i.together()]
		if !known || i.together() == "" {
			k = len(all)
			of[i.together()] = k
			all = append(all, Group{Kind: finding.Misplaced, Level: finding.Note, Path: i.path(), Converts: true})
		}
		all[k].Moves = append(all[k].Moves, changes.Move{From: i.path(), To: i.goes})
	}
	for k := range all {
		g := &all[k]
		var kinds, units []string
		for _, i := range moving {
			if !slices.ContainsFunc(g.Moves, func(m changes.Move) bool { return m.From == i.path() }) {
				continue
			}
			if !slices.Contains(kinds, i.kind) {
				kinds = append(kinds, i.kind)
			}
			if !slices.Contains(units, i.unit) {
				units = append(units, i.unit)
			}
		}
		switch {
		case len(g.Moves) == 1 && units[0] == "":
			g.Says = fmt.Sprintf("%s has %s in %s", c.project.Layout.Name, kinds[0], path.Dir(g.Moves[0].To)+"/")
		case len(units) == 1 && units[0] != "":
			g.Says = fmt.Sprintf("%s: %s of %s", c.project.Layout.Name, strings.Join(kinds, ", "), units[0])
		default:
			g.Says = fmt.Sprintf("%s: %s", c.project.Layout.Name, strings.Join(kinds, ", "))
		}
		g.Makes = c.markers(g.Moves)
	}
	return all
}
