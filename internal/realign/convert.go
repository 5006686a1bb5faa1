package realign

import (
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
	items   []*item
	units   []string // their names, as files and folders have them
	// makesUnits says of which kinds a file stands for a unit by itself, as a module of routes does.
	makesUnits map[string]bool
}

// An item is a file of a kind.
type item struct {
	folder *tree.Folder
	index  int
	kind   string
	from   *layout.Entry // in the layout that knows its kind
	to     *layout.Entry // nil while nothing is found
	unit   string        // "" for none
	there  bool          // it lies where its kind does already
	goes   string
}

func (i *item) node() *tree.Node { return &i.folder.Nodes[i.index] }
func (i *item) path() string     { return i.folder.Path() + i.node().Name }

// Converted gives what brings a project to its layout by the kinds that the layouts of its framework
// have in common, given the project as the others see it, the best fitting first: a group for each
// unit, with the files that it must have there, and one for each file of none. Roles are the folders
// that the others know for kinds, and that this layout would take for units.
func Converted(w *workspace.Workspace, p *workspace.Project, others []*placement.Placement) (groups []Group, roles []string) {
	c := &converter{Workspace: w, project: p, makesUnits: map[string]bool{}}
	for _, o := range others {
		for _, e := range o.Layout.Entries {
			if e.Unit != "" && !e.Folder && len(e.Kind()) > 0 {
				c.makesUnits[e.Kind()[0]] = true
			}
		}
	}
	p.Placement.Below(p.Placement.Top, func(in *tree.Folder, i int) bool {
		if in.Nodes[i].Folder == nil {
			c.meet(in, i, others)
		} else if role := in.Nodes[i].Folder; c.isRole(in, i, others) {
			roles = append(roles, role.Path())
		}
		return p.Placement.Seen(in, i)
	}, func(string, *tree.Node) {})
	if !slices.ContainsFunc(c.items, func(i *item) bool { return !i.there }) {
		return nil, nil
	}
	c.named()
	c.used()
	taken := map[string]int{}
	for _, i := range c.items {
		if !i.there {
			c.find(i)
			taken[i.goes]++
		}
	}
	var moving []*item
	for _, i := range c.items {
		if !i.there && i.goes != "" && taken[i.goes] == 1 && i.goes != i.path() {
			moving = append(moving, i)
		}
	}
	return c.grouped(moving), roles
}

// meet notes a file whose kind one of the other layouts knows.
func (c *converter) meet(in *tree.Folder, i int, others []*placement.Placement) {
	n := &in.Nodes[i]
	if n.Kind != tree.File || n.Ignored || !c.project.Placement.Seen(in, i) {
		return
	}
	here := c.project.Placement.Place(in, i)
	if here.State == placement.Placed && len(here.Entry.Kind()) > 0 {
		c.items = append(c.items, &item{folder: in, index: i, kind: here.Entry.Kind()[0], from: here.Entry, there: true, unit: unitOf(c.project.Placement, in, here.Entry, n.Name)})
		return
	}
	for _, o := range others {
		place := o.Place(in, i)
		if place.State != placement.Placed || len(place.Entry.Kind()) == 0 || placement.IsMarker(n.Name) && place.Entry.Spellings[0].Exact == "" {
			continue
		}
		kind := place.Entry.Kind()[0]
		if slices.ContainsFunc(c.project.Layout.Entries, func(e *layout.Entry) bool { return !e.Folder && slices.Contains(e.Kind(), kind) }) {
			c.items = append(c.items, &item{folder: in, index: i, kind: kind, from: place.Entry, unit: unitOf(o, in, place.Entry, n.Name)})
			return
		}
	}
}

// isRole says whether a folder is one for a kind in another layout, by its name, where this one has
// it for that of a unit, or has no place for it.
func (c *converter) isRole(in *tree.Folder, i int, others []*placement.Placement) bool {
	here := c.project.Placement.Place(in, i)
	if here.State == placement.Placed && here.Entry.Spellings[0].Exact != "" && !here.Entry.Need.Banned() {
		return false
	}
	return slices.ContainsFunc(others, func(o *placement.Placement) bool {
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
		if value, known := env.Get(captured); known && p.Units[captured] != nil {
			return value
		}
	}
	return ""
}

// named gives the files that stand for a unit by themselves, and then those of no unit that are called
// after one, as models/berth.py is after berths.
func (c *converter) named() {
	for _, i := range c.items {
		if i.unit == "" && !i.there && c.makesUnits[i.kind] {
			i.unit, _ = names.Testee(i.node().Name)
		}
		if i.unit != "" && !slices.ContainsFunc(c.units, func(u string) bool { return names.Same(u, i.unit) }) {
			c.units = append(c.units, i.unit)
		}
	}
	for _, i := range c.items {
		stem, _ := names.Testee(i.node().Name)
		if k := slices.IndexFunc(c.units, func(u string) bool { return names.SameInNumber(u, stem) }); i.unit == "" && k >= 0 {
			i.unit = c.units[k]
		}
	}
}

// used gives the files of no unit that only those of one use, tests apart, and so on from there.
func (c *converter) used() {
	graph, top := c.project.Placement.Graph, c.project.Placement.Top.Path()
	at := map[string]*item{}
	for _, i := range c.items {
		at[strings.TrimPrefix(i.path(), top)] = i
	}
	for more := true; more; {
		more = false
		for _, i := range c.items {
			if i.unit != "" || i.there || !c.divided(i.kind) {
				continue
			}
			of, own := map[string]bool{}, strings.TrimPrefix(i.path(), top)
			for _, e := range graph.To(own) {
				if _, test := names.Testee(path.Base(e.From)); test || placement.ForTests(path.Dir(e.From)+"/") || e.From == own {
					continue
				}
				unit := ""
				if user := at[e.From]; user != nil {
					unit = user.unit
				}
				of[unit] = true
			}
			if len(of) == 1 && !of[""] {
				for unit := range of {
					i.unit, more = unit, true
				}
			}
		}
	}
}

// grouped makes a group of what goes for each unit, and of each file of none.
func (c *converter) grouped(moving []*item) []Group {
	var all []Group
	of := map[string]int{}
	for _, i := range moving {
		k, known := of[i.unit]
		if !known || i.unit == "" {
			k = len(all)
			of[i.unit] = k
			all = append(all, Group{Kind: finding.Misplaced, Level: finding.Note, Path: i.path(), Converts: true})
		}
		all[k].Moves = append(all[k].Moves, changes.Move{From: i.path(), To: i.goes})
	}
	for k := range all {
		g, kinds := &all[k], []string{}
		unit := ""
		for _, i := range moving {
			if slices.ContainsFunc(g.Moves, func(m changes.Move) bool { return m.From == i.path() }) {
				unit = i.unit
				if !slices.Contains(kinds, i.kind) {
					kinds = append(kinds, i.kind)
				}
			}
		}
		g.Says = fmt.Sprintf("%s has %s in %s", c.project.Layout.Name, kinds[0], path.Dir(g.Moves[0].To)+"/")
		if unit != "" {
			g.Says = fmt.Sprintf("%s: %s of %s", c.project.Layout.Name, strings.Join(kinds, ", "), unit)
		}
		g.Makes = c.markers(g.Moves)
	}
	return all
}
