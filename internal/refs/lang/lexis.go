package lang

import (
	"bytes"
	"strings"
	"sync"
)

// A Lexis says how a language writes what is no code.
type Lexis struct {
	Line    []string    // begin a comment to the end of the line
	Block   [][2]string // begin and end a comment
	Nested  bool        // blocks may hold blocks
	Strings []Quote     // the longer marks first
	Regexps bool        // "/" may begin a regular expression
	Heredoc bool        // "<<~NAME" begins a text to the line NAME

	once  sync.Once
	first [256]bool // the bytes that something begins with which is no code
}

// begins says whether what is no code may begin with the byte.
func (l *Lexis) begins(c byte) bool {
	l.once.Do(func() {
		for _, mark := range l.Line {
			l.first[mark[0]] = true
		}
		for _, b := range l.Block {
			l.first[b[0][0]] = true
		}
		for _, q := range l.Strings {
			l.first[q.Open[0]] = true
		}
		l.first['/'] = l.first['/'] || l.Regexps
		l.first['<'] = l.first['<'] || l.Heredoc
	})
	return l.first[c]
}

// A Quote is a pair of marks around a text.
type Quote struct {
	Open, Close string
	Escape      bool   // a backslash takes the next character as it is
	Lines       bool   // it may go over several lines
	Inner       string // begins code inside the text
}

// hidden stands for every byte of a string's text in scrubbed code.
const hidden = 0

// Scrub gives the code of a text at the same offsets: comments are blank, and
// the texts of strings hidden, with their marks left. Broken is the offset of
// a comment or string that does not end, or -1.
func (l *Lexis) Scrub(text []byte) (code []byte, broken int) {
	code = bytes.Clone(text)
	broken = -1
	last := byte('\n') // the last code that is no space
	for i := 0; i < len(text); {
		if c := text[i]; !l.begins(c) {
			if c > ' ' {
				last = c
			}
			i++
			continue
		}
		rest := text[i:]
		if mark := starts(rest, l.Line); mark != "" {
			end := i + LineLength(rest)
			Blank(code[i:end])
			i = end
			continue
		}
		if n, ok, whole := l.comment(rest); ok {
			Blank(code[i : i+n])
			if !whole && broken < 0 {
				broken = i
			}
			i += n
			continue
		}
		if q := l.quoteAt(rest); q != nil {
			n, whole := l.quoted(q, rest)
			inside := code[i+len(q.Open) : i+n]
			if whole {
				inside = inside[:len(inside)-len(q.Close)]
			} else if q.Lines && broken < 0 {
				broken = i
			}
			hide(inside)
			i, last = i+n, '"'
			continue
		}
		if l.Heredoc && bytes.HasPrefix(rest, []byte("<<")) {
			if from, to := hereText(text, i); to > 0 {
				hide(code[from:to])
				// The rest of the line is still code; the text begins below it.
				end := i + LineLength(rest)
				if sub, _ := l.Scrub(text[i+2 : end]); len(sub) > 0 {
					copy(code[i+2:], sub)
				}
				i, last = to, '"'
				continue
			}
		}
		if l.Regexps && text[i] == '/' && beginsRegexp(code[:i], last) {
			if n := regexpLength(rest); n > 0 {
				hide(code[i+1 : i+n-1])
				i, last = i+n, '"'
				continue
			}
		}
		if c := text[i]; c > ' ' {
			last = c
		}
		i++
	}
	return code, broken
}

func starts(text []byte, marks []string) string {
	for _, m := range marks {
		if len(text) >= len(m) && string(text[:len(m)]) == m {
			return m
		}
	}
	return ""
}

// LineLength gives how long the line is that a text begins with, without its end.
func LineLength(text []byte) int {
	if n := bytes.IndexByte(text, '\n'); n >= 0 {
		return n
	}
	return len(text)
}

// comment gives the length of a block comment that text begins with.
func (l *Lexis) comment(text []byte) (n int, ok, whole bool) {
	for _, b := range l.Block {
		if !bytes.HasPrefix(text, []byte(b[0])) {
			continue
		}
		depth, i := 1, len(b[0])
		for i < len(text) {
			switch {
			case bytes.HasPrefix(text[i:], []byte(b[1])):
				i += len(b[1])
				if depth--; depth == 0 {
					return i, true, true
				}
			case l.Nested && bytes.HasPrefix(text[i:], []byte(b[0])):
				depth, i = depth+1, i+len(b[0])
			default:
				i++
			}
		}
		return len(text), true, false
	}
	return 0, false, false
}

func (l *Lexis) quoteAt(text []byte) *Quote {
	for i := range l.Strings {
		if q := &l.Strings[i]; bytes.HasPrefix(text, []byte(q.Open)) {
			return q
		}
	}
	return nil
}

// quoted gives how long the string is that text begins with. One that may not
// go over lines ends with its line.
func (l *Lexis) quoted(q *Quote, text []byte) (n int, whole bool) {
	for i := len(q.Open); i < len(text); {
		switch {
		case q.Escape && text[i] == '\\':
			i += 2
		case bytes.HasPrefix(text[i:], []byte(q.Close)):
			return i + len(q.Close), true
		case text[i] == '\n' && !q.Lines:
			return i, false
		case q.Inner != "" && bytes.HasPrefix(text[i:], []byte(q.Inner)):
			i += l.innerLength(text[i:], len(q.Inner))
		default:
			i++
		}
	}
	return len(text), false
}

