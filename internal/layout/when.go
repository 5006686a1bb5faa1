package layout

import (
	"maps"
	"slices"
	"strings"

	"dicaxon/internal/manifest"
	"dicaxon/internal/source"
)

// A Condition says in which projects an entry's need or a rule holds: those that need
// all of Needs, have all of Has and none of Lacks.
type Condition struct {
	Needs []string `json:",omitempty"` // dependencies, as "laravel/framework >= 11"
	Has   []string `json:",omitempty"` // paths below the project, a folder's with its slash
	Lacks []string `json:",omitempty"`
}

func readCondition(p *parser, n *source.Node) (*Condition, error) {
	c := &Condition{}
	list := func(name string, to *[]string, check func(string) string) func(*parser, *Condition, *source.Node) error {
		return func(_ *parser, _ *Condition, n *source.Node) (err error) {
			if *to, err = n.Strings(name); err != nil {
				return err
			}
			for _, one := range *to {
				if wrong := check(one); wrong != "" {
					return n.Errorf("%q %s", one, wrong)
				}
			}
			return nil
		}
	}
	demand := func(one string) string {
		if _, ok := manifest.ParseDemand(one); !ok {
			return `is no dependency with its versions, such as "laravel/framework >= 11"`
		}
		return ""
	}
	path := func(one string) string {
		if _, err := ParsePath(one); err != nil || strings.ContainsAny(one, "*?<") {
			return "is no path below the project"
		}
		return ""
	}
	err := each(p, "when", c, n, keys[*Condition]{"needs": list("needs", &c.Needs, demand), "has": list("has", &c.Has, path), "lacks": list("lacks", &c.Lacks, path)})
	if err == nil && len(c.Needs)+len(c.Has)+len(c.Lacks) == 0 {
		err = n.Errorf(`when says what the project "needs", "has" or "lacks"`)
	}
	return c, err
}

// Holds says whether a project meets the condition, by its dependencies and by what
// stands at a path of it.
func (c *Condition) Holds(needs []manifest.Dependency, has func(path string) bool) bool {
	if c == nil {
		return true
	}
	for _, text := range c.Needs {
		demand, _ := manifest.ParseDemand(text)
		if !slices.ContainsFunc(needs, demand.Meets) {
			return false
		}
	}
	return !slices.ContainsFunc(c.Has, func(at string) bool { return !has(at) }) && !slices.ContainsFunc(c.Lacks, has)
}

// Conditional says whether anything in the layout holds in some projects only.
func (l *Layout) Conditional() bool {
	return slices.ContainsFunc(l.Entries, func(e *Entry) bool { return e.When != nil }) ||
		slices.ContainsFunc(l.Rules, func(r Rule) bool { return r.When != nil })
}

// For gives the layout as it is for one project: an entry whose condition the project
// does not meet may be there, and is neither wanted nor banned; a rule whose condition it
// does not meet is left out.
func (l *Layout) For(holds func(*Condition) bool) *Layout {
	if !l.Conditional() {
		return l
	}
	its := *l
	its.Entries = nil
	its.Rules = slices.DeleteFunc(slices.Clone(l.Rules), func(r Rule) bool { return !holds(r.When) })
	its.Root = l.Root.cloned(nil, holds)
	_ = (&parser{layout: &its, checked: true}).finish() // what is finished once can be finished again
	return &its
}

// cloned gives the entry and all below it once more.
func (e *Entry) cloned(parent *Entry, holds func(*Condition) bool) *Entry {
	c := *e
	c.Parent, c.Entries, c.Scope, c.given = parent, nil, nil, maps.Clone(e.given)
	c.NotHere = slices.Clone(e.NotHere)
	if !holds(e.When) {
		c.Need, c.AtLeast = May, 0
	}
	for _, below := range e.Entries {
		c.Entries = append(c.Entries, below.cloned(&c, holds))
	}
	return &c
}
