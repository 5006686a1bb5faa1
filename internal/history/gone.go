package history

import (
	"path"
	"strings"

	"github.com/go-git/go-git/v5/plumbing"
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
	index, err := h.store.Index()
	if err != nil {
		return nil, err
	}
	known := map[string]plumbing.Hash{}
	gone := map[string]plumbing.Hash{}
	note := func(name string, mode filemode.FileMode, hash plumbing.Hash) {
		at, ok := strings.CutPrefix(name, h.below)
		if !ok || mode == filemode.Submodule || mode == filemode.Symlink {
			return
		}
		if now.Top.At(at) == nil {
			gone[at] = hash
		}
	}
	for _, e := range index.Entries {
		known[strings.TrimPrefix(e.Name, h.below)] = e.Hash
		note(e.Name, e.Mode, e.Hash)
	}
	head, err := h.headTree()
	if err == nil && (index.Cache == nil || len(index.Cache.Entries) == 0 || index.Cache.Entries[0].Hash != head) {
		before := map[string]bool{}
		if err := h.walk(head, "", func(name string, mode filemode.FileMode, hash plumbing.Hash) {
			before[strings.TrimPrefix(name, h.below)] = true
			note(name, mode, hash)
		}); err != nil {
			return nil, err
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

// headTree gives the tree of the last commit.
func (h *History) headTree() (plumbing.Hash, error) {
	hash, err := h.resolve("HEAD")
	if err != nil {
		return hash, err
	}
	commit, err := h.object(plumbing.CommitObject, hash)
	return plumbing.NewHash(headerOf(commit, "tree")), err
}

// follow looks for where files went among those that are new.
func follow(gone, known map[string]plumbing.Hash, now *tree.Repository) map[string]string {
	byName, byHash := map[string][]string{}, map[plumbing.Hash]string{}
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
					byHash[plumbing.ComputeHash(plumbing.BlobObject, text)] = at
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
	gone, known := map[string]plumbing.Hash{}, map[string]plumbing.Hash{}
	for _, f := range before.Folders {
		for i := range f.Nodes {
			if n := &f.Nodes[i]; n.Folder == nil && n.Kind == tree.File {
				at := f.Path() + n.Name
				known[at] = plumbing.ZeroHash
				if now.Top.At(at) == nil && len(gone) <= mostGone {
					text, _ := before.Text(at)
					gone[at] = plumbing.ComputeHash(plumbing.BlobObject, text)
				}
			}
		}
	}
	if len(gone) == 0 || len(gone) > mostGone {
		return nil
	}
	return follow(gone, known, now)
}
