package rules

import (
	"bytes"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
)

var targetsAsked = &Rule{
	Name: "targets-asked", Kind: finding.Disagrees, Level: finding.Warning,
	Doc: "What a target of a package of Swift imports of another target, or of what packages bring, its own asks for; where it gets that by way of another, it is a note. A type of another target is imported where it is used. It is silent where a manifest puts its targets together otherwise than by writing them out.",
	Example: `- rule: targets-asked
  files: ["Sources/**/*.swift", "Tests/**/*.swift"]`,
	Options: []Option{{"files", Paths, true, "the code, in a folder for each target", true}},
	Run:     runTargetsAsked,
}

func runTargetsAsked(c *Call) {
	const manifest = "Package.swift"
	targets := targetsOf(c.Graph.Code(manifest))
	brought := map[string]bool{} // what some target asks for: others of the package, and what packages bring
	for name, asked := range targets {
		brought[name] = true
		for _, module := range asked {
			brought[module] = true
		}
	}
	told := map[string]int{}
	types := c.typesOfTargets(targets)
	for _, f := range c.files("files") {
		parts := strings.Split(f.path, "/")
		asked, known := targets[parts[1]]
		if len(parts) < 3 || !known || asked == nil || c.homeOf(f.path) != f.path || c.tangled(f.path) {
			continue
		}
		for _, e := range c.Graph.From(f.path) {
			module, _, _ := strings.Cut(e.Ref.Name, ".")
			key := parts[1] + "\x00" + module
			if e.Ref.Kind != refs.Import || !brought[module] || module == parts[1] || slices.Contains(asked, module) || c.toldOf(told, key, f.path) {
				continue
			}
			said := c.atRef(f.path, e.Ref, &finding.Place{Path: manifest}, "it imports %s, which its target %s does not ask for in %s", module, parts[1], path.Base(manifest))
			said.About = module
			if reaches(targets, parts[1], module) {
				said.Level = finding.Note // the package manager builds it all the same, since another target asks for it
			}
			told[key] = len(c.findings)
		}
		c.tellUnimported(f.path, parts[1], asked, types)
	}
}

// reaches says whether a target asks for a module by way of others.
func reaches(targets map[string][]string, from, module string) bool {
	met := map[string]bool{}
	var find func(from string) bool
	find = func(from string) bool {
		if met[from] {
			return false
		}
		met[from] = true
		return slices.ContainsFunc(targets[from], func(next string) bool { return next == module || find(next) })
	}
	return find(from)
}

// typesOfTargets gives the targets that declare types of a name, below the folders that are called as they.
func (c *Call) typesOfTargets(targets map[string][]string) map[string][]string {
	all := map[string][]string{}
	for _, f := range c.files("files") {
		parts := strings.Split(f.path, "/")
		if _, known := targets[parts[1]]; len(parts) < 3 || !known {
			continue
		}
		for _, r := range c.Graph.Noted(f.path).Of(refs.Type) {
			if !slices.Contains(all[r.Name], parts[1]) {
				all[r.Name] = append(all[r.Name], parts[1])
			}
		}
	}
	return all
}

// plainModules are modules of the system whose types are hardly called as those of a project.
var plainModules = lang.SetOf("Foundation XCTest Testing Swift os OSLog Dispatch Logging")

// tellUnimported tells of a type that a file uses and that a target declares which its own target asks for, and the
// file does not import. What it imports of others may have a type of that name, too.
func (c *Call) tellUnimported(at, target string, asked []string, types map[string][]string) {
	said := c.Graph.Noted(at)
	imports := map[string]bool{}
	for _, r := range said.Of(refs.Import) {
		module, _, _ := strings.Cut(r.Name, ".")
		if imports[module] = true; !plainModules()[module] && !slices.Contains(asked, module) || r.Value == "_exported" {
			return
		}
	}
	for _, u := range firsts(said.Uses.Unbound) {
		of := types[u.Name]
		if len(of) != 1 || of[0] == target || imports[of[0]] || !slices.Contains(asked, of[0]) || isGiven(at, u.Name) {
			continue
		}
		f := c.atName(at, u.Span, "", "it uses %s and does not import %s, whose type that is", u.Name, of[0])
		f.About, f.Kind = u.Name, finding.Dangling
		f.Fix = c.afterImports(at, c.refsOf(at), "import "+of[0])
		return // the others of that module go with it
	}
}

var (
	targetStarts = lazy.New(`\.(?:target|executableTarget|testTarget)\s*\(`)
	targetName   = lazy.New(`\A\s*name\s*:\s*"([^"]+)"`)
	targetAsks   = lazy.New(`(?s)\bdependencies\s*:\s*\[(.*?)\]\s*(?:,|\z|\))`)
	asksAtAll    = lazy.New(`\bdependencies\s*:`)
	quotedName   = lazy.New(`(?:[\[,]|\b(?:target|byName|product)\s*\(\s*name\s*:|\A)\s*"([^"]+)"`)
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