// innerLength gives the length of code inside a string, from its opening brace
// to the one that closes it; what is no code in it is passed over.
func (l *Lexis) innerLength(text []byte, open int) int {
	depth, last := 1, byte('{')
	for i := open; i < len(text); {
		if n := l.noCode(text, i, last); n > 0 {
			i, last = i+n, '"'
			continue
		}
		switch c := text[i]; c {
		case '{':
			depth++
		case '}':
			if depth--; depth == 0 {
				return i + 1
			}
		}
		if c := text[i]; c > ' ' {
			last = c
		}
		i++
	}
	return len(text)
}

// noCode gives the length of the string, the block comment or the regular
// expression at an offset, or 0 where there is code.
func (l *Lexis) noCode(text []byte, i int, last byte) int {
	rest := text[i:]
	if !l.begins(text[i]) {
		return 0
	}
	if n, ok, _ := l.comment(rest); ok {
		return n
	}
	if q := l.quoteAt(rest); q != nil {
		n, _ := l.quoted(q, rest)
		return n
	}
	if l.Regexps && text[i] == '/' && beginsRegexp(text[:i], last) {
		return regexpLength(rest)
	}
	return 0
}

// Blank makes spaces of a text, its lines left.
func Blank(code []byte) {
	for i, c := range code {
		if c != '\n' && c != '\r' {
			code[i] = ' '
		}
	}
}

func hide(code []byte) {
	for i, c := range code {
		if c != '\n' && c != '\r' {
			code[i] = hidden
		}
	}
}

// beginsRegexp says whether "/" after the code is the start of a regular
// expression and no division: what stands before cannot end a value.
func beginsRegexp(before []byte, last byte) bool {
	if strings.IndexByte("\n(,=:[!&|?{};+-*%~^<>", last) >= 0 {
		return true
	}
	word := before
	for len(word) > 0 && word[len(word)-1] <= ' ' {
		word = word[:len(word)-1]
	}
	for _, keyword := range []string{"return", "typeof", "case", "in", "of", "delete", "void", "throw"} {
		if bytes.HasSuffix(word, []byte(keyword)) && (len(word) == len(keyword) || !WordByte(word[len(word)-len(keyword)-1])) {
			return true
		}
	}
	return false
}

// WordByte says whether a byte may be part of a name.
func WordByte(c byte) bool {
	return c == '_' || c == '$' || '0' <= c && c <= '9' || 'a' <= c && c <= 'z' || 'A' <= c && c <= 'Z' || c >= 0x80
}

// regexpLength gives the length of a regular expression up to its closing
// slash, or 0 where the line ends first.
func regexpLength(text []byte) int {
	class := false
	for i := 1; i < len(text); i++ {
		switch text[i] {
		case '\\':
			i++
		case '\n':
			return 0
		case '[':
			class = true
		case ']':
			class = false
		case '/':
			if !class {
				return i + 1
			}
		}
	}
	return 0
}

// hereText gives where the text of a here-document at offset i begins and ends,
// or zeros where there is none: "<<~NAME", "<<-NAME", "<<NAME" or, in PHP,
// "<<<NAME", the name perhaps in quotes.
func hereText(text []byte, i int) (from, to int) {
	j := i + 2
	if j < len(text) && text[j] == '<' {
		j++
	}
	squiggly := j < len(text) && (text[j] == '~' || text[j] == '-')
	if squiggly {
		j++
	}
	for j > i+2 && text[j-1] == '<' && j < len(text) && text[j] == ' ' { // PHP takes spaces there
		j++
	}
	var mark byte
	if j < len(text) && (text[j] == '\'' || text[j] == '"') {
		mark = text[j]
		j++
	}
	start := j
	for j < len(text) && WordByte(text[j]) {
		j++
	}
	name := text[start:j]
	if len(name) == 0 || !squiggly && mark == 0 && (name[0] < 'A' || name[0] > 'Z') || mark != 0 && (j == len(text) || text[j] != mark) {
		return 0, 0
	}
	from = i + LineLength(text[i:]) + 1
	for at := from; at < len(text); {
		end := at + LineLength(text[at:])
		if line := bytes.TrimSpace(text[at:end]); bytes.HasPrefix(line, name) && (len(line) == len(name) || !WordByte(line[len(name)])) {
			return from, at
		}
		at = end + 1
	}
	return 0, 0
}

// TrimEnd gives a text without the spaces and line ends that it ends with.
func TrimEnd(text []byte) []byte { return bytes.TrimRight(text, " \t\r\n") }

// Bracket says how many brackets more are open behind a sign: 1, -1 or 0.
func Bracket(c byte) int {
	switch c {
	case '(', '[', '{':
		return 1
	case ')', ']', '}':
		return -1
	}
	return 0
}

// EachWord gives the words of a text, in their order, each with where it begins.
func EachWord(text []byte, yield func(at int, word []byte)) {
	for i := 0; i < len(text); {
		start := i
		for i < len(text) && WordByte(text[i]) {
			i++
		}
		if i > start {
			yield(start, text[start:i])
		} else {
			i++
		}
	}
}
