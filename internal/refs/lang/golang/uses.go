package golang

import (
	"go/ast"
	"path"

	"dicaxon/internal/refs/lang"
)

// uses finds out what a file takes of packages, which names before a dot it gives to nothing, and
// what it gives itself. At gives the span of a name.
func uses(file *ast.File, refs []lang.Ref, at func(*ast.Ident) lang.Span) lang.Uses {
	var found lang.Uses
	packages, open := map[string]lang.Span{}, map[*ast.Ident]bool{}
	for _, r := range refs {
		if r.Kind == lang.Import && r.Value == "" {
			packages[path.Base(r.Name)] = r.Span
		} else if r.Kind == lang.Import {
			packages[r.Value] = r.Span
		}
	}
	for _, name := range file.Unresolved {
		open[name] = true
	}
	met := map[string]bool{}
	ast.Inspect(file, func(n ast.Node) bool {
		s, ok := n.(*ast.SelectorExpr)
		if !ok {
			return true
		}
		x, ok := s.X.(*ast.Ident)
		if !ok || !open[x] || met[x.Name+"."+s.Sel.Name] || !s.Sel.IsExported() {
			return true
		}
		met[x.Name+"."+s.Sel.Name] = true
		if of, imported := packages[x.Name]; imported {
			found.Members = append(found.Members, lang.Member{Of: of, Name: s.Sel.Name, Span: at(s.Sel)})
		} else {
			found.Unbound = append(found.Unbound, lang.Quoted{Name: x.Name + "." + s.Sel.Name, Span: at(x)})
		}
		return true
	})
	found.Gives = gives(file)
	return found
}

// gives gathers the names that the declarations of a file give to something.
func gives(file *ast.File) lang.Vocabulary {
	names := []byte{' '}
	note := func(name *ast.Ident) { names = append(append(names, name.Name...), ' ') }
	for _, d := range file.Decls {
		switch d := d.(type) {
		case *ast.FuncDecl:
			if d.Recv == nil {
				note(d.Name)
			}
		case *ast.GenDecl:
			for _, s := range d.Specs {
				switch s := s.(type) {
				case *ast.TypeSpec:
					note(s.Name)
				case *ast.ValueSpec:
					for _, name := range s.Names {
						note(name)
					}
				}
			}
		}
	}
	return lang.VocabularyOf(names)
}
