package reconcile

import (
	"dicaxon/internal/layout"
	"dicaxon/internal/placement"
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

// undivided says whether a file is what a unit would hold, where the folder it lies in may hold units and
// holds none: a project of few things has no folder for each. Its text has to show it.
func (r *reconciler) undivided(s *stray) bool {
	here, env := r.Folder(s.Folder)
	if s.Node().Folder != nil || s.Tentative != nil || s.To != nil || here.State != placement.Placed {
		return false
	}
	for _, unit := range here.Entry.Entries {
		if unit.Unit == "" || !unit.Folder || unit.Need.Wanted() || r.holds(s.Folder, unit) {
			continue
		}
		for _, e := range unit.Entries {
			if _, _, fits := e.Match(s.Node().Name, env); fits && !e.Folder && e.Shows != nil && r.shows(s, e) {
				return true
			}
		}
	}
	return false
}

// holds says whether something in a folder stands at an entry.
func (r *reconciler) holds(f *tree.Folder, e *layout.Entry) bool {
	for i := range f.Nodes {
		if r.Place(f, i).Entry == e {
			return true
		}
	}
	return false
}
