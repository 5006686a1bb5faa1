package history

import (
	"bytes"
	"encoding/hex"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"

	"github.com/go-git/go-billy/v5"
	"github.com/go-git/go-billy/v5/osfs"
	"github.com/go-git/go-git/v5/plumbing"
	"github.com/go-git/go-git/v5/plumbing/cache"
	"github.com/go-git/go-git/v5/plumbing/filemode"
	"github.com/go-git/go-git/v5/storage/filesystem"
	"github.com/go-git/go-git/v5/storage/filesystem/dotgit"

	"dicaxon/internal/safe"
	"dicaxon/internal/tree"
)

// What a record may cost: how many files a revision has, the length of all their paths,
// how deep its folders go, and how long an object is that is read whole.
const (
	mostFiles  = 3_000_000
	mostAgain  = 300_000 // of them in folders that were there before, with the same in them
	mostPaths  = 400 << 20
	mostDeep   = 4000
	mostObject = 64 << 20
)

var errAbsent = errors.New("the object is not there")

// objects are git's objects of one repository: its own folder of them, and those that it
// borrows from.
type objects struct {
	stores []*filesystem.Storage
}

// openObjects opens the folders of objects; nothing is read yet.
func openObjects(g tree.Git) objects {
	var o objects
	seen := map[string]bool{}
	var add func(dir string, deep int)
	add = func(dir string, deep int) {
		// As deep as git follows them, and no more in all than anybody has.
		if dir = filepath.Clean(dir); seen[dir] || deep > 5 || len(seen) > 50 {
			return
		}
		seen[dir] = true
		var files billy.Filesystem = guarded{osfs.New(g.Work), dir}
		if g.Common != g.Work {
			files = dotgit.NewRepositoryFilesystem(files, guarded{osfs.New(g.Common), dir})
		}
		o.stores = append(o.stores, filesystem.NewStorageWithOptions(files, cache.NewObjectLRU(16<<20), filesystem.Options{LargeObjectThreshold: tree.TextLimit, AlternatesFS: nowhere{}}))
		text, err := safe.ReadAny(filepath.Join(dir, "info", "alternates"), safe.Settings)
		if err != nil {
			return
		}
		for line := range strings.Lines(string(text)) {
			if line = strings.TrimSpace(line); line != "" && !strings.HasPrefix(line, "#") {
				add(tree.Beneath(dir, line), deep+1)
			}
		}
	}
	for _, dir := range g.Objects {
		add(dir, 0)
	}
	return o
}

// guarded is a file system of git's in which a pipe is not waited for, and whose objects
// lie in a folder of their own.
type guarded struct {
	billy.Filesystem
	objects string
}

// real gives where a path lies on the disk.
func (g guarded) real(name string) string {
	if rest, ok := strings.CutPrefix(filepath.ToSlash(name), "objects"); ok && (rest == "" || rest[0] == '/') {
		return filepath.Join(g.objects, filepath.FromSlash(rest))
	}
	return filepath.Join(g.Root(), name)
}

func (g guarded) Open(name string) (billy.File, error) { return g.OpenFile(name, os.O_RDONLY, 0) }

func (g guarded) OpenFile(name string, flag int, mode os.FileMode) (billy.File, error) {
	at := g.real(name)
	info, err := os.Stat(at)
	if err != nil {
		return nil, err
	}
	if !info.Mode().IsRegular() {
		return nil, &os.PathError{Op: "open", Path: at, Err: safe.ErrIrregular}
	}
	if flag != os.O_RDONLY {
		return nil, &os.PathError{Op: "open", Path: at, Err: os.ErrPermission}
	}
	return osfs.New(filepath.Dir(at)).Open(filepath.Base(at))
}

func (g guarded) Stat(name string) (os.FileInfo, error)  { return os.Stat(g.real(name)) }
func (g guarded) Lstat(name string) (os.FileInfo, error) { return os.Lstat(g.real(name)) }

func (g guarded) ReadDir(name string) ([]os.FileInfo, error) {
	entries, err := os.ReadDir(g.real(name))
	var all []os.FileInfo
	for _, e := range entries {
		if info, err := e.Info(); err == nil {
			all = append(all, info)
		}
	}
	return all, err
}

// nowhere keeps the library from following borrowed objects by itself.
type nowhere struct{ billy.Filesystem }

