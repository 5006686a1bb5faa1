package names

import (
	"iter"
	"math/bits"
	"path"
	"slices"
	"strings"
	"unicode"
)

// A Slip is the way in which one name differs from another that was meant.
type Slip int

// The slips, the likeliest first.
const (
	None      Slip = iota // the names are the same
	Case                  // Templates for templates
	Separator             // tide-table for tide_table
	Number                // template for templates
	Ending                // sailings.htm for sailings.html
	Typing                // tempaltes for templates
	Apart                 // no slip: another name
)

func (s Slip) String() string {
	return [...]string{"same name", "another case", "another separator", "singular or plural", "another ending", "a typing slip", "another name"}[s]
}

// sameEndings are endings that mean one and the same kind of text.
var sameEndings = [][]string{{".yml", ".yaml"}, {".htm", ".html"}, {".md", ".markdown", ".txt", ""}, {".jpg", ".jpeg"}}

// chosenEndings are near each other and mean different things.
var chosenEndings = []string{".js", ".mjs", ".cjs", ".jsx", ".ts", ".mts", ".cts", ".tsx"}

// Beginning gives the first two letters or digits of a name, small, 0 for those that it does not
// have. Two names that are near begin with the same one, or with the same two the other way round.
func Beginning(name string) (first, second rune) {
	for _, r := range name {
		switch {
		case !WordRune(r):
		case first != 0:
			return first, unicode.ToLower(r)
		default:
			first = unicode.ToLower(r)
		}
	}
	return first, 0
}

// mayBeNear tells most names apart at once: by how they begin, how long they are, and which
// letters they have.
func mayBeNear(got, want string) bool {
	a, b := Beginning(got)
	c, d := Beginning(want)
	return (a == c || a == d && b == c) && abs(len(got)-len(want)) <= 2+min(len(got), len(want))/2 &&
		bits.OnesCount32(letters(got)^letters(want)) <= mostOther
}

// mostOther is how many letters one of two names that are near may have and the other not: two slips
// have four, an odd plural five (mouse, mice).
const mostOther = 6

// letters gives the letters of a name, a bit for each.
func letters(name string) (all uint32) {
	for i := range len(name) {
		if c := name[i] | 0x20; 'a' <= c && c <= 'z' {
			all |= 1 << (c - 'a')
		}
	}
	return all
}

// Near says by which slip somebody who meant want came to write got.
func Near(got, want string) Slip {
	switch {
	case got == want:
		return None
	case got == "" || want == "":
		return Apart
	case strings.EqualFold(got, want):
		return Case
	case marked(got) != marked(want), set(got) && !set(want):
		return Apart // the mark in front is meant: it hides, or sets apart
	}
	gotEnd, wantEnd := path.Ext(got), path.Ext(want)
	if gotEnd == got {
		gotEnd = ""
	}
	if wantEnd == want {
		wantEnd = ""
	}
	gotStem, wantStem := strings.TrimSuffix(got, gotEnd), strings.TrimSuffix(want, wantEnd)
	if !mayBeNear(gotStem, wantStem) {
		return Apart
	}
	if strings.EqualFold(gotEnd, wantEnd) {
		gotWords, wantWords := Words(gotStem), Words(wantStem)
		if len(wantWords) > 0 && strings.Join(gotWords, "") == strings.Join(wantWords, "") {
			return Separator
		}
		if sameNumberless(gotWords, wantWords) {
			return Number
		}
	} else if gotStem == wantStem && nearEnding(gotEnd, wantEnd) {
		return Ending
	}
	if Transposed(got, want) && len(wantStem) > 3 || heldKey(got, want) {
		return Typing
	}
	if differInDigits(got, want) || shortWord(Words(gotStem), Words(wantStem)) {
		return Apart
	}
	got, want = strings.ToLower(got), strings.ToLower(want)
	// A short name has many neighbours that were meant as they stand.
	switch allowed, d := min((len(wantStem)-1)/3, 2), Distance(got, want); {
	case got[:1] != want[:1] || abs(len(got)-len(want)) > 1:
		// The first letter is rarely the wrong one, and two letters more are rather
		// another word.
	case d <= allowed && gotEnd == wantEnd:
		return Typing
	case d == 1 && allowed >= 1:
		return Typing
	}
	return Apart
}

