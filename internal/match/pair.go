package match

import (
	"slices"

	"dicaxon/internal/layout"
	"dicaxon/internal/names"
	"dicaxon/internal/tree"
)

// A pairer walks the repository and the layout together.
type pairer struct {
	in     Input
	result *Result
	strays []stray
	gaps   []gap
	// units lists the units met, by the captured name that tells them apart.
	units map[string][]unit
	// forEach lists the entries that name a unit outside it, with where they
	// were met: each unit wants one.
	forEach []forEach
	// doubtful lists folders that have a place for now, which a gap elsewhere
	// of their very name would explain better.
	doubtful []stray
	counts   []int // per entry ID, of the folder in hand
	visited  int
	part     bool // it pairs a part of a folder, beside others
}

// A unit is one met: what was captured, and the folder it is or lies in.
type unit struct {
	env    *layout.Env
	folder *tree.Folder
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
		in:     in,
		result: &Result{in: in, places: make([]folderPlace, last.ID-in.Top.ID+1)},
		units:  map[string][]unit{},
		counts: make([]int, len(in.Layout.Entries)),
	}
}

func (p *pairer) run() {
	var env *layout.Env
	for name, value := range p.in.Answers {
		if ask := p.in.Layout.Ask(name); ask != nil && !ask.Several {
			env = env.Bind(name, value)
		}
	}
	p.at(p.in.Top).place = Place{Placed, p.in.Layout.Root}
	p.folder(p.in.Top, env, nil)
	p.retake()
	p.each()
}

func (p *pairer) at(f *tree.Folder) *folderPlace { return &p.result.places[f.ID-p.in.Top.ID] }

// below is what a folder tells the one above it.
type below struct {
	files int // for version control
	deep  int // files placed by an entry for any depth
	apart int // other projects
}

// folder pairs what is in a folder whose own place is known.
func (p *pairer) folder(f *tree.Folder, env *layout.Env, deep *deepChain) below {
	p.visited++
	p.result.Folders++
	here := p.at(f)
	if f.Unread || p.in.MostFolders > 0 && p.visited > p.in.MostFolders {
		here.env = env
		return below{files: 1}
	}
	e := here.place.Entry
	if here.place.State == Placed {
		env = p.bind(f, e, env)
		if e.Scope.Deep != nil {
			deep = &deepChain{e.Scope.Deep, env, deep}
		}
	}
	here.env = env
	here.nodes = make([]Place, len(f.Nodes))
	bounds := p.classify(f, env, deep)
	if here.place.State == Placed {
		p.contest(f, env)
		p.count(f, env)
	}
	return p.descend(f, env, deep, bounds)
}

