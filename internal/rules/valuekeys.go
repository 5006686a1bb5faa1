package rules

import (
	"bytes"
	"fmt"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
)

var valueKeys = &Rule{
	Name: "value-keys", Kind: finding.Dangling, Level: finding.Warning,
	Doc: "A value that templates ask for is among the settings that give them.",
	Example: `- rule: value-keys
  files: "templates/**/*.yaml"
  by: '\.Values\.([\w.]+)'
  in: values.yaml`,
	Options: []Option{
		{"files", Paths, true, "the templates", false},
		{"by", Finders, true, "finds the name of a value: its first group", false},
		{"in", Paths, true, "the settings that give them", false},
		{"unless", Regexps, false, "what a line has that does without the value", false},
	},
	Run: func(c *Call) {
		settings := c.files("in")
		if len(settings) == 0 {
			return
		}
		known := map[string]bool{}
		var leaves []string
		for _, f := range settings {
			for _, k := range c.refsOf(f.path).Of(refs.Key) {
				leaves = append(leaves, k.Name)
				for name := k.Name; name != ""; name = keyAbove(name) {
					known[name] = true
				}
			}
		}
		seen := map[string]bool{}
		for _, f := range c.files("files") {
			text := c.textOf(f.path)
			for _, by := range c.regexps["by"] {
				for _, m := range by.FindAll(text) {
					name := strings.Trim(string(text[m[2]:m[3]]), ".")
					if seen[name] || known[name] || belowLeaf(name, leaves, known) {
						continue
					}
					near := nearOne(name, leaves)
					if (c.doesWithout(text, m[0]) || c.askedAbove(text, m[0], name, known)) && !slipOf(name, near) {
						continue
					}
					seen[name] = true
					line, column := refs.Place(text, refs.Span{Start: int32(m[2])})
					message := fmt.Sprintf("it asks for %s, which %s does not have", name, settings[0].path)
					if near != "" {
						message += "; did it mean " + near + "?"
					}
					told := c.report(f.path, line, column, &finding.Place{Path: settings[0].path}, "%s", message)
					if told.About = name; near != "" {
						told.Fix = c.wordsAs(f.path, name, near)
					}
				}
			}
		}
	},
}

// slipOf says whether a name is another but for one of its parts, which is a slip away.
func slipOf(name, other string) bool {
	got, want := strings.Split(name, "."), strings.Split(other, ".")
	slips := 0
	for i := range got {
		if len(got) != len(want) || got[i] != want[i] && (len(want[i]) < 4 || names.Near(got[i], want[i]) == names.Apart) {
			return false
		}
		if got[i] != want[i] {
			slips++
		}
	}
	return slips == 1
}

// askedAbove says whether a text asks first whether there is a value, or anything above it, where nothing is: it is
// given by who wants it.
func (c *Call) askedAbove(text []byte, at int, name string, known map[string]bool) bool {
	for above := name; above != "" && !known[above]; above = keyAbove(above) {
		for from := 0; ; {
			i := bytes.Index(text[from:at], []byte("."+above))
			if i < 0 {
				break
			}
			line := text[bytes.LastIndexByte(text[:from+i], '\n')+1 : from+i]
			if bytes.Contains(line, []byte("if ")) || bytes.Contains(line, []byte("with ")) {
				return true
			}
			from += i + 1
		}
	}
	return false
}

// doesWithout says whether the line of a value says what holds without it.
func (c *Call) doesWithout(text []byte, at int) bool {
	line := text[bytes.LastIndexByte(text[:at], '\n')+1:]
	line, _, _ = bytes.Cut(line, []byte("\n"))
	for _, mark := range c.regexps["unless"] {
		if mark.Match(line) {
			return true
		}
	}
	return false
}

// belowLeaf says whether a name lies below one that has no keys of its own, such as an
// empty map, into which anything may be put.
func belowLeaf(name string, leaves []string, known map[string]bool) bool {
	for above := name; strings.Contains(above, "."); {
		above = keyAbove(above)
		if !known[above] {
			continue
		}
		for _, leaf := range leaves {
			if strings.HasPrefix(leaf, above+".") {
				return false
			}
		}
		return true
	}
	return false
}
