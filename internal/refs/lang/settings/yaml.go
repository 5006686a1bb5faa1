package settings

import (
	"bytes"
	"strconv"
	"strings"
	"unicode/utf8"

	"github.com/goccy/go-yaml/ast"
	"github.com/goccy/go-yaml/parser"
	"github.com/goccy/go-yaml/token"

	"dicaxon/internal/lazy"
	"dicaxon/internal/refs/lang"
)

// FrontMatter reads the settings that stand before a text, between two lines of "---", and
// says where the text begins: at 0 where there are none.
func FrontMatter(text []byte) (f lang.File, end int) {
	if !bytes.HasPrefix(text, []byte("---\n")) && !bytes.HasPrefix(text, []byte("---\r\n")) {
		return f, 0
	}
	end = bytes.Index(text[3:], []byte("\n---"))
	if end < 0 {
		return f, 0
	}
	end += 4 // the line that ends them is left to the reader of the text
	return readYAML(text[:end]), end
}

func readYAML(text []byte) lang.File {
	s := settings{text: text, at: lang.LinesOf(text)}
	if s.file.BrokenLine = tooDeep(text); s.file.BrokenLine > 0 {
		s.file.Broken = "nested too deeply"
		return s.file
	}
	// Templates of Helm and Jinja are no YAML before they are filled in.
	file, err := parser.ParseBytes(text, 0)
	if err != nil {
		s.file.Broken, _, _ = strings.Cut(withoutSource(err), "\n")
		if m := yamlLine.Get().FindStringSubmatch(s.file.Broken); m != nil {
			s.file.BrokenLine, _ = strconv.Atoi(m[1])
		}
		return s.file
	}
	for _, doc := range file.Docs {
		if doc.Body != nil {
			s.yaml(doc.Body, "", 0)
		}
	}
	return s.file
}

// withoutSource gives what an error says without the lines around it, whose drawing takes as long as
// the square of their length.
func withoutSource(err error) string {
	if e, ok := err.(interface {
		FormatError(colored, source bool) string
	}); ok {
		return e.FormatError(false, false)
	}
	return err.Error()
}

// mostOpen is how many brackets may be open at once, and how many lists begin in a line:
// what the parser takes grows with their square.
const mostOpen = 500

// tooDeep gives the line at which a text is nested deeper than anybody writes, or 0.
func tooDeep(text []byte) int {
	open, n := 0, 0
	for line := range bytes.Lines(text) {
		if n++; line[0] != ' ' && line[0] != '[' && line[0] != '{' && line[0] != '-' {
			open = 0 // a key at the left: what stood before has ended
		}
		open = max(0, open+bytes.Count(line, []byte("["))+bytes.Count(line, []byte("{"))-bytes.Count(line, []byte("]"))-bytes.Count(line, []byte("}")))
		if open > mostOpen || bytes.Count(line, []byte("- ")) > mostOpen || bytes.Count(line, []byte("? ")) > mostOpen {
			return n
		}
	}
	return 0
}

var yamlLine = lazy.New(`^\[(\d+):`)

func (s *settings) yaml(n ast.Node, name string, depth int) {
	if depth > deepest {
		return
	}
	switch v := n.(type) {
	case *ast.MappingNode:
		for _, pair := range v.Values {
			s.yamlPair(pair, name, depth)
		}
	case *ast.MappingValueNode:
		s.yamlPair(v, name, depth)
	case *ast.SequenceNode:
		for _, item := range v.Values {
			if text, ok := scalarText(item); ok {
				s.token(nil, name, text, item)
			} else {
				s.yaml(item, name, depth+1)
			}
		}
	case *ast.AnchorNode:
		s.yaml(v.Value, name, depth+1)
	case *ast.TagNode:
		s.yaml(v.Value, name, depth+1)
	}
}

func (s *settings) yamlPair(pair *ast.MappingValueNode, name string, depth int) {
	if pair.Key == nil || pair.Key.GetToken() == nil {
		return
	}
	key := under(name, pair.Key.GetToken().Value)
	text, _ := scalarText(pair.Value)
	s.token(pair.Key.GetToken(), key, text, pair.Value)
	if pair.Value != nil {
		s.yaml(pair.Value, key, depth+1)
	}
}

func scalarText(n ast.Node) (string, bool) {
	switch v := n.(type) {
	case *ast.StringNode:
		return v.Value, true
	case *ast.AnchorNode:
		return scalarText(v.Value)
	case *ast.TagNode:
		return scalarText(v.Value)
	case *ast.LiteralNode:
		if v.Value != nil {
			return v.Value.Value, true
		}
		return "", true
	case ast.ScalarNode:
		if t := v.GetToken(); t != nil {
			return t.Value, true
		}
	}
	return "", false
}

// token notes a setting by the token of its key and the node of its value.
func (s *settings) token(key *token.Token, name, value string, node ast.Node) {
	var at lang.Span
	switch v := node.(type) {
	case *ast.AnchorNode:
		node = v.Value
	case *ast.TagNode:
		node = v.Value
	}
	if _, block := node.(*ast.LiteralNode); node != nil && value != "" && !block {
		at = s.spanOf(node.GetToken(), value)
	}
	if key == nil {
		s.add(lang.Span{}, name, value, at)
		if last := &s.file.Refs[len(s.file.Refs)-1]; last.Line == 0 && node != nil && node.GetToken() != nil {
			last.Line, last.Column = node.GetToken().Position.Line, node.GetToken().Position.Column
		}
		return
	}
	where := s.spanOf(key, key.Value)
	s.add(where, name, value, at)
	if where.Len() == 0 {
		last := &s.file.Refs[len(s.file.Refs)-1]
		last.Line, last.Column = key.Position.Line, key.Position.Column
	}
}

// spanOf finds the characters of a token, whose place the parser gives by line and
// column; nowhere, where the text there is written otherwise.
func (s *settings) spanOf(t *token.Token, value string) lang.Span {
	if t == nil || t.Position == nil || value == "" {
		return lang.Span{}
	}
	start := s.at.Start(t.Position.Line)
	if start < 0 {
		return lang.Span{}
	}
	line := string(s.text[start : start+lang.LineLength(s.text[start:])])
	from := 0
	for range t.Position.Column - 1 {
		if from >= len(line) {
			break
		}
		_, size := utf8.DecodeRuneInString(line[from:])
		from += size
	}
	i := strings.Index(line[from:], value)
	if i < 0 || i > 1 {
		return lang.Span{}
	}
	return lang.At(start+from+i, start+from+i+len(value))
}
