package lang

import (
	"bytes"
	"slices"
	"strings"
	"sync"

	"dicaxon/internal/names"
)

// Uses are names of a module's text that are known by what stands around them. They are found
// without knowing the grammar: where that is in doubt, a name counts as bound.
type Uses struct {
	// Unbound are those that the text uses and that nothing in it binds, at each place.
	Unbound []Quoted
	// Members are those that it takes of what an import is known by, as in tides.table: each once.
	Members []Member
	// Idle are imports, by the spans of what they name, of whose names none is met again.
	Idle []Span
	// Gives holds the names that a file of Go gives to something, or that a module of JavaScript exports or one of
	// Python binds for others to take, where that is known.
	Gives Vocabulary
	// Holds has the names of what the one object holds that a module of JavaScript exports by default, where it writes
	// that out.
	Holds Vocabulary
}

// A Member is a name that is taken of what an import is known by.
type Member struct {
	Of   Span // of what the import names
	Name string
	Span Span
}

// A Place is what a word in code is there.
type Place int

// The places: of another thing, such as a member; where a name is used; where it is bound; where
// nobody can tell, so that it counts as bound.
const (
	Elsewhere Place = iota
	Used
	Bound
	Unclear
)

// SetOf gives what makes a set of words once somebody asks for it.
func SetOf(words string) func() map[string]bool {
	return sync.OnceValue(func() map[string]bool {
		all := map[string]bool{}
		for _, w := range strings.Fields(words) {
			all[w] = true
		}
		return all
	})
}

// A Word is a word of code with the sign before it and the one behind it, 0 for none.
type Word struct {
	Start, End    int
	Before, After byte
	Code          []byte
	in            *brackets
}

// Text gives the word.
func (w *Word) Text() []byte { return w.Code[w.Start:w.End] }

// Next gives the sign right behind the word, 0 at the end.
func (w *Word) Next() byte {
	if w.End == len(w.Code) {
		return 0
	}
	return w.Code[w.End]
}

// Previous gives the word right before it, with nothing but spaces between them, nil for none.
func (w *Word) Previous() []byte {
	end := w.Start
	for end > 0 && (w.Code[end-1] == ' ' || w.Code[end-1] == '\t') {
		end--
	}
	return WordBefore(w.Code, end)
}

// Leading gives what stands before an offset of the code, without the spaces at its end, as far as
// that is near.
func (w *Word) Leading(at int) []byte { return TrimEnd(w.Code[max(0, at-near):max(0, at)]) }

// OfAnother says whether a dot stands before the word, and not three.
func (w *Word) OfAnother() bool {
	return w.Before == '.' && !bytes.HasSuffix(w.Leading(w.Start), []byte("..."))
}

// SameLine says whether the sign before the word stands in its line.
func (w *Word) SameLine() bool {
	before := w.Code[max(0, w.Start-near):w.Start]
	return bytes.IndexByte(before[len(TrimEnd(before)):], '\n') < 0
}

// Around gives where the bracket stands that is open at the word, and which one; -1 for none that
// is within reach.
func (w *Word) Around() (at int, open byte) {
	n := len(w.in.open)
	if n == 0 || w.in.open[n-1] < w.Start-reach {
		return -1, 0
	}
	at = w.in.open[n-1]
	return at, w.Code[at]
}

// Called gives the word right before an opening bracket, and the word before that.
func (w *Word) Called(open int) (name, before []byte) {
	name = WordBefore(w.Code, open)
	before = (&Word{Code: w.Code, Start: open - len(name)}).Previous()
	return name, before
}

// Behind gives what stands behind the bracket that closes the one at an offset, nil where none
// within reach does.
func (w *Word) Behind(open int) []byte {
	at := w.in.closing(open)
	if at < 0 || at >= open+reach {
		return nil
	}
	for at++; at < len(w.Code) && at < open+2*reach && w.Code[at] <= ' '; at++ {
	}
	return w.Code[at:]
}

// WordBefore gives the word that ends at an offset, nil for none, and of one that has no end in
// sight what is near.
func WordBefore(code []byte, end int) []byte {
	start := end
	for start > max(0, end-near) && WordByte(code[start-1]) {
		start--
	}
	return code[start:end]
}

// What a stranger's text holds is looked at as far as people write: reach is how far brackets are
// followed for what is around a word, near how far spaces and words are.
const (
	reach = 4000
	near  = 400
)

// brackets are those of code, told apart by where they stand, not by their kinds.
type brackets struct {
	code          []byte
	open          []int // those that are open where the words were gone through to
	opens, closes []int // of all, in order, once somebody asks; -1 where nothing closes one
}

// pass notes a bracket.
func (b *brackets) pass(at int, c byte) {
	switch c {
	case '(', '[', '{':
		b.open = append(b.open, at)
	case ')', ']', '}':
		b.open = b.open[:max(0, len(b.open)-1)]
	}
}

// closing gives where the bracket is closed that stands at an offset, -1 where it is not.
func (b *brackets) closing(at int) int {
	if b.opens == nil {
		var unclosed []int // by their places in opens
		for i, c := range b.code {
			switch c {
			case '(', '[', '{':
				unclosed = append(unclosed, len(b.opens))
				b.opens, b.closes = append(b.opens, i), append(b.closes, -1)
			case ')', ']', '}':
				if n := len(unclosed); n > 0 {
					b.closes[unclosed[n-1]], unclosed = i, unclosed[:n-1]
				}
			}
		}
	}
	if i, found := slices.BinarySearch(b.opens, at); found {
		return b.closes[i]
	}
	return -1
}

