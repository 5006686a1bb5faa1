package layout

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"dicaxon/internal/lazy"
	"dicaxon/internal/names"
)

// A Pattern is one spelling of an entry's key: a single name, in which "*"
// stands for any run of characters, "?" for one, and "<name:shape>" for a part
// that is captured.
type Pattern struct {
	Text   string // as written, without the slash of a folder
	Exact  string // the name itself where nothing in it varies, else ""
	Fixed  int    // how many characters are given
	Ending string // the last ending where it is given whole, such as ".html"
	parts  []part
	open   int // how many parts vary
}

type part struct {
	kind  partKind
	text  string // of a fixed part; the name of a capture
	shape names.Shape
}

type partKind uint8

const (
	fixed partKind = iota
	anyRun
	anyOne
	capture
)

// An Env holds the captured names in force at some place. The zero of it is a
// nil pointer. It is never changed: Bind gives a longer one.
type Env struct {
	Name, Value string
	Next        *Env
}

// Bind gives env with one more captured name.
func (env *Env) Bind(name, value string) *Env { return &Env{name, value, env} }

// Get gives the value captured under name.
func (env *Env) Get(name string) (string, bool) {
	for ; env != nil; env = env.Next {
		if env.Name == name {
			return env.Value, true
		}
	}
	return "", false
}

var captureForm = lazy.New(`^[a-z][a-z0-9-]*$`)

// parsePattern reads one spelling, without a folder's slash.
func parsePattern(text string) (Pattern, error) {
	p := Pattern{Text: text}
	if err := PlainName(text); err != nil {
		return p, err
	}
	var literal strings.Builder
	flush := func() {
		if literal.Len() > 0 {
			p.parts = append(p.parts, part{kind: fixed, text: literal.String()})
			p.Fixed += literal.Len()
			literal.Reset()
		}
	}
	for i := 0; i < len(text); i++ {
		switch text[i] {
		case '*':
			flush()
			if n := len(p.parts); n > 0 && p.parts[n-1].kind == anyRun {
				return p, fmt.Errorf(`"**" goes in front as "**/", for any depth`)
			}
			p.parts = append(p.parts, part{kind: anyRun})
		case '?':
			flush()
			p.parts = append(p.parts, part{kind: anyOne})
		case '<':
			flush()
			end := strings.IndexByte(text[i:], '>')
			if end < 0 {
				return p, fmt.Errorf(`"<" is not closed by ">"`)
			}
			c, err := parseCapture(text[i+1 : i+end])
			if err != nil {
				return p, err
			}
			p.parts = append(p.parts, c)
			i += end
		case '>':
			return p, fmt.Errorf(`">" without "<"`)
		default:
			literal.WriteByte(text[i])
		}
	}
	flush()
	if len(p.parts) == 1 && p.parts[0].kind == fixed {
		p.Exact = text
	}
	p.Ending = p.ending()
	return p, p.bounded()
}

// mostOpen is how many parts of a pattern that captures one name twice may vary.
const mostOpen = 4

// bounded counts the parts that vary, and refuses a pattern that could not be matched in
// reasonable time.
func (p *Pattern) bounded() error {
	seen := map[string]bool{}
	twice := false
	for _, q := range p.parts {
		if q.kind == fixed {
			continue
		}
		p.open++
		twice = twice || q.kind == capture && seen[q.text]
		seen[q.text] = q.kind == capture
	}
	if twice && p.open > mostOpen {
		return fmt.Errorf("%q captures one name twice and has %d parts that vary; at most %d may", p.Text, p.open, mostOpen)
	}
	if twice {
		p.open = 0 // matched without a memory
	}
	return nil
}

// PlainName says what is wrong with a name of one file or folder, or nil.
func PlainName(text string) error {
	switch {
	case text == "":
		return fmt.Errorf("a name is empty")
	case strings.HasPrefix(text, "/"):
		return fmt.Errorf("%q is an absolute path; names are relative to the folder they stand in", text)
	case text == "." || text == "..":
		return fmt.Errorf("%q leaves the folder", text)
	case strings.HasPrefix(text, "../"):
		return fmt.Errorf("%q leaves the folder", text)
	case strings.ContainsAny(text, "/\\"):
		return fmt.Errorf(`%q holds a slash; one key is one name, what is below it goes under "tree"`, text)
	case strings.ContainsRune(text, 0):
		return fmt.Errorf("%q holds a NUL", text)
	case names.IsGitFolder(text):
		return fmt.Errorf("%q is where git keeps its own; what is written there runs with the next call of git", text)
	case strings.TrimSpace(text) != text:
		return fmt.Errorf("%q begins or ends with a space", text)
	}
	return nil
}

