package rules

import (
	"cmp"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/refs"
)

var inLists = &Rule{
	Name: "listed", Kind: finding.Unwired, Level: finding.Warning,
	Doc: "Every one of these files is in the list that a project keeps of them, such as the menu of a documentation. It is silent where most are not.",
	Example: `- rule: listed
  files: "docs/**/*.md"
  in: mkdocs.yml
  by: '(?m)^\s*-\s*(?:[^:\n]+:\s*)?([\w./-]+\.md)\s*$'
  to: "docs/{}"`,
	Options: []Option{
		{"files", Paths, true, "what is to be in a list; what stands for its folder need not", true},
		{"except", Paths, false, "what need not", true},
		{"in", Paths, true, "the files with the lists", true},
		{"by", Finders, true, "finds what is listed: its first group", false},
		{"inside", Regexps, false, "the list stands in such parts of a text alone", false},
		{"to", Texts, true, "the paths that an item stands for, a file or a folder: \"{}\" is the item, \"./\" the folder of the list", false},
		{"what", Text, false, "what such a list is called, where there are several", false},
		{"unless", Regexps, false, "what a list says that takes in what it does not name", false},
		{"aside", Regexps, false, "what a file says that need not be in one", false},
	},
	Run: runListed,
}

func runListed(c *Call) {
	in, items, holds := c.files("in"), map[string]bool{}, map[string]bool{}
	for _, list := range in {
		if anyFits(c.regexps["unless"], c.textOf(list.path)) {
			return
		}
	}
	for _, s := range c.spoken(in) {
		holds[s.file.path] = true
		for _, to := range c.texts("to") {
			items[path.Clean(c.standsAt(s, to))] = true
		}
	}
	all := slices.DeleteFunc(c.files("files"), func(f file) bool {
		return c.fits("except", f.path) || c.homeOf(f.path) != f.path || standsFor(path.Base(f.path)) || holds[f.path] // the first list is in none
	})
	lost := slices.DeleteFunc(slices.Clone(all), func(f file) bool {
		return items[f.path] || isBelowAny(f.path, items) || anyFits(c.regexps["aside"], c.textOf(f.path))
	})
	if len(items) == 0 || 2*len(lost) > len(all) {
		return
	}
	where := "not in " + in[0].path
	if len(in) > 1 {
		where = "in no " + cmp.Or(c.text("what"), "list")
	}
	for _, f := range lost {
		c.report(f.path, 0, 0, &finding.Place{Path: in[0].path}, "it is %s", where)
	}
}

// standsFor says whether a file stands for its folder, or says what is in it.
func standsFor(name string) bool {
	return refs.IsIndex(name) || strings.EqualFold(strings.TrimSuffix(name, path.Ext(name)), "readme")
}
