package rules

import (
	"bytes"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/refs"
)

var targetsAsked = &Rule{
	Name: "targets-asked", Kind: finding.Disagrees, Level: finding.Warning,
	Doc: "What a target of a package of Swift imports of another target, its own asks for. It is silent where a manifest puts its targets together otherwise than by writing them out.",
	Example: `- rule: targets-asked
  files: ["Sources/**/*.swift", "Tests/**/*.swift"]`,
	Options: []Option{{"files", Paths, true, "the code, in a folder for each target", true}},
	Run:     runTargetsAsked,
}

func runTargetsAsked(c *Call) {
	const manifest = "Package.swift"
	targets := targetsOf(c.Graph.Code(manifest))
	told := map[string]int{}
	for _, f := range c.files("files") {
		parts := strings.Split(f.path, "/")
		asked, known := targets[parts[1]]
		if len(parts) < 3 || !known || asked == nil || c.homeOf(f.path) != f.path || c.tangled(f.path) {
			continue
		}
		for _, e := range c.Graph.From(f.path) {
			module, _, _ := strings.Cut(e.Ref.Name, ".")
			_, own := targets[module]
			key := parts[1] + "\x00" + module
			if e.Ref.Kind != refs.Import || !own || module == parts[1] || slices.Contains(asked, module) || c.toldOf(told, key, f.path) {
				continue
			}
			c.atRef(f.path, e.Ref, &finding.Place{Path: manifest}, "it imports %s, which its target %s does not ask for in %s", module, parts[1], path.Base(manifest)).About = module
			told[key] = len(c.findings)
		}
	}
}

var (
	targetStarts = lazy.New(`\.(?:target|executableTarget|testTarget)\s*\(`)
	targetName   = lazy.New(`\A\s*name\s*:\s*"([^"]+)"`)
	targetAsks   = lazy.New(`(?s)\bdependencies\s*:\s*\[(.*?)\]\s*(?:,|\z|\))`)
	asksAtAll    = lazy.New(`\bdependencies\s*:`)
	quotedName   = lazy.New(`(?:[\[,]|\b(?:target|byName)\s*\(\s*name\s*:|\A)\s*"([^"]+)"`)
)

// targetsOf gives the targets that a manifest writes out, with the names that each asks for; nil for
// one that asks in another way than by a list.
func targetsOf(text []byte) map[string][]string {
	all := map[string][]string{}
	until := 0
	for _, m := range targetStarts.Get().FindAllIndex(text, -1) {
		if m[0] < until {
			continue // it stands in a list of what another asks for
		}
		block := text[m[1]:]
		if end := closing(block, "()"); end >= 0 {
			block = block[:end]
		}
		until = m[1] + len(block)
		name := targetName.Get().FindSubmatch(block)
		if name == nil {
			continue
		}
		list := targetAsks.Get().FindSubmatch(block)
		switch {
		case list != nil:
			asked := []string{}
			for _, q := range quotedName.Get().FindAllSubmatch(list[1], -1) {
				asked = append(asked, string(q[1]))
			}
			all[string(name[1])] = append(asked, all[string(name[1])]...)
		case asksAtAll.Match(block) || bytes.Contains(block, []byte("path")):
			all[string(name[1])] = nil
		default:
			all[string(name[1])] = []string{}
		}
	}
	return all
}

// closing gives where the bracket of a kind, such as "()", closes that stands before a text, -1 where it does not.
func closing(text []byte, kind string) int {
	depth := 1
	for i, b := range text {
		switch b {
		case kind[0]:
			depth++
		case kind[1]:
			if depth--; depth == 0 {
				return i
			}
		}
	}
	return -1
}
