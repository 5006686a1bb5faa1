package reconcile

import (
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/names"
	"dicaxon/internal/placement"
	"dicaxon/internal/tree"
)

// shortestBeside is how long a folder's name is at least that is taken for nearly another's:
// lib/ and libs/ are two things in many a project.
const shortestBeside = 4

// beside tells where the files of a folder without a place belong that stands beside one of
// nearly its name, and says whether that is so for all of them.
func (r *reconciler) beside(s *stray) bool {
	in := r.nearSibling(s)
	if in == "" {
		return false
	}
	parts, homes, all := r.partsBeside(nil, nil, s.Node().Folder, in)
	if !all {
		return false
	}
	for i := range parts {
		homes[i].says = lastName(s.Path()) + " beside it is nearly the same name"
		r.carry(&parts[i], &homes[i])
		r.say(r.astray(&parts[i], &homes[i], []string{homes[i].path}))
	}
	return len(parts) > 0
}

// nearSibling gives the one folder of nearly a stray's name that stands beside it and has its
// place, "" where there is none, or several.
func (r *reconciler) nearSibling(s *stray) (in string) {
	name := s.Node().Name
	if len(name) < shortestBeside {
		return ""
	}
	for i := range s.Folder.Nodes {
		o, place := &s.Folder.Nodes[i], r.Place(s.Folder, i)
		if o.Folder == nil || o.Folder.Empty() || place.State != placement.Placed || place.Entry.MadeBy != "" || place.Entry.Need.Banned() || place.Entry.Spellings[0].Exact == "" {
			continue
		}
		switch slip := names.Near(name, o.Name); {
		case slip == names.None || slip == names.Apart:
		case slip == names.Number && len(place.Entry.Spellings) > 1: // a house may have two that mean the same
		case in != "":
			return ""
		default:
			in = pathIn(s.Folder, o.Name, true)
		}
	}
	return in
}

// onlyThrough says whether a folder that is there for what may lie at any depth is a slip away from the
// one that stands beside it: in number, in how it is written, or by a mistyped letter.
func (r *reconciler) onlyThrough(f *tree.Folder, i int) bool {
	s := stray{Stray: placement.Stray{Folder: f, Index: i}}
	in := r.nearSibling(&s)
	name := strings.TrimSuffix(lastName(in), "/")
	return in != "" && (names.Near(s.Node().Name, name) != names.Typing || names.Mistyped(s.Node().Name, name))
}

// partsBeside lists what lies in a folder with the place that each would have in another: a
// folder as a whole where the other has none of its name. All says that each would have one.
func (r *reconciler) partsBeside(parts []stray, homes []home, f *tree.Folder, to string) ([]stray, []home, bool) {
	for i := range f.Nodes {
		n := &f.Nodes[i]
		at := to + n.Name
		if n.Folder != nil {
			at += "/"
		}
		found := r.Lookup(strings.TrimPrefix(at, r.Top.Path()))
		switch fits := found.Known && found.State == placement.Placed && found.Entry != nil && found.Entry.Folder == (n.Folder != nil); {
		case n.Ignored:
		case n.Folder != nil && (found.There || !fits):
			all := false
			if parts, homes, all = r.partsBeside(parts, homes, n.Folder, at); !all {
				return nil, nil, false
			}
		case found.There || !fits:
			return nil, nil, false
		default:
			parts = append(parts, stray{Stray: placement.Stray{Folder: f, Index: i}})
			homes = append(homes, home{kind: finding.Misplaced, path: at, entry: found.Entry, env: found.Env, evidence: Near, slip: names.Apart})
		}
	}
	return parts, homes, true
}
