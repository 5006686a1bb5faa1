// Package tree reads a repository: once, in parallel, honouring ignore files
// as git does. It gives names only; text is read when somebody asks for it.
package tree

import (
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"unicode"
	"unicode/utf8"

	"dicaxon/internal/doing"
	"dicaxon/internal/safe"
)

// A Kind says what stands under a name.
type Kind uint8

// The kinds. A link is never followed.
const (
	File Kind = iota
	IsFolder
	Link
	Special // a socket, a device, a named pipe
)

// A Node is one name in a folder.
type Node struct {
	Name    string
	Folder  *Folder // what is in it; nil unless Kind is IsFolder
	Kind    Kind
	Ignored bool // an ignore file names it, so version control does not see it
	Lent    bool // it is not on the disk: git has it, and leaves it out of the work tree
}

// A Folder is a folder with the nodes in it, sorted by name.
type Folder struct {
	Name   string // "" for the top
	Parent *Folder
	Nodes  []Node
	ID     int32 // its place in Repository.Folders
	// Unread is set where the folder was not looked into: it is ignored, or it
	// could not be read (then Repository.Troubles says why).
	Unread bool

	watched bool
	lists   *ignoreList // those that hold in it
	states  []state     // of the nodes, once the repository was sealed
}

// Path gives the folder's path below the repository's root, "" for the root
// and otherwise ending in "/".
func (f *Folder) Path() string {
	if f.Parent == nil {
		return ""
	}
	n := 0
	for g := f; g.Parent != nil; g = g.Parent {
		n += len(g.Name) + 1
	}
	path := make([]byte, n)
	for g := f; g.Parent != nil; g = g.Parent {
		n--
		path[n] = '/'
		n -= copy(path[n-len(g.Name):], g.Name)
	}
	return string(path)
}

// IsDir says whether there is a folder at a path of the disk.
func IsDir(path string) bool {
	info, err := os.Stat(path)
	return err == nil && info.IsDir()
}

// A Repository is what Read found.
type Repository struct {
	Root     string // absolute
	Top      *Folder
	Folders  []*Folder // every folder, each before those below it, in the order of names
	Watched  []*Folder // those in which Options.Watch found a name, in the same order
	Files    int       // files and links, ignored ones apart
	Troubles []Trouble

	above    string                            // path of the root below git's top, "" or ending in "/"
	recorded func(path string) ([]byte, error) // gives texts where they are not on the disk
	lent     func(path string) ([]byte, error) // gives those of lent files
	telling  sync.Mutex                        // guards Troubles
	listing  sync.Mutex                        // guards the lists of a recorded repository
	texts    textCache
	asked    map[string]bool   // paths that no Seal covers; guarded as texts is, nil while reading
	outside  map[string]string // what holds here from outside: settings of git, and ignore files by path
	open     sync.Once         // opens root, when it is first asked for
	root     *os.Root
	top      *os.File // the same, as a file
	rootErr  error
}

// TextLimit is how many bytes of a file Text gives at most.
const TextLimit = 1 << 20

// Text gives the start of the text of the file at path (below the root, with
// "/"), TextLimit bytes at most. It follows no link out of the root. The text
// is read once and must not be changed.
func (r *Repository) Text(path string) ([]byte, error) {
	if text, ok := r.texts.get(path); ok {
		return text, nil
	}
	r.note(path)
	doing.At(path)
	text, err := r.readText(path)
	if err == nil {
		r.texts.keep(path, text)
	} else {
		r.trouble(path, err)
	}
	return text, err
}

// cacheLimit is how many bytes of text are kept at most; beyond, a text that is
// asked for again is read again.
const cacheLimit = 64 << 20

// A textCache keeps texts that were read.
type textCache struct {
	mu    sync.Mutex
	texts map[string][]byte
	size  int
}

func (c *textCache) get(path string) ([]byte, bool) {
	c.mu.Lock()
	defer c.mu.Unlock()
	text, ok := c.texts[path]
	return text, ok
}

