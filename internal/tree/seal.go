package tree

import (
	"crypto/sha256"
	"encoding/binary"
	"fmt"
	"io/fs"
	"maps"
	"os"
	"path/filepath"
	"runtime"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
)

// A Seal tells states of a repository apart.
type Seal [sha256.Size]byte

// Seal gives what tells this state of a repository on the disk apart from others
// without reading a file: every name that was read with what stands under it and
// whether it is ignored; size, times and number of each file; and the lists and
// settings of git that hold here from outside. Newest is the time of the latest
// change, in nanoseconds. What is ignored, a link, or no part of the repository is
// not in it: Asked lists what of that was read all the same.
func (r *Repository) Seal() (seal Seal, newest int64) {
	parts := make([]Seal, len(r.Folders))
	var next atomic.Int64
	var latest [64]int64
	workers := min(runtime.GOMAXPROCS(0), len(latest))
	var all sync.WaitGroup
	for w := range workers {
		all.Go(func() {
			var text []byte
			for {
				const share = 32
				from := int(next.Add(share)) - share
				if from >= len(r.Folders) {
					return
				}
				for i := from; i < min(from+share, len(r.Folders)); i++ {
					text, latest[w] = r.sealFolder(r.Folders[i], text[:0], latest[w])
					parts[i] = sha256.Sum256(text)
				}
			}
		})
	}
	all.Wait()
	whole := sha256.New()
	whole.Write([]byte(r.Root))
	for _, at := range slices.Sorted(maps.Keys(r.outside)) {
		fmt.Fprintf(whole, "%q %q\n", at, r.outside[at])
	}
	for i := range parts {
		whole.Write(parts[i][:])
	}
	return Seal(whole.Sum(nil)), slices.Max(latest[:])
}

func (r *Repository) sealFolder(f *Folder, text []byte, newest int64) ([]byte, int64) {
	at := f.Path()
	stamp, done := r.stampsIn(at)
	defer done()
	f.states = make([]state, len(f.Nodes))
	text = append(append(text, at...), 0)
	for i := range f.Nodes {
		n := &f.Nodes[i]
		text = append(append(text, n.Name...), 0, byte(n.Kind))
		if n.Ignored {
			text = append(text, 1)
		}
		if !n.plain() {
			continue
		}
		s, ok := stamp(n.Name)
		if !ok {
			newest = 1<<63 - 1 // not as it was read: nothing of this run holds for the next
		}
		for _, word := range [...]int64{s.size, s.changed, s.altered, int64(s.inode)} {
			text = binary.LittleEndian.AppendUint64(text, uint64(word))
		}
		f.states[i], newest = s, max(newest, s.changed, s.altered)
	}
	return text, newest
}

// stampsOf gives stamps of the files in a folder by their whole paths.
func (r *Repository) stampsOf(folder string) (stamp stamper, done func()) {
	return func(name string) (state, bool) { return r.state(folder + name) }, func() {}
}

// A stamper gives the stamp of a file of one folder; it is false for what is no regular file.
type stamper func(name string) (state, bool)

// A state is what a Stamp tells, no state where the inode and all else are 0.
type state struct {
	size, changed, altered int64
	inode                  uint64
}

// Stamp tells what a file on the disk is like without reading it: its size, the
// times at which its text and the file itself last changed, in nanoseconds, and its
// number; as it was when the repository was sealed, where it was. It is false for what is
// no regular file of the disk.
func (r *Repository) Stamp(at string) (size, changed, altered int64, inode uint64, ok bool) {
	if r.recorded != nil {
		return 0, 0, 0, 0, false
	}
	r.note(at)
	s, ok := r.sealed(at)
	if !ok {
		s, ok = r.state(at)
	}
	return s.size, s.changed, s.altered, s.inode, ok
}

// sealed gives the state of a file that a Seal saw.
func (r *Repository) sealed(at string) (state, bool) {
	folder, name := r.Top, at
	if i := strings.LastIndexByte(at, '/'); i >= 0 {
		n := r.Top.At(at[:i])
		if n == nil || n.Folder == nil {
			return state{}, false
		}
		folder, name = n.Folder, at[i+1:]
	}
	i, there := folder.Index(name)
	if !there || folder.states == nil || folder.states[i] == (state{}) {
		return state{}, false
	}
	return folder.states[i], true
}

// state asks the disk for the state of a file. It tells nothing of a text, so the quick way
// does, where the path is not too long for it.
func (r *Repository) state(at string) (state, bool) {
	info, err := os.Lstat(filepath.Join(r.Root, filepath.FromSlash(at)))
	if err != nil {
		root, failed := r.opened()
		if failed != nil {
			return state{}, false
		}
		info, err = root.Lstat(filepath.FromSlash(at))
	}
	if err != nil || !info.Mode().IsRegular() {
		return state{}, false
	}
	altered, inode := inodeOf(info)
	return state{info.Size(), info.ModTime().UnixNano(), altered, inode}, true
}

// plain says whether a Seal covers the text under the name.
func (n *Node) plain() bool {
	return n.Kind == File && !n.Lent && (!n.Ignored || n.Name == ".gitignore")
}

// note remembers that somebody asked for a path which no Seal covers.
func (r *Repository) note(path string) {
	if r.asked == nil {
		return
	}
	if n := r.Top.At(path); n != nil && n.plain() {
		return
	}
	r.texts.mu.Lock()
	defer r.texts.mu.Unlock()
	r.asked[path] = true
}

// Asked lists the paths whose text or stamp was asked for and that no Seal covers,
// in order.
func (r *Repository) Asked() []string {
	r.texts.mu.Lock()
	defer r.texts.mu.Unlock()
	return slices.Sorted(maps.Keys(r.asked))
}

// State tells what stands at a path of the disk, which may be a link to within the
// root: its size and times, all zero where nothing is there.
func (r *Repository) State(path string) (size, changed, altered int64, inode uint64) {
	root, err := r.opened()
	if err != nil {
		return 0, 0, 0, 0
	}
	var info fs.FileInfo
	if info, err = root.Stat(filepath.FromSlash(path)); err != nil {
		return 0, 0, 0, 0
	}
	altered, inode = inodeOf(info)
	return info.Size(), info.ModTime().UnixNano(), altered, inode
}
