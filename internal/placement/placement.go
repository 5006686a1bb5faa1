// Package placement pairs a project with a layout, top down in one pass, and
// answers for any path, there or not, what describes it. What it leaves over on
// either side, strays and gaps, is for reconcile to explain.
package placement

import (
	"slices"

	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
	"dicaxon/internal/tree"
)

// Input is what Pair pairs.
type Input struct {
	Repository *tree.Repository
	Top        *tree.Folder // the project's folder
	Layout     *layout.Layout
	// Commonplace describes what may stand in any repository; nil for nothing.
	Commonplace *layout.Layout
	// Answers holds captured names that are settled, such as project=app.
	Answers map[string]string
	// Named says that somebody named the layout: what is not of it yet may become so.
	Named bool
	// Bring says that the project is to become what the layout describes, whole: what could lie
	// in a folder that nobody waits for yet goes there, too.
	Bring bool
	// Apart holds folders below Top that are projects of their own.
	Apart map[*tree.Folder]bool
	// Store remembers what files said in an earlier run; nil for nothing.
	Store *refs.Store
	// MostFolders stops pairing after so many folders, for a first look;
	// 0 for no limit.
	MostFolders int
}

// A State says how a node stands to the layout.
type State uint8

// The states.
const (
	Unplaced State = iota // the layout has no place for it
	Placed                // an entry describes it
	Passage               // a folder on the way to something placed at any depth
	Common                // it may stand in any repository
	Free                  // its folder may hold what it likes
	Hidden                // an ignore file names it, and no entry does
	Apart                 // another project
	Below                 // it is in a folder without a place
)

// A Place is what pairing says of one node.
type Place struct {
	State State
	Entry *layout.Entry // for Placed and Common
}

// folderPlace is what pairing knows of one folder.
type folderPlace struct {
	place Place
	env   *layout.Env
	nodes []Place // of the folder's nodes, in their order; nil where not visited
}

// A Gap is something that the layout wants and did not find.
type Gap struct {
	Entry  *layout.Entry
	Folder *tree.Folder // where it should stand
	Env    *layout.Env
}

// Weight says how much the gap counts against the layout's fit.
func (g *Gap) Weight() int {
	if g.Entry.Need == layout.Must {
		return 2
	}
	return 1
}

// Name gives the name that would fill the gap, and whether that is a whole one.
func (g *Gap) Name() (string, bool) { return g.Entry.Name(g.Env) }

// A Stray is a node that found no place, with the one it might have had.
type Stray struct {
	Folder    *tree.Folder
	Index     int
	Tentative *layout.Entry   // an entry that would take it if nothing better turns up
	To        *layout.NotHere // what its folder's entry says of its name
}

// Node gives the stray's node.
func (s *Stray) Node() *tree.Node { return &s.Folder.Nodes[s.Index] }

// Path gives the stray's path, a folder's with its slash.
func (s *Stray) Path() string {
	if n := s.Node(); n.Folder != nil {
		return n.Folder.Path()
	}
	return s.Folder.Path() + s.Node().Name
}

// A Unit is one met: what was captured, and the folder it is or lies in.
type Unit struct {
	Entry  *layout.Entry
	Env    *layout.Env
	Folder *tree.Folder
}

// A Placement is what Pair found out.
type Placement struct {
	Input
	Files   int // read in the project, ignored ones apart
	Folders int // with the project's own
	// Wanted and Found weigh what the layout wants and how much of it is there;
	// Settled counts the nodes that an entry describes and Astray those without
	// a place, with all files below them. They tell how well the layout fits.
	Wanted, Found, Settled, Astray int

	Strays []Stray
	Gaps   []Gap
	// Units lists the units met, by the captured name that tells them apart.
	Units map[string][]Unit
	// Said holds what pairing itself found: crowded and empty folders.
	Said []finding.Finding
	// Graph holds what the project's files say and where it leads, read as it is
	// asked for.
	Graph *refs.Graph

	places []folderPlace // by folder ID
}

// Pair pairs the project with the layout.
func Pair(in Input) *Placement {
	p := newPairer(in)
	p.run()
	p.Graph = refs.NewGraph(Files{p.Placement})
	return p.Placement
}

func (p *Placement) at(f *tree.Folder) *folderPlace { return &p.places[f.ID-p.Top.ID] }

// Place says what pairing found of the node at index in folder.
func (p *Placement) Place(folder *tree.Folder, index int) Place {
	if nodes := p.at(folder).nodes; nodes != nil {
		return nodes[index]
	}
	return Place{State: Below}
}

// Folder says what pairing found of a folder, with the captured names in force.
func (p *Placement) Folder(f *tree.Folder) (Place, *layout.Env) {
	at := p.at(f)
	return at.place, at.env
}

// UnitNames gives the names of the units that there are, in order, by what captures them.
func (p *Placement) UnitNames() map[string][]string {
	all := map[string][]string{}
	for name, units := range p.Units {
		for _, u := range units {
			if value, ok := u.Env.Get(name); ok && !slices.Contains(all[name], value) {
				all[name] = append(all[name], value)
			}
		}
		slices.Sort(all[name])
	}
	return all
}

// CommonName gives the entry of a name that may stand in any repository: at the
// top of it, or, for an entry of any depth, anywhere; nil where it is no such
// name.
func (p *Placement) CommonName(name string, in *tree.Folder, folder bool) *layout.Entry {
	return p.commonplace(name, folder, in == p.Top || in.Parent == nil)
}

func (p *Placement) commonplace(name string, folder, top bool) *layout.Entry {
	if p.Commonplace == nil {
		return nil
	}
	if top {
		root := p.Commonplace.Root.Scope
		if e := root.Exact(name, folder); e != nil {
			return e
		}
		if e := p.anyDepth(name, folder); e != nil {
			return e
		}
		if e := p.Commonplace.Document(name); e != nil && !folder {
			return e
		}
		e, _ := root.Pattern(name, folder, nil)
		return e
	}
	return p.anyDepth(name, folder)
}

// anyDepth gives the entry of a name that may stand in any folder.
func (p *Placement) anyDepth(name string, folder bool) *layout.Entry {
	if p.Commonplace == nil || p.Commonplace.Root.Scope.Deep == nil {
		return nil
	}
	return p.Commonplace.Root.Scope.Deep.Find(name, folder)
}

// ForUnit gives the unit that the entry names from outside, such as
// test_<area>.py beside the areas, or "".
func (p *Placement) ForUnit(e *layout.Entry, env *layout.Env) string {
	for _, name := range e.Spellings[0].Captures() {
		if _, bound := env.Get(name); !bound && e.Unit != name && p.Layout.IsUnit(name) {
			return name
		}
	}
	return ""
}

// IsMarker says whether a file of that name stands for the folder that it lies
// in, as languages have it: it is no thing of its own that could be elsewhere.
func IsMarker(name string) bool {
	switch name {
	case "__init__.py", "mod.rs", "doc.go", "package-info.java":
		return true
	}
	return len(name) > 6 && names.Stem(name) == "index"
}
