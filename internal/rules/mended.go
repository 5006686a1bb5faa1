package rules

import (
	"bytes"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/edit"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
)

// mended gives the edits by which references that lead nowhere lead to the one thing that
// they likely mean; none where one of them would not.
func (c *Call) mended(edges []refs.Edge, meant string) []edit.Edit {
	var all []edit.Edit
	for i := range edges {
		e := &edges[i]
		if c.homeOf(e.From) != e.From {
			return nil
		}
		more, ok := c.mendedIn(e, meant)
		if source, table, named := strings.Cut(meant, "."); e.Ref.Kind == refs.Source && named && source == e.Ref.Value {
			more, ok = []edit.Edit{c.edit(e.From, e.Ref.Span, table)}, true
		}
		if !ok {
			var one edit.Edit
			one, ok = c.respelt(e)
			more = []edit.Edit{one}
		}
		if !ok {
			return nil
		}
		all = append(all, more...)
	}
	return all
}

// mendedIn writes what is taken out of a module as it is called there.
func (c *Call) mendedIn(e *refs.Edge, meant string) ([]edit.Edit, bool) {
	if span := e.Ref.Span; e.Within != "" && e.Ref.Kind == refs.Link {
		span.Start += int32(strings.IndexByte(e.Ref.Name, '#') + 1)
		return []edit.Edit{c.edit(e.From, span, meant)}, true
	}
	if e.Within == "" || e.Ref.ValueSpan.Len() == 0 || strings.ContainsAny(meant, "/.") {
		return nil, false
	}
	try := e.Ref
	try.Value = meant
	a := c.Graph.Answer(e.From, try)
	all, sure := c.usesRenamed(e, meant)
	return all, sure && a.Within == "" && len(a.To) > 0
}

// respelt writes a reference so that it leads to the path that it likely means.
func (c *Call) respelt(e *refs.Edge) (edit.Edit, bool) {
	span := e.Ref.Edit()
	if e.Ref.Kind == refs.Source {
		return edit.Edit{}, false
	}
	paths, _ := c.likelyPaths(e)
	if len(paths) != 1 || span.Len() == 0 || e.Within != "" {
		return edit.Edit{}, false
	}
	if found := c.Graph.Look().Stemmed(paths[0]); c.node(paths[0]) == nil && len(found) == 1 {
		paths = found
	}
	if kin(path.Ext(e.From), ".java") {
		return c.typeAt(e, paths[0])
	}
	if said := string(span.In(c.textOf(e.From))); said != e.Ref.Name && strings.HasSuffix(e.Ref.Name, "/"+said) {
		return c.lastNamed(e, paths[0])
	}
	// What has the ending of what is meant tells whether the reference leaves it out.
	alike := func(at string) int {
		if path.Ext(at) == path.Ext(paths[0]) {
			return 0
		}
		return 1
	}
	var second *edit.Edit
	for _, sought := range slices.SortedStableFunc(slices.Values(e.Sought), func(a, b string) int { return alike(a) - alike(b) }) {
		for _, s := range refs.Respell(e.Ref, e.From, sought, e.From, paths[0]) {
			try := e.Ref
			try.Name, try.Relative = s.Name, s.Relative
			if a := c.Graph.Answer(e.From, try); !leadsTo(&a, paths[0]) || s.Relative != e.Ref.Relative || !c.usedAs(e, s.Name) {
				continue
			}
			one := c.edit(e.From, span, s.Name)
			if path.Ext(s.Name) == path.Ext(e.Ref.Name) {
				return one, true
			}
			if second == nil {
				second = &one
			}
		}
	}
	if second != nil {
		return *second, true
	}
	for _, name := range swapped(e.Ref.Name, e.Sought, paths[0]) {
		try := e.Ref
		try.Name = name
		if a := c.Graph.Answer(e.From, try); a.Within == "" && len(a.To) > 0 && c.usedAs(e, name) {
			return c.edit(e.From, span, name), true
		}
	}
	return c.lastNamed(e, paths[0])
}

// wholeNamed writes the name of a reference otherwise, where the text says it as it is.
func (c *Call) wholeNamed(e *refs.Edge, name string) []edit.Edit {
	span := e.Ref.Edit()
	if string(span.In(c.textOf(e.From))) != e.Ref.Name {
		return nil
	}
	return []edit.Edit{c.edit(e.From, span, name)}
}

