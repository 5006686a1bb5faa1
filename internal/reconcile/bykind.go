package reconcile

import (
	"slices"
	"strings"

	"dicaxon/internal/layout"
	"dicaxon/internal/names"
	"dicaxon/internal/placement"
	"dicaxon/internal/refs"
	"dicaxon/internal/tree"
)

// mostIdle is how many folders that nobody waits for may be made for a file by its kind.
const mostIdle = 2

// kindSaid says whether a file's name says that it is of the kind of an entry: by what the entry
// gives of names, or by what the folder around it is called.
func kindSaid(name string, e *layout.Entry) bool {
	if strings.Contains(name, ".config.") {
		return false // settings of a tool, which looks for them where they lie
	}
	if e.CatchAll() || e.OnlyEnding() {
		return e.Parent.SaysKind(name)
	}
	return e.SaysMore(name, nil)
}

// ofOwnUnit says whether the name of an entry tells in which unit it lies.
func ofOwnUnit(e *layout.Entry) bool {
	return slices.ContainsFunc(e.Spellings[0].Captures(), func(captured string) bool {
		return slices.ContainsFunc(e.Chain(), func(c *layout.Entry) bool { return c.Unit == captured })
	})
}

// isTest says whether a file is one of tests, by its name.
func isTest(name string) bool {
	_, test := names.Testee(name)
	return test
}

// kinds adds, where somebody named the layout, the files that lie where any of their ending may
// though their name says of what kind they are and that kind has a place of its own: a controller
// beside the program.
func (r *reconciler) kinds() {
	if !r.Named {
		return
	}
	type spot struct {
		in    *tree.Folder
		index int
	}
	astray := map[spot]bool{}
	for i := range r.strays {
		astray[spot{r.strays[i].Folder, r.strays[i].Index}] = true
	}
	r.weak(r.Top, func(f *tree.Folder, i int) {
		s, name := stray{Stray: placement.Stray{Folder: f, Index: i}, drawn: true}, f.Nodes[i].Name
		here, _ := r.Folder(f)
		switch {
		case isTest(name), !refs.IsCode(name), r.CommonName(name, f, false) != nil, here.State != placement.Placed, here.Entry.SaysKind(name):
			return
		case astray[spot{f, i}]:
			return
		}
		found := false
		r.index.All(name, false, func(e *layout.Entry) {
			found = found || e.Parent != here.Entry && !e.Need.Banned() && e.MadeBy == "" && kindSaid(name, e)
		})
		if found || r.Bring && here.Entry.Unit != "" && len(r.regrouped(nil, &s)) > 0 {
			r.strays = append(r.strays, s)
		}
	})
}

// plausibleKind says whether a file would be put into a place by the kind that its name says: what
// has a place already only goes further down, into a folder that is there or is waited for.
func (r *reconciler) plausibleKind(s *stray, h *home, t target) bool {
	most := 0
	if !s.drawn || r.Bring {
		most = mostIdle
	}
	switch {
	case strings.Contains(h.path, "<"), t.idle > most, t.leaves, s.drawn && !strings.HasPrefix(h.path, s.Folder.Path()):
		return false
	}
	return !t.enters || ofOwnUnit(h.entry)
}
