package placement

import (
	"runtime"
	"slices"
	"strings"

	"golang.org/x/sync/errgroup"

	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/tree"
)

// manyFolders is how many folders in one make it worth pairing them in
// parallel.
const manyFolders = 64

// descend pairs the folders below, and settles what only their contents tell:
// passages and empty folders. Where there are many, parts of them are paired
// side by side and the outcomes put together in the order of the names.
func (p *pairer) descend(f *tree.Folder, env *layout.Env, deep *deepChain, bounds map[int]*layout.Env) below {
	parts := runtime.GOMAXPROCS(0)
	if p.part || parts == 1 || len(f.Nodes) < manyFolders || p.MostFolders > 0 {
		return p.span(f, 0, len(f.Nodes), env, deep, bounds)
	}
	// More parts than processors, since some hold more than others.
	parts = min(4*parts, len(f.Nodes)/8)
	workers, sums := make([]*pairer, parts), make([]below, parts)
	var all errgroup.Group
	all.SetLimit(runtime.GOMAXPROCS(0))
	for k := range parts {
		w := &pairer{Placement: &Placement{Input: p.Input, places: p.places, Units: map[string][]Unit{}}, part: true, counts: make([]int, len(p.counts)), present: make([]bool, len(p.present))}
		workers[k] = w
		all.Go(func() error {
			sums[k] = w.span(f, k*len(f.Nodes)/parts, (k+1)*len(f.Nodes)/parts, env, deep, bounds)
			return nil
		})
	}
	_ = all.Wait()
	var sum below
	for k, w := range workers {
		sum.files += sums[k].files
		sum.deep += sums[k].deep
		sum.apart += sums[k].apart
		p.absorb(w)
	}
	return sum
}

// absorb adds what another pairer found to what this one did.
func (p *pairer) absorb(w *pairer) {
	p.Strays, p.Gaps, p.forEach = append(p.Strays, w.Strays...), append(p.Gaps, w.Gaps...), append(p.forEach, w.forEach...)
	p.doubtful = append(p.doubtful, w.doubtful...)
	for i, met := range w.present {
		p.present[i] = p.present[i] || met
	}
	for unit, envs := range w.Units {
		p.Units[unit] = append(p.Units[unit], envs...)
	}
	to, from := p.Placement, w.Placement
	to.Said = append(to.Said, from.Said...)
	to.Files += from.Files
	to.Folders += from.Folders
	to.Wanted += from.Wanted
	to.Found += from.Found
	to.Settled += from.Settled
	to.Astray += from.Astray
}

// span pairs the nodes of a folder from one index to before another.
func (p *pairer) span(f *tree.Folder, from, to int, env *layout.Env, deep *deepChain, bounds map[int]*layout.Env) below {
	here := p.at(f)
	var sum below
	for i := from; i < to; i++ {
		n, place := &f.Nodes[i], here.nodes[i]
		switch {
		case n.Folder == nil:
			if !n.Ignored {
				sum.files++
				p.Files++
				// A pattern tells what a folder is full of; a single name at any
				// depth, such as a marker file, does not.
				if place.State == Placed && place.Entry.Deep && place.Entry.MadeBy == "" && place.Entry.Spellings[0].Exact == "" {
					sum.deep++
				}
			}
			if place.State == Placed && place.Entry.Unit != "" && !n.Ignored {
				p.fileUnit(f, n, place.Entry, env)
			}
			p.tally(f, i, place)
		case place.State == Apart:
			sum.files++
			sum.apart++
		default:
			bound := env
			if b := bounds[i]; b != nil {
				bound = b
			}
			in := p.child(f, i, bound, deep)
			sum.files += in.files
			sum.deep += in.deep
			sum.apart += in.apart
		}
	}
	return sum
}

