// Package history reads what git recorded of a repository: a revision, or what is staged,
// without checking it out. It reads git's own files and runs no git, but where they are
// of a kind that it cannot read; then git itself is asked.
package history

import (
	"crypto/sha1"
	"crypto/sha256"
	"errors"
	"fmt"
	"hash"
	"io/fs"
	"os"
	"path/filepath"
	"strings"

	"github.com/go-git/go-git/v5/plumbing/filemode"

	"dicaxon/internal/safe"
	"dicaxon/internal/tree"
)

// ErrNoGit says that a folder is in no repository of git.
var ErrNoGit = errors.New("is in no repository of git")

// A CallError says that a revision is called as nothing that is there.
type CallError string

func (e CallError) Error() string { return string(e) }

// errUnborn says that HEAD is a branch without a commit yet.
var errUnborn = errors.New("there is no commit yet")

// An id is the name of an object, in bytes: 20 of SHA-1 or 32 of SHA-256.
type id string

func (i id) String() string { return fmt.Sprintf("%x", string(i)) }

// A recorded is a file as git recorded it.
type recorded struct {
	path string // below the top of the work tree
	mode filemode.FileMode
	id   id
	// Of the index: it is only meant to be added, so the next commit does not have it; it
	// is left out of the work tree on purpose.
	meant, left bool
}

// A History is what git recorded of the folder that it was opened for.
type History struct {
	root    string // absolute, the folder that is looked at
	below   string // of the work tree, "" for its top, otherwise ending in "/"
	places  tree.Git
	objects objects
	asked   asked
	foreign bool // git keeps its objects in a way that only git can read
	table   bool // git keeps its references so
	partial bool // not all objects were fetched
}

// Open finds the repository that the folder root lies in.
func Open(root string) (*History, error) {
	abs, err := filepath.Abs(root)
	if err != nil {
		return nil, err
	}
	places := tree.GitOf(abs)
	if places.Top == "" {
		return nil, fmt.Errorf("%s %w", root, ErrNoGit)
	}
	h := &History{root: abs, places: places, asked: asked{places: places}}
	if rel, err := filepath.Rel(places.Top, real(abs)); err == nil && rel != "." {
		h.below = filepath.ToSlash(rel) + "/"
	}
	says := tree.GitSettings(places.Common)
	h.foreign = says["extensions.objectformat"] != "" && !strings.EqualFold(says["extensions.objectformat"], "sha1")
	h.table = says["extensions.refstorage"] != "" && !strings.EqualFold(says["extensions.refstorage"], "files")
	for key := range says {
		h.partial = h.partial || key == "extensions.partialclone" || strings.HasPrefix(key, "remote.") && strings.HasSuffix(key, ".promisor")
	}
	h.objects = openObjects(places)
	return h, nil
}

func real(path string) string {
	if resolved, err := filepath.EvalSymlinks(path); err == nil {
		return resolved
	}
	return path
}

// At gives the repository as it was at a revision, written as git has it: a branch, a
// tag, the beginning of a hash, HEAD~2, HEAD@{1}. HEAD of a repository without a commit
// is empty.
func (h *History) At(revision string, watch func(string) bool) (*tree.Repository, error) {
	files, err := h.at(revision)
	if errors.Is(err, errUnborn) {
		files, err = nil, nil
	}
	if err != nil {
		return nil, err
	}
	return h.repository(files, watch), nil
}

func (h *History) at(revision string) ([]recorded, error) {
	commit, err := h.resolve(revision)
	if err != nil {
		return nil, err
	}
	files, err := h.filesOf(commit)
	if err != nil {
		return nil, fmt.Errorf("%s: %w", revision, err)
	}
	return files, nil
}

// filesOf gives the files of a commit.
func (h *History) filesOf(commit id) ([]recorded, error) {
	if h.foreign {
		return h.asked.files(commit)
	}
	top, err := h.objects.treeOf(commit)
	if err == nil {
		var files []recorded
		if files, err = h.objects.files(top); err == nil {
			return files, nil
		}
	}
	return nil, h.plainly(err)
}

// Staged gives the repository as the next commit would have it.
func (h *History) Staged(watch func(string) bool) (*tree.Repository, error) {
	index, err := h.index()
	if err != nil {
		return nil, fmt.Errorf("what is staged cannot be read: %w", err)
	}
	var files []recorded
	for _, f := range index.files {
		if !f.meant {
			files = append(files, f)
		}
	}
	return h.repository(files, watch), nil
}

