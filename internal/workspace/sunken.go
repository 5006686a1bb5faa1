package workspace

import (
	"slices"

	"dicaxon/internal/identify"
	"dicaxon/internal/layout"
	"dicaxon/internal/manifest"
	"dicaxon/internal/tree"
)

// enoughAround is how many files that a layout names stand around a folder at least that is one of its own.
const enoughAround = 2

// sunken gives the folder around a root where the project is rather: its manifest alone was put into a
// folder that the layout itself has, such as src/, and what else the layout knows by name at its top
// stands around that. Nil where that is not so.
func (w *Workspace) sunken(root *identify.Root, l *layout.Layout, found []identify.Root) *tree.Folder {
	parent := root.Folder.Parent
	if parent == nil || slices.ContainsFunc(found, func(o identify.Root) bool { return o.Folder == parent && o.Best != nil }) {
		return nil
	}
	own := l.Root.Scope.Exact(root.Folder.Name, true)
	if own == nil || !own.Need.Wanted() || root.Folder.Find(root.Folder.Name) != nil {
		return nil
	}
	for i := range root.Folder.Nodes {
		if n := &root.Folder.Nodes[i]; manifest.Is(n.Name) && parent.Find(n.Name) != nil {
			return nil
		}
	}
	if len(w.namesOf(l, root.Folder)) > 0 || len(w.namesOf(l, parent)) < enoughAround {
		return nil
	}
	return parent
}

// namesOf lists the files of a folder whose names a layout gives at its top, and that not any repository
// may have, manifests apart.
func (w *Workspace) namesOf(l *layout.Layout, f *tree.Folder) (all []string) {
	for i := range f.Nodes {
		n := &f.Nodes[i]
		if n.Folder == nil && !n.Ignored && !manifest.Is(n.Name) && l.Root.Scope.Exact(n.Name, false) != nil && w.Commonplace.Root.Scope.Exact(n.Name, false) == nil {
			all = append(all, n.Name)
		}
	}
	return all
}