func (nowhere) Stat(string) (os.FileInfo, error) { return nil, os.ErrNotExist }
func (nowhere) Root() string                     { return string(filepath.Separator) }

// get gives an object of a kind, without reading it to its end.
func (o *objects) get(kind plumbing.ObjectType, of id) (plumbing.EncodedObject, error) {
	if len(of) != 20 {
		return nil, errAbsent
	}
	err := errAbsent
	for _, s := range o.stores {
		found, wrong := s.EncodedObject(kind, plumbing.Hash([]byte(of)))
		if wrong == nil {
			return found, nil
		}
		if !errors.Is(wrong, plumbing.ErrObjectNotFound) && !errors.Is(wrong, os.ErrNotExist) {
			err = wrong
		}
	}
	return nil, err
}

// read gives the bytes of an object, no further than a limit.
func (o *objects) read(kind plumbing.ObjectType, of id, limit int64) (text []byte, err error) {
	defer func() { // a damaged pack must not end the program
		if wrong := recover(); wrong != nil {
			err = fmt.Errorf("the object %s is damaged", of)
		}
	}()
	found, err := o.get(kind, of)
	if err != nil {
		return nil, err
	}
	r, err := found.Reader()
	if err != nil {
		return nil, err
	}
	defer r.Close()
	return io.ReadAll(io.LimitReader(r, limit))
}

// text gives a file's text, no further than a text is read.
func (o *objects) text(of id) ([]byte, error) { return o.read(plumbing.BlobObject, of, tree.TextLimit) }

// whole gives an object that is only of use whole.
func (o *objects) whole(kind plumbing.ObjectType, of id) ([]byte, error) {
	text, err := o.read(kind, of, mostObject+1)
	if err == nil && len(text) > mostObject {
		err = fmt.Errorf("the object %s %w", of, safe.ErrTooLarge)
	}
	return text, err
}

// treeOf gives the tree of a commit.
func (o *objects) treeOf(commit id) (id, error) {
	text, err := o.whole(plumbing.CommitObject, commit)
	if err != nil {
		return "", err
	}
	return named(headerOf(text, "tree"))
}

// named reads the name of an object, in hexadecimal digits.
func named(digits string) (id, error) {
	raw, err := hex.DecodeString(digits)
	if err != nil || len(raw) != 20 && len(raw) != 32 {
		return "", fmt.Errorf("%q is no name of an object", digits)
	}
	return id(raw), nil
}

// files gives the files of a tree object and those below it.
func (o *objects) files(top id) ([]recorded, error) {
	w := walker{objects: o, holds: map[id]int{}}
	err := w.walk(top, "", 0)
	return w.files, err
}

// A walker goes down trees, until there is more of them than there may be.
type walker struct {
	objects *objects
	files   []recorded
	seen    int
	paths   int
	holds   map[id]int // of each tree that was walked: how many files
	again   int
}

var errTooMany = fmt.Errorf("it holds more than %d files, or paths of more than %d bytes", mostFiles, mostPaths)

// walk reads git's form of a tree: mode, name, NUL and the 20 bytes of a hash
// (gitformat-pack).
func (w *walker) walk(of id, at string, deep int) error {
	if deep > mostDeep {
		return fmt.Errorf("its folders go deeper than %d", mostDeep)
	}
	text, err := w.objects.whole(plumbing.TreeObject, of)
	if err != nil {
		return err
	}
	for len(text) > 0 {
		space, end := bytes.IndexByte(text, ' '), bytes.IndexByte(text, 0)
		if space < 0 || end < space || len(text) < end+21 {
			return fmt.Errorf("the tree %s is damaged", of)
		}
		mode, err := filemode.New(string(text[:space]))
		if err != nil {
			return err
		}
		name := at + string(text[space+1:end])
		below := id(text[end+1 : end+21])
		text = text[end+21:]
		w.seen, w.paths = w.seen+1, w.paths+len(name)
		if w.seen > mostFiles || w.paths > mostPaths {
			return errTooMany
		}
		if mode != filemode.Dir {
			w.files = append(w.files, recorded{path: name, mode: mode, id: below})
			continue
		}
		if w.again += w.holds[below]; w.again > mostAgain {
			return errTooMany
		}
		before := len(w.files)
		if err := w.walk(below, name+"/", deep+1); err != nil {
			return err
		}
		w.holds[below] = len(w.files) - before
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
