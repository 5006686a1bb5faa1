package realign

import (
	"fmt"
	"go/ast"
	"go/token"
	"go/types"
	"maps"
	"path"
	"slices"
	"strings"
)

// write makes the edits of a package that can be divided.
func (s *goSplit) write() {
	imports := map[*goFile]map[string]string{} // by file: folders, and what each is called there
	called := func(g *goFile, its string, taken func(string) bool) string {
		if imports[g] == nil {
			imports[g] = map[string]string{}
		}
		if imports[g][its] == "" {
			imports[g][its] = s.free(its, taken)
		}
		return imports[g][its]
	}
	for _, u := range s.uses {
		name := called(u.in, u.its, func(name string) bool { return s.taken(u.in, u.its, name) })
		s.respell(u.in, u.at, name+"."+s.nameOf(u.of))
	}
	for id, of := range s.info.Uses {
		g := s.fileOf(id.Pos())
		if s.exported[of] != "" && (member(of) || s.folder(of.Pos()) == s.to[g.at]) {
			s.respell(g, id, s.nameOf(of))
		}
	}
	for of, name := range s.exported {
		s.declareExported(of, name)
	}
	for _, g := range s.files {
		if to := s.to[g.at]; g.file.Name.Name != s.names[to] {
			s.respell(g, g.file.Name, s.names[to])
		}
		s.addImports(g, imports[g])
	}
	for _, g := range s.outside {
		s.outsideUses(g)
	}
	for to, name := range s.names {
		if name == "main" && to != s.dir {
			s.started(to)
		}
	}
}

// free gives what a package is called in a file: by its name, or by one like it where that
// is taken.
func (s *goSplit) free(its string, taken func(string) bool) string {
	name := s.names[its]
	for taken(name) {
		name += "pkg"
	}
	return name
}

// nameOf gives what something is called afterwards.
func (s *goSplit) nameOf(of types.Object) string {
	if name := s.exported[of]; name != "" {
		return name
	}
	return of.Name()
}

func (s *goSplit) fileOf(at token.Pos) *goFile {
	name := s.set.Position(at).Filename
	return s.files[slices.IndexFunc(s.files, func(g *goFile) bool { return g.at == name })]
}

func (s *goSplit) respell(g *goFile, id *ast.Ident, name string) {
	s.edit(g.at, g.line(id.Pos()), g.offset(id.Pos()), g.offset(id.End()), name)
}

// taken says whether a package cannot be called by a name in a file, where something of
// another part is used.
func (s *goSplit) taken(g *goFile, its, name string) bool {
	if of := s.pkg.Scope().Lookup(name); of != nil && s.folder(of.Pos()) == s.to[g.at] {
		return true
	}
	for _, u := range s.uses {
		if u.in == g && u.its == its {
			if of := s.around(name, u.at.Pos()); of != nil && of.Parent() != s.pkg.Scope() {
				return true
			}
		}
	}
	return slices.ContainsFunc(g.file.Imports, func(i *ast.ImportSpec) bool {
		return i.Name != nil && i.Name.Name == name || i.Name == nil && path.Base(pathOf(i)) == name
	})
}

// declareExported gives a declaration its capital, and the comment that begins with its name.
func (s *goSplit) declareExported(of types.Object, name string) {
	for id, defined := range s.info.Defs {
		if defined != of {
			continue
		}
		g := s.fileOf(id.Pos())
		s.respell(g, id, name)
		for _, group := range g.file.Comments {
			first := group.List[0]
			begins := "// " + of.Name() + " "
			if next := g.line(group.End()) + 1; strings.HasPrefix(first.Text, begins) && next == g.line(id.Pos()) {
				at := g.offset(first.Pos()) + len("// ")
				s.edit(g.at, g.line(first.Pos()), at, at+len(of.Name()), name)
			}
		}
	}
}

