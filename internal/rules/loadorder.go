package rules

import (
	"path"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/refs"
)

// starts finds that a module of Python is what a program or a server is started by.
var starts = lazy.New(`(?m)^\w+\s*(?::\s*\w+\s*)?=\s*(?:FastAPI|Flask|Starlette|create_app)\(|^if __name__ == ["']__main__["']:`)

// A loading follows the imports of a program of Python in the order in which they happen: a module is run
// down to an import, then what that names is, and one that is being run already is taken as it is (the
// Python reference, "The import system").
type loading struct {
	*Call
	edges   map[string][]refs.Edge // what happens at once, by file, whoever starts
	told    map[string]bool        // the files that were told of
	reached map[string]int         // the line at which each file is; 0 for its end
	start   string
}

// loadInOrder tells of modules that, as a program is started, ask for a name of one which has not come to it yet.
// Of packages that are asked too early comesBack tells.
func (c *Call) loadInOrder(told map[string]bool) {
	l := &loading{Call: c, edges: map[string][]refs.Edge{}, told: told}
	for _, f := range c.everything() {
		if strings.HasSuffix(f.path, ".py") && !isTest(f.path) && !c.lends(f.path) && starts.Match(c.Graph.Code(f.path)) && !c.isImported(f.path) {
			l.reached, l.start = map[string]int{}, f.path
			l.load(f.path)
		}
	}
}

// isImported says whether a file of Python that holds no tests names another.
func (c *Call) isImported(at string) bool {
	for _, e := range c.Graph.To(at) {
		if e.Ref.Kind == refs.Import && e.From != at && !isTest(e.From) && path.Base(e.From) != "conftest.py" {
			return true
		}
	}
	return false
}

// load follows the imports of a file.
func (l *loading) load(at string) {
	edges, known := l.edges[at]
	if !known {
		edges = l.atOnce(at)
		l.edges[at] = edges
	}
	l.reached[at] = 1
	for _, e := range edges {
		l.reached[at] = e.Ref.Line
		for _, to := range e.To {
			if !strings.HasSuffix(to, ".py") {
				continue
			}
			for _, one := range append(l.markersAround(to), to) {
				if _, begun := l.reached[one]; !begun {
					l.load(one)
				}
			}
			// A module that is taken out of a package is found though it has not run to its end.
			if line := l.reached[to]; line > 0 && to != at && len(e.To) == 1 && path.Base(to) != "__init__.py" && !e.Ref.Guarded && !l.told[at] && l.definedAfter(to, e.Ref.Value, line) {
				l.told[at] = true
				l.atRef(at, e.Ref, &finding.Place{Path: to, Line: line}, "when %s starts, it takes %s of %s, which has run only to line %d by then and defines it further down", l.start, e.Ref.Value, to, line)
			}
		}
	}
	l.reached[at] = 0
}

// markersAround lists the markers of the packages around a module, the outermost first: they are run before it.
func (l *loading) markersAround(at string) (all []string) {
	for dir := path.Dir(at); dir != "."; dir = path.Dir(dir) {
		marker := path.Join(dir, "__init__.py")
		if marker == at {
			continue
		}
		if l.node(marker) == nil {
			break
		}
		all = append([]string{marker}, all...)
	}
	return all
}
