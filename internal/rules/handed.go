package rules

import (
	"path"
	"slices"

	"dicaxon/internal/finding"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
)

var handed = &Rule{
	Name: "handed", Kind: finding.Dangling, Level: finding.Warning,
	Doc: "What markup hands to a component of the project is what that takes. It is told where it is nearly the name of one thing that the component takes and is not given.",
	Example: `- rule: handed
  files: "src/**/*.vue"
  tags: '<([A-Z]\w+)\s([^<>]*)'
  attributes: '(?:^|\s):([a-z][\w-]*)='
  takes: '\b(\w+)\??\s*:'
  takes-inside: '\bdefineProps<\{[^}]*\}'`,
	Options: []Option{
		{"files", Paths, true, "the files with markup", true},
		{"tags", Finders, true, "finds a component in markup: its first group is the name, its second what is handed to it", false},
		{"attributes", Finders, true, "finds the name of one such thing: its first group", false},
		{"takes", Finders, true, "finds what a component takes: its first group", false},
		{"takes-inside", Regexps, true, "the parts of a component that say what it takes", false},
		{"except", Regexps, false, "names that every component takes", false},
	},
	Run: runHanded,
}

func runHanded(c *Call) {
	takes := map[string][]string{}
	for _, f := range c.files("files") {
		if c.lends(f.path) {
			continue
		}
		text := c.textOf(f.path)
		for _, re := range c.regexps["tags"] {
			for _, m := range re.FindAll(text) {
				at := c.componentOf(f.path, string(text[m[2]:m[3]]))
				if at == "" {
					continue
				}
				if _, known := takes[at]; !known {
					takes[at] = c.takenBy(at)
				}
				c.tellHanded(f.path, at, refs.Span{Start: int32(m[4]), End: int32(m[5])}, takes[at])
			}
		}
	}
}

// componentOf gives the file of a component that a file's markup names and its script imports, "" where it does not.
func (c *Call) componentOf(from, name string) string {
	for _, r := range c.refsOf(from).Of(refs.Import) {
		if r.Value == "default" && string(r.ValueSpan.In(c.textOf(from))) == name {
			if a := c.Graph.Answer(from, r); len(a.To) == 1 && path.Ext(a.To[0]) == path.Ext(from) {
				return a.To[0]
			}
		}
	}
	return ""
}

// takenBy lists what a component takes.
func (c *Call) takenBy(at string) (all []string) {
	text := c.textOf(at)
	for _, inside := range c.regexps["takes-inside"] {
		for _, part := range inside.FindAll(text) {
			for _, re := range c.regexps["takes"] {
				all = append(all, groupsIn(re, text[part[0]:part[1]])...)
			}
		}
	}
	return all
}

// tellHanded tells of what a component is handed that has nearly the name of what it takes.
func (c *Call) tellHanded(at, component string, within refs.Span, takes []string) {
	text := c.textOf(at)
	var given []string
	var places []refs.Span
	for _, re := range c.regexps["attributes"] {
		for _, m := range re.FindAll(within.In(text)) {
			span := refs.Span{Start: within.Start + int32(m[2]), End: within.Start + int32(m[3])}
			given, places = append(given, string(span.In(text))), append(places, span)
		}
	}
	same := func(a string) func(string) bool {
		return func(b string) bool { return names.To("camel", a) == names.To("camel", b) }
	}
	for i, name := range given {
		if slices.ContainsFunc(takes, same(name)) || anyFits(c.regexps["except"], []byte(name)) {
			continue
		}
		near := only(takes, func(one string) bool {
			return names.Near(names.To("camel", name), names.To("camel", one)) != names.Apart && !slices.ContainsFunc(given, same(one))
		})
		if near == "" {
			continue
		}
		if names.To("camel", name) != name {
			near = names.To("kebab", near)
		}
		f := c.atName(at, places[i], component, "it hands %s to %s, which takes no such thing; did it mean %s?", name, path.Base(component), near)
		f.About, f.Fix = component+" "+name, append(f.Fix, c.edit(at, places[i], near))
	}
}