// lastNamed writes the last name of a reference, where it says no more than that, as that of a
// path in the same folder: in a project file of a group, a constant that is found by its file.
func (c *Call) lastNamed(e *refs.Edge, to string) (edit.Edit, bool) {
	if !slices.ContainsFunc(e.Sought, func(at string) bool { return path.Dir(at) == path.Dir(to) }) {
		return edit.Edit{}, false
	}
	written := string(e.Ref.Edit().In(c.textOf(e.From)))
	last, try := path.Base(to), e.Ref
	switch {
	case written == path.Base(e.Ref.Name) && written != e.Ref.Name:
		try.Name = path.Join(path.Dir(e.Ref.Name), last)
	case path.Ext(e.From) == ".rb" && written == e.Ref.Name && !strings.Contains(written, "::"):
		last = names.To(names.Pascal, names.BeforeDot(last))
		try.Name = last
	default:
		return edit.Edit{}, false
	}
	a := c.Graph.Answer(e.From, try)
	return c.edit(e.From, e.Ref.Edit(), last), leadsTo(&a, to)
}

// typeAt writes an import of the JVM so that it names the type that a file is called after, in the
// package that it says.
func (c *Call) typeAt(e *refs.Edge, at string) (edit.Edit, bool) {
	said := c.refsOf(at).Package()
	if said == nil || c.node(at) == nil {
		return edit.Edit{}, false
	}
	try := e.Ref
	try.Name = said.Name + "." + names.BeforeDot(path.Base(at))
	a := c.Graph.Answer(e.From, try)
	return c.edit(e.From, e.Ref.Edit(), try.Name), slices.Contains(a.To, at)
}

// usedAs says whether the file that imports a module of Python as a whole uses it by a new
// name already: what it is called there is no part of the import that would be edited.
func (c *Call) usedAs(e *refs.Edge, name string) bool {
	if path.Ext(e.From) != ".py" || e.Ref.Kind != refs.Import || e.Ref.Value != "" {
		return true
	}
	text := c.textOf(e.From)
	rest, _, _ := bytes.Cut(text[min(int(e.Ref.Span.End), len(text)):], []byte("\n"))
	return bytes.HasPrefix(bytes.TrimLeft(rest, " \t"), []byte("as ")) || names.HasWords(string(refs.Code(e.From, text)), name+".")
}

// renamed gives the edits by which a name in a text stands for what was likely meant,
// wherever the file says it; none where no name does.
func (c *Call) renamed(all []spoken, s spoken, sought []string, meant string, known *definitions) (edits []edit.Edit) {
	head, whole := strings.CutSuffix(s.name, string(s.at.In(c.textOf(s.file.path))))
	if meant == "" || !whole || c.homeOf(s.file.path) != s.file.path {
		return nil
	}
	for _, name := range append(c.namesOf(s, meant, known), swapped(s.name, sought, meant)...) {
		last, ok := strings.CutPrefix(name, head)
		try := s
		try.name = name
		// Of a name that is in a group nobody may be able to tell more.
		if _, more, broken := c.follow(try, known); !ok || last == "" || broken && (more != "" || !c.flag("near-only")) {
			continue
		}
		for _, o := range all {
			if o.file.path == s.file.path && o.name == s.name {
				edits = append(edits, c.edit(o.file.path, o.at, last))
			}
		}
		return edits
	}
	return nil
}

