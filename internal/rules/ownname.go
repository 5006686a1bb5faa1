package rules

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/edit"
	"dicaxon/internal/finding"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
)

// An ownName is an import of Go or Dart that says the project's own name nearly, with what it
// means.
type ownName struct {
	edge  refs.Edge
	meant string
}

// nearOwn gives what of the project an import of Go or Dart likely means: the project's own name is
// a slip away, and the rest leads to something there.
func (c *Call) nearOwn(e *refs.Edge, manifest string) string {
	name, scheme := c.nameIn(manifest), ""
	if path.Base(manifest) == "pubspec.yaml" {
		scheme = "package:"
	}
	if name == nil || path.Base(manifest) != "go.mod" && scheme == "" {
		return ""
	}
	own := strings.Split(strings.TrimPrefix(c.ownPrefix(manifest, name), scheme), "/")
	written := strings.Split(strings.TrimPrefix(e.Ref.Name, scheme), "/")
	if len(written) < len(own) || slices.Equal(written[:len(own)], own) {
		return ""
	}
	for i := range own {
		if written[i] != own[i] && names.Near(written[i], own[i]) == names.Apart {
			return ""
		}
	}
	try := e.Ref
	try.Name = scheme + path.Join(append(slices.Clone(own), written[len(own):]...)...)
	if len(c.Graph.Resolve(e.From, try)) == 0 {
		return ""
	}
	return try.Name
}

// tellOwn tells once of all imports that say the project's own name nearly. Where no import says
// it as the manifest does, the manifest is wrong.
func (c *Call) tellOwn(manifest string, all []ownName) {
	first := all[0]
	name := c.nameIn(manifest)
	if len(all) > 1 && !c.saysOwn(name.Edit().In(c.textOf(manifest)), all) {
		f := c.atRef(manifest, *name, &finding.Place{Path: first.edge.From, Line: first.edge.Ref.Line}, "it says %s, but what is imported here begins with another name, such as %s", name.Edit().In(c.textOf(manifest)), first.edge.Ref.Name)
		for _, o := range all {
			f.AlsoAt(c.Top.Path() + o.edge.From)
		}
		f.Level = finding.Error
		if imported, ok := strings.CutSuffix(first.edge.Ref.Name, strings.TrimPrefix(first.meant, c.ownPrefix(manifest, name))); ok {
			f.Fix = []edit.Edit{c.edit(manifest, name.Edit(), strings.TrimPrefix(imported, "package:"))}
		}
		return
	}
	f := c.atRef(first.edge.From, first.edge.Ref, &finding.Place{Path: manifest}, "it imports %s, which %s does not ask for; did it mean %s?", first.edge.Ref.Name, manifest, first.meant)
	f.About = first.edge.Ref.Name
	for i, o := range all {
		f.Fix = append(f.Fix, c.edit(o.edge.From, o.edge.Ref.Span, o.meant))
		if i > 0 {
			f.AlsoAt(c.Top.Path() + o.edge.From)
		}
	}
}

// nameIn gives where a manifest says the name of its project, nil where it says none.
func (c *Call) nameIn(manifest string) *refs.Ref {
	if path.Base(manifest) == "pubspec.yaml" {
		return c.refsOf(manifest).Get("name")
	}
	return c.refsOf(manifest).Package()
}

// ownPrefix gives what an import begins with that says the name of the project.
func (c *Call) ownPrefix(manifest string, name *refs.Ref) string {
	if path.Base(manifest) == "pubspec.yaml" {
		return "package:" + name.Value
	}
	return name.Name
}

// saysOwn says whether some file of the kind imports by the name that the manifest gives.
func (c *Call) saysOwn(name []byte, all []ownName) bool {
	ending := path.Ext(all[0].edge.From)
	found := false
	c.Graph.Look().Each(func(at string) {
		if found || path.Ext(at) != ending {
			return
		}
		found = slices.ContainsFunc(c.refsOf(at).Of(refs.Import), func(r refs.Ref) bool {
			return names.HasWords(strings.TrimPrefix(r.Name, "package:")+"/", string(name)+"/")
		})
	})
	return found
}
