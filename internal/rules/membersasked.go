package rules

import (
	"bytes"
	"cmp"
	"slices"

	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
)

// tellUnknown tells of what code asks of things whose types nearly have it. What is mistyped stands only
// behind a thing, in all of the project; the few such words are looked at.
func (c *Call) tellUnknown(types *ownTypes) {
	type asked struct {
		is, word string
		called   bool
	}
	things, meant, seen := map[[2]string]string{}, map[asked]string{}, map[[2]string]bool{}
	c.eachWord(func(file string, code []byte, at int, word []byte) {
		if types.said[string(word)] {
			return
		}
		thing, plain := thingBefore(code, at)
		if !plain || thing[0] <= '9' {
			return
		}
		is, own := string(thing), isItself()[string(thing)]
		switch {
		case own:
			is = types.around(file, at)
		case types.by[is] == nil: // else a type, asked for what all of it has
			is = foundOnce(things, [2]string{file, is}, func() string { return c.typeOfThing(types, code, string(thing)) })
		}
		if !types.declared(is) || !foundOnce(seen, [2]string{file, is}, func() bool { return types.sees(file, is) }) {
			return
		}
		one := asked{is, string(word), isCalled(code, at+len(word))}
		near := foundOnce(meant, one, func() string { return c.memberFor(types.family(is), one.word, one.called) })
		if near != "" {
			c.tellAsked(types.by[is][0], file, string(word), near, at)
		}
	})
}

// isItself are the words by which a type's own code calls the thing that it is of, or the type.
var isItself = lang.SetOf("this self Self static")

// eachCode yields the code that the rule is about, file by file.
func (c *Call) eachCode(yield func(file string, code []byte)) {
	for _, f := range c.files("files") {
		if !c.lends(f.path) {
			yield(f.path, c.Graph.Code(f.path))
		}
	}
}

// eachWord yields the words of the code that the rule is about.
func (c *Call) eachWord(yield func(file string, code []byte, at int, word []byte)) {
	c.eachCode(func(file string, code []byte) {
		lang.EachWord(code, func(at int, word []byte) { yield(file, code, at, word) })
	})
}

// askedWith gives what stands before a place of code, between it and the thing or type that it is asked of,
// "" for a word that stands for itself.
func askedWith(code []byte, at int) string {
	for at--; at >= 0 && code[at] <= ' '; at-- {
	}
	switch {
	case at < 0:
	case code[at] == '.':
		return "."
	case at > 0 && code[at] == '>' && code[at-1] == '-':
		return "->"
	case at > 0 && code[at] == ':' && code[at-1] == ':':
		return "::"
	}
	return ""
}

// thingBefore gives what a word is asked of, nil for a word that stands for itself; plain where that is
// a thing by its name alone, one of the class's own, or a type.
func thingBefore(code []byte, at int) (thing []byte, plain bool) {
	mark := askedWith(code, at)
	if mark == "" {
		return nil, false
	}
	end := bytes.TrimSuffix(bytes.TrimRight(code[:at], " \t\r\n"), []byte(mark))
	end = bytes.TrimRight(end, "?! \t\r\n")
	if thing = lang.WordBefore(end, len(end)); len(thing) == 0 {
		return end, false
	}
	around := bytes.TrimSuffix(end[:len(end)-len(thing)], []byte("$"))
	if mark == "::" { // behind modules a type, behind a type what it has
		modules := bytes.TrimSuffix(around, []byte("::"))
		above := lang.WordBefore(modules, len(modules))
		return thing, (isCapital(thing) || isItself()[string(thing)]) && (len(modules) == len(around) || len(above) > 0 && !isCapital(above))
	}
	for _, own := range [...]string{"this.", "this->", "self."} {
		around = bytes.TrimSuffix(around, []byte(own))
	}
	return thing, !bytes.HasSuffix(around, []byte(".")) && !bytes.HasSuffix(around, []byte("->")) && !bytes.HasSuffix(around, []byte(":"))
}

// isCapital says whether a word begins with a capital, as the names of types do.
func isCapital(word []byte) bool { return len(word) > 0 && word[0] >= 'A' && word[0] <= 'Z' }

// foundOnce gives what a map has of a key, or what is found out for it once.
func foundOnce[K comparable, V any](known map[K]V, key K, find func() V) V {
	v, is := known[key]
	if !is {
		v = find()
		known[key] = v
	}
	return v
}

// grouped puts things together that have one key, in the order in which their keys are met.
func grouped[K comparable, V any](all []V, key func(V) K) (groups [][]V) {
	at := map[K]int{}
	for _, one := range all {
		i := foundOnce(at, key(one), func() int {
			groups = append(groups, nil)
			return len(groups) - 1
		})
		groups[i] = append(groups[i], one)
	}
	return groups
}