// bind settles the captures that stand for one thing only, such as the name of
// the application package: of the folders that fit, the one whose contents fit
// best.
func (p *pairer) bind(f *tree.Folder, e *layout.Entry, env *layout.Env) *layout.Env {
	for _, c := range e.Entries {
		if !c.Folder || !c.Singular() || c.Spellings[0].Exact != "" {
			continue
		}
		if _, complete := c.Name(env); complete {
			continue
		}
		best, bound := 0, env
		for i := range f.Nodes {
			n := &f.Nodes[i]
			if n.Folder == nil || n.Ignored || e.Scope.Exact(n.Name, true) != nil || p.commonplace(n, f) != nil {
				continue
			}
			if got, _, ok := c.Match(n.Name, env); ok && !p.slipFor(f, n, e, env) {
				if fit := p.fitOf(n.Folder, c, got); fit.score() > best {
					best, bound = fit.score(), got
				}
			}
		}
		env = bound
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
		if n.Folder != nil && p.in.Apart[n.Folder] {
			here.nodes[i].State = Apart
			continue
		}
		place, bound := p.find(f, n, env, deep)
		if n.Ignored && (place.State == Stray || place.State == Free) {
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

// find gives the place of one node: an exact name, here or for any depth,
// before a pattern, and a commonplace name before a pattern that fits anything.
func (p *pairer) find(f *tree.Folder, n *tree.Node, env *layout.Env, deep *deepChain) (Place, *layout.Env) {
	here := p.at(f)
	if n.Kind == tree.Link {
		// A link stands for the file or the folder that it leads to.
		if place, bound := p.findAs(here, f, n, env, deep, true); place.State == Placed {
			return place, bound
		}
	}
	return p.findAs(here, f, n, env, deep, n.Kind == tree.IsFolder)
}

func (p *pairer) findAs(here *folderPlace, f *tree.Folder, n *tree.Node, env *layout.Env, deep *deepChain, folder bool) (Place, *layout.Env) {
	var scope *layout.Scope
	if here.place.State == Placed {
		scope = here.place.Entry.Scope
		if e := scope.Exact(n.Name, folder); e != nil {
			return Place{Placed, e}, env
		}
		if e := scope.Settled(n.Name, folder, env); e != nil {
			return Place{Placed, e}, env
		}
	}
	for d := deep; d != nil; d = d.next {
		if e := d.scope.Exact(n.Name, folder); e != nil {
			return Place{Placed, e}, env
		}
	}
	var general *layout.Entry
	var generalEnv *layout.Env
	if scope != nil {
		if e, bound := scope.Pattern(n.Name, folder, env); e != nil {
			if !e.CatchAll() {
				return Place{Placed, e}, bound
			}
			general, generalEnv = e, bound
			// So is one inside a unit that bears the unit's name.
			if _, complete := e.Name(env); complete {
				return Place{Placed, e}, bound
			}
		}
	}
	for d := deep; d != nil; d = d.next {
		if e, bound := d.scope.Pattern(n.Name, folder, d.env); e != nil {
			return Place{Placed, e}, bound
		}
	}
	if general == nil && p.free(here) {
		return Place{State: Free}, env
	}
	if e := p.commonplace(n, f); e != nil {
		return Place{Commonplace, e}, env
	}
	if general != nil {
		return p.general(n, general, generalEnv, env)
	}
	return Place{}, env
}

// general places a node under an entry whose name fits anything, such as the
// folder of a unit. A folder must look like one; the capture of a thing that
// stands once was settled by bind.
func (p *pairer) general(n *tree.Node, e *layout.Entry, bound, env *layout.Env) (Place, *layout.Env) {
	if e.Singular() && n.Kind != tree.Link {
		return Place{}, env
	}
	if n.Folder != nil && !n.Ignored && !p.fitOf(n.Folder, e, bound).likely() && !nearly(n.Folder, e, bound) {
		return Place{Stray, e}, env
	}
	return Place{Placed, e}, bound
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

func (p *pairer) free(here *folderPlace) bool {
	switch here.place.State {
	case Placed:
		return here.place.Entry.Others == layout.May
	case Free, Commonplace:
		return true
	}
	return false
}

// commonplace gives the entry of a name that may stand in any repository: at
// the top of it, or, for an entry of any depth, anywhere.
func (p *pairer) commonplace(n *tree.Node, f *tree.Folder) *layout.Entry {
	if p.in.Commonplace == nil {
		return nil
	}
	if f == p.in.Top || f.Parent == nil {
		if e := p.in.Commonplace.Root.Scope.Find(n.Name, n.Kind == tree.IsFolder); e != nil {
			return e
		}
	}
	return p.anyDepth(n)
}

// anyDepth gives the entry of a name that may stand in any folder.
func (p *pairer) anyDepth(n *tree.Node) *layout.Entry {
	if p.in.Commonplace == nil || p.in.Commonplace.Root.Scope.Deep == nil {
		return nil
	}
	return p.in.Commonplace.Root.Scope.Deep.Find(n.Name, n.Kind == tree.IsFolder)
}

// looksLike says whether a node under a name close to that of c is c rather
// than what its place says: c is wanted and nothing shows the contrary, or the
// folder holds what makes c what it is.
func (p *pairer) looksLike(n *tree.Node, c, place *layout.Entry, env *layout.Env) bool {
	if n.Folder == nil {
		return c.Need.Wanted()
	}
	return c.Need.Wanted() && !p.fitOf(n.Folder, place, env).certain() || p.fitOf(n.Folder, c, env).certain()
}

// slipFor says whether a folder is called nearly like one that the layout has
// here under a name of its own, is absent, and would hold what the folder does.
func (p *pairer) slipFor(f *tree.Folder, n *tree.Node, e *layout.Entry, env *layout.Env) bool {
	return slices.ContainsFunc(e.Entries, func(c *layout.Entry) bool {
		name, complete := c.Name(env)
		return complete && c.Folder && !c.Deep && f.Find(name) == nil && names.Near(n.Name, name) < names.Apart && p.fitOf(n.Folder, c, env).fits > 0
	})
}

// contest takes a name back from a pattern where it looks like a slip for
// something that the layout wants in this folder and that is not there.
func (p *pairer) contest(f *tree.Folder, env *layout.Env) {
	here := p.at(f)
	for _, c := range here.place.Entry.Entries {
		name, complete := c.Name(env)
		if c.Deep || !complete || c.Need.Banned() || stands(f, c, env) {
			continue
		}
		for i := range f.Nodes {
			n, place := &f.Nodes[i], &here.nodes[i]
			if (n.Folder != nil) != c.Folder || n.Ignored || place.State != Placed || place.Entry.Spellings[0].Exact != "" {
				continue
			}
			if names.Near(n.Name, name) < names.Apart && p.looksLike(n, c, place.Entry, env) {
				*place = Place{Stray, place.Entry}
			}
		}
	}
}
