package reconcile

import (
	"path"
	"slices"

	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/names"
	"dicaxon/internal/placement"
	"dicaxon/internal/refs"
)

// shown finds gaps that the text of a file shows it to be, whatever it is
// called, in the same unit.
func (r *reconciler) shown(all []home, s *stray) []home {
	n := s.Node()
	if n.Folder != nil {
		return r.shownFolder(all, s)
	}
	if r.Named {
		all = r.becoming(all, s)
	}
	for i := range r.Gaps {
		g := &r.Gaps[i]
		name, complete := g.Name()
		if refs.IsIndex(name) && g.Folder == s.Folder {
			continue // what stands for its folder lacks for itself, not under another name
		}
		if g.Entry.Shows == nil || r.taken[i] || !complete || name == n.Name || path.Ext(name) != path.Ext(n.Name) || !agree(g.Env, r.around(s)) || !r.shows(s, g.Entry) {
			continue
		}
		h := home{kind: finding.Misplaced, entry: g.Entry, env: g.Env, path: g.Folder.Path() + name, slip: names.Apart, evidence: Shown, steps: steps(s.Folder.Path(), g.Folder.Path())}
		if g.Folder == s.Folder {
			h.kind = finding.Misnamed
		} else {
			h.says = "its text shows that it is " + name
		}
		all = append(all, r.filling(h, i))
	}
	return all
}

// begun finds the folder, wanted beside a file and absent, that the layout keeps all such files
// in: where somebody named the layout, what lies loose is what the folder will begin with.
func (r *reconciler) begun(all []home, s *stray) []home {
	n := s.Node()
	if !r.Named || n.Folder != nil || !refs.IsCode(n.Name) {
		return all
	}
	var best home
	most, ties := 0, 0
	for _, i := range r.gapsIn[s.Folder] {
		g := &r.Gaps[i]
		name, complete := g.Name()
		c, said := keptIn(g, n.Name)
		switch {
		case !complete || c == nil || said < most:
		case said == most:
			ties++
		default:
			evidence := Contents
			if c.Spellings[0].Exact != "" {
				evidence = Exact
			}
			most, ties = said, 0
			best = r.at(s, target{path: pathIn(g.Folder, name, true), env: g.Env, entry: c, name: n.Name, gaps: []int{i}, makes: 1}, evidence)
			best.says = name + "/ is for such files, and is still to be made"
		}
	}
	if most > 0 && ties == 0 {
		all = append(all, best)
	}
	return all
}

// keptIn gives the entry of an absent folder that says most of a name, and how much that is:
// what must be there says a little more than what only should; nil where none fits.
func keptIn(g *placement.Gap, name string) (best *layout.Entry, most int) {
	for _, c := range g.Entry.Entries {
		if c.Folder || c.Need.Banned() || len(c.Spellings[0].Captures()) > 0 {
			continue
		}
		for k := range c.Spellings {
			said := 2*c.Spellings[k].Fixed + truth(g.Entry.Need == layout.Must)
			if _, fits := c.Spellings[k].Match(name, g.Env); fits && said > most {
				best, most = c, said
			}
		}
	}
	return best, most
}

// shownFolder finds the folder that is wanted beside a strange one and absent, where the texts
// in the strange one are what that folder is for. Where somebody named the layout, each file
// of it goes its own way.
func (r *reconciler) shownFolder(all []home, s *stray) []home {
	f := s.Node().Folder
	if f.Unread || r.MostFolders > 0 || r.Named {
		return all
	}
	for _, i := range r.gapsIn[s.Folder] {
		g := &r.Gaps[i]
		name, complete := g.Name()
		if !complete || !g.Entry.Folder || r.taken[i] {
			continue
		}
		t, shown := r.FitOf(f, g.Entry, g.Env), 0
		for k := range f.Nodes {
			in := stray{Stray: placement.Stray{Folder: f, Index: k}}
			if says := r.textOf(&in).says; slices.Contains(says, s.Node().Name) {
				return all // it is no other word for the folder, but a part of a name
			}
			if f.Nodes[k].Folder == nil && slices.ContainsFunc(g.Entry.Entries, func(e *layout.Entry) bool {
				_, _, fits := e.Match(f.Nodes[k].Name, g.Env)
				return fits && !e.Folder && e.Shows != nil && !e.Need.Banned() && r.shows(&in, e)
			}) {
				shown++
			}
		}
		if t.Nodes > 0 && t.Fits == t.Nodes && 2*shown >= t.Nodes {
			all = append(all, r.filling(home{kind: finding.Misnamed, entry: g.Entry, env: g.Env, path: pathIn(g.Folder, name, true), slip: names.Apart, evidence: Shown, says: "what lies in it belongs in " + name + "/"}, i))
		}
	}
	return all
}

// becoming finds what a file becomes by its text where the folder for it is still to be made:
// the one module of an application is the first of its package.
func (r *reconciler) becoming(all []home, s *stray) []home {
	n := s.Node()
	for _, e := range r.Layout.Entries {
		if e.Folder || e.Shows == nil || e.Parent == nil {
			continue
		}
		name := e.Spellings[0].Exact
		if name == "" || name == n.Name || path.Ext(name) != path.Ext(n.Name) || !e.Need.Wanted() || !r.shows(s, e) {
			continue
		}
		for _, t := range r.reach(s, e, name, Shown) {
			if t.folder == nil && t.idle == 0 {
				h := r.at(s, t, Shown)
				h.says = "its text shows that it is " + name
				all = append(all, h)
			}
		}
	}
	return all
}
