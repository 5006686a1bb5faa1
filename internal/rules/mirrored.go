package rules

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/names"
)

var mirrored = &Rule{
	Name: "mirrored", Kind: finding.Misplaced, Level: finding.Warning,
	Doc: "A test lies in the folder that mirrors the one of what it tests, where the project's tests do so.",
	Example: `- rule: mirrored
  files: "tests/**/*.py"
  of: "src/<project>/**/*.py"
  named: ["test_{}", "{}_test"]`,
	Options: []Option{
		{"files", Paths, true, "the tests; what stands before \"**/\" is their root", false},
		{"of", Paths, true, "what they test; what stands before \"**/\" is its root", false},
		{"named", Texts, true, "how a test is named after what it tests: \"{}\" is its name without an ending", false},
	},
	Run: runMirrored,
}

// A mirror is a file by where it lies below its root.
type mirror struct {
	file
	root, below string
}

// split tells the root of a file, which its pattern names before any depth, from the
// folders below.
func split(f file) mirror {
	folders := strings.Split(f.path, "/")
	folders = folders[:len(folders)-1]
	n := min(max(slices.Index(f.pattern.Segments(), nil), 0), len(folders))
	return mirror{f, strings.Join(folders[:n], "/"), strings.Join(folders[n:], "/")}
}

func runMirrored(c *Call) {
	tested := map[string][]mirror{}
	for _, f := range c.files("of") {
		if strings.HasPrefix(path.Base(f.path), ".") {
			continue
		}
		name := names.Stem(path.Base(f.path))
		tested[name] = append(tested[name], split(f))
	}
	type stray struct{ test, of mirror }
	var astray []stray
	right := 0
	for _, f := range c.files("files") {
		test := split(f)
		of := tested[c.subject(names.Stem(path.Base(f.path)))]
		switch {
		case slices.ContainsFunc(of, func(m mirror) bool { return m.below == test.below && c.rootFor(test, m) == test.root }):
			if test.below != "" {
				right++
			}
		case len(of) == 1 && !c.ofOneKind(test, of[0]):
			astray = append(astray, stray{test, of[0]})
		}
	}
	if right < 2 || right < 2*len(astray) {
		return // the project's own choice
	}
	for _, s := range astray {
		home := path.Join(c.rootFor(s.test, s.of), s.of.below, path.Base(s.test.path))
		if home == s.test.path || c.node(home) != nil || c.homeOf(s.test.path) != s.test.path || c.sent(s.test.path) {
			continue
		}
		c.report(s.test.path, 0, 0, &finding.Place{Path: s.of.path}, "it tests %s, and the other tests lie as what they test does", s.of.path).Home = c.Top.Path() + home
	}
}

// ofOneKind says whether a test lies in a folder that the layout keeps for one kind of
// tests, and that mirrors none of what is tested.
func (c *Call) ofOneKind(test, of mirror) bool {
	first, _, _ := strings.Cut(test.below, "/")
	if first == "" || c.node(path.Join(of.root, first)) != nil {
		return false
	}
	e := c.Lookup(path.Join(test.root, first) + "/").Entry
	return e != nil && slices.ContainsFunc(e.Spellings, func(p layout.Pattern) bool { return p.Exact == first })
}

// subject gives the name of what a test is named after, "" if after nothing.
func (c *Call) subject(name string) string {
	for _, named := range c.texts("named") {
		before, after, _ := strings.Cut(named, "{}")
		if of, found := strings.CutSuffix(name, after); found {
			if of, found = strings.CutPrefix(of, before); found && of != "" {
				return of
			}
		}
	}
	return ""
}

// rootFor gives the root of the tests of what lies elsewhere: in another module, that
// one's.
func (c *Call) rootFor(test, of mirror) string {
	parts := strings.Split(c.pathOf(test.pattern, of.env), "/")
	n := strings.Count(test.root, "/") + 1
	if test.root == "" || n > len(parts) {
		return test.root
	}
	root := strings.Join(parts[:n], "/")
	if strings.ContainsAny(root, "<*?") || c.node(root) == nil {
		return test.root
	}
	return root
}

// sent says whether a finding has a home for a file already.
func (p *project) sent(at string) bool {
	return slices.ContainsFunc(p.findings, func(f finding.Finding) bool { return f.Path == p.Top.Path()+at && f.Home != "" })
}
