package tree

import (
	"crypto/sha256"
	"encoding/binary"
	"fmt"
	"io/fs"
	"maps"
	"path/filepath"
	"runtime"
	"slices"
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
		size, changed, altered, inode, ok := stamp(n.Name)
		if !ok {
			newest = 1<<63 - 1 // not as it was read: nothing of this run holds for the next
		}
		for _, word := range []int64{size, changed, altered, int64(inode)} {
			text = binary.LittleEndian.AppendUint64(text, uint64(word))
		}
		newest = max(newest, changed, altered)
	}
	return text, newest
}

// stampsOf gives stamps of the files in a folder by their whole paths.
func (r *Repository) stampsOf(folder string) (stamp stamper, done func()) {
	return func(name string) (size, changed, altered int64, inode uint64, ok bool) { return r.stamp(folder + name) }, func() {}
}

// A stamper gives the stamp of a file of one folder.
type stamper func(name string) (size, changed, altered int64, inode uint64, ok bool)

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