// child pairs one folder in another.
func (p *pairer) child(f *tree.Folder, i int, env *layout.Env, deep *deepChain) below {
	here, n := p.at(f), &f.Nodes[i]
	place := here.nodes[i]
	p.at(n.Folder).place = place
	if place.State == Unplaced {
		p.at(n.Folder).place = Place{State: Below}
	}
	strays, gaps := len(p.Strays), len(p.Gaps)
	in := p.folder(n.Folder, env, deep)
	if place.State == Unplaced && in.apart > 0 && in.apart == in.files {
		// It only leads to other projects.
		here.nodes[i].State, p.at(n.Folder).place.State = Apart, Apart
		return in
	}
	if in.files == 0 && !n.Ignored {
		p.Strays, p.Gaps = p.Strays[:strays], p.Gaps[:gaps]
		p.empty(f, i, place)
		return in
	}
	if place.State == Placed && place.Entry.Unit != "" && !n.Ignored {
		p.Units[place.Entry.Unit] = append(p.Units[place.Entry.Unit], Unit{place.Entry, env, n.Folder})
	}
	if place.State == Unplaced && in.deep > 0 {
		place = Place{State: Passage}
		here.nodes[i], p.at(n.Folder).place = place, place
		p.passed(n.Folder)
		p.doubtful = append(p.doubtful, Stray{Folder: f, Index: i})
	} else if place.State == Placed && place.Entry.CatchAll() {
		p.doubtful = append(p.doubtful, Stray{Folder: f, Index: i, Tentative: place.Entry})
	}
	p.tally(f, i, place)
	return in
}

// fileUnit counts a file as a unit, where its text shows that it is one.
func (p *pairer) fileUnit(f *tree.Folder, n *tree.Node, e *layout.Entry, env *layout.Env) {
	if e.Shows != nil {
		if text, err := p.Repository.Text(f.Path() + n.Name); err != nil || !e.ShownIn(text) {
			return
		}
	}
	if bound, _, ok := e.Match(n.Name, env); ok {
		p.Units[e.Unit] = append(p.Units[e.Unit], Unit{e, bound, f})
	}
}

// passed tallies what has no place in a folder that turned out to be a passage.
func (p *pairer) passed(f *tree.Folder) {
	for i, place := range p.at(f).nodes {
		if n := &f.Nodes[i]; place.State == Unplaced && (n.Folder == nil || !n.Folder.Empty()) {
			p.tally(f, i, place)
		}
	}
}

// tally counts a node and keeps it for Reconcile where it has no place.
func (p *pairer) tally(f *tree.Folder, i int, place Place) {
	switch state := p.at(f).place.State; {
	case place.State == Placed:
		to := p.notHere(f, place, f.Nodes[i].Name)
		switch {
		case place.Entry.Need.Banned():
			p.strayed(f.Nodes[i].Folder)
			p.Strays = append(p.Strays, Stray{Folder: f, Index: i, Tentative: place.Entry})
		case to != nil:
			p.strayed(nil)
			p.Strays = append(p.Strays, Stray{Folder: f, Index: i, To: to})
		default:
			p.Settled++
		}
	case place.State == Unplaced && state != Below:
		p.strayed(f.Nodes[i].Folder)
		p.Strays = append(p.Strays, Stray{Folder: f, Index: i, Tentative: place.Entry, To: p.notHere(f, place, f.Nodes[i].Name)})
	}
}

// strayed counts a node without a place; below is its folder, if it is one.
func (p *pairer) strayed(below *tree.Folder) {
	p.Astray++
	if below != nil {
		p.Astray += Count(below)
	}
}

// Count counts the files below a folder, ignored ones apart.
func Count(f *tree.Folder) int {
	n := 0
	for i := range f.Nodes {
		switch node := &f.Nodes[i]; {
		case node.Ignored:
		case node.Folder != nil:
			n += Count(node.Folder)
		default:
			n++
		}
	}
	return n
}

