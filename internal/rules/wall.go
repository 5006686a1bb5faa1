package rules

import (
	"cmp"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/lazy"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
)

var wall = &Rule{
	Name: "wall", Kind: finding.Tangled, Level: finding.Error, Arrangement: true,
	Doc: "Code on one side of a wall imports nothing from the other side.",
	Example: `- rule: wall
  files: "src/features/<feature>/**"
  to: "src/features/<feature>/**"
  apart: feature
  through: "src/features/<feature>/index.js"`,
	Options: []Option{
		{"files", Paths, true, "the files on this side", false},
		{"to", Paths, false, "what is on the other side", false},
		{"modules", Texts, false, "modules of others that are on the other side, with \"*\" at the end for all that begin so", false},
		{"keys", Texts, false, "settings whose values are paths that count as imports; \"*\" stands for one key", false},
		{"apart", Text, false, "a captured name: only an import from one such unit into another counts", false},
		{"through", Paths, false, "what may be imported all the same", false},
		{"doored", Flag, false, "true where only a unit that has something which may be imported is behind a wall", false},
		{"at-run-time", Flag, false, "true where types alone may go across: nothing of them is left when the program runs", false},
		{"except", Paths, false, "files on this side that may", false},
		{"where", Regexps, false, "only files on this side with this text", false},
		{"to-where", Regexps, false, "only files on the other side with this text", false},
		inParts,
	},
	Run: runWall,
}

func runWall(c *Call) {
	apart := c.text("apart")
	files := c.files("files")
	c.readAhead(files)
	for _, f := range files {
		// What is astray is on the side where it belongs.
		if home := c.homeOf(f.path); c.fits("except", f.path) || !c.saysSo(f.path) || home != f.path && !c.fits("files", home) {
			continue
		}
		c.tellBeyond(f, apart)
	}
}

// tellBeyond tells of what a file imports from the other side: the first of it,
// with how much more there is.
func (c *Call) tellBeyond(f file, apart string) {
	here, _ := f.env.Get(apart)
	var first *finding.Finding
	var more []string
	for _, r := range c.refsOf(f.path).Refs {
		name, at := "", ""
		switch r.Kind {
		case refs.Key:
			at = c.settingTo(f, r)
		case refs.Import, refs.Link, refs.Model:
			if c.flag("at-run-time") && c.typesOnly(f.path, r) {
				continue
			}
			if !buildsImage(f.path) { // which may be called as a module is
				name = c.module(r)
			}
			if name == "" {
				at = c.acrossTo(f, r, here, apart)
			}
		}
		if name == "" && at == "" {
			continue
		}
		switch {
		case first != nil:
			more = append(more, cmp.Or(name, at))
		case name != "":
			first = c.atRef(f.path, r, nil, "it imports %s, which it may not know", name)
		default:
			first = c.atRef(f.path, r, &finding.Place{Path: at}, "it imports %s, which is behind a wall", at)
		}
	}
	if len(more) > 0 {
		first.Message += ", and so is " + strings.Join(more, ", ")
	}
}

// ofTypes is what stands in front of what an import of TypeScript takes where those are types alone.
var ofTypes = lazy.New(`\b(?:import|export)\s+type\s+(?:\{[^{}]*|[\w$]*|\*[^;"']*)$|[{,]\s*type\s+$`)

// typesOnly says whether an import takes types alone: nothing of them is left once it runs.
func (c *Call) typesOnly(at string, r refs.Ref) bool {
	if r.Kind != refs.Import || !kin(path.Ext(at), ".ts") {
		return false
	}
	text := c.textOf(at)
	end := int(r.Span.Start)
	if r.ValueSpan.Len() > 0 {
		end = int(r.ValueSpan.Start)
	}
	return end <= len(text) && ofTypes.Match(text[max(0, end-400):end])
}

// buildsImage says whether a file says how an image is built.
func buildsImage(at string) bool {
	name, _, _ := strings.Cut(path.Base(at), ".")
	return name == "Dockerfile" || name == "Containerfile"
}

// settingTo gives what a setting that counts as an import names on the other side, or "".
func (c *Call) settingTo(f file, r refs.Ref) string {
	if !c.keyed(r.Name) {
		return ""
	}
	at := path.Join(path.Dir(f.path), strings.ReplaceAll(r.Value, `\`, "/"))
	if _, over := c.beyond(at); over && c.node(at) != nil {
		return at
	}
	return ""
}

// acrossTo gives what a reference leads to on the other side, or "".
func (c *Call) acrossTo(f file, r refs.Ref, here, apart string) string {
	for _, to := range c.targets(f.path, r) {
		there, over := c.beyond(c.homeOf(to)) // where it belongs, as the file itself
		other, _ := there.Get(apart)
		if over && (apart == "" || other != "" && !names.Same(here, other)) && !c.fits("through", to) && to != f.path && c.isBeyond(to) && c.hasDoor(apart, other) {
			return to
		}
	}
	return ""
}

// hasDoor says whether a unit has something that may be imported, where that is asked for.
func (c *Call) hasDoor(apart, unit string) bool {
	return !c.flag("doored") || slices.ContainsFunc(c.files("through"), func(f file) bool {
		of, _ := f.env.Get(apart)
		return names.Same(of, unit)
	})
}

// isBeyond says whether the text of a file puts it on the other side.
func (c *Call) isBeyond(to string) bool {
	where := c.regexps["to-where"]
	return where == nil || anyFits(where, c.Graph.Code(to))
}

// beyond says whether a path is on the other side, with what was captured.
func (c *Call) beyond(to string) (*layout.Env, bool) {
	for i := range c.paths["to"] {
		if env, ok := c.matches(&c.paths["to"][i], to, c.env); ok {
			return env, true
		}
	}
	return nil, false
}
