package rules

import (
	"bytes"
	"cmp"
	"fmt"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/edit"
	"dicaxon/internal/finding"
	"dicaxon/internal/manifest"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
	"dicaxon/internal/tree"
)

var dangling = &Rule{
	Name: "dangling", Kind: finding.Dangling, Level: finding.Error, Always: true,
	Doc: "A reference to something of the project's own leads to what is there: imports, links, what an image copies. What may be made elsewhere gives a warning, a link of a document a note.",
	Example: `- rule: dangling
  except: "src/generated/**"`,
	Options: []Option{{"except", Paths, false, "files whose references nobody follows", true}},
	Run:     runDangling,
}

// A broken is one cause of references that lead nowhere, with all of them.
type broken struct {
	edges []refs.Edge
	meant []string
	path  string // the one that was meant, "" where it is none or there are several
	back  string // where that would be found as it is named; see backTo
	near  bool   // what was meant is a slip away
	// folder is the one that is not there for several causes; see lostFolder.
	folder string
}

func runDangling(c *Call) {
	c.tellClimbing()
	causes := c.tellNearPackages(c.brokenCauses())
	moved := movedBy(causes)
	c.ofOneFolder(causes)
	for _, b := range causes {
		// What a file names that was moved is there once it is back.
		own := broken{meant: slices.Clone(b.meant), path: b.path, near: b.near, folder: b.folder}
		b.edges = slices.DeleteFunc(b.edges, func(e refs.Edge) bool {
			back := moved[e.From] != "" && len(c.Graph.Resolve(moved[e.From], e.Ref)) > 0
			if back {
				own.edges = append(own.edges, e)
			}
			return back
		})
		if len(b.edges) > 0 {
			c.tellBroken(b, false)
		}
		if len(own.edges) > 0 {
			c.tellBroken(&own, true)
		}
	}
}

// brokenCauses puts the references that lead nowhere together by what they look for, in the
// order in which they are met.
func (c *Call) brokenCauses() (all []*broken) {
	causes, hidden := map[string]*broken{}, map[string]bool{}
	for _, e := range c.Graph.Broken() {
		if !c.looksFor(&e) {
			continue
		}
		key := e.Sought[0] + "\x00" + e.Within
		if e.Near { // of which less is expected than of others that look for the same
			key += "\x00"
		}
		if hidden[key] || !hasLetters(e.Ref.Name+e.Ref.Value) {
			continue
		}
		if causes[key] == nil && !c.besideMade(&e) && (c.inAnother(&e) || c.declaredAs(&e) || e.Ref.Value != lang.Program && slices.ContainsFunc(e.Sought, func(at string) bool { return c.hidden(e.From, at) || c.filledIn(at) })) {
			hidden[key] = true
			continue
		}
		if known := causes[key]; known != nil {
			known.edges = append(known.edges, e)
			continue
		}
		meant, paths, near := c.likely(&e)
		if len(meant) == 0 && e.Ref.Kind == refs.Link && !e.Fails {
			key = e.From // what is dead in one document is told once
		}
		if causes[key] == nil {
			causes[key] = &broken{meant: meant, near: near}
			if len(paths) == 1 {
				causes[key].path = paths[0]
				causes[key].back = c.backTo(paths[0], &e)
			}
			all = append(all, causes[key])
		}
		causes[key].edges = append(causes[key].edges, e)
	}
	return all
}

// besideMade says whether what a reference looks for would be made by a program, and the project keeps
// what is made, with one of a mistyped name.
func (c *Call) besideMade(e *refs.Edge) bool {
	at := e.Sought[0]
	in := c.node(path.Dir(at))
	return in != nil && in.Folder != nil && c.made(at) && !c.Repository.Ignores(c.Top.Path()+at) &&
		slices.ContainsFunc(in.Folder.Nodes, func(n tree.Node) bool { return !n.Ignored && n.Folder == nil && names.Mistyped(path.Base(at), n.Name) })
}

// looksFor says whether anybody expects a reference to lead somewhere, from where its file belongs.
func (c *Call) looksFor(e *refs.Edge) bool {
	if c.fits("except", e.From) || c.lends(e.From) {
		return false
	}
	if home := c.homeOf(e.From); home != e.From {
		if e.Answer = c.Graph.Answer(home, e.Ref); !e.Broken() {
			return false
		}
	}
	if path.Base(e.Ref.Name) == "cordova.js" || inFolder(e.From, func(name string) bool { return name == "dist" }) {
		return false // what Apache Cordova brings, and what was built
	}
	absent := c.absentAbove(e.Sought[0])
	if made[path.Base(absent)] && absent != e.Sought[0] {
		return false
	}
	// What a page of tests loads may be built or served, and a part of a page lies where that does.
	e.Near = e.Near || strings.HasPrefix(path.Ext(e.From), ".htm") && (inSample(e.From) || c.isPartOfPage(e.From))
	if e.Ref.Kind == refs.Path && c.Repository.Top.At(path.Clean(e.Ref.Name)) != nil {
		return false // an image is built from the top of the repository
	}
	// A folder of what others wrote is fetched.
	return e.Ref.Kind != refs.Link || !fetched(e.Sought[0], absent)
}

