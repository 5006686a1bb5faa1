package script

import (
	"bytes"
	"regexp"

	"dicaxon/internal/lazy"
	"dicaxon/internal/refs/lang"
)

var (
	// returns finds a statement that returns something.
	returns = lazy.New(`\breturn\b\s*`)
	// partsOfStore finds where the options of a store say what it remembers, what it works out and what it does (Pinia,
	// "Defining a Store").
	partsOfStore = lazy.New(`\bstate\s*:\s*\(\)\s*(?::\s*[\w<>\[\]]+\s*)?=>\s*\(\s*\{|\bstate\s*\(\s*\)\s*(?::\s*[\w<>\[\]]+\s*)?\{\s*return\s*\{|\bstate\s*:\s*\(\)\s*=>\s*\{\s*return\s*\{|\b(?:getters|actions)\s*:\s*\{`)
	makesStore   = lazy.New(`^defineStore\s*\(\s*["'][^"']*["']\s*,\s*`)
	ofStore      = lazy.New(`\b(?:state|getters|actions)\s*[:(]`)
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
		if made = made[store[1]:]; bytes.HasPrefix(made, []byte("{")) {
			return inStore(made[1:])
		}
	}
	if !bytes.HasPrefix(made, []byte("(")) {
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
	body := bodyOf(text)
	var objects []int
	depth, seen := 0, 0
	for _, m := range returns.Get().FindAllIndex(body, -1) {
		for _, c := range body[seen:m[0]] {
			depth += lang.Bracket(c)
		}
		seen = m[0]
		if bytes.HasPrefix(body[m[1]:], []byte("{")) {
			objects = append(objects, m[1]+1)
		} else if depth == 0 { // and not that of a function within
			return nil
		}
	}
	return itemsAt(body, objects)
}

// inStore gives the names in the options of a store that are open at the start of a text.
func inStore(text []byte) lang.Vocabulary {
	body := bodyOf(text)
	var objects []int
	for _, m := range partsOfStore.Get().FindAllIndex(body, -1) {
		objects = append(objects, m[1])
	}
	if len(objects) != len(ofStore.Get().FindAllIndex(body, -1)) {
		return nil
	}
	return itemsAt(body, objects)
}

// itemsAt gives the names in the objects that are open at places of a text; nil where there are none, or one may have
// others.
func itemsAt(text []byte, places []int) lang.Vocabulary {
	var all []byte
	for _, at := range places {
		names := namesIn(text[at:], item)
		if names == nil {
			return nil
		}
		all = append(all, names...)
	}
	return vocabularyOf(all)
}

// bodyOf gives what stands in the bracket that is open at the start of a text, all of it where that is not closed.
func bodyOf(text []byte) []byte {
	depth := 0
	for i, c := range text {
		if depth += lang.Bracket(c); depth < 0 {
			return text[:i]
		}
	}
	return text
}
