// Package layout is the layout language: it parses a layout, checks it, takes
// over what it builds on, and compiles it into something that matches fast.
// docs/layout-language.md describes the language for those who write it.
package layout

import (
	"io/fs"
	"slices"
	"strings"

	"dicaxon/internal/lazy"
	"dicaxon/internal/names"
)

// A Need says how much an entry is wanted, in the key words of RFC 2119.
type Need int

// The needs.
const (
	May Need = iota
	Should
	Must
	ShouldNot
	MustNot
)

var needWords = []string{"may", "should", "must", "should-not", "must-not"}

func (n Need) String() string { return needWords[n] }

// Wanted says whether the absence of the entry is a finding.
func (n Need) Wanted() bool { return n == Must || n == Should }

// Banned says whether its presence is one.
func (n Need) Banned() bool { return n == MustNot || n == ShouldNot }

// A Layout is a layout, resolved: what it builds on has been taken over.
type Layout struct {
	Name       string // family/variant
	Title      string
	Suits      string // when to choose it
	Describes  string // which version of the framework it is true of
	Base       bool   // only there to be built on
	General    bool   // it describes projects of a language, not of a framework
	BuildsOn   []string
	Dir        string // the folder that a team keeps it in, absolute; "" for a built-in one
	Signs      []Sign
	Shapes     map[string]names.Shape // that it made up
	Asks       []Ask
	FirstSteps []string  // what a person runs after scaffold, as a starter; never run by us
	Marks      [2]string // what stands around the actions in starters
	Rules      []Rule    // agreements beyond names
	Root       *Entry    // the project itself
	Entries    []*Entry  // every entry, Root first, each at its ID
	documents  map[string]*Entry
	units      []string
}

// A Sign tells identify that a project may follow the layout. One of Needs,
// Has and Text is set.
type Sign struct {
	Needs string    `json:",omitempty"` // the name of a dependency
	Has   string    `json:",omitempty"` // a file or, with a slash at its end, a folder at the project's root, or several: see AnyOf
	Text  *TextSign `json:",omitempty"`
	Above string    `json:",omitempty"` // a file that is not at the project's root, but in a folder around it
	// Must says that without it the project does not follow the layout, One that
	// it does not without one of those, Never that with it it does not.
	Must  bool `json:",omitempty"`
	One   bool `json:",omitempty"`
	Never bool `json:",omitempty"`
	// From is the layout that wrote it: what a layout of another family brought
	// along says nothing of this one.
	From string `json:",omitempty"`
}

// AnyOf gives the paths of which the project has one, by what the sign says that it has.
func (s *Sign) AnyOf() []string { return strings.Split(s.Has, " | ") }

// A TextSign is a text within a file of a given name pattern; one that begins
// with "./" is looked for at the project's root only, with "./*/" one folder below.
type TextSign struct {
	File, Has string
	Lacks     []string `json:",omitempty"` // texts of which such a file has none
}

// An Ask is a question of scaffold.
type Ask struct {
	Name, Question, Default string
	Shape                   names.Shape // how an answer is written; "" for a free text
	Several                 bool        // the answer is a list: the first units
	OfFolder                bool        // the name of the project's folder is the default, where it can be
	FoundIn                 *TextSign   `json:",omitempty"` // where a project that is there says it: what the first group of Has is
	drop                    bool        // a layout that builds on others does not ask it
	Refuses                 []string    // what cannot be answered: words, and lists of reserved ones
}

// An Entry is one line of a layout's tree.
type Entry struct {
	ID         int
	Key        string // as written
	Spellings  []Pattern
	Folder     bool
	Deep       bool // at any depth below its parent
	Need       Need
	Role       string
	Others     Need   // what an undescribed entry in this folder gets
	OthersSaid bool   // the layout says so, rather than leaving it unsaid
	Unit       string // the captured name that tells one unit from another
	kind       []string
	Starter    string
	Shows      *lazy.Regexp
	Lacks      *lazy.Regexp // what a text that it shows does not hold
	NotHere    []NotHere
	notHereOf  string     // the layout that wrote them
	MadeBy     string     // a program; "" for a person
	Git        string     // "committed", "ignored" or "" for either
	When       *Condition // in which projects the need holds; nil for all
	AtLeast    int
	AtMost     int // 0 for no limit
	Parent     *Entry
	Entries    []*Entry
	Scope      *Scope // of a folder
	repeats    bool   // it captures the name of a unit, and stands once for each

	Layout string // the layout that wrote it, or changed it last
	File   string
	Line   int

	starters   fs.FS
	startersOf string // the layout that the starter belongs to
	marks      [2]string
	former     []Pattern // spellings before a layout that builds on this one renamed it
	given      map[string]bool
	was        string
	Wish       bool     // its absence is but a note
	Executable bool     // scaffold makes it one that may be run
	Unless     []*Entry // where one of them is there, this one is not wanted
	unless     []string
	like       string // the path of an entry whose tree this one has, too
	drop       bool
	implied    bool // only a key that is a path says so
	faulty     bool // a mistake in it was noted
	at         at
}

// A NotHere names something that people put into a folder though it belongs
// elsewhere.
type NotHere struct {
	What   string
	GoesTo string // the path of an entry, by its keys
	Like   *Pattern
	Shows  *lazy.Regexp // what the text of such a file has, nil for any
	Home   *Entry       // the entry that GoesTo names
}

// Path gives the entry's keys from the root, as findings and docs show it.
func (e *Entry) Path() string {
	if e.Parent == nil {
		return ""
	}
	return e.Parent.Path() + e.Label()
}

