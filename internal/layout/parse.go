package layout

import (
	"errors"
	"io/fs"
	"slices"
	"strings"

	"dicaxon/internal/lazy"
	"dicaxon/internal/names"
	"dicaxon/internal/source"
)

// FileName is the name of the file that holds a layout, in a folder of its own.
const FileName = "layout.yaml"

// Version is the version of the language that this program reads.
const Version = "1"

// at is where a part of a layout was written.
type at struct{ node *source.Node }

// A parser reads one layout file.
type parser struct {
	layout   *Layout
	shown    string
	text     *source.Node
	buildsOn *source.Node
	shelves  []shelf // its own first, then those of what it builds on
	checked  bool    // what the layout says was checked before; it only needs compiling
	mistakes []error
}

// note keeps a mistake, so that the next one is found too.
func (p *parser) note(err error) {
	if err != nil && err != errNoted {
		p.mistakes = append(p.mistakes, err)
	}
}

type keys[T any] map[string]func(*parser, T, *source.Node) error

// each hands every pair of a mapping to the function for its key. What it finds
// wrong in one of them it notes, and goes on; the error says that it did.
func each[T any](p *parser, what string, to T, n *source.Node, known keys[T]) error {
	if n.Kind != source.Mapping {
		return n.Errorf("%s is written as keys with values, not as %s", what, n.Kind)
	}
	before := len(p.mistakes)
	for _, pair := range n.Pairs {
		read, ok := known[pair.Key.Text]
		if !ok {
			p.note(unknown(pair.Key, "key of "+what, keysOf(known)))
			continue
		}
		p.note(read(p, to, pair.Value))
	}
	if len(p.mistakes) > before {
		return errNoted
	}
	return nil
}

// errNoted says that mistakes were noted where it comes from.
var errNoted = errors.New("a mistake was noted")

func keysOf[V any](known map[string]V) []string {
	var all []string
	for k := range known {
		all = append(all, k)
	}
	slices.Sort(all)
	return all
}

func unknown(n *source.Node, what string, known []string) error {
	if meant := names.Closest(n.Text, known); meant != "" {
		return n.Errorf("%q is no %s; did you mean %q?", n.Text, what, meant)
	}
	return n.Errorf("%q is no %s; it has %s", n.Text, what, strings.Join(known, ", "))
}

// text makes a reader of a text that may not be empty.
func text[T any](what string, to func(T) *string) func(*parser, T, *source.Node) error {
	return func(_ *parser, t T, n *source.Node) error {
		s, err := n.String(what)
		if err == nil && strings.TrimSpace(s) == "" {
			err = n.Errorf("%s is empty", what)
		}
		*to(t) = s
		return err
	}
}

func oneOf(n *source.Node, what string, known []string) (int, error) {
	s, err := n.String(what)
	if err != nil {
		return 0, err
	}
	if i := slices.Index(known, s); i >= 0 {
		return i, nil
	}
	return 0, unknown(n, what, known)
}

func needOf(n *source.Node, what string) (Need, error) {
	i, err := oneOf(n, what, needWords)
	return Need(i), err
}

var nameForm = lazy.New(`^[a-z][a-z0-9-]*/[a-z][a-z0-9-]*$`)

// The tables of keys are filled in by init because their functions come back
// to them.
var (
	layoutKeys keys[*Layout]
	entryKeys  keys[*Entry]
)

