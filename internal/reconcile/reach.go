package reconcile

import (
	"slices"
	"strings"

	"dicaxon/internal/layout"
	"dicaxon/internal/manifest"
	"dicaxon/internal/names"
	"dicaxon/internal/placement"
	"dicaxon/internal/tree"
)

// A target is a folder, there or not yet, that could take a stray.
type target struct {
	path   string
	folder *tree.Folder // nil where it is not there yet
	env    *layout.Env
	entry  *layout.Entry // the entry that describes the stray in it
	name   string
	gaps   []int // folders on the way that are wanted
	leaves bool  // it leads out of the unit that the stray stands in
	enters bool  // it leads into a unit that the stray does not stand in
	named  bool  // the stray's text names the unit
	makes  int   // how many folders on the way would have to be made
	idle   int   // of which nobody waits for
	own    bool  // the unit that the stray stands in tells the names on the way
}

// mostTargets bounds how many equal places are looked at.
const mostTargets = 64

// A reachKey is all that the way to an entry depends on where its name captures
// nothing.
type reachKey struct {
	folder *tree.Folder
	entry  *layout.Entry
	into   bool
	own    bool
	name   string // where the entry has it as an exact one
}

// reach gives the folders that could hold name as entry e, starting from the
// nearest folder around the stray from which the entry can be reached.
func (r *reconciler) reach(s *stray, e *layout.Entry, name string, evidence Evidence) []target {
	inside := e.Folder && s.Node().Folder == nil // it goes into that folder, under whichever entry
	own := evidence == Told
	key := reachKey{folder: s.Folder, entry: e, into: inside, own: own}
	if e.Spellings[0].Exact != "" {
		key.name = name
	}
	all, known := r.reached[key]
	if !known || captures(e) {
		chain := e.Chain()
		if inside {
			chain = append(chain, e)
		}
		all = r.from(s, chain, target{entry: e, name: name, own: own}, captures(e) || key.name != "")
		r.reached[key] = all
	}
	var free []target
	for _, t := range all {
		t.name = name
		if _, _, fits := e.Match(name, t.env); !fits && s.To == nil {
			continue
		}
		if t.folder == s.Folder || t.folder != nil && t.folder.Find(name) != nil || evidence == EndingOnly && t.makes > 0 {
			continue
		}
		free = append(free, t)
	}
	return free
}

// captures says whether the name of an entry tells something about its place.
func captures(e *layout.Entry) bool {
	return slices.ContainsFunc(e.Spellings, func(p layout.Pattern) bool { return len(p.Captures()) > 0 })
}

// from goes up from a stray until the chain of entries leads somewhere. Only where
// the name is told, a place where something of that name is counts for none.
func (r *reconciler) from(s *stray, chain []*layout.Entry, t target, told bool) []target {
	around := r.around(s)
	for start := s.Folder; start != nil; start = start.Parent {
		here, env := r.Folder(start)
		if here.State != placement.Placed {
			if start == r.Top {
				return nil
			}
			continue
		}
		depth := 0
		if here.Entry.Parent != nil {
			if depth = slices.Index(chain, here.Entry) + 1; depth == 0 {
				t.leaves = t.leaves || here.Entry.Unit != ""
				continue
			}
		}
		t.path, t.folder, t.env = start.Path(), start, env
		if bound, _, ok := t.entry.Match(t.name, t.env); ok {
			t.env = bound
		}
		targets := []target{t}
		for _, c := range chain[depth:] {
			var next []target
			for _, t := range targets {
				next = r.step(next, t, c, around)
			}
			targets = next
		}
		targets = slices.DeleteFunc(targets, func(t target) bool {
			return t.folder == s.Folder || told && t.folder != nil && t.folder.Find(t.name) != nil
		})
		if len(targets) > 0 || start == r.Top {
			return targets
		}
		// Its own unit has one already; it may be another's.
		t.leaves = t.leaves || here.Entry.Unit != ""
	}
	return nil
}

// step goes from a target into the folders of entry c below it.
func (r *reconciler) step(all []target, t target, c *layout.Entry, around *layout.Env) []target {
	name, complete := c.Name(t.env)
	if !complete && t.own {
		if env := join(t.env, around); env != nil {
			if name, complete = c.Name(env); complete {
				t.env = env
			}
		}
	}
	if complete {
		if to, ok := r.stepTo(t, c, name); ok {
			_, within := around.Get(c.Unit)
			to.enters = t.enters || c.Unit != "" && !within
			all = append(all, to)
		}
		return all
	}
	if t.folder == nil || c.Deep {
		return all
	}
	for i := range t.folder.Nodes {
		place := r.Place(t.folder, i)
		if place.State != placement.Placed || place.Entry != c || len(all) >= mostTargets {
			continue
		}
		f := t.folder.Nodes[i].Folder
		if f == nil || f.Unread {
			continue
		}
		_, env := r.Folder(f)
		if !agree(env, t.env) {
			continue
		}
		to := t
		_, within := around.Get(c.Unit)
		to.path, to.folder, to.env, to.enters = f.Path(), f, join(env, t.env), t.enters || c.Unit != "" && !within
		all = append(all, to)
	}
	return r.unmade(all, t, c)
}

