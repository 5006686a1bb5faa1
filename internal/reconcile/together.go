package reconcile

import (
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/names"
	"dicaxon/internal/placement"
	"dicaxon/internal/tree"
)

// together tells of a folder as a whole where all its files belong in one of its name that is not there
// yet, by what theirs say, and says whether that is so: it is one cause. Where the project is to become
// what the layout describes, each goes its own way.
func (r *reconciler) together(f *tree.Folder, within []stray, found []*home, others [][]home) bool {
	to, same := strings.CutSuffix(found[0].path, strings.TrimPrefix(within[0].Path(), f.Path()))
	if r.Bring || found[0].evidence != Kind || !same || lastName(to) != f.Name+"/" || r.folderAt(to) || slices.ContainsFunc(others, func(o []home) bool { return len(o) > 0 }) {
		return false
	}
	for i := range within {
		if found[i].path != to+strings.TrimPrefix(within[i].Path(), f.Path()) {
			return false
		}
	}
	e := found[0].entry.Parent
	if e == nil || e.Parent == nil || strings.Contains(strings.TrimPrefix(within[0].Path(), f.Path()), "/") {
		return false
	}
	index, _ := f.Parent.Index(f.Name)
	s := stray{Stray: placement.Stray{Folder: f.Parent, Index: index}}
	h := r.waiting(home{kind: finding.Misplaced, path: to, entry: e, env: found[0].env, evidence: found[0].evidence, slip: names.Apart, gaps: found[0].gaps, says: "what lies in it is for there"})
	r.carry(&s, &h)
	r.say(r.astray(&s, &h, []string{to}))
	return true
}
