package realign

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/tree"
	"dicaxon/internal/workspace"
)

// packages lets go of what says no more than that folders are packages, of those that groups take
// everything else out of by kind.
func (p *Plan) packages(w *workspace.Workspace) {
	for _, g := range p.Groups {
		for _, m := range g.Moves {
			if !g.Converts {
				break
			}
			var all []string
			for dir := path.Dir(m.From); dir != "."; dir = path.Dir(dir) {
				n := w.Repository.Top.At(dir)
				only, empties := p.onlyMarkers(w, n.Folder)
				if !empties {
					break
				}
				all = only
			}
			for _, at := range all {
				if !slices.Contains(p.Drops, at) {
					p.Drops = append(p.Drops, at)
				}
			}
		}
	}
}

// onlyMarkers lists the markers of packages below a folder that a plan takes all else out of, and
// brings nothing to, and says whether that is so.
func (p *Plan) onlyMarkers(w *workspace.Workspace, f *tree.Folder) (all []string, is bool) {
	for i := range f.Nodes {
		n, at := &f.Nodes[i], f.Path()+f.Nodes[i].Name
		switch {
		case n.Folder != nil && !n.Ignored:
			only, is := p.onlyMarkers(w, n.Folder)
			if !is {
				return nil, false
			}
			all = append(all, only...)
		case n.Folder != nil || p.After(at) != at:
		case n.Name != packageMarker:
			return nil, false
		default:
			if text, err := w.Repository.Text(at); err != nil || len(text) > 0 {
				return nil, false
			}
			all = append(all, at)
		}
	}
	for _, m := range p.Moves {
		if strings.HasPrefix(m.To, f.Path()) {
			return nil, false
		}
	}
	for _, m := range p.Makes {
		if strings.HasPrefix(m.Path, f.Path()) {
			return nil, false
		}
	}
	return all, true
}
