package rules

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/edit"
	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/refs"
)

var (
	// offers finds a list of the names that a module of Python offers to those who import all of it (The Python Language
	// Reference, 7.11, "The import statement"), and offered each of them.
	offers  = lazy.New(`(?m)^__all__\s*(?::[^=\n]*)?\+?=\s*[\[(]([^\])]*)[\])]`)
	offered = lazy.New(`["'](\w+)["']`)
)

// tellOffered tells of names that a module of Python offers and binds nowhere: who imports all of it is stopped.
func (c *Call) tellOffered(at string, said *refs.File) {
	wired := func(f finding.Finding) bool { // how to wire what it offers is said there
		return f.Kind == finding.Unwired && f.Other != nil && f.Other.Path == c.Top.Path()+at
	}
	if path.Ext(at) != ".py" || said.Open || len(said.Uses.Gives) == 0 || !said.Words.Has("__all__") || slices.ContainsFunc(c.findings, wired) {
		return
	}
	code := c.Graph.Code(at)
	for _, list := range offers.Get().FindAllSubmatchIndex(code, -1) {
		for _, m := range offered.Get().FindAllSubmatchIndex(code[list[2]:list[3]], -1) {
			span := refs.Span{Start: int32(list[2] + m[2]), End: int32(list[2] + m[3])}
			name := string(span.In(code))
			if said.Uses.Gives.Has(name) || strings.HasPrefix(name, "__") || c.isModule(path.Join(path.Dir(at), name), at) {
				continue
			}
			f := c.atName(at, span, "", "it offers %s in __all__, and nothing in it gives that", name)
			if near := nearOne(name, c.givenBy(at)); near != "" {
				f.Message += "; did it mean " + near + "?"
				f.Fix = []edit.Edit{c.edit(at, span, near)}
			}
		}
	}
}

// isModule says whether a module lies at a path below the folder for which a file stands.
func (c *Call) isModule(module, of string) bool {
	return path.Base(of) == "__init__.py" && (c.isFolder(module) || len(c.Graph.Look().Stemmed(module)) > 0)
}
