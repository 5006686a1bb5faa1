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

// misspeltKeys tells of the keys of one file that are a slip away from one that is known.
func (c *Call) misspeltKeys(at string) {
	var here []string // each as it is written, in the order of the file
	for _, k := range c.refsOf(at).Refs {
		if name := keyBelow(c.text("below"), k.Name); k.Kind == refs.Key && name != "" && !slices.Contains(here, name) {
			here = append(here, name)
		}
	}
	known := c.texts("known")
	for _, name := range here {
		if slices.Contains(known, name) {
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

// tellKey tells of a key that stands for another.
func (c *Call) tellKey(at, name, meant string) {
	text := c.textOf(at)
	places := slices.DeleteFunc(lang.Words(text, name), func(i int) bool {
		before := bytes.TrimRight(text[bytes.LastIndexByte(text[:i], '\n')+1:i], " \t\"'")
		behind := bytes.TrimLeft(text[i+len(name):], " \t\"'")
		return len(before) > 0 && !bytes.ContainsRune([]byte("{,[-"), rune(before[len(before)-1])) || len(behind) == 0 || !bytes.ContainsRune([]byte(":=.]"), rune(behind[0]))
	})
	if len(places) == 0 {
		return
	}
	span := lang.At(places[0], places[0]+len(name))
	line, column := refs.Place(text, span)
	f := c.report(at, line, column, nil, "it sets %s, which is no key there; did it mean %s?", name, meant)
	f.About = name
	if len(places) == 1 {
		f.Fix = []edit.Edit{c.edit(at, span, meant)}
	}
}
