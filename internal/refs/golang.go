package refs

import (
	"errors"
	"go/ast"
	"go/parser"
	"go/scanner"
	"go/token"
	"strconv"

	"golang.org/x/mod/modfile"
)

// readGo lets the standard library's parser read the file.
func readGo(text []byte) File {
	set := token.NewFileSet()
	file, err := parser.ParseFile(set, "", text, parser.SkipObjectResolution)
	var f File
	if err != nil {
		f.Broken = err.Error()
		var list scanner.ErrorList
		if errors.As(err, &list) && len(list) > 0 {
			f.Broken, f.BrokenLine = list[0].Msg, list[0].Pos.Line
		}
	}
	if file == nil {
		return f
	}
	add := func(kind Kind, pos token.Pos, name, value string) {
		if p := set.Position(pos); p.IsValid() && name != "" {
			f.Refs = append(f.Refs, Ref{Kind: kind, Name: name, Value: value, Line: p.Line, Column: p.Column})
		}
	}
	if file.Name != nil && file.Name.Name != "_" {
		add(Package, file.Name.Pos(), file.Name.Name, "")
	}
	for _, i := range file.Imports {
		name := ""
		if i.Name != nil {
			name = i.Name.Name
		}
		if target, err := strconv.Unquote(i.Path.Value); err == nil {
			add(Import, i.Path.Pos(), target, name)
		}
	}
	for _, d := range file.Decls {
		group, ok := d.(*ast.GenDecl)
		if !ok || group.Tok != token.TYPE {
			continue
		}
		for _, s := range group.Specs {
			if t, ok := s.(*ast.TypeSpec); ok {
				add(Type, t.Name.Pos(), t.Name.Name, "")
			}
		}
	}
	return f
}

func readGoMod(text []byte) File {
	var f File
	file, err := modfile.ParseLax("go.mod", text, nil)
	if err != nil {
		f.Broken = err.Error()
		return f
	}
	if m := file.Module; m != nil {
		f.Refs = append(f.Refs, Ref{Kind: Package, Name: m.Mod.Path, Line: m.Syntax.Start.Line, Column: m.Syntax.Start.LineRune})
	}
	for _, r := range file.Require {
		f.Refs = append(f.Refs, Ref{Kind: Import, Name: r.Mod.Path, Value: r.Mod.Version, Line: r.Syntax.Start.Line, Column: r.Syntax.Start.LineRune})
	}
	return f
}
