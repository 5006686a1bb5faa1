package python

import (
	"bytes"
	"slices"

	"dicaxon/internal/lazy"
	"dicaxon/internal/refs/lang"
)

// namesGiven gathers the names that a module binds at its top level, which are those that others may take from it (The
// Python Language Reference, 4.2.1 "Binding of names"); nil where its text does not say them all or is not understood.
func namesGiven(code []byte) lang.Vocabulary {
	g := giver{names: []byte{' '}, below: -1}
	if bytes.Contains(code, []byte("{%")) || !g.statements(code) {
		return nil
	}
	if bytes.Contains(code, []byte(":=")) {
		for _, m := range walrus.Get().FindAllSubmatch(code, -1) {
			g.add(m[1])
		}
	}
	return lang.VocabularyOf(g.names)
}

// walrus finds what an expression gives a name to.
var walrus = lazy.New(`\b([^\W\d]\w*)\s*:=`)

// A giver gathers names that are bound.
type giver struct {
	names        []byte
	below        int // the indentation of what is being defined, whose own names are not the module's; -1 for none
	tabs, spaces bool
}

func (g *giver) add(name []byte) { g.names = append(append(g.names, name...), ' ') }

// statements goes through the statements of a module, and says whether it understood them.
func (g *giver) statements(code []byte) bool {
	depth, start := 0, 0
	for i := 0; i <= len(code); i++ {
		if i == len(code) || depth == 0 && (code[i] == '\n' || code[i] == ';') {
			g.statement(code[start:i], start == 0 || code[start-1] == '\n')
			start = i + 1
			continue
		}
		if depth += lang.Bracket(code[i]); depth < 0 {
			return false
		}
		if c := code[i]; (c == '"' || c == '\'') && i+2 < len(code) && code[i+1] == c && code[i+2] == c { // over several lines
			end := bytes.Index(code[i+3:], code[i:i+3])
			if end < 0 {
				return false
			}
			i += 3 + end + 2
		}
	}
	return depth == 0 && !(g.tabs && g.spaces)
}

// heads begin what other statements may stand behind, in the same line.
var heads = lang.SetOf("if elif else try except finally for while with class def match case")

// statement notes what one statement binds; atLine says whether it begins its line.
func (g *giver) statement(line []byte, atLine bool) {
	text := bytes.TrimSpace(line)
	if len(text) == 0 {
		return
	}
	if atLine {
		deep := indent(line)
		g.tabs, g.spaces = g.tabs || deep > 0 && line[0] == '\t', g.spaces || deep > 0 && line[0] == ' '
		if g.below >= 0 && deep > g.below {
			if bytes.HasPrefix(text, []byte("global ")) {
				g.words(text[len("global "):])
			}
			return
		}
		g.below = -1
	} else if g.below >= 0 {
		return
	}
	text = bytes.TrimSpace(bytes.TrimPrefix(text, []byte("async ")))
	word := text[:wordEnd(text)]
	if !heads()[string(word)] {
		g.simple(word, text)
		return
	}
	head, rest := cutColon(text[len(word):])
	switch string(word) {
	case "def", "class":
		head = bytes.TrimSpace(head)
		g.add(head[:wordEnd(head)])
		g.below = indent(line)
		return
	case "for":
		target, _, _ := bytes.Cut(head, []byte(" in "))
		g.words(target)
	case "case":
		g.words(head)
	case "with", "except":
		for _, m := range namedAs.Get().FindAllSubmatch(head, -1) {
			g.words(m[1])
		}
	}
	if rest = bytes.TrimSpace(rest); len(rest) > 0 {
		g.simple(rest[:wordEnd(rest)], rest)
	}
}

// namedAs finds what one part of a with, an except or an import gives a name to.
var namedAs = lazy.New(`\bas\s+(\([^)]*\)|\[[^\]]*\]|\w+)`)

// namedBy gives what one part of an import gives another name to, nil where it gives none.
func namedBy(part []byte) [][]byte {
	if !bytes.Contains(part, []byte("as")) {
		return nil
	}
	return namedAs.Get().FindSubmatch(part)
}

// simple notes what a statement of one line binds, which begins with a word.
func (g *giver) simple(word, text []byte) {
	switch string(word) {
	case "import", "from":
		_, list, _ := bytes.Cut(append([]byte{' '}, text...), []byte("import"))
		for part := range bytes.SplitSeq(bytes.Trim(list, " \t()\n"), []byte(",")) {
			if m := namedBy(part); m != nil {
				g.add(m[1])
			} else if part = bytes.TrimSpace(part); len(part) > 0 {
				g.add(part[:wordEnd(part)])
			}
		}
	case "global":
		g.words(text[len(word):])
	default:
		if end := lastEquals(text); end > 0 {
			g.words(text[:end])
		} else if target, _ := cutColon(text); len(target) < len(text) {
			g.words(target)
		}
	}
}

// words notes the words of a text that are not of another thing.
func (g *giver) words(text []byte) {
	lang.EachWord(text, func(at int, word []byte) {
		if at == 0 || text[at-1] != '.' {
			g.add(word)
		}
	})
}

func wordEnd(text []byte) int {
	if i := slices.IndexFunc(text, func(c byte) bool { return !lang.WordByte(c) }); i >= 0 {
		return i
	}
	return len(text)
}

// cutColon cuts a text at the first colon outside of brackets.
func cutColon(text []byte) (before, after []byte) {
	if i := outside(text, func(i int) bool { return text[i] == ':' && (i+1 == len(text) || text[i+1] != '=') }); i >= 0 {
		return text[:i], text[i+1:]
	}
	return text, nil
}

// lastEquals gives where the last sign stands outside of brackets that assigns something, -1 where none does.
func lastEquals(text []byte) int {
	last := -1
	outside(text, func(i int) bool {
		if text[i] == '=' && (i+1 == len(text) || text[i+1] != '=') && (i == 0 || !bytes.ContainsRune([]byte("=!<>:"), rune(text[i-1]))) {
			last = i
		}
		return false
	})
	return last
}

// outside gives the first place outside of brackets of which something is true, -1 where there is none.
func outside(text []byte, is func(i int) bool) int {
	depth := 0
	for i, c := range text {
		by := lang.Bracket(c)
		if depth += by; depth == 0 && by == 0 && is(i) {
			return i
		}
	}
	return -1
}
