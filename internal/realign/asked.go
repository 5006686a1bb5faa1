package realign

import (
	"fmt"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/changes"
	"dicaxon/internal/finding"
	"dicaxon/internal/names"
	"dicaxon/internal/workspace"
)

// Asked makes a group of a move that somebody named; it says what is wrong with it.
func Asked(w *workspace.Workspace, from, to string) (Group, error) {
	n := w.Repository.Top.At(strings.TrimSuffix(from, "/"))
	if n == nil {
		return Group{}, fmt.Errorf("%s: there is no such file or folder", from)
	}
	from, into := strings.TrimSuffix(from, "/"), strings.HasSuffix(to, "/")
	to = path.Clean(to)
	if there := w.Repository.Top.At(to); there != nil && there.Folder != nil && into || there == nil && into && n.Folder == nil {
		to = path.Join(to, path.Base(from)) // into that folder
	}
	if w.Repository.Top.At(to) != nil {
		return Group{}, fmt.Errorf("%s is there already", to)
	}
	if n.Folder != nil {
		from, to = from+"/", to+"/"
	}
	return Group{Kind: finding.Misplaced, Level: finding.Note, Path: from, Says: "you asked for it", Moves: []changes.Move{{From: from, To: to}}, Asked: true}, nil
}

// Beside joins moves that somebody named with groups of findings and what is left. A finding
// about something that goes somewhere else, or whose place something else takes, is not told:
// it is settled by those who named the move.
func Beside(w *workspace.Workspace, asked, found []Group, left []Left) ([]Group, []Left) {
	named := &changes.Plan{}
	for _, g := range asked {
		named.Moves = append(named.Moves, g.Moves...)
	}
	settled := func(at string) bool {
		return slices.ContainsFunc(named.Moves, func(m changes.Move) bool { return m.To == at }) || gone(w, named, at)
	}
	found = slices.DeleteFunc(found, func(g Group) bool { return settled(g.Path) })
	for i := range found {
		if len(found[i].Moves) == 1 {
			found[i].Moves = remaining(w, named, found[i].Moves[0])
		}
	}
	left = slices.DeleteFunc(left, func(l Left) bool {
		return settled(l.Path) && (l.Kind == finding.Extra || l.Kind == finding.Misplaced || l.Kind == finding.Misnamed || l.Kind == finding.Missing)
	})
	return append(asked, found...), left
}

// remaining gives the moves of what is left of a folder beside what somebody named in it.
func remaining(w *workspace.Workspace, named *changes.Plan, m changes.Move) []changes.Move {
	n := w.Repository.Top.At(strings.TrimSuffix(m.From, "/"))
	if n == nil || n.Folder == nil || !slices.ContainsFunc(named.Moves, func(o changes.Move) bool { return inside(o.From, m.From) }) {
		return []changes.Move{m}
	}
	var all []changes.Move
	for i := range n.Folder.Nodes {
		one := &n.Folder.Nodes[i]
		name := one.Name
		if one.Folder != nil {
			name += "/"
		}
		if at := m.From + name; !one.Ignored && !gone(w, named, at) {
			all = append(all, remaining(w, named, changes.Move{From: at, To: m.To + name})...)
		}
	}
	return all
}

// gone says whether a plan moves a file, or every file of a folder.
func gone(w *workspace.Workspace, p *changes.Plan, at string) bool {
	n := w.Repository.Top.At(strings.TrimSuffix(at, "/"))
	if n == nil {
		return false
	}
	if n.Folder == nil {
		return p.After(at) != at
	}
	all := true
	for i := range n.Folder.Nodes {
		one := &n.Folder.Nodes[i]
		at := n.Folder.Path() + one.Name
		if one.Folder != nil {
			at += "/"
		}
		all = all && (one.Ignored || gone(w, p, at))
	}
	return all && len(n.Folder.Nodes) > 0
}

// WithFellows lets the tests and the declarations of types that lie beside a file go with it,
// where nobody said otherwise.
func WithFellows(w *workspace.Workspace, asked []Group) {
	plan := &changes.Plan{}
	for _, g := range asked {
		plan.Moves = append(plan.Moves, g.Moves...)
	}
	for i := range asked {
		for _, m := range slices.Clone(asked[i].Moves) {
			asked[i].Moves = append(asked[i].Moves, fellows(w, plan, m)...)
		}
	}
}

// fellows gives the moves of those that lie beside a file and go with it, beside what a plan moves.
func fellows(w *workspace.Workspace, plan *changes.Plan, m changes.Move) (all []changes.Move) {
	dir, to := path.Dir(m.From), path.Dir(m.To)
	if strings.HasSuffix(m.From, "/") || dir == to {
		return nil
	}
	for _, name := range w.Repository.Top.Names(dir) {
		at := path.Join(dir, name)
		stem, fellow := fellowOf(path.Base(m.From), name)
		if !fellow || plan.After(at) != at || !w.Repository.Top.HasFile(at) {
			continue
		}
		now, _ := names.Testee(path.Base(m.To))
		goes := path.Join(to, strings.Replace(name, stem, now, 1))
		if w.Repository.Top.At(goes) == nil && plan.Back().After(goes) == goes {
			all = append(all, changes.Move{From: at, To: goes})
		}
	}
	return all
}

// fellowOf says whether a file is a test of another beside it, or declares its types, and
// gives the stem that both names have.
func fellowOf(of, name string) (stem string, is bool) {
	stem, isTest := names.Testee(of)
	if isTest || name == of {
		return stem, false
	}
	if testee, test := names.Testee(name); test {
		return stem, testee == stem && path.Ext(name) == path.Ext(of)
	}
	switch ending := path.Ext(of); ending {
	case ".js", ".mjs", ".cjs":
		return stem, name == strings.TrimSuffix(of, ending)+".d."+strings.Replace(ending[1:], "js", "ts", 1)
	}
	return stem, false
}
