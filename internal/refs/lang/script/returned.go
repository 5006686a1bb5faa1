package script

import (
	"bytes"
	"regexp"

	"dicaxon/internal/lazy"
	"dicaxon/internal/refs/lang"
)

var (
	// returnsObject finds a statement that returns an object which is written out, returnsMore one that returns what is not.
	returnsObject = lazy.New(`\breturn\s*\{`)
	returnsAt     = lazy.New(`\breturn\b\s*`)
	// partsOfStore finds where the options of a store say what it remembers, what it works out and what it does (Pinia,
	// "Defining a Store").
	partsOfStore = lazy.New(`\bstate\s*:\s*\(\)\s*(?::\s*[\w<>\[\]]+\s*)?=>\s*\(\s*\{|\bstate\s*\(\s*\)\s*(?::\s*[\w<>\[\]]+\s*)?\{\s*return\s*\{|\bstate\s*:\s*\(\)\s*=>\s*\{\s*return\s*\{|\b(?:getters|actions)\s*:\s*\{`)
	makesStore   = lazy.New(`^defineStore\s*\(\s*["'][^"']*["']\s*,\s*`)
	ofStore      = lazy.New(`\b(state|getters|actions)\s*[:(]`)
	arrow        = lazy.New(`^\s*(?::[^={}]*)?=>\s*`)
)

// ReturnsOf gives the names in the object that a function returns which a module exports, or in the store that it makes;
// nil where it may return others.
func ReturnsOf(code []byte, name string) lang.Vocabulary {
	is := regexp.QuoteMeta(name)
	if m := regexp.MustCompile(`(?m)^export[ \t]+(?:default[ \t]+)?function[ \t]+`+is+`\s*(?:<[^>]*>)?\(`).FindAllIndex(code, 2); len(m) == 1 {
		_, behind, closed := insideBrackets(code[m[0][1]:])
		open := bytes.IndexByte(behind, '{')
		if !closed || open < 0 || bytes.IndexByte(behind[:open], '\n') >= 0 {
			return nil
		}
		return returnedIn(behind[open+1:])
	}
	m := regexp.MustCompile(`(?m)^export[ \t]+const[ \t]+`+is+`[ \t]*=\s*`).FindAllIndex(code, 2)
	if len(m) != 1 {
		return nil
	}
	made := code[m[0][1]:]
	if store := makesStore.Get().FindIndex(made); store != nil {
		if made = made[store[1]:]; made[0] == '{' {
			return inStore(made[1:])
		}
	}
	if len(made) == 0 || made[0] != '(' {
		return nil
	}
	_, behind, closed := insideBrackets(made[1:])
	to := arrow.Get().FindIndex(behind)
	if !closed || to == nil {
		return nil
	}
	switch behind = behind[to[1]:]; {
	case bytes.HasPrefix(behind, []byte("({")):
		return itemsIn(behind[2:], item)
	case bytes.HasPrefix(behind, []byte("{")):
		return returnedIn(behind[1:])
	}
	return nil
}

// returnedIn gives the names in the objects that the body of a function returns, which is open at the start of a text: its
// own statements return nothing else.
func returnedIn(text []byte) lang.Vocabulary {
	body := text[:closing(text)]
	var all []byte
	for _, m := range returnsAt.Get().FindAllIndex(body, -1) {
		object := m[1] < len(body) && body[m[1]] == '{'
		if !object && depthAt(body, m[0]) > 0 {
			continue // of a function within
		}
		if !object {
			return nil
		}
		names := plainItems(body[m[1]+1:])
		if names == nil {
			return nil
		}
		all = append(all, names...)
	}
	if len(all) == 0 {
		return nil
	}
	return lang.VocabularyOf(all)
}

// inStore gives the names in the options of a store that are open at the start of a text.
func inStore(text []byte) lang.Vocabulary {
	body := text[:closing(text)]
	parts := partsOfStore.Get().FindAllIndex(body, -1)
	if len(parts) == 0 || len(parts) != len(ofStore.Get().FindAllIndex(body, -1)) {
		return nil
	}
	var all []byte
	for _, m := range parts {
		names := plainItems(body[m[1]:])
		if names == nil {
			return nil
		}
		all = append(all, names...)
	}
	return lang.VocabularyOf(all)
}

// closing gives where the bracket is closed that is open at the start of a text, its end where it is not.
func closing(text []byte) int {
	depth := 0
	for i, c := range text {
		if depth += lang.Bracket(c); depth < 0 {
			return i
		}
	}
	return len(text)
}

// depthAt gives in how many brackets a place of a text lies.
func depthAt(text []byte, at int) (depth int) {
	for _, c := range text[:at] {
		depth += lang.Bracket(c)
	}
	return depth
}
