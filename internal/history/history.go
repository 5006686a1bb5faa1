// Package history reads what git recorded of a repository: a revision, or what
// is staged, without checking it out and without running git.
package history

import (
	"errors"
	"fmt"
	"io"
	"path/filepath"
	"strings"

	"github.com/go-git/go-git/v5"
	"github.com/go-git/go-git/v5/plumbing"
	"github.com/go-git/go-git/v5/plumbing/filemode"
	"github.com/go-git/go-git/v5/plumbing/object"

	"dicaxon/internal/tree"
)

// ErrNoGit says that a folder is in no repository of git.
var ErrNoGit = errors.New("is in no repository of git")

// A History is what git recorded of the folder that it was opened for.
type History struct {
	root  string // absolute, the folder that is looked at
	below string // of the work tree, "" for its top, otherwise ending in "/"
	git   *git.Repository
}

// Open finds the repository that the folder root lies in.
func Open(root string) (*History, error) {
	abs, err := filepath.Abs(root)
	if err != nil {
		return nil, err
	}
	r, err := git.PlainOpenWithOptions(abs, &git.PlainOpenOptions{DetectDotGit: true, EnableDotGitCommonDir: true})
	if err != nil {
		return nil, fmt.Errorf("%s %w", root, ErrNoGit)
	}
	h := &History{root: abs, git: r}
	work, err := r.Worktree()
	if err != nil {
		return nil, fmt.Errorf("%s: %w", root, err)
	}
	top, real := work.Filesystem.Root(), abs
	if resolved, err := filepath.EvalSymlinks(abs); err == nil {
		real = resolved
	}
	if resolved, err := filepath.EvalSymlinks(top); err == nil {
		top = resolved
	}
	if rel, err := filepath.Rel(top, real); err == nil && rel != "." {
		h.below = filepath.ToSlash(rel) + "/"
	}
	return h, nil
}

// At gives the repository as it was at a revision, written as git has it: a
// branch, a tag, the beginning of a hash, HEAD~2.
func (h *History) At(revision string, watch func(string) bool) (*tree.Repository, error) {
	hash, err := h.git.ResolveRevision(plumbing.Revision(revision))
	if err != nil {
		return nil, fmt.Errorf("git knows no revision %q", revision)
	}
	commit, err := h.git.CommitObject(*hash)
	if err != nil {
		return nil, fmt.Errorf("%s is no commit", revision)
	}
	top, err := commit.Tree()
	if err != nil {
		return nil, err
	}
	var files []tree.Recorded
	blobs := map[string]plumbing.Hash{}
	walker := object.NewTreeWalker(top, true, nil)
	defer walker.Close()
	for {
		name, entry, err := walker.Next()
		if err == io.EOF {
			break
		}
		if err != nil {
			return nil, fmt.Errorf("%s: %w", revision, err)
		}
		if entry.Mode != filemode.Dir {
			files = h.add(files, blobs, name, entry.Mode, entry.Hash)
		}
	}
	return tree.FromRecord(h.root, files, watch, h.reader(blobs)), nil
}

// Staged gives the repository as the next commit would have it.
func (h *History) Staged(watch func(string) bool) (*tree.Repository, error) {
	index, err := h.git.Storer.Index()
	if err != nil {
		return nil, fmt.Errorf("what is staged cannot be read: %w", err)
	}
	var files []tree.Recorded
	blobs := map[string]plumbing.Hash{}
	for _, entry := range index.Entries {
		files = h.add(files, blobs, entry.Name, entry.Mode, entry.Hash)
	}
	return tree.FromRecord(h.root, files, watch, h.reader(blobs)), nil
}

func (h *History) add(files []tree.Recorded, blobs map[string]plumbing.Hash, name string, mode filemode.FileMode, hash plumbing.Hash) []tree.Recorded {
	path, ok := strings.CutPrefix(name, h.below)
	if !ok {
		return files
	}
	kind := tree.File
	switch mode {
	case filemode.Symlink:
		kind = tree.Link
	case filemode.Submodule:
		return files // a repository of its own
	}
	blobs[path] = hash
	return append(files, tree.Recorded{Path: path, Kind: kind})
}

// reader gives the texts of recorded files.
func (h *History) reader(blobs map[string]plumbing.Hash) func(string) ([]byte, error) {
	return func(path string) ([]byte, error) {
		hash, ok := blobs[path]
		if !ok {
			return nil, fmt.Errorf("%s is not recorded", path)
		}
		blob, err := h.git.BlobObject(hash)
		if err != nil {
			return nil, err
		}
		r, err := blob.Reader()
		if err != nil {
			return nil, err
		}
		defer r.Close()
		return io.ReadAll(io.LimitReader(r, tree.TextLimit))
	}
}

// Tracked gives the paths that git tracks, whatever ignore files say.
func (h *History) Tracked() (map[string]bool, error) {
	index, err := h.git.Storer.Index()
	if err != nil {
		return nil, err
	}
	all := map[string]bool{}
	for _, entry := range index.Entries {
		if path, ok := strings.CutPrefix(entry.Name, h.below); ok {
			all[path] = true
		}
	}
	return all, nil
}
