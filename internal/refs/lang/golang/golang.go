// Package golang lets the standard library's parser read Go files, and looks
// packages up below the module's path.
package golang

import (
	"bytes"
	"errors"
	"go/ast"
	"go/parser"
	"go/scanner"
	"go/token"
	"path"
	"slices"
	"strconv"
	"strings"

	"golang.org/x/mod/modfile"

	"dicaxon/internal/lazy"
	"dicaxon/internal/refs/lang"
)

// Language is Go.
var Language = lang.Language{Endings: []string{".go"}, Read: read, Resolve: resolve, Parses: true,
	Lexis: &lang.Lexis{Line: []string{"//"}, Block: [][2]string{{"/*", "*/"}}, Strings: []lang.Quote{
		{Open: `"`, Close: `"`, Escape: true}, {Open: "'", Close: "'", Escape: true}, {Open: "`", Close: "`", Lines: true}}}}

// Module is go.mod.
var Module = lang.Language{Names: []string{"go.mod"}, Read: readModule, Resolve: outside, Parses: true}

// constraint is the line of a file that not every build takes in (go help
// buildconstraint): it may be a program of its own.
var constraint = lazy.New(`(?m)^//\s*(?:go:build|\+build)\s`)

func outside(*lang.Look, string, lang.Ref) lang.Answer { return lang.Answer{} }

func read(text []byte) lang.File {
	set := token.NewFileSet()
	file, err := parser.ParseFile(set, "", text, 0)
	var f lang.File
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
	offset := func(pos token.Pos) int { return set.PositionFor(pos, false).Offset }
	add := func(kind lang.Kind, pos token.Pos, name, value string) {
		if pos.IsValid() && name != "" {
			at := offset(pos)
			f.Refs = append(f.Refs, lang.Ref{Kind: kind, Name: name, Value: value, Span: lang.At(at, at+len(name))})
		}
	}
	if file.Name != nil && file.Name.Name != "_" {
		add(lang.Package, file.Name.Pos(), file.Name.Name, "")
		if len(f.Refs) == 1 {
			f.Refs[0].Guarded = constraint.Match(text[:offset(file.Name.Pos())])
		}
	}
	for _, i := range file.Imports {
		target, err := strconv.Unquote(i.Path.Value)
		if err != nil || target == "" {
			continue
		}
		at := offset(i.Path.Pos())
		r := lang.Ref{Kind: lang.Import, Name: target, Span: lang.At(at+1, at+len(i.Path.Value)-1), Quote: i.Path.Value[0]}
		if i.Name != nil {
			r.Value, r.ValueSpan = i.Name.Name, lang.At(offset(i.Name.Pos()), offset(i.Name.End()))
		}
		f.Refs = append(f.Refs, r)
	}
	if slices.ContainsFunc(f.Refs, func(r lang.Ref) bool { return r.Kind == lang.Import && r.Name == "embed" }) {
		f.Refs = append(f.Refs, embeds(text)...)
	}
	if bytes.Contains(text, []byte("//go:generate")) {
		f.Refs = append(f.Refs, generators(text)...)
	}
	for _, d := range file.Decls {
		group, ok := d.(*ast.GenDecl)
		if !ok || group.Tok != token.TYPE {
			continue
		}
		for _, s := range group.Specs {
			if t, ok := s.(*ast.TypeSpec); ok {
				add(lang.Type, t.Name.Pos(), t.Name.Name, "")
			}
		}
	}
	f.Words = qualifiers(file)
	f.Uses = uses(file, f.Refs, func(name *ast.Ident) lang.Span { return lang.At(offset(name.Pos()), offset(name.End())) })
	return f
}

// qualifiers gives the names that stand before a dot in the code, as those of packages do.
func qualifiers(file *ast.File) lang.Vocabulary {
	names := []byte{' '}
	seen := map[string]bool{}
	note := func(name string) {
		if !seen[name] {
			seen[name] = true
			names = append(append(names, name...), ' ')
		}
	}
	ast.Inspect(file, func(n ast.Node) bool {
		if s, ok := n.(*ast.SelectorExpr); ok {
			switch x := s.X.(type) {
			case *ast.Ident:
				note(x.Name)
			case *ast.SelectorExpr:
				note(x.Sel.Name)
			}
		}
		return true
	})
	return lang.VocabularyOf(names)
}

func readModule(text []byte) lang.File {
	var f lang.File
	file, err := modfile.ParseLax("go.mod", text, nil)
	if err != nil {
		f.Broken = err.Error()
		return f
	}
	add := func(kind lang.Kind, line *modfile.Line, name, version string) {
		r := lang.Ref{Kind: kind, Name: name, Value: version, Line: line.Start.Line, Column: line.Start.LineRune}
		written := text[line.Start.Byte:line.End.Byte]
		if i := strings.Index(string(written), name); i >= 0 {
			r.Span = lang.At(line.Start.Byte+i, line.Start.Byte+i+len(name))
			r.Line, r.Column = 0, 0 // where the span begins
		}
		f.Refs = append(f.Refs, r)
	}
	if m := file.Module; m != nil {
		add(lang.Package, m.Syntax, m.Mod.Path, "")
	}
	for _, r := range file.Require {
		add(lang.Import, r.Syntax, r.Mod.Path, r.Mod.Version)
	}
	return f
}

// resolve looks a package up below the path of the module around a file.
func resolve(l *lang.Look, from string, ref lang.Ref) lang.Answer {
	switch {
	case ref.Kind == lang.Path && ref.Value == lang.Program:
		return programAt(l, from, ref)
	case ref.Kind == lang.Path:
		return embeddedAt(l, from, ref)
	}
	folder, manifest := l.Nearest(from, "go.mod")
	if manifest == "" {
		return lang.Answer{}
	}
	m := l.Of(manifest).Package()
	if m == nil {
		return lang.Answer{}
	}
	below, ok := strings.CutPrefix(ref.Name+"/", m.Name+"/")
	if !ok {
		return sibling(l, ref)
	}
	at := path.Join(folder, strings.TrimSuffix(below, "/"))
	if inside, _ := l.Nearest(path.Join(at, "x"), "go.mod"); inside != folder {
		return lang.Answer{To: l.There(at), How: lang.Likely} // a module within
	}
	if holdsGo(l, at) {
		return lang.Answer{To: []string{at}}
	}
	for _, r := range l.Of(manifest).Of(lang.Import) {
		if strings.HasPrefix(ref.Name+"/", r.Name+"/") {
			return lang.Answer{} // a module of its own, with a name below this one's
		}
	}
	return lang.Answer{Own: true, Fails: true, Sought: []string{at}}
}

// sibling finds a package of another module of the repository.
func sibling(l *lang.Look, ref lang.Ref) lang.Answer {
	for _, at := range l.Called("go") {
		if path.Base(at) != "go.mod" {
			continue
		}
		if m := l.Of(at).Package(); m != nil {
			if below, ok := strings.CutPrefix(ref.Name+"/", m.Name+"/"); ok {
				return lang.Answer{To: l.There(path.Join(path.Dir(at), below)), How: lang.Convention}
			}
		}
	}
	return lang.Answer{}
}

// holdsGo says whether a folder is a package: a Go file lies in it.
func holdsGo(l *lang.Look, folder string) bool {
	for _, name := range l.Names(folder) {
		if strings.HasSuffix(name, "_test.go") {
			continue // nobody can import what only tests
		}
		if strings.HasSuffix(name, ".go") || strings.HasSuffix(name, ".s") || strings.HasSuffix(name, ".c") {
			return true
		}
	}
	return false
}
