package refs

import (
	"bytes"
	"encoding/xml"
	"errors"
	"io"
	"strconv"
	"strings"

	"github.com/goccy/go-yaml/ast"
	"github.com/goccy/go-yaml/parser"
	"github.com/goccy/go-yaml/token"
	"github.com/pelletier/go-toml/v2/unstable"
	"github.com/tailscale/hujson"

	"dicaxon/internal/lazy"
)

// Keys of settings are named from the top, "scripts.start". The items of a list
// all have the name of the list.

// deepest bounds how deep settings are followed; nobody writes deeper.
const deepest = 100

type settings struct {
	file File
	at   lines
}

func (s *settings) add(offset int, name, value string) {
	line, column := s.at.at(offset)
	s.file.Refs = append(s.file.Refs, Ref{Kind: Key, Name: name, Value: value, Line: line, Column: column})
}

func under(above, key string) string {
	if above == "" {
		return key
	}
	return above + "." + key
}

// readJSON reads JSON, with comments and trailing commas, as several tools
// allow them.
func readJSON(text []byte) File {
	s := settings{at: linesOf(text)}
	root, err := hujson.Parse(text)
	if err != nil {
		s.file.Broken = err.Error()
		if m := jsonLine.Get().FindStringSubmatch(err.Error()); m != nil {
			s.file.BrokenLine, _ = strconv.Atoi(m[1])
		}
		return s.file
	}
	s.json(root, "", 0)
	return s.file
}

var jsonLine = lazy.New(`line (\d+)`)

func (s *settings) json(v hujson.Value, name string, depth int) {
	if depth > deepest {
		return
	}
	switch value := v.Value.(type) {
	case *hujson.Object:
		for _, m := range value.Members {
			literal, ok := m.Name.Value.(hujson.Literal)
			if !ok {
				continue
			}
			key := under(name, literal.String())
			if inner, ok := m.Value.Value.(hujson.Literal); ok {
				s.add(m.Name.StartOffset, key, literalText(inner))
				continue
			}
			s.add(m.Name.StartOffset, key, "")
			s.json(m.Value, key, depth+1)
		}
	case *hujson.Array:
		for _, item := range value.Elements {
			if inner, ok := item.Value.(hujson.Literal); ok {
				s.add(item.StartOffset, name, literalText(inner))
			} else {
				s.json(item, name, depth+1)
			}
		}
	}
}

func literalText(l hujson.Literal) string {
	if l.Kind() == '"' {
		return l.String()
	}
	return string(l)
}

