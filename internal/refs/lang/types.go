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
	case binders()[string(w.Previous())]:
		return Bound
	case w.After == '=' && !bytes.HasPrefix(bytes.TrimLeft(w.Code[w.End:], " "), []byte("==")):
		return Bound
	}
	return Used
}
