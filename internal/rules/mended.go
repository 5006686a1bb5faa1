package rules

import (
	"slices"
	"strings"

	"dicaxon/internal/edit"
	"dicaxon/internal/refs"
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
		one, ok := c.mendedIn(e, meant)
		if !ok {
			one, ok = c.respelt(e)
		}
		if !ok {
			return nil
		}
		all = append(all, one)
	}
	return all
}

// mendedIn writes what is taken out of a module as it is called there.
func (c *Call) mendedIn(e *refs.Edge, meant string) (edit.Edit, bool) {
	if e.Within == "" || e.Ref.ValueSpan.Len() == 0 || strings.ContainsAny(meant, "/.") {
		return edit.Edit{}, false
	}
	try := e.Ref
	try.Value = meant
	a := c.Graph.Answer(e.From, try)
	return c.edit(e.From, e.Ref.ValueSpan, meant), a.Within == "" && len(a.To) > 0
}

// respelt writes a reference so that it leads to the path that it likely means.
func (c *Call) respelt(e *refs.Edge) (edit.Edit, bool) {
	paths, _ := c.likelyPaths(e)
	span := e.Ref.Edit()
	if len(paths) != 1 || span.Len() == 0 || e.Within != "" {
		return edit.Edit{}, false
	}
	for _, sought := range e.Sought {
		for _, s := range refs.Respell(e.Ref, e.From, sought, e.From, paths[0]) {
			try := e.Ref
			try.Name, try.Relative = s.Name, s.Relative
			if a := c.Graph.Answer(e.From, try); a.Within != "" || !slices.Contains(a.To, paths[0]) || s.Relative != e.Ref.Relative {
				continue
			}
			return c.edit(e.From, span, s.Name), true
		}
	}
	return edit.Edit{}, false
}

// edit makes an edit of a file of the project.
func (c *Call) edit(at string, span refs.Span, text string) edit.Edit {
	line, _ := refs.Place(c.textOf(at), span)
	return edit.Edit{Path: c.Top.Path() + at, Line: line, Start: int(span.Start), End: int(span.End), Text: text}
}
