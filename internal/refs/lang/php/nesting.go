package php

import (
	"bytes"

	"dicaxon/internal/lazy"
	"dicaxon/internal/refs/lang"
)

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

// namespaces finds the namespaces that a file is in.
func namespaces(code []byte) []lang.Ref {
	var all []lang.Ref
	for _, i := range lang.Words(code, "namespace") {
		before := bytes.TrimRight(code[:i], " \t\r\n")
		if len(before) > 0 && bytes.IndexByte([]byte(";{}"), before[len(before)-1]) < 0 && !bytes.HasSuffix(before, []byte("<?php")) {
			continue
		}
		if m := inNamespace.Get().FindSubmatchIndex(code[i:]); m != nil {
			all = append(all, lang.Ref{Kind: lang.Package, Name: string(code[i+m[2] : i+m[3]]), Span: lang.At(i+m[2], i+m[3])})
		}
	}
	return all
}

// inNamespace is what stands behind the word that begins a namespace.
var inNamespace = lazy.New(`^namespace\s+([\w\\]+)\s*[;{]`)

// blocks finds the global namespace among others of one file (PHP Manual, "Defining multiple namespaces").
var blocks = lazy.New(`(?m)^\s*namespace\s*\{`)
