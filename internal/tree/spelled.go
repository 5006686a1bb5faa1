package tree

import (
	"path/filepath"
	"strings"

	"dicaxon/internal/names"
)

// Spelled gives a path below the root as the disk spells it: on one that is blind to case,
// or to the form of composed characters, people may call a file otherwise than it is
// listed. Exists says whether the disk has something of that name.
func (r *Repository) Spelled(path string, exists func(path string) bool) string {
	plain := strings.TrimSuffix(path, "/")
	if plain == "" || r.Top.At(plain) != nil || !exists(plain) {
		return path
	}
	f, spelled := r.Top, ""
	for name := range strings.SplitSeq(plain, "/") {
		var found *Node
		for i := range f.Nodes {
			if n := &f.Nodes[i]; n.Name == name || found == nil && names.Folded(n.Name) == names.Folded(name) {
				found = n
			}
		}
		if found == nil {
			return path
		}
		if spelled += "/" + found.Name; found.Folder != nil {
			f = found.Folder
		}
	}
	return spelled[1:] + path[len(plain):]
}

// OnDisk says whether the disk has something at a path below the root, by its own rules.
func (r *Repository) OnDisk(path string) bool {
	if r.recorded != nil {
		return false
	}
	root, err := r.opened()
	if err != nil {
		return false
	}
	_, err = root.Lstat(filepath.FromSlash(path))
	return err == nil
}
