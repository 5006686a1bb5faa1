// Package history reads what git recorded of a repository: a revision, or what
// is staged, without checking it out and without running git.
package history

import (
	"bytes"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"

	"github.com/go-git/go-billy/v5/osfs"
	"github.com/go-git/go-git/v5/plumbing"
	"github.com/go-git/go-git/v5/plumbing/cache"
	"github.com/go-git/go-git/v5/plumbing/filemode"
	"github.com/go-git/go-git/v5/storage/filesystem"
	"github.com/go-git/go-git/v5/storage/filesystem/dotgit"

	"dicaxon/internal/tree"
)

// ErrNoGit says that a folder is in no repository of git.
var ErrNoGit = errors.New("is in no repository of git")

// A History is what git recorded of the folder that it was opened for.
type History struct {
	root  string // absolute, the folder that is looked at
	below string // of the work tree, "" for its top, otherwise ending in "/"
	work  string // the folder in which git keeps what belongs to the work tree
	store *filesystem.Storage
}

// Open finds the repository that the folder root lies in.
func Open(root string) (*History, error) {
	abs, err := filepath.Abs(root)
	if err != nil {
		return nil, err
	}
	top, work, common := tree.GitFolders(abs)
	if top == "" {
		return nil, fmt.Errorf("%s %w", root, ErrNoGit)
	}
	h := &History{root: abs, work: work}
	if rel, err := filepath.Rel(top, real(abs)); err == nil && rel != "." {
		h.below = filepath.ToSlash(rel) + "/"
	}
	files := osfs.New(work)
	if common != work {
		files = dotgit.NewRepositoryFilesystem(files, osfs.New(common))
	}
	h.store = filesystem.NewStorage(files, cache.NewObjectLRUDefault())
	return h, nil
}

func real(path string) string {
	if resolved, err := filepath.EvalSymlinks(path); err == nil {
		return resolved
	}
	return path
}

// At gives the repository as it was at a revision, written as git has it: a
// branch, a tag, the beginning of a hash, HEAD~2.
func (h *History) At(revision string, watch func(string) bool) (*tree.Repository, error) {
	hash, err := h.resolve(revision)
	if err != nil {
		return nil, err
	}
	commit, err := h.object(plumbing.CommitObject, hash)
	if err != nil {
		return nil, fmt.Errorf("%s is no commit that is here", revision)
	}
	var files []tree.Recorded
	blobs := map[string]plumbing.Hash{}
	if err := h.walk(plumbing.NewHash(headerOf(commit, "tree")), "", func(name string, mode filemode.FileMode, hash plumbing.Hash) {
		files = h.add(files, blobs, name, mode, hash)
	}); err != nil {
		return nil, fmt.Errorf("%s: %w", revision, err)
	}
	return tree.FromRecord(h.root, files, watch, h.reader(blobs)), nil
}

// Staged gives the repository as the next commit would have it.
func (h *History) Staged(watch func(string) bool) (*tree.Repository, error) {
	index, err := h.store.Index()
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

// State tells states of what git recorded apart without reading it: by its last
// commit and by size and time of its index. Newest is when the index was
// written, in nanoseconds.
func (h *History) State() (state string, newest int64) {
	head, _ := h.resolve("HEAD")
	info, err := os.Stat(filepath.Join(h.work, "index"))
	if err != nil {
		return h.work + " " + head.String(), 0
	}
	newest = info.ModTime().UnixNano()
	return fmt.Sprintf("%s %s %d %d", h.work, head, info.Size(), newest), newest
}

// Tracked gives the paths that git tracks, whatever ignore files say.
func (h *History) Tracked() (map[string]bool, error) {
	index, err := h.store.Index()
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

func (h *History) add(files []tree.Recorded, blobs map[string]plumbing.Hash, name string, mode filemode.FileMode, hash plumbing.Hash) []tree.Recorded {
	path, ok := strings.CutPrefix(name, h.below)
	if !ok || mode == filemode.Submodule { // a repository of its own
		return files
	}
	kind := tree.File
	if mode == filemode.Symlink {
		kind = tree.Link
	}
	blobs[path] = hash
	return append(files, tree.Recorded{Path: path, Kind: kind})
}

// object gives the bytes of an object, of a file no more than a text is read.
func (h *History) object(kind plumbing.ObjectType, hash plumbing.Hash) ([]byte, error) {
	o, err := h.store.EncodedObject(kind, hash)
	if err != nil {
		return nil, err
	}
	r, err := o.Reader()
	if err != nil {
		return nil, err
	}
	defer r.Close()
	if kind == plumbing.BlobObject {
		return io.ReadAll(io.LimitReader(r, tree.TextLimit))
	}
	return io.ReadAll(r)
}

// walk gives the files of a tree object and those below it, in git's form of a
// tree: mode, name, NUL and the 20 bytes of a hash (gitformat-pack).
func (h *History) walk(hash plumbing.Hash, at string, yield func(string, filemode.FileMode, plumbing.Hash)) error {
	text, err := h.object(plumbing.TreeObject, hash)
	if err != nil {
		return err
	}
	for len(text) > 0 {
		space, end := bytes.IndexByte(text, ' '), bytes.IndexByte(text, 0)
		if space < 0 || end < space || len(text) < end+21 {
			return fmt.Errorf("the tree %s is damaged", hash)
		}
		mode, err := filemode.New(string(text[:space]))
		if err != nil {
			return err
		}
		name := at + string(text[space+1:end])
		var below plumbing.Hash
		copy(below[:], text[end+1:end+21])
		text = text[end+21:]
		if mode != filemode.Dir {
			yield(name, mode, below)
		} else if err := h.walk(below, name+"/", yield); err != nil {
			return err
		}
	}
	return nil
}

// headerOf gives a header of a commit or a tag.
func headerOf(object []byte, name string) string {
	for line := range bytes.Lines(object) {
		if value, ok := bytes.CutPrefix(line, []byte(name+" ")); ok {
			return strings.TrimSpace(string(value))
		}
		if len(bytes.TrimSpace(line)) == 0 {
			break
		}
	}
	return ""
}

// reader gives the texts of recorded files.
func (h *History) reader(blobs map[string]plumbing.Hash) func(string) ([]byte, error) {
	return func(path string) ([]byte, error) {
		hash, ok := blobs[path]
		if !ok {
			return nil, os.ErrNotExist
		}
		if text, same := h.onDisk(path, hash); same {
			return text, nil
		}
		return h.object(plumbing.BlobObject, hash)
	}
}

// onDisk gives the text of a file that is on the disk as it was recorded: most
// are, and hashing costs less than unpacking.
func (h *History) onDisk(path string, hash plumbing.Hash) ([]byte, bool) {
	at := filepath.Join(h.root, filepath.FromSlash(path))
	if info, err := os.Lstat(at); err != nil || !info.Mode().IsRegular() || info.Size() > tree.TextLimit {
		return nil, false
	}
	text, err := os.ReadFile(at)
	return text, err == nil && plumbing.ComputeHash(plumbing.BlobObject, text) == hash
}
