package reconcile

import (
	"slices"
	"strings"

	"dicaxon/internal/layout"
	"dicaxon/internal/names"
	"dicaxon/internal/placement"
	"dicaxon/internal/tree"
)

// leastStrong is how much of a folder within a unit the layout has by name where it is a unit itself.
const leastStrong = 3

// plausible says whether a home is one that a colleague would name.
func (r *reconciler) plausible(s *stray, h *home, t target) bool {
	n := s.Node()
	if n.Folder == nil && placement.IsMarker(n.Name) && (!h.wanted || s.drawn) {
		return false
	}
	if !r.sameSide(s, h, t) {
		return false
	}
	if strings.Contains(h.path, "<") && (n.Folder != nil || !r.single(n.Name, h.entry)) {
		return false
	}
	if h.evidence == Kind && !h.wanted {
		return r.plausibleKind(s, h, t)
	}
	if h.evidence == Contents && n.Folder == nil && len(h.gaps) == 0 && !r.hasMates(t) {
		return false
	}
	if s.drawn && !s.other && !h.wanted && (len(h.gaps) == 0 || t.idle > 0) {
		return false
	}
	if h.wanted || h.evidence >= Declared {
		return n.Folder == nil || h.wanted && h.entry.Spellings[0].Exact != "" || r.fills(n.Folder, h)
	}
	// Into a unit that the stray does not stand in leads only what names it.
	if t.enters && h.evidence != OfUnit && !t.named {
		return false
	}
	if n.Folder != nil {
		if t.leaves && h.evidence == Contents && r.FitOf(n.Folder, h.entry, h.env).Strong < leastStrong {
			return false // a package within a unit is one of its parts
		}
		return t.makes == 0 && r.fills(n.Folder, h) || t.idle == 0 && len(h.gaps) > 0 && h.evidence == Exact
	}
	// Nothing waits for it: then the place must be there, or be wanted itself, or
	// be made in the very unit that it lies in.
	here, _ := r.Folder(s.Folder)
	if t.makes == 1 && !t.leaves && h.evidence == Shown && here.Entry != nil && here.Entry.Unit != "" && strings.HasPrefix(h.path, s.Folder.Path()) {
		return true
	}
	if r.Named && !s.drawn && h.evidence == Shown && t.idle <= 1 {
		return true // its text shows it, and the layout is what somebody wants it to be
	}
	return t.makes == 0 || t.idle == 0 && len(h.gaps) > 0 && (h.evidence >= OfUnit || h.evidence == Contents && s.drawn)
}

// sameSide says whether a home keeps what is for tests with the tests, and what is
// not out of them. A test goes to what it tests, or into a folder of tests.
func (r *reconciler) sameSide(s *stray, h *home, t target) bool {
	n := s.Node()
	from, to := placement.ForTests(s.Folder.Path()), placement.ForTests(parentPath(h.path))
	if n.Folder != nil {
		return from == to || h.wanted && (!from || h.entry.Need == layout.Must) || h.evidence >= Declared
	}
	testee, test := names.Testee(n.Name)
	switch {
	case h.evidence >= Declared:
		return true
	case test && !to:
		return t.folder != nil && !from && hasStem(t.folder, testee)
	case test:
		return true
	case from != to:
		// Only what cannot be missed is fetched from among the tests.
		return h.wanted && h.evidence == Exact && (!from || h.entry.Need == layout.Must)
	}
	return true
}

func hasStem(f *tree.Folder, stem string) bool {
	return slices.ContainsFunc(f.Nodes, func(n tree.Node) bool { return n.Folder == nil && names.BeforeDot(n.Name) == stem })
}

// fills says whether the contents of a folder speak for its being the entry, by
// more than their endings.
func (r *reconciler) fills(f *tree.Folder, h *home) bool {
	t := r.FitOf(f, h.entry, h.env)
	if h.entry.CatchAll() {
		return t.Musts > 0 && t.Found == t.Musts || t.Found > 0 && t.Share() >= 0.5
	}
	return t.Found > 0 || t.Strong > 0 && t.Share() >= 0.5 && strings.Count(h.path, "/") > strings.Count(f.Path(), "/")
}

// hasMates says whether a target's folder holds something of the same entry.
func (r *reconciler) hasMates(t target) bool {
	if t.folder == nil {
		return false
	}
	for i := range t.folder.Nodes {
		if r.Place(t.folder, i).Entry == t.entry {
			return true
		}
	}
	return false
}

// namesUnit says whether the entry captures the name of a unit that there is.
func (r *reconciler) namesUnit(name string, e *layout.Entry) bool {
	bound, _, ok := e.Match(name, nil)
	if !ok || e.CatchAll() || e.OnlyEnding() {
		return false
	}
	for _, captured := range e.Spellings[0].Captures() {
		value, _ := bound.Get(captured)
		for _, u := range r.Units[captured] {
			if known, _ := u.Env.Get(captured); names.Same(known, value) {
				return true
			}
		}
	}
	return false
}