// outsideUses lets a file that imports the package import the parts that it uses of it.
func (s *goSplit) outsideUses(g *goFile) {
	spec := g.imports(s.path(s.dir))
	if to := s.to[g.at]; to != "" && to != s.dir { // a test beside the package
		s.respell(g, g.file.Name, s.names[to]+"_test")
	}
	if spec == nil {
		return
	}
	old := s.pkg.Name()
	if spec.Name != nil {
		old = spec.Name.Name
	}
	words := map[string]bool{}
	ast.Inspect(g.file, func(n ast.Node) bool {
		if id, ok := n.(*ast.Ident); ok {
			words[id.Name] = true
		}
		return true
	})
	imports, stays := map[string]string{}, false
	ast.Inspect(g.file, func(n ast.Node) bool {
		sel, ok := n.(*ast.SelectorExpr)
		if !ok {
			return true
		}
		x, ok := sel.X.(*ast.Ident)
		if !ok || x.Name != old || x.Obj != nil {
			return true
		}
		of := s.pkg.Scope().Lookup(sel.Sel.Name)
		if of == nil || s.folder(of.Pos()) == s.dir {
			stays = true
			return true
		}
		its := s.folder(of.Pos())
		if imports[its] == "" {
			imports[its] = s.free(its, func(name string) bool { return words[name] })
		}
		s.respell(g, x, imports[its])
		return true
	})
	if len(imports) == 0 {
		return
	}
	if !stays {
		its := slices.Sorted(maps.Keys(imports))[0]
		s.edit(g.at, g.line(spec.Pos()), g.offset(spec.Pos()), g.offset(spec.End()), s.importOf(its, imports[its]))
		delete(imports, its)
	}
	s.addImports(g, imports)
}

// imports gives the line by which a file imports a package, nil where it does not.
func (g *goFile) imports(path string) *ast.ImportSpec {
	for _, i := range g.file.Imports {
		if pathOf(i) == path {
			return i
		}
	}
	return nil
}

func pathOf(i *ast.ImportSpec) string { return strings.Trim(i.Path.Value, `"`) }

// endOf gives where an import ends, with what is said of it on its line.
func (g *goFile) endOf(i *ast.ImportSpec) int {
	if i.Comment != nil {
		return g.offset(i.Comment.End())
	}
	return g.offset(i.End())
}

// importOf writes the import of a folder, with what it is called where that is something else.
func (s *goSplit) importOf(its, called string) string {
	if called != s.names[its] || called != path.Base(its) {
		return fmt.Sprintf("%s %q", called, s.path(its))
	}
	return fmt.Sprintf("%q", s.path(its))
}

// addImports adds imports to a file of Go: to the group of those of its module, else behind
// the others as a group of their own.
func (s *goSplit) addImports(g *goFile, imports map[string]string) {
	var lines []string
	for _, its := range slices.Sorted(maps.Keys(imports)) {
		lines = append(lines, s.importOf(its, imports[its]))
	}
	if len(lines) == 0 {
		return
	}
	if len(g.file.Imports) == 0 {
		at := g.offset(g.file.Name.End())
		s.edit(g.at, g.line(g.file.Name.End()), at, at, "\n\nimport "+block(lines))
		return
	}
	last := g.file.Imports[len(g.file.Imports)-1]
	decl := g.file.Decls[slices.IndexFunc(g.file.Decls, func(d ast.Decl) bool { return d.Pos() <= last.Pos() && last.End() <= d.End() })].(*ast.GenDecl)
	if !decl.Lparen.IsValid() {
		at := g.offset(last.Pos())
		s.edit(g.at, g.line(last.Pos()), at, at, "(\n\t")
		at = g.endOf(last)
		s.edit(g.at, g.line(last.End()), at, at, "\n\n\t"+strings.Join(lines, "\n\t")+"\n)")
		return
	}
	// In order, as gofmt has them, among those of the module at the end of the list.
	group := s.ownImports(g)
	before := map[int][]string{} // lines by the import that they come before
	for _, line := range lines {
		next := slices.IndexFunc(group, func(i *ast.ImportSpec) bool { return i.Path.Value > line[strings.IndexByte(line, '"'):] })
		before[next] = append(before[next], line)
	}
	for next, lines := range before {
		text := strings.Join(lines, "\n\t")
		if next >= 0 {
			at := g.offset(group[next].Pos())
			s.edit(g.at, g.line(group[next].Pos()), at, at, text+"\n\t")
			continue
		}
		at := g.endOf(last)
		if len(group) == 0 {
			text = "\n\n\t" + text
		} else {
			text = "\n\t" + text
		}
		s.edit(g.at, g.line(last.End()), at, at, text)
	}
}

// ownImports lists the imports of the module that stand together at the end of a file's.
func (s *goSplit) ownImports(g *goFile) []*ast.ImportSpec {
	all := g.file.Imports
	for i := len(all) - 1; i >= 0; i-- {
		own := strings.HasPrefix(pathOf(all[i]), s.module+"/")
		if !own || i+1 < len(all) && g.line(all[i].Pos())+1 != g.line(all[i+1].Pos()) {
			return all[i+1:]
		}
	}
	return all
}

// block writes imports as one declaration needs them.
func block(lines []string) string {
	if len(lines) == 1 {
		return lines[0]
	}
	return "(\n\t" + strings.Join(lines, "\n\t") + "\n)"
}