// A use is what is known of one name.
type use struct {
	name    string
	at      []Span
	bound   int
	unclear bool // nobody can tell what it was at last
	last    Span
	nth     int // of those in the order in which they are met
	times   int
}

// FindUses goes through the words of scrubbed code, each once, and asks for the place of each.
// Of imports that are known by a name, wholes gives the span of what they name.
func FindUses(code []byte, wholes map[string]Span, place func(w *Word) Place) Uses {
	f := finder{wholes: wholes, known: map[string]*use{}, met: map[Member]bool{}, set: map[Member]bool{}}
	w := Word{Code: code, in: &brackets{code: code}} // one for all: each word would be an allocation
	for i := 0; i < len(code); {
		c := code[i]
		if !WordByte(c) {
			if w.in.pass(i, c); c > ' ' {
				w.Before = c
			}
			i++
			continue
		}
		w.Start, w.After = i, 0
		for i < len(code) && WordByte(code[i]) {
			i++
		}
		w.End = i
		for k := i; k < len(code) && w.After == 0; k++ {
			if code[k] > ' ' || code[k] == '\n' {
				w.After = code[k]
			}
		}
		if c < '0' || c > '9' {
			f.note(&w, place(&w))
		}
		w.Before = code[i-1]
	}
	return f.found()
}

// A finder gathers uses.
type finder struct {
	wholes   map[string]Span
	known    map[string]*use
	order    []*use
	members  []Member
	met, set map[Member]bool // without their spans: those that were met, and those that are given something
}

func (f *finder) note(w *Word, is Place) {
	if is == Elsewhere {
		f.member(w)
		return
	}
	u := f.known[string(w.Text())]
	if u == nil {
		u = &use{name: string(w.Text()), nth: len(f.order)}
		f.known[u.name], f.order = u, append(f.order, u)
	}
	u.times++
	if is == Bound || is == Unclear {
		u.bound++
		u.unclear, u.last = is == Unclear, At(w.Start, w.End)
	} else if u.bound == 0 {
		u.at = append(u.at, At(w.Start, w.End))
	}
}

// member notes a word behind a dot, where a name of an import stands before that.
func (f *finder) member(w *Word) {
	if w.Start < 2 || w.Code[w.Start-1] != '.' || len(f.wholes) == 0 {
		return
	}
	name := WordBefore(w.Code, w.Start-1)
	of, ok := f.wholes[string(name)]
	if start := w.Start - 1 - len(name); !ok || start > 0 && w.Code[start-1] == '.' {
		return
	}
	one := Member{Of: of, Name: string(w.Text())}
	switch assigned := w.After == '=' && !bytes.HasPrefix(bytes.TrimLeft(w.Code[w.End:], " "), []byte("==")); {
	case assigned:
		f.set[one] = true
	case !f.met[one]:
		f.met[one] = true
		f.members = append(f.members, Member{Of: of, Name: one.Name, Span: At(w.Start, w.End)})
	}
}

// found gives what was gathered. A name that is bound twice may be another thing where it is used.
func (f *finder) found() (uses Uses) {
	twice := map[Span]bool{}
	for name, of := range f.wholes {
		if u := f.known[name]; u != nil && u.bound > 1 {
			twice[of] = true
		}
	}
	for _, m := range f.members {
		if !twice[m.Of] && !f.set[Member{Of: m.Of, Name: m.Name}] {
			uses.Members = append(uses.Members, m)
		}
	}
	for _, u := range f.order {
		for _, at := range u.at {
			if u.bound == 0 {
				uses.Unbound = append(uses.Unbound, Quoted{Name: u.name, Span: at})
			}
		}
		if u.unclear && u.times == 1 && f.transposed(u) {
			uses.Unbound = append(uses.Unbound, Quoted{Name: u.name, Span: u.last})
		}
	}
	return uses
}

// shortest is how many letters a name has at least of which two that changed places make no other.
const shortest = 5

// transposed says whether a name that the text says once has two letters in another order than one
// that it says before.
func (f *finder) transposed(u *use) bool {
	if len(u.name) < shortest {
		return false
	}
	for i, turned := range names.Transpositions(u.name) {
		if other := f.known[string(turned)]; i > 0 && other != nil && other.nth < u.nth {
			return true
		}
	}
	return false
}

// Cut leaves so many of each at the most.
func (u *Uses) Cut(most int) {
	u.Unbound = u.Unbound[:min(most, len(u.Unbound))]
	u.Members = u.Members[:min(most, len(u.Members))]
	u.Idle = u.Idle[:min(most, len(u.Idle))]
}

// Each gives every span, to be changed.
func (u *Uses) Each(do func(s *Span)) {
	for i := range u.Unbound {
		do(&u.Unbound[i].Span)
	}
	for i := range u.Members {
		do(&u.Members[i].Span)
		do(&u.Members[i].Of)
	}
	for i := range u.Idle {
		do(&u.Idle[i])
	}
}
