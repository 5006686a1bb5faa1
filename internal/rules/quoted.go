package rules

import (
	"bytes"
	"cmp"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/edit"
	"dicaxon/internal/finding"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
)

var quoted = &Rule{
	Name: "quoted", Kind: finding.Dangling, Level: finding.Warning, Always: true,
	Doc: "A path that stands in code as a text is not a slip away from a file of the project that nothing else names.",
	Example: `- rule: quoted
  except: "tools/**"`,
	Options: []Option{{"except", Paths, false, "files whose paths may lead anywhere", true}},
	Run:     runQuoted,
}

func runQuoted(c *Call) {
	var said map[string]bool // once something is in doubt
	c.Graph.Look().Each(func(at string) {
		if !refs.IsCode(at) || c.lends(at) || c.fits("except", at) {
			return
		}
		if isDocument(at) {
			c.tellDocument(at)
			return
		}
		doubtful := c.doubtful(at)
		if len(doubtful) > 0 && (c.isMade(at) || ofThePast(doubtful)) {
			return
		}
		for _, d := range doubtful {
			if said == nil {
				said = c.quotedAnywhere()
			}
			if !said[d.meant] && len(c.Graph.To(d.meant)) == 0 && len(bytes.TrimSpace(d.Span.In(c.Graph.Code(at)))) > 0 {
				c.tellQuoted(at, d.Quoted, d.meant)
			}
		}
	})
}

// A doubt is a path in code that leads nowhere, with the file that it likely means.
type doubt struct {
	lang.Quoted
	meant string
}

// doubtful gives the paths of a file of code that lead nowhere, where something is likely meant.
func (c *Call) doubtful(at string) (all []doubt) {
	sample := inSample(at)
	for _, q := range c.Graph.Noted(at).Quotes {
		meant := c.meantBy(at, q)
		if meant == "" || sample && !oneLetter(q.Name, meant) || isTest(at) && !liesAsSaid(at, q.Name, meant) || path.Dir(q.Name) == "." && inSample(meant) && !sample {
			continue
		}
		all = append(all, doubt{q, meant})
	}
	return all
}

// mostAstray is how many paths in one file somebody mistypes, or forgets when files move, that mean files of as many folders.
const mostAstray = 3

// ofThePast says whether paths that lead nowhere are a list of what once was: they mean files here and there.
func ofThePast(all []doubt) bool {
	folders := map[string]bool{}
	for _, d := range all {
		folders[path.Dir(d.meant)] = true
	}
	return len(folders) > mostAstray
}

// liesAsSaid says whether a file lies in the folder that a path names, from the file that says it or from the top:
// tests name many a file that they make themselves.
func liesAsSaid(from, said, file string) bool {
	in := path.Dir(said)
	return path.Dir(file) == path.Join(path.Dir(from), in) || path.Dir(file) == path.Clean(in) || inSample(said)
}

// isDocument says whether a file is one that people read.
func isDocument(at string) bool {
	return slices.Contains([]string{".md", ".mdx", ".markdown"}, path.Ext(at))
}

// tellDocument tells of the paths in a document, from the top of the project or its own folder, of
// which nothing is there and something is a slip away.
func (c *Call) tellDocument(at string) {
	if speaksOfThePast(at) {
		return
	}
	for _, q := range c.Graph.Noted(at).Quotes {
		name, folder := path.Clean(q.Name), strings.HasSuffix(q.Name, "/")
		beside := path.Join(path.Dir(at), name)
		if c.stands(beside) || c.reaches("**/"+name) || len(c.Graph.Look().FoldersEnding(name)) > 0 || c.hidden(at, name) || c.hidden(at, beside) || !folder && path.Ext(name) == "" && !strings.Contains(name, "/") {
			continue
		}
		meant := cmp.Or(c.nearPath(name, at, false), c.nearPath(beside, at, false))
		if meant == "" || c.isFolder(meant) != (folder || path.Ext(name) == "") || len(path.Base(name)) < 3 {
			continue
		}
		line, column := refs.Place(c.textOf(at), q.Span)
		f := c.report(at, line, column, &finding.Place{Path: meant}, "it says %s, which is not there; did it mean %s?", q.Name, meant)
		f.Level, f.About, f.Sought = finding.Note, q.Name, []string{c.Top.Path() + name}
		if path.Dir(at) != "." {
			f.Sought = append(f.Sought, c.Top.Path()+beside)
		}
		if strings.Count(meant, "/") == strings.Count(name, "/") && path.Dir(at) == "." {
			f.Fix = []edit.Edit{c.edit(at, refs.Span{Start: q.Span.Start, End: q.Span.Start + int32(len(name))}, meant)}
		}
	}
}

