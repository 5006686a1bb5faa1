package rules

import (
	"bytes"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/edit"
	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
	"dicaxon/internal/refs/lang/golang"
)

// tellGoMembers tells of what a file of Go takes of packages of the project that do not give it (the
// Go specification, "Qualified identifiers"). What a program or another language writes is not known.
func (c *Call) tellGoMembers(at string, said *refs.File) {
	if p := said.Package(); p != nil && p.Guarded {
		return // a file that not every build takes in may be older than what it uses
	}
	for _, m := range said.Uses.Members {
		i := slices.IndexFunc(said.Refs, func(r refs.Ref) bool { return r.Kind == refs.Import && r.Span == m.Of })
		if i < 0 {
			continue
		}
		to := c.targets(at, said.Refs[i])
		if len(to) != 1 || !c.isFolder(to[0]) || !c.knownByPath(said.Refs[i], to[0]) || c.givesInGo(to[0], m.Name, isTest(at)) {
			continue
		}
		if near := nearOne(m.Name, c.namesInGo(to[0])); near != "" || !c.isWritten(to[0]) {
			c.notGiven(at, m, to[0]+"/", said.Refs[i].Name, near)
		}
	}
}

// knownByPath says whether an import without a name of its own is known by the last name of its path: the
// package in that folder is called so.
func (c *Call) knownByPath(r refs.Ref, folder string) bool {
	return r.Value != "" || slices.ContainsFunc(c.Top.Names(folder), func(name string) bool {
		if path.Ext(name) != ".go" {
			return false
		}
		p := c.refsOf(path.Join(folder, name)).Package()
		return p != nil && p.Name == path.Base(r.Name)
	})
}

// tellGoPackages tells of packages of the project, and of the standard library, that a file of Go uses and does not
// import (the Go specification, "Import declarations"). A package may be called otherwise than its path ends.
func (c *Call) tellGoPackages(at string, said *refs.File) {
	told := map[string]bool{}
	for _, u := range said.Uses.Unbound {
		name, member, _ := strings.Cut(u.Name, ".")
		if member == "" || told[name] || c.givesInGo(path.Dir(at), name, true) || importsAs(said, name) {
			continue
		}
		if other, module, is := c.packageCalled(at, name, member); other != "" {
			told[name] = true
			c.atName(at, u.Span, other, unimported, name, is).Fix = c.importingGo(at, said, "", module)
		} else if all := golang.StandardCalled(name); len(all) > 0 && c.readWhole(at, said) {
			told[name] = true
			f := c.atName(at, u.Span, "", unimported, name, strings.Join(all, " or "))
			f.Level = finding.Error
			if len(all) == 1 {
				f.Fix = c.importingGo(at, said, "", all[0])
			}
		}
	}
}

const unimported = "it uses %s and does not import it; %s is a package of that name"

// readWhole says whether a file of Go was read to its end, and people wrote it.
func (c *Call) readWhole(at string, said *refs.File) bool {
	return !said.Open && !writtenByProgram.Get().Match(c.textOf(at))
}

// tellGoStandard tells of packages of the standard library that a file of Go imports and does not use: the compiler
// refuses it (the Go specification, "Import declarations").
func (c *Call) tellGoStandard(at string, said *refs.File) {
	if !c.readWhole(at, said) {
		return
	}
	for _, r := range said.Of(refs.Import) {
		if name := golang.StandardName(r.Name); name != "" && r.Value == "" && name != "embed" && !said.Words.Has(name) {
			f := c.atRef(at, r, nil, "it imports %s and does not use it", r.Name)
			f.Level, f.Fix = finding.Error, c.withoutImport(at, r)
		}
	}
	c.tellUnembedded(at, said)
}

// writtenByProgram is what a program says at the beginning of what it writes (go help generate).
var writtenByProgram = lazy.New(`(?m)^// Code generated .* DO NOT EDIT\.$`)

// embedding is the line by which a file of Go takes in others (embed).
var embedding = lazy.New(`(?m)^//go:embed (\S.*)$`)

// tellUnembedded tells of a file that takes others in and does not import embed, without which the compiler refuses it.
func (c *Call) tellUnembedded(at string, said *refs.File) {
	if slices.ContainsFunc(said.Of(refs.Import), func(r refs.Ref) bool { return r.Name == "embed" }) {
		return
	}
	text := c.textOf(at)
	if m := embedding.Get().FindIndex(text); m != nil {
		f := c.atName(at, lang.At(m[0], m[1]), "", "it says go:embed and does not import embed")
		f.Level, f.Fix = finding.Error, c.importingGo(at, said, "_ ", "embed")
	}
}

// withoutImport gives the edit that takes an import out which stands in a line by itself.
func (c *Call) withoutImport(at string, r refs.Ref) []edit.Edit {
	text := c.textOf(at)
	line, stop := lineAround(text, r.Span.Start)
	if strings.TrimPrefix(strings.TrimSpace(line), "import ") != `"`+r.Name+`"` || int(stop) >= len(text) {
		return nil
	}
	start := bytes.LastIndexByte(text[:r.Span.Start], '\n') + 1
	return []edit.Edit{c.edit(at, refs.Span{Start: int32(start), End: stop + int32(bytes.IndexByte(text[stop:], '\n')) + 1}, "")}
}

// packageCalled gives the one package of the project that is called so and gives a member, by where it
// lies, what others import, and what it is called to people; "" where there is none.
func (c *Call) packageCalled(at, name, member string) (other, module, is string) {
	if n := c.node("go.mod"); n != nil && path.Dir(at) != "." && c.givesInGo("", member, false) { // the one at the top is called as the module
		if said := c.refsOf("go.mod").Package(); said != nil && path.Base(said.Name) == name {
			return "go.mod", said.Name, said.Name
		}
	}
	from := only(c.Graph.Look().FoldersEnding(name), func(in string) bool { return in != path.Dir(at) && c.givesInGo(in, member, false) })
	if from == "" {
		return "", "", ""
	}
	return from + "/", c.goPath(from), c.Top.Path() + from + "/"
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
		for _, name := range c.declaredInGo(at) {
			if !slices.Contains(all, name) {
				all = append(all, name)
			}
		}
	}
	return all
}

// declaredInGo lists the names that a file of Go gives to something.
func (c *Call) declaredInGo(at string) (all []string) {
	for _, m := range declaredInGo.Get().FindAllSubmatch(c.Graph.Code(at), -1) {
		all = append(all, string(m[1])+string(m[2]))
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
