package realign

import (
	"go/ast"
	"go/token"
	"go/types"
	"strings"
)

// members gives fields and methods of one part that another uses a capital, and says which of them are
// seen in their own package only and have to stay so: what reads a type by its fields would see more.
func (s *goSplit) members() {
	hidden := map[string]types.Object{} // names that only their own package sees
	for _, of := range s.info.Defs {
		if of != nil && member(of) && !of.Exported() {
			hidden[of.Name()] = of
		}
	}
	for _, g := range s.files {
		here := s.to[g.at]
		tell := func(at token.Pos, of types.Object) {
			if its := s.folder(of.Pos()); its != here {
				s.because("%s:%d uses %s of %s, which is seen in its own package only", g.at, g.line(at), of.Name(), s.set.Position(of.Pos()).Filename)
			}
		}
		ast.Inspect(g.file, func(n ast.Node) bool {
			switch n := n.(type) {
			case *ast.FuncDecl:
				s.receiver(g, n)
			case *ast.SelectorExpr:
				// Of what others declare the type is not known here, and so not what it selects.
				if of := hidden[n.Sel.Name]; of != nil && s.info.Uses[n.Sel] == nil {
					tell(n.Sel.Pos(), of)
				}
			case *ast.Ident:
				if of := s.info.Uses[n]; of != nil && of.Pkg() == s.pkg && member(of) && !of.Exported() && (s.folder(of.Pos()) == here || !s.show(of)) {
					tell(n.Pos(), of)
				}
			case *ast.CompositeLit:
				s.unkeyed(g, n)
			case *ast.InterfaceType:
				for _, m := range n.Methods.List {
					for _, name := range m.Names {
						if !name.IsExported() {
							s.because("%s:%d has the method %s, which only types of its own package have", g.at, g.line(name.Pos()), name.Name)
						}
					}
				}
			case *ast.StructType:
				s.embedded(g, n)
			}
			return true
		})
		for _, group := range g.file.Comments {
			for _, c := range group.List {
				if strings.HasPrefix(c.Text, "//go:linkname") {
					s.because("%s:%d names a symbol of the linker", g.at, g.line(c.Pos()))
				}
			}
		}
	}
}

// passed says where a field or method that gets a capital may be meant, and nothing tells by what is
// looked at.
func (s *goSplit) passed() {
	capital := map[string]types.Object{}
	for of := range s.exported {
		if member(of) {
			capital[of.Name()] = of
		}
	}
	if len(capital) == 0 {
		return
	}
	for _, g := range s.files {
		ast.Inspect(g.file, func(n ast.Node) bool {
			if n, ok := n.(*ast.SelectorExpr); ok && capital[n.Sel.Name] != nil && s.info.Uses[n.Sel] == nil {
				s.because("%s:%d may mean %s of %s, which another part needs", g.at, g.line(n.Sel.Pos()), n.Sel.Name, s.set.Position(capital[n.Sel.Name].Pos()).Filename)
			}
			return true
		})
	}
}

// member says whether an object is a field or a method.
func member(of types.Object) bool {
	switch of := of.(type) {
	case *types.Var:
		return of.IsField()
	case *types.Func:
		return of.Signature().Recv() != nil
	}
	return false
}

// receiver says that a method would be left without its type.
func (s *goSplit) receiver(g *goFile, d *ast.FuncDecl) {
	if d.Recv == nil {
		return
	}
	ast.Inspect(d.Recv, func(n ast.Node) bool {
		id, ok := n.(*ast.Ident)
		if of, isType := s.info.Uses[id].(*types.TypeName); ok && isType && of.Parent() == s.pkg.Scope() && s.folder(of.Pos()) != s.to[g.at] {
			s.because("%s has a method of %s, which is in %s: a type and its methods are of one package", g.at, of.Name(), s.set.Position(of.Pos()).Filename)
		}
		return true
	})
}

// unkeyed says that a value is made of fields in their order, some of which are not seen.
func (s *goSplit) unkeyed(g *goFile, lit *ast.CompositeLit) {
	if len(lit.Elts) == 0 {
		return
	}
	if _, keyed := lit.Elts[0].(*ast.KeyValueExpr); keyed {
		return
	}
	of, ok := types.Unalias(s.info.Types[lit].Type).(*types.Named)
	if !ok || of.Obj().Pkg() != s.pkg || s.folder(of.Obj().Pos()) == s.to[g.at] {
		return
	}
	if fields, ok := of.Underlying().(*types.Struct); ok {
		for i := range fields.NumFields() {
			if f := fields.Field(i); !f.Exported() && !s.show(f) {
				s.because("%s:%d makes a %s of fields that are seen in its own package only", g.at, g.line(lit.Pos()), of.Obj().Name())
				return
			}
		}
		s.loose = append(s.loose, Remark{Path: g.at, Line: g.line(lit.Pos()), Says: "it makes a " + of.Obj().Name() + " without the names of its fields, which go vet wants from another package"})
	}
}

// embedded says that a type gives its name to a field, which a capital would show to others.
func (s *goSplit) embedded(g *goFile, t *ast.StructType) {
	for _, field := range t.Fields.List {
		if len(field.Names) > 0 {
			continue
		}
		ast.Inspect(field.Type, func(n ast.Node) bool {
			if id, ok := n.(*ast.Ident); ok && s.exported[s.info.Uses[id]] != "" {
				s.because("%s:%d embeds %s, which would need a capital", g.at, g.line(id.Pos()), id.Name)
			}
			return true
		})
	}
}

// capitals says which names are taken already with a capital, in their package or around
// where they are used.
func (s *goSplit) capitals() {
	for of, name := range s.exported {
		if member(of) {
			continue // it has what it is of before it
		}
		if !token.IsExported(name) {
			s.because("%s has no capital to begin with", of.Name())
		}
		if other := s.pkg.Scope().Lookup(name); other != nil && s.folder(other.Pos()) == s.folder(of.Pos()) {
			s.because("%s uses %s elsewhere, and there is %s beside it", s.set.Position(of.Pos()).Filename, of.Name(), name)
		}
	}
	for id, of := range s.info.Uses {
		name := s.exported[of]
		if name == "" || member(of) || s.folder(of.Pos()) != s.folder(id.Pos()) { // elsewhere it has its package before it
			continue
		}
		if other := s.around(name, id.Pos()); other != nil && other.Parent() != s.pkg.Scope() {
			s.because("%s: %s means something else there", s.set.Position(id.Pos()), name)
		}
	}
}

// around gives what a name stands for at a position, nil where it is free.
func (s *goSplit) around(name string, at token.Pos) types.Object {
	inner := s.pkg.Scope().Innermost(at)
	if inner == nil {
		return nil
	}
	_, of := inner.LookupParent(name, at)
	if of != nil && of.Parent() == types.Universe {
		return nil
	}
	return of
}
