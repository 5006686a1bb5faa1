package tree

import (
	"errors"
	"fmt"
	"io/fs"
	"slices"
	"strings"
)

// A Recorded is one file of a repository that is not on the disk, such as a
// revision of git.
type Recorded struct {
	Path string // below the root, with "/"
	Kind Kind
}

// FromRecord makes a Repository of files that are recorded somewhere else. Text
// gives the text of one. Nothing in it is ignored: it is recorded.
func FromRecord(root string, files []Recorded, watch func(name string) bool, text func(path string) ([]byte, error)) *Repository {
	rep := &Repository{Root: root, Top: &Folder{}, recorded: text}
	folders := map[string]*Folder{"": rep.Top}
	var folder func(path string) *Folder
	folder = func(path string) *Folder {
		if f := folders[path]; f != nil {
			return f
		}
		above, name := split(path)
		parent := folder(above)
		f := &Folder{Name: name, Parent: parent}
		folders[path] = f
		parent.Nodes = append(parent.Nodes, Node{Name: name, Folder: f, Kind: IsFolder})
		return f
	}
	for _, file := range files {
		above, name := split(file.Path)
		f := folder(above)
		f.Nodes = append(f.Nodes, Node{Name: name, Kind: file.Kind})
		f.watched = f.watched || watch != nil && watch(name)
	}
	for _, f := range folders {
		slices.SortFunc(f.Nodes, func(a, b Node) int { return strings.Compare(a.Name, b.Name) })
	}
	rep.number()
	return rep
}

// split cuts a path without a slash at its end into its folder and its name.
func split(path string) (above, name string) {
	cut := strings.LastIndexByte(path, '/')
	if cut < 0 {
		return "", path
	}
	return path[:cut], path[cut+1:]
}

func (r *Repository) recordedText(path string) ([]byte, error) {
	text, err := r.recorded(path)
	if errors.Is(err, fs.ErrNotExist) {
		return nil, fmt.Errorf("%s: %w", path, fs.ErrNotExist)
	} else if err != nil {
		return nil, err
	}
	return text[:min(len(text), TextLimit)], nil
}
