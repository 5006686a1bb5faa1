package rules

import (
	"fmt"
	"maps"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
)

// tellUnkept tells of the classes that lack what their interfaces ask.
func (c *Call) tellUnkept(types *ownTypes) {
	asked := map[string][]string{}
	for _, o := range types.all {
		for _, base := range c.basesOf(o) {
			if of := types.by[base]; asked[base] == nil && len(of) == 1 && anyFits(c.regexps["interfaces"], of[0].before) {
				asked[base] = c.askedBy(of[0])
			}
		}
	}
	for _, o := range types.all {
		if asked[o.name] == nil && !anyFits(c.regexps["interfaces"], o.before) && slices.ContainsFunc(c.basesOf(o), func(base string) bool { return asked[base] != nil }) {
			c.tellLacking(types, o, asked)
		}
	}
}

// askedBy gives what an interface asks.
func (c *Call) askedBy(o *ownType) []string {
	all := []string{}
	if anyFits(c.regexps["unless"], o.body) {
		return all
	}
	top := topOf(o.body)
	for _, re := range c.regexps["asks"] {
		all = append(all, groupsIn(re, top)...)
	}
	return all
}

// tellLacking tells of what a class lacks of what its interfaces ask.
func (c *Call) tellLacking(types *ownTypes, o *ownType, asked map[string][]string) {
	all := types.family(o.name)
	if all.open || slices.ContainsFunc(all.types, func(f *ownType) bool { return len(types.by[f.name]) > 1 }) {
		return
	}
	own, wanted := &family{}, map[string][]string{}
	for _, f := range all.types {
		if asked[f.name] != nil {
			wanted[f.name] = asked[f.name]
		} else {
			own.types = append(own.types, f)
		}
	}
	for _, by := range slices.Sorted(maps.Keys(wanted)) {
		lacks := slices.DeleteFunc(slices.Clone(wanted[by]), own.says)
		if len(lacks) == 0 {
			continue
		}
		slices.Sort(lacks)
		lacks = slices.Compact(lacks)
		spare := slices.DeleteFunc(c.given(own), func(name string) bool {
			return slices.ContainsFunc(slices.Collect(maps.Values(asked)), func(all []string) bool { return slices.Contains(all, name) })
		})
		near := names.Closest(lacks[0], spare)
		message := fmt.Sprintf("%s has no %s, which %s asks of it", o.name, strings.Join(lacks, " and no "), by)
		if near != "" {
			message += "; did it mean " + near + "?"
		}
		line, column := refs.Place(c.textOf(o.at), refs.Span{Start: int32(o.start)})
		f := c.report(o.at, line, column, &finding.Place{Path: types.by[by][0].at}, "%s", message)
		if near != "" && len(lacks) == 1 {
			f.Fix = c.wordsAs(o.at, near, lacks[0])
		}
	}
}
