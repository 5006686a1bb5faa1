package lazy

import (
	"bytes"
	"regexp/syntax"
	"slices"
)

// worthKnowing is how many bytes an expression has gone through when it pays to know what
// its matches need.
const worthKnowing = 1 << 15

// mostWords bounds how many words are looked for instead of the expression.
const mostWords = 8

// rulesOut says that the expression matches nothing in a text, because no word stands in it
// of which every match has one. It looks only once the expression is used much.
func (r *Regexp) rulesOut(text []byte) bool {
	if r.used.Load() < worthKnowing {
		r.used.Add(int64(len(text)))
		return false
	}
	r.knowing.Do(func() {
		if parsed, err := syntax.Parse(r.text, syntax.Perl); err == nil {
			for _, word := range needed(parsed.Simplify()) {
				r.words = append(r.words, []byte(word))
			}
		}
	})
	return len(r.words) > 0 && !slices.ContainsFunc(r.words, func(word []byte) bool { return bytes.Contains(text, word) })
}

// needed gives words of which every match of an expression has one, none where it has no
// such words of two letters or more.
func needed(re *syntax.Regexp) []string {
	switch re.Op {
	case syntax.OpLiteral:
		if word := string(re.Rune); re.Flags&syntax.FoldCase == 0 && len(word) > 1 {
			return []string{word}
		}
	case syntax.OpCapture, syntax.OpPlus:
		return needed(re.Sub[0])
	case syntax.OpRepeat:
		if re.Min > 0 {
			return needed(re.Sub[0])
		}
	case syntax.OpAlternate:
		var all []string
		for _, sub := range re.Sub {
			words := needed(sub)
			if words == nil || len(all)+len(words) > mostWords {
				return nil
			}
			all = append(all, words...)
		}
		return all
	case syntax.OpConcat:
		var best []string
		for _, sub := range re.Sub {
			if words := needed(sub); words != nil && (best == nil || shortest(words) > shortest(best)) {
				best = words
			}
		}
		return best
	}
	return nil
}

// shortest gives the length of the shortest of several words.
func shortest(words []string) int {
	return len(slices.MinFunc(words, func(a, b string) int { return len(a) - len(b) }))
}