// memberFor gives what a type has for a name that it does not declare, by nearly that name or under another one, ""
// where nobody can tell.
func (c *Call) memberFor(f *family, asked string, called bool) string {
	return cmp.Or(c.memberMeant(f, asked), c.memberRenamed(f, asked, called))
}

// memberMeant gives what a type has of nearly a name that it does not declare, "" where nothing is.
func (c *Call) memberMeant(f *family, asked string) string {
	near := names.Closest(asked, c.given(f))
	slip := names.Near(asked, near)
	if !f.open && slip == names.Apart && len(asked) >= surelyMistyped && names.Distance(asked, near) == 1 {
		return near // misspelt; nobody else brings a name
	}
	if slip == names.Case && c.text("typed") == typedAfter && isCapital([]byte(near)) != isCapital([]byte(asked)) {
		return "" // one of them is a type, or a case
	}
	if near == "" || slip == names.Apart || f.open && (slip != names.Typing || len(asked) < surelyMistyped || names.Distance(asked, near) > 1) {
		return "" // of what others bring nobody knows the names here
	}
	return near
}

// tellAsked tells of what a file asks of a thing and its type nearly has.
func (c *Call) tellAsked(is *ownType, at, asked, near string, offset int) {
	text := c.textOf(at)
	if code := refs.Scrub(at, text); code != nil && string(code[offset:offset+len(asked)]) != asked {
		return // it stands in a text
	}
	line, column := refs.Place(text, lang.At(offset, offset+len(asked)))
	f := c.report(at, line, column, &finding.Place{Path: is.at}, "it asks %s of %s, which has no such; did it mean %s?", asked, is.name, near)
	f.Fix = c.wordsAs(at, asked, near)
}

// memberRenamed gives the one thing that a type has and nobody asks, where it shares a part of its name with what is
// asked and is not there: that was its name before, or is to be. "" where others may bring a name.
func (c *Call) memberRenamed(f *family, asked string, called bool) string {
	if f.open || len(f.types) == 0 || anyFits(c.regexps["all-have"], []byte(asked)) {
		return ""
	}
	return only(c.given(f), func(one string) bool {
		return isCapital([]byte(one)) == isCapital([]byte(asked)) && names.SharePart(asked, one) && f.calls(one) == called && c.isOnlyDeclared(one)
	})
}

// isCalled says whether brackets for arguments stand at a place of code.
func isCalled(code []byte, at int) bool {
	rest := bytes.TrimLeft(code[at:min(len(code), at+80)], " ")
	if bytes.HasPrefix(rest, []byte("<")) {
		rest = rest[bytes.IndexByte(rest, '>')+1:]
	}
	return bytes.HasPrefix(rest, []byte("("))
}

// calls says whether one thing that a type has is there to be called.
func (f *family) calls(name string) bool {
	return slices.ContainsFunc(f.types, func(o *ownType) bool {
		places := lang.Words(o.body, name)
		return len(places) > 0 && isCalled(o.body, places[0]+len(name))
	})
}

// isOnlyDeclared says whether a word stands at one place of all code alone: where it is declared.
func (c *Call) isOnlyDeclared(word string) bool {
	times := 0
	for _, f := range c.files("files") {
		if times += len(lang.Words(c.Graph.Code(f.path), word)); times > 1 {
			return false
		}
	}
	return times == 1
}

// surelyMistyped is how many letters a name has at least that is mistyped though others bring names, too.
const surelyMistyped = 6

// Where the type of a thing stands.
const typedBefore, typedAfter = "before", "after"

// typeOfThing gives the type that code says a thing has, "" where it says none, or several, or has
// another thing of that name without one.
func (c *Call) typeOfThing(types *ownTypes, code []byte, thing string) (is string) {
	said := typeBefore
	if c.text("typed") == typedAfter {
		said = typeAfter
	}
	for _, i := range lang.Words(code, thing) {
		of, declared := said(code, i, i+len(thing))
		if !declared && untyped(code, i, i+len(thing)) {
			of, declared = types.made(code, i+len(thing)), true
		}
		switch {
		case !declared:
		case of == "", is != "" && is != of:
			return ""
		default:
			is = of
		}
	}
	return is
}

// makes finds the type that makes the value which a thing gets, and by which of its functions.
var makes = lazy.New(`^\s*=\s*(?:(?:try[?!]?|await|new|const)\s+)*(?:\w+::)*([A-Z]\w*)\s*(?:[({]|(?:::|\.)(\w+)\()`)

// made gives the type of the project that makes the value which a thing gets behind its name: the type by
// itself, or one of its functions that says so.
func (t *ownTypes) made(code []byte, end int) string {
	m := makes.Get().FindSubmatch(code[end:min(len(code), end+200)])
	if m == nil || !t.declared(string(m[1])) {
		return ""
	}
	is, by := string(m[1]), string(m[2])
	if by == "" {
		return is
	}
	for _, o := range t.by[is] {
		for _, i := range lang.Words(o.body, by) {
			if givesItself(o.body, i, i+len(by), is) {
				return is
			}
		}
	}
	return ""
}

