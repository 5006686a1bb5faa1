package script

import (
	"bytes"
	"regexp"
	"slices"

	"dicaxon/internal/lazy"
	"dicaxon/internal/refs/lang"
)

var (
	// declared finds what a module itself gives a name to and exports in no line of its own.
	declared = lazy.New(`(?m)^(?:async[ \t]+)?(?:abstract[ \t]+)?(?:function\*?|class|const|let|var|enum|interface|type)[ \t]+([A-Za-z_$][\w$]*)`)
	// exported finds what a module exports: a list, or a line of it, which may begin in the next one.
	exported = lazy.New(`(?m)^[ \t]*export[ \t]*(?:type[ \t]*)?\{[^}]*\}|^[ \t]*export\b(?:[ \t]*\n)?.*$`)
	// exportsValue finds that a module exports something that it has made, such as an object of its functions.
	exportsValue = lazy.New(`(?m)^[ \t]*export[ \t]+default\s+(?:[^acf\s]|a[^bs]|c[^l]|f[^u])`)
)

// withoutKept gives the text of a module without the names that it keeps for itself: those that it
// declares and does not export, though it exports others, or by default alone, or nothing at all. ECMAScript
// 2024, clause 16.2.3.
func withoutKept(text, code []byte, nothing bool) []byte {
	if !bytes.Contains(code, []byte("export ")) && !nothing || bytes.Contains(code, []byte("exports")) {
		return text
	}
	given := wordsOf(defaultName.Get().ReplaceAll(bytes.Join(exported.Get().FindAll(code, -1), []byte("\n")), nil))
	if exportsValue.Match(code) {
		putInObjects(code, given)
	}
	own := map[string]bool{}
	for _, m := range declared.Get().FindAllSubmatch(code, -1) {
		own[string(m[1])] = !given[string(m[1])]
	}
	kept := bytes.Clone(text)
	lang.EachWord(kept, func(_ int, word []byte) {
		if own[string(word)] {
			lang.Blank(word)
		}
	})
	return kept
}

var (
	// unpacks finds what a module exports by taking a value apart, over whatever lines, and goesOnWith what the next
	// of its lines may give a name to, after the first.
	unpacks    = lazy.New(`(?m)^[ \t]*export[ \t]+(?:const|let|var)[ \t]*[{\[][^;={}]*[}\]][ \t]*=`)
	goesOnWith = lazy.New(`(?m)^[ \t]*,?[ \t]*[\w$]+[ \t]*(?:=[^=>]|,[ \t]*$|;[ \t]*$)`)
	// named finds the name of what a line exports, where it is one thing, and givenIn those that a line gives values.
	named   = lazy.New(`^[ \t]*export\s+(?:(?:default|declare|abstract|async|const)\s+)*(?:function\b\s*\*?|class|enum|interface|type|namespace)\s+([\w$]+)`)
	givenIn = lazy.New(`^[ \t]*export\s+(?:declare\s+)?(?:const|let|var)\s+[\w$]+|,\s*[\w$]+\s*[:=]`)
	// exporting finds the word that each of what a module exports begins with.
	exporting = lazy.New(`(?:^|[^.\w$])export(?:$|[^\w$:])`)
)

// handsOut gives the names that a module exports where its lines say them all; nil where it may export others: it
// does so in the older way, too, stands in one line with something else, or gives a default alone, of which a
// compiler may hand out the parts.
func handsOut(code []byte) lang.Vocabulary {
	if names := handsOutAtOnce(code); names != nil {
		return names
	}
	if !bytes.Contains(code, []byte("export")) || bytes.Contains(code, []byte("exports")) || bytes.Contains(code, []byte("module")) || exportsAll.Match(code) {
		return nil
	}
	lines := exported.Get().FindAll(code, -1)
	if len(lines) != len(exporting.Get().FindAll(code, -1)) || !slices.ContainsFunc(lines, func(line []byte) bool {
		return !bytes.HasPrefix(bytes.TrimLeft(line[len("export"):], " \t"), []byte("default"))
	}) {
		return nil
	}
	for i, line := range lines {
		if m := named.Get().FindSubmatch(line); m != nil {
			lines[i] = m[1]
		} else if given := givenIn.Get().FindAll(line, -1); len(given) > 0 && given[0][0] != ',' {
			lines[i] = bytes.Join(given, []byte(" "))
		}
	}
	lines = append(lines, unpacks.Get().FindAll(code, -1)...)
	return lang.VocabularyOf(bytes.Join(append(lines, goesOnWith.Get().FindAll(code, -1)...), []byte("\n")))
}