// isPartOfPage says whether a file holds the beginning of a page or its end alone.
func (c *Call) isPartOfPage(at string) bool {
	text := bytes.ToLower(c.textOf(at))
	return bytes.Contains(text, []byte("<html")) != bytes.Contains(text, []byte("</html>"))
}

// made are folders that a program fills, by their names.
var made = map[string]bool{"compiled": true, "generated": true, "__generated__": true, "_generated": true, "autogen": true}

// fetched says whether a path that is not there lies in a folder for what others wrote, or in a folder that is
// not there of one; absent is the first of its folders that is not there, or itself.
func fetched(at, absent string) bool {
	return slices.Contains(lenders, path.Base(absent)) || absent != at && slices.ContainsFunc(strings.Split(absent, "/"), func(name string) bool { return slices.Contains(lenders, name) })
}

// movedBy gives the files that were moved, and where others look for them. Who looks was not
// moved: of two that look for each other nobody can tell which was.
func movedBy(causes []*broken) map[string]string {
	moved, sure := map[string]string{}, map[string]string{}
	for _, b := range causes {
		if b.back != "" {
			moved[b.path] = b.back
		}
	}
	for _, b := range causes {
		if moved[b.path] != "" && slices.ContainsFunc(b.edges, func(e refs.Edge) bool { return moved[e.From] == "" }) {
			sure[b.path] = moved[b.path]
		}
	}
	return sure
}

func hasLetters(name string) bool { return strings.Trim(name, "./") != "" }

// tellBroken tells one cause: the first reference, with the places of the others. Those of a file
// that was moved are its own.
func (c *Call) tellBroken(b *broken, ofMove bool) {
	first := b.edges[0]
	if len(b.meant) == 0 && (first.Only || first.Near) || first.Near && !b.near {
		return
	}
	said := what(&first)
	if c.keeps(&first) {
		said = fmt.Sprintf("it imports %s from %s, which declares it and does not export it", first.Ref.Value, cmpName(first.Ref.Name, first.Within))
	}
	// A folder that is there and holds nothing that can be imported is not what was meant.
	b.meant = slices.DeleteFunc(b.meant, func(meant string) bool { return first.Within == "" && slices.Contains(first.Sought, meant) })
	if len(b.meant) > 0 {
		said += "; did it mean " + strings.Join(b.meant, " or ") + "?"
	}
	span := first.Ref.Span
	if first.Ref.ValueSpan.Len() > 0 && (first.Within != "" || span.Len() == 0) {
		span = first.Ref.ValueSpan
	}
	line, column := refs.Place(c.textOf(first.From), span)
	f := c.report(first.From, line, column, &finding.Place{Path: first.Sought[0]}, "%s", said)
	f.About, f.OfMove = first.Sought[0], ofMove
	if b.path != "" {
		f.Meant = c.Top.Path() + b.path
		f.About = cmp.Or(b.folder, f.About)
	}
	if b.back != "" {
		f.Back = c.Top.Path() + b.back
	}
	if first.Ref.Kind == refs.Model {
		f.About = first.Ref.Name
	}
	for _, at := range first.Sought {
		f.Sought = append(f.Sought, c.looked(first.From, at)...)
	}
	if f.Level == finding.Error {
		switch {
		case first.Only || first.Elsewhere || c.onlyCase(&first) || !first.Fails && b.near:
			f.Level = finding.Warning
		case !first.Fails:
			f.Level = finding.Note
		}
	}
	for _, e := range b.edges[1:] {
		also := c.Top.Path() + e.From
		if e.From == first.From && e.Ref.Name != first.Ref.Name {
			also = e.Ref.Name
		}
		f.AlsoAt(also)
	}
	if b.back != "" && c.belongsBack(b.path, b.back) {
		f.SendBack(f.Meant, f.Back, finding.Place{Path: c.Top.Path() + first.From, Line: f.Line}, len(b.edges)-1)
		f.Line, f.Column = 0, 0
		return
	}
	if one, ok := c.exported(&first); ok {
		f.Fix = []edit.Edit{one}
	} else if len(b.meant) == 1 && (b.near || !manifest.Is(path.Base(first.Sought[0]))) { // each part has a manifest of that name
		f.Fix = c.mended(b.edges, b.meant[0])
	}
}

