package rules

import (
	"maps"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/refs"
)

// tellCircles tells of packages of Go that import each other in a circle: the compiler takes
// none of them (the Go specification, "Import declarations"). What a wall already says is not
// said again.
func (c *goPackages) tellCircles() {
	for _, circle := range c.circlesIn(c.importsBetween()) {
		first, last := circle[0], circle[len(circle)-1]
		f := c.atRef(first.file, first.ref, &finding.Place{Path: last.file, Line: last.ref.Line}, "the packages import each other in a circle: %s", around(circle))
		f.Kind, f.Level = finding.Tangled, finding.Error
	}
}

// circlesIn gives the shortest circles of edges that have no part in common, but those of which a
// wall tells already.
func (c *Call) circlesIn(edges map[string][]edge) (all [][]edge) {
	prune(edges)
	told := map[string]bool{}
	for _, part := range slices.Sorted(maps.Keys(edges)) {
		circle := circleFrom(part, edges)
		if told[part] || circle == nil {
			continue
		}
		for _, e := range circle {
			told[e.to] = true
		}
		if !slices.ContainsFunc(circle, func(e edge) bool { return c.tangled(e.file) }) {
			all = append(all, circle)
		}
	}
	return all
}

// around says which way a circle goes.
func around(circle []edge) string {
	said := circle[len(circle)-1].to
	for _, e := range circle {
		said += " → " + e.to
	}
	return said
}

// tangled says whether a wall tells of an import of a file.
func (c *Call) tangled(at string) bool {
	return slices.ContainsFunc(c.findings, func(f finding.Finding) bool {
		return f.Kind == finding.Tangled && f.Path == c.Top.Path()+at
	})
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

// prune takes out what is in no circle: again and again the parts that lead to nothing more.
func prune(edges map[string][]edge) {
	for before := -1; before != len(edges); {
		before = len(edges)
		for from, all := range edges {
			all = slices.DeleteFunc(all, func(e edge) bool { return edges[e.to] == nil })
			if edges[from] = all; len(all) == 0 {
				delete(edges, from)
			}
		}
	}
}