var (
	// exportsObject is a module of the older kind that exports one object, written out, and exportsOne one name more.
	exportsObject = lazy.New(`(?m)^module\.exports\s*=\s*\{`)
	exportsOne    = lazy.New(`(?m)^(?:module\.)?exports\.([\w$]+)\s*=[^=]`)
	// item is one of what such an object has: a name for itself, or with a value or the body of a function behind it.
	item = lazy.New(`\A\s*(?:async\s+|get\s+|set\s+|\*\s*)*["']?([\w$]+)["']?\s*(?:[,:(]|\z)`)
)

// handsOutAtOnce gives the names that a module of the older kind exports (Node.js, "Modules: CommonJS modules"): those of
// the one object that it writes out, or of its lines; nil where it may export others.
func handsOutAtOnce(code []byte) lang.Vocabulary {
	times := len(lang.Words(code, "exports"))
	if times == 0 || bytes.Contains(code, []byte("export ")) || bytes.Contains(code, []byte("defineProperty")) {
		return nil
	}
	given := []byte{' '}
	object := exportsObject.FindAll(code)
	one := exportsOne.FindAll(code)
	switch {
	case len(object) == 1 && times == 1:
		return itemsIn(code[object[0][1]:], item)
	case len(one) == times:
		for _, m := range one {
			given = append(append(given, code[m[2]:m[3]]...), ' ')
		}
	default:
		return nil
	}
	return lang.VocabularyOf(given)
}

var (
	// defaultObject is a module that exports an object by default, defaultName one that exports what it gave a name to.
	defaultObject = lazy.New(`(?m)^[ \t]*export[ \t]+default\s+` + keepsObject + `\{`)
	defaultName   = lazy.New(`(?m)^[ \t]*export[ \t]+default[ \t]+([A-Za-z_$][\w$]*)[ \t]*;?[ \t]*$`)
)

// keepsObject are calls that give back an object with the names of the one that they are given.
const keepsObject = `(?:(?:Object\.freeze|StyleSheet\.create)\(\s*)?`

// holdsOut gives the names of what the object holds that a module exports by default; nil where it may hold others.
func holdsOut(code []byte) lang.Vocabulary {
	if !bytes.Contains(code, []byte("export default")) {
		return nil
	}
	if all := defaultObject.FindAll(code); len(all) == 1 {
		return wholeObject(code[all[0][1]:])
	}
	m := defaultName.Get().FindSubmatch(code)
	if m == nil {
		return nil
	}
	name := regexp.QuoteMeta(string(m[1]))
	made := regexp.MustCompile(`(?m)^const[ \t]+`+name+`[ \t]*=\s*`+keepsObject+`\{`).FindAllIndex(code, -1)
	// What is said of it besides may put more into it.
	if len(made) != 1 || len(lang.Words(code, string(m[1]))) != 2 {
		return nil
	}
	return wholeObject(code[made[0][1]:])
}

// IsOne says whether a reference takes one name out of a module, and neither all of it nor what it exports by default.
func IsOne(r lang.Ref) bool {
	return r.Kind == lang.Import && r.Value != "" && r.Value != "*" && r.Value != "default" && r.ValueSpan.Len() > 0
}

// enumItem is one of what an enumeration has (TypeScript, "Enums").
var enumItem = lazy.New(`\A([\w$]+)\s*(?:=|\z)`)

