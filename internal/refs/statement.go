package refs

import (
	"strings"

	"dicaxon/internal/lazy"
)

// A statement is one form in which a language says something: a pattern over
// scrubbed code whose group "name" is what is named, and whose group "what", if
// there is one, becomes the value. A group that is the hidden text of a string
// is read from the text itself.
type statement struct {
	kind    Kind
	pattern *lazy.Regexp
	// tidy turns what was written into the name, where that differs.
	tidy func(string) string
}

// stringText is a string in scrubbed code, its text in the group "name".
const stringText = `["'](?P<name>\x00+)["']`

func says(kind Kind, pattern string) statement {
	return statement{kind: kind, pattern: lazy.New("(?m)" + pattern)}
}

// A language is read by scrubbing its text and looking for its statements.
type language struct {
	lexis      lexis
	statements []statement
}

func (l *language) read(text []byte) File {
	code, broken := l.lexis.scrub(text)
	f := l.find(text, code)
	if broken >= 0 {
		f.Broken = "a comment or a string does not end"
		f.BrokenLine, _ = linesOf(text).at(broken)
	}
	return f
}

func (l *language) find(text, code []byte) File {
	var f File
	at := linesOf(text)
	for _, s := range l.statements {
		re := s.pattern.Get()
		name, what := re.SubexpIndex("name"), re.SubexpIndex("what")
		for _, m := range re.FindAllSubmatchIndex(code, -1) {
			if m[2*name] < 0 {
				continue
			}
			r := Ref{Kind: s.kind, Name: strings.TrimSpace(string(text[m[2*name]:m[2*name+1]]))}
			r.Line, r.Column = at.at(m[2*name])
			if what >= 0 && m[2*what] >= 0 {
				r.Value = strings.Join(strings.Fields(string(text[m[2*what]:m[2*what+1]])), " ")
			}
			if s.tidy != nil {
				r.Name = s.tidy(r.Name)
			}
			if r.Name != "" {
				f.Refs = append(f.Refs, r)
			}
		}
	}
	return f
}