// rewritten gives the edits by which a value that names a path, from a folder, names another;
// what it says around the path stays, and so does the way in which it is written.
func (c *Call) rewritten(at string, span refs.Span, written, from, near string) []edit.Edit {
	value, name, here := string(span.In(c.textOf(at))), strings.ReplaceAll(written, `\`, "/"), path.Join(from, "_")
	if strings.Count(value, written) != 1 || c.homeOf(at) != at {
		return nil
	}
	for _, s := range refs.Respell(refs.Ref{Kind: refs.Path, Name: name}, here, path.Join(from, name), here, near) {
		if path.Join(from, s.Name) != near {
			continue
		}
		if strings.Contains(written, `\`) {
			s.Name = strings.ReplaceAll(s.Name, "/", `\`)
		}
		start := span.Start + int32(strings.Index(value, written))
		return []edit.Edit{c.edit(at, refs.Span{Start: start, End: start + int32(len(written))}, s.Name)}
	}
	return nil
}

// namesOf lists the names that stand for what was meant: a module by its dots, a path by the
// ways in which a name becomes one, a definition by itself.
func (c *Call) namesOf(s spoken, meant string, known *definitions) (all []string) {
	if c.flag("module") {
		_, given, _ := strings.Cut(s.name, ":")
		parts := strings.Split(strings.TrimSuffix(strings.TrimSuffix(meant, ".py"), "/__init__"), "/")
		for i := range parts {
			name := strings.Join(parts[i:], ".")
			if given != "" {
				name += ":" + given
			}
			all = append(all, name)
		}
	}
	for _, to := range c.texts("to") {
		form, ending := fill(to, s.file.env, c.env), ""
		if strings.Contains(form, "{.}") { // it leaves the ending out
			form, ending = strings.Replace(form, "{.}", "{}", 1), path.Ext(s.name)
		}
		if below, here := strings.CutPrefix(form, "./"); here {
			from := c.homeOf(s.file.path)
			form = path.Join(path.Dir(from), below)
			for _, o := range refs.Respell(refs.Ref{Kind: refs.Path, Name: s.name}, from, path.Join(path.Dir(from), s.name), from, meant) {
				all = append(all, o.Name)
			}
		}
		if rest, anywhere := strings.CutPrefix(form, "**/"); anywhere && strings.Contains(s.name, "/") { // with as many folders
			if name := inverse(strings.TrimSuffix(rest, "/"), tailOf(meant, strings.Count(s.name, "/")+1)); name != "" {
				all = append(all, begunAs(s.name, name+ending))
			}
		}
		if name := inverse(strings.TrimSuffix(form, "/"), meant); name != "" {
			all = append(all, begunAs(s.name, name+ending))
		}
	}
	if known != nil {
		all = append(all, meant)
	}
	return all
}

// tailOf gives the last names of a path.
func tailOf(at string, many int) string {
	parts := strings.Split(at, "/")
	return strings.Join(parts[max(0, len(parts)-many):], "/")
}

// swapped gives a name with the one part of it changed in which what it was looked for at and
// what was meant differ, in whichever shape the name has that part.
func swapped(name string, sought []string, meant string) (all []string) {
	for _, at := range sought {
		old, new := differingPart(strings.Split(strings.TrimSuffix(at, "/"), "/"), strings.Split(meant, "/"))
		for _, shape := range append([]names.Shape{""}, names.Shapes...) {
			from, to := old, new
			if shape != "" {
				from, to = names.To(shape, old), names.To(shape, new)
			}
			if at := lang.Words([]byte(name), from); old != "" && from != to && len(at) == 1 {
				all = append(all, name[:at[0]]+to+name[at[0]+len(from):])
			}
		}
	}
	return all
}

// differingPart gives the one name in which two paths of one length differ, without what both
// end in; "" where there are several.
func differingPart(a, b []string) (from, to string) {
	if len(a) < len(b) {
		b = b[len(b)-len(a):]
	}
	for i := range a {
		switch {
		case len(a) != len(b) || a[i] != b[i] && from != "":
			return "", ""
		case a[i] != b[i]:
			from, to = a[i], b[i]
		}
	}
	same := 0
	for same < min(len(from), len(to)) && from[len(from)-1-same] == to[len(to)-1-same] {
		same++
	}
	if i := strings.IndexAny(from[len(from)-same:], "._-"); i >= 0 { // what both end in
		return from[:len(from)-same+i], to[:len(to)-same+i]
	}
	return from, to
}

// leadsTo says whether an answer is a path, or what stands for it where it is a folder.
func leadsTo(a *lang.Answer, at string) bool {
	return a.Within == "" && slices.ContainsFunc(a.To, func(to string) bool {
		return to == at || path.Dir(to) == at && (refs.IsIndex(path.Base(to)) || path.Ext(to) == ".cs")
	})
}

// edit makes an edit of a file of the project.
func (c *Call) edit(at string, span refs.Span, text string) edit.Edit {
	line, _ := refs.Place(c.textOf(at), span)
	return edit.Edit{Path: c.Top.Path() + at, Line: line, Start: int(span.Start), End: int(span.End), Text: text}
}
