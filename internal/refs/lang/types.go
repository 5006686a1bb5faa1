package lang

import (
	"bytes"
	"slices"
)

// binders stand before the name of a type that a text declares, imports or gives another name to.
var binders = SetOf(`class interface object enum record trait struct union protocol actor delegate associatedtype typealias typedef mixin
	extension package import namespace use case const function fun func fn mod as show hide type`)

// ReadTypes reads a text, with the types that it uses and does not declare.
func (p *Patterns) ReadTypes(text []byte) File {
	f, code := p.ReadCode(text)
	f.Uses.Unbound = TypesUsed(code)
	return f
}

// beforeTypes are words that stand before a type and are none.
var beforeTypes = SetOf("new return throw throws case instanceof extends implements is as in out yield await else import using where when default static final public private protected")

// namesValue says whether a word is what a field or a variable is called, behind its type.
func namesValue(w *Word) bool {
	if bytes.IndexByte([]byte(";=,)"), w.After) < 0 || !w.SameLine() {
		return false
	}
	of := w.Previous()
	return w.Before == ']' || w.Before == '>' || len(of) > 0 && of[0] >= 'A' && of[0] <= 'Z' && !beforeTypes()[string(of)]
}

// constantOfEnum says whether a word is one of those that an enum lists.
func constantOfEnum(w *Word) bool {
	if w.Before != '{' && w.Before != ',' || bytes.IndexByte([]byte(",;({}"), w.After) < 0 {
		return false
	}
	open, bracket := w.Around()
	if bracket != '{' {
		return false
	}
	head := w.Leading(open)
	head = head[bytes.LastIndexAny(head, ";{}")+1:]
	return HasWord(head, "enum")
}

// TypesUsed gives the names of types that scrubbed code uses and does not declare, each where it is
// met first: words that begin with a capital, and are not all capitals, where no other name stands
// before them.
func TypesUsed(code []byte) []Quoted {
	return slices.CompactFunc(FindUses(code, nil, placeOfType).Unbound, func(a, b Quoted) bool { return a.Name == b.Name })
}

func placeOfType(w *Word) Place {
	word := w.Text()
	if len(word) < 3 || word[0] < 'A' || word[0] > 'Z' || bytes.Equal(bytes.ToUpper(word), word) || w.Before == '.' || w.Before == '\\' || w.After == '\\' {
		return Elsewhere
	}
	before := w.Leading(w.Start)
	switch {
	case bytes.HasSuffix(before, []byte("::")), bytes.HasSuffix(before, []byte("$")), bytes.HasSuffix(w.Code[:w.Start], []byte("->")):
		return Elsewhere // behind an arrow and a space stands what a function returns
	case string(w.Previous()) == "extension" && (w.After == '{' || w.After == ':'):
		return Used // in Swift
	case string(w.Previous()) == "const" && w.After == '(':
		return Used // in Dart: what is made there never changes
	case binders()[string(w.Previous())], namesValue(w), constantOfEnum(w):
		return Bound
	case w.After == '=' && !bytes.HasPrefix(bytes.TrimLeft(w.Code[w.End:], " "), []byte("==")):
		return Bound
	}
	return Used
}
