package reconcile

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/names"
	"dicaxon/internal/placement"
	"dicaxon/internal/tree"
)

// byRole finds files whose name ends in what a folder beside theirs is called, and
// whose text is what files there are: a reducer that was left among the actions.
func (r *reconciler) byRole() (all []stray) {
	for _, f := range r.Repository.Folders {
		if !strings.HasPrefix(f.Path(), r.Top.Path()) || placement.ForTests(f.Path()) {
			continue
		}
		if here, _ := r.Folder(f); here.State != placement.Placed {
			continue
		}
		roles := map[string]*tree.Node{}
		for i := range f.Nodes {
			n := &f.Nodes[i]
			if place := r.Place(f, i); n.Folder != nil && place.State == placement.Placed && place.Entry.Spellings[0].Exact != "" {
				roles[strings.ToLower(names.Singular(n.Name))] = n
			}
		}
		if len(roles) < 2 {
			continue
		}
		for word, role := range roles {
			for i := range role.Folder.Nodes {
				s := stray{Stray: placement.Stray{Folder: role.Folder, Index: i}, drawn: true}
				if s.role = r.roleOf(&s, word, roles); s.role != nil {
					all = append(all, s)
				}
			}
		}
	}
	slices.SortFunc(all, func(a, b stray) int { return strings.Compare(a.Path(), b.Path()) })
	return all
}

// roleOf gives the home of a file by the last word of its name, nil where it has none.
func (r *reconciler) roleOf(s *stray, here string, roles map[string]*tree.Node) *home {
	n, own := s.Node(), r.Place(s.Folder, s.Index)
	words := names.Words(names.BeforeDot(n.Name))
	if n.Folder != nil || !r.Seen(s.Folder, s.Index) || isTest(n.Name) || len(words) < 2 || own.State != placement.Placed || own.Entry.Spellings[0].Exact != "" {
		return nil
	}
	last := strings.ToLower(words[len(words)-1])
	to := roles[last]
	if strings.HasSuffix(here, last) || to == nil || to.Folder.Find(n.Name) != nil || own.Entry.Shows != nil && r.shows(s, own.Entry) {
		return nil
	}
	i, _ := to.Folder.Parent.Index(to.Name)
	_, env := r.Folder(to.Folder)
	for _, e := range r.Place(to.Folder.Parent, i).Entry.Entries {
		if !e.Folder && e.Shows != nil && sameEnding(e, n.Name) && r.shows(s, e) {
			h := home{kind: finding.Misplaced, entry: e, env: env, path: to.Folder.Path() + n.Name, slip: names.Apart, evidence: Shown, steps: 2,
				says: "its name and its text say that it is a " + last}
			return r.asAwaited(h, e, strings.Join(words[:len(words)-1], ""))
		}
	}
	return nil
}

// asAwaited gives a home the name under which its folder waits for something on that topic.
func (r *reconciler) asAwaited(h home, e *layout.Entry, topic string) *home {
	for i := range r.Gaps {
		g := &r.Gaps[i]
		name, complete := g.Name()
		if g.Entry == e && complete && g.Folder.Path() == parentPath(h.path) && strings.EqualFold(names.Singular(names.BeforeDot(name)), names.Singular(topic)) {
			h.path = g.Folder.Path() + name
			h = r.filling(h, i)
			break
		}
	}
	return &h
}

// sameEnding says whether one of the names of an entry ends as a name does.
func sameEnding(e *layout.Entry, name string) bool {
	return slices.ContainsFunc(e.Spellings, func(p layout.Pattern) bool { return p.Ending == path.Ext(name) })
}
