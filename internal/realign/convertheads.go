package realign

import (
	"slices"

	"dicaxon/internal/layout"
	"dicaxon/internal/lazy"
	"dicaxon/internal/names"
)

// made finds what a statement gives its name to, where that is the outcome of a call.
var made = lazy.New(`=\s*(?:new\s+)?([A-Za-z_][\w.]*\()`)

// ofMaking are words that only say what something is, and not of which unit.
var ofMaking = []string{"bp", "blueprint", "router", "routes", "route", "api", "slice", "reducer", "view", "views", "app"}

// heads gives the units that a file speaks of by what it makes: where a file of its kind stands for a unit by
// what a call makes in it, and one file makes several such, each is that of a unit.
func (c *converter) heads() {
	begun := slices.ContainsFunc(c.items, func(i *item) bool { return i.there && i.unit != "" }) // others are there already
	for _, i := range c.items {
		if said, _ := c.unitSaid(i); i.there || i.unit != "" || said != "" || !c.divided(i.kinds) {
			continue
		}
		c.read(i)
		var units []string
		for _, s := range i.statements {
			m := made.Get().FindSubmatch(i.text[s.body:s.end])
			if s.imports || len(s.names) != 1 || m == nil || !c.makesUnit(i, m[1]) {
				continue
			}
			words := slices.DeleteFunc(names.Words(s.names[0]), func(word string) bool { return slices.Contains(ofMaking, word) })
			if len(words) == 1 {
				units = append(units, words[0])
			}
		}
		if len(units) == 0 || len(units) == 1 && !begun {
			continue
		}
		i.shared = len(units) > 1
		for _, unit := range units {
			if !slices.ContainsFunc(c.units, func(u string) bool { return names.Same(u, unit) }) {
				c.units = append(c.units, unit)
			}
		}
	}
}

// ofNone says whether a file has the name that files of its kind have in every unit, as views.py: it is called after none.
func (c *converter) ofNone(i *item) bool {
	return slices.ContainsFunc(c.ofKinds, func(e *layout.Entry) bool {
		return slices.Contains(i.kinds, e.Kind()[0]) && inUnit(e) && slices.ContainsFunc(e.Spellings, func(s layout.Pattern) bool { return s.Exact == i.node().Name })
	})
}

// makesUnit says whether a call shows that a file of the kind of an item stands for a unit.
func (c *converter) makesUnit(i *item, call []byte) bool {
	return slices.ContainsFunc(c.ofKinds, func(e *layout.Entry) bool {
		ofUnit := e.Unit != "" || slices.ContainsFunc(e.Spellings[0].Captures(), func(name string) bool { return c.isUnit[name] })
		return slices.Contains(i.kinds, e.Kind()[0]) && ofUnit && e.Shows != nil && e.ShownIn(call)
	})
}