func parseCapture(text string) (part, error) {
	name, shape, shaped := strings.Cut(text, ":")
	c := part{kind: capture, text: name, shape: names.Shape(shape)}
	if !captureForm.MatchString(name) {
		return c, fmt.Errorf("<%s> is no name to capture; use small letters, digits and hyphens", text)
	}
	if shaped && shape == "" {
		return c, fmt.Errorf("<%s> names no shape", text)
	}
	// An expression stands under shapes, where it is looked at before it is used.
	if c.shape.Own() {
		return c, fmt.Errorf("<%s> holds an expression; name it under shapes, and its name here", text)
	}
	return c, nil
}

// shapeNamed gives the shape of that name: one of the language, or one of a layout's own.
func shapeNamed(name string, own map[string]names.Shape) (names.Shape, bool) {
	if shape := names.Shape(name); slices.Contains(names.Shapes, shape) {
		return shape, true
	}
	shape, ok := own[name]
	return shape, ok
}

// settle finds the shape that a capture names: one of the language, or one of the
// layout's own.
func (q *part) settle(own map[string]names.Shape) error {
	if q.kind != capture || q.shape == "" || q.shape.Own() {
		return nil
	}
	shape, ok := shapeNamed(string(q.shape), own)
	if !ok {
		var all []string
		for _, s := range names.Shapes {
			all = append(all, string(s))
		}
		return fmt.Errorf("%q is no shape; the shapes are %s", q.shape, strings.Join(append(all, slices.Sorted(maps.Keys(own))...), ", "))
	}
	q.shape = shape
	return nil
}

// settle finds the shapes that the pattern's captures name.
func (p *Pattern) settle(own map[string]names.Shape) error {
	for i := range p.parts {
		if err := p.parts[i].settle(own); err != nil {
			return err
		}
	}
	return nil
}

// ending gives the last ending where the pattern's last part gives it whole.
func (p *Pattern) ending() string {
	last := p.parts[len(p.parts)-1]
	if last.kind != fixed {
		return ""
	}
	dot := strings.LastIndexByte(last.text, '.')
	if dot < 0 || dot == 0 && len(p.parts) == 1 {
		return ""
	}
	return last.text[dot:]
}

// Captures gives the names that the pattern captures, in order.
func (p *Pattern) Captures() []string {
	var all []string
	for _, q := range p.parts {
		if q.kind == capture {
			all = append(all, q.text)
		}
	}
	return all
}

// form gives the pattern with the names of its captures left out: two patterns
// of one form cannot be told apart.
func (p *Pattern) form() string {
	var b strings.Builder
	for _, q := range p.parts {
		switch q.kind {
		case fixed:
			b.WriteString(q.text)
		case anyRun:
			b.WriteString("\x00")
		case anyOne:
			b.WriteString("\x01")
		case capture:
			b.WriteString("\x00" + string(q.shape))
		}
	}
	return b.String()
}

// rank orders the patterns of one folder, the most special first: more given
// characters, then more shaped captures, then fewer open parts.
func (p *Pattern) rank() int {
	shaped, open := 0, 0
	for _, q := range p.parts {
		switch {
		case q.kind == capture && q.shape != "":
			shaped++
		case q.kind != fixed:
			open++
		}
	}
	return p.Fixed*100 + shaped*10 - open
}

// Fill writes the pattern with captured names put in. Complete is false where
// a part stays open; then the text has the part as it was written.
func (p *Pattern) Fill(env *Env) (text string, complete bool) {
	var b strings.Builder
	complete = true
	for _, q := range p.parts {
		switch q.kind {
		case fixed:
			b.WriteString(q.text)
		case anyRun:
			b.WriteByte('*')
			complete = false
		case anyOne:
			b.WriteByte('?')
			complete = false
		case capture:
			if value, ok := env.Get(q.text); ok {
				b.WriteString(q.written(value))
			} else {
				b.WriteString("<" + q.text + ">")
				complete = false
			}
		}
	}
	return b.String(), complete
}

// alike says whether two patterns are written the same but for the shapes of what they capture.
func (p *Pattern) alike(o *Pattern) bool {
	return p.Fixed == o.Fixed && slices.EqualFunc(p.parts, o.parts, func(a, b part) bool { return a.kind == b.kind && a.text == b.text })
}

// ShapeOf gives the shape in which an entry's name has a captured part, "" for none.
func (e *Entry) ShapeOf(name string) names.Shape {
	for i := range e.Spellings {
		for _, q := range e.Spellings[i].parts {
			if q.kind == capture && q.text == name {
				return q.shape
			}
		}
	}
	return ""
}
