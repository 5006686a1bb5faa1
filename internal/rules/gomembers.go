package rules

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/edit"
	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/refs"
)

// tellGoUses tells of what a file of Go takes of packages of the project that do not give it, and
// of packages of the project that it uses and does not import (the Go specification, "Qualified
// identifiers"). What a program or another language writes is not known.
func (c *Call) tellGoUses(at string, said *refs.File) {
	for _, m := range said.Uses.Members {
		i := slices.IndexFunc(said.Refs, func(r refs.Ref) bool { return r.Kind == refs.Import && r.Span == m.Of })
		if i < 0 {
			continue
		}
		to := c.targets(at, said.Refs[i])
		if len(to) != 1 || !c.isFolder(to[0]) || c.givesInGo(to[0], m.Name, isTest(at)) {
			continue
		}
		near := nearOne(m.Name, c.namesInGo(to[0]))
		if near == "" && c.isWritten(to[0]) {
			continue
		}
		line, column := refs.Place(c.textOf(at), m.Span)
		f := c.report(at, line, column, &finding.Place{Path: to[0] + "/"}, "it takes %s of %s, which has no such name", m.Name, said.Refs[i].Name)
		if near != "" {
			f.Message += "; did it mean " + near + "?"
			f.Fix = []edit.Edit{c.edit(at, m.Span, near)}
		}
	}
	told := map[string]bool{}
	for _, u := range said.Uses.Unbound {
		name, member, _ := strings.Cut(u.Name, ".")
		if told[name] || c.givesInGo(path.Dir(at), name, true) || slices.ContainsFunc(said.Of(refs.Import), func(r refs.Ref) bool { return strings.Contains(r.Name, name) }) {
			continue // a package may be called otherwise than its path ends
		}
		from := sole(slices.DeleteFunc(c.Graph.Look().FoldersEnding(name), func(in string) bool { return in == path.Dir(at) || !c.givesInGo(in, member, false) }))
		module := ""
		if n := c.node("go.mod"); n != nil && path.Dir(at) != "." && c.givesInGo("", member, false) { // the package at the top is called as the module
			if said := c.refsOf("go.mod").Package(); said != nil && path.Base(said.Name) == name {
				module = said.Name
			}
		}
		if from == "" && module == "" {
			continue
		}
		told[name] = true
		line, column := refs.Place(c.textOf(at), u.Span)
		if module != "" {
			c.report(at, line, column, &finding.Place{Path: "go.mod"}, "it uses %s and does not import it; %s is a package of that name", name, module).Fix = c.importingGo(at, said, module)
			continue
		}
		c.report(at, line, column, &finding.Place{Path: from + "/"}, "it uses %s and does not import it; %s/ is a package of that name", name, c.Top.Path()+from).Fix = c.importingGo(at, said, c.goPath(from))
	}
}

// goPath gives the path by which a package in a folder is imported.
func (c *Call) goPath(folder string) string {
	_, manifest := c.Graph.Look().Nearest(folder+"/x.go", "go.mod")
	said := c.refsOf(manifest).Package()
	if manifest == "" || said == nil {
		return ""
	}
	return path.Join(said.Name, strings.TrimPrefix(folder, strings.TrimPrefix(path.Dir(manifest)+"/", "./")))
}

// goFiles lists the files of a package, and those of its tests.
func (c *Call) goFiles(in string, tests bool) (all []string) {
	for _, name := range c.Graph.Look().Names(in) {
		if strings.HasSuffix(name, ".go") && (tests || !strings.HasSuffix(name, "_test.go")) {
			all = append(all, path.Join(in, name))
		}
	}
	return all
}

// givesInGo says whether the package in a folder gives a name, to its tests too.
func (c *Call) givesInGo(in, name string, tests bool) bool {
	return slices.ContainsFunc(c.goFiles(in, tests), func(at string) bool {
		said := c.refsOf(at)
		return said.Broken != "" || said.Open || said.Uses.Gives.Has(name)
	})
}

// declaredInGo finds the names that a file of Go gives to something.
var declaredInGo = lazy.New(`(?m)^(?:func|type|var|const)\s+(\w+)|^\t([A-Z]\w*)(?:\s*=|\s+[\w*\[\].]+(?:\s*=|\s*$|\s*\{))`)

// namesInGo lists the names that a package gives.
func (c *Call) namesInGo(in string) (all []string) {
	for _, at := range c.goFiles(in, false) {
		for _, m := range declaredInGo.Get().FindAllSubmatch(c.Graph.Code(at), -1) {
			if name := string(m[1]) + string(m[2]); !slices.Contains(all, name) {
				all = append(all, name)
			}
		}
	}
	return all
}

// writes are signs of a package of which a program writes a part.
var writes = lazy.New(`//go:generate|(?m)^import "C"`)

// isWritten says whether a part of a package may be written by a program.
func (c *Call) isWritten(in string) bool {
	if slices.ContainsFunc(c.Graph.Look().Names(in), func(name string) bool { return strings.HasSuffix(name, ".proto") || path.Ext(name) == ".s" }) {
		return true
	}
	files := c.goFiles(in, false)
	return len(files) == 0 || slices.ContainsFunc(files, func(at string) bool { return writes.Match(c.textOf(at)) })
}
