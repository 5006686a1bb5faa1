package realign

import (
	"cmp"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/names"
)

// cuttings lists the files that hold what several units have each in a file of its own, by what each unit
// has in them: where that goes, and why it has to be taken out by hand where it cannot be taken out.
func (c *converter) cuttings(moving []*item) (all []Left) {
	for _, i := range slices.Concat(c.items, c.kept) {
		if i.there || i.unit != "" || slices.Contains(moving, i) || !c.divided(i.kinds) {
			continue
		}
		of, units := c.parts(i)
		for _, unit := range units {
			if l, ok := c.cutting(i, unit, of[unit]); ok {
				all = append(all, l)
			}
		}
	}
	return all
}

// parts gives what a file declares by the unit that each statement is of, "" for none, and the units in the order
// in which it says them.
func (c *converter) parts(i *item) (of map[string][]*statement, units []string) {
	of = map[string][]*statement{}
	c.read(i)
	for k := range i.statements {
		s := &i.statements[k]
		if s.imports || len(s.names) == 0 && !s.several {
			continue
		}
		unit := ""
		for _, name := range slices.Concat(s.names, s.on) { // or what it is registered with
			unit = cmp.Or(unit, c.unitWithin(name))
		}
		if of[unit] == nil && unit != "" {
			units = append(units, unit)
		}
		of[unit] = append(of[unit], s)
	}
	return of, units
}

// read reads what a file says, once; nothing where it cannot be read.
func (c *converter) read(i *item) {
	if i.text != nil {
		return
	}
	if text, err := c.Repository.Text(i.path()); err == nil {
		i.text, i.statements = text, statementsOf(i.node().Name, text)
	}
}

// cutting says what of a file a unit has, and where that goes.
func (c *converter) cutting(i *item, unit string, has []*statement) (Left, bool) {
	part := &item{folder: i.folder, index: i.index, kinds: i.kinds, from: i.from, unit: unit}
	if c.find(part); part.goes == "" || part.goes == i.path() {
		return Left{}, false
	}
	var takes, lines []string
	size := 0
	for _, s := range has {
		takes = append(takes, s.names[0])
		size += s.last - s.line + 1
		if s.line == s.last {
			lines = append(lines, strconv.Itoa(s.line))
			continue
		}
		lines = append(lines, fmt.Sprintf("%d to %d", s.line, s.last))
	}
	l := Left{Kind: finding.Misplaced, Level: finding.Note, Path: i.path(), Part: strings.Join(takes, ","), Line: has[0].line, Choices: []string{part.goes}, Lines: size,
		Says: fmt.Sprintf("lines %s are %s of %s", strings.Join(lines, ", "), part.kind, unit)}
	if _, err := Cut(c.Workspace, i.path(), takes, part.goes); err != nil {
		l.Why, l.Choices = "to be cut by hand: "+strings.TrimPrefix(err.Error(), i.path()+" is not cut: "), nil
	}
	return l, true
}

// unitWithin gives the unit that a name of code has among its words, as CrewCreate and list_crews have crews; ""
// where it has none or several.
func (c *converter) unitWithin(name string) string {
	words, found := names.Words(name), ""
	for _, unit := range c.units {
		own := names.Words(unit)
		for k := 0; k+len(own) <= len(words); k++ {
			if names.SameInNumber(strings.Join(words[k:k+len(own)], " "), strings.Join(own, " ")) {
				if found != "" && found != unit {
					return ""
				}
				found = unit
			}
		}
	}
	return found
}
