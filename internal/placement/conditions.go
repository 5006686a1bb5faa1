package placement

import (
	"strings"

	"dicaxon/internal/layout"
	"dicaxon/internal/manifest"
	"dicaxon/internal/tree"
)

// For gives a layout as it is for the project in a folder of a repository: with the conditions that hold there.
func For(r *tree.Repository, f *tree.Folder, l *layout.Layout) *layout.Layout {
	if !l.Conditional() {
		return l
	}
	var needs []manifest.Dependency
	for i := range f.Nodes {
		if n := &f.Nodes[i]; n.Kind == tree.File && manifest.Is(n.Name) {
			text, _ := r.Text(f.Path() + n.Name) // what cannot be read is not known to need anything
			needs = append(needs, manifest.Dependencies(n.Name, text)...)
		}
	}
	has := func(at string) bool {
		n := f.At(strings.TrimSuffix(at, "/"))
		return n != nil && (n.Folder != nil) == strings.HasSuffix(at, "/")
	}
	return l.For(func(c *layout.Condition) bool { return c.Holds(needs, has) })
}