// oneLetter says whether a path leads into the folder of another, with what tests read, and
// differs from it by one letter of a name of some length: they say many a path that is meant to
// lead nowhere.
func oneLetter(got, want string) bool {
	a, b := names.BeforeDot(path.Base(got)), names.BeforeDot(path.Base(want))
	return inSample(want) && strings.HasSuffix("/"+path.Dir(want), "/"+path.Dir(strings.TrimLeft(path.Clean(got), "./"))) && len(a) >= 4 && names.Distance(a, b) == 1 && path.Ext(got) == path.Ext(want) && names.DigitsIn(a) == names.DigitsIn(b)
}

// quotedAnywhere gives the files to which paths lead that stand in code.
func (c *Call) quotedAnywhere() map[string]bool {
	said := map[string]bool{}
	c.Graph.Look().Each(func(at string) {
		if refs.IsCode(at) && !isDocument(at) {
			for _, q := range c.Graph.Noted(at).Quotes {
				for _, to := range c.standing("**/" + belowSteps(q)) {
					said[to] = true
				}
			}
		}
	})
	return said
}

// belowSteps gives a path without the steps up that it begins with.
func belowSteps(q lang.Quoted) string {
	name := path.Clean(q.Name)
	for strings.HasPrefix(name, "../") {
		name = name[3:]
	}
	return name
}

// meantBy gives the file that is a slip away from a path, "" where the path leads somewhere or
// nobody can tell.
func (c *Call) meantBy(from string, q lang.Quoted) string {
	name, beside := belowSteps(q), path.Join(path.Dir(from), q.Name)
	if strings.HasPrefix(name, "-") || c.reaches("**/"+name) || c.stands(beside) || c.hidden(from, name) || c.hidden(from, beside) {
		return ""
	}
	if near := c.nearBelow(name, true); near != "" {
		if path.Dir(name) == "." && names.Distance(name, path.Base(near)) > 1 {
			return "" // another name
		}
		return near
	}
	if noUnit(from) || path.Dir(name) == "." {
		return "" // tests say paths that are nowhere
	}
	moved := c.sameName(name, from)
	if len(moved) != 1 || path.Ext(moved[0]) != path.Ext(name) || len(c.Graph.Look().FoldersEnding(path.Dir(name))) == 0 || c.CommonName(path.Base(name), c.Top, false) != nil {
		return "" // one of several that are called so, as every manifest is
	}
	return moved[0]
}

func (c *Call) tellQuoted(at string, q lang.Quoted, meant string) {
	line, column := refs.Place(c.textOf(at), q.Span)
	if slices.ContainsFunc(c.findings, func(g finding.Finding) bool {
		return g.Kind == c.rule.Kind && (g.About == q.Name || g.Path == c.Top.Path()+at && g.Line == line)
	}) {
		return // another rule knows what reads it
	}
	f := c.report(at, line, column, &finding.Place{Path: meant}, "it says %s, which is not there; did it mean %s?", q.Name, meant)
	f.About, f.Meant = q.Name, c.Top.Path()+meant
	f.Sought = []string{c.Top.Path() + path.Clean(q.Name)}
	if in := c.Graph.Look().FoldersEnding(path.Dir(belowSteps(q))); len(in) == 1 && path.Base(meant) == path.Base(q.Name) {
		f.Back = c.Top.Path() + path.Join(in[0], path.Base(meant))
	}
	if i := len(meant) - len(path.Clean(q.Name)); path.Dir(meant) == path.Dir(q.Name) || path.Dir(q.Name) == "." || i > 0 && strings.HasSuffix(path.Dir(meant), "/"+path.Dir(q.Name)) {
		last := refs.Span{Start: q.Span.End - int32(len(path.Base(q.Name))), End: q.Span.End}
		f.Fix = append(f.Fix, c.edit(at, last, path.Base(meant)))
	}
}
