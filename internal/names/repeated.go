package names

import (
	"slices"
	"strings"
)

// An Addition is a text to be put into another at an offset.
type Addition struct {
	At   int
	Text string
	Rows int // how many of its like there are
}

// A row is a part of a text that stands once for each of several names: a line, or an
// element of a list that stands in one line.
type row struct {
	start, end int
	of         string
	like       string // without the name
	fresh      string // for the new name
	element    bool
}

// Repeated finds what stands in a text once for each of several names, and gives it once
// more for a new one, in the shapes that the names have there: behind the last of its
// like, or where its place is in the order of their names. Code is the text with its
// comments blank. What is there for the new name already is left out.
func Repeated(text, code string, known []string, added string) []Addition {
	var rows []row
	for start := 0; start < len(code); {
		end := len(code)
		if i := strings.IndexByte(code[start:], '\n'); i >= 0 {
			end = start + i + 1
		}
		if whole := blockEnd(code, start, end); whole > end {
			if r, ok := blockOf(text, code, start, whole, known, added); ok {
				rows = append(rows, r)
				start = whole
				continue
			}
		}
		rows = append(rows, rowsOf(text, code, start, end, known, added)...)
		start = end
	}
	var all []Addition
	var done []string
	for i, r := range rows {
		if slices.Contains(done, r.like) {
			continue
		}
		done = append(done, r.like)
		block := []row{r}
		for _, o := range rows[i+1:] {
			if o.like == r.like && o.element == r.element {
				block = append(block, o)
			}
		}
		if !r.element && strings.Contains(text, strings.TrimSpace(r.fresh)) || r.element && HasWords(lineAt(code, r.start), strings.TrimSpace(r.fresh)) {
			continue
		}
		for k := range block { // of several words it shows more of how names are written
			if len(Words(block[k].of)) > len(Words(r.of)) {
				r = block[k]
			}
		}
		one := addition(text, block, r.fresh, added)
		one.Rows = len(block)
		all = append(all, one)
	}
	return all
}

// lineAt gives the line that an offset lies in.
func lineAt(text string, at int) string {
	line, _, _ := strings.Cut(text[strings.LastIndexByte(text[:at], '\n')+1:], "\n")
	return line
}

// addition gives the text for the new name, and its place among its like.
func addition(text string, block []row, fresh, added string) Addition {
	r, last := block[0], block[len(block)-1]
	sorted := len(block) > 1 && slices.IsSortedFunc(block, func(a, b row) int { return strings.Compare(a.of, b.of) })
	for _, o := range block {
		if sorted && o.of > added {
			if r.element {
				return Addition{At: o.start, Text: fresh + ", "}
			}
			return Addition{At: o.start, Text: ended(fresh)}
		}
	}
	switch {
	case r.element:
		return Addition{At: last.end, Text: ", " + fresh}
	case last.end > 0 && text[last.end-1] != '\n':
		return Addition{At: last.end, Text: "\n" + strings.TrimSuffix(fresh, "\n")}
	}
	return Addition{At: last.end, Text: ended(fresh)}
}

// blockEnd gives where what a line opens ends: the lines that stand further in, with one
// that closes it; the line's own end where it opens nothing.
func blockEnd(code string, start, end int) int {
	line := strings.TrimRight(code[start:end], " \r\n")
	if line == "" || strings.IndexByte(":{([", line[len(line)-1]) < 0 {
		return end
	}
	depth := len(line) - len(strings.TrimLeft(line, " \t"))
	for at := end; at < len(code); {
		next := len(code)
		if i := strings.IndexByte(code[at:], '\n'); i >= 0 {
			next = at + i + 1
		}
		one := strings.TrimRight(code[at:next], " \r\n")
		in := len(one) - len(strings.TrimLeft(one, " \t"))
		switch {
		case one == "":
		case in > depth:
			end = next
		case in == depth && strings.IndexByte("})]", one[in]) >= 0:
			return next
		default:
			return end
		}
		at = next
	}
	return end
}

// blockOf gives a block of lines that is opened by a name, and names no other.
func blockOf(text, code string, start, end int, known []string, added string) (row, bool) {
	first, _, _ := strings.Cut(code[start:end], "\n")
	of := ""
	for _, name := range known {
		if occurrences(code[start:end], name) > 0 {
			if of != "" || occurrences(first, name) == 0 {
				return row{}, false
			}
			of = name
		}
	}
	if of == "" {
		return row{}, false
	}
	fresh, like, ok := substituted(text[start:end], code[start:end], of, added)
	return row{start, end, of, like, fresh, false}, ok && balanced(like)
}

func ended(line string) string {
	if strings.HasSuffix(line, "\n") {
		return line
	}
	return line + "\n"
}

