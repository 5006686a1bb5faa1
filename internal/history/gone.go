package history

import (
	"path"
	"strings"

	"github.com/go-git/go-git/v5/plumbing/filemode"

	"dicaxon/internal/tree"
)

// mostGone is how many files are followed to where they went.
const mostGone = 300

// Gone gives the files that git knows and that are not in the work tree any more,
// with where each went: the file that has its text now, or else the only new one
// of its name; "" where it was deleted. The repository is what lies on the disk. Of
// more than some hundreds of files gone it says nothing.
func (h *History) Gone(now *tree.Repository) (map[string]string, error) {
	index, err := h.index()
	if err != nil {
		return nil, err
	}
	known := map[string]id{}
	gone := map[string]id{}
	note := func(f recorded) {
		at, ok := strings.CutPrefix(f.path, h.below)
		if !ok || f.mode == filemode.Submodule || f.mode == filemode.Symlink || f.left {
			return
		}
		if now.Top.At(at) == nil && !unseen(now, at) {
			gone[at] = f.id
		}
	}
	for _, f := range index.files {
		known[strings.TrimPrefix(f.path, h.below)] = f.id
		note(f)
	}
	if head, err := h.resolve("HEAD"); err == nil && !h.isTree(head, index.tree) {
		files, err := h.filesOf(head)
		if err != nil {
			return nil, err
		}
		before := map[string]bool{}
		for _, f := range files {
			before[strings.TrimPrefix(f.path, h.below)] = true
			note(f)
		}
		for at := range known { // what is staged as new may be where something went
			if !before[at] {
				delete(known, at)
			}
		}
	}
	if len(gone) == 0 || len(gone) > mostGone {
		return nil, nil
	}
	return follow(gone, known, now), nil
}

// unseen says whether a path lies in a folder that nobody looked into, such as one that an ignore
// file names: git may have what is there all the same.
func unseen(now *tree.Repository, at string) bool {
	for dir := path.Dir(at); dir != "."; dir = path.Dir(dir) {
		if n := now.Top.At(dir); n != nil {
			return n.Ignored || n.Folder != nil && n.Folder.Unread
		}
	}
	return false
}

// isTree says whether a commit is known to have a tree.
func (h *History) isTree(commit, tree id) bool {
	if h.foreign || tree == "" {
		return false
	}
	of, err := h.objects.treeOf(commit)
	return err == nil && of == tree
}

// follow looks for where files went among those that are new.
func follow(gone, known map[string]id, now *tree.Repository) map[string]string {
	byName, byHash := map[string][]string{}, map[id]string{}
	for _, f := range now.Folders {
		for i := range f.Nodes {
			n := &f.Nodes[i]
			at := f.Path() + n.Name
			if _, old := known[at]; old || n.Folder != nil || n.Ignored || n.Kind != tree.File {
				continue
			}
			byName[n.Name] = append(byName[n.Name], at)
			if len(byHash) < mostGone {
				if text, err := now.Text(at); err == nil && len(text) < tree.TextLimit {
					byHash[nameOf(text, 20)] = at
				}
			}
		}
	}
	went := map[string]string{}
	for at, hash := range gone {
		went[at] = byHash[hash]
		if same := byName[path.Base(at)]; went[at] == "" && len(same) == 1 {
			went[at] = same[0]
		}
	}
	return went
}

// GoneBetween gives the files of an earlier state of a repository that a later one
// has no more, with where each went, as Gone does.
func GoneBetween(before, now *tree.Repository) map[string]string {
	gone, known := map[string]id{}, map[string]id{}
	for _, f := range before.Folders {
		for i := range f.Nodes {
			if n := &f.Nodes[i]; n.Folder == nil && n.Kind == tree.File {
				at := f.Path() + n.Name
				known[at] = ""
				if now.Top.At(at) == nil && len(gone) <= mostGone {
					text, _ := before.Text(at)
					gone[at] = nameOf(text, 20)
				}
			}
		}
	}
	if len(gone) == 0 || len(gone) > mostGone {
		return nil
	}
	return follow(gone, known, now)
}
