package realign

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/changes"
	"dicaxon/internal/layout"
	"dicaxon/internal/names"
	"dicaxon/internal/placement"
	"dicaxon/internal/refs"
	"dicaxon/internal/tree"
)

// find looks for where the layout has a file of that kind: in its unit, or where it has none, or the
// layout does not divide that kind, where all of the kind lie. Of several places the one counts that is for
// that kind first, then the one that a new project would have, and then the one that takes the fewest new
// folders.
func (c *converter) find(i *item) {
	if at := c.besideTested(i); at != "" {
		if c.free(at) {
			i.goes, i.kind = at, i.kinds[0]
		}
		return
	}
	for _, kind := range i.kinds {
		for _, ofUnits := range []bool{true, false} {
			if ofUnits && i.unit == "" && !c.calls(i) {
				continue
			}
			best := 0
			for _, e := range c.own[kind] {
				if ofUnits != (c.divides(e) && (i.unit != "" || inUnit(e))) || !c.takes(i, e) {
					continue
				}
				at, cost := c.pathOf(i, e)
				if cost > 0 && e.Starter == "" {
					cost += mostFolders // another spelling of what a new project would have
				}
				cost += slices.Index(e.Kind(), kind) * mostFolders * mostFolders
				if at != "" && c.free(at) && (i.goes == "" || cost < best) && !c.leavesTests(i, at) {
					i.goes, i.kind, best = at, kind, cost
				}
			}
			if i.goes != "" {
				return
			}
		}
	}
}

// takes says whether an entry may have a file that comes from elsewhere: nothing comes out of a folder to the
// top, and of several kinds its text has to show which it is.
func (c *converter) takes(i *item, e *layout.Entry) bool {
	outOf := e.Parent == c.project.Layout.Root && i.folder != c.project.Placement.Top
	return !outOf && !e.Need.Banned() && e.MadeBy == "" && (len(i.kinds) == 1 || c.shows(i, e))
}

// leavesTests says whether a file of tests would come out of them, where it is not for one file there.
func (c *converter) leavesTests(i *item, to string) bool {
	return placement.ForTests(i.folder.Path()) && !placement.ForTests(path.Dir(to)+"/")
}

// mostFolders is more than a path has folders.
const mostFolders = 1000

// besideTested gives the path of a test beside what it tests, where the layout has tests of its kind there,
// "" where not.
func (c *converter) besideTested(i *item) string {
	p := c.project.Placement
	testee, test := names.Testee(i.node().Name)
	if !test || !placement.ForTests(i.folder.Path()) {
		return ""
	}
	at := ""
	for _, e := range p.Graph.From(c.below(i)) {
		for _, to := range e.To {
			if names.BeforeDot(path.Base(to)) != testee || placement.ForTests(path.Dir(to)+"/") {
				continue
			}
			if beside := path.Join(path.Dir(to), i.node().Name); at == "" || at == beside {
				at = beside
			} else {
				return "" // it tests several of that name
			}
		}
	}
	if at == "" {
		return ""
	}
	place := p.Lookup(at)
	if place.State != placement.Placed || !slices.ContainsFunc(place.Entry.Kind(), func(kind string) bool { return slices.Contains(i.kinds, kind) }) {
		return ""
	}
	return p.Top.Path() + at
}

// companions lets what is no code, such as a style sheet, go with the one file that imports it, where the
// layout has a place for it there.
func (c *converter) companions() {
	p := c.project.Placement
	for _, i := range c.items {
		users := p.Graph.To(c.below(i))
		if refs.IsCode(i.node().Name) || len(users) != 1 || users[0].Ref.Kind != refs.Import || path.Dir(users[0].From) != path.Dir(c.below(i)) {
			continue
		}
		with := c.at[users[0].From]
		if with == nil || with.goes == "" {
			continue
		}
		beside := path.Join(path.Dir(with.goes), i.node().Name)
		if p.Lookup(strings.TrimPrefix(beside, p.Top.Path())).State == placement.Placed && c.free(beside) {
			i.goes, i.unit, i.kind = beside, with.unit, i.kinds[0]
		}
	}
}

// shows says whether the text of a file shows that it is what an entry is for, as far as that says.
func (c *converter) shows(i *item, e *layout.Entry) bool {
	if e.Shows == nil {
		return true
	}
	text, err := c.Repository.Text(i.path())
	return err == nil && e.ShownIn(text)
}

