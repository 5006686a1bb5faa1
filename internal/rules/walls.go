package rules

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
)

var wall = &Rule{
	Name: "wall", Kind: finding.Tangled, Level: finding.Error,
	Doc: "Code on one side of a wall imports nothing from the other side.",
	Example: `- rule: wall
  from: "src/features/<feature>/**"
  to: "src/features/<feature>/**"
  apart: feature
  through: "src/features/<feature>/index.js"`,
	Options: []Option{
		{"from", Paths, true, "the files on this side"},
		{"to", Paths, false, "what is on the other side"},
		{"modules", Texts, false, "modules of others that are on the other side, with \"*\" at the end for all that begin so"},
		{"apart", Text, false, "a captured name: only an import from one such unit into another counts"},
		{"through", Paths, false, "what may be imported all the same"},
		{"except", Paths, false, "files on this side that may"},
	},
	Run: runWall,
}

func runWall(c *Call) {
	apart := c.text("apart")
	files := c.files("from")
	c.readAhead(files)
	for _, f := range files {
		if rankOf(c.paths["except"], f.path, c.env) >= 0 {
			continue
		}
		here, _ := f.env.Get(apart)
		for _, r := range c.refsOf(f.path).Refs {
			if r.Kind != refs.Import && r.Kind != refs.Link && r.Kind != refs.Model {
				continue
			}
			if c.isModule(r) {
				c.atRef(f.path, r, nil, "it imports %s, which it may not know", r.Name)
				continue
			}
			for _, to := range c.targets(f.path, r) {
				there, over := c.beyond(to)
				other, _ := there.Get(apart)
				if !over || apart != "" && (other == "" || names.Same(here, other)) || rankOf(c.paths["through"], to, c.env) >= 0 || to == f.path {
					continue
				}
				c.atRef(f.path, r, &finding.Place{Path: to}, "it imports %s, which is behind a wall", to)
				break
			}
		}
	}
}

// beyond says whether a path is on the other side, with what was captured.
func (c *Call) beyond(to string) (*layout.Env, bool) {
	for _, p := range c.paths["to"] {
		if env, ok := p.Match(to, c.env); ok {
			return env, true
		}
	}
	return nil, false
}

func (c *Call) isModule(r refs.Ref) bool {
	return slices.ContainsFunc(c.texts("modules"), func(m string) bool { return moduleFits(m, r.Name) })
}

// moduleFits says whether the name of a module is the one given, or one below
// it.
func moduleFits(given, name string) bool {
	if begin, open := strings.CutSuffix(given, "*"); open {
		return strings.HasPrefix(name, begin)
	}
	return name == given || strings.HasPrefix(name, given) && strings.IndexByte("./:\\", name[len(given)]) >= 0
}

var onlyHere = &Rule{
	Name: "only-here", Kind: finding.Tangled, Level: finding.Error,
	Doc: "A module is used in one part of the project only.",
	Example: `- rule: only-here
  modules: ["package:http/*"]
  files: "lib/**/*.dart"
  in: "lib/services/**"`,
	Options: []Option{
		{"modules", Texts, true, "the modules, with \"*\" at the end for all that begin so"},
		{"files", Paths, true, "the files that are looked at"},
		{"in", Paths, true, "those that may use it"},
	},
	Run: func(c *Call) {
		for _, f := range c.files("files") {
			if rankOf(c.paths["in"], f.path, c.env) >= 0 {
				continue
			}
			for _, r := range c.refsOf(f.path).Of(refs.Import) {
				if c.isModule(r) {
					c.atRef(f.path, r, nil, "it imports %s, which only %s may", r.Name, strings.Join(c.texts("in"), ", "))
				}
			}
		}
	},
}

var noCycles = &Rule{
	Name: "no-cycles", Kind: finding.Tangled, Level: finding.Error,
	Doc: "The parts of a project do not import each other in a circle.",
	Example: `- rule: no-cycles
  parts: "src/features/<feature>/"`,
	Options: []Option{{"parts", Paths, true, "the folders that are the parts"}},
	Run:     runNoCycles,
}

// An edge is one import from a part into another.
type edge struct {
	to   string
	file string
	ref  refs.Ref
}

func runNoCycles(c *Call) {
	parts := c.files("parts")
	edges := map[string][]edge{}
	inside, err := layout.ParsePath("**")
	if err != nil {
		panic(err)
	}
	files := c.find([]*layout.PathPattern{inside}, c.env)
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
