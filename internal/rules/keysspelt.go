package rules

import (
	"bytes"
	"slices"
	"strings"

	"dicaxon/internal/edit"
	"dicaxon/internal/finding"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
)

var keysSpelt = &Rule{
	Name: "keys-spelt", Kind: finding.Substandard, Level: finding.Warning,
	Doc: "A key of settings is spelt as what reads them knows it. One that nobody knows is told only where it is a slip away from one that is.",
	Example: `- rule: keys-spelt
  files: package.json
  known: [name, scripts, dependencies]`,
	Options: []Option{
		{"files", Paths, true, "the settings", true},
		{"below", Text, false, "the key below which the keys stand; \"*\" stands for one key; the top, if left out", false},
		{"known", Texts, true, "the keys that what reads the settings knows there", false},
	},
	Run: func(c *Call) {
		for _, f := range c.files("files") {
			c.misspeltKeys(f.path)
		}
	},
}

// keysBelow lists the keys of a file right below another, each as it is written, in their order.
func (c *Call) keysBelow(at, above string) (all []string) {
	for _, k := range c.refsOf(at).Refs {
		if name := keyBelow(above, k.Name); k.Kind == refs.Key && name != "" && !slices.Contains(all, name) {
			all = append(all, name)
		}
	}
	return all
}

// mistypedKey tells of a key that stands for one that a file must set and does not; it says whether
// there is one.
func (c *Call) mistypedKey(at, key string) bool {
	above, last := "", key
	if i := strings.LastIndexByte(key, '.'); i >= 0 {
		above, last = key[:i], key[i+1:]
	}
	near := nearOne(last, c.keysBelow(at, above))
	return near != "" && c.tellKey(at, near, last)
}

// misspeltKeys tells of the keys of one file that are a slip away from one that is known.
func (c *Call) misspeltKeys(at string) {
	here := c.keysBelow(at, c.text("below"))
	known := c.texts("known")
	for _, name := range here {
		told := func(f finding.Finding) bool { return f.About == name && f.Path == c.Top.Path()+at }
		if slices.Contains(known, name) || slices.ContainsFunc(c.findings, told) {
			continue
		}
		// What differs in more than the order of its letters is another key where that one is there, too.
		meant := only(known, func(one string) bool {
			return names.Mistyped(name, one) || names.Near(name, one) != names.Apart && !slices.Contains(here, one)
		})
		if meant != "" {
			c.tellKey(at, name, meant)
		}
	}
}

// keyAbove gives what stands before the last dot of a name, "" where there is none.
func keyAbove(name string) string { return name[:max(0, strings.LastIndexByte(name, '.'))] }

// keyBelow gives the key that stands right below another in the name of one that may be deeper; ""
// where it does not.
func keyBelow(above, name string) string {
	rest := name
	if above != "" {
		for _, part := range strings.Split(above, ".") {
			first, deeper, ok := strings.Cut(rest, ".")
			if !ok || part != "*" && part != first {
				return ""
			}
			rest = deeper
		}
	}
	first, _, _ := strings.Cut(rest, ".")
	return first
}

// tellKey tells of a key that stands for another; it says whether the text shows where.
func (c *Call) tellKey(at, name, meant string) bool {
	text := c.textOf(at)
	places := slices.DeleteFunc(lang.Words(text, name), func(i int) bool {
		before := bytes.TrimRight(text[bytes.LastIndexByte(text[:i], '\n')+1:i], " \t\"'")
		behind := bytes.TrimLeft(text[i+len(name):], " \t\"'")
		begins := len(before) == 0 || strings.IndexByte("{,[-", before[len(before)-1]) >= 0
		return !begins || len(behind) == 0 || strings.IndexByte(":=.]", behind[0]) < 0
	})
	if len(places) == 0 {
		return false
	}
	span := lang.At(places[0], places[0]+len(name))
	line, column := refs.Place(text, span)
	f := c.report(at, line, column, nil, "it sets %s, which is no key there; did it mean %s?", name, meant)
	f.About = name
	if len(places) == 1 {
		f.Fix = []edit.Edit{c.edit(at, span, meant)}
	}
	return true
}
