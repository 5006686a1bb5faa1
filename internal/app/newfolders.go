package app

import (
	"strings"

	"dicaxon/internal/realign"
	"dicaxon/internal/workspace"
)

// together leaves what would come to the same new folder as something that is left: what
// an application is made of finds its parts from where it lies.
func together(w *workspace.Workspace, p *realign.Plan, bad map[int]string) {
	left := map[string]string{}
	for k := range p.Groups { // in their order, so that the last is the same at every call
		if bad[k] == "" {
			continue
		}
		for _, m := range p.Groups[k].Moves {
			if at := newPart(w, m.To); at != "" {
				left[at] = m.From
			}
		}
	}
	for k := range p.Groups {
		g := &p.Groups[k]
		for _, m := range g.Moves {
			if with := left[newPart(w, m.To)]; with != "" && bad[k] == "" && !g.Asked && !g.Converts {
				bad[k] = "it goes to a new folder with " + with + ", which is left"
			}
		}
	}
}

// newFolder gives the first folder on the way to a path that is not there, "" where all are.
func newFolder(w *workspace.Workspace, at string) string {
	return firstNew(w, at, func(string) bool { return true })
}

// newPart is newFolder for what all comes together: not for a folder that the layout has for parts, each of which stands
// alone.
func newPart(w *workspace.Workspace, at string) string {
	return firstNew(w, at, func(folder string) bool {
		p := w.ProjectOf(folder)
		return p == nil || p.Placement == nil || !p.Placement.Lookup(strings.TrimPrefix(folder+"/", p.Placement.Top.Path())).Entry.HoldsUnits()
	})
}

// firstNew gives the first folder on the way to a path that is not there and fits, "" where none does.
func firstNew(w *workspace.Workspace, at string, fits func(folder string) bool) string {
	for i, c := range strings.TrimSuffix(at, "/") {
		if c == '/' && w.Repository.Top.At(at[:i]) == nil && fits(at[:i]) {
			return at[:i]
		}
	}
	return ""
}
