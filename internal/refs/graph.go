package refs

import (
	"hash/maphash"
	"maps"
	"path"
	"runtime"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"time"

	"golang.org/x/sync/errgroup"

	"dicaxon/internal/refs/lang"
)

// An Edge is a reference with where it leads.
type Edge struct {
	From string // the file that it stands in
	Ref  Ref
	lang.Answer
}

// Broken says whether the reference is to something of the project's own that is
// not there.
func (e *Edge) Broken() bool {
	return e.Own && !e.Ref.Guarded && (len(e.To) == 0 || e.Within != "")
}

// A Graph holds the references of one project with where they lead. A file is read
// at most once, by whoever asks first, and so is a reference looked up. It may be
// used by several goroutines.
type Graph struct {
	tree  Tree
	look  *lang.Look
	read  lookup[*File]
	edges lookup[[]Edge]
	all   func() []string
	back  func() map[string][]Edge
	lost  func() loss
	code  lookup[[]byte]

	parsed, shown atomic.Int64
}

// A lookup keeps what was found for a path.
type lookup[T any] struct {
	mu    sync.Mutex
	known map[string]T
}

func (m *lookup[T]) get(at string, find func() T) T {
	m.mu.Lock()
	v, ok := m.known[at]
	m.mu.Unlock()
	if ok {
		return v
	}
	v = find()
	m.mu.Lock()
	defer m.mu.Unlock()
	if m.known == nil {
		m.known = map[string]T{}
	}
	m.known[at] = v
	return v
}

// peek gives what was found already.
func (m *lookup[T]) peek(at string) (T, bool) {
	m.mu.Lock()
	defer m.mu.Unlock()
	v, ok := m.known[at]
	return v, ok
}

// NewGraph makes the graph of a project, with nothing read yet.
func NewGraph(t Tree) *Graph {
	g := &Graph{tree: t}
	g.look = lang.NewLook(t, g.Of)
	g.all = sync.OnceValue(g.list)
	g.back = sync.OnceValue(g.turn)
	g.lost = sync.OnceValue(g.scan)
	return g
}

// Look gives the project as names are looked up in it.
func (g *Graph) Look() *lang.Look { return g.look }

// Of returns what the file at a path of the project says; an empty File where it
// cannot be read or has no reader. Nobody changes it.
func (g *Graph) Of(at string) *File {
	return g.read.get(at, func() *File {
		if !Reads(at) {
			return &File{}
		}
		return g.remembered(at)
	})
}

// A Rememberer is a Tree whose files may have been read in an earlier run.
type Rememberer interface {
	Remembered(path string) (*Store, string)
	Stamp(path string) (Stamp, bool)
}

// remembered gives what a file says, from an earlier run where it is as it was.
func (g *Graph) remembered(at string) *File {
	r, can := g.tree.(Rememberer)
	var store *Store
	name := ""
	if can {
		store, name = r.Remembered(at)
	}
	var stamp Stamp
	known := false
	if store != nil {
		if stamp, known = r.Stamp(at); known {
			if f, ok := store.Get(name, stamp); ok {
				return f
			}
		}
	}
	now := time.Now()
	text, err := g.tree.Text(at)
	f := readOnce(at, text)
	g.parsed.Add(1)
	if known && err == nil {
		store.Put(name, stamp, f, now)
	}
	return f
}

// mostShown bounds how many bytes of code without comments are kept.
const mostShown = 32 << 20

// Code gives the text of a file of the project with its comments blank, as the function
// Code does; nil where it cannot be read. Nobody changes it.
func (g *Graph) Code(at string) []byte {
	if code, ok := g.code.peek(at); ok {
		return code
	}
	text, err := g.tree.Text(at)
	if err != nil {
		return nil
	}
	if g.shown.Add(int64(len(text))) > mostShown {
		return Code(at, text)
	}
	return g.code.get(at, func() []byte { return Code(at, text) })
}

// Parsed counts the texts that were read to find out what they say.
func (g *Graph) Parsed() int { return int(g.parsed.Load()) }

// A content is a text under a name: what it says is the same wherever it lies.
type content struct {
	name string
	size int
	hash uint64
}

var (
	seed  = maphash.MakeSeed()
	known sync.Map // of content to *File
	texts atomic.Int64
)

// mostKept bounds how many texts are known by what they hold, and how many files a
// project has whose references are all kept.
const mostKept = 20_000

// readOnce reads a text that may have been read before, in another revision of
// the repository or in another place. Nobody changes what it gives.
func readOnce(at string, text []byte) *File {
	key := content{path.Base(at), len(text), maphash.Bytes(seed, text)}
	if f, ok := known.Load(key); ok {
		return f.(*File)
	}
	f := Read(at, text)
	if texts.Add(1) < mostKept {
		known.Store(key, &f)
	}
	return &f
}

// side does something for each of many paths, side by side.
func side(paths []string, do func(at string)) {
	const few = 16
	parts := runtime.GOMAXPROCS(0)
	if len(paths) < few || parts == 1 {
		for _, at := range paths {
			do(at)
		}
		return
	}
	var all errgroup.Group
	for k := range parts {
		all.Go(func() error {
			for i := k; i < len(paths); i += parts {
				do(paths[i])
			}
			return nil
		})
	}
	_ = all.Wait()
}

// Ahead reads files side by side, where there are many.
func (g *Graph) Ahead(paths []string) {
	side(paths, func(at string) {
		if Reads(at) {
			g.Of(at)
		}
	})
}

// Asked lists the files that somebody asked about, in the order of their paths.
func (g *Graph) Asked() []string {
	g.read.mu.Lock()
	defer g.read.mu.Unlock()
	return slices.Sorted(maps.Keys(g.read.known))
}

