package placement

import (
	"dicaxon/internal/layout"
	"dicaxon/internal/tree"
)

// A Spot is a folder in which an entry may stand, there or not yet.
type Spot struct {
	Path   string       // below the project, "" or ending in "/"; what is not known stands in angle brackets
	Folder *tree.Folder // nil where it is not there
	Env    *layout.Env
	Makes  int  // how many folders would have to be made
	Open   bool // a name in the path is not known
}

// mostSpots bounds how many folders are looked at.
const mostSpots = 1000

// Spots lists the folders in which an entry may stand: those that are there, under the
// names that they have, in each unit; else those that the layout would make.
func (p *Placement) Spots(e *layout.Entry) []Spot {
	_, env := p.Folder(p.Top)
	spots := []Spot{{Folder: p.Top, Env: env}}
	for _, c := range e.Chain() {
		var next []Spot
		for _, s := range spots {
			next = p.below(next, s, c)
		}
		spots = next
	}
	return spots
}

// below goes from a spot into the folders of an entry.
func (p *Placement) below(all []Spot, s Spot, c *layout.Entry) []Spot {
	found := false
	if s.Folder != nil && !c.Deep {
		for i := range s.Folder.Nodes {
			f := s.Folder.Nodes[i].Folder
			if place := p.Place(s.Folder, i); f == nil || f.Unread || place.State != Placed || place.Entry != c || len(all) >= mostSpots {
				continue
			}
			bound, _, _ := c.Match(f.Name, s.Env)
			if _, env := p.Folder(f); env != nil {
				bound = env
			}
			all = append(all, Spot{s.Path + f.Name + "/", f, bound, s.Makes, s.Open})
			found = true
		}
	}
	if found {
		return all
	}
	name, complete := c.Name(s.Env)
	if c.Deep {
		complete = false
	}
	return append(all, Spot{s.Path + name + "/", nil, s.Env, s.Makes + 1, s.Open || !complete})
}
