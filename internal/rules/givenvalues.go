package rules

import (
	"bytes"
	"slices"

	"dicaxon/internal/refs/lang"
)

// tellWrongValues tells of what is given a value where a thing of a type is made, and which that type nearly has.
func (c *Call) tellWrongValues(types *ownTypes) {
	c.eachWord(func(file string, code []byte, at int, word []byte) {
		if !isCapital(word) || !types.declared(string(word)) || types.isDeclaredAt(file, at) {
			return
		}
		if inside, from := filledBehind(code, at, at+len(word)); inside != nil && types.sees(file, string(word)) {
			c.tellFills(types, string(word), file, topOf(inside), from)
		}
	})
}

// tellFills tells of what is filled in the brackets behind the name of a type, from a place of the file on.
func (c *Call) tellFills(types *ownTypes, is, at string, inside []byte, from int) {
	for _, re := range c.regexps["fills"] {
		for _, m := range re.FindAll(inside) {
			name := string(inside[m[2]:m[3]])
			if types.family(is).saysElsewhere(name, at, from+m[2]) {
				continue
			}
			if near := c.memberFor(types.family(is), name, false); near != "" {
				c.tellAsked(types.by[is][0], at, name, near, from+m[2])
			}
		}
	}
}

// saysElsewhere says whether a word stands in the types of a family, but for one place of a file.
func (f *family) saysElsewhere(word, at string, place int) bool {
	for _, o := range f.types {
		times := len(lang.Words(o.head, word)) + len(lang.Words(o.body, word))
		if o.at == at && o.holds(place) {
			times--
		}
		if times > 0 {
			return true
		}
	}
	return false
}

// isDeclaredAt says whether a type is declared at a place of a file, or added to.
func (t *ownTypes) isDeclaredAt(file string, at int) bool {
	return slices.ContainsFunc(t.in(file), func(o *ownType) bool { return o.start == at })
}

// beforeBraces are words between which and a body in braces the name of a type stands that is not made there.
var beforeBraces = lang.SetOf("impl for struct enum union trait class interface extends implements in if match while switch where")

// filledBehind gives what stands in the brackets behind the name of a type, and where it begins: nil where there are
// none, or the type is only what something gives or has.
func filledBehind(code []byte, from, to int) (inside []byte, at int) {
	rest := bytes.TrimLeft(code[to:min(len(code), to+4)], " ")
	if len(rest) == 0 || rest[0] != '(' && rest[0] != '{' {
		return nil, 0
	}
	brackets := "()"
	if rest[0] == '{' {
		before := bytes.TrimRight(code[:from], " \t\r\n")
		if bytes.HasSuffix(before, []byte(">")) || bytes.HasSuffix(before, []byte(":")) && !bytes.HasSuffix(before, []byte("::")) || beforeBraces()[string(lang.WordBefore(before, len(before)))] {
			return nil, 0
		}
		brackets = "{}"
	}
	at = to + bytes.IndexByte(code[to:], rest[0]) + 1
	if end := closing(code[at:], brackets); end >= 0 {
		return code[at : at+end], at
	}
	return nil, 0
}
