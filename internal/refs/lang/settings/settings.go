// Package settings reads files of settings: JSON, YAML, TOML, XML, INI and environment
// files. Keys are named from the top, "scripts.start"; the items of a list all
// have the name of the list.
package settings

import (
	"errors"
	"strconv"
	"strings"

	"github.com/pelletier/go-toml/v2/unstable"
	"github.com/tailscale/hujson"

	"dicaxon/internal/lazy"
	"dicaxon/internal/refs/lang"
)

// The languages. Their values are paths only where somebody says so.
var (
	JSON = lang.Language{Names: []string{".babelrc", ".swcrc"}, Endings: []string{".json", ".jsonc"}, Read: readJSON, Resolve: nowhere, Settings: true, Parses: true}
	YAML = lang.Language{Endings: []string{".yaml", ".yml"}, Read: readYAML, Resolve: nowhere, Settings: true, Parses: true}
	TOML = lang.Language{Names: []string{"Pipfile"}, Endings: []string{".toml"}, Read: readTOML, Resolve: nowhere, Settings: true, Parses: true}
	XML  = lang.Language{Endings: []string{".xml", ".csproj", ".slnx"}, Read: readXML, Resolve: nowhere, Settings: true, Parses: true}
	INI  = lang.Language{Endings: []string{".service", ".ini", ".cfg"}, Read: readINI, Resolve: nowhere, Settings: true}
	Env  = lang.Language{Names: []string{".env", ".flaskenv"}, Endings: []string{".env", ".tfvars", ".properties"}, Read: readEnv, Resolve: nowhere, Settings: true}
)

func nowhere(*lang.Look, string, lang.Ref) lang.Answer { return lang.Answer{} }

// deepest bounds how deep settings are followed; nobody writes deeper.
const deepest = 100

type settings struct {
	text []byte
	file lang.File
	at   lang.Lines
}

// add notes a setting: where its key stands, and its value.
func (s *settings) add(key lang.Span, name, value string, at lang.Span) {
	r := lang.Ref{Kind: lang.Key, Name: name, Value: value, Span: key, ValueSpan: at}
	if at.Start > 0 && int(at.Start) <= len(s.text) {
		if mark := s.text[at.Start-1]; mark == '"' || mark == '\'' {
			r.Quote = mark
		}
	}
	if key.Len() == 0 && at.Len() > 0 { // an item of a list
		r.Line, r.Column = s.at.At(int(at.Start))
		if r.Quote != 0 {
			r.Column--
		}
	}
	s.file.Refs = append(s.file.Refs, r)
}

// unquoted takes the quotation marks off the span of a value.
func (s *settings) unquoted(at lang.Span) lang.Span {
	in := at.In(s.text)
	for _, mark := range []string{`"""`, "'''", `"`, "'"} {
		if len(in) >= 2*len(mark) && strings.HasPrefix(string(in), mark) && strings.HasSuffix(string(in), mark) {
			return lang.At(int(at.Start)+len(mark), int(at.End)-len(mark))
		}
	}
	return at
}

func under(above, key string) string {
	if above == "" {
		return key
	}
	return above + "." + key
}

// readJSON reads JSON, with comments and trailing commas, as several tools
// allow them.
func readJSON(text []byte) lang.File {
	s := settings{text: text, at: lang.LinesOf(text)}
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
			at := s.unquoted(lang.At(m.Name.StartOffset, m.Name.EndOffset))
			if inner, ok := m.Value.Value.(hujson.Literal); ok {
				s.add(at, key, literalText(inner), s.unquoted(lang.At(m.Value.StartOffset, m.Value.EndOffset)))
				continue
			}
			s.add(at, key, "", lang.Span{})
			s.json(m.Value, key, depth+1)
		}
	case *hujson.Array:
		for _, item := range value.Elements {
			if inner, ok := item.Value.(hujson.Literal); ok {
				s.add(lang.Span{}, name, literalText(inner), s.unquoted(lang.At(item.StartOffset, item.EndOffset)))
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

func readTOML(text []byte) lang.File {
	s := settings{text: text, at: lang.LinesOf(text)}
	var p unstable.Parser
	p.Reset(text)
	table := ""
	for p.NextExpression() {
		e := p.Expression()
		switch e.Kind {
		case unstable.Table, unstable.ArrayTable:
			var at lang.Span
			table, at = s.tomlKey(e, "")
			s.add(at, table, "", lang.Span{})
		case unstable.KeyValue:
			s.tomlPair(e, table, 0)
		}
	}
	if err := p.Error(); err != nil {
		s.file.Broken = err.Error()
		var at *unstable.ParserError
		if errors.As(err, &at) && len(at.Highlight) > 0 {
			s.file.BrokenLine, _ = s.at.At(int(p.Range(at.Highlight).Offset))
		}
	}
	return s.file
}

// tomlKey gives the key of a node below another, and where the last of its names
// stands.
func (s *settings) tomlKey(n *unstable.Node, above string) (name string, at lang.Span) {
	name = above
	for it := n.Key(); it.Next(); {
		part := it.Node()
		name = under(name, string(part.Data))
		at = s.unquoted(rangeOf(part))
	}
	return name, at
}

func rangeOf(n *unstable.Node) lang.Span {
	return lang.At(int(n.Raw.Offset), int(n.Raw.Offset+n.Raw.Length))
}

func (s *settings) tomlPair(n *unstable.Node, above string, depth int) {
	name, at := s.tomlKey(n, above)
	s.tomlValue(n.Value(), name, at, depth)
}

func (s *settings) tomlValue(v *unstable.Node, name string, at lang.Span, depth int) {
	if depth > deepest {
		return
	}
	switch v.Kind {
	case unstable.Array:
		s.add(at, name, "", lang.Span{})
		for it := v.Children(); it.Next(); {
			s.tomlValue(it.Node(), name, lang.Span{}, depth+1)
		}
	case unstable.InlineTable:
		s.add(at, name, "", lang.Span{})
		for it := v.Children(); it.Next(); {
			s.tomlPair(it.Node(), name, depth+1)
		}
	default:
		s.add(at, name, string(v.Data), s.unquoted(rangeOf(v)))
	}
}