// differInDigits says whether names are the same but for digits, which are meant: java9 beside java.
func differInDigits(a, b string) bool {
	if !strings.ContainsAny(a+b, "0123456789") {
		return false
	}
	letters := func(name string) string {
		return strings.Map(func(r rune) rune {
			if r >= '0' && r <= '9' {
				return -1
			}
			return unicode.ToLower(r)
		}, name)
	}
	return letters(a) == letters(b)
}

// marked gives the sign that a name begins with, 0 for a letter or a digit; two
// underscores are part of a name.
func marked(name string) byte {
	if name == "" || strings.HasPrefix(name, "__") {
		return 0
	}
	if c := name[0]; c == '_' || c == '.' {
		return c
	}
	return 0
}

// set says whether a name begins as what a tool looks for by that, such as __tests__ and @types.
func set(name string) bool { return strings.HasPrefix(name, "__") || strings.HasPrefix(name, "@") }

func abs(n int) int { return max(n, -n) }

// shortWord says whether the names differ in a word so short that another one
// was likely meant: test_a for test_b.
func shortWord(a, b []string) bool {
	if len(a) != len(b) || len(a) < 2 {
		return false
	}
	for i := range a {
		if a[i] != b[i] && min(len(a[i]), len(b[i])) < 4 {
			return true
		}
	}
	return false
}

func sameNumberless(a, b []string) bool {
	if len(a) != len(b) || len(a) == 0 {
		return false
	}
	last := len(a) - 1
	if !slices.Equal(a[:last], b[:last]) || len(a[last]) < 3 || len(b[last]) < 3 {
		return false
	}
	return Plural(a[last]) == b[last] || a[last] == Plural(b[last]) || Singular(a[last]) == Singular(b[last])
}

func nearEnding(a, b string) bool {
	for _, same := range sameEndings {
		if slices.Contains(same, a) && slices.Contains(same, b) {
			return true
		}
	}
	if slices.Contains(chosenEndings, a) && slices.Contains(chosenEndings, b) {
		return false
	}
	return a != "" && b != "" && len(b) > 2 && Distance(a, b) == 1
}

// OtherEndings gives name with each ending that means the same as its own.
func OtherEndings(name string) []string {
	end := path.Ext(name)
	var all []string
	for _, same := range sameEndings {
		if !slices.Contains(same, end) || end == "" {
			continue
		}
		for _, other := range same {
			if other != end && other != "" {
				all = append(all, strings.TrimSuffix(name, end)+other)
			}
		}
	}
	return all
}

// Distance counts the single letters that must be put in, left out, changed
// or swapped with their neighbour to get from a to b (the restricted
// Damerau-Levenshtein distance), in bytes.
func Distance(a, b string) int {
	before, last, row := make([]int, len(b)+1), make([]int, len(b)+1), make([]int, len(b)+1)
	for j := range last {
		last[j] = j
	}
	for i := 1; i <= len(a); i++ {
		row[0] = i
		for j := 1; j <= len(b); j++ {
			change := 1
			if a[i-1] == b[j-1] {
				change = 0
			}
			row[j] = min(last[j]+1, row[j-1]+1, last[j-1]+change)
			if i > 1 && j > 1 && a[i-1] == b[j-2] && a[i-2] == b[j-1] {
				row[j] = min(row[j], before[j-2]+1)
			}
		}
		before, last, row = last, row, before
	}
	return last[len(b)]
}

// longWord is how many letters a word has at least of which one left out or put in makes no other.
const longWord = 7

// Mistyped says whether nobody writes got but in place of want: two neighbouring letters changed
// places, or, in a long name, one within it is left out or put in, or, in a longer one, is another
// vowel. The first letter and the last are rarely the wrong ones, and other words differ in them.
func Mistyped(got, want string) bool {
	return mistyped(got, want, longWord) || otherVowel(got, want)
}

// ends gives how many letters two names have in common at their beginning, and at the end of what is left.
func ends(a, b string) (before, after int) {
	short := min(len(a), len(b))
	for before < short && a[before] == b[before] {
		before++
	}
	for after < short-before && a[len(a)-1-after] == b[len(b)-1-after] {
		after++
	}
	return before, after
}

// longerWord is how many letters a word has at least of which another vowel makes no other.
const longerWord = 9

