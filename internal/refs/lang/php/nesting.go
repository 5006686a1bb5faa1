package php

import "dicaxon/internal/lazy"

// A nesting tells for offsets in their order how many braces are open around them.
type nesting struct {
	code      []byte
	at, depth int
	class     int // where the first class begins, or what is like one
}

func nestingOf(code []byte) *nesting {
	n := &nesting{code: code, class: len(code)}
	if m := ofClass.Get().FindIndex(code); m != nil {
		n.class = m[0]
	}
	return n
}

var ofClass = lazy.New(`(?m)^[ \t]*(?:(?:abstract|final|readonly)\s+)*(?:class|trait|enum)\s+\w`)

// inClass says whether an offset lies between the braces of a class, or of what is like one. One before
// the last that was asked for begins anew.
func (n *nesting) inClass(offset int) bool {
	if offset < n.at {
		n.at, n.depth = 0, 0
	}
	for ; n.at < offset; n.at++ {
		switch n.code[n.at] {
		case '{':
			n.depth++
		case '}':
			n.depth--
		}
	}
	return n.depth > 0 && offset > n.class
}
