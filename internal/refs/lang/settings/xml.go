package settings

import (
	"bytes"
	"encoding/xml"
	"io"
	"strings"

	"dicaxon/internal/refs/lang"
)

// readXML names an element by the names from the top, and an attribute by that
// of its element with "@" before its own.
func readXML(text []byte) lang.File {
	s := settings{text: text, at: lang.LinesOf(text)}
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
				s.file.BrokenLine, _ = s.at.At(min(int(d.InputOffset()), max(len(text)-1, 0)))
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
			tag := lang.At(at, int(d.InputOffset()))
			start := at + 1
			if t.Name.Space != "" {
				start += len(t.Name.Space) + 1
			}
			s.add(lang.At(start, start+len(t.Name.Local)), name, "", lang.Span{})
			for _, a := range t.Attr {
				key, value := attribute(tag.In(text), a.Name.Local, a.Value)
				s.add(shifted(key, at), name+".@"+a.Name.Local, a.Value, shifted(value, at))
			}
		case xml.CharData:
			if inner := strings.TrimSpace(string(t)); inner != "" && len(open) > 0 {
				of := &s.file.Refs[open[len(open)-1]]
				if i := strings.Index(string(text[at:d.InputOffset()]), inner); i >= 0 && of.Value == "" {
					of.ValueSpan = lang.At(at+i, at+i+len(inner))
				} else {
					of.ValueSpan = lang.Span{}
				}
				of.Value += inner
			}
		case xml.EndElement:
			if len(names) > 0 {
				names, open = names[:len(names)-1], open[:len(open)-1]
			}
		}
	}
}

// attribute finds an attribute in a tag: its key, and its value as it is written.
func attribute(tag []byte, name, value string) (key, at lang.Span) {
	for _, i := range lang.Words(tag, name) {
		rest := string(tag[i+len(name):])
		equals := strings.TrimLeft(rest, " \t\r\n")
		if !strings.HasPrefix(equals, "=") {
			continue
		}
		key = lang.At(i, i+len(name))
		if k := strings.IndexAny(equals, `"'`); k > 0 && strings.HasPrefix(equals[k+1:], value) {
			start := len(tag) - len(equals) + k + 1
			at = lang.At(start, start+len(value))
		}
		return key, at
	}
	return key, at
}

func shifted(s lang.Span, by int) lang.Span {
	if s.End == 0 {
		return s
	}
	return lang.At(int(s.Start)+by, int(s.End)+by)
}
