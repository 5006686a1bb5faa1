package placement

import (
	"strings"

	"dicaxon/internal/layout"
	"dicaxon/internal/refs"
	"dicaxon/internal/tree"
)

// Files is a project as references are looked up in it. Paths are below the
// project, with "/" and without one at their end.
type Files struct{ *Placement }

// Node returns what stands at a path of the project, or nil.
func (p *Placement) Node(at string) *tree.Node {
	return p.Top.Node(at)
}

// IsFile says whether version control has a file there.
func (f Files) IsFile(at string) bool {
	return f.Top.HasFile(at)
}

// IsFolder says whether version control has a folder there.
func (f Files) IsFolder(at string) bool {
	return f.Top.HasFolder(at)
}

// Each calls yield with every file that people wrote.
func (f Files) Each(yield func(string)) {
	f.Written(f.Top, func(at string, _ *tree.Node) { yield(at) })
}

// Names gives the names in a folder.
func (f Files) Names(folder string) []string {
	return f.Top.Names(folder)
}

// Written calls yield with every file below a folder of the project that people
// wrote, and its path below the project.
func (p *Placement) Written(in *tree.Folder, yield func(string, *tree.Node)) {
	p.Below(in, p.Seen, yield)
}

// Below calls yield with every file below a folder of the project that sees says is to be met, as are
// the folders on the way, and its path below the project.
func (p *Placement) Below(in *tree.Folder, sees func(in *tree.Folder, i int) bool, yield func(string, *tree.Node)) {
	at := strings.TrimPrefix(in.Path(), p.Top.Path())
	for i := range in.Nodes {
		switch n := &in.Nodes[i]; {
		case !sees(in, i):
		case n.Folder != nil:
			p.Below(n.Folder, sees, yield)
		default:
			yield(at+n.Name, n)
		}
	}
}

// Text returns the start of a file's text.
func (f Files) Text(at string) ([]byte, error) { return f.Repository.Text(f.Top.Path() + at) }

// Remembered gives the store of what files said before, nil for none, and the name
// under which it has a file.
func (f Files) Remembered(at string) (*refs.Store, string) { return f.Store, f.Top.Path() + at }

// Stamp tells what a file is like without reading it.
func (f Files) Stamp(at string) (refs.Stamp, bool) {
	size, changed, altered, inode, ok := f.Repository.Stamp(f.Top.Path() + at)
	return refs.Stamp{Size: size, Changed: changed, Altered: altered, Inode: inode}, ok
}

// Seen says whether a node is one that people wrote and version control keeps:
// not ignored, no link, not made by a program, and not of another project.
func (p *Placement) Seen(in *tree.Folder, i int) bool {
	n := &in.Nodes[i]
	if n.Ignored || n.Kind == tree.Link || n.Kind == tree.Special || n.Folder != nil && n.Folder.Unread {
		return false
	}
	place := p.Place(in, i)
	return place.State != Apart && (place.Entry == nil || place.Entry.MadeBy == "")
}

// Adopt pairs what is in a folder as if the folder were what the entry
// describes, and returns the strays that this leaves; gaps, units and what
// pairing itself finds are added to the placement.
func (p *Placement) Adopt(f *tree.Folder, e *layout.Entry, env *layout.Env) []Stray {
	w := &pairer{Placement: &Placement{Input: p.Input, places: p.places, Units: p.Units}, counts: make([]int, len(p.Layout.Entries)), present: make([]bool, len(p.Layout.Entries))}
	place := Place{Placed, e}
	p.at(f).place = place
	if i, there := f.Parent.Index(f.Name); there && p.at(f.Parent).nodes != nil {
		p.at(f.Parent).nodes[i] = place
	}
	var deep *deepChain
	for up := e.Parent; up != nil; up = up.Parent {
		if up.Scope.Deep != nil {
			deep = &deepChain{up.Scope.Deep, env, deep}
		}
	}
	w.folder(f, env, deep)
	if e.Unit != "" {
		p.Units[e.Unit] = append(p.Units[e.Unit], Unit{e, env, f})
	}
	w.each()
	w.excuse()
	p.Gaps, p.Said = append(p.Gaps, w.Gaps...), append(p.Said, w.Said...)
	return w.Strays
}
