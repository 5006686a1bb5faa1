// Package match compares a repository with a layout. Run pairs the two trees,
// top down in one pass, and reconciles what is left over on either side, so
// that one cause gives one finding.
package match

import (
	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/tree"
)

// Input is what Run compares.
type Input struct {
	Repository *tree.Repository
	Top        *tree.Folder // the project's folder
	Layout     *layout.Layout
	// Commonplace describes what may stand in any repository; nil for nothing.
	Commonplace *layout.Layout
	// Answers holds captured names that are settled, such as project=app.
	Answers map[string]string
	// Apart holds folders below Top that are projects of their own.
	Apart map[*tree.Folder]bool
	// MostFolders stops pairing after so many folders, for a first look;
	// 0 for no limit.
	MostFolders int
}

// A State says how a node stands to the layout.
type State uint8

// The states.
const (
	Stray       State = iota // the layout has no place for it
	Placed                   // an entry describes it
	Passage                  // a folder on the way to something placed at any depth
	Commonplace              // it may stand in any repository
	Free                     // its folder may hold what it likes
	Hidden                   // an ignore file names it, and no entry does
	Apart                    // another project
	Below                    // it is in a stray folder
)

// A Place is what pairing says of one node.
type Place struct {
	State State
	Entry *layout.Entry // for Placed and Commonplace
}

// folderPlace is what pairing knows of one folder.
type folderPlace struct {
	place Place
	env   *layout.Env
	nodes []Place // of the folder's nodes, in their order; nil where not visited
}

// A gap is something that the layout wants and did not find.
type gap struct {
	entry  *layout.Entry
	folder *tree.Folder // where it should stand
	env    *layout.Env
	taken  bool
}

// weight says how much the gap counts against the layout's fit.
func (g *gap) weight() int {
	if g.entry.Need == layout.Must {
		return 2
	}
	return 1
}

// A stray is a node that found no place, with the one it might have had.
type stray struct {
	folder    *tree.Folder
	index     int
	tentative *layout.Entry // an entry that would take it if nothing better turns up
	to        *layout.NotHere
	words     map[string]bool // of its text, once they are asked for
}

func (s *stray) node() *tree.Node { return &s.folder.Nodes[s.index] }

func (s *stray) path() string {
	if n := s.node(); n.Folder != nil {
		return n.Folder.Path()
	}
	return s.folder.Path() + s.node().Name
}

// A Result is what Run found out.
type Result struct {
	Findings []finding.Finding
	Files    int // read in the project, ignored ones apart
	Folders  int // with the project's own
	// Wanted and Found count what the layout wants and how much of it is there;
	// Placed counts the nodes that an entry describes and Strays those without
	// a place, with all files below them. They tell how well the layout fits.
	Wanted, Found, Placed, Strays int
	// Explained counts, after Run, the strays with a home in the layout.
	Explained int

	in     Input
	places []folderPlace // by folder ID
}

// Place says what pairing found of the node at index in folder.
func (r *Result) Place(folder *tree.Folder, index int) Place {
	if nodes := r.places[folder.ID-r.in.Top.ID].nodes; nodes != nil {
		return nodes[index]
	}
	return Place{State: Below}
}

// Folder says what pairing found of a folder, with the captured names in force.
func (r *Result) Folder(f *tree.Folder) (Place, *layout.Env) {
	p := &r.places[f.ID-r.in.Top.ID]
	return p.place, p.env
}

// Run compares the project with the layout.
func Run(in Input) *Result {
	p := newPairer(in)
	p.run()
	(&reconciler{pairer: p}).run()
	finding.Sort(p.result.Findings)
	return p.result
}
