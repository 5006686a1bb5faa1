package rules

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
)

var testNames = &Rule{
	Name: "test-names", Kind: finding.Misnamed, Level: finding.Warning, Always: true,
	Doc: "The name of a test is not a typing slip away from the one file that it tests, nor is that of a folder of tests from the folder that it mirrors.",
	Example: `- rule: test-names
  except: "tests/old/**"`,
	Options: []Option{{"except", Paths, false, "tests that may be called anything", true}},
	Run:     runTestNames,
}

func runTestNames(c *Call) { // tests of Go are of a package
	c.tellTestFolders()
	var stems map[string][]string // of the files that are no tests, once one is in doubt
	for _, f := range c.everything() {
		of, test := names.Testee(path.Base(f.path))
		of = names.BeforeDot(of)
		if !test || len(of) < 4 || path.Ext(f.path) == ".go" || !refs.IsCode(f.path) || c.lends(f.path) || c.fits("except", f.path) || c.homeOf(f.path) != f.path {
			continue
		}
		if stems == nil {
			stems = c.stems()
		}
		if len(stems[strings.ToLower(of)]) > 0 {
			continue
		}
		meant, sure := c.testedBy(f.path, of, stems)
		if meant == "" {
			continue
		}
		name := strings.Replace(path.Base(f.path), of, names.BeforeDot(path.Base(meant)), 1)
		if home := path.Join(path.Dir(f.path), name); c.node(home) == nil {
			told := c.report(f.path, 0, 0, &finding.Place{Path: meant}, "it tests %s, and is called after nothing that is here", meant)
			if told.Home = c.Top.Path() + home; !sure {
				told.Level = max(told.Level, finding.Note)
			}
		}
	}
}

// stems lists the files of code that are no tests by their names without endings, in small letters.
func (c *Call) stems() map[string][]string {
	all := map[string][]string{}
	for _, f := range c.everything() {
		if refs.IsCode(f.path) && !isTest(f.path) {
			stem := strings.ToLower(names.BeforeDot(path.Base(f.path)))
			all[stem] = append(all[stem], f.path)
		}
	}
	return all
}

// testedBy gives the one file whose name is a typing slip away from what a test is called after,
// where the test lies beside it or says its name, or, which is sure, imports it; "" where there is
// none.
func (c *Call) testedBy(test, of string, stems map[string][]string) (meant string, sure bool) {
	var all []string
	swapped := map[string]bool{} // stems that are a slip in their first letters, which an import has to prove
	for stem, files := range stems {
		as := strings.ToLower(of)
		typing := names.Near(as, stem) == names.Typing && !sameWord(as, stem)
		lacking := !typing && lacksOne(as, stem) && names.Singular(as) != names.Singular(stem)
		swapped[stem] = lacking || !typing && len(as) == len(stem) && names.Distance(as, stem) == 1 && as[0] == stem[1] && as[1] == stem[0]
		if (typing || swapped[stem]) && !strings.ContainsAny(of+stem, "0123456789") {
			all = append(all, files...)
		}
	}
	imports := func(at string) bool {
		return slices.ContainsFunc(c.Graph.From(test), func(e refs.Edge) bool { return slices.Contains(e.To, at) })
	}
	meant = only(all, func(at string) bool {
		stem := names.BeforeDot(path.Base(at))
		if path.Ext(at) == ".rb" {
			stem = names.To(names.Pascal, stem)
		}
		said := stem != strings.ToLower(stem) && lang.HasWord(c.textOf(test), stem)
		return kin(path.Ext(at), path.Ext(test)) && (imports(at) || !swapped[strings.ToLower(names.BeforeDot(path.Base(at)))] && (said || path.Dir(at) == path.Dir(test)))
	})
	return meant, meant != "" && imports(meant)
}

// lacksOne says whether a name is another without one letter in its middle.
func lacksOne(a, b string) bool {
	if len(a)+1 != len(b) {
		return false
	}
	n := alikeFor(a, b)
	return n > 0 && n < len(a) && a[n:] == b[n+1:] && lang.WordByte(b[n]) && b[n] != '_'
}

// alikeFor counts the bytes that two names begin with alike.
func alikeFor(a, b string) (n int) {
	for n < min(len(a), len(b)) && a[n] == b[n] {
		n++
	}
	return n
}

// longStem is how many letters of two forms of one word are the same at least, where the last two of one are not.
const longStem = 6

// sameWord says whether two names may be forms of one word, as decorate and decorator, or pagination and
// paginator, are: they part at the last letters of one.
func sameWord(a, b string) bool {
	if len(a) > len(b) {
		a, b = b, a
	}
	n := alikeFor(a, b)
	if n > 0 && n < len(a) && b[n] == b[n-1] && a[n:] == b[n+1:] {
		return false // a letter that is there twice, and should be, or should not
	}
	return n+1 >= len(a) || n >= longStem && n+2 >= len(a) && len(a) != len(b)
}
