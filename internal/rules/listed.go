package rules

import (
	"cmp"
	"math"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/names"
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
		{"beside", Flag, false, "true where a list is of what lies beside it: it lacks one file that is of the kind of others in it, or one folder", false},
		{"imports", Flag, false, "true where a list is code, and what it imports, and what that imports, is listed, too", false},
		{"what", Text, false, "what such a list is called, where there are several", false},
		{"unless", Regexps, false, "what a list says that takes in what it does not name", false},
		{"aside", Regexps, false, "what a file says that need not be in one", false},
	},
	Run: runListed,
}

func runListed(c *Call) {
	if c.flag("beside") {
		c.tellLeftOut()
		return
	}
	in, items, holds := c.files("in"), map[string]bool{}, map[string]bool{}
	for _, list := range in {
		if anyFits(c.regexps["unless"], c.textOf(list.path)) {
			return
		}
	}
	for _, s := range c.spoken(in) {
		holds[s.file.path] = true
		c.noteItem(s, items)
	}
	if c.flag("imports") {
		for _, list := range in {
			for at := range c.comeTo(list.path, math.MaxInt) {
				items[at] = true
			}
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

// noteItem notes the paths that an item of a list stands for.
func (c *Call) noteItem(s spoken, items map[string]bool) {
	for _, to := range c.texts("to") {
		items[path.Clean(c.standsAt(s, to))] = true
	}
}

// leastListed is how many things a list has at least that is one of all that lies beside it.
const leastListed = 2

// tellLeftOut tells of what lists lack that are of what lies beside them: of all that they may have, one thing.
func (c *Call) tellLeftOut() {
	candidates := c.files("files")
	for _, list := range c.files("in") {
		dir, items := path.Dir(list.path), map[string]bool{}
		for _, s := range c.spoken([]file{list}) {
			c.noteItem(s, items)
		}
		var in, out []string
		for _, f := range candidates {
			below := path.Dir(f.path) != dir
			if isTest(f.path) || strings.HasSuffix(f.path, ".d.ts") || c.homeOf(f.path) != f.path || below != refs.IsIndex(path.Base(f.path)) || below && path.Dir(path.Dir(f.path)) != dir {
				continue
			}
			if items[f.path] {
				in = append(in, f.path)
			} else {
				out = append(out, f.path)
			}
		}
		if len(in) < leastListed || len(out) != 1 || !ofKindOf(out[0], in) {
			continue
		}
		c.report(out[0], 0, 0, &finding.Place{Path: list.path}, "it is not in the %s", cmp.Or(c.text("what"), "list"))
	}
}

// ofKindOf says whether a file is called as others are, by the last word of its name; one that stands for its folder is
// of a kind where all the others do so, too.
func ofKindOf(at string, all []string) bool {
	if refs.IsIndex(path.Base(at)) {
		return !slices.ContainsFunc(all, func(other string) bool { return !refs.IsIndex(path.Base(other)) })
	}
	word := lastWord(at)
	return slices.ContainsFunc(all, func(other string) bool { return !refs.IsIndex(path.Base(other)) && lastWord(other) == word })
}

// lastWord gives the last word of a name, in small letters.
func lastWord(at string) string {
	words := names.Words(names.BeforeDot(path.Base(at)))
	if len(words) < 2 {
		return at
	}
	return words[len(words)-1]
}

// standsFor says whether a file stands for its folder, or says what is in it.
func standsFor(name string) bool {
	return refs.IsIndex(name) || strings.EqualFold(strings.TrimSuffix(name, path.Ext(name)), "readme")
}
