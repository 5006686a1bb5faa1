package tree

import (
	"os"
	"path/filepath"
	"strings"
)

// A worker reads one folder after another.
type worker struct {
	*reader
	lister lister
	near   near
}

// longPath is a length that every system opens a path of in one go.
const longPath = 1000

// list gives what a folder holds. A path that is too long for the system is
// opened step by step.
func (w *worker) list(path string) ([]entry, error) {
	full := filepath.Join(w.repository.Root, filepath.FromSlash(path))
	if len(full) < longPath {
		return w.lister.list(full)
	}
	root, err := w.repository.opened()
	if err != nil {
		return nil, err
	}
	return w.near.list(root, path)
}

// near is a folder far down that stays open: the next to be read mostly lies
// below it, so that a folder costs a few steps and not as many as it is deep.
type near struct {
	path string
	root *os.Root
}

func (n *near) close() {
	if n.root != nil {
		n.root.Close()
	}
}

func (n *near) list(top *os.Root, path string) ([]entry, error) {
	from, rest := top, path
	if n.root != nil && strings.HasPrefix(path, n.path) {
		from, rest = n.root, path[len(n.path):]
	}
	if cut := strings.LastIndexByte(strings.TrimSuffix(rest, "/"), '/') + 1; cut >= longPath/8 {
		root, err := from.OpenRoot(filepath.FromSlash(rest[:cut]))
		if err != nil {
			return nil, err
		}
		n.close()
		n.path, n.root = path[:len(path)-len(rest)+cut], root
		from, rest = root, rest[cut:]
	}
	name := strings.TrimSuffix(rest, "/")
	if name == "" {
		name = "."
	}
	return listed(from.Open(filepath.FromSlash(name)))
}
