package rules

import (
	"path"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
)

// madeStyles is a style sheet that may have classes which its text does not say: it takes others in, or puts their names
// together.
var madeStyles = lazy.New(`@(?:import|use|forward|include|extend|each|for|function|mixin)\b|[#@]\{|&[-_]|:import|composes|:global`)

// tellStyle tells of a class that a component takes of a style sheet of its own, which has none of that name (CSS
// Modules, "Naming", by which dashes may be written as capitals); it says whether the import is of such a sheet.
func (c *Call) tellStyle(at string, ref refs.Ref, m lang.Member) bool {
	a := c.Graph.Answer(at, ref)
	if len(a.To) != 1 || !strings.Contains(path.Base(a.To[0]), ".module.") {
		return false
	}
	text := c.textOf(a.To[0])
	if boundAgain(c.Graph.Code(at), int(m.Span.Start), false) || madeStyles.Match(text) {
		return true
	}
	var classes []string
	for _, one := range styleClass.Get().FindAllSubmatch(text, -1) {
		name := string(one[1])
		if name == m.Name || names.To(names.Camel, name) == m.Name {
			return true
		}
		classes = append(classes, name)
	}
	slip := nearOne(m.Name, classes) != "" // which is told where names of style sheets are looked up
	if path.Ext(a.To[0]) == ".css" && !ofObjects.MatchString(m.Name) && len(classes) > 0 && !slip {
		c.notGiven(at, m, a.To[0], cmpName(ref.Name, a.To[0]), "")
		c.findings[len(c.findings)-1].Level = finding.Note // it is shown without a style of its own, and that is all
	}
	return true
}

// styleClass finds the classes of a style sheet, and ofObjects what every object of JavaScript has.
var (
	styleClass = lazy.New(`\.(-?[A-Za-z_][\w-]*)`)
	ofObjects  = lazy.New(`^(?:default|toString|hasOwnProperty|length|name)$`)
)
