// Package source reads YAML into plain nodes that remember where they stand,
// so that every complaint can name file, line and column and show the line.
package source

import (
	"cmp"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"slices"
	"strconv"
	"strings"

	"github.com/goccy/go-yaml"
	"github.com/goccy/go-yaml/ast"
	"github.com/goccy/go-yaml/parser"

	"dicaxon/internal/safe"
)

// The most a file may hold. A definition that a person wrote stays far below;
// above lie mistakes and attacks, which are refused before they are parsed.
const (
	MaxBytes = 1 << 20
	maxLine  = 4000
	maxDepth = 200
)

// A Node is a mapping, a sequence or a scalar.
type Node struct {
	Kind   Kind
	Text   string // of a scalar, without quotes
	Quoted bool   // the scalar is text whatever it looks like
	Pairs  []Pair // of a mapping, in the order written
	Items  []*Node
	Line   int // from 1
	Column int // from 1
	File   *File
}

// A Kind of node.
type Kind int

// The kinds. Null is a key without a value.
const (
	Null Kind = iota
	Scalar
	Mapping
	Sequence
)

func (k Kind) String() string {
	return [...]string{"nothing", "a single value", "keys with values", "a list"}[k]
}

// A Pair is one key of a mapping with its value. Key is a scalar.
type Pair struct{ Key, Value *Node }

// Get gives the value under key, or nil.
func (n *Node) Get(key string) *Node {
	for _, p := range n.Pairs {
		if p.Key.Text == key {
			return p.Value
		}
	}
	return nil
}

// A File is the text that nodes come from.
type File struct {
	Name  string // as shown to the user
	lines []string
}

// An Error is a complaint about one place of a file.
type Error struct {
	File         string
	Line, Column int
	Message      string
	Shown        string // the line itself
}

func (e *Error) Error() string {
	return fmt.Sprintf("%s:%d:%d: %s", e.File, e.Line, e.Column, e.Message)
}

// Errors are several complaints, each about a place of its own.
type Errors []error

func (all Errors) Error() string {
	lines := make([]string, len(all))
	for i, err := range all {
		lines[i] = err.Error()
	}
	return strings.Join(lines, "\n")
}

// Unwrap gives them one by one.
func (all Errors) Unwrap() []error { return all }

// Join makes one error of several, which may hold several themselves: nil of none, and of
// one that one. Each is there once, in the order of their places.
func Join(of []error) error {
	var all []error
	for _, err := range of {
		if several, ok := err.(Errors); ok {
			all = append(all, several...)
		} else {
			all = append(all, err)
		}
	}
	place := func(err error) *Error {
		var at *Error
		if !errors.As(err, &at) {
			at = &Error{}
		}
		return at
	}
	slices.SortStableFunc(all, func(a, b error) int {
		x, y := place(a), place(b)
		return cmp.Or(strings.Compare(x.File, y.File), x.Line-y.Line, x.Column-y.Column)
	})
	all = slices.CompactFunc(all, func(a, b error) bool { return a.Error() == b.Error() })
	switch len(all) {
	case 0:
		return nil
	case 1:
		return all[0]
	}
	return Errors(all)
}

// mostShown is how much of a line a complaint shows, in bytes.
const mostShown = 200

// Errorf makes a complaint about the node.
func (n *Node) Errorf(format string, args ...any) error {
	return n.File.errorAt(n.Line, n.Column, fmt.Sprintf(format, args...))
}

func (f *File) errorAt(line, column int, message string) error {
	e := &Error{File: f.Name, Line: max(line, 1), Column: max(column, 1), Message: message}
	if 1 <= line && line <= len(f.lines) {
		e.Shown = strings.TrimRight(f.lines[line-1], "\r")
		if len(e.Shown) > mostShown {
			e.Shown = strings.ToValidUTF8(e.Shown[:mostShown], "") + "…"
		}
	}
	return e
}

// ReadFile reads the file name of fsys; shown is how complaints call it.
func ReadFile(fsys fs.FS, name, shown string) (*Node, error) {
	file, err := fsys.Open(name)
	for _, wrong := range []error{safe.ErrOutside, safe.ErrIrregular} {
		if errors.Is(err, wrong) {
			return nil, (&File{Name: shown}).errorAt(1, 1, "it "+wrong.Error())
		}
	}
	if err != nil {
		return nil, err
	}
	defer file.Close()
	if info, err := file.Stat(); err == nil && !info.Mode().IsRegular() {
		return nil, (&File{Name: shown}).errorAt(1, 1, "it "+safe.ErrIrregular.Error())
	}
	text, err := io.ReadAll(io.LimitReader(file, MaxBytes+1))
	if err != nil {
		return nil, err
	}
	return Parse(shown, text)
}

// Parse reads one YAML document. Of YAML it takes what a definition needs:
// anchors, aliases, tags, merge keys and further documents are refused.
func Parse(shown string, text []byte) (*Node, error) {
	f := &File{Name: shown}
	if len(text) > MaxBytes {
		return nil, TooLarge(shown)
	}
	text, _ = safe.WithoutMark(text)
	f.lines = strings.Split(string(text), "\n")
	if err := f.guard(); err != nil {
		return nil, err
	}
	parsed, err := parser.ParseBytes(text, 0, parser.AllowDuplicateMapKey())
	if err != nil {
		var bad yaml.Error
		if errors.As(err, &bad) && bad.GetToken() != nil {
			at := bad.GetToken().Position
			return nil, f.errorAt(at.Line, at.Column, bad.GetMessage())
		}
		return nil, f.errorAt(1, 1, err.Error())
	}
	switch {
	case len(parsed.Docs) > 1 && parsed.Docs[1].Body != nil:
		return nil, f.errorAt(parsed.Docs[1].Body.GetToken().Position.Line, 1, "a second document; one file holds one")
	case len(parsed.Docs) == 0 || parsed.Docs[0].Body == nil:
		return nil, f.errorAt(1, 1, "the file is empty")
	}
	return f.node(parsed.Docs[0].Body, 0)
}

