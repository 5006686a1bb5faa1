// Package names knows how names are written: their shapes, their words, their
// plurals, and when one is a slip for another.
package names

import (
	"regexp"
	"strings"
	"sync"
	"time"
	"unicode"

	"dicaxon/internal/lazy"
)

// A Shape is a way to write a name of several words.
type Shape string

// The shapes. The empty shape fits every name.
const (
	Snake  Shape = "snake"  // tide_table
	Kebab  Shape = "kebab"  // tide-table
	Camel  Shape = "camel"  // tideTable
	Pascal Shape = "pascal" // TideTable
	Lower  Shape = "lower"  // tidetable
	Upper  Shape = "upper"  // TIDE_TABLE
	Digits Shape = "digits" // 04
	Date   Shape = "date"   // 2026-11-26, a day of the calendar
)

// Shapes lists them all.
var Shapes = []Shape{Snake, Kebab, Camel, Pascal, Lower, Upper, Digits, Date}

// own stands before the regular expression of a shape that somebody made up.
const own = "="

// OwnShape makes a shape of a regular expression that a whole name fits.
func OwnShape(expression string) (Shape, error) {
	return Shape(own + expression), lazy.Check(expression)
}

// Own says whether the shape is one that somebody made up.
func (s Shape) Own() bool { return strings.HasPrefix(string(s), own) }

// ownShapes keeps their expressions, compiled.
var ownShapes sync.Map

func (s Shape) fitsOwn(name string) bool {
	re, ok := ownShapes.Load(s)
	if !ok {
		re, _ = ownShapes.LoadOrStore(s, regexp.MustCompile(`\A(?:`+strings.TrimPrefix(string(s), own)+`)\z`))
	}
	return re.(*regexp.Regexp).MatchString(name)
}

// Fits says whether name is written in the shape. Every shape of several words
// begins with a letter and holds ASCII letters and digits.
func (s Shape) Fits(name string) bool {
	switch {
	case s == "" || name == "":
		return name != ""
	case s.Own():
		return s.fitsOwn(name)
	case s == Digits:
		return strings.Trim(name, "0123456789") == ""
	case s == Date:
		_, err := time.Parse(time.DateOnly, name)
		return err == nil
	}
	return s.fitsWords(name)
}

func (s Shape) fitsWords(name string) bool {
	separator, upperFirst, upperRest, lowerRest := byte(0), false, false, true
	switch s {
	case Snake:
		separator = '_'
	case Kebab:
		separator = '-'
	case Camel:
		upperRest = true
	case Pascal:
		upperFirst, upperRest = true, true
	case Upper:
		separator, upperFirst, upperRest, lowerRest = '_', true, true, false
	}
	for i := 0; i < len(name); i++ {
		switch c := name[i]; {
		case 'a' <= c && c <= 'z':
			if i == 0 && upperFirst || !lowerRest {
				return false
			}
		case 'A' <= c && c <= 'Z':
			if i == 0 && !upperFirst || i > 0 && !upperRest {
				return false
			}
		case '0' <= c && c <= '9':
			if i == 0 {
				return false
			}
		case separator != 0 && c == separator:
			if i == 0 || i == len(name)-1 || name[i-1] == separator {
				return false
			}
		default:
			return false
		}
	}
	return true
}

// Words splits a name where separators stand and where the case changes:
// "tideTable", "tide_table" and "TideTable" all give "tide", "table".
func Words(name string) []string {
	var words []string
	var word []rune
	flush := func() {
		if len(word) > 0 {
			words = append(words, strings.ToLower(string(word)))
			word = word[:0]
		}
	}
	runes := []rune(name)
	for i, r := range runes {
		if !unicode.IsLetter(r) && !unicode.IsDigit(r) {
			flush()
			continue
		}
		if unicode.IsUpper(r) && i > 0 && (unicode.IsLower(runes[i-1]) || unicode.IsDigit(runes[i-1]) ||
			i+1 < len(runes) && unicode.IsLower(runes[i+1]) && unicode.IsUpper(runes[i-1])) {
			flush()
		}
		word = append(word, r)
	}
	flush()
	return words
}

