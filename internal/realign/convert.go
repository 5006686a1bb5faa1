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
	"dicaxon/internal/tree"
	"dicaxon/internal/workspace"
)

// A converter brings a project from how other layouts of its framework have it to how its own
// does: a file of a kind that both know goes to where that kind lies in this one, with the unit
// that it is of. What stands by roles comes together by units, and the other way about.
type converter struct {
	*workspace.Workspace
	project *workspace.Project
	others  []*placement.Placement     // the project as other layouts see it
	own     map[string][]*layout.Entry // those of files of each kind, in the layout that it is brought to
	ofKinds []*layout.Entry            // what all of them know of kinds
	isUnit  map[string]bool            // the captured names that tell units apart in one of them
	items   []*item
	kept    []*item                // those that the layout has where they are, and others divide: only parts of them go
	at      map[string]*item       // by their paths below the project
	answers map[string]string      // to what the layout asks, once asked for
	found   map[*layout.Ask]string // those that the project says itself, once looked for
	units   []string               // their names, as files and folders have them
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
	shared bool   // several units have something in it

	text       []byte
	statements []statement // of the text; see read
}

func (i *item) node() *tree.Node { return &i.folder.Nodes[i.index] }
func (i *item) path() string     { return i.folder.Path() + i.node().Name }

// pathsOf gives where files lie.
func pathsOf(all []*item) map[string]bool {
	paths := map[string]bool{}
	for _, i := range all {
		paths[i.path()] = true
	}
	return paths
}

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
	c := &converter{Workspace: w, project: p, others: others, own: map[string][]*layout.Entry{}, at: map[string]*item{}, found: map[*layout.Ask]string{}, makesUnits: map[string]bool{}, isUnit: map[string]bool{}}
	c.know(p.Layout)
	for _, e := range c.ofKinds {
		for _, kind := range e.Kind() {
			c.own[kind] = append(c.own[kind], e)
		}
	}
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
	c.heads()
	c.named()
	c.wholly()
	c.used()
	c.uses()
	c.used() // by those that use others
	moving := c.programs(c.unhidden(c.started(c.moving())))
	return Conversion{c.grouped(moving), c.cuttings(moving), roles}
}

// moving finds where each goes, and gives those that go somewhere by themselves: first those that the
// layout has elsewhere, then what is for all and only one of the units uses that others go to.
func (c *converter) moving() (all []*item) {
	units := map[string]bool{}
	for _, shared := range []bool{false, true} {
		for _, i := range c.items {
			if i.there == shared && (!shared || units[i.unit] && !c.divides(i.from) && c.divided(i.kinds)) {
				c.find(i)
				units[i.unit] = units[i.unit] || i.goes != "" && i.unit != ""
			}
		}
	}
	c.companions()
	taken := map[string]int{}
	for _, i := range c.items {
		taken[i.goes]++
	}
	for _, i := range c.items {
		if i.goes != "" && taken[i.goes] == 1 && i.goes != i.path() {
			all = append(all, i)
		}
	}
	return all
}

// named gives the files that stand for a unit by themselves, and then those of no unit that are called
// after one, as models/berth.py is after berths.
func (c *converter) named() {
	for _, i := range c.items {
		if said, whole := c.unitSaid(i); i.unit == "" && !i.there && !i.shared && (said != "" || c.makesUnits[i.kinds[0]] && !c.ofNone(i)) {
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

// wholly gives the files of no unit whose declarations are all called after one.
func (c *converter) wholly() {
	ofOne := func(i *item) bool {
		if i.there || i.unit != "" || !c.divided(i.kinds) {
			return false
		}
		of, units := c.parts(i)
		all := map[string]bool{}
		for unit := range of {
			all[unit] = true
		}
		i.join(all)
		i.shared = i.shared || len(units) > 1
		return i.unit != ""
	}
	for _, i := range c.items {
		ofOne(i)
	}
	c.kept = slices.DeleteFunc(c.kept, func(i *item) bool {
		if ofOne(i) {
			c.add(i)
		}
		return i.unit != ""
	})
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
			if i.unit != "" || i.shared || !c.divided(i.kinds) {
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
		if i.unit != "" || i.there || i.shared || !c.divided(i.kinds) {
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
