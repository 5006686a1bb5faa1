package layout

import (
	"cmp"
	"errors"
	"io/fs"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/names"
	"dicaxon/internal/source"
)

// A Source gives the folders of layouts.
type Source interface {
	// Open gives the folder of the layout called name and how to call its
	// file in complaints. The name is family/variant of a built-in layout or,
	// where it begins with "." or "/", the path of a folder. An unknown name
	// gives an error that wraps fs.ErrNotExist.
	Open(name string) (folder fs.FS, shown string, err error)
	// Names lists the built-in layouts, for suggestions.
	Names() []string
}

// Resolve reads the layout called name, takes over what it builds on, checks
// it and compiles it. A complaint about its text is a *source.Error.
func Resolve(from Source, name string) (*Layout, error) {
	l, mistakes := Examine(from, name)
	if mistakes != nil {
		return nil, source.Join(mistakes)
	}
	return l, nil
}

// Examine resolves a layout as far as it can be, and gives all that is wrong with it.
// The layout is nil where its text could not be read at all.
func Examine(from Source, name string) (*Layout, []error) {
	p, err := take(&taking{Source: from}, name, nil)
	if err != nil {
		return nil, []error{err}
	}
	p.note(p.finish())
	return p.layout, p.mistakes
}

// mostTaken is how many layouts one may build on, each counted as often as one that is
// built on names it: a few lines could name millions.
const mostTaken = 100

// A taking is a Source that counts what was taken from it.
type taking struct {
	Source
	taken int
}

// take parses the layout and merges what it builds on, depth first.
func take(from *taking, name string, chain []string) (*parser, error) {
	folder, shown, err := from.Open(name)
	if err != nil {
		return nil, err
	}
	p, err := begin(folder, shown)
	if err != nil {
		return nil, err
	}
	bases, err := p.bases(from, name, append(chain, shown))
	if err != nil {
		return nil, err
	}
	p.read()
	own := p.layout.Root.Entries
	p.shelves = []shelf{{folder, p.layout.Name, p.layout.Marks}}
	for _, b := range bases {
		p.shelves = append(p.shelves, b.shelves...)
	}
	p.shelve(own)
	p.layout.Root.Entries = nil
	for _, b := range bases {
		p.note(p.over(b.layout))
	}
	p.note(merge(p.layout.Root, own))
	p.layout.Asks = slices.DeleteFunc(p.layout.Asks, func(a Ask) bool { return a.drop })
	return p, nil
}

// bases takes what the layout builds on, each by itself. Their shapes are known to this
// one from here on.
func (p *parser) bases(from *taking, name string, chain []string) ([]*parser, error) {
	var all []*parser
	for i, base := range p.layout.BuildsOn {
		at := p.buildsOn
		if len(at.Items) > 0 {
			at = at.Items[i]
		}
		if strings.HasPrefix(base, ".") {
			// A path starts from the folder of the layout that names it.
			base = relative(name, base)
		}
		if _, baseShown, err := from.Open(base); errors.Is(err, fs.ErrNotExist) {
			if meant := names.Closest(base, from.Names()); meant != "" {
				return nil, at.Errorf("there is no layout %q to build on; did you mean %q?", base, meant)
			}
			return nil, at.Errorf("there is no layout %q to build on", base)
		} else if err == nil && slices.Contains(chain, baseShown) {
			return nil, at.Errorf("the layout builds on itself: %s", strings.Join(append(chain, baseShown), " on "))
		}
		if from.taken++; from.taken > mostTaken {
			return nil, at.Errorf("it builds on more than %d layouts, each counted as often as it is named", mostTaken)
		}
		b, err := take(from, base, chain)
		if err != nil {
			return nil, err
		}
		p.mistakes = append(p.mistakes, b.mistakes...)
		for shape, is := range b.layout.Shapes {
			if p.layout.Shapes == nil {
				p.layout.Shapes = map[string]names.Shape{}
			}
			p.layout.Shapes[shape] = cmp.Or(p.layout.Shapes[shape], is)
		}
		all = append(all, b)
	}
	return all, nil
}

// over takes over what the layout leaves unsaid from one that it builds on.
func (p *parser) over(b *Layout) error {
	l := p.layout
	if !l.Root.given["others"] {
		l.Root.Others = b.Root.Others
	}
	l.Signs = append(l.Signs, b.Signs...)
	l.Rules = overRules(l.Rules, b.Rules)
	own := l.Asks
	l.Asks = nil
	for _, ask := range append(slices.Clone(b.Asks), own...) {
		if changed := askIn(own, ask.Name); changed != nil {
			ask = *changed
		}
		if l.Ask(ask.Name) == nil {
			l.Asks = append(l.Asks, ask)
		}
	}
	if l.FirstSteps == nil {
		l.FirstSteps = b.FirstSteps
	}
	if l.Describes == "" {
		l.Describes = b.Describes
	}
	for _, e := range b.Root.Entries {
		e.was, e.drop = "", false
	}
	return merge(l.Root, b.Root.Entries)
}

