package tree

import (
	"bytes"
	"strings"

	"dicaxon/internal/safe"
)

// An ignoreList is one ignore file, read: its patterns and the folder they
// speak of. Lists form a chain, nearest folder first, which is the order in
// which they are asked.
type ignoreList struct {
	next     *ignoreList
	base     string // folder of the list below the repository's top, "" or ending in "/"
	fold     bool
	patterns []ignorePattern

	// The patterns once more, sorted by how they can be looked up, as indexes
	// into patterns in rising order.
	byName   map[string][]int
	byEnding map[string][]int
	tried    []int
}

type ignorePattern struct {
	text        string
	literal     int    // how many leading bytes hold no wildcard
	inner       string // the longest text without a wildcard that every match holds
	negated     bool
	foldersOnly bool
	anchored    bool // it holds a slash, so it speaks of a path below base
}

// parseIgnore reads the text of one ignore file, by gitignore(5). It gives
// next itself where the text holds no pattern.
func parseIgnore(text []byte, base string, fold bool, next *ignoreList) *ignoreList {
	list := &ignoreList{next: next, base: base, fold: fold}
	text, _ = safe.WithoutMark(text)
	for len(text) > 0 {
		line, rest, ended := bytes.Cut(text, []byte("\n"))
		text = rest
		if ended {
			line = bytes.TrimSuffix(line, []byte("\r"))
		}
		if p, ok := parseIgnoreLine(string(line)); ok {
			list.patterns = append(list.patterns, p)
		}
	}
	if len(list.patterns) == 0 {
		return next
	}
	list.index()
	return list
}

func parseIgnoreLine(line string) (p ignorePattern, ok bool) {
	if line == "" || line[0] == '#' {
		return p, false
	}
	line = trimTrailingSpaces(line)
	if strings.HasPrefix(line, "!") {
		p.negated, line = true, line[1:]
	}
	if strings.HasSuffix(line, "/") {
		p.foldersOnly, line = true, line[:len(line)-1]
	}
	if line == "" {
		return p, false
	}
	p.anchored = strings.Contains(line, "/")
	p.text = strings.TrimPrefix(line, "/")
	p.literal = strings.IndexAny(p.text, `*?[\`)
	if p.literal < 0 {
		p.literal = len(p.text)
	}
	if !strings.ContainsAny(p.text, `[\`) { // a bracket stands for a character, and may hold a star
		for part := range strings.FieldsFuncSeq(p.text, func(r rune) bool { return r == '*' || r == '?' }) {
			if len(part) > len(p.inner) {
				p.inner = part
			}
		}
	}
	return p, true
}

// trimTrailingSpaces drops spaces at the end, but for one that is quoted with
// a backslash.
func trimTrailingSpaces(line string) string {
	end := 0
	for i := 0; i < len(line); i++ {
		switch line[i] {
		case ' ':
			continue
		case '\\':
			i++
			if i == len(line) {
				return line
			}
		}
		end = i + 1
	}
	return line[:end]
}

func (l *ignoreList) index() {
	l.byName, l.byEnding = map[string][]int{}, map[string][]int{}
	for i, p := range l.patterns {
		switch ending := strings.TrimPrefix(p.text, "*"); {
		case p.anchored || l.fold:
			l.tried = append(l.tried, i)
		case p.literal == len(p.text):
			l.byName[p.text] = append(l.byName[p.text], i)
		case p.literal == 0 && strings.LastIndexByte(ending, '.') == 0 && !strings.ContainsAny(ending, `*?[\`):
			l.byEnding[ending] = append(l.byEnding[ending], i)
		default:
			l.tried = append(l.tried, i)
		}
	}
}

// ignored says whether the chain of lists ignores the entry name of the folder
// (its path from the repository's top, "" or ending in "/").
func (l *ignoreList) ignored(folder, name string, isFolder bool) bool {
	for ; l != nil; l = l.next {
		if i := l.last(folder, name, isFolder); i >= 0 {
			return !l.patterns[i].negated
		}
	}
	return false
}

// last gives the index of the last pattern that fits, or -1.
func (l *ignoreList) last(folder, name string, isFolder bool) int {
	best := -1
	look := func(indexes []int) {
		for k := len(indexes) - 1; k >= 0 && indexes[k] > best; k-- {
			if isFolder || !l.patterns[indexes[k]].foldersOnly {
				best = indexes[k]
			}
		}
	}
	if len(l.byName) > 0 {
		look(l.byName[name])
	}
	if dot := strings.LastIndexByte(name, '.'); dot >= 0 && len(l.byEnding) > 0 {
		look(l.byEnding[name[dot:]])
	}
	for k := len(l.tried) - 1; k >= 0 && l.tried[k] > best; k-- {
		if p := &l.patterns[l.tried[k]]; (isFolder || !p.foldersOnly) && l.fits(p, folder, name) {
			best = l.tried[k]
		}
	}
	return best
}

func (l *ignoreList) fits(p *ignorePattern, folder, name string) bool {
	if !p.anchored {
		if !l.fold && !strings.Contains(name, p.inner) {
			return false
		}
		return wildmatch(p.text, name, false, l.fold)
	}
	if !l.fold && !mayFit(p.text[:p.literal], folder[len(l.base):]) {
		return false
	}
	if !l.fold && p.literal == len(p.text) {
		rest, ok := strings.CutPrefix(p.text, folder[len(l.base):])
		return ok && rest == name
	}
	return wildmatch(p.text, folder[len(l.base):]+name, true, l.fold)
}

// mayFit says whether a path that begins with folder can begin with literal.
func mayFit(literal, folder string) bool {
	if len(literal) > len(folder) {
		return literal[:len(folder)] == folder
	}
	return folder[:len(literal)] == literal
}
