package rules

import (
	"path"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/refs"
)

// tellClimbing tells of links that climb out of the repository to a file that is in it: one "../" too many.
func (c *Call) tellClimbing() {
	if c.Top.Path() != "" {
		return // what is around it may be there
	}
	for _, e := range c.Graph.Climbing() {
		at := path.Join(path.Dir(e.From), e.Ref.Name)
		inside := at
		for strings.HasPrefix(inside, "../") {
			inside = strings.TrimPrefix(inside, "../")
		}
		if inside == at || path.Ext(inside) == "" || c.lends(e.From) || c.isFolder(inside) || c.node(inside) == nil {
			continue
		}
		meant := strings.TrimPrefix(refs.WayTo(e.From, inside), "./")
		told := c.atRef(e.From, e.Ref, nil, "its link %s leads out of the repository; did it mean %s?", e.Ref.Name, meant)
		told.Level = finding.Warning
		told.Fix = c.wholeNamed(&e, meant)
	}
}
