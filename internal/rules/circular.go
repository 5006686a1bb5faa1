package rules

import (
	"bytes"
	"maps"
	"path"
	"regexp"
	"slices"
	"strings"
	"unicode/utf8"

	"dicaxon/internal/finding"
	"dicaxon/internal/refs"
)

var circular = &Rule{
	Name: "circular", Kind: finding.Tangled, Level: finding.Error,
	Doc:     "A package or module of Python imports nothing that asks it, while it is loaded, for what it defines only further down.",
	Example: `- rule: circular`,
	Always:  true,
	Run: func(c *Call) {
		if !slices.ContainsFunc(c.everything(), func(f file) bool { return strings.HasSuffix(f.path, ".py") }) {
			return
		}
		for _, f := range c.everything() {
			if path.Base(f.path) == "__init__.py" && !c.lends(f.path) {
				c.comesBack(f.path)
			}
		}
		c.loadInOrder(c.loadEachOther())
	},
}

// mostSteps is how many imports are followed from a package before they come back.
const mostSteps = 6

// comesBack tells of the imports of a package that come back to it too early: the
// package is always loaded first, so that what it has not defined yet is not there
// (the Python reference, "The import system").
func (c *Call) comesBack(marker string) {
	for _, e := range c.atOnce(marker) {
		seen := map[string]bool{marker: true}
		at, more := e.To, []string(nil)
		for step := 0; step < mostSteps && len(at) > 0; step++ {
			for _, to := range at {
				if seen[to] || !strings.HasPrefix(to, path.Dir(marker)+"/") || !strings.HasSuffix(to, ".py") {
					continue
				}
				seen[to] = true
				for _, back := range c.atOnce(to) {
					if slices.Contains(back.To, marker) && len(back.To) == 1 && c.definedAfter(marker, back.Ref.Value, e.Ref.Line) {
						c.atRef(marker, e.Ref, &finding.Place{Path: to, Line: back.Ref.Line}, "it imports %s, which asks it for %s; that is defined only further down", to, back.Ref.Value)
						return
					}
					more = append(more, back.To...)
				}
			}
			at, more = more, nil
		}
	}
}

// loadEachOther tells of modules that take names of each other while they are loaded, each of which
// stands below the import: whichever is loaded first, the name that is asked of it is not there yet. It gives
// the modules that were told of.
func (c *Call) loadEachOther() map[string]bool {
	told := map[string]bool{}
	takes := map[string]map[string]bool{} // of which modules names are taken, by who does
	for _, f := range c.everything() {
		if !strings.HasSuffix(f.path, ".py") || path.Base(f.path) == "__init__.py" || c.lends(f.path) {
			continue
		}
		takes[f.path] = map[string]bool{}
		for _, e := range c.Graph.From(f.path) {
			if e.Ref.Value != "" && len(e.To) == 1 {
				takes[f.path][e.To[0]] = true
			}
		}
	}
	for _, from := range slices.Sorted(maps.Keys(takes)) {
		for _, to := range slices.Sorted(maps.Keys(takes[from])) {
			if from < to && takes[to][from] && c.tellEachOther(from, to) {
				told[from], told[to] = true, true
			}
		}
	}
	return told
}

// tellEachOther tells of two such modules, and says whether it did.
func (c *Call) tellEachOther(one, other string) bool {
	taken := func(from, to string) []refs.Edge {
		return slices.DeleteFunc(c.atOnce(from), func(e refs.Edge) bool {
			return e.Ref.Value == "" || e.Ref.Guarded || len(e.To) != 1 || e.To[0] != to
		})
	}
	for _, there := range taken(one, other) {
		for _, back := range taken(other, one) {
			if c.definedAfter(one, back.Ref.Value, there.Ref.Line) && c.definedAfter(other, there.Ref.Value, back.Ref.Line) {
				c.atRef(one, there.Ref, &finding.Place{Path: other, Line: back.Ref.Line}, "it takes %s of %s, which takes %s of it: whichever is loaded first, the other does not find its name", there.Ref.Value, other, back.Ref.Value)
				return true
			}
		}
	}
	return false
}

// atOnce gives the imports of a file of Python that happen while it is loaded.
func (c *Call) atOnce(at string) []refs.Edge {
	lines := bytes.Split(c.textOf(at), []byte("\n"))
	return slices.DeleteFunc(slices.Clone(c.Graph.From(at)), func(e refs.Edge) bool {
		if e.Ref.Kind != refs.Import || e.Ref.Line < 1 || e.Ref.Line > len(lines) {
			return true
		}
		line := lines[e.Ref.Line-1]
		return !bytes.HasPrefix(line, []byte("from ")) && !bytes.HasPrefix(line, []byte("import "))
	})
}

// definedAfter says whether a file defines a name, and only after a line.
func (c *Call) definedAfter(at, name string, line int) bool {
	if name == "" || name == "*" || !utf8.ValidString(name) {
		return false
	}
	one := regexp.QuoteMeta(name)
	defines := regexp.MustCompile(`(?m)^(?:(?:async[ \t]+)?(?:def|class)[ \t]+` + one + `\b|` + one + `[ \t]*(?::[^=\n]+)?=[^=])|^[ \t]*(?:from\b[^\n]*\b)?import\b[^\n]*\b` + one + `\b|^[^#\n]*\bglobals\(|^[ \t]+(?:def|class)?[ \t]*` + one + `\b|\bas ` + one + `\b`)
	code := c.Graph.Code(at)
	m := defines.FindIndex(code)
	return m != nil && bytes.Count(code[:m[0]], []byte("\n"))+1 > line
}
