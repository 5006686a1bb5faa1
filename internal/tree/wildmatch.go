package tree

import "strings"

// The results of one matching attempt. The two aborts let an outer star give
// up early: abortAll when the text has run out, abortToDeep when a single star
// met a slash and only an outer "**" could still help.
type outcome int

const (
	matched outcome = iota
	unmatched
	abortAll
	abortToDeep
)

// wildmatch reports whether text fits pattern by the rules gitignore(5) gives
// for its patterns. With paths set, "*", "?" and brackets stop at a slash and
// "**" spans folders; otherwise a slash is a character like any other. With
// fold set, ASCII letters match in either case.
func wildmatch(pattern, text string, paths, fold bool) bool {
	w := wild{pattern: pattern, text: text, paths: paths, fold: fold}
	if strings.Count(pattern, "*") > fewStars {
		w.known = map[[2]int]outcome{}
	}
	return w.run(0, 0) == matched
}

// fewStars is how many stars a pattern may have to be tried without a memory: with more,
// the same rest of it would be tried on the same rest of a text again and again.
const fewStars = 3

type wild struct {
	pattern, text string
	paths, fold   bool
	known         map[[2]int]outcome // by where the rests begin; nil for few stars
}

// rest is run with a memory.
func (w *wild) rest(p, t int) outcome {
	if w.known == nil {
		return w.run(p, t)
	}
	got, ok := w.known[[2]int{p, t}]
	if !ok {
		got = w.run(p, t)
		w.known[[2]int{p, t}] = got
	}
	return got
}

func (w *wild) lower(c byte) byte {
	if w.fold && 'A' <= c && c <= 'Z' {
		return c + 'a' - 'A'
	}
	return c
}

func (w *wild) run(p, t int) outcome {
	for ; p < len(w.pattern); p, t = p+1, t+1 {
		c := w.lower(w.pattern[p])
		if t == len(w.text) && c != '*' {
			return abortAll
		}
		switch c {
		case '\\':
			p++
			if p == len(w.pattern) || w.lower(w.text[t]) != w.lower(w.pattern[p]) {
				return unmatched
			}
		case '?':
			if w.paths && w.text[t] == '/' {
				return unmatched
			}
		case '*':
			return w.star(p, t)
		case '[':
			end, in := w.bracket(p+1, w.text[t])
			if end < 0 {
				return abortAll
			}
			if !in || w.paths && w.text[t] == '/' {
				return unmatched
			}
			p = end
		default:
			if w.lower(w.text[t]) != c {
				return unmatched
			}
		}
	}
	if t < len(w.text) {
		return unmatched
	}
	return matched
}

// star matches from the run of stars that begins at p.
func (w *wild) star(p, t int) outcome {
	first := p
	for p < len(w.pattern) && w.pattern[p] == '*' {
		p++
	}
	deep := !w.paths
	if w.paths && p-first > 1 &&
		(first == 0 || w.pattern[first-1] == '/') &&
		(p == len(w.pattern) || w.pattern[p] == '/' || strings.HasPrefix(w.pattern[p:], `\/`)) {
		// "**/" may also stand for no folder at all.
		if p < len(w.pattern) && w.pattern[p] == '/' && w.rest(p+1, t) == matched {
			return matched
		}
		deep = true
	}
	if p == len(w.pattern) {
		if !deep && strings.IndexByte(w.text[t:], '/') >= 0 {
			return abortToDeep
		}
		return matched
	}
	if !deep && w.pattern[p] == '/' {
		slash := strings.IndexByte(w.text[t:], '/')
		if slash < 0 {
			return abortAll
		}
		return w.rest(p, t+slash)
	}
	for ; t < len(w.text); t++ {
		switch got := w.rest(p, t); {
		case got == unmatched:
			if !deep && w.text[t] == '/' {
				return abortToDeep
			}
		case !deep || got != abortToDeep:
			return got
		}
	}
	return abortAll
}

// bracket reads the set that begins at p, behind its "[", and says whether c
// is in it. It gives the index of the closing "]", or -1 where there is none.
func (w *wild) bracket(p int, c byte) (end int, in bool) {
	c = w.lower(c)
	negated := p < len(w.pattern) && (w.pattern[p] == '!' || w.pattern[p] == '^')
	if negated {
		p++
	}
	var previous byte
	for first := true; ; first, p = false, p+1 {
		if p >= len(w.pattern) {
			return -1, false
		}
		switch k := w.pattern[p]; {
		case k == ']' && !first:
			return p, in != negated
		case k == '-' && previous != 0 && p+1 < len(w.pattern) && w.pattern[p+1] != ']':
			p++
			if w.pattern[p] == '\\' {
				if p++; p == len(w.pattern) {
					return -1, false
				}
			}
			in = in || w.within(previous, w.pattern[p], c)
			previous = 0
			continue
		case k == '[' && p+1 < len(w.pattern) && w.pattern[p+1] == ':':
			stop := strings.IndexByte(w.pattern[p+2:], ']')
			if stop < 0 {
				return -1, false
			}
			if stop == 0 || w.pattern[p+1+stop] != ':' {
				// No class after all: the "[" stands for itself.
				in = in || c == '['
				previous = '['
				continue
			}
			class, known := classes[w.pattern[p+2:p+1+stop]]
			if !known {
				return -1, false
			}
			in = in || class(c) || w.fold && class(upper(c))
			p += 2 + stop
			previous = 0
			continue
		case k == '\\':
			if p++; p == len(w.pattern) {
				return -1, false
			}
		}
		in = in || w.lower(w.pattern[p]) == c
		previous = w.pattern[p]
	}
}

func (w *wild) within(low, high, c byte) bool {
	return low <= c && c <= high || w.fold && low <= upper(c) && upper(c) <= high
}

func upper(c byte) byte {
	if 'a' <= c && c <= 'z' {
		return c - ('a' - 'A')
	}
	return c
}

func isDigit(c byte) bool { return '0' <= c && c <= '9' }
func isUpper(c byte) bool { return 'A' <= c && c <= 'Z' }
func isLower(c byte) bool { return 'a' <= c && c <= 'z' }
func isAlpha(c byte) bool { return isUpper(c) || isLower(c) }
func isGraph(c byte) bool { return 0x21 <= c && c <= 0x7e }
func isAlnum(c byte) bool { return isAlpha(c) || isDigit(c) }

// classes are the POSIX character classes, ASCII only, as git has them.
var classes = map[string]func(byte) bool{
	"alnum":  isAlnum,
	"alpha":  isAlpha,
	"blank":  func(c byte) bool { return c == ' ' || c == '\t' },
	"cntrl":  func(c byte) bool { return c < 0x20 || c == 0x7f },
	"digit":  isDigit,
	"graph":  isGraph,
	"lower":  isLower,
	"print":  func(c byte) bool { return isGraph(c) || c == ' ' },
	"punct":  func(c byte) bool { return isGraph(c) && !isAlnum(c) },
	"space":  func(c byte) bool { return c == ' ' || '\t' <= c && c <= '\r' },
	"upper":  isUpper,
	"xdigit": func(c byte) bool { return isDigit(c) || 'a' <= c && c <= 'f' || 'A' <= c && c <= 'F' },
}