// rowsOf gives what a line has for one of the names: the line itself or, where the names
// are elements of a list in it, those.
func rowsOf(text, code string, start, end int, known []string, added string) []row {
	var all []row
	if from, to, several := together(code[start:end], known); several {
		for _, e := range elements(code[start:end], from, to) {
			for _, name := range known {
				if fresh, like, ok := substituted(text[start+e[0]:start+e[1]], code[start+e[0]:start+e[1]], name, added); ok {
					all = append(all, row{start + e[0], start + e[1], name, code[start:start+from] + "[" + like, fresh, true})
					break
				}
			}
		}
		return all
	}
	for _, name := range known {
		fresh, like, ok := substituted(text[start:end], code[start:end], name, added)
		if !ok {
			continue
		}
		if from, to, in := listed(code[start:end], like, name); in {
			for _, e := range elements(code[start:end], from, to) {
				if fresh, like, ok := substituted(text[start+e[0]:start+e[1]], code[start+e[0]:start+e[1]], name, added); ok {
					all = append(all, row{start + e[0], start + e[1], name, code[start:start+from] + "[" + like, fresh, true})
				}
			}
			continue
		}
		if binds(like) {
			continue // once more, it would take the name from the first
		}
		if !balanced(like) || strings.HasSuffix(strings.TrimSpace(like), ":") {
			continue // it goes on
		}
		if len(all) == 0 {
			all = append(all, row{start, end, name, like, fresh, false})
		}
	}
	return all
}

// binds says whether a line gives what it names another name, in which the name does not
// stand.
func binds(like string) bool {
	_, as, ok := strings.Cut(like, " as ")
	return ok && strings.Contains(like, "import ") && !strings.Contains(as, taken)
}

// together gives the part of a line in which several of the names stand: the brackets
// around them, or from the first of them on.
func together(line string, known []string) (from, to int, ok bool) {
	var places [][2]int
	for _, name := range known {
		for _, pair := range spellings(name, name) {
			if i := wordAt(line, pair[0]); i >= 0 {
				places = append(places, [2]int{i, i + len(pair[0])})
				break
			}
		}
	}
	if len(places) < 2 {
		return 0, 0, false
	}
	from, to = places[0][0], places[0][1]
	for _, p := range places {
		from, to = min(from, p[0]), max(to, p[1])
	}
	for i := from - 1; i >= 0; i-- {
		if strings.IndexByte("[({", line[i]) >= 0 {
			if end := closing(line, i); end >= to && !(line[i] == '{' && strings.ContainsAny(line[i+1:end], "(;")) {
				return i + 1, end, true
			}
		}
	}
	return from, to, true
}

// wordAt gives where a text stands as a whole word, or as one of a longer name; -1 for
// nowhere.
func wordAt(line, word string) int {
	marked, n := inWords(line, word, func(byte, byte) string { return taken })
	if n == 0 {
		return -1
	}
	return strings.Index(marked, taken)
}

func balanced(line string) bool {
	return strings.Count(line, "{") == strings.Count(line, "}") && strings.Count(line, "(") == strings.Count(line, ")") && strings.Count(line, "[") == strings.Count(line, "]")
}

// listed says whether all that a line says of a name stands within one list that begins and
// ends in it, behind something else: like is the line with the name taken out.
func listed(line, like, name string) (from, to int, ok bool) {
	for i := 0; i < len(line); i++ {
		if line[i] != '[' && line[i] != '{' || strings.TrimSpace(line[:i]) == "" {
			continue
		}
		end := closing(line, i)
		if end < 0 {
			return 0, 0, false
		}
		within := strings.Count(like, taken)
		if line[i] == '{' && strings.ContainsAny(line[i+1:end], "(;") {
			continue // a block of code
		}
		if within > 0 && occurrences(line[i+1:end], name) == within {
			return i + 1, end, true
		}
	}
	return 0, 0, false
}

// closing gives where a bracket closes, or -1.
func closing(line string, open int) int {
	depth := 0
	for i := open; i < len(line); i++ {
		switch line[i] {
		case '[', '{', '(':
			depth++
		case ']', '}', ')':
			if depth--; depth == 0 {
				return i
			}
		}
	}
	return -1
}

// elements gives the elements of a list, without the space around them.
func elements(line string, from, to int) [][2]int {
	var all [][2]int
	start, depth := from, 0
	add := func(end int) {
		a, b := start, end
		for a < b && line[a] == ' ' {
			a++
		}
		for b > a && line[b-1] == ' ' {
			b--
		}
		if a < b {
			all = append(all, [2]int{a, b})
		}
		start = end + 1
	}
	for i := from; i < to; i++ {
		switch line[i] {
		case '[', '{', '(':
			depth++
		case ']', '}', ')':
			depth--
		case ',':
			if depth == 0 {
				add(i)
			}
		}
	}
	add(to)
	return all
}
