package tree

import (
	"path"
	"strings"
)

// Index gives the place of that name among the nodes of the folder, and whether it
// is there.
func (f *Folder) Index(name string) (int, bool) {
	low, high := 0, len(f.Nodes)
	for low < high {
		if mid := (low + high) / 2; f.Nodes[mid].Name < name {
			low = mid + 1
		} else {
			high = mid
		}
	}
	return low, low < len(f.Nodes) && f.Nodes[low].Name == name
}

// Find gives the node of that name in the folder, or nil.
func (f *Folder) Find(name string) *Node {
	if i, there := f.Index(name); there {
		return &f.Nodes[i]
	}
	return nil
}

// At gives the node at a path below the folder, written with "/" and without
// a slash at its end, or nil.
func (f *Folder) At(path string) *Node {
	for {
		name, rest, more := strings.Cut(path, "/")
		node := f.Find(name)
		if node == nil || !more {
			return node
		}
		if node.Folder == nil {
			return nil
		}
		f, path = node.Folder, rest
	}
}

// Node gives what stands at a path below the folder, however that is written, or nil; the
// folder itself for ".".
func (f *Folder) Node(at string) *Node {
	if at = strings.TrimSuffix(path.Clean(at), "/"); at == "." {
		return &Node{Kind: IsFolder, Folder: f}
	}
	return f.At(at)
}

// HasFile says whether version control has a file at a path below the folder.
func (f *Folder) HasFile(at string) bool {
	n := f.Node(at)
	return n != nil && n.Folder == nil && !n.Ignored
}

// HasFolder says whether version control has a folder at a path below the folder.
func (f *Folder) HasFolder(at string) bool {
	n := f.Node(at)
	return n != nil && n.Folder != nil && !n.Ignored
}

// Names gives the names in the folder at a path below the folder.
func (f *Folder) Names(at string) []string {
	n := f.Node(at)
	if n == nil || n.Folder == nil {
		return nil
	}
	all := make([]string, len(n.Folder.Nodes))
	for i := range n.Folder.Nodes {
		all[i] = n.Folder.Nodes[i].Name
	}
	return all
}

// EachFile calls yield with every file in the folder and below, and the folder it lies in.
func (f *Folder) EachFile(yield func(in *Folder, n *Node)) {
	for i := range f.Nodes {
		if n := &f.Nodes[i]; n.Folder != nil {
			n.Folder.EachFile(yield)
		} else {
			yield(f, n)
		}
	}
}

// Empty says whether version control would lose the folder: there is no file
// in it at any depth, ignored ones apart.
func (f *Folder) Empty() bool {
	if f.Unread {
		return false
	}
	for i := range f.Nodes {
		n := &f.Nodes[i]
		if !n.Ignored && (n.Folder == nil || !n.Folder.Empty()) {
			return false
		}
	}
	return true
}

// Kept says whether a folder holds nothing but what keeps it in version control:
// the rest of it, if any, is ignored.
func (f *Folder) Kept() bool {
	if f.Unread {
		return false
	}
	for i := range f.Nodes {
		switch n := &f.Nodes[i]; {
		case n.Ignored, n.Name == ".gitkeep", n.Name == ".keep", n.Name == ".gitignore":
		case n.Folder != nil && n.Folder.Kept():
		default:
			return false
		}
	}
	return true
}
