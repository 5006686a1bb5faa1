package rules

import (
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/refs"
)

var firstFits = &Rule{
	Name: "first-fits", Kind: finding.Disagrees, Level: finding.Warning,
	Doc: "Of the addresses in a file, none stands behind one that fits it too, where the first that fits answers.",
	Example: `- rule: first-fits
  files: "src/routes/*.js"
  by: '\b(\w+)\.(get|post)\(\s*["''](?P<name>/[^"'']*)["'']'`,
	Options: []Option{
		{"files", Paths, true, "the files", true},
		{"by", Finders, true, "finds an address: the group called name; the other groups are what two have in common, such as the method", false},
		{"inside", Regexps, false, "addresses are looked for in such parts of a text alone, each by itself", false},
		{"unless", Regexps, false, "what a line has where more than the address decides", false},
	},
	Run: runFirstFits,
}

// openPart finds a part of an address that may be anything, as routers write it: :id, {id}, <slug:id>.
var openPart = lazy.New(`^(?::\w+|\{\w+\}|<(?:(?:str|slug):)?\w+>)$`)

// A waiting is an address in a file, with what has to be the same for two of them.
type waiting struct {
	of, name string
	parts    []string
	line     int
}

func runFirstFits(c *Call) {
	for _, f := range c.files("files") {
		if c.lends(f.path) || inSample(f.path) {
			continue
		}
		code := c.Graph.Code(f.path)
		for _, part := range partsOf(code, c.regexps["inside"]) {
			for _, re := range c.regexps["by"] {
				c.tellAnswered(f.path, code, part, re)
			}
		}
	}
}

// tellAnswered tells of the addresses in a part of a text that an earlier one of that part fits too.
func (c *Call) tellAnswered(at string, code []byte, part []int, re *lazy.Regexp) {
	var before []waiting
	for _, m := range re.FindAll(code[part[0]:part[1]]) {
		for k := range m {
			if m[k] >= 0 {
				m[k] += part[0]
			}
		}
		w, span := waitingAt(code, m, re.Get().SubexpIndex("name"))
		if all, _ := lineAround(code, int32(m[0])); anyFits(c.regexps["unless"], []byte(all)) {
			continue
		}
		line, column := refs.Place(code, span)
		w.line = line
		for _, first := range before {
			if first.of == w.of && first.name != w.name && first.fits(w) {
				c.report(at, line, column, &finding.Place{Path: at, Line: first.line}, "%s is answered by %s, which stands before it", w.name, first.name).About = w.name
				break
			}
		}
		before = append(before, w)
	}
}

// waitingAt gives the address of a match.
func waitingAt(code []byte, m []int, name int) (w waiting, at refs.Span) {
	var of []string
	for k := 1; 2*k < len(m); k++ {
		if k != name && m[2*k] >= 0 {
			of = append(of, string(code[m[2*k]:m[2*k+1]]))
		}
	}
	at = refs.Span{Start: int32(m[2*name]), End: int32(m[2*name+1])}
	w = waiting{of: strings.Join(of, " "), name: string(at.In(code))}
	w.parts = strings.Split(strings.Trim(w.name, "/"), "/")
	return w, at
}

// fits says whether whoever asks for another address is answered at this one: it has parts that may be anything
// where the other says which.
func (w waiting) fits(other waiting) bool {
	if len(w.parts) != len(other.parts) {
		return false
	}
	for i, part := range w.parts {
		if part != other.parts[i] && (!openPart.MatchString(part) || openPart.MatchString(other.parts[i]) || strings.ContainsAny(other.parts[i], "*(")) {
			return false
		}
	}
	return true
}
