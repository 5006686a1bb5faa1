package reconcile

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/names"
	"dicaxon/internal/placement"
	"dicaxon/internal/refs"
	"dicaxon/internal/tree"
)

// byRole finds files whose name says of what kind they are, and that lie in a folder for another
// kind: a reducer that was left among the actions, a repository among the services.
func (r *reconciler) byRole() (all []stray) {
	for _, f := range r.Repository.Folders {
		if !strings.HasPrefix(f.Path(), r.Top.Path()) || placement.ForTests(f.Path()) {
			continue
		}
		roles := map[string]*tree.Node{}
		of := map[*layout.Entry]*tree.Node{}
		for i := range f.Nodes {
			n := &f.Nodes[i]
			if place := r.Place(f, i); n.Folder != nil && place.State == placement.Placed && place.Entry.Spellings[0].Exact != "" {
				roles[strings.ToLower(names.Singular(n.Name))] = n
				of[place.Entry] = n
			}
		}
		for word, role := range roles {
			for i := range role.Folder.Nodes {
				s := stray{Stray: placement.Stray{Folder: role.Folder, Index: i}, drawn: true}
				if s.role = r.roleOf(&s, word, roles); s.role == nil {
					s.role = r.kindOf(&s, of)
				}
				if s.role != nil {
					all = append(all, s)
				}
			}
		}
	}
	slices.SortFunc(all, func(a, b stray) int { return strings.Compare(a.Path(), b.Path()) })
	return all
}

// forKind lists the folders among an entry's that are for a kind of code, as a file's name says.
func (r *reconciler) forKind(around *layout.Entry, name string) (all []*layout.Entry) {
	said := layout.Said(name)
	for _, e := range around.Entries {
		if e.Folder && !e.Need.Banned() && e.MadeBy == "" && e.Spellings[0].Exact != "" && r.kindOfFolder(e, name, said) {
			all = append(all, e)
		}
	}
	return all
}

// kindOfFolder says whether a file's name, whose words are given, says that it is of the kind that a
// folder is for.
func (r *reconciler) kindOfFolder(e *layout.Entry, name string, said [2][]string) bool {
	kinds, known := r.kindsOf[e]
	if !known {
		kinds = e.Kinds()
		r.kindsOf[e] = kinds
	}
	return layout.OfKinds(said, kinds) || slices.ContainsFunc(e.Entries, func(in *layout.Entry) bool { return !in.Folder && in.SaysMore(name, nil) })
}

// kindOf gives the home of a file by the kind that its name says, nil where it has none: the files
// beside it are of the kind that their folder is for, and it alone is of that of another folder, or
// all that is there is called so, or the layout has the others called so. It is sure where two hold.
func (r *reconciler) kindOf(s *stray, of map[*layout.Entry]*tree.Node) *home {
	n, own := s.Node(), r.Place(s.Folder, s.Index)
	here, env := r.Folder(s.Folder)
	if n.Folder != nil || !refs.IsCode(n.Name) || isTest(n.Name) || refs.IsIndex(n.Name) || own.State != placement.Placed || own.Entry.Spellings[0].Exact != "" || own.Entry.SaysMore(n.Name, nil) || r.kindOfFolder(here.Entry, n.Name, layout.Said(n.Name)) {
		return nil
	}
	kinds := r.forKind(here.Entry.Parent, n.Name)
	if len(kinds) != 1 {
		return nil
	}
	odd := r.alike(s.Folder, here.Entry, s.Index) || slices.ContainsFunc(kinds[0].Entries, func(in *layout.Entry) bool {
		return !in.Folder && in.Spellings[0].Exact == "" && in.SaysMore(n.Name, nil)
	})
	to, in := kinds[0], s.Folder.Parent.Path()+kinds[0].Spellings[0].Exact+"/"
	h := home{kind: finding.Misplaced, entry: to, env: env, slip: names.Apart, evidence: Kind, steps: 2, says: "its name says so"}
	if there := of[to]; there != nil {
		if in = there.Folder.Path(); there.Folder.Find(n.Name) != nil {
			return nil
		}
		all := r.alike(there.Folder, to, -1)
		// The project's own word for the folder counts: what is a route belongs to routes/, and not to the
		// pages/ that others call so.
		said := layout.OfKinds(layout.Said(n.Name), [][]string{names.Words(names.Singular(there.Name))})
		if !said && !slices.ContainsFunc(to.Entries, func(in *layout.Entry) bool { return !in.Folder && in.SaysMore(n.Name, nil) }) {
			return nil
		}
		if all && odd {
			h.evidence = Shown
		}
		odd = odd || all
	}
	if !odd || of[to] == nil && !r.Named && holdsOneFile(s.Folder) {
		return nil
	}
	h.path = in + n.Name
	return &h
}

// holdsOneFile says whether a folder holds one file alone, which says little of what its people mean.
func holdsOneFile(f *tree.Folder) bool {
	files := 0
	for i := range f.Nodes {
		if f.Nodes[i].Folder == nil {
			files++
		}
	}
	return files == 1
}

// alike says whether a folder holds code, but for the file at an index, and all of it is of the kind
// that an entry is for.
func (r *reconciler) alike(f *tree.Folder, e *layout.Entry, but int) bool {
	some := false
	for i := range f.Nodes {
		n := &f.Nodes[i]
		if i == but || n.Folder != nil || !refs.IsCode(n.Name) || isTest(n.Name) || names.BeforeDot(n.Name) == "index" || strings.HasPrefix(n.Name, "__") {
			continue
		}
		if !r.kindOfFolder(e, n.Name, layout.Said(n.Name)) {
			return false
		}
		some = true
	}
	return some
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
			if !slices.ContainsFunc(e.Spellings, func(p layout.Pattern) bool { own, whole := p.Fill(g.Env); return whole && own == lastName(h.path) }) {
				h.path = g.Folder.Path() + name
			}
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
