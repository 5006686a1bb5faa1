// Package extend adds a unit to a project: its files from the layout's starters, in the
// spelling of those that are there already, and the lines that wire it in.
package extend

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
	"dicaxon/internal/realign"
	"dicaxon/internal/scaffold"
	"dicaxon/internal/tree"
	"dicaxon/internal/workspace"
)

// Options say what is added.
type Options struct {
	Unit    string
	Name    string // with the names of the units around it before it, "/" between them
	Answers map[string]string
	Only    []string // of its files only those of these names, or in folders of these names; all if empty
}

// A Kind is one kind of unit that a project may have.
type Kind struct {
	Unit  string   `json:"unit"`
	Role  string   `json:"role"`
	Entry string   `json:"entry"`
	There []string `json:"there"`
}

// Kinds lists the kinds of units that a project may have more of.
func Kinds(p *workspace.Project) []Kind {
	var all []Kind
	there := p.Placement.UnitNames()
	for _, e := range p.Layout.Entries {
		if e.Unit == "" || banned(e) || slices.ContainsFunc(all, func(k Kind) bool { return k.Unit == e.Unit }) {
			continue
		}
		all = append(all, Kind{e.Unit, e.Role, e.Path(), there[e.Unit]})
	}
	return all
}

// banned says whether a layout wants neither an entry nor what is around it.
func banned(e *layout.Entry) bool {
	for ; e != nil; e = e.Parent {
		if e.Need.Banned() {
			return true
		}
	}
	return false
}

// An adder adds one unit to one project.
type adder struct {
	*workspace.Workspace
	project *workspace.Project
	*placement.Placement
	o      Options
	value  string         // what is captured
	spelt  []changes.Move // what the units that are there call otherwise than the starters
	around []string       // the names of the units around it
	group  realign.Group
}

// Add plans a unit. The error says what of the call cannot be.
func Add(w *workspace.Workspace, p *workspace.Project, o Options) (*realign.Group, error) {
	a := &adder{Workspace: w, project: p, Placement: p.Placement, o: o}
	parts := strings.Split(strings.Trim(o.Name, "/"), "/")
	a.around = parts[:len(parts)-1]
	var entries []*layout.Entry
	for _, e := range p.Layout.Entries {
		if e.Unit == o.Unit && !banned(e) {
			entries = append(entries, e)
		}
	}
	if len(entries) == 0 {
		return nil, noUnit(p, o.Unit)
	}
	if err := a.name(entries[0], parts[len(parts)-1]); err != nil {
		return nil, err
	}
	a.group = realign.Group{Kind: finding.Missing, Level: finding.Note, Says: o.Unit + " " + a.value, Asked: true}
	e, spot, err := a.best(entries)
	if err != nil {
		return nil, err
	}
	if err := a.make(e, *spot); err != nil {
		return nil, err
	}
	if len(a.group.Makes) == 0 {
		return nil, fmt.Errorf("%s has no first text for a %s; make it by hand, and `dicaxon check` says what it lacks", p.Layout.Name, o.Unit)
	}
	if err := a.counterparts(entries); err != nil {
		return nil, err
	}
	a.asSpelt()
	a.only()
	return &a.group, nil
}

func noUnit(p *workspace.Project, unit string) error {
	var known []string
	for _, k := range Kinds(p) {
		known = append(known, k.Unit)
	}
	switch meant := names.Closest(unit, known); {
	case len(known) == 0:
		return fmt.Errorf("%s has no units to be added", p.Layout.Name)
	case meant != "":
		return fmt.Errorf("%s has no unit called %s; did you mean %s?", p.Layout.Name, unit, meant)
	}
	return fmt.Errorf("%s has no unit called %s; it has %s", p.Layout.Name, unit, strings.Join(known, ", "))
}

// name settles what the unit is called: in the shape that the layout has for it.
func (a *adder) name(e *layout.Entry, name string) error {
	a.value = name
	if shape := e.ShapeOf(a.o.Unit); shape != "" && !shape.Own() {
		a.value = names.To(shape, name)
	}
	if a.value == "" {
		return fmt.Errorf("%q cannot be the name of a %s", name, a.o.Unit)
	}
	if ask := a.project.Layout.Ask(a.o.Unit); ask != nil {
		if ask.Shape != "" && !ask.Shape.Own() {
			a.value = names.To(ask.Shape, name)
		}
		if err := ask.Check(a.value); err != nil {
			return err
		}
	}
	if err := layout.PlainName(a.value); err != nil {
		return fmt.Errorf("%q cannot be the name of a %s: %w", name, a.o.Unit, err)
	}
	for _, u := range a.Units[a.o.Unit] {
		if known, _ := u.Env.Get(a.o.Unit); names.Same(known, a.value) && a.within(u.Env) {
			return fmt.Errorf("%s %s is there already: %s", a.o.Unit, known, u.Folder.Path())
		}
	}
	return nil
}

// within says whether captured names hold those of the units around that were given.
func (a *adder) within(env *layout.Env) bool {
	for _, name := range a.around {
		found := false
		for at := env; at != nil; at = at.Next {
			found = found || names.Same(at.Value, name)
		}
		if !found {
			return false
		}
	}
	return true
}

