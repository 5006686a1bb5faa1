package realign

import (
	"slices"
	"strings"

	"dicaxon/internal/changes"
	"dicaxon/internal/layout"
	"dicaxon/internal/names"
	"dicaxon/internal/placement"
	"dicaxon/internal/tree"
	"dicaxon/internal/workspace"
)

// A renaming is a unit whose folder comes to have another name, where the layout knows it by that one, too.
type renaming struct {
	*placement.Placement
	repository   *tree.Repository
	unit         string // the captured name that tells units apart
	before, name string // of this one, before and now
	plan         *changes.Plan
}

// WithNames lets what else a project calls after a unit have its new name, where somebody asked for another name of
// the unit's folder: its tests elsewhere, its folder of pages.
func WithNames(w *workspace.Workspace, asked []Group) {
	for i := range asked {
		if r := renamed(w, &asked[i]); r != nil {
			r.below(r.Top)
			asked[i].Moves = r.plan.Moves
		}
	}
}

// renamed gives the renaming that a group asks for, nil where it asks for something else.
func renamed(w *workspace.Workspace, g *Group) *renaming {
	if len(g.Moves) != 1 || !strings.HasSuffix(g.Moves[0].From, "/") {
		return nil
	}
	m := g.Moves[0]
	of := w.ProjectOf(m.From)
	n := w.Repository.Top.At(strings.TrimSuffix(m.From, "/"))
	if of == nil || of.Placement == nil || n == nil || n.Folder == nil || n.Folder == of.Folder {
		return nil
	}
	place, env := of.Placement.Folder(n.Folder)
	to := of.Placement.Lookup(strings.TrimPrefix(m.To, of.Placement.Top.Path()))
	if place.State != placement.Placed || place.Entry.Unit == "" || !to.Known || to.State != placement.Placed || to.Entry != place.Entry {
		return nil
	}
	unit := place.Entry.Unit
	before, _ := env.Get(unit)
	name, _ := to.Env.Get(unit)
	if before == "" || name == "" || before == name {
		return nil
	}
	return &renaming{of.Placement, w.Repository, unit, before, name, &changes.Plan{Moves: slices.Clone(g.Moves)}}
}

// below renames what is called after the unit in a folder of the project.
func (r *renaming) below(f *tree.Folder) {
	_, env := r.Folder(f)
	for i := range f.Nodes {
		n := &f.Nodes[i]
		place := r.Place(f, i)
		if n.Ignored || place.State != placement.Placed || place.Entry.MadeBy != "" {
			continue
		}
		at, slash := f.Path()+n.Name, ""
		if n.Folder != nil {
			slash = "/"
		}
		if name := r.anew(place.Entry, n.Name, env); name != "" && r.plan.After(at) == r.plan.After(f.Path())+n.Name {
			if to := r.plan.After(f.Path()) + name; r.repository.Top.At(to) == nil {
				r.plan.Moves = append(r.plan.Moves, changes.Move{From: at + slash, To: to + slash})
			}
		}
		if n.Folder != nil {
			r.below(n.Folder)
		}
	}
}

// anew gives the name that an entry has for the unit's new name, "" where the old one is not said in it.
func (r *renaming) anew(e *layout.Entry, own string, env *layout.Env) string {
	for k := range e.Spellings {
		s := &e.Spellings[k]
		bound, fits := s.Match(own, env)
		if !fits || !slices.Contains(s.Captures(), r.unit) {
			continue
		}
		if said, _ := bound.Get(r.unit); !names.Same(said, r.before) {
			return ""
		}
		if name, whole := s.Fill(bound.Bind(r.unit, names.To(e.ShapeOf(r.unit), r.name))); whole && name != own {
			return name
		}
		return ""
	}
	return ""
}
