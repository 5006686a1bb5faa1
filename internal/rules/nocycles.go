package rules

import (
	"maps"
	"path"
	"slices"

	"dicaxon/internal/finding"
	"dicaxon/internal/refs"
)

var noCycles = &Rule{
	Name: "no-cycles", Kind: finding.Tangled, Level: finding.Error,
	Doc: "The parts of a project do not import each other in a circle.",
	Example: `- rule: no-cycles
  files: "src/features/<feature>/"`,
	Options: []Option{{"files", Paths, true, "the folders that are the parts, or the files", false}},
	Run:     runNoCycles,
}

// An edge is one import from a part into another.
type edge struct {
	to   string
	file string
	ref  refs.Ref
}

func runNoCycles(c *Call) {
	parts := c.files("files")
	edges := map[string][]edge{}
	alone := map[string]bool{} // files that are parts by themselves
	for _, f := range parts {
		alone[f.path] = !c.isFolder(f.path)
	}
	partOf := func(at, behind string) (string, bool) {
		if alone[at] {
			return at, true
		}
		return rootOf(parts, at+behind)
	}
	files := c.everything()
	c.readAhead(files)
	for _, f := range files {
		from, ok := partOf(f.path, "")
		if !ok || !refs.Reads(f.path) {
			continue
		}
		said := c.refsOf(f.path)
		for _, r := range append(said.Of(refs.Import), said.Of(refs.Model)...) {
			for _, target := range c.targets(f.path, r) {
				if to, ok := partOf(target, "/"); ok && to != from {
					edges[from] = append(edges[from], edge{to, f.path, r})
				}
			}
		}
	}
	for _, circle := range circlesIn(edges) {
		first, last := circle[0], circle[len(circle)-1]
		says := "the parts import each other in a circle: %s"
		if alone[first.file] {
			says = "they build on each other in a circle: %s"
		}
		c.atRef(first.file, first.ref, &finding.Place{Path: last.file, Line: last.ref.Line}, says, around(circle, path.Base))
	}
}

// circlesIn gives the shortest circles of edges, each part in one at most.
func circlesIn(edges map[string][]edge) (all [][]edge) {
	prune(edges)
	told := map[string]bool{}
	for _, part := range slices.Sorted(maps.Keys(edges)) {
		if told[part] {
			continue
		}
		if circle := circleFrom(part, edges); circle != nil {
			for _, e := range circle {
				told[e.to] = true
			}
			all = append(all, circle)
		}
	}
	return all
}

// around says which way a circle goes, each part called as it is to be.
func around(circle []edge, called func(part string) string) string {
	said := called(circle[len(circle)-1].to)
	for _, e := range circle {
		said += " → " + called(e.to)
	}
	return said
}

// whole calls a part by its whole path.
func whole(part string) string { return part }

// untold gives the circles of which no wall tells already.
func (c *Call) untold(circles [][]edge) [][]edge {
	return slices.DeleteFunc(circles, func(circle []edge) bool {
		return slices.ContainsFunc(circle, func(e edge) bool { return c.tangled(e.file) })
	})
}

// tangled says whether a wall tells of an import of a file.
func (c *Call) tangled(at string) bool {
	return slices.ContainsFunc(c.findings, func(f finding.Finding) bool {
		return f.Kind == finding.Tangled && f.Path == c.Top.Path()+at
	})
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

// circleFrom gives the shortest way from a part back to itself, or nil.
func circleFrom(start string, edges map[string][]edge) []edge {
	type step struct {
		at  string
		way []edge
	}
	queue, seen := []step{{at: start}}, map[string]bool{}
	for len(queue) > 0 {
		s := queue[0]
		queue = queue[1:]
		for _, e := range edges[s.at] {
			way := append(slices.Clone(s.way), e)
			if e.to == start {
				return way
			}
			if !seen[e.to] {
				seen[e.to] = true
				queue = append(queue, step{e.to, way})
			}
		}
	}
	return nil
}
