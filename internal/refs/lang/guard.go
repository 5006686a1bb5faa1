package lang

import (
	"bytes"
	"iter"
	"slices"
)

// Blocks are those in braces of scrubbed code, gone through once for offsets in order.
type Blocks struct {
	code  []byte
	words []string
	at    int
	open  []bool // of each block that is open at at: whether a word begins it, or one around it
}

// BlocksOf gives the blocks of scrubbed code, of which those are told that one of the words begins.
func BlocksOf(code []byte, words ...string) *Blocks { return &Blocks{code: code, words: words} }

// Around says whether an offset lies in a block that one of the words begins, with a condition in
// parentheses or without. An offset before the last one asked for begins anew.
func (b *Blocks) Around(offset int) bool {
	if offset < b.at {
		b.at, b.open = 0, b.open[:0]
	}
	for ; b.at < offset; b.at++ {
		switch b.code[b.at] {
		case '{':
			b.open = append(b.open, b.inside() || b.begins(b.at))
		case '}':
			b.open = b.open[:max(0, len(b.open)-1)]
		}
	}
	return b.inside()
}

func (b *Blocks) inside() bool { return len(b.open) > 0 && b.open[len(b.open)-1] }

// begins says whether one of the words stands before the block whose brace stands at an offset.
func (b *Blocks) begins(brace int) bool {
	before := beforeParentheses(bytes.TrimRight(b.code[max(0, brace-reach):brace], " \t\r\n"))
	return slices.ContainsFunc(b.words, func(word string) bool {
		return bytes.HasSuffix(before, []byte(word)) && (len(before) == len(word) || !WordByte(before[len(before)-len(word)-1]))
	})
}

// beforeParentheses gives what stands before a pair of parentheses at the end of
// code, and code itself where it ends in none.
func beforeParentheses(code []byte) []byte {
	if len(code) == 0 || code[len(code)-1] != ')' {
		return code
	}
	depth := 0
	for i := len(code) - 1; i >= 0; i-- {
		switch code[i] {
		case ')':
			depth++
		case '(':
			if depth--; depth == 0 {
				return bytes.TrimRight(code[:i], " \t\r\n")
			}
		}
	}
	return code
}

// Every yields where a text has a name, whatever is around it; nowhere for none.
func Every(text []byte, name string) iter.Seq[int] {
	return func(yield func(int) bool) {
		for from := 0; name != ""; {
			i := bytes.Index(text[from:], []byte(name))
			if i < 0 || !yield(from+i) {
				return
			}
			from += i + len(name)
		}
	}
}

// Words gives where a text has a name as a whole word.
func Words(text []byte, name string) []int { return slices.Collect(words(text, name)) }

// HasWord says whether a text has a name as a whole word.
func HasWord(text []byte, name string) bool {
	for range words(text, name) {
		return true
	}
	return false
}

func words(text []byte, name string) iter.Seq[int] {
	return func(yield func(int) bool) {
		for i := range Every(text, name) {
			end := i + len(name)
			if (i == 0 || !WordByte(text[i-1])) && (end == len(text) || !WordByte(text[end])) && !yield(i) {
				return
			}
		}
	}
}

// Split cuts a span of a text at every byte that separates, and gives the spans
// of what is between, without spaces and the empty ones.
func Split(text []byte, s Span, separators string) []Span {
	var all []Span
	start := int(s.Start)
	for i := int(s.Start); i <= int(s.End); i++ {
		if i < int(s.End) && bytes.IndexByte([]byte(separators), text[i]) < 0 {
			continue
		}
		if one := trimmed(text, start, i); one.Len() > 0 {
			all = append(all, one)
		}
		start = i + 1
	}
	return all
}

// FirstWord gives the span of the first word in a span: what stands before "as".
func FirstWord(text []byte, s Span) Span {
	in := s.In(text)
	if i := slices.IndexFunc(in, func(c byte) bool { return c <= ' ' }); i >= 0 {
		return At(int(s.Start), int(s.Start)+i)
	}
	return s
}