// notHere gives what the entry of the folder, or of one around it, says about a
// name that people put there though it belongs elsewhere, or nil. An exact entry
// overrules it; what lies deeper it holds for only where nothing but an ending
// or nothing describes it, and beyond what describes that for a part of a name alone,
// such as the mark of a test.
func (p *pairer) notHere(f *tree.Folder, place Place, name string) *layout.NotHere {
	if place.Entry != nil && place.Entry.Spellings[0].Exact != "" {
		return nil
	}
	weak := place.State == Unplaced || place.State == Placed && (place.Entry.CatchAll() || place.Entry.OnlyEnding())
	beyond := false
	for in := f; in != nil; in = in.Parent {
		at := p.at(in).place
		if at.State == Placed {
			for i := range at.Entry.NotHere {
				nh := &at.Entry.NotHere[i]
				if nh.Like == nil || p.leadsTo(f, nh) || besides(f.Path(), nh) || in != f && nh.Like.Fixed <= len(nh.Like.Ending) || beyond && (nh.Like.Exact != "" || isCalled(f, in, nh.Home)) || hasOwn(at.Entry, nh.Home) && isCalled(f, in, nh.Home) {
					continue
				}
				if _, ok := nh.Like.Match(name, nil); ok && p.shows(f, name, nh) {
					return nh
				}
			}
		}
		if !weak || in == p.Top {
			return nil
		}
		beyond = beyond || place.State == Placed && in != f && at.State == Placed && at.Entry == place.Entry.Parent
	}
	return nil
}

// ofTestsByName are folders in which a runner of tests looks by their name, wherever they lie (Jest, testMatch), and
// such as parts of a library in PHP have as a namespace of their own.
var ofTestsByName = []string{"/__tests__/", "/Test/", "/Tests/"}

// besides says whether a not-here is about tests, and a folder one of such.
func besides(at string, nh *layout.NotHere) bool {
	return ForTests(nh.GoesTo) && slices.ContainsFunc(ofTestsByName, func(name string) bool { return strings.Contains("/"+at, name) })
}

// shows says whether the text of a file is what a not-here asks for; one that cannot be read is.
func (p *pairer) shows(f *tree.Folder, name string, nh *layout.NotHere) bool {
	if nh.Shows == nil {
		return true
	}
	text, err := p.Repository.Text(f.Path() + name)
	return err != nil || nh.Shows.Match(text)
}

// hasOwn says whether what is an entry may stand in a folder called so within another, which has one of
// its own: a package has tests, and so have its parts.
func hasOwn(in, e *layout.Entry) bool {
	return e != nil && slices.ContainsFunc(in.Entries, func(c *layout.Entry) bool { return c.Folder && c.Called(e.Spellings[0].Exact) })
}

// isCalled says whether a folder, or one around it up to another, is called as an entry.
func isCalled(f, upTo *tree.Folder, e *layout.Entry) bool {
	for ; f != nil && f != upTo; f = f.Parent {
		if e != nil && slices.ContainsFunc(e.Spellings, func(p layout.Pattern) bool { return p.Exact == f.Name }) {
			return true
		}
	}
	return false
}

// leadsTo says whether a folder is already where a name goes to, here or in a folder that
// has the same tree.
func (p *pairer) leadsTo(f *tree.Folder, nh *layout.NotHere) bool {
	e := p.at(f).place.Entry
	return nh.Home != nil && e != nil && (e == nh.Home || e.Key == nh.Home.Key && p.at(f).place.State == Placed)
}

// empty reports the topmost folder that version control would lose. What a
// program makes it can make again.
func (p *pairer) empty(f *tree.Folder, i int, place Place) {
	if p.emptyAbove(f) || place.Entry != nil && place.Entry.MadeBy != "" || p.made(f) {
		return
	}
	entry, why := "", ""
	if place.Entry != nil && place.State == Placed {
		entry, why = place.Entry.Path(), place.Entry.Role
	}
	p.Said = append(p.Said, finding.Finding{
		Kind: finding.Empty, Level: finding.Warning, Path: f.Nodes[i].Folder.Path(), Entry: entry,
		Message: "empty, so version control will lose it; put a file or an empty .gitkeep into it, or remove it", Why: why,
	})
}

// made says whether the folder lies in one that a program makes.
func (p *pairer) made(f *tree.Folder) bool {
	for ; f != p.Top; f = f.Parent {
		if e := p.at(f).place.Entry; e != nil && e.MadeBy != "" {
			return true
		}
	}
	return false
}

// emptyAbove says whether the folder itself will be reported as empty.
func (p *pairer) emptyAbove(f *tree.Folder) bool { return f != p.Top && f.Empty() }