func init() {
	layoutKeys = keys[*Layout]{
		"dicaxon":       readBefore,
		"layout":        readName,
		"starter-marks": readMarks,
		"title":         text("title", func(l *Layout) *string { return &l.Title }),
		"suits":         text("suits", func(l *Layout) *string { return &l.Suits }),
		"describes":     text("describes", func(l *Layout) *string { return &l.Describes }),
		"base":          func(_ *parser, l *Layout, n *source.Node) (err error) { l.Base, err = n.Bool("base"); return },
		"general":       func(_ *parser, l *Layout, n *source.Node) (err error) { l.General, err = n.Bool("general"); return },
		"builds-on":     readBefore,
		"signs":         readSigns,
		"asks":          readAsks,
		"rules":         readRules,
		"shapes":        readBefore,
		"first-steps": func(_ *parser, l *Layout, n *source.Node) (err error) {
			l.FirstSteps, err = n.Strings("first-steps")
			return
		},
		"others": func(_ *parser, l *Layout, n *source.Node) error { return readOthers(nil, l.Root, n) },
		"tree":   func(p *parser, l *Layout, n *source.Node) error { return readTree(p, l.Root, n) },
	}
	entryKeys = keys[*Entry]{
		"need":    func(_ *parser, e *Entry, n *source.Node) (err error) { e.Need, err = needOf(n, "need"); return },
		"role":    text("role", func(e *Entry) *string { return &e.Role }),
		"unit":    text("unit", func(e *Entry) *string { return &e.Unit }),
		"kind":    func(_ *parser, e *Entry, n *source.Node) (err error) { e.kind, err = n.Strings("kind"); return },
		"starter": text("starter", func(e *Entry) *string { return &e.Starter }),
		"made-by": text("made-by", func(e *Entry) *string { return &e.MadeBy }),
		"was":     text("was", func(e *Entry) *string { return &e.was }),
		"unless":  func(_ *parser, e *Entry, n *source.Node) (err error) { e.unless, err = n.Strings("unless"); return },
		"wish":    func(_ *parser, e *Entry, n *source.Node) (err error) { e.Wish, err = n.Bool("wish"); return },
		"executable": func(_ *parser, e *Entry, n *source.Node) (err error) {
			if e.Executable, err = n.Bool("executable"); err == nil && e.Folder {
				err = n.Errorf("only a file is executable")
			}
			return err
		},
		"like":     text("like", func(e *Entry) *string { return &e.like }),
		"others":   readOthers,
		"tree":     readTree,
		"shows":    expression("shows", func(e *Entry) **lazy.Regexp { return &e.Shows }),
		"lacks":    expression("lacks", func(e *Entry) **lazy.Regexp { return &e.Lacks }),
		"not-here": readNotHere,
		"git":      readGit,
		"when":     func(p *parser, e *Entry, n *source.Node) (err error) { e.When, err = readCondition(p, n); return },
		"at-least": func(_ *parser, e *Entry, n *source.Node) (err error) { e.AtLeast, err = n.Count("at-least"); return },
		"at-most":  func(_ *parser, e *Entry, n *source.Node) (err error) { e.AtMost, err = n.Count("at-most"); return },
		"drop":     func(_ *parser, e *Entry, n *source.Node) (err error) { e.drop, err = n.Bool("drop"); return },
	}
}

// readBefore stands for the keys that begin has read.
func readBefore(*parser, *Layout, *source.Node) error { return nil }

// begin reads the layout file of a folder, as far as what it builds on.
func begin(fsys fs.FS, shown string) (*parser, error) {
	n, err := source.ReadFile(fsys, FileName, shown)
	if err != nil {
		return nil, err
	}
	if n.Kind != source.Mapping {
		return nil, n.Errorf("a layout is written as keys with values, not as %s", n.Kind)
	}
	p := &parser{shown: shown, text: n, layout: &Layout{Marks: [2]string{"{{", "}}"}, Root: &Entry{Folder: true, Others: ShouldNot}}}
	p.layout.Root.given = map[string]bool{}
	if version := n.Get("dicaxon"); version != nil {
		if err := checkVersion(version); err != nil {
			return nil, err // what another version means by its keys is not known
		}
	}
	if value := n.Get("builds-on"); value != nil {
		p.note(readBuildsOn(p, value))
	}
	if value := n.Get("shapes"); value != nil {
		p.note(readShapes(p, value))
	}
	return p, nil
}

// read reads the rest.
func (p *parser) read() {
	n := p.text
	p.note(each(p, "a layout", p.layout, n, layoutKeys))
	for _, key := range []string{"dicaxon", "layout", "title"} {
		misspelt := slices.ContainsFunc(n.Pairs, func(pair source.Pair) bool {
			_, known := layoutKeys[pair.Key.Text]
			return !known && names.Closest(pair.Key.Text, []string{key}) != ""
		})
		if n.Get(key) == nil && !misspelt {
			p.note(n.Errorf("the layout has no %q", key))
		}
	}
}

func checkVersion(n *source.Node) error {
	if n.Kind != source.Scalar || n.Text != Version {
		return n.Errorf("this program reads version %s of the layout language", Version)
	}
	return nil
}

func readName(_ *parser, l *Layout, n *source.Node) (err error) {
	if l.Name, err = n.String("layout"); err == nil && !nameForm.MatchString(l.Name) {
		err = n.Errorf("%q is no name for a layout; write family/variant in small letters", l.Name)
	}
	return err
}

func readMarks(_ *parser, l *Layout, n *source.Node) error {
	if len(n.Items) != 2 || n.Items[0].Text == "" || n.Items[1].Text == "" || n.Items[0].Text == n.Items[1].Text {
		return n.Errorf(`starter-marks is a list of two texts, such as ["[[", "]]"]`)
	}
	l.Marks = [2]string{n.Items[0].Text, n.Items[1].Text}
	return nil
}

func readBuildsOn(p *parser, n *source.Node) (err error) {
	p.buildsOn = n
	p.layout.BuildsOn, err = n.Strings("builds-on")
	return err
}
