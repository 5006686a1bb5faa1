package layout

import (
	"io/fs"
	"regexp"
	"slices"
	"strings"

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
	fsys     fs.FS
	buildsOn *source.Node
	checked  bool // what the layout says was checked before; it only needs compiling
}

type keys[T any] map[string]func(*parser, T, *source.Node) error

// each hands every pair of a mapping to the function for its key.
func each[T any](p *parser, what string, to T, n *source.Node, known keys[T]) error {
	if n.Kind != source.Mapping {
		return n.Errorf("%s is written as keys with values, not as %s", what, n.Kind)
	}
	for _, pair := range n.Pairs {
		read, ok := known[pair.Key.Text]
		if !ok {
			return unknown(pair.Key, "key of "+what, keysOf(known))
		}
		if err := read(p, to, pair.Value); err != nil {
			return err
		}
	}
	return nil
}

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

var nameForm = regexp.MustCompile(`^[a-z][a-z0-9-]*/[a-z][a-z0-9-]*$`)

// The tables of keys are filled in by init because their functions come back
// to them.
var (
	layoutKeys keys[*Layout]
	entryKeys  keys[*Entry]
)

func init() {
	layoutKeys = keys[*Layout]{
		"dicaxon":       readVersion,
		"layout":        readName,
		"starter-marks": readMarks,
		"title":         text("title", func(l *Layout) *string { return &l.Title }),
		"suits":         text("suits", func(l *Layout) *string { return &l.Suits }),
		"describes":     text("describes", func(l *Layout) *string { return &l.Describes }),
		"base":          func(_ *parser, l *Layout, n *source.Node) (err error) { l.Base, err = n.Bool("base"); return },
		"general":       func(_ *parser, l *Layout, n *source.Node) (err error) { l.General, err = n.Bool("general"); return },
		"builds-on":     readBuildsOn,
		"signs":         readSigns,
		"asks":          readAsks,
		"rules":         readRules,
		"first-steps": func(_ *parser, l *Layout, n *source.Node) (err error) {
			l.FirstSteps, err = n.Strings("first-steps")
			return
		},
		"others": func(_ *parser, l *Layout, n *source.Node) error { return readOthers(nil, l.Root, n) },
		"tree":   func(p *parser, l *Layout, n *source.Node) error { return readTree(p, l.Root, n) },
	}
	entryKeys = keys[*Entry]{
		"need":     func(_ *parser, e *Entry, n *source.Node) (err error) { e.Need, err = needOf(n, "need"); return },
		"role":     text("role", func(e *Entry) *string { return &e.Role }),
		"unit":     text("unit", func(e *Entry) *string { return &e.Unit }),
		"starter":  text("starter", func(e *Entry) *string { return &e.Starter }),
		"made-by":  text("made-by", func(e *Entry) *string { return &e.MadeBy }),
		"was":      text("was", func(e *Entry) *string { return &e.was }),
		"unless":   func(_ *parser, e *Entry, n *source.Node) (err error) { e.unless, err = n.Strings("unless"); return },
		"wish":     func(_ *parser, e *Entry, n *source.Node) (err error) { e.Wish, err = n.Bool("wish"); return },
		"like":     text("like", func(e *Entry) *string { return &e.like }),
		"others":   readOthers,
		"tree":     readTree,
		"shows":    readShows,
		"not-here": readNotHere,
		"git":      readGit,
		"at-least": func(_ *parser, e *Entry, n *source.Node) (err error) { e.AtLeast, err = n.Count("at-least"); return },
		"at-most":  func(_ *parser, e *Entry, n *source.Node) (err error) { e.AtMost, err = n.Count("at-most"); return },
		"drop":     func(_ *parser, e *Entry, n *source.Node) (err error) { e.drop, err = n.Bool("drop"); return },
	}
}

// parse reads the layout file of a folder by itself, without what it builds on.
func parse(fsys fs.FS, shown string) (*parser, error) {
	n, err := source.ReadFile(fsys, FileName, shown)
	if err != nil {
		return nil, err
	}
	p := &parser{shown: shown, fsys: fsys, layout: &Layout{Marks: [2]string{"{{", "}}"}, Root: &Entry{Folder: true, Others: ShouldNot}}}
	p.layout.Root.given = map[string]bool{}
	if err := each(p, "a layout", p.layout, n, layoutKeys); err != nil {
		return nil, err
	}
	for _, key := range []string{"dicaxon", "layout", "title"} {
		if n.Get(key) == nil {
			return nil, n.Errorf("the layout has no %q", key)
		}
	}
	return p, nil
}

