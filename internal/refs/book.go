package refs

import (
	"hash/maphash"
	"maps"
	"path"
	"runtime"
	"slices"
	"sync"

	"golang.org/x/sync/errgroup"
)

// A Book holds what the files of one project say: each is read at most once, by
// whoever asks first, and every reference is looked up by one resolver.
type Book struct {
	Tree     Tree
	mu       sync.Mutex
	read     map[string]*File
	resolver *Resolver
}

// NewBook makes the book of a project, with nothing read yet.
func NewBook(t Tree) *Book { return &Book{Tree: t, read: map[string]*File{}, resolver: NewResolver(t)} }

// Of returns what the file at a path of the project says; an empty File where it
// cannot be read or has no reader.
func (b *Book) Of(at string) *File {
	b.mu.Lock()
	f := b.read[at]
	b.mu.Unlock()
	if f == nil {
		f = b.open(at)
		b.mu.Lock()
		b.read[at] = f
		b.mu.Unlock()
	}
	return f
}

func (b *Book) open(at string) *File {
	f := &File{}
	if Reads(at) {
		text, _ := b.Tree.Text(at)
		return readOnce(at, text)
	}
	return f
}

// A content is a text under a name: what it says is the same wherever it lies.
type content struct {
	name string
	size int
	hash uint64
}

var (
	seed  = maphash.MakeSeed()
	known sync.Map // of content to *File
)

// readOnce reads a text that may have been read before, in another revision of
// the repository or in another place. Nobody changes what it gives.
func readOnce(at string, text []byte) *File {
	key := content{path.Base(at), len(text), maphash.Bytes(seed, text)}
	if f, ok := known.Load(key); ok {
		return f.(*File)
	}
	f := Read(at, text)
	known.Store(key, &f)
	return &f
}

// Ahead reads files side by side, where there are many.
func (b *Book) Ahead(paths []string) {
	const few = 64
	parts := runtime.GOMAXPROCS(0)
	if len(paths) < few || parts == 1 {
		return
	}
	var all errgroup.Group
	for k := range parts {
		all.Go(func() error {
			for i := k; i < len(paths); i += parts {
				if Reads(paths[i]) {
					b.Of(paths[i])
				}
			}
			return nil
		})
	}
	_ = all.Wait()
}

// Asked lists the files that somebody asked about, in the order of their paths.
func (b *Book) Asked() []string { return slices.Sorted(maps.Keys(b.read)) }

// Resolve returns the files and folders of the project that a reference leads to.
func (b *Book) Resolve(from string, ref Ref) []string { return b.resolver.Resolve(from, ref) }
