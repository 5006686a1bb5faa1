package rules

import (
	"path"
	"slices"

	"dicaxon/internal/finding"
	"dicaxon/internal/names"
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
				at, _ := c.importedAs(f.path, c.refsOf(f.path), string(text[m[2]:m[3]]))
				if path.Ext(at) != path.Ext(f.path) {
					continue
				}
				if _, known := takes[at]; !known {
					takes[at] = c.takenBy(at)
				}
				c.tellHanded(at, c.spokenBy("attributes", f, text[:m[5]], m[4]), takes[at])
			}
		}
	}
}

// takenBy lists what a component takes.
func (c *Call) takenBy(at string) (all []string) {
	text := c.textOf(at)
	for _, part := range partsOf(text, c.regexps["takes-inside"]) {
		for _, re := range c.regexps["takes"] {
			all = append(all, groupsIn(re, text[part[0]:part[1]])...)
		}
	}
	return all
}

// tellHanded tells of what a component is handed that has nearly the name of what it takes.
func (c *Call) tellHanded(component string, given []spoken, takes []string) {
	same := func(a, b string) bool { return names.To("camel", a) == names.To("camel", b) }
	for _, s := range given {
		if slices.ContainsFunc(takes, func(one string) bool { return same(one, s.name) }) || anyFits(c.regexps["except"], []byte(s.name)) {
			continue
		}
		near := only(takes, func(one string) bool {
			return names.Near(names.To("camel", s.name), names.To("camel", one)) != names.Apart && !slices.ContainsFunc(given, func(other spoken) bool { return same(one, other.name) })
		})
		if near == "" {
			continue
		}
		if names.To("camel", s.name) != s.name {
			near = names.To("kebab", near)
		}
		f := c.atName(s.file.path, s.at, component, "it hands %s to %s, which takes no such thing; did it mean %s?", s.name, path.Base(component), near)
		f.About, f.Fix = component+" "+s.name, append(f.Fix, c.edit(s.file.path, s.at, near))
	}
}
