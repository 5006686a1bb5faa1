package lang

import (
	"path"
	"slices"
	"strings"
	"sync"
	"unicode/utf8"

	"golang.org/x/text/unicode/norm"

	"dicaxon/internal/names"
)

// A Tree is a project as names are looked up in it. Paths are below it, with "/"
// and without one at their end.
type Tree interface {
	IsFile(path string) bool
	IsFolder(path string) bool
	// Names gives the names in a folder.
	Names(folder string) []string
	// Each gives the path of every file.
	Each(yield func(path string))
	Text(path string) ([]byte, error)
}

// How says how surely a reference leads where it does.
type How uint8

// The ways, the surest first.
const (
	Exactly    How = iota // as the language says
	Convention            // as a tool or a custom has it
	Likely                // no rule says otherwise
)

// An Answer says where a reference leads.
type Answer struct {
	To  []string // files and folders of the project, a folder without a slash
	How How
	// Own says that only the project's own can be meant, so that a reference that
	// leads to nothing leads nowhere.
	Own bool
	// Fails says that the program then does not build or start.
	Fails bool
	// Elsewhere says that it may also come from what is not at hand.
	Elsewhere bool
	// Sought holds the paths that were looked for, the likeliest first.
	Sought []string
	// Only says to speak of it only where something is there that was likely meant,
	// and Near only where that is a slip away, in the place that was looked in.
	Only, Near bool
	// Meant is what was likely meant, where the look-up knows it.
	Meant string
	// Within is the file that was found and that lacks what is taken out of it.
	Within string
}

// A Look is a project in which names are looked up; what is asked about twice is
// found once. It may be used by several goroutines.
type Look struct {
	Tree
	of      func(path string) *File
	listing sync.Once
	byStem  map[string][]string // files by their last name up to the first dot
	byLast  map[string][]string // folders by their last name
	memo    sync.Map
}

// NewLook makes a Look at a project; of gives what a file of it says.
func NewLook(t Tree, of func(path string) *File) *Look { return &Look{Tree: t, of: of} }

// Of gives what a file says.
func (l *Look) Of(path string) *File { return l.of(path) }

// TextOf gives the text of a file, nil where it cannot be read.
func (l *Look) TextOf(path string) []byte {
	text, err := l.Text(path)
	if err != nil {
		return nil
	}
	return text
}

// Once gives what make makes, which is made once for a key, also where several ask
// at the same time.
func Once[T any](l *Look, key string, make func() T) T {
	type cell struct {
		once  sync.Once
		value T
	}
	v, ok := l.memo.Load(key)
	if !ok {
		v, _ = l.memo.LoadOrStore(key, &cell{})
	}
	c := v.(*cell)
	c.once.Do(func() { c.value = make() })
	return c.value
}

// NearPackage gives the folder of a package of the project whose name is nearly one, of those
// that lie in a folder called after them, so that a path can say which is meant; "" where
// there is none. All holds the folders of packages by their names; kind tells languages apart.
func NearPackage(l *Look, kind, name string, all map[string]string, called func(folder string) string) string {
	return Once(l, kind+" package near "+name, func() (near string) {
		for other, folder := range all {
			if names.Near(name, other) != names.Apart && called(path.Base(folder)) == other && (near == "" || folder < near) {
				near = folder
			}
		}
		return near
	})
}

// list goes through the files once, for names that are no paths.
func (l *Look) list() {
	l.listing.Do(func() {
		l.byStem, l.byLast = map[string][]string{}, map[string][]string{}
		seen := map[string]bool{}
		l.Each(func(f string) {
			stem, _, _ := strings.Cut(path.Base(f), ".")
			l.byStem[stem] = append(l.byStem[stem], f)
			for dir := path.Dir(f); dir != "." && !seen[dir]; dir = path.Dir(dir) {
				seen[dir] = true
				l.byLast[path.Base(dir)] = append(l.byLast[path.Base(dir)], dir)
			}
		})
		for _, all := range l.byLast {
			slices.Sort(all)
		}
	})
}

// Called gives the files whose name up to the first dot is stem.
func (l *Look) Called(stem string) []string {
	l.list()
	return l.byStem[stem]
}

// Stems gives every name that a file has up to its first dot.
func (l *Look) Stems() map[string][]string {
	l.list()
	return l.byStem
}

// FoldersEnding gives the folders whose paths are, or end in, the names of tail.
func (l *Look) FoldersEnding(tail string) []string {
	l.list()
	var found []string
	for _, f := range l.byLast[path.Base(tail)] {
		if EndsIn(f, tail) {
			found = append(found, f)
		}
	}
	return found
}

// FolderNear gives the one folder that is called nearly as one that is not there and ends alike, with a
// slash; "" where there is none, or several.
func (l *Look) FolderNear(name string) string {
	return Once(l, "folder near "+name, func() (found string) {
		l.list()
		for other, all := range l.byLast {
			if other == name || path.Ext(other) != path.Ext(name) || names.Near(name, other) == names.Apart {
				continue
			}
			if found != "" || len(all) > 1 {
				return ""
			}
			found = all[0] + "/"
		}
		return found
	})
}

// EndsIn says whether a path is, or ends in, the names of tail.
func EndsIn(p, tail string) bool {
	return len(p) == len(tail) && p == tail || len(p) > len(tail) && p[len(p)-len(tail)-1] == '/' && strings.HasSuffix(p, tail)
}

// IsFile says whether there is a file at a path, whichever way its composed characters
// are written: some disks change that.
func (l *Look) IsFile(path string) bool {
	return l.Tree.IsFile(path) || isComposed(path) && (l.Tree.IsFile(norm.NFC.String(path)) || l.Tree.IsFile(norm.NFD.String(path)))
}

func isComposed(path string) bool {
	return strings.ContainsFunc(path, func(r rune) bool { return r >= utf8.RuneSelf })
}

// There gives those of the paths that are in the project, each once.
func (l *Look) There(paths ...string) []string {
	var all []string
	for _, p := range paths {
		if p = path.Clean(p); p != "." && (l.IsFile(p) || l.IsFolder(p)) && !slices.Contains(all, p) {
			all = append(all, p)
		}
	}
	return all
}

// First gives the first of the paths that is a file of the project.
func (l *Look) First(paths ...string) []string {
	for _, p := range paths {
		if p = path.Clean(p); l.IsFile(p) {
			return []string{p}
		}
	}
	return nil
}

// Stemmed gives the files whose path up to a dot in the last name is that.
func (l *Look) Stemmed(stem string) []string {
	var all []string
	dir, base := path.Dir(stem), path.Base(stem)
	for _, name := range l.Names(dir) {
		if rest, ok := strings.CutPrefix(name, base); ok && strings.HasPrefix(rest, ".") && l.IsFile(path.Join(dir, name)) {
			all = append(all, path.Join(dir, name))
		}
	}
	return all
}

// Relative looks a path up from the folder that a file is in.
func (l *Look) Relative(from, name string) Answer {
	at := path.Join(path.Dir(from), name)
	return Answer{To: l.There(at), Sought: []string{at}}
}

// Nearest gives the nearest folder at or around a file that has a file of one of
// the names, and the path of it; "" where none has.
func (l *Look) Nearest(from string, named ...string) (folder, at string) {
	for dir := path.Dir(from); ; dir = path.Dir(dir) {
		for _, name := range named {
			if at := path.Join(dir, name); l.IsFile(at) {
				return dir, at
			}
		}
		if dir == "." || dir == "/" {
			return "", ""
		}
	}
}
