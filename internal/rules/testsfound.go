package rules

import (
	"cmp"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/names"
)

var testsFound = &Rule{
	Name: "tests-found", Kind: finding.Misnamed, Level: finding.Warning,
	Doc: "A file that holds tests, and that nothing uses, has a name by which their runner finds it.",
	Example: `- rule: tests-found
  files: "tests/**/*.py"
  shows: '(?m)^def test_\w+\('
  named: ["test_*.py", "*_test.py"]
  unless-in: [pyproject.toml, pytest.ini]
  unless: python_files`,
	Options: []Option{
		{"files", Paths, true, "the files that may hold tests", true},
		{"shows", Regexps, true, "what a test has in its text", false},
		{"named", Texts, true, "the names of files in which the runner looks, as patterns", false},
		{"holds", Text, false, "what it holds, and who looks for it, where those are no tests", false},
		{"unless-in", Paths, false, "settings of the runner", true},
		{"unless", Regexps, false, "what such settings say where the runner looks for other names", false},
		{"runs-itself", Regexps, false, "what a file has in its text that is started as a program, and needs no runner", false},
		{"surely", Flag, false, "true where there is such a runner, also if it finds no file yet", false},
		{"near-only", Flag, false, "true where it is told only if two letters that changed places make such a name", false},
	},
	Run: func(c *Call) {
		if c.saidOtherwise() {
			return
		}
		files := c.files("files")
		runs := c.flag("surely") || slices.ContainsFunc(files, func(f file) bool { return c.collects(path.Base(f.path)) })
		before, practice := len(c.findings), map[string]int{} // how many are called so, by how they end
		for _, f := range files {
			practice[lastTwo(path.Base(f.path))]++
		}
		for _, f := range files {
			base := path.Base(f.path)
			if c.collects(base) || inFolder(f.path, func(name string) bool { return name == "__tests__" }) || c.flag("near-only") && lastTwo(base) != "" && practice[lastTwo(base)] > mostForgotten {
				continue
			}
			meant := c.foundAs(base)
			if meant == "" && (c.flag("near-only") || !runs) { // perhaps no runner is used here
				continue
			}
			if c.lends(f.path) || c.homeOf(f.path) != f.path || !anyFits(c.regexps["shows"], c.textOf(f.path)) || anyFits(c.regexps["runs-itself"], c.textOf(f.path)) || !c.idle(f.path) {
				continue
			}
			one := c.report(f.path, 0, 0, nil, "it holds %s looks in %s", cmp.Or(c.text("holds"), "tests that are never run: their runner"), strings.Join(c.texts("named"), ", "))
			if home := path.Join(path.Dir(f.path), meant); meant != "" && c.node(home) == nil {
				one.Home = c.Top.Path() + home
			}
		}
		if told := c.findings[before:]; len(told) > mostForgotten { // something that nobody here knows may run them
			for i := range told {
				told[i].Level = max(told[i].Level, finding.Note)
			}
		}
	},
}

// mostForgotten is how many tests of one kind somebody gives a wrong name.
const mostForgotten = 2

// lastTwo gives what stands behind the last dot but one of a name, "" where there is none.
func lastTwo(name string) string {
	parts := strings.Split(name, ".")
	if len(parts) < 3 {
		return ""
	}
	return strings.Join(parts[len(parts)-2:], ".")
}

// saidOtherwise says whether settings of the project have it otherwise than the rule goes by: the options
// unless-in and unless.
func (c *Call) saidOtherwise() bool {
	return slices.ContainsFunc(c.files("unless-in"), func(f file) bool { return anyFits(c.regexps["unless"], c.textOf(f.path)) })
}

// collects says whether the runner looks in a file of that name.
func (c *Call) collects(name string) bool {
	return slices.ContainsFunc(c.texts("named"), func(pattern string) bool {
		fits, _ := path.Match(pattern, name)
		return fits
	})
}

// foundAs gives the one name in which the runner looks that two letters which changed places make of
// another, "" where there is none, or are several.
func (c *Call) foundAs(name string) string {
	var all []string
	for _, turned := range names.Transpositions(name) {
		if c.collects(string(turned)) {
			all = append(all, string(turned))
		}
	}
	return sole(all)
}