// TooLarge complains about a file of that name that has more than MaxBytes.
func TooLarge(shown string) error {
	return (&File{Name: shown}).errorAt(1, 1, fmt.Sprintf("the file is larger than %d KiB, which nobody writes by hand", MaxBytes>>10))
}

// guard refuses what would cost a parser more than the text is worth.
func (f *File) guard() error {
	depth := 0
	for i, line := range f.lines {
		if j := strings.IndexByte(line, 0); j >= 0 {
			return f.errorAt(i+1, j+1, "a NUL byte; this is no text")
		}
		if len(line) > maxLine {
			f.lines[i] = line[:60] + "…"
			return f.errorAt(i+1, maxLine, fmt.Sprintf("a line longer than %d bytes", maxLine))
		}
		depth += strings.Count(line, "[") + strings.Count(line, "{") - strings.Count(line, "]") - strings.Count(line, "}")
		if depth > maxDepth || strings.Count(line, "- ") > maxDepth || strings.Count(line, "? ") > maxDepth {
			return f.errorAt(i+1, 1, "nested too deeply")
		}
	}
	return nil
}

func (f *File) node(from ast.Node, depth int) (*Node, error) {
	n := &Node{File: f}
	if at := from.GetToken(); at != nil {
		n.Line, n.Column = at.Position.Line, at.Position.Column
	}
	if depth > maxDepth {
		return nil, n.Errorf("nested too deeply")
	}
	switch from := from.(type) {
	case *ast.MappingNode:
		return n, f.mapping(n, from.Values, depth)
	case *ast.MappingValueNode:
		return n, f.mapping(n, []*ast.MappingValueNode{from}, depth)
	case *ast.SequenceNode:
		n.Kind = Sequence
		for _, value := range from.Values {
			item, err := f.node(value, depth+1)
			if err != nil {
				return nil, err
			}
			n.Items = append(n.Items, item)
		}
		return n, nil
	case *ast.NullNode:
		return n, nil
	case *ast.StringNode:
		n.Kind, n.Text, n.Quoted = Scalar, from.Value, true
		return n, nil
	case *ast.LiteralNode:
		n.Kind, n.Text, n.Quoted = Scalar, from.Value.Value, true
		return n, nil
	case *ast.IntegerNode, *ast.FloatNode, *ast.BoolNode, *ast.InfinityNode, *ast.NanNode:
		n.Kind, n.Text = Scalar, from.GetToken().Value
		return n, nil
	}
	return nil, n.Errorf("anchors, aliases, tags and merge keys are not part of the language")
}

func (f *File) mapping(n *Node, values []*ast.MappingValueNode, depth int) error {
	n.Kind = Mapping
	if len(values) > 0 {
		at := values[0].Key.GetToken().Position
		n.Line, n.Column = at.Line, at.Column
	}
	seen := map[string]int{}
	for _, v := range values {
		key, err := f.node(v.Key, depth+1)
		if err != nil {
			return err
		}
		if key.Kind != Scalar {
			return key.Errorf("a key is a single word or name")
		}
		if line, twice := seen[key.Text]; twice {
			return key.Errorf("%q stands here twice, first on line %d", key.Text, line)
		}
		seen[key.Text] = key.Line
		value, err := f.node(v.Value, depth+1)
		if err != nil {
			return err
		}
		if value.Line == 0 || value.Kind == Null {
			value.Line, value.Column = key.Line, key.Column
		}
		n.Pairs = append(n.Pairs, Pair{key, value})
	}
	return nil
}

// String gives a scalar's text.
func (n *Node) String(what string) (string, error) {
	if n.Kind != Scalar {
		return "", n.Errorf("%s is a text, not %s", what, n.Kind)
	}
	return n.Text, nil
}

// Count gives a scalar's value as a whole number from 0.
func (n *Node) Count(what string) (int, error) {
	i, err := strconv.Atoi(n.Text)
	if n.Kind != Scalar || err != nil || i < 0 {
		return 0, n.Errorf("%s is a whole number from 0", what)
	}
	return i, nil
}

// Bool gives a scalar's value as true or false.
func (n *Node) Bool(what string) (bool, error) {
	if n.Kind != Scalar || n.Quoted || n.Text != "true" && n.Text != "false" {
		return false, n.Errorf("%s is true or false", what)
	}
	return n.Text == "true", nil
}

// Strings gives a list of texts. A single text counts as a list of one.
func (n *Node) Strings(what string) ([]string, error) {
	if n.Kind == Scalar {
		return []string{n.Text}, nil
	}
	if n.Kind != Sequence {
		return nil, n.Errorf("%s is a list of texts, not %s", what, n.Kind)
	}
	var all []string
	for _, item := range n.Items {
		text, err := item.String("each of " + what)
		if err != nil {
			return nil, err
		}
		all = append(all, text)
	}
	return all, nil
}