// list gives the files of the project that can name others.
func (g *Graph) list() []string {
	var all []string
	g.tree.Each(func(at string) {
		if IsCode(at) {
			all = append(all, at)
		}
	})
	return all
}

// From returns the references of a file with where they lead, in the order of the
// text; what is no reference, such as a package line, is left out.
func (g *Graph) From(at string) []Edge {
	return g.edges.get(at, func() []Edge { return g.follow(at, g.Of(at)) })
}

// InPassing is Of for those who look at every file: it keeps nothing, and does not count
// as asking.
func (g *Graph) InPassing(at string) *File {
	f, known := g.read.peek(at)
	if !known {
		f = g.remembered(at)
	}
	return f
}

// follow says where what a file says leads.
func (g *Graph) follow(at string, f *File) []Edge {
	var all []Edge
	for _, r := range f.Refs {
		if r.Kind.Leads() {
			all = append(all, Edge{at, r, g.Answer(at, r)})
		}
	}
	return all
}

// Answer says where a reference in a file leads.
func (g *Graph) Answer(from string, r Ref) lang.Answer {
	l := languageOf(from)
	switch {
	case !r.Kind.Leads() || l == nil:
		return lang.Answer{}
	case l.Resolve == nil:
		return g.look.Relative(from, r.Name)
	}
	return l.Resolve(g.look, from, r)
}

// Resolve returns the files and folders of the project that a reference leads to.
func (g *Graph) Resolve(from string, r Ref) []string { return g.Answer(from, r).To }

// Leads says whether a reference that leads to nothing would lead to a path, were
// the file there.
func (g *Graph) Leads(from string, r Ref, at string) bool {
	a := g.Answer(from, r)
	return (len(a.To) == 0 || a.Within != "") && (slices.Contains(a.Sought, at) || slices.Contains(a.Sought, path.Dir(at))) || slices.Contains(a.To, at)
}

// turn lists the references by where they lead.
func (g *Graph) turn() map[string][]Edge {
	g.Ahead(g.all())
	side(g.all(), func(at string) { g.From(at) })
	back := map[string][]Edge{}
	for _, at := range g.all() {
		for _, e := range g.From(at) {
			for _, to := range e.To {
				back[to] = append(back[to], e)
			}
		}
	}
	return back
}

// To returns the references that lead to a file, or to a folder and what is in it.
func (g *Graph) To(at string) []Edge {
	at = strings.TrimSuffix(at, "/")
	back := g.back()
	all := back[at]
	if !g.tree.IsFolder(at) {
		return all
	}
	for _, to := range slices.Sorted(maps.Keys(back)) {
		if strings.HasPrefix(to, at+"/") {
			all = append(all, back[to]...)
		}
	}
	return all
}

// Broken returns the references to something of the project's own that is not
// there, in the order of the files.
func (g *Graph) Broken() []Edge { return g.lost().broken }

// Outside returns the references that lead out of the project, or of which nobody
// can tell. Of several with one name in one folder it gives the first in each file
// of small projects, and in large ones the first of all.
func (g *Graph) Outside() []Edge { return g.lost().outside }

// Climbing returns the links that lead up out of the project.
func (g *Graph) Climbing() []Edge { return g.lost().climbing }

// A loss is what one pass over all files finds to lead to nothing, and what else it comes by
// in a large project.
type loss struct {
	broken, outside []Edge
	climbing        []Edge // links that lead up out of the project
	noted           map[string]*File
}

// Noted is InPassing for those who ask of a file of code for its credentials and the paths that
// it quotes alone: in a large project one pass over all files notes them.
func (g *Graph) Noted(at string) *File {
	if _, known := g.read.peek(at); known || len(g.all()) <= mostKept {
		return g.InPassing(at)
	}
	if f := g.lost().noted[at]; f != nil {
		return f
	}
	return &File{}
}

// edgesOf gives the edges of a file in a pass over all files.
func (g *Graph) edgesOf(at string, large bool, found *loss) []Edge {
	if !large {
		return g.From(at)
	}
	f := g.InPassing(at)
	if len(f.Credentials)+len(f.Quotes) > 0 {
		found.noted = map[string]*File{at: {Credentials: f.Credentials, Quotes: f.Quotes}}
	}
	return g.follow(at, f)
}

// scan goes through all files once. Of a large project it keeps nothing but what it
// looks for.
func (g *Graph) scan() loss {
	files := g.all()
	large := len(files) > mostKept
	if !large {
		g.Ahead(files) // so that nobody waits for what another reads
	}
	found := make([]loss, len(files))
	at := make(map[string]int, len(files))
	for i, f := range files {
		at[f] = i
	}
	side(files, func(f string) {
		edges := g.edgesOf(f, large, &found[at[f]])
		for i := range edges {
			e := &edges[i]
			if e.Broken() {
				found[at[f]].broken = append(found[at[f]].broken, *e)
			}
			if (!e.Own || e.Near) && len(e.To) == 0 && e.Ref.Kind == Import {
				found[at[f]].outside = append(found[at[f]].outside, *e)
			}
			if e.Ref.Kind == Link && !e.Own && len(e.To) == 0 && strings.HasPrefix(path.Join(path.Dir(f), e.Ref.Name), "../") {
				found[at[f]].climbing = append(found[at[f]].climbing, *e)
			}
		}
	})
	all := loss{noted: map[string]*File{}}
	seen := map[string]bool{}
	for i := range found {
		maps.Copy(all.noted, found[i].noted)
		all.broken, all.climbing = append(all.broken, found[i].broken...), append(all.climbing, found[i].climbing...)
		for _, e := range found[i].outside {
			if key := path.Dir(e.From) + " " + e.Ref.Name; !large || !seen[key] {
				seen[key] = large
				all.outside = append(all.outside, e)
			}
		}
		found[i] = loss{}
	}
	return all
}