func readYAML(text []byte) File {
	s := settings{}
	// Templates of Helm and Jinja are no YAML before they are filled in.
	file, err := parser.ParseBytes(text, 0)
	if err != nil {
		s.file.Broken, _, _ = strings.Cut(err.Error(), "\n")
		if m := yamlLine.Get().FindStringSubmatch(err.Error()); m != nil {
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
				s.token(item.GetToken(), name, text)
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
	s.token(pair.Key.GetToken(), key, text)
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

func (s *settings) token(t *token.Token, name, value string) {
	if t == nil || t.Position == nil {
		return
	}
	s.file.Refs = append(s.file.Refs, Ref{Kind: Key, Name: name, Value: value, Line: t.Position.Line, Column: t.Position.Column})
}

func readTOML(text []byte) File {
	s := settings{at: linesOf(text)}
	var p unstable.Parser
	p.Reset(text)
	table := ""
	for p.NextExpression() {
		e := p.Expression()
		switch e.Kind {
		case unstable.Table, unstable.ArrayTable:
			var at int
			table, at = s.tomlKey(&p, e, "")
			s.add(at, table, "")
		case unstable.KeyValue:
			s.tomlPair(&p, e, table, 0)
		}
	}
	if err := p.Error(); err != nil {
		s.file.Broken = err.Error()
		var at *unstable.ParserError
		if errors.As(err, &at) && len(at.Highlight) > 0 {
			s.file.BrokenLine, _ = s.at.at(int(p.Range(at.Highlight).Offset))
		}
	}
	return s.file
}

// tomlKey gives the key of a node below another, and where it begins.
func (s *settings) tomlKey(p *unstable.Parser, n *unstable.Node, above string) (name string, at int) {
	name, at = above, -1
	for it := n.Key(); it.Next(); {
		part := it.Node()
		name = under(name, string(part.Data))
		if at < 0 {
			at = int(part.Raw.Offset)
		}
	}
	return name, max(at, 0)
}

func (s *settings) tomlPair(p *unstable.Parser, n *unstable.Node, above string, depth int) {
	name, at := s.tomlKey(p, n, above)
	s.tomlValue(p, n.Value(), name, at, depth)
}

func (s *settings) tomlValue(p *unstable.Parser, v *unstable.Node, name string, at, depth int) {
	if v == nil || depth > deepest {
		return
	}
	switch v.Kind {
	case unstable.Array:
		s.add(at, name, "")
		for it := v.Children(); it.Next(); {
			item := it.Node()
			where := at
			if item.Raw.Length > 0 {
				where = int(item.Raw.Offset)
			}
			s.tomlValue(p, item, name, where, depth+1)
		}
	case unstable.InlineTable:
		s.add(at, name, "")
		for it := v.Children(); it.Next(); {
			s.tomlPair(p, it.Node(), name, depth+1)
		}
	default:
		s.add(at, name, string(v.Data))
	}
}

// readXML names an element by the names from the top, and an attribute by that
// of its element with "@" before its own.
func readXML(text []byte) File {
	s := settings{at: linesOf(text)}
	d := xml.NewDecoder(bytes.NewReader(text))
	d.Strict = false
	d.CharsetReader = func(_ string, in io.Reader) (io.Reader, error) { return in, nil }
	var names []string
	var open []int // refs of the elements that are open
	for {
		at := int(d.InputOffset())
		t, err := d.RawToken()
		if err != nil {
			if err != io.EOF {
				s.file.Broken = err.Error()
				s.file.BrokenLine, _ = s.at.at(min(int(d.InputOffset()), max(len(text)-1, 0)))
			}
			return s.file
		}
		switch t := t.(type) {
		case xml.StartElement:
			if len(names) > deepest {
				return s.file
			}
			names = append(names, t.Name.Local)
			name := strings.Join(names, ".")
			open = append(open, len(s.file.Refs))
			s.add(at, name, "")
			for _, a := range t.Attr {
				s.add(at, name+".@"+a.Name.Local, a.Value)
			}
		case xml.CharData:
			if len(open) > 0 {
				if text := strings.TrimSpace(string(t)); text != "" {
					s.file.Refs[open[len(open)-1]].Value += text
				}
			}
		case xml.EndElement:
			if len(names) > 0 {
				names, open = names[:len(names)-1], open[:len(open)-1]
			}
		}
	}
}

var envLine = lazy.New(`^\s*(?:export\s+)?([A-Za-z_][A-Za-z0-9_.]*)\s*=\s*(.*?)\s*$`)

// readEnv reads an environment file: a key, "=" and a value on each line.
func readEnv(text []byte) File {
	var f File
	for i, line := range strings.Split(string(text), "\n") {
		m := envLine.Get().FindStringSubmatchIndex(line)
		if m == nil {
			continue
		}
		value := line[m[4]:m[5]]
		if n := len(value); n >= 2 && (value[0] == '"' || value[0] == '\'') && value[n-1] == value[0] {
			value = value[1 : n-1]
		} else if before, _, cut := strings.Cut(value, " #"); cut {
			value = strings.TrimSpace(before)
		}
		f.Refs = append(f.Refs, Ref{Kind: Key, Name: line[m[2]:m[3]], Value: value, Line: i + 1, Column: m[2] + 1})
	}
	return f
}

var requirementLine = lazy.New(`^\s*([A-Za-z0-9](?:[A-Za-z0-9._-]*[A-Za-z0-9])?)\s*(?:\[[^\]]*\])?\s*([^;#]*)`)

// readRequirements reads a list of requirements as pip does (PEP 508): the value
// is the constraint, and a further list that is included is a Path.
func readRequirements(text []byte) File {
	var f File
	for i, line := range strings.Split(string(text), "\n") {
		trimmed := strings.TrimSpace(line)
		for _, option := range []string{"-r ", "--requirement ", "-c ", "--constraint "} {
			if rest, ok := strings.CutPrefix(trimmed, option); ok {
				f.Refs = append(f.Refs, Ref{Kind: Path, Name: strings.TrimSpace(rest), Line: i + 1, Column: strings.Index(line, rest) + 1})
			}
		}
		if m := requirementLine.Get().FindStringSubmatchIndex(line); m != nil {
			f.Refs = append(f.Refs, Ref{Kind: Import, Name: line[m[2]:m[3]], Value: strings.TrimSpace(line[m[4]:m[5]]), Line: i + 1, Column: m[2] + 1})
		}
	}
	return f
}
