package placement

import (
	"slices"
	"strings"

	"dicaxon/internal/layout"
	"dicaxon/internal/names"
	"dicaxon/internal/tree"
)

// A pairer walks the repository and the layout together.
type pairer struct {
	*Placement
	// forEach lists the entries that name a unit outside it, with where they
	// were met: each unit wants one.
	forEach []forEach
	// doubtful lists folders that have a place for now, which a gap elsewhere
	// of their very name would explain better.
	doubtful []Stray
	counts   []int // per entry ID, of the folder in hand
	visited  int
	part     bool   // it pairs a part of a folder, beside others
	present  []bool // per entry ID, whether something stands under it; only of entries that others are wanted without
}

type forEach struct {
	entry  *layout.Entry
	folder *tree.Folder
	env    *layout.Env
	met    map[string]int // captured unit, in small letters without separators, to the index of its node
}

// deepChain holds the scopes of entries that hold at any depth, nearest first.
type deepChain struct {
	scope *layout.Scope
	env   *layout.Env
	next  *deepChain
}

func newPairer(in Input) *pairer {
	last := in.Top
	for {
		var below *tree.Folder
		for i := len(last.Nodes) - 1; i >= 0 && below == nil; i-- {
			below = last.Nodes[i].Folder
		}
		if below == nil {
			break
		}
		last = below
	}
	return &pairer{
		Placement: &Placement{Input: in, places: make([]folderPlace, last.ID-in.Top.ID+1), Units: map[string][]Unit{}},
		counts:    make([]int, len(in.Layout.Entries)),
		present:   make([]bool, len(in.Layout.Entries)),
	}
}

func (p *pairer) run() {
	var env *layout.Env
	for name, value := range p.Answers {
		if ask := p.Layout.Ask(name); ask != nil && !ask.Several {
			env = env.Bind(name, value)
		}
	}
	p.at(p.Top).place = Place{Placed, p.Layout.Root}
	p.folder(p.Top, env, nil)
	p.retake()
	p.each()
	p.excuse()
}

// below is what a folder tells the one above it.
type below struct {
	files int // for version control
	deep  int // files placed by an entry for any depth
	apart int // other projects
}

// folder pairs what is in a folder whose own place is known.
func (p *pairer) folder(f *tree.Folder, env *layout.Env, deep *deepChain) below {
	p.visited++
	p.Folders++
	here := p.at(f)
	if f.Unread || p.MostFolders > 0 && p.visited > p.MostFolders {
		here.env = env
		return below{files: 1}
	}
	e := here.place.Entry
	if here.place.State == Placed {
		if f == p.Top {
			env = p.bindAll(f, e, env)
		} else {
			env = p.bind(f, e, env)
		}
		if e.Scope.Deep != nil {
			deep = &deepChain{e.Scope.Deep, env, deep}
		}
	}
	here.env = env
	here.nodes = make([]Place, len(f.Nodes))
	bounds := p.classify(f, env, deep)
	if here.place.State == Placed {
		p.contest(f, env)
		if f == p.Top || !f.Kept() {
			p.count(f, env) // one that is only kept for later wants nothing yet
		}
	}
	return p.descend(f, env, deep, bounds)
}

// bindAll settles the captures of the project's own folder, and those of the folders in
// it, so that what is called after one in src/ is known by the whole name in tests/.
func (p *pairer) bindAll(f *tree.Folder, e *layout.Entry, env *layout.Env) *layout.Env {
	env = p.bind(f, e, env)
	for i := range f.Nodes {
		if n := &f.Nodes[i]; n.Folder != nil && !n.Ignored && !p.Apart[n.Folder] {
			if in := e.Scope.Exact(n.Name, true); in != nil && in.Scope != nil {
				env = p.bind(n.Folder, in, env)
			}
		}
	}
	return env
}

// bind settles the captures that stand for one thing only, such as the name of
// the application package: of the folders that fit, the one whose contents fit
// best. No folder is two such things.
func (p *pairer) bind(f *tree.Folder, e *layout.Entry, env *layout.Env) *layout.Env {
	var taken []string
	for _, c := range e.Entries {
		if !c.Folder || !c.Singular() || c.Spellings[0].Exact != "" {
			continue
		}
		if name, complete := c.Name(env); complete {
			taken = append(taken, name)
			continue
		}
		best, bound, is := 0, env, ""
		for i := range f.Nodes {
			n := &f.Nodes[i]
			if n.Folder == nil || n.Ignored || slices.Contains(taken, n.Name) || e.Scope.Exact(n.Name, true) != nil || p.CommonName(n.Name, f, n.Kind == tree.IsFolder) != nil {
				continue
			}
			if got, _, ok := c.Match(n.Name, env); ok && !p.slipFor(f, n, e, env) {
				fit := p.FitOf(n.Folder, c, got)
				if c.Scope != nil && c.Scope.Exact(n.Name, true) != nil && !fit.Certain() && fit.Share() < 0.5 {
					continue // what the layout has in it, and has not come there yet
				}
				if fit.Score() > best {
					best, bound, is = fit.Score(), got, n.Name
				}
			}
		}
		env, taken = bound, append(taken, is)
	}
	return env
}

