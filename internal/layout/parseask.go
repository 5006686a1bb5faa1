package layout

import (
	"slices"
	"strings"

	"dicaxon/internal/lazy"
	"dicaxon/internal/names"
	"dicaxon/internal/source"
)

// readShapes reads the shapes of names that a layout makes up.
func readShapes(p *parser, n *source.Node) error {
	if n.Kind != source.Mapping {
		return n.Errorf("shapes is written as names with regular expressions, not as %s", n.Kind)
	}
	own := map[string]names.Shape{}
	p.layout.Shapes = own
	for _, pair := range n.Pairs {
		name := pair.Key.Text
		expression, err := pair.Value.String("a shape")
		switch {
		case err != nil:
			p.note(err)
			continue
		case !captureForm.MatchString(name):
			p.note(pair.Key.Errorf("%q is no name for a shape; use small letters, digits and hyphens", name))
		case slices.Contains(names.Shapes, names.Shape(name)):
			p.note(pair.Key.Errorf("there is a shape %q already", name))
		}
		if own[name], err = names.OwnShape(expression); err != nil {
			p.note(pair.Value.Errorf("the shape %q is no regular expression: %s", name, err.Error()))
			own[name] = ""
		}
	}
	return nil
}

func readSigns(p *parser, l *Layout, n *source.Node) error {
	if n.Kind != source.Sequence {
		return n.Errorf("signs is a list, not %s", n.Kind)
	}
	for _, item := range n.Items {
		s, err := readSign(p, l, item)
		if err != nil {
			p.note(err)
			continue
		}
		l.Signs = append(l.Signs, s)
	}
	return nil
}

func readSign(p *parser, l *Layout, item *source.Node) (Sign, error) {
	s := Sign{From: l.Name}
	err := each(p, "a sign", &s, item, keys[*Sign]{
		"needs": text("needs", func(s *Sign) *string { return &s.Needs }),
		"has":   text("has", func(s *Sign) *string { return &s.Has }),
		"above": text("above", func(s *Sign) *string { return &s.Above }),
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
		return s, err
	}
	if given := len(item.Pairs); given != 1 && (given != 2 || item.Get("weighs") == nil) || item.Get("weighs") != nil && given == 1 {
		return s, item.Errorf(`a sign is one of "needs", "has", "above" and "text", and may say what it "weighs"`)
	}
	if s.Text != nil && (s.Text.File == "" || s.Text.Has == "") {
		return s, item.Errorf(`a text sign says "file" and "has"`)
	}
	return s, nil
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

// readFoundIn reads where a project that is there says an answer.
func readFoundIn(p *parser, a *Ask, n *source.Node) error {
	a.FoundIn = &TextSign{}
	err := each(p, "found-in", a.FoundIn, n, keys[*TextSign]{
		"file": text("file", func(t *TextSign) *string { return &t.File }),
		"has":  text("has", func(t *TextSign) *string { return &t.Has }),
	})
	if err != nil {
		return err
	}
	if a.FoundIn.File == "" || a.FoundIn.Has == "" {
		return n.Errorf(`found-in says "file" and "has"`)
	}
	expression, err := lazy.Compile("(?m)" + a.FoundIn.Has)
	if err != nil {
		return n.Errorf("has is no regular expression: %v", err)
	}
	if expression.Get().NumSubexp() != 1 {
		return n.Errorf("has has one group, which is the answer")
	}
	return nil
}

// Found gives the answer that a project says itself, given the texts of its files, "" where it says none
// that can be taken.
func (a *Ask) Found(text func(at string) []byte) string {
	if a.FoundIn == nil {
		return ""
	}
	m := lazy.New("(?m)" + a.FoundIn.Has).Get().FindSubmatch(text(a.FoundIn.File))
	if len(m) != 2 {
		return ""
	}
	found := string(m[1])
	if a.Shape != "" {
		found = names.To(a.Shape, found)
	}
	if found == "" || a.Check(found) != nil {
		return ""
	}
	return found
}

func readAsks(p *parser, l *Layout, n *source.Node) error {
	if n.Kind != source.Mapping {
		return n.Errorf("asks is written as keys with values, not as %s", n.Kind)
	}
	for _, pair := range n.Pairs {
		ask, err := readAsk(p, l, pair)
		p.note(err)
		l.Asks = append(l.Asks, ask)
	}
	return nil
}

// readAsk reads a question. One with a mistake is there all the same, so that what
// names its answer is not told as well.
func readAsk(p *parser, l *Layout, pair source.Pair) (Ask, error) {
	ask, shape := Ask{Name: pair.Key.Text}, ""
	err := each(p, "a question", &ask, pair.Value, keys[*Ask]{
		"question":  text("question", func(a *Ask) *string { return &a.Question }),
		"default":   text("default", func(a *Ask) *string { return &a.Default }),
		"shape":     func(_ *parser, _ *Ask, n *source.Node) error { shape = ":" + n.Text; return nil },
		"drop":      func(_ *parser, a *Ask, n *source.Node) (err error) { a.drop, err = n.Bool("drop"); return },
		"of-folder": func(_ *parser, a *Ask, n *source.Node) (err error) { a.OfFolder, err = n.Bool("of-folder"); return },
		"refuses":   readRefuses,
		"found-in":  readFoundIn,
		"several":   func(_ *parser, a *Ask, n *source.Node) (err error) { a.Several, err = n.Bool("several"); return },
	})
	if err != nil || ask.drop {
		return ask, err
	}
	if ask.Question == "" || ask.Default == "" {
		return ask, pair.Key.Errorf(`the question %q needs "question" and "default"`, ask.Name)
	}
	c, err := parseCapture(ask.Name + shape)
	if err == nil {
		err = c.settle(l.Shapes)
	}
	if err != nil {
		return ask, pair.Value.Errorf("%v", err)
	}
	ask.Shape = c.shape
	if err := ask.Check(ask.Default); err != nil {
		return ask, pair.Value.Errorf("the default: %v", err)
	}
	return ask, nil
}