// otherVowel says whether names are the same but for one vowel within a word, which is how long ones are
// misspelt: composibles.
func otherVowel(got, want string) bool {
	i, after := ends(got, want)
	if len(got) != len(want) || i+after != len(want)-1 || !isVowel(got[i]) || !isVowel(want[i]) {
		return false
	}
	from, to := i, i+1
	for from > 0 && isLower(want[from-1]) {
		from--
	}
	for to < len(want) && isLower(want[to]) {
		to++
	}
	return from < i && i+1 < to && to-from >= longerWord
}

func isVowel(c byte) bool { return strings.IndexByte("aeiou", c) >= 0 }

// heldKey says whether names are the same but for one letter of a word that one of them has twice: signed-inn.
func heldKey(a, b string) bool {
	if len(a) < len(b) {
		a, b = b, a
	}
	i, after := ends(a, b)
	return len(a) == len(b)+1 && len(b) >= longWord && i+after == len(b) &&
		i > 1 && a[i] == a[i-1] && a[i-2] != a[i] && IsLetter(a[i]) && IsLetter(a[i-2])
}

// mistyped is Mistyped where a letter may be left out or put in of names of so many letters at least.
func mistyped(got, want string, least int) bool {
	ending := path.Ext(want)
	if path.Ext(got) != ending {
		return false
	}
	got, want = strings.TrimSuffix(got, ending), strings.TrimSuffix(want, ending)
	before, after := ends(got, want)
	apart, meant := got[before:len(got)-after], want[before:len(want)-after]
	switch {
	case before == 0:
		return false
	case len(apart) == 2 && len(meant) == 2:
		return apart[0] == meant[1] && apart[1] == meant[0] && IsLetter(apart[0]) && IsLetter(apart[1])
	}
	return after > 0 && len(apart)+len(meant) == 1 && IsLetter((apart + meant)[0]) && len(want) >= least
}

// Transposed is Mistyped where two neighbouring letters changed places.
func Transposed(got, want string) bool { return len(got) == len(want) && mistyped(got, want, longWord) }

// Transpositions yields what a name becomes when two neighbours that differ change places, by where the
// first of them stands. Each is good until the next.
func Transpositions(name string) iter.Seq2[int, []byte] {
	return func(yield func(int, []byte) bool) {
		turned := []byte(name)
		for i := 0; i+1 < len(turned); i++ {
			if turned[i] == turned[i+1] {
				continue
			}
			turned[i], turned[i+1] = turned[i+1], turned[i]
			if !yield(i, turned) {
				return
			}
			turned[i], turned[i+1] = turned[i+1], turned[i]
		}
	}
}

// MistypedWord is Mistyped for a name that code uses, of one word or several: where one letter is left out
// or put in, it is a small one within a word, and no "s", which a word may have or not.
func MistypedWord(got, want string) bool { return mistypedWord(got, want, longWord) }

// wordHere is how many letters a name has at least of which one left out or put in makes no other in the
// same file.
const wordHere = 5

// MistypedHere is MistypedWord for a name that a file uses and nothing gives, and one that the file says.
func MistypedHere(got, want string) bool { return mistypedWord(got, want, wordHere) }

func mistypedWord(got, want string, least int) bool {
	if !mistyped(got, want, least) || len(got) == len(want) {
		return Transposed(got, want)
	}
	long, short := want, got
	if len(got) > len(want) {
		long, short = got, want
	}
	i := 0
	for i < len(short) && long[i] == short[i] {
		i++
	}
	begins := i > 1 && isLower(long[i-2]) // the second letter of a word within, whose first is there
	return long[i] != 's' && isLower(long[i]) && (isLower(long[i-1]) || begins) && i+1 < len(long) && isLower(long[i+1])
}

// Closest gives the one of several known words that somebody who wrote got
// most likely meant, or "" where none is near.
func Closest(got string, known []string) string {
	best, least, nearest := "", 1+max(1, len(got)/3), 0
	for _, word := range known {
		d := Distance(strings.ToLower(got), strings.ToLower(word))
		whole := d // of several that it begins, the shortest
		if strings.HasPrefix(word, got) && len(got) > 1 {
			d = min(d, 1)
		}
		if d < least || d == least && best != "" && whole < nearest {
			best, least, nearest = word, d, whole
		}
	}
	return best
}

// SharePart says whether two names have a word of some length in common.
func SharePart(a, b string) bool {
	of := Words(a)
	return slices.ContainsFunc(Words(b), func(word string) bool { return len(word) >= 4 && slices.Contains(of, word) })
}