// ObjectOf gives the names that an object or an enumeration has which a module exports under a name; nil where it may
// have others: it says a type of it, puts more into it or hands it to somebody.
func ObjectOf(code []byte, name string) lang.Vocabulary {
	is := regexp.QuoteMeta(name)
	if made := regexp.MustCompile(`(?m)^export[ \t]+(?:const[ \t]+)?enum[ \t]+`+is+`\s*\{`).FindAllIndex(code, -1); len(made) == 1 {
		return itemsIn(code[made[0][1]:], enumItem)
	}
	made := regexp.MustCompile(`(?m)^export[ \t]+const[ \t]+`+is+`[ \t]*=\s*`+keepsObject+`\{`).FindAllIndex(code, -1)
	if len(made) != 1 {
		return nil
	}
	again := regexp.MustCompile(`\b` + is + `\s*(?:\.[\w$]+|\[[^\]]*\])?\s*=[^=>]|(?:^|[^.\w]f?)[(,]\s*` + is + `\s*[,)]`)
	if len(again.FindAllIndex(code, 2)) > 1 { // what makes it is one
		return nil
	}
	return wholeObject(code[made[0][1]:])
}

// wholeObject gives the names in an object that is open at the start of a text; nil where it has none, or more stands
// behind it than the end of its statement: a type may allow for more than is there.
func wholeObject(text []byte) lang.Vocabulary {
	inside, behind, closed := insideBrackets(text)
	behind = bytes.TrimPrefix(bytes.TrimLeft(behind, ") \t"), []byte("as const"))
	if !closed || len(inside) == 0 || len(behind) > 0 && bytes.IndexByte([]byte(";\r\n"), behind[0]) < 0 {
		return nil
	}
	return itemsOf(inside, item)
}

// itemsIn gives the names in a bracket that is open at the start of a text; nil where it is not closed, or one is not plain.
func itemsIn(text []byte, one *lazy.Regexp) lang.Vocabulary { return vocabularyOf(namesIn(text, one)) }

// itemsOf gives the names that the parts of what is between brackets begin with, nil where not each is plain.
func itemsOf(inside [][]byte, one *lazy.Regexp) lang.Vocabulary {
	return vocabularyOf(namesOf(inside, one))
}

// vocabularyOf gathers names, nil where there are none to gather.
func vocabularyOf(names []byte) lang.Vocabulary {
	if names == nil {
		return nil
	}
	return lang.VocabularyOf(names)
}

// namesIn is itemsIn as a text, and namesOf itemsOf, with a blank around each name.
func namesIn(text []byte, one *lazy.Regexp) []byte {
	inside, _, closed := insideBrackets(text)
	if !closed {
		return nil
	}
	return namesOf(inside, one)
}

func namesOf(inside [][]byte, one *lazy.Regexp) []byte {
	given := []byte{' '}
	for _, part := range inside {
		m := one.Get().FindSubmatch(part)
		if m == nil {
			return nil
		}
		given = append(append(given, m[1]...), ' ')
	}
	return given
}

// insideBrackets gives what stands between commas in a bracket that is open at the start of a text, without what is
// blank, and what stands behind it; false where it is not closed.
func insideBrackets(text []byte) (parts [][]byte, behind []byte, closed bool) {
	depth, start := 0, 0
	for i, c := range text {
		depth += lang.Bracket(c)
		if depth < 0 || depth == 0 && c == ',' {
			if part := bytes.TrimSpace(text[start:i]); len(part) > 0 {
				parts = append(parts, part)
			}
			start = i + 1
		}
		if depth < 0 {
			return parts, text[i+1:], true
		}
	}
	return nil, nil, false
}

// putInObjects adds the names that code puts into objects under their own names, or as values.
func putInObjects(code []byte, given map[string]bool) {
	lang.EachWord(code, func(at int, word []byte) {
		before, after := lang.TrimEnd(code[:at]), bytes.TrimLeft(code[at+len(word):], " \t\r\n")
		if len(before) > 0 && len(after) > 0 && bytes.IndexByte([]byte("{,:"), before[len(before)-1]) >= 0 && (after[0] == ',' || after[0] == '}') {
			given[string(word)] = true
		}
	})
}

// imports finds a statement that only a module has.
var imports = lazy.New(`(?m)^import[ \t]+[\w{*]`)

// givesNothing says whether code is a module that exports nothing at all.
func givesNothing(code []byte) bool {
	return imports.Match(code) && !bytes.Contains(code, []byte("export")) && !bytes.Contains(code, []byte("module")) && !bytes.Contains(code, []byte("require"))
}

// wordsOf gives the names in a text.
func wordsOf(text []byte) map[string]bool {
	all := map[string]bool{}
	lang.EachWord(text, func(_ int, word []byte) { all[string(word)] = true })
	return all
}