// inUnit says whether an entry lies in a folder of a unit.
func inUnit(e *layout.Entry) bool {
	return slices.ContainsFunc(e.Chain(), func(up *layout.Entry) bool { return up.Unit != "" })
}

// unitIn gives the name of the unit of a file as the folder of a unit has it: of one that has none, what
// the project says that it would be.
func (c *converter) unitIn(i *item, up *layout.Entry) string {
	switch ask := c.project.Layout.Ask(up.Unit); {
	case up.Unit == "":
		return ""
	case i.unit != "":
		return names.To(up.ShapeOf(up.Unit), i.unit)
	case ask != nil:
		return c.said(ask)
	}
	return ""
}

// said gives what the project says of itself that a question asks for, "" for nothing. It is looked for once.
func (c *converter) said(ask *layout.Ask) string {
	answer, known := c.found[ask]
	if !known {
		answer = ask.Found(func(at string) []byte {
			text, _ := c.Repository.Text(c.project.Placement.Top.Path() + at)
			return text
		})
		c.found[ask] = answer
	}
	return answer
}

// calls says whether the project says what a unit of the kind of a file is called.
func (c *converter) calls(i *item) bool {
	return slices.ContainsFunc(i.kinds, func(kind string) bool {
		return slices.ContainsFunc(c.own[kind], func(e *layout.Entry) bool {
			return slices.ContainsFunc(e.Chain(), func(up *layout.Entry) bool { return c.unitIn(i, up) != "" })
		})
	})
}

// divides says whether an entry stands once for each unit.
func (c *converter) divides(e *layout.Entry) bool {
	return e.Unit != "" || inUnit(e) ||
		slices.ContainsFunc(e.Spellings[0].Captures(), func(name string) bool { return c.project.Layout.IsUnit(name) })
}

// divided says whether the layout has files of one of some kinds in units.
func (c *converter) divided(kinds []string) bool {
	return slices.ContainsFunc(kinds, func(kind string) bool { return slices.ContainsFunc(c.own[kind], c.divides) })
}

// free says whether nothing lies at a path that stays.
func (c *converter) free(at string) bool { return c.Repository.Top.At(at) == nil }

// pathOf gives the path of a file as an entry of the layout has it, "" where some name on the way is
// not known, and how many folders it takes that are not there.
func (c *converter) pathOf(i *item, e *layout.Entry) (to string, makes int) {
	p := c.project.Placement
	_, env := p.Folder(p.Top)
	to, in := p.Top.Path(), p.Top
	for _, up := range e.Chain() {
		name, known := "", false
		if env, name, in, known = c.step(i, up, env, in); !known {
			return "", 0
		}
		to += name + "/"
		if in == nil {
			makes++
		}
	}
	if below := c.further(i); below != "" {
		if !e.Deep {
			return "", 0 // folders of its own say what it is, and would be lost
		}
		to += below
	}
	if name := c.leaf(i, e, env); name != "" {
		return to + name, makes
	}
	return "", 0
}

// further gives the folders between that of the entry which a file has in the layout that knows it, and the
// file: of what may lie at any depth.
func (c *converter) further(i *item) (below string) {
	if !i.from.Deep || i.from.Parent == nil {
		return ""
	}
	for f := i.folder; f != nil && f != c.project.Placement.Top; f = f.Parent {
		if slices.ContainsFunc(append(slices.Clone(c.others), c.project.Placement), func(o *placement.Placement) bool {
			place, _ := o.Folder(f)
			return place.State == placement.Placed && place.Entry == i.from.Parent
		}) {
			return below
		}
		below = f.Name + "/" + below
	}
	return ""
}

