package xcode

import (
	"bytes"

	"dicaxon/internal/refs/lang"
)

// A value is one of a property list in the old form of NeXTSTEP (Apple, Old-Style ASCII
// Property Lists): a text, a list, or values by their keys.
type value struct {
	text string
	span lang.Span
	list []value
	keys map[string]value
}

// deepest is how far values may lie in each other.
const deepest = 50

// A scanner reads a property list from its start; failed is set where it is none.
type scanner struct {
	text   []byte
	at     int
	failed bool
}

// blank passes over spaces and comments.
func (s *scanner) blank() {
	for s.at < len(s.text) {
		rest := s.text[s.at:]
		switch {
		case rest[0] <= ' ':
			s.at++
		case bytes.HasPrefix(rest, []byte("/*")):
			s.past(rest, "*/")
		case bytes.HasPrefix(rest, []byte("//")):
			s.past(rest, "\n")
		default:
			return
		}
	}
}

// past goes on behind the next end of a comment.
func (s *scanner) past(rest []byte, end string) {
	if i := bytes.Index(rest[2:], []byte(end)); i >= 0 {
		s.at += 2 + i + len(end)
	} else {
		s.at = len(s.text)
	}
}

// takes says whether a sign stands next, and goes on behind it.
func (s *scanner) takes(sign byte) bool {
	s.blank()
	if s.at < len(s.text) && s.text[s.at] == sign {
		s.at++
		return true
	}
	return false
}

// value reads the value that stands next.
func (s *scanner) value(deep int) (v value) {
	switch {
	case deep > deepest:
		s.failed = true
	case s.takes('{'):
		v.keys = map[string]value{}
		for !s.failed && !s.takes('}') {
			key := s.word()
			s.failed = s.failed || !s.takes('=')
			v.keys[key.text] = s.value(deep + 1)
			s.failed = s.failed || !s.takes(';')
		}
	case s.takes('('):
		for !s.failed && !s.takes(')') {
			v.list = append(v.list, s.value(deep+1))
			if !s.takes(',') {
				s.failed = s.failed || !s.takes(')')
				return v
			}
		}
	default:
		return s.word()
	}
	return v
}

// word reads a text, with or without quotation marks.
func (s *scanner) word() (v value) {
	if s.takes('"') {
		start := s.at
		for s.at < len(s.text) && s.text[s.at] != '"' {
			if s.text[s.at] == '\\' {
				s.at++
			}
			s.at++
		}
		s.failed = s.failed || s.at >= len(s.text)
		v.span = lang.At(start, min(s.at, len(s.text)))
		v.text = string(v.span.In(s.text))
		s.at++
		return v
	}
	start := s.at
	for s.at < len(s.text) && (lang.WordByte(s.text[s.at]) || bytes.IndexByte([]byte("./-:"), s.text[s.at]) >= 0) {
		s.at++
	}
	s.failed = s.failed || s.at == start
	v.span = lang.At(start, s.at)
	v.text = string(v.span.In(s.text))
	return v
}
