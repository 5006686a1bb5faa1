package realign

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/changes"
	"dicaxon/internal/finding"
	"dicaxon/internal/names"
	"dicaxon/internal/placement"
	"dicaxon/internal/workspace"
)

// WithMirrors lets the tests of files that come to another place of their layout go with them, where tests lie in a
// folder of their own in folders like those of what they test, and the layout has a place for them there.
func WithMirrors(w *workspace.Workspace, groups []Group) {
	plan := &changes.Plan{}
	for _, g := range groups {
		plan.Moves = append(plan.Moves, g.Moves...)
	}
	for i := range groups {
		if groups[i].Kind != finding.Misplaced {
			continue
		}
		for _, m := range slices.Clone(groups[i].Moves) {
			of := w.ProjectOf(m.From)
			if of == nil || of.Placement == nil || strings.HasSuffix(m.From, "/") || placement.ForTests(path.Dir(m.From)+"/") {
				continue
			}
			if test, ok := mirrored(w, of, m); ok && plan.After(test.From) == test.From && plan.Back().After(test.To) == test.To {
				groups[i].Moves = append(groups[i].Moves, test)
				plan.Moves = append(plan.Moves, test)
			}
		}
	}
}

// mirrored gives the move of the one test whose path is that of a file below some folder for tests, to where the
// layout has the test of the file's new path.
func mirrored(w *workspace.Workspace, of *workspace.Project, m changes.Move) (found changes.Move, ok bool) {
	top := of.Placement.Top.Path()
	from, to := strings.TrimPrefix(m.From, top), strings.TrimPrefix(m.To, top)
	for _, root := range of.Placement.Top.Nodes {
		if root.Folder == nil || root.Ignored || !placement.ForTests(root.Folder.Path()) {
			continue
		}
		for _, below := range shortened(path.Dir(from)) {
			dir := path.Join(root.Folder.Path(), below)
			for _, name := range w.Repository.Top.Names(dir) {
				stem, test := names.Testee(name)
				if !test || stem != names.BeforeDot(path.Base(from)) || path.Ext(name) != path.Ext(from) {
					continue
				}
				at := path.Join(dir, name)
				if place := of.Placement.Lookup(strings.TrimPrefix(at, top)); place.Known && place.State == placement.Placed && !place.Entry.CatchAll() || ok {
					return found, false // it lies where it is looked for, or is one of several
				}
				found.From = at
				found.To, ok = testPlace(w, of, root.Folder.Path(), to, strings.Replace(name, stem, names.BeforeDot(path.Base(to)), 1))
			}
		}
	}
	return found, ok && found.To != found.From
}

// testPlace gives where the layout has the test of a path in a folder for tests.
func testPlace(w *workspace.Workspace, of *workspace.Project, root, to, name string) (string, bool) {
	for _, below := range shortened(path.Dir(to)) {
		at := path.Join(root, below, name)
		place := of.Placement.Lookup(strings.TrimPrefix(at, of.Placement.Top.Path()))
		if place.Known && place.State == placement.Placed && place.Entry != nil && w.Repository.Top.At(at) == nil {
			return at, true
		}
	}
	return "", false
}

// shortened gives a path and what is left of it without its first folders, one after the other.
func shortened(dir string) (all []string) {
	for dir != "." && dir != "" {
		all = append(all, dir)
		_, rest, more := strings.Cut(dir, "/")
		if !more {
			break
		}
		dir = rest
	}
	return all
}