// givesItself says whether a function is declared at a place of a type's body that gives things of the type.
func givesItself(body []byte, from, to int, is string) bool {
	line := body[bytes.LastIndexByte(body[:from], '\n')+1 : from]
	head := body[to:min(len(body), to+400)]
	if end := bytes.IndexAny(head, "{;="); end >= 0 {
		head = head[:end]
	}
	if i := bytes.LastIndexByte(head, ')'); i >= 0 {
		head = head[i:]
	}
	return lang.HasWord(head, is) || lang.HasWord(head, "Self") || bytes.HasSuffix(bytes.TrimRight(line, " \t"), []byte(" "+is))
}

// typeBefore gives the type before the name of a thing that is declared, as in C#, Java, PHP and Dart.
func typeBefore(code []byte, from, to int) (of string, declared bool) {
	behind := bytes.TrimLeft(code[to:min(len(code), to+40)], " \t\r\n")
	if len(behind) == 0 || bytes.IndexByte([]byte(",)=;:{}"), behind[0]) < 0 && !bytes.HasPrefix(behind, []byte("in ")) {
		return "", false
	}
	before := bytes.TrimSuffix(code[:from], []byte("$"))
	end := bytes.TrimRight(before, " \t")
	if len(end) == len(before) && len(before) == from {
		return "", false
	}
	end = bytes.TrimSuffix(end, []byte("?"))
	if bytes.HasSuffix(end, []byte(">")) {
		if open := bytes.LastIndexByte(end[max(0, len(end)-80):], '<'); open >= 0 {
			end = end[:max(0, len(end)-80)+open]
		}
	}
	word := lang.WordBefore(end, len(end))
	if !isCapital(word) {
		return "", false
	}
	if around := end[:len(end)-len(word)]; bytes.HasSuffix(around, []byte("|")) || bytes.HasSuffix(around, []byte("&")) {
		return "", true
	}
	return string(word), true
}

// typeAfter gives the type behind the name of a thing and a colon, as in TypeScript, Swift and Rust.
func typeAfter(code []byte, from, to int) (of string, declared bool) {
	rest := bytes.TrimLeft(code[to:min(len(code), to+200)], "?!")
	if len(rest) == 0 || rest[0] != ':' || from > 0 && code[from-1] == '.' {
		return "", false
	}
	rest = rest[len(beforeType.Get().Find(rest)):]
	n := 0
	for n < len(rest) && lang.WordByte(rest[n]) {
		n++
	}
	if !isCapital(rest[:n]) {
		return "", true
	}
	behind := bytes.TrimLeft(rest[n:], "?! \t")
	if len(behind) > 0 && bytes.IndexByte([]byte(",)=;{}\r\n"), behind[0]) < 0 {
		return "", true // it goes on: one of several, or of a list
	}
	return string(rest[:n]), true
}

// beforeType is what may stand between the name of a thing and that of its type.
var beforeType = lazy.New(`^:\s*(?:(?:any|some|readonly|inout|borrowing|consuming)\s+|&\s*(?:'\w+\s+)?|mut\s+)*`)

// bindsUntyped are words before the name of a thing whose type nobody says there.
var bindsUntyped = lang.SetOf("var let const val auto of as mut final")

// untyped says whether a thing gets its name there without a type: behind such a word, or as what a function
// without a name takes.
func untyped(code []byte, from, to int) bool {
	before := bytes.TrimRight(bytes.TrimSuffix(code[:from], []byte("$")), " \t")
	if bindsUntyped()[string(lang.WordBefore(before, len(before)))] {
		return true
	}
	rest := bytes.TrimLeft(code[to:min(len(code), to+120)], " \t")
	if bytes.HasPrefix(rest, []byte("in ")) || isArrow(rest) {
		return true
	}
	if bytes.HasSuffix(before, []byte("|")) && !bytes.HasSuffix(before, []byte("||")) && len(rest) > 0 && (rest[0] == '|' || rest[0] == ',') {
		return true
	}
	if len(rest) == 0 || rest[0] != ',' && rest[0] != ')' {
		return false
	}
	end := bytes.IndexAny(rest, "();{}")
	return end >= 0 && rest[end] == ')' && isArrow(bytes.TrimLeft(rest[end+1:], " \t"))
}

// isArrow says whether a text begins with what stands before the body of a function without a name.
func isArrow(text []byte) bool {
	return bytes.HasPrefix(text, []byte("=>")) || bytes.HasPrefix(text, []byte("-> "))
}