// ofOneFolder notes which causes have one of their own: the folder that is not there.
func (c *Call) ofOneFolder(causes []*broken) {
	of := map[string][]*broken{}
	for _, b := range causes {
		if b.path != "" {
			folder := c.lostFolder(b.edges[0].Sought[0], b.path)
			of[folder] = append(of[folder], b)
		}
	}
	for folder, all := range of {
		if len(all) < 2 {
			continue
		}
		for _, b := range all {
			b.folder = folder
		}
	}
}

// lostFolder gives the folder that is not there for all that is looked for in it, where that lies in another one now;
// "" where it is something else that is not there.
func (c *Call) lostFolder(sought, meant string) string {
	absent := c.absentAbove(sought)
	within, inside := strings.CutPrefix(sought, absent+"/")
	plain := func(at string) string { return path.Join(path.Dir(at), names.BeforeDot(path.Base(at))) }
	switch {
	case inside && strings.HasSuffix(plain(meant), "/"+plain(within)):
		return absent
	case !inside && refs.IsIndex(path.Base(meant)):
		return strings.TrimSuffix(absent, path.Ext(absent))
	}
	return ""
}

// backTo gives where the file that references mean lay when they were written: it has its name
// still, and nobody names it where it lies.
func (c *Call) backTo(meant string, first *refs.Edge) string {
	if n := c.node(meant); n == nil || n.Folder != nil || c.homeOf(meant) != meant || !c.idle(meant) {
		return ""
	}
	for _, at := range first.Sought {
		if path.Ext(at) != path.Ext(meant) && slices.Contains(compiledTo, path.Ext(at)) && names.Stem(path.Base(at)) == names.BeforeDot(path.Base(meant)) {
			at = path.Join(path.Dir(at), path.Base(meant))
		}
		if path.Ext(first.From) == ".go" && path.Ext(meant) == ".go" { // a package is a folder
			at = path.Join(at, path.Base(meant))
		}
		if path.Base(at) == path.Base(meant) && inCommon(at, meant) == 1 && c.node(at) == nil {
			return at
		}
	}
	return ""
}

// belongsBack says whether a file is, by the layout, what it has where others look for the file,
// and nothing of its own where it lies.
func (c *Call) belongsBack(from, to string) bool {
	text := c.textOf(from)
	special := func(at string) bool {
		e := c.Lookup(at).Entry
		if e == nil || e.Parent == nil {
			return false
		}
		if e.Shows != nil && e.Unit == "" {
			return e.ShownIn(text)
		}
		return e.Unit != "" || !e.CatchAll() && !e.OnlyEnding()
	}
	in := path.Dir(to)
	return c.isFolder(in) && !strings.HasPrefix(from, in+"/") && special(to) && !special(from)
}

// onlyCase says whether what a reference names is there but for the case of its letters:
// on many disks it is found all the same.
func (c *Call) onlyCase(e *refs.Edge) bool {
	return e.Within == "" && slices.ContainsFunc(e.Sought, func(at string) bool {
		at, _, _ = strings.Cut(at, "#")
		return c.Repository.Spelled(c.Top.Path()+at, func(string) bool { return true }) != c.Top.Path()+at
	})
}

// what says what a reference names and that it is not there.
func what(e *refs.Edge) string {
	name := strings.Repeat(".", e.Ref.Relative) + e.Ref.Name
	if e.Within != "" && e.Ref.Kind == refs.Link {
		page, anchor, _ := strings.Cut(name, "#")
		return fmt.Sprintf("it links to #%s, a heading that %s does not have", anchor, cmp.Or(page, "it"))
	}
	if e.Within != "" && path.Ext(e.Within) == ".kt" {
		return fmt.Sprintf("it imports %s, and %s declares nothing of that name", name, e.Within)
	}
	if e.Within != "" && e.Ref.Value == "" {
		return fmt.Sprintf("it imports %s, but %s, where that is looked for, declares another namespace", name, e.Within)
	}
	if e.Within != "" && e.Ref.Value == "default" {
		return fmt.Sprintf("it imports what %s exports as its default, and there is none", cmpName(name, e.Within))
	}
	if e.Within != "" {
		return fmt.Sprintf("it imports %s from %s, which has no such name", e.Ref.Value, cmpName(name, e.Within))
	}
	if strings.Trim(name, ".") == "" {
		name = e.Ref.Value
	}
	switch e.Ref.Kind {
	case refs.Model, refs.Source:
		return fmt.Sprintf("it reads %s, which is not there", name)
	case refs.Link:
		if e.Ref.Value == "a" {
			return fmt.Sprintf("it links to %s, which is not there", name)
		}
		return fmt.Sprintf("it loads %s, which is not there", name)
	case refs.Path:
		return fmt.Sprintf("it names %s, which is not there", name)
	}
	return fmt.Sprintf("it imports %s, which is not there", name)
}

func cmpName(name, within string) string {
	if strings.Trim(name, ".") == "" {
		return within
	}
	return name
}