// best gives the entry and the place that the unit has: those that most of its kind have,
// else those of the layout.
func (a *adder) best(entries []*layout.Entry) (*layout.Entry, *placement.Spot, error) {
	if entry, spot := a.beside(); spot != nil && unitAround(entry) == "" {
		return entry, spot, nil
	}
	var entry *layout.Entry
	var best *placement.Spot
	most := -1
	for _, e := range entries {
		spot, err := a.spot(e)
		if err != nil {
			return nil, nil, err
		}
		if spot == nil {
			continue
		}
		n := 2 * a.siblings(e, *spot)
		if spot.Folder != nil {
			n++
		}
		if n > most {
			entry, best, most = e, spot, n
		}
	}
	if best == nil {
		return nil, nil, fmt.Errorf("there is no place for %s %s here", a.o.Unit, a.value)
	}
	return entry, best, nil
}

// beside gives the folder in which most units of the kind lie, with their entry.
func (a *adder) beside() (*layout.Entry, *placement.Spot) {
	type home struct {
		entry *layout.Entry
		in    *tree.Folder
	}
	count := map[home]int{}
	var order []home
	for _, u := range a.Units[a.o.Unit] {
		h := home{u.Entry, u.Folder}
		if u.Entry.Folder {
			h.in = u.Folder.Parent
		}
		if h.in == nil || banned(u.Entry) || u.Entry.Deep {
			continue
		}
		if count[h]++; count[h] == 1 {
			order = append(order, h)
		}
	}
	var best *home
	for i := range order {
		if best == nil || count[order[i]] > count[*best] {
			best = &order[i]
		}
	}
	if best == nil {
		return nil, nil
	}
	_, env := a.Folder(best.in)
	return best.entry, &placement.Spot{Path: strings.TrimPrefix(best.in.Path(), a.Top.Path()), Folder: best.in, Env: env}
}

// spot gives the folder that the unit comes into: where most of its kind lie, below the
// units that were named. It is nil where the entry has none.
func (a *adder) spot(e *layout.Entry) (*placement.Spot, error) {
	spots := slices.DeleteFunc(a.Spots(e), func(s placement.Spot) bool { return s.Open || !a.within(s.Env) })
	if len(spots) == 0 {
		if len(a.around) > 0 {
			return nil, fmt.Errorf("there is no %s here; `dicaxon add` lists what there is", strings.Join(a.around, "/"))
		}
		return nil, nil
	}
	if len(a.around) == 0 {
		var many []string
		for _, s := range spots {
			if unit := unitAround(e); unit != "" {
				if name, ok := s.Env.Get(unit); ok {
					many = append(many, name)
				}
			}
		}
		if len(many) > 1 {
			return nil, fmt.Errorf("which %s? `dicaxon add %s %s/%s` puts it into %s", unitAround(e), a.o.Unit, many[0], a.o.Name, many[0])
		}
	}
	best := 0
	for i := range spots {
		if a.siblings(e, spots[i]) > a.siblings(e, spots[best]) {
			best = i
		}
	}
	return &spots[best], nil
}

func unitAround(e *layout.Entry) string {
	for up := e.Parent; up != nil; up = up.Parent {
		if up.Unit != "" {
			return up.Unit
		}
	}
	return ""
}

// siblings counts the nodes of an entry in a folder.
func (a *adder) siblings(e *layout.Entry, s placement.Spot) int {
	n := 0
	if s.Folder != nil {
		for i := range s.Folder.Nodes {
			if place := a.Place(s.Folder, i); place.State == placement.Placed && place.Entry == e {
				n++
			}
		}
	}
	return n
}

// make plans the files of an entry in a place.
func (a *adder) make(e *layout.Entry, s placement.Spot) error {
	env := s.Env.Bind(a.o.Unit, a.value)
	answers := realign.Answers(a.project)
	for key, value := range a.o.Answers {
		answers[key] = value
		env = env.Bind(key, value)
	}
	units := a.UnitNames()
	units[a.o.Unit] = append(slices.Clone(units[a.o.Unit]), a.value)
	items, err := scaffold.Part(a.project.Layout, e, s.Path, env, answers, units)
	if err != nil {
		return err
	}
	top := a.Top.Path()
	for _, item := range items {
		at := a.spelled(item.Path, item.Entry, e, s)
		if at != item.Path && !strings.HasSuffix(at, "/") {
			a.spelt = append(a.spelt, changes.Move{From: top + item.Path, To: top + at})
		}
		if n := a.Repository.Top.At(strings.TrimSuffix(top+at, "/")); n != nil && !strings.HasSuffix(at, "/") {
			return fmt.Errorf("%s is there already", top+at)
		}
		if strings.HasSuffix(at, "/") || !a.customary(item, e) {
			continue
		}
		item.Path = at
		a.group.Makes = append(a.group.Makes, item.Made(top))
	}
	if a.group.Path == "" && len(a.group.Makes) > 0 {
		name, _ := e.Name(env)
		a.group.Path = top + s.Path + name
		if e.Folder {
			a.group.Path += "/"
		}
	}
	return nil
}

// only keeps to the files that were asked for, and to what must be there.
func (a *adder) only() {
	if len(a.o.Only) == 0 {
		return
	}
	a.group.Makes = slices.DeleteFunc(a.group.Makes, func(m changes.Make) bool {
		return !slices.ContainsFunc(a.o.Only, func(word string) bool {
			return path.Base(m.Path) == word || strings.Contains("/"+m.Path, "/"+strings.Trim(word, "/")+"/") || names.BeforeDot(path.Base(m.Path)) == word
		})
	})
}
