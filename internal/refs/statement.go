package refs

import (
	"bytes"
	"slices"
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
	// words are those of which each match has one on its first line: where a
	// word stands, the pattern is tried, and nowhere else.
	words []string
	begin begin
	// tidy turns what was written into the name, where that differs.
	tidy func(string) string
}

// begin says where a pattern can begin, seen from its word.
type begin int

const (
	atLine      begin = iota // at the start of the line
	atStatement              // there, or at the sign before the spaces before the word
	afterSign                // at the sign before the word, or there at the start of a line
	atWord
)

// stringText is a string in scrubbed code, its text in the group "name".
const stringText = `["'](?P<name>\x00+)["']`

// says makes a statement. Without words, the pattern is tried everywhere.
func says(kind Kind, words, pattern string) statement {
	s := statement{kind: kind, words: strings.Fields(words), pattern: lazy.New("(?m)" + pattern)}
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

// matches gives the places of what the statement's groups matched, in order.
func (s *statement) matches(code []byte) [][]int {
	re := s.pattern.Get()
	if len(s.words) == 0 {
		return re.FindAllSubmatchIndex(code, -1)
	}
	var all [][]int
	end, line, seen := 0, 0, 0
	for _, word := range s.found(code) {
		if i := bytes.LastIndexByte(code[seen:word], '\n'); i >= 0 {
			line = seen + i + 1
		}
		seen = word
		for _, start := range s.starts(code, line, word) {
			if start < end {
				continue
			}
			if m := re.FindSubmatchIndex(code[start:]); m != nil {
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

// found gives where one of the words stands, in order.
func (s *statement) found(code []byte) []int {
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
func (s *statement) starts(code []byte, line, word int) []int {
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
		for _, m := range s.matches(code) {
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