func readVersion(_ *parser, _ *Layout, n *source.Node) error {
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

func readBuildsOn(p *parser, l *Layout, n *source.Node) (err error) {
	p.buildsOn = n
	l.BuildsOn, err = n.Strings("builds-on")
	return err
}

func readSigns(p *parser, l *Layout, n *source.Node) error {
	if n.Kind != source.Sequence {
		return n.Errorf("signs is a list, not %s", n.Kind)
	}
	for _, item := range n.Items {
		var s Sign
		err := each(p, "a sign", &s, item, keys[*Sign]{
			"needs": text("needs", func(s *Sign) *string { return &s.Needs }),
			"has":   text("has", func(s *Sign) *string { return &s.Has }),
			"text": func(p *parser, s *Sign, n *source.Node) error {
				s.Text = &TextSign{}
				return each(p, "text", s.Text, n, keys[*TextSign]{
					"file": text("file", func(t *TextSign) *string { return &t.File }),
					"has":  text("has", func(t *TextSign) *string { return &t.Has }),
					"lacks": func(_ *parser, t *TextSign, n *source.Node) (err error) {
						t.Lacks, err = n.Strings("lacks")
						return err
					},
				})
			},
			"weighs": func(_ *parser, s *Sign, n *source.Node) error {
				i, err := oneOf(n, "weighs", []string{"must", "one", "never"})
				s.Must, s.One, s.Never = i == 0, i == 1, i == 2
				return err
			},
		})
		if err != nil {
			return err
		}
		if given := len(item.Pairs); given != 1 && (given != 2 || item.Get("weighs") == nil) || item.Get("weighs") != nil && given == 1 {
			return item.Errorf(`a sign is one of "needs", "has" and "text", and may say what it "weighs"`)
		}
		s.From = l.Name
		if s.Text != nil && (s.Text.File == "" || s.Text.Has == "") {
			return item.Errorf(`a text sign says "file" and "has"`)
		}
		l.Signs = append(l.Signs, s)
	}
	return nil
}

// readRefuses reads the words that cannot be answered, and the lists of such.
func readRefuses(_ *parser, a *Ask, n *source.Node) (err error) {
	if a.Refuses, err = n.Strings("refuses"); err != nil {
		return err
	}
	for _, one := range a.Refuses {
		if strings.Contains(one, "/") && !names.IsReserved(one) {
			return n.Errorf("there is no list %q; there are keywords/LANGUAGE and modules/LANGUAGE", one)
		}
	}
	return nil
}

func readAsks(p *parser, l *Layout, n *source.Node) error {
	if n.Kind != source.Mapping {
		return n.Errorf("asks is written as keys with values, not as %s", n.Kind)
	}
	for _, pair := range n.Pairs {
		ask := Ask{Name: pair.Key.Text}
		shape := ""
		err := each(p, "a question", &ask, pair.Value, keys[*Ask]{
			"question":  text("question", func(a *Ask) *string { return &a.Question }),
			"default":   text("default", func(a *Ask) *string { return &a.Default }),
			"shape":     func(_ *parser, _ *Ask, n *source.Node) error { shape = ":" + n.Text; return nil },
			"drop":      func(_ *parser, a *Ask, n *source.Node) (err error) { a.drop, err = n.Bool("drop"); return },
			"of-folder": func(_ *parser, a *Ask, n *source.Node) (err error) { a.OfFolder, err = n.Bool("of-folder"); return },
			"refuses":   readRefuses,
			"several":   func(_ *parser, a *Ask, n *source.Node) (err error) { a.Several, err = n.Bool("several"); return },
		})
		if err != nil {
			return err
		}
		if ask.drop {
			l.Asks = append(l.Asks, ask)
			continue
		}
		if ask.Question == "" || ask.Default == "" {
			return pair.Key.Errorf(`the question %q needs "question" and "default"`, ask.Name)
		}
		c, err := parseCapture(ask.Name + shape)
		if err != nil {
			return pair.Value.Errorf("%v", err)
		}
		ask.Shape = c.shape
		if err := ask.Check(ask.Default); err != nil {
			return pair.Value.Errorf("the default: %v", err)
		}
		l.Asks = append(l.Asks, ask)
	}
	return nil
}
