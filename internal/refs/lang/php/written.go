package php

import (
	"bytes"

	"dicaxon/internal/lazy"
	"dicaxon/internal/refs/lang"
)

// written is a function that makes or removes a file, or asks a test for one.
var written = lazy.New(`\b(?:file_put_contents|unlink|touch|copy|rename|mkdir|rmdir|assertFile(?:DoesNot|Not)?Exists?)\s*\(\s*(?:__DIR__\s*\.\s*)?["']`)

// writes says whether a text itself makes or removes the file that a reference names.
func writes(text, code []byte, r lang.Ref) bool {
	for _, m := range written.Get().FindAllIndex(code, -1) {
		if bytes.HasPrefix(text[m[1]:], []byte(r.Name)) {
			return true
		}
	}
	return false
}
