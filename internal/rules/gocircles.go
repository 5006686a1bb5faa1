package rules

import (
	"path"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/refs"
)

// tellCircles tells of packages of Go that import each other in a circle: the compiler takes
// none of them (the Go specification, "Import declarations"). What a wall already says is not
// said again.
func (c *goPackages) tellCircles() {
	for _, circle := range c.untold(circlesIn(c.importsBetween())) {
		first, last := circle[0], circle[len(circle)-1]
		f := c.atRef(first.file, first.ref, &finding.Place{Path: last.file, Line: last.ref.Line}, "the packages import each other in a circle: %s", around(circle, whole))
		f.Kind, f.Level = finding.Tangled, finding.Error
	}
}

// importsBetween gives what the packages of the project import of each other in every build,
// tests apart.
func (c *goPackages) importsBetween() map[string][]edge {
	edges := map[string][]edge{}
	for folder, files := range c.all {
		for _, o := range files {
			if strings.HasSuffix(o.path, "_test.go") || path.Dir(o.path) != folder {
				continue
			}
			for _, r := range c.refsOf(o.path).Of(refs.Import) {
				for _, to := range c.targets(o.path, r) {
					if to != folder && len(c.all[to]) > 0 {
						edges[folder] = append(edges[folder], edge{to, o.path, r})
					}
				}
			}
		}
	}
	return edges
}