// Label gives the preferred spelling, with a folder's slash and without the
// shapes of captures.
func (e *Entry) Label() string {
	if e.Parent == nil {
		return "./"
	}
	text, _ := e.Spellings[0].Fill(nil)
	if e.Deep {
		text = "**/" + text
	}
	if e.Folder {
		text += "/"
	}
	return text
}

// Kind lists what the entry is in any layout of its framework, its own kind first: what it says
// itself, or the nearest folder around it that says so. It is empty where none does.
func (e *Entry) Kind() []string {
	for ; e != nil; e = e.Parent {
		if e.kind != nil {
			return e.kind
		}
	}
	return nil
}

// Former says whether the entry had a name before a layout that builds on another
// renamed it.
func (e *Entry) Former(name string) bool {
	return slices.ContainsFunc(e.former, func(p Pattern) bool { return p.Exact == name })
}

// Singular says whether the entry stands for one thing: an exact name, or a
// capture that marks no unit, such as the application package.
func (e *Entry) Singular() bool {
	if e.Deep || e.Unit != "" || e.repeats {
		return false
	}
	for i := range e.Spellings {
		p := &e.Spellings[i]
		if p.Exact == "" && (len(p.parts) != 1 || p.parts[0].kind != capture || !e.Folder) {
			return false
		}
	}
	return true
}

// HoldsUnits says whether a folder is for the folders of units, such as slices/.
func (e *Entry) HoldsUnits() bool {
	return e != nil && slices.ContainsFunc(e.Entries, func(in *Entry) bool { return in.Unit != "" && in.Folder })
}

// CatchAll says whether the entry's name says nothing about what it is: no
// character of it is given.
func (e *Entry) CatchAll() bool {
	for i := range e.Spellings {
		if e.Spellings[i].Fixed > 0 {
			return false
		}
	}
	return e.Parent != nil
}

// OnlyEnding says whether nothing of the entry's name is given but an ending, as in
// "*.html", or but the letter of a plural before it, as in "<berth>s.py".
func (e *Entry) OnlyEnding() bool {
	p := &e.Spellings[0]
	if p.Exact != "" {
		return false
	}
	plural := p.Ending != "" && p.parts[len(p.parts)-1].text == "s"+p.Ending && p.Fixed == len(p.Ending)+1
	return p.Fixed == len(p.Ending) || plural
}

// Anywhere says whether the entry is for what people commit wherever it is of
// use, known by its ending alone, as texts are.
func (e *Entry) Anywhere() bool { return e.Deep && e.OnlyEnding() && e.Git == "committed" }

// Name gives the preferred spelling with captured names put in, and whether
// that is a whole name.
func (e *Entry) Name(env *Env) (string, bool) { return e.Spellings[0].Fill(env) }

// Match says whether name fits one of the spellings; preferred is false when
// it is not the first of them. Of several the one counts that says most of the name, so
// that tidesReducer.js is <topic>Reducer.js rather than <topic>.js.
func (e *Entry) Match(name string, env *Env) (bound *Env, preferred, ok bool) {
	bound, said := env, -1
	for i := range e.Spellings {
		if p := &e.Spellings[i]; p.Fixed > said {
			if b, fits := p.Match(name, env); fits {
				bound, preferred, ok, said = b, i == 0, true, p.Fixed
			}
		}
	}
	return bound, preferred, ok
}

// Family gives the part of a layout's name before the slash.
func Family(name string) string {
	family, _, _ := strings.Cut(name, "/")
	return family
}

// Find gives the entry at a path of labels such as "<project>/templates/", or
// nil. Any spelling of a key is understood, with or without shapes.
func (l *Layout) Find(path string) *Entry {
	e := l.Root
	for path != "" {
		name, rest, isFolder := strings.Cut(path, "/")
		if name == "**" {
			deep, after, more := strings.Cut(rest, "/")
			name, rest, isFolder = "**/"+deep, after, more
		}
		if e = e.child(name, isFolder); e == nil {
			return nil
		}
		path = rest
	}
	return e
}

func (e *Entry) child(name string, folder bool) *Entry {
	deep := strings.HasPrefix(name, "**/")
	want, err := parsePattern(strings.TrimPrefix(name, "**/"))
	if err != nil {
		return nil
	}
	wanted, _ := want.Fill(nil)
	for _, c := range e.Entries {
		if c.Folder != folder || c.Deep != deep {
			continue
		}
		for _, p := range append(slices.Clone(c.Spellings), c.former...) {
			if text, _ := p.Fill(nil); text == wanted {
				return c
			}
		}
	}
	return nil
}

// Shape gives the shape of that name: one of the language, or one of the layout's own.
func (l *Layout) Shape(name string) (names.Shape, bool) { return shapeNamed(name, l.Shapes) }

// Open makes a layout that wants nothing and lets everything be.
func Open(name, title string) *Layout {
	root := &Entry{Folder: true, Others: May, Scope: newScope(nil)}
	return &Layout{Name: name, Title: title, Root: root, Entries: []*Entry{root}, Base: true}
}

// Answers says whether one name of a path, as rules write it, stands for the
// entry: whichever of its spellings, or of those it had before a layout that
// builds on another renamed it, the name is written as.
func (e *Entry) Answers(name *Pattern) bool {
	answers := func(p *Pattern) bool {
		if p.Exact != "" {
			_, ok := name.Match(p.Exact, nil)
			return ok && (name.Fixed > 0 || name.Exact != "")
		}
		return p.alike(name) || name.Exact == "" && len(name.Captures()) == 0 && name.Ending != "" && name.Ending == p.Ending && name.Fixed == len(name.Ending)
	}
	for i := range e.Spellings {
		if answers(&e.Spellings[i]) {
			return true
		}
	}
	for i := range e.former {
		if answers(&e.former[i]) {
			return true
		}
	}
	return false
}
