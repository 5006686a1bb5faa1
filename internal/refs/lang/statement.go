package lang

import (
	"bytes"
	"slices"
	"strings"

	"dicaxon/internal/lazy"
)

// A Statement is one form in which a language says something: a pattern over
// scrubbed code whose group "name" is what is named, and whose group "what", if
// there is one, becomes the value. A group that is the hidden text of a string
// is read from the text itself.
type Statement struct {
	kind    Kind
	pattern *lazy.Regexp
	// words are those of which each match has one on its first line: where a
	// word stands, the pattern is tried, and nowhere else.
	words []string
	marks func(code []byte) []int // instead of words: where a match may have its first sign
	begin begin
}

// begin says where a pattern can begin, seen from its word.
type begin int

const (
	atLine      begin = iota // at the start of the line
	atStatement              // there, or at the sign before the spaces before the word
	afterSign                // at the sign before the word, or there at the start of a line
	atWord
)

// StringText is a string in scrubbed code, its text in the group "name".
const StringText = `["'](?P<name>\x00+)["']`

// AtStart begins a pattern of what begins a statement.
const AtStart = `(?:^|;)[ \t]*`

// Says makes a statement. Without words, the pattern is tried everywhere.
func Says(kind Kind, words, pattern string) Statement {
	s := Statement{kind: kind, words: strings.Fields(words), pattern: lazy.New("(?m)" + pattern)}
	if len(s.words) == 0 {
		return s
	}
	s.pattern = lazy.New(`(?m)\A(?:` + pattern + ")")
	switch {
	case strings.HasPrefix(pattern, "^"):
		s.begin = atLine
	case strings.HasPrefix(pattern, `\b`), strings.HasPrefix(pattern, "@"):
		s.begin = atWord
	case strings.HasPrefix(pattern, "(?:^|") && strings.HasPrefix(pattern[strings.IndexByte(pattern, ')'):], `)[ \t]*`):
		s.begin = atStatement
	default:
		s.begin = afterSign
	}
	return s
}

// SaysAt makes a statement whose pattern, which takes in the sign before, is tried at the
// places that marks gives, in order, and nowhere else.
func SaysAt(kind Kind, marks func(code []byte) []int, pattern string) Statement {
	return Statement{kind: kind, marks: marks, begin: afterSign, pattern: lazy.New(`(?m)\A(?:` + pattern + ")")}
}

// matches gives the places of what the statement's groups matched, in order.
func (s *Statement) matches(code []byte) [][]int {
	re := s.pattern.Get()
	if len(s.words) == 0 && s.marks == nil {
		return re.FindAllSubmatchIndex(code, -1)
	}
	var all [][]int
	end, line, seen, tried := 0, 0, 0, -1
	found := s.found(code)
	stops := s.stops(code, found)
	for i, word := range found {
		if i := bytes.LastIndexByte(code[seen:word], '\n'); i >= 0 {
			line = seen + i + 1
		}
		seen = word
		for _, start := range s.starts(code, line, word) {
			if start < end || start <= tried {
				continue
			}
			tried = start
			if m := re.FindSubmatchIndex(code[start:stops[i]]); m != nil {
				for i := range m {
					if m[i] >= 0 {
						m[i] += start
					}
				}
				all, end = append(all, m), m[1]
				break
			}
		}
	}
	return all
}

// stops gives, for each place of a word, where a statement ends at the latest that begins there: where
// the next one begins its line. Otherwise words that never become a statement would each be followed
// to the end of the text.
func (s *Statement) stops(code []byte, found []int) []int {
	all, next := make([]int, len(found)), len(code)
	for i, at := range slices.Backward(found) {
		all[i] = next
		end := at
		for end < len(code) && partOfWord(code[end]) {
			end++
		}
		before := bytes.TrimRight(code[max(0, at-near):at], " \t")
		if s.begin == atStatement && bytes.HasSuffix(before, []byte("\n")) && slices.Contains(s.words, string(code[at:end])) {
			next = at
		}
	}
	return all
}

// found gives where one of the words stands, in order.
func (s *Statement) found(code []byte) []int {
	if s.marks != nil {
		return s.marks(code)
	}
	var all []int
	for _, word := range s.words {
		for from := 0; ; {
			i := bytes.Index(code[from:], []byte(word))
			if i < 0 {
				break
			}
			all = append(all, from+i)
			from += i + len(word)
		}
	}
	slices.Sort(all)
	return all
}

// starts gives where a match around a word can begin, whose line begins at line.
func (s *Statement) starts(code []byte, line, word int) []int {
	switch before := line + len(bytes.TrimRight(code[line:word], " \t")); {
	case s.begin == atLine:
		return []int{line}
	case s.begin == atWord && word > 0 && partOfWord(code[word-1]) && partOfWord(code[word]):
		return nil
	case s.begin == atWord:
		return []int{word}
	case s.begin == afterSign:
		return []int{max(0, word-1)}
	case before > line:
		return []int{line, before - 1}
	}
	return []int{line}
}

// partOfWord says what \w says.
func partOfWord(b byte) bool {
	return b == '_' || '0' <= b && b <= '9' || 'a' <= b|0x20 && b|0x20 <= 'z'
}

// Patterns read a language by scrubbing its text and looking for its statements.
type Patterns struct {
	Lexis      Lexis
	Statements []Statement
}

// Read reads a text.
func (p *Patterns) Read(text []byte) File {
	f, _ := p.ReadCode(text)
	return f
}

// ReadCode reads a text, and gives it scrubbed.
func (p *Patterns) ReadCode(text []byte) (File, []byte) {
	code, broken := p.Lexis.Scrub(text)
	f := p.Find(text, code)
	if broken >= 0 {
		f.Broken = "a comment or a string does not end"
		f.BrokenLine, _ = LinesOf(text).At(broken)
	}
	return f, code
}

// Find looks for the statements in the scrubbed code of a text.
func (p *Patterns) Find(text, code []byte) File {
	var f File
	for i := range p.Statements {
		s := &p.Statements[i]
		re := s.pattern.Get()
		name, what := re.SubexpIndex("name"), re.SubexpIndex("what")
		for _, m := range s.matches(code) {
			if m[2*name] < 0 {
				continue
			}
			r := Ref{Kind: s.kind, Span: trimmed(text, m[2*name], m[2*name+1])}
			r.Name = string(r.Span.In(text))
			if before := int(r.Span.Start) - 1; before >= 0 && code[r.Span.Start] == hidden {
				r.Quote = code[before]
			}
			if what >= 0 && m[2*what] >= 0 {
				r.ValueSpan = trimmed(text, m[2*what], m[2*what+1])
				r.Value = strings.Join(strings.Fields(string(r.ValueSpan.In(text))), " ")
			}
			if r.Name != "" {
				f.Refs = append(f.Refs, r)
			}
		}
	}
	return f
}

// trimmed gives the span between two offsets without the spaces at its ends.
func trimmed(text []byte, start, end int) Span {
	for start < end && text[start] <= ' ' {
		start++
	}
	for start < end && text[end-1] <= ' ' {
		end--
	}
	return At(start, end)
}