// classify gives every node of the folder its place, and the names captured
// for those that capture any.
func (p *pairer) classify(f *tree.Folder, env *layout.Env, deep *deepChain) map[int]*layout.Env {
	here := p.at(f)
	var bounds map[int]*layout.Env
	for i := range f.Nodes {
		n := &f.Nodes[i]
		if n.Folder != nil && p.Apart[n.Folder] {
			here.nodes[i].State = Apart
			if here.place.State == Placed {
				here.nodes[i].Entry = here.place.Entry.Scope.Exact(n.Name, true) // it is there, whoever it belongs to
			}
			continue
		}
		place, bound := p.find(f, n, env, deep)
		if n.Ignored && (place.State == Unplaced || place.State == Free) {
			place.State = Hidden
		}
		here.nodes[i] = place
		if bound != env && n.Folder != nil {
			if bounds == nil {
				bounds = map[int]*layout.Env{}
			}
			bounds[i] = bound
		}
	}
	return bounds
}

// find gives the place of one node. What only a folder's contents tell is told
// here.
func (p *pairer) find(f *tree.Folder, n *tree.Node, env *layout.Env, deep *deepChain) (Place, *layout.Env) {
	here := p.at(f)
	if n.Kind == tree.Link {
		// A link stands for the file or the folder that it leads to.
		if place, bound := p.findAs(here, n.Name, true, env, deep, p.isTop(f), true); place.State == Placed {
			return place, bound
		}
	}
	place, bound := p.findAs(here, n.Name, n.Kind == tree.IsFolder, env, deep, p.isTop(f), n.Kind == tree.Link)
	if place.State == Placed && n.Folder != nil && !n.Ignored && place.Entry.CatchAll() && place.Entry.Parent == here.place.Entry {
		if _, settled := place.Entry.Name(env); !settled && !p.FitOf(n.Folder, place.Entry, bound).Likely() && !nearly(n.Folder, place.Entry, bound) {
			return Place{Unplaced, place.Entry}, env
		}
	}
	return place, bound
}

func (p *Placement) isTop(f *tree.Folder) bool { return f == p.Top || f.Parent == nil }

// findAs gives the place of a name: an exact one, here or for any depth, before a
// pattern, and a commonplace name before a pattern that fits anything. Unsettled
// says whether a captured name that stands for one thing may be any.
func (p *Placement) findAs(here *folderPlace, name string, folder bool, env *layout.Env, deep *deepChain, top, unsettled bool) (Place, *layout.Env) {
	var scope *layout.Scope
	if here.place.State == Placed {
		scope = here.place.Entry.Scope
	}
	if scope != nil {
		if e := scope.Exact(name, folder); e != nil {
			return Place{Placed, e}, env
		}
		if e := scope.Settled(name, folder, env); e != nil {
			return Place{Placed, e}, env
		}
		if e := p.Layout.Document(name); e != nil && !folder && here.place.Entry == p.Layout.Root {
			return Place{Placed, e}, env
		}
	}
	for d := deep; d != nil; d = d.next {
		if e := d.scope.Exact(name, folder); e != nil {
			return Place{Placed, e}, env
		}
	}
	var general *layout.Entry
	var generalEnv *layout.Env
	if scope != nil {
		if e, bound := scope.Pattern(name, folder, env); e != nil {
			// What is inside a unit and bears the unit's name is as good as exact.
			if _, complete := e.Name(env); complete || !e.CatchAll() {
				return Place{Placed, e}, bound
			}
			general, generalEnv = e, bound
		}
	}
	for d := deep; d != nil; d = d.next {
		if e, bound := d.scope.Pattern(name, folder, d.env); e != nil {
			return Place{Placed, e}, bound
		}
	}
	if general == nil && free(here) {
		if e := p.commonplace(name, folder, top); e != nil {
			return Place{Common, e}, env
		}
		return Place{State: Free}, env
	}
	// A text for people may be anywhere, but a misspelt README is none for that.
	if e := p.commonplace(name, folder, top); e != nil && !e.Anywhere() {
		return Place{Common, e}, env
	}
	// The capture of a thing that stands once was settled by bind.
	if general != nil && (unsettled || !general.Singular()) {
		return Place{Placed, general}, generalEnv
	}
	return Place{}, env
}

