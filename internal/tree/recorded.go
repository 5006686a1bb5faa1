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
	rep.add(files, map[string]*Folder{"": rep.Top}, watch)
	rep.number()
	return rep
}

// Lend adds files that the work tree leaves out on purpose, as a sparse checkout does,
// where nothing stands in their place. Text gives the text of one.
func (r *Repository) Lend(files []Recorded, watch func(name string) bool, text func(path string) ([]byte, error)) {
	folders := map[string]*Folder{"": r.Top}
	files = slices.DeleteFunc(files, func(f Recorded) bool {
		for at := f.Path; strings.Contains(at, "/"); {
			at, _ = split(at)
			if n := r.Top.At(at); n != nil && n.Folder != nil {
				folders[at] = n.Folder
			}
		}
		return r.Top.At(f.Path) != nil
	})
	if len(files) > 0 {
		r.lent = text
		r.add(files, folders, watch)
		r.number()
	}
}

// add puts recorded files into the tree, which has some folders already.
func (r *Repository) add(files []Recorded, folders map[string]*Folder, watch func(name string) bool) {
	changed := map[*Folder]bool{}
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
		changed[parent] = true
		return f
	}
	for _, file := range files {
		above, name := split(file.Path)
		f := folder(above)
		f.Nodes = append(f.Nodes, Node{Name: name, Kind: file.Kind, Lent: r.recorded == nil})
		changed[f] = true
		f.watched = f.watched || watch != nil && watch(name)
	}
	for f := range changed {
		slices.SortFunc(f.Nodes, func(a, b Node) int { return strings.Compare(a.Name, b.Name) })
	}
}

// split cuts a path without a slash at its end into its folder and its name.
func split(path string) (above, name string) {
	cut := strings.LastIndexByte(path, '/')
	if cut < 0 {
		return "", path
	}
	return path[:cut], path[cut+1:]
}

func recordedText(path string, from func(string) ([]byte, error)) ([]byte, error) {
	text, err := from(path)
	if errors.Is(err, fs.ErrNotExist) {
		return nil, fmt.Errorf("%s: %w", path, fs.ErrNotExist)
	} else if err != nil {
		return nil, err
	}
	return text[:min(len(text), TextLimit)], nil
}
