package reconcile

import (
	"dicaxon/internal/layout"
	"dicaxon/internal/tree"
)

// ownWays marks the strays that lie as all units of the project have it: where a folder
// that each should have is in none of several, and what would go there lies loose beside
// its place in two or more, that is the project's own way. Where the project
// is to become what the layout describes there is none.
func (r *reconciler) ownWays(strays []stray, chosen []*home) (left map[int]bool) {
	left = map[int]bool{}
	if r.Bring || r.MostFolders > 0 {
		return left
	}
	loose := map[*layout.Entry]map[*tree.Folder][]int{}
	for i, h := range chosen {
		if h == nil || strays[i].drawn || strays[i].Node().Folder != nil {
			continue
		}
		for _, g := range h.gaps {
			if gap := &r.Gaps[g]; gap.Entry.Folder && gap.Folder == strays[i].Folder && gap.Entry.Parent != nil && gap.Entry.Parent.Unit != "" {
				if loose[gap.Entry] == nil {
					loose[gap.Entry] = map[*tree.Folder][]int{}
				}
				loose[gap.Entry][gap.Folder] = append(loose[gap.Entry][gap.Folder], i)
			}
		}
	}
	for e, in := range loose {
		if len(in) < 2 || r.anywhere(e) {
			continue
		}
		for _, all := range in {
			for _, i := range all {
				left[i] = true
			}
		}
		for i := range r.Gaps {
			r.taken[i] = r.taken[i] || r.Gaps[i].Entry == e
		}
	}
	return left
}

// anywhere says whether one of the folders in which an entry may stand has it.
func (r *reconciler) anywhere(e *layout.Entry) bool {
	for _, spot := range r.Spots(e) {
		if spot.Folder == nil {
			continue
		}
		if _, absent := r.gapFor[gapKey{spot.Folder, e}]; !absent {
			return true
		}
	}
	return false
}