func (c *textCache) keep(path string, text []byte) {
	c.mu.Lock()
	defer c.mu.Unlock()
	if c.size += len(text); c.size > cacheLimit {
		return
	}
	if c.texts == nil {
		c.texts = map[string][]byte{}
	}
	c.texts[path] = text
}

func (r *Repository) readText(path string) ([]byte, error) {
	if r.recorded != nil {
		return recordedText(path, r.recorded)
	}
	if r.lent != nil {
		if n := r.Top.At(path); n != nil && n.Lent {
			return recordedText(path, r.lent)
		}
	}
	file, size, err := r.openFile(path)
	if err != nil {
		return nil, err
	}
	defer file.Close()
	return readAll(file, size)
}

// openFile opens a regular file below the root and tells its size. It follows no link
// out of the root, and never waits for somebody to write to a named pipe.
func (r *Repository) openFile(path string) (io.ReadCloser, int64, error) {
	root, err := r.opened()
	if err != nil {
		return nil, 0, err
	}
	if file, size, err := openBeneath(r.top, path); !errors.Is(err, errors.ErrUnsupported) {
		return file, size, err
	}
	if info, err := root.Stat(filepath.FromSlash(path)); err != nil {
		return nil, 0, err
	} else if !info.Mode().IsRegular() {
		return nil, 0, notRegular(path)
	}
	file, err := root.Open(filepath.FromSlash(path))
	if err != nil {
		return nil, 0, err
	}
	info, err := file.Stat()
	if err == nil && !info.Mode().IsRegular() {
		err = notRegular(path)
	}
	if err != nil {
		file.Close()
		return nil, 0, err
	}
	return file, info.Size(), nil
}

func notRegular(path string) error {
	return &fs.PathError{Op: "open", Path: path, Err: safe.ErrIrregular}
}

// readAll reads TextLimit bytes at most of what has likely that size.
func readAll(file io.Reader, size int64) ([]byte, error) {
	text := make([]byte, 0, min(size, TextLimit-1)+1) // one more, so that the end shows
	for len(text) < TextLimit {
		if len(text) == cap(text) {
			text = append(text, 0)[:len(text)]
		}
		n, err := file.Read(text[len(text):min(cap(text), TextLimit)])
		text = text[:len(text)+n]
		if err == io.EOF {
			break
		}
		if err != nil {
			return text, err
		}
	}
	return text, nil
}

// Executable says whether a file on the disk may be run.
func (r *Repository) Executable(path string) bool {
	root, err := r.opened()
	if err != nil || r.recorded != nil {
		return false
	}
	info, err := root.Lstat(filepath.FromSlash(path))
	return err == nil && info.Mode().IsRegular() && info.Mode()&0o111 != 0
}

// opened gives the root, opened once: below it a path may be of any length,
// and no link leads out.
func (r *Repository) opened() (*os.Root, error) {
	r.open.Do(func() {
		if r.root, r.rootErr = os.OpenRoot(r.Root); r.rootErr == nil {
			r.top, r.rootErr = r.root.Open(".")
		}
	})
	return r.root, r.rootErr
}

// Printable gives name or path with every byte that is no text, and every
// control character, written as \xNN, so that it can be shown and does no harm
// to a terminal.
func Printable(name string) string {
	plain := true
	for i := 0; i < len(name) && plain; i++ {
		plain = 0x20 <= name[i] && name[i] < 0x7f
	}
	if plain {
		return name
	}
	var b strings.Builder
	for len(name) > 0 {
		r, size := utf8.DecodeRuneInString(name)
		if r == utf8.RuneError && size == 1 || !unicode.IsPrint(r) {
			for i := range size {
				fmt.Fprintf(&b, `\x%02x`, name[i])
			}
		} else {
			b.WriteString(name[:size])
		}
		name = name[size:]
	}
	return b.String()
}