// To writes name in the shape.
func To(s Shape, name string) string {
	words := Words(name)
	switch s {
	case Snake:
		return strings.Join(words, "_")
	case Kebab:
		return strings.Join(words, "-")
	case Lower:
		return strings.Join(words, "")
	case Upper:
		return strings.ToUpper(strings.Join(words, "_"))
	case Camel, Pascal:
		for i, w := range words {
			if i > 0 || s == Pascal {
				words[i] = strings.ToUpper(w[:1]) + w[1:]
			}
		}
		return strings.Join(words, "")
	}
	return name
}

// SamePrefix gives the length of the shortest beginning of name that has the
// letters and digits of value, whatever their case and what separates words, or
// 0 where there is none: of "BerthPlansTest" and "berth_plans" it is 10.
func SamePrefix(name, value string) int {
	n := 0
	for i := 0; i < len(value); i++ {
		if value[i] == '_' || value[i] == '-' {
			continue
		}
		for n < len(name) && n > 0 && (name[n] == '_' || name[n] == '-') {
			n++
		}
		if n == len(name) || small(name[n]) != small(value[i]) {
			return 0
		}
		n++
	}
	return n
}

// Same says whether two names have the same letters and digits, whatever their
// case and what separates words.
func Same(a, b string) bool { return a == b || SamePrefix(a, b) == len(a) && len(a) > 0 }

func small(c byte) byte {
	if 'A' <= c && c <= 'Z' {
		return c + 'a' - 'A'
	}
	return c
}

// Title writes name as words with the first letter large: "Tide table".
func Title(name string) string {
	text := strings.Join(Words(name), " ")
	if text == "" {
		return ""
	}
	return strings.ToUpper(text[:1]) + text[1:]
}

// Uncapital writes the first letter small, where the second is.
func Uncapital(text string) string {
	if len(text) > 1 && text[1] >= 'a' {
		return strings.ToLower(text[:1]) + text[1:]
	}
	return text
}

// Stem gives the name of a file without its last ending; a name that begins
// with its only dot is all stem.
func Stem(name string) string {
	if i := strings.LastIndexByte(name, '.'); i > 0 {
		return name[:i]
	}
	return name
}

// BeforeDot gives the name of a file up to its first dot.
func BeforeDot(name string) string {
	stem, _, _ := strings.Cut(name, ".")
	return stem
}

// Identifiers lists the words of code, in its order.
func Identifiers(code string) []string {
	return strings.FieldsFunc(code, func(r rune) bool { return r != '_' && !WordRune(r) })
}

// WordRune says whether a character is a letter or a digit.
func WordRune(r rune) bool { return unicode.IsLetter(r) || unicode.IsDigit(r) }

// DigitsIn gives the digits of a name: with others it is that of another version, or of another day.
func DigitsIn(name string) string {
	return strings.Map(func(r rune) rune {
		if unicode.IsDigit(r) {
			return r
		}
		return -1
	}, name)
}

// HasWords says whether a text holds words as whole ones: "gin." is not in
// "plugin.".
func HasWords(text, words string) bool {
	for from := 0; words != ""; {
		i := strings.Index(text[from:], words)
		if i < 0 {
			return false
		}
		i += from
		end := i + len(words)
		if (i == 0 || !wordByte(text[i-1]) || !wordByte(words[0])) && (end == len(text) || !wordByte(text[end]) || !wordByte(words[len(words)-1])) {
			return true
		}
		from = i + 1
	}
	return false
}

func wordByte(c byte) bool {
	return c == '_' || '0' <= c && c <= '9' || 'a' <= c && c <= 'z' || 'A' <= c && c <= 'Z'
}

// Testee gives what a test is called after, by the usual ways to mark a test in a
// name, and whether the name is marked so: "card" of "card.test.js", "test_card.py"
// and "card_test.go".
func Testee(name string) (string, bool) {
	stem, rest, _ := strings.Cut(name, ".")
	for _, mark := range []string{"test.", "spec.", "tests."} {
		if strings.HasPrefix(rest, mark) {
			return stem, true
		}
		if of, _, ok := strings.Cut(rest, "."+mark); ok { // its kind stands before the mark
			return stem + "." + of, true
		}
	}
	for _, mark := range []string{"_test", "_spec", "_tests", "Test", "Tests", "Spec", "IT"} {
		if before, ok := strings.CutSuffix(stem, mark); ok && before != "" {
			return before, true
		}
	}
	if after, ok := strings.CutPrefix(stem, "test_"); ok && after != "" {
		return after, true
	}
	return stem, false
}