// step goes into the folder of an entry: the one that is there, or the one that the unit is called
// after, in nil where that is not there.
func (c *converter) step(i *item, up *layout.Entry, env *layout.Env, in *tree.Folder) (*layout.Env, string, *tree.Folder, bool) {
	p := c.project.Placement
	if up.Deep {
		return env, "", nil, false
	}
	if unit := c.unitIn(i, up); unit != "" {
		env = env.Bind(up.Unit, unit)
	}
	for k := range up.Spellings {
		name, whole := up.Spellings[k].Fill(env)
		if whole && in != nil && in.HasFolder(name) {
			return env, name, in.Find(name).Folder, true
		}
	}
	if in != nil && up.Unit == "" && up.Spellings[0].Exact == "" {
		for k := range in.Nodes {
			if n := &in.Nodes[k]; n.Folder != nil {
				if place := p.Place(in, k); place.State == placement.Placed && place.Entry == up {
					_, bound := p.Folder(n.Folder)
					return bound, n.Name, n.Folder, true
				}
			}
		}
	}
	for _, captured := range up.Spellings[0].Captures() {
		if _, known := env.Get(captured); known || up.Unit != "" {
			continue
		}
		if c.answers == nil {
			c.answers = Answers(c.project)
		}
		if answer := c.answers[captured]; answer != "" {
			env = env.Bind(captured, answer)
		}
	}
	name, whole := up.Name(env)
	_, _, fits := up.Match(name, env)
	return env, name, nil, whole && fits
}

// unhidden leaves out what would go to a new folder that is called as a module beside it which stays:
// one of the two hides the other.
func (c *converter) unhidden(moving []*item) []*item {
	for {
		goes := pathsOf(moving)
		kept := slices.DeleteFunc(slices.Clone(moving), func(i *item) bool {
			for dir := path.Dir(i.goes); dir != "."; dir = path.Dir(dir) {
				if module := dir + ".py"; c.Repository.Top.At(dir) == nil && c.Repository.Top.HasFile(module) && !goes[module] {
					return true
				}
			}
			return false
		})
		if len(kept) == len(moving) {
			return kept
		}
		moving = kept
	}
}

// leaf gives the name of a file as an entry has it, in the spelling of its ending; its own where the
// entry leaves that open, or the unit's where its own says nothing but its kind.
func (c *converter) leaf(i *item, e *layout.Entry, env *layout.Env) string {
	own := i.node().Name
	if exact := e.Spellings[0].Exact != ""; exact && (i.unit == "" && i.from.Spellings[0].Exact == "" || i.unit != "" && inUnit(i.from) && !inUnit(e)) {
		return "" // the name of one thing says nothing of another, and what each unit has is none of all
	}
	for _, captured := range e.Spellings[0].Captures() {
		if _, known := env.Get(captured); !known && c.project.Layout.IsUnit(captured) {
			env = env.Bind(captured, names.To(e.ShapeOf(captured), i.unit))
		}
	}
	if slices.ContainsFunc(e.Spellings, func(s layout.Pattern) bool { name, whole := s.Fill(env); return whole && name == own }) {
		return own
	}
	stem, _ := names.Testee(own)
	for k := range e.Spellings {
		s := &e.Spellings[k]
		name, whole := s.Fill(env)
		if _, fits := s.Match(own, nil); fits && s.Exact == "" && i.from.Spellings[0].Exact == "" && (i.unit == "" || names.SameInNumber(stem, i.unit)) {
			return own // it is called after its unit already
		}
		switch {
		case s.Ending != "" && !strings.HasSuffix(own, s.Ending) || path.Ext(name) != path.Ext(own):
		case whole:
			return name
		case i.from.Spellings[0].Exact != "" && i.unit != "":
			name = names.To(names.Snake, i.unit) + path.Ext(own)
			if _, fits := s.Match(name, env); fits {
				return name
			}
		default:
			if _, fits := s.Match(own, env); fits {
				return own
			}
		}
	}
	return ""
}

// markers gives the files by which folders are packages, for those that moves would make and that
// none of them brings one.
func (c *converter) markers(moves []changes.Move) (all []changes.Make) {
	comes := map[string]bool{}
	for _, m := range moves {
		comes[m.To] = true
	}
	for _, m := range moves {
		for dir := path.Dir(m.To); dir != "." && c.Repository.Top.At(dir) == nil; dir = path.Dir(dir) {
			around := c.project.Placement.Lookup(strings.TrimPrefix(dir, c.project.Placement.Top.Path()) + "/")
			at := path.Join(dir, packageMarker)
			wanted := around.Entry != nil && slices.ContainsFunc(around.Entry.Entries, func(e *layout.Entry) bool { return e.Spellings[0].Exact == packageMarker && e.Need.Wanted() })
			if comes[at] || !wanted && !c.Repository.Top.HasFile(path.Join(path.Dir(m.From), packageMarker)) {
				continue
			}
			comes[at] = true
			all = append(all, changes.Make{Path: at})
		}
	}
	return all
}

// packageMarker is the name of what says no more than that a folder is a package.
const packageMarker = "__init__.py"
