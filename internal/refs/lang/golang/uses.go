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
	keys, before := map[*ast.Ident]bool{}, map[*ast.Ident]bool{}
	met := map[string]bool{}
	ast.Inspect(file, func(n ast.Node) bool {
		if pair, ok := n.(*ast.KeyValueExpr); ok { // perhaps the field of a struct
			if key, ok := pair.Key.(*ast.Ident); ok {
				keys[key] = true
			}
		}
		s, ok := n.(*ast.SelectorExpr)
		if !ok {
			return true
		}
		x, ok := s.X.(*ast.Ident)
		if ok {
			before[x] = true
		}
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
	for _, name := range file.Unresolved {
		if !met[name.Name] && !keys[name] && !before[name] && !predeclared()[name.Name] {
			met[name.Name] = true
			found.Unbound = append(found.Unbound, lang.Quoted{Name: name.Name, Span: at(name)})
		}
	}
	found.Gives = gives(file)
	return found
}

// predeclared are given to every file (the Go specification, "Predeclared identifiers").
var predeclared = lang.SetOf(`any bool byte comparable complex64 complex128 error float32 float64 int int8 int16 int32 int64 rune
	string uint uint8 uint16 uint32 uint64 uintptr true false iota nil append cap clear close complex copy delete imag len
	make max min new panic print println real recover _ init`)

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
