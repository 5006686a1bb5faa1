package rules

import (
	"fmt"
	"regexp"
	"strings"

	"dicaxon/internal/edit"
	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/lazy"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
)

var sameValue = &Rule{
	Name: "same-value", Kind: finding.Disagrees, Level: finding.Error,
	Doc: "Settings that repeat a name repeat it alike.",
	Example: `- rule: same-value
  values: ["dbt_project.yml#name", "dbt_project.yml#models.*"]`,
	Options: []Option{
		{"values", Texts, true, "file#key, or file~regular expression whose first group is the value; the first is the one that holds; a key ending in \".*\" stands for the names of the keys below", false},
		{"ignore-case", Flag, false, "true where case and what separates words do not count", false},
	},
	Check: checkPlace("values"),
	Run:   runSameValue,
}

// checkPlace gives what says what is wrong with an option that names values in files.
func checkPlace(called string) func(l *layout.Layout, option, value string) error {
	return func(_ *layout.Layout, option, value string) error {
		_, mark, expression := cutPlace(value)
		if option != called || mark != '~' {
			return nil
		}
		if re, err := lazy.Compile(expression); err != nil {
			return err
		} else if re.Get().NumSubexp() == 0 {
			return fmt.Errorf("%q is no regular expression with a group", expression)
		}
		return nil
	}
}

// A finderAt is the name of a file, and what finds something for it in a text.
type finderAt struct {
	file  string
	finds *lazy.Regexp
}

// findersAt gives the values of an option that are files with a regular expression each.
func (c *Call) findersAt(option string) (all []finderAt) {
	for _, place := range c.texts(option) {
		file, _, expression := cutPlace(place)
		all = append(all, finderAt{file, lazy.New(expression)})
	}
	return all
}

// cutPlace takes "file#key" or "file~expression" apart; mark is 0 where it is neither.
func cutPlace(place string) (name string, mark byte, of string) {
	i := strings.IndexAny(place, "#~")
	if i < 0 {
		return place, 0, ""
	}
	return place[:i], place[i], place[i+1:]
}

// A said is a value in a file.
type said struct {
	value, at    string
	line, column int // where it stands, from 1
	span         refs.Span
}

func runSameValue(c *Call) {
	var first *said
	for i, value := range c.texts("values") {
		for _, s := range c.said(value) {
			if first == nil && i == 0 {
				first = &s
			} else if first != nil && s.value != first.value && !(c.flag("ignore-case") && names.Same(s.value, first.value)) {
				f := c.report(s.at, s.line, s.column, &finding.Place{Path: first.at, Line: first.line}, "it says %s where %s says %s", s.value, first.at, first.value)
				if s.span.Len() == len(s.value) && !c.flag("ignore-case") { // written as it is
					f.Fix = []edit.Edit{c.edit(s.at, s.span, first.value)}
				}
			}
		}
	}
}

// said gives the values that stand at one of the rule's places.
func (c *Call) said(place string) (all []said) {
	name, mark, key := cutPlace(place)
	name = fill(name, c.env)
	if n := c.node(name); n == nil || n.Folder != nil {
		return nil
	}
	if mark == '~' {
		text := c.textOf(name)
		if m := regexp.MustCompile("(?m)" + key).FindSubmatchIndex(text); m != nil && m[2] >= 0 {
			span := refs.Span{Start: int32(m[2]), End: int32(m[3])}
			line, column := refs.Place(text, span)
			all = append(all, said{string(text[m[2]:m[3]]), name, line, column, span})
		}
		return all
	}
	for _, k := range c.refsOf(name).Of(refs.Key) {
		value, span := k.Value, k.ValueSpan
		if above, below := strings.CutSuffix(key, ".*"); below {
			child, ok := strings.CutPrefix(k.Name, above+".")
			if !ok || strings.ContainsAny(child, ".+") || k.Value != "" {
				continue
			}
			value, span = child, refs.Span{} // what is called so is told of elsewhere
		} else if k.Name != key || value == "" {
			continue
		}
		all = append(all, said{value, name, k.Line, k.Column, span})
	}
	return all
}
