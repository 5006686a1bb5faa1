package names

import (
	"slices"
	"strings"
)

// taken stands where a name was taken out.
const taken = "\x00"

// spellings lists the ways in which a name may stand in a text, with those of the new one.
func spellings(name, added string) [][2]string {
	var all [][2]string
	for _, number := range []func(string) string{func(s string) string { return s }, Plural, Singular} {
		for _, shape := range []Shape{Snake, Kebab, Camel, Pascal, Upper} {
			pair := [2]string{To(shape, number(name)), To(shape, number(added))}
			if pair[0] != "" && !slices.ContainsFunc(all, func(p [2]string) bool { return p[0] == pair[0] }) {
				all = append(all, pair)
			}
		}
	}
	return all
}

func occurrences(text, name string) int {
	_, like, _ := substituted(text, text, name, name)
	return strings.Count(like, taken)
}

// substituted writes a text that names one thing for another, in every shape that the name
// has in it; like is the text with the name taken out.
func substituted(text, code, name, added string) (fresh, like string, ok bool) {
	fresh, like = text, text
	var news []string
	for _, pair := range spellings(name, added) {
		if _, n := inWords(code, pair[0], nothing); n == 0 {
			continue
		}
		var n int
		fresh, n = inWords(fresh, pair[0], func(before, after byte) string {
			news = append(news, spelt(pair, name, added, before, after))
			return taken + string(rune(len(news))) + taken
		})
		ok = ok || n > 0
		like, _ = inWords(like, pair[0], func(byte, byte) string { return taken })
	}
	for i, new := range news {
		fresh = strings.Replace(fresh, taken+string(rune(i+1))+taken, new, 1)
	}
	return fresh, like, ok
}

func nothing(byte, byte) string { return "" }

// spelt writes the new name in the shape of one occurrence of the old one. Of an old name
// that is one word, what stands around it tells: in a path or a text the new name is
// written as it is called, in code as identifiers are.
func spelt(pair [2]string, name, added string, before, after byte) string {
	if strings.ToLower(pair[0]) != pair[0] || len(Words(pair[0])) > 1 {
		return pair[1]
	}
	given := added
	if pair[0] != name { // another number
		given = To(shapeOf(added), pair[1])
	}
	switch {
	case strings.IndexByte("/.\"'`-<>: ", before) >= 0 && strings.IndexByte("/.\"'`-<>", after) >= 0, strings.IndexByte("/\"'`-", before) >= 0:
		return given
	case before == '_' || after == '_':
		return To(Snake, given)
	case !strings.ContainsAny(given, "-."):
		return given
	}
	return To(Camel, given)
}

// shapeOf gives the shape that a name is written in.
func shapeOf(name string) Shape {
	for _, s := range []Shape{Snake, Kebab, Camel, Pascal} {
		if To(s, name) == name {
			return s
		}
	}
	return Kebab
}

// inWords replaces a text where it stands as a whole word, or as one of the words of a
// longer name, and says how often.
func inWords(text, old string, new func(before, after byte) string) (string, int) {
	var b strings.Builder
	n, last := 0, byte(0)
	for {
		i := strings.Index(text, old)
		if i < 0 {
			b.WriteString(text)
			return b.String(), n
		}
		end := i + len(old)
		before, after := last, byte(0)
		if i > 0 {
			before = text[i-1]
		}
		if end < len(text) {
			after = text[end]
		}
		last = old[len(old)-1]
		if IsLetter(before) && !(isLower(before) && isUpper(old[0])) || isLower(after) || isUpper(after) && isUpper(last) {
			b.WriteString(text[:end])
		} else {
			b.WriteString(text[:i] + new(before, after))
			n++
		}
		text = text[end:]
	}
}

func isLower(c byte) bool { return 'a' <= c && c <= 'z' }
func isUpper(c byte) bool { return 'A' <= c && c <= 'Z' }

// IsLetter says whether a byte is a letter of English.
func IsLetter(c byte) bool { return isLower(c) || isUpper(c) }
