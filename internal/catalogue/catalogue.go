// Package catalogue holds the layouts that come with the program, and finds
// those that a team keeps in folders of its own.
package catalogue

import (
	"embed"
	"fmt"
	"io/fs"
	"os"
	"path"
	"path/filepath"
	"slices"
	"strings"
	"sync"

	"dicaxon/internal/layout"
	"dicaxon/internal/safe"
)

//go:embed layouts/frameworks.yaml layouts/*/*/layout.yaml all:layouts/*/*/starters
var embedded embed.FS

// CommonplaceName is the layout of names that may stand in any repository.
const CommonplaceName = "common/places"

// UsualName is the layout of what names usually stand for, where no layout
// describes them: explain tells it, and check does not ask it.
const UsualName = "common/usual"

// Catalogue is a layout.Source: the built-in layouts by name, a team's own by
// the path of their folder.
type Catalogue struct {
	// Dir is the folder that relative paths start from.
	Dir string
}

// IsPath says whether a layout is called by the path of its folder.
func IsPath(name string) bool {
	return strings.HasPrefix(name, ".") || filepath.IsAbs(name)
}

// dir gives the folder that a path of a layout names.
func (c Catalogue) dir(name string) string {
	dir := filepath.FromSlash(name)
	if !filepath.IsAbs(dir) {
		dir = filepath.Join(c.Dir, dir)
	}
	if full, err := filepath.Abs(dir); err == nil {
		return full
	}
	return dir
}

// Unknown is the layout of what follows none that is known: it wants nothing and
// lets everything be, so that only what holds in any repository is said.
var Unknown = layout.Open("no layout", "none that is known fits")

// Open gives the folder of a layout.
func (c Catalogue) Open(name string) (fs.FS, string, error) {
	if IsPath(name) {
		dir := c.dir(name)
		shown := filepath.ToSlash(filepath.Join(filepath.FromSlash(name), layout.FileName))
		if _, err := os.Stat(filepath.Join(dir, layout.FileName)); err != nil {
			return nil, shown, fmt.Errorf("%s: a layout's folder holds a %s: %w", name, layout.FileName, err)
		}
		return safe.FS(dir), shown, nil
	}
	dir := path.Join("layouts", name)
	if !fs.ValidPath(dir) || strings.Count(name, "/") != 1 {
		return nil, name, fmt.Errorf("there is no layout %q: %w", name, fs.ErrNotExist)
	}
	sub, err := fs.Sub(embedded, dir)
	if err == nil {
		_, err = fs.Stat(sub, layout.FileName)
	}
	if err != nil {
		return nil, name, fmt.Errorf("there is no layout %q: %w", name, fs.ErrNotExist)
	}
	return sub, name + "/" + layout.FileName, nil
}

// Names lists the built-in layouts in the order of their names, without the
// one of commonplace names.
func (c Catalogue) Names() []string {
	found, _ := fs.Glob(embedded, "layouts/*/*/"+layout.FileName)
	var all []string
	for _, file := range found {
		name := strings.TrimPrefix(path.Dir(file), "layouts/")
		if name != CommonplaceName && name != UsualName {
			all = append(all, name)
		}
	}
	slices.Sort(all)
	return all
}

//go:generate go run ./pack

//go:embed packed
var packed embed.FS

// unpacked keeps the built-in layouts that were asked for; nothing changes a
// layout once it is resolved.
var unpacked sync.Map

// Layout gives the layout called name, resolved.
func (c Catalogue) Layout(name string) (*layout.Layout, error) {
	if IsPath(name) {
		l, err := layout.Resolve(c, name)
		if err == nil {
			l.Dir = c.dir(name)
		}
		return l, err
	}
	if l, ok := unpacked.Load(name); ok {
		return l.(*layout.Layout), nil
	}
	text, err := packed.ReadFile(PackedName(name))
	if err != nil {
		return layout.Resolve(c, name)
	}
	l, err := layout.Unpack(text, func(name string) (fs.FS, error) {
		folder, _, err := c.Open(name)
		return folder, err
	})
	if err == nil {
		unpacked.Store(name, l)
	}
	return l, err
}

// PackedName gives the file that holds the packed form of a built-in layout.
func PackedName(name string) string { return "packed/" + strings.ReplaceAll(name, "/", "-") + ".json" }

// IndexName is the file that holds what is looked up before a layout is read.
const IndexName = "index_packed.go"

// An Index is what is looked up before a layout is read.
type Index struct {
	Layouts    []Summary
	Frameworks []Framework
}

// Followed gives the layouts that a project may follow: those that are no base of
// others.
func (x *Index) Followed() []Summary {
	return slices.DeleteFunc(slices.Clone(x.Layouts), func(s Summary) bool { return s.Base })
}

// A Summary is what the index says of a layout.
type Summary struct {
	Name      string        `json:"name"`
	Title     string        `json:"title"`
	Suits     string        `json:"suits"`
	Describes string        `json:"describes"`
	Base      bool          `json:"base,omitempty"`
	General   bool          `json:"general,omitempty"`
	Signs     []layout.Sign `json:"signs,omitempty"`
}

// A Framework is one that shapes the tree of the projects that need it: they
// follow a layout of its families, or none that is known.
type Framework struct {
	Name     string
	Needs    []string // dependencies by which it is known
	Has      []string // files at the root by which it is known
	Families []string
}

// Summarise gives the index's line of a layout.
func Summarise(l *layout.Layout) Summary {
	return Summary{l.Name, l.Title, l.Suits, l.Describes, l.Base, l.General, l.Signs}
}

// Index returns the index of the built-in layouts, in the order of their names,
// without reading the layouts. No caller changes it.
func (c Catalogue) Index() *Index { return &index }

// index is filled in by the file that "go generate" writes: as data of the program it
// takes no time at the start, where reading it took a tenth of a small check.
var index Index

// Commonplace gives the layout of names that may stand in any repository.
func (c Catalogue) Commonplace() (*layout.Layout, error) { return c.Layout(CommonplaceName) }

// Called gives the name of a layout as it is opened: the path of a team's folder
// may be written without the dot in front.
func Called(name string) string {
	if _, _, err := (Catalogue{}).Open(name); err != nil && !IsPath(name) {
		if _, err := os.Stat(filepath.Join(filepath.FromSlash(name), layout.FileName)); err == nil {
			return "./" + name
		}
	}
	return name
}

// PathFrom gives the name of a team's layout as it is called from a folder.
func PathFrom(at, dir string) string {
	from, err := filepath.Abs(at)
	if err != nil {
		return dir
	}
	rel, err := filepath.Rel(from, dir)
	if err != nil {
		return dir
	}
	if rel = filepath.ToSlash(rel); !strings.HasPrefix(rel, ".") {
		rel = "./" + rel
	}
	return rel
}