// nearly says whether something in the folder is called nearly like what must
// be there.
func nearly(f *tree.Folder, e *layout.Entry, env *layout.Env) bool {
	return slices.ContainsFunc(e.Entries, func(c *layout.Entry) bool {
		name, complete := c.Name(env)
		return complete && c.Need == layout.Must && slices.ContainsFunc(f.Nodes, func(n tree.Node) bool {
			return (n.Folder != nil) == c.Folder && names.Near(n.Name, name) < names.Apart
		})
	})
}

func free(here *folderPlace) bool {
	switch here.place.State {
	case Placed:
		e := here.place.Entry
		return e.Others == layout.May || len(e.Entries) == 0 && e.Parent != nil
	case Free, Common:
		return true
	}
	return false
}

// looksLike says whether a node under a name close to that of c is c rather
// than what its place says: c is wanted and nothing shows the contrary, or the
// folder holds what makes c what it is.
func (p *pairer) looksLike(n *tree.Node, c, place *layout.Entry, env *layout.Env) bool {
	if n.Folder == nil {
		return c.Need.Wanted()
	}
	fit := p.FitOf(n.Folder, c, env)
	if place.Layout != c.Layout && !fit.Open && fit.Nodes > 0 && fit.Fits == 0 {
		return false // it is only called so
	}
	return c.Need.Wanted() && !p.FitOf(n.Folder, place, env).Certain() || fit.Certain()
}

// slipFor says whether a folder is called nearly like one that the layout has
// here under a name of its own, is absent, and would hold what the folder does.
func (p *pairer) slipFor(f *tree.Folder, n *tree.Node, e *layout.Entry, env *layout.Env) bool {
	return slices.ContainsFunc(e.Entries, func(c *layout.Entry) bool {
		name, complete := c.Name(env)
		return complete && c.Folder && !c.Deep && f.Find(name) == nil && names.Near(n.Name, name) < names.Apart && p.FitOf(n.Folder, c, env).Fits > 0
	})
}

// contestable says whether the place of a node says so little of it that its name
// may be a slip for something else: a pattern gave it, or its name is common.
func (p *pairer) contestable(n *tree.Node, place Place) bool {
	switch place.State {
	case Placed:
		return place.Entry.Spellings[0].Exact == ""
	case Common:
		return n.Folder != nil && !place.Entry.Deep && place.Entry.MadeBy == ""
	case Free:
		return true
	}
	return false
}

// meant says whether a node that is called nearly like what the layout has here is meant
// for that: by what it holds or, of a file that may have any name, because it is wanted.
func (p *pairer) meant(n *tree.Node, c, placed *layout.Entry, env *layout.Env) bool {
	switch {
	case placed != nil:
		return p.looksLike(n, c, placed, env)
	case n.Folder != nil:
		return p.FitOf(n.Folder, c, env).Likely()
	}
	return c.Need.Wanted()
}

// contest takes a name back from a pattern where it looks like a slip for
// something that the layout wants in this folder and that is not there.
func (p *pairer) contest(f *tree.Folder, env *layout.Env) {
	here := p.at(f)
	for _, c := range here.place.Entry.Entries {
		name, complete := c.Name(env)
		if c.Deep || !complete || c.Need.Banned() || Stands(f, c, env) {
			continue
		}
		for i := range f.Nodes {
			n, place := &f.Nodes[i], &here.nodes[i]
			if (n.Folder != nil) != c.Folder || n.Ignored || !p.contestable(n, *place) {
				continue
			}
			// A name that differs in case or separators only is never another one, but of what
			// may be called after its unit and need not be, or has a mark: main.py beside __main__.py.
			slip := names.Near(n.Name, name)
			after := !c.Folder && !c.Need.Wanted() && (c.Spellings[0].Exact == "" || strings.HasPrefix(name, "_") != strings.HasPrefix(n.Name, "_"))
			if slip <= names.Separator && !after || slip < names.Apart && p.meant(n, c, place.Entry, env) {
				*place = Place{Unplaced, place.Entry}
			}
		}
	}
}