// Ask gives the question of that name, or nil.
func (l *Layout) Ask(name string) *Ask { return askIn(l.Asks, name) }

func askIn(asks []Ask, name string) *Ask {
	for i := range asks {
		if asks[i].Name == name {
			return &asks[i]
		}
	}
	return nil
}

// merge puts entries over those that parent has: one whose preferred spelling
// is there already changes that entry, any other is added.
func merge(parent *Entry, entries []*Entry) error {
	for _, e := range entries {
		key := e.Key
		if e.was != "" {
			key = e.was
		}
		i := parent.index(key)
		switch {
		case i < 0 && e.was != "":
			return e.at.node.Errorf("%q was to take over %q, but nothing that this layout builds on has it here", e.Key, e.was)
		case i < 0 && e.drop:
			return e.at.node.Errorf("%q cannot be dropped: nothing that this layout builds on has it here", e.Key)
		case i < 0:
			below := e.Entries
			e.Parent, e.Entries = parent, nil
			if err := merge(e, below); err != nil {
				return err
			}
			parent.Entries = append(parent.Entries, e)
		case e.drop:
			parent.Entries = append(parent.Entries[:i], parent.Entries[i+1:]...)
		default:
			if err := parent.Entries[i].take(e); err != nil {
				return err
			}
		}
	}
	return nil
}

// index finds the entry whose preferred spelling is that of key.
func (e *Entry) index(key string) int {
	first := func(key string) string { k, _, _ := strings.Cut(key, "|"); return strings.TrimSpace(k) }
	for i, c := range e.Entries {
		if first(c.Key) == first(key) {
			return i
		}
	}
	return -1
}

// take changes the entry to what by says, and leaves what by does not say.
func (e *Entry) take(by *Entry) error {
	if by.Folder != e.Folder {
		return by.at.node.Errorf("%q is a folder in one layout and a file in the other", by.Key)
	}
	if by.was != "" {
		e.former = append(e.former, e.Spellings...)
	}
	e.Key, e.Spellings, e.Deep = by.Key, by.Spellings, by.Deep
	if !by.implied {
		e.Layout, e.File, e.Line, e.at, e.faulty = by.Layout, by.File, by.Line, by.at, e.faulty || by.faulty
	}
	for key := range by.given {
		e.given[key] = true
		switch key {
		case "need":
			e.Need = by.Need
		case "role":
			e.Role = by.Role
		case "others":
			e.Others = by.Others
		case "unit":
			e.Unit = by.Unit
		case "kind":
			e.kind = by.kind
		case "starter":
			e.Starter, e.starters, e.startersOf, e.marks = by.Starter, by.starters, by.startersOf, by.marks
		case "shows":
			e.Shows = by.Shows
		case "lacks":
			e.Lacks = by.Lacks
		case "not-here":
			e.NotHere, e.notHereOf = by.NotHere, by.Layout
		case "made-by":
			e.MadeBy = by.MadeBy
		case "git":
			e.Git = by.Git
		case "when":
			e.When = by.When
		case "at-least":
			e.AtLeast = by.AtLeast
		case "at-most":
			e.AtMost = by.AtMost
		case "unless":
			e.unless = by.unless
		case "wish":
			e.Wish = by.Wish
		case "executable":
			e.Executable = by.Executable
		case "like":
			e.like = by.like
		}
	}
	return merge(e, by.Entries)
}

// A shelf is where starters stand: beside a layout.
type shelf struct {
	starters fs.FS
	of       string    // the name of the layout
	marks    [2]string // what stands around the actions in them, wherever the key stands in the file
}

// shelve tells entries where their starters stand: beside the layout, or beside the first of those that it
// builds on which has one of that name.
func (p *parser) shelve(entries []*Entry) {
	for _, e := range entries {
		at := p.shelves[0]
		if e.Starter != "" && fs.ValidPath(e.starterName()) {
			if i := slices.IndexFunc(p.shelves, func(s shelf) bool { _, err := fs.Stat(s.starters, e.starterName()); return err == nil }); i > 0 {
				at = p.shelves[i]
			}
		}
		e.starters, e.startersOf, e.marks = at.starters, at.of, at.marks
		p.shelve(e.Entries)
	}
}

// relative gives the path of a layout as seen from where name is: relative
// paths keep the leading dot that tells them from the names of layouts.
func relative(name, base string) string {
	joined := path.Join(name, base)
	if path.IsAbs(joined) || strings.HasPrefix(joined, ".") {
		return joined
	}
	return "./" + joined
}