// stepTo goes to the folder of that name, under whichever spelling it has.
func (r *reconciler) stepTo(t target, c *layout.Entry, name string) (target, bool) {
	to := t
	to.folder = nil
	if t.folder != nil {
		for i := range c.Spellings {
			spelling, _ := c.Spellings[i].Fill(t.env)
			if n := t.folder.Find(spelling); n != nil {
				if n.Folder == nil || n.Folder.Unread {
					return t, false
				}
				name, to.folder = spelling, n.Folder
				break
			}
		}
	}
	to.path += name + "/"
	if to.folder == nil {
		to.makes++
		if !c.Need.Wanted() {
			to.idle++
		}
	}
	if i, wanted := r.gapAt[to.path]; wanted {
		to.gaps = append(to.gaps[:len(to.gaps):len(to.gaps)], i)
	}
	return to, true
}

// unmade adds the folder of a unit that is wanted and not there, called as its
// entry is where nothing tells its name. Others may come to it, too, where somebody named
// the layout.
func (r *reconciler) unmade(all []target, t target, c *layout.Entry) []target {
	i, wanted := r.gapFor[gapKey{t.folder, c}]
	if !wanted || r.taken[i] && !r.Named || len(all) > 0 {
		return all
	}
	to := t
	// The name that a new project would get is as good as any.
	for _, captured := range c.Spellings[0].Captures() {
		if ask := r.Layout.Ask(captured); ask != nil && !ask.Several && c.Singular() {
			to.env = to.env.Bind(captured, ask.Default)
		}
	}
	name, _ := c.Name(to.env)
	to.path, to.folder, to.makes = to.path+name+"/", nil, to.makes+1
	to.gaps = append(to.gaps[:len(to.gaps):len(to.gaps)], i)
	return append(all, to)
}

// agree says whether no name is captured differently in a and b.
func agree(a, b *layout.Env) bool {
	for ; b != nil; b = b.Next {
		if value, ok := a.Get(b.Name); ok && !names.Same(value, b.Value) {
			return false
		}
	}
	return true
}

// join gives a with the names of b that it lacks.
func join(a, b *layout.Env) *layout.Env {
	for ; b != nil; b = b.Next {
		if _, ok := a.Get(b.Name); !ok {
			a = a.Bind(b.Name, b.Value)
		}
	}
	return a
}

// steps counts the folders between two folders.
func steps(a, b string) int {
	as, bs := strings.SplitAfter(a, "/"), strings.SplitAfter(b, "/")
	same := 0
	for same < len(as) && same < len(bs) && as[same] == bs[same] && as[same] != "" {
		same++
	}
	return len(as) + len(bs) - 2 - 2*same
}

// partOf gives the innermost folder around a stray with a manifest of its own: a project by itself,
// whose files stay with it; nil where there is none below the top.
func (r *reconciler) partOf(s *stray) *tree.Folder {
	for f := s.Folder; f != r.Top; f = f.Parent {
		if all := r.manifestsIn(f); len(all) > 1 || len(all) == 1 && all[0] != s.Node() {
			return f
		}
	}
	return nil
}

// described says whether the layout tells what lies in a part: its folder has a place, and so has
// its manifest.
func (r *reconciler) described(part *tree.Folder) bool {
	if place, _ := r.Folder(part); place.State != placement.Placed || place.Entry.CatchAll() && len(place.Entry.Entries) == 0 {
		return false
	}
	return !slices.ContainsFunc(r.manifestsIn(part), func(n *tree.Node) bool {
		i, _ := part.Index(n.Name)
		return r.Place(part, i).State != placement.Placed
	})
}

// manifestsIn gives the files of a folder that tell of a part of its own; it
// looks once, since a folder may hold a hundred thousand strays.
func (r *reconciler) manifestsIn(f *tree.Folder) []*tree.Node {
	all, known := r.parts[f]
	if known {
		return all
	}
	for i := range f.Nodes {
		if n := &f.Nodes[i]; n.Kind == tree.File && manifest.Is(n.Name) && !strings.HasPrefix(n.Name, "requirements") {
			all = append(all, n)
		}
	}
	r.parts[f] = all
	return all
}

// folderAt says whether there is a folder at a path of the repository.
func (r *reconciler) folderAt(at string) bool {
	n := r.Repository.Top.At(strings.TrimSuffix(at, "/"))
	return n != nil && n.Folder != nil
}

// told gives where the folder's entry says that things of this name belong.
func (r *reconciler) told(s *stray) []home {
	var all []home
	targets := r.reach(s, s.To.Home, s.Node().Name, Told)
	own := slices.DeleteFunc(slices.Clone(targets), func(t target) bool { return !agree(t.env, r.around(s)) })
	if len(own) > 0 { // those of its own unit
		targets = own
	}
	for _, t := range targets {
		if below := r.belowTold(s, t.path); below != "" && s.To.Home.Folder {
			t.path, t.folder = t.path+below, nil
		}
		all = append(all, r.at(s, t, Told))
	}
	return all
}

// belowTold gives the folders between the one that says where things belong and
// the stray. They go with it where they spell its package, and where the place that
// it goes to has them too.
func (r *reconciler) belowTold(s *stray, home string) string {
	for f := s.Folder; f != nil; f = f.Parent {
		if place, _ := r.Folder(f); place.State == placement.Placed && slices.ContainsFunc(place.Entry.NotHere, func(n layout.NotHere) bool { return n.Home == s.To.Home }) {
			if below := strings.TrimPrefix(s.Folder.Path(), f.Path()); tail(r.textOf(s).says, below) == strings.Count(below, "/") || r.folderAt(home+below) {
				return below
			}
			return ""
		}
	}
	return ""
}
