package rules

import (
	"bytes"
	"maps"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
)

var provided = &Rule{
	Name: "provided", Kind: finding.Unwired, Level: finding.Error,
	Doc: "What a class asks its module for, that module has, or one that it imports hands on. It is told of what another module of the project has.",
	Example: `- rule: provided
  files: "src/**/*.module.ts"
  class: '\bexport\s+class\s+(\w+)'
  has: [providers, controllers]
  imports: [imports]
  exports: [exports]
  asks: '\bprivate\s+readonly\s+\w+\s*:\s*(\w+)'`,
	Options: []Option{
		{"files", Paths, true, "the modules", true},
		{"class", Finders, true, "finds the name of a module: its first group", false},
		{"has", Texts, true, "the keys whose lists hold what a module makes", false},
		{"imports", Texts, true, "the keys whose lists hold the modules that it imports, and what those are given", false},
		{"exports", Texts, true, "the keys whose lists hold what it hands on", false},
		{"asks", Finders, true, "finds in a class what it asks for: its first group", false},
		{"everywhere", Regexps, false, "what a module says that hands on to all others", false},
	},
	Run: func(c *Call) {
		all := c.modulesByName()
		for _, name := range slices.Sorted(maps.Keys(all)) {
			if m := all[name]; !m.open {
				c.tellUnprovided(m, all)
			}
		}
	},
}

// A module of a framework that gives classes what they ask for, with the words of its lists.
type module struct {
	name, at              string
	has, imports, exports []string
	everywhere, open      bool // it hands on to all others; its lists hold more than is written there
}

// modulesByName reads the modules by their names.
func (c *Call) modulesByName() map[string]*module {
	all := map[string]*module{}
	for _, f := range c.files("files") {
		code := c.Graph.Code(f.path)
		for _, re := range c.regexps["class"] {
			if found := groupsIn(re, code); len(found) == 1 && !c.lends(f.path) {
				m := &module{name: found[0], at: f.path, everywhere: anyFits(c.regexps["everywhere"], code)}
				m.has, m.imports, m.exports = c.listed("has", code, m), c.listed("imports", code, m), c.listed("exports", code, m)
				all[m.name] = m
			}
		}
	}
	return all
}

// beginsList finds a key with the list behind it, up to its bracket.
var beginsList = lazy.New(`\b(\w+)\s*:\s*(\S)`)

// listed gives the words in the lists of the keys of an option.
func (c *Call) listed(option string, code []byte, m *module) (all []string) {
	for _, found := range beginsList.FindAll(code) {
		if !slices.Contains(c.texts(option), string(code[found[2]:found[3]])) {
			continue
		}
		if code[found[4]] != '[' {
			m.open = true
			continue
		}
		list := code[found[5]:]
		if end := closing(list, "[]"); end >= 0 {
			list = list[:end]
		}
		m.open = m.open || bytes.Contains(list, []byte("..."))
		lang.EachWord(list, func(_ int, word []byte) { all = append(all, string(word)) })
	}
	return all
}

// tellUnprovided tells of what the classes of a module ask for, and another module has.
func (c *Call) tellUnprovided(m *module, all map[string]*module) {
	given := slices.Concat(m.has, m.imports)
	for _, name := range m.imports {
		if other := all[name]; other != nil {
			given = append(given, givenOn(other, all, map[string]bool{})...)
		}
	}
	for _, other := range all {
		if other.everywhere {
			given = append(given, givenOn(other, all, map[string]bool{})...)
		}
	}
	said := c.refsOf(m.at)
	for _, class := range m.has {
		at, _ := c.importedAs(m.at, said, class)
		if at == "" || path.Ext(at) != path.Ext(m.at) || len(c.refsOf(at).Of(refs.Type)) > 1 {
			continue
		}
		code := c.Graph.Code(at)
		for _, re := range c.regexps["asks"] {
			for _, found := range re.FindAll(code) {
				asked := string(code[found[2]:found[3]])
				if by := c.whoHas(asked, all); by != nil && !slices.Contains(given, asked) {
					c.tellOneUnprovided(m, by, at, asked, lang.At(found[2], found[3]))
				}
			}
		}
	}
}

// tellOneUnprovided tells of one thing that a class asks for, and which module has it.
func (c *Call) tellOneUnprovided(m, by *module, at, asked string, span refs.Span) {
	line, column := refs.Place(c.Graph.Code(at), span)
	if slices.Contains(by.exports, asked) {
		c.report(at, line, column, &finding.Place{Path: m.at}, "it asks for %s, and %s does not import %s, which hands it on", asked, m.name, by.name)
		return
	}
	c.report(at, line, column, &finding.Place{Path: by.at}, "it asks for %s, which %s has and does not hand on to %s", asked, by.name, m.name)
}

// whoHas gives the one module that has a thing, nil where none does, or several, or nobody can tell.
func (c *Call) whoHas(asked string, all map[string]*module) (by *module) {
	for _, m := range all {
		if m.open {
			return nil
		}
		if slices.Contains(m.has, asked) {
			if by != nil {
				return nil
			}
			by = m
		}
	}
	return by
}

// givenOn lists what a module hands on, with what the modules do that it hands on.
func givenOn(m *module, all map[string]*module, met map[string]bool) (given []string) {
	if met[m.name] {
		return nil
	}
	met[m.name] = true
	given = append(given, m.exports...)
	for _, name := range m.exports {
		if other := all[name]; other != nil {
			given = append(given, givenOn(other, all, met)...)
		} else if strings.HasSuffix(name, "Module") { // of others: what it was given, too
			given = append(given, m.imports...)
		}
	}
	return given
}
