package rules

import (
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
	Options: []Option{{"files", Paths, true, "the folders that are the parts", false}},
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
	files := c.everything()
	c.readAhead(files)
	for _, f := range files {
		from, ok := rootOf(parts, f.path)
		if !ok || !refs.Reads(f.path) {
			continue
		}
		for _, r := range c.refsOf(f.path).Of(refs.Import) {
			for _, target := range c.targets(f.path, r) {
				if to, ok := rootOf(parts, target+"/"); ok && to != from {
					edges[from] = append(edges[from], edge{to, f.path, r})
				}
			}
		}
	}
	told := map[string]bool{}
	for _, part := range parts {
		if told[part.path] {
			continue
		}
		if circle := circleFrom(part.path, edges); circle != nil {
			said := path.Base(part.path)
			for _, e := range circle {
				said += " → " + path.Base(e.to)
				told[e.to] = true
			}
			first, last := circle[0], circle[len(circle)-1]
			c.atRef(first.file, first.ref, &finding.Place{Path: last.file, Line: last.ref.Line}, "the parts import each other in a circle: %s", said)
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