// repository gives recorded files as a repository whose texts are read when asked for.
func (h *History) repository(files []recorded, watch func(string) bool) *tree.Repository {
	all, ids := h.within(files)
	return tree.FromRecord(h.root, all, watch, h.reader(ids))
}

// within gives those of recorded files that lie below the folder looked at.
func (h *History) within(files []recorded) ([]tree.Recorded, map[string]id) {
	var all []tree.Recorded
	ids := map[string]id{}
	for _, f := range files {
		path, ok := strings.CutPrefix(f.path, h.below)
		if !ok || f.mode == filemode.Submodule || f.mode == filemode.Dir || !fs.ValidPath(path) {
			continue // a repository of its own, or no path that a work tree could have
		}
		kind := tree.File
		if f.mode == filemode.Symlink {
			kind = tree.Link
		}
		ids[path] = f.id
		all = append(all, tree.Recorded{Path: path, Kind: kind})
	}
	return all, ids
}

// State tells states of what git recorded apart without reading it: by its last
// commit and by size and time of its index. Newest is when the index was
// written, in nanoseconds.
func (h *History) State() (state string, newest int64) {
	head, _ := h.resolve("HEAD")
	info, err := os.Stat(h.places.Index)
	if err != nil {
		return h.places.Work + " " + head.String(), 0
	}
	newest = info.ModTime().UnixNano()
	return fmt.Sprintf("%s %s %d %d", h.places.Work, head, info.Size(), newest), newest
}

// Tracked gives the paths that git tracks, whatever ignore files say.
func (h *History) Tracked() (map[string]bool, error) {
	index, err := h.index()
	if err != nil {
		return nil, err
	}
	all := map[string]bool{}
	for _, f := range index.files {
		if path, ok := strings.CutPrefix(f.path, h.below); ok {
			all[path] = true
		}
	}
	return all, nil
}

// LeftOut gives the files that the work tree leaves out on purpose, as a sparse checkout
// does, with the texts that git has of them.
func (h *History) LeftOut() ([]tree.Recorded, func(string) ([]byte, error)) {
	index, err := h.index()
	if err != nil {
		return nil, nil
	}
	var files []recorded
	for _, f := range index.files {
		if f.left {
			files = append(files, f)
		}
	}
	all, ids := h.within(files)
	return all, h.reader(ids)
}

// reader gives the texts of recorded files, no further than a text is read.
func (h *History) reader(ids map[string]id) func(string) ([]byte, error) {
	return func(path string) ([]byte, error) {
		of, ok := ids[path]
		if !ok {
			return nil, os.ErrNotExist
		}
		if text, same := h.onDisk(path, of); same {
			return text, nil
		}
		if h.foreign {
			return h.asked.text(of)
		}
		text, err := h.objects.text(of)
		return text, h.plainly(err)
	}
}

// plainly says why an object is not there.
func (h *History) plainly(err error) error {
	switch {
	case errors.Is(err, errAbsent) && h.partial:
		return errors.New("git has not fetched it: this clone is a partial one; `git fetch --refetch` without a filter brings the rest")
	case errors.Is(err, errAbsent):
		return errors.New("git's record of it is missing; `git fsck` says more")
	}
	return err
}

// onDisk gives the text of a file that is on the disk as it was recorded: most
// are, and hashing costs less than unpacking.
func (h *History) onDisk(path string, of id) ([]byte, bool) {
	at := filepath.Join(h.root, filepath.FromSlash(path))
	if info, err := os.Lstat(at); err != nil || !info.Mode().IsRegular() || info.Size() > tree.TextLimit {
		return nil, false
	}
	text, err := safe.ReadFile(h.root, path, tree.TextLimit)
	return text, err == nil && nameOf(text, len(of)) == of
}

// nameOf gives the name that git gives a file's text (gitformat-pack): the hash of its
// kind, its length and itself.
func nameOf(text []byte, size int) id {
	var sum hash.Hash
	if sum = sha1.New(); size == sha256.Size {
		sum = sha256.New()
	}
	fmt.Fprintf(sum, "blob %d\x00", len(text))
	sum.Write(text)
	return id(sum.Sum(nil))
}
