package realign

import (
	"bytes"
	"fmt"
	"go/ast"
	"go/parser"
	"go/token"
	"path"
	"slices"
	"strconv"
	"strings"

	"dicaxon/internal/changes"
	"dicaxon/internal/edit"
	"dicaxon/internal/lazy"
)

// A goCut takes declarations out of a file of Go into one beside it: they stay in their package, so that
// nobody else has to follow. A type goes with its methods.
type goCut struct {
	*cutting
	set  *token.FileSet
	file *ast.File
	out  []ast.Decl
}

// cutGo makes the new file, and notes the edits of the old one.
func (c *cutting) cutGo() ([]changes.Make, error) {
	g := &goCut{cutting: c, set: token.NewFileSet()}
	switch {
	case path.Ext(c.to) != ".go" || path.Dir(c.to) != path.Dir(c.at):
		return nil, fmt.Errorf("what is taken out of a file of Go goes to another one beside it, and from there where it belongs")
	case strings.HasSuffix(c.at, "_test.go") != strings.HasSuffix(c.to, "_test.go"):
		return nil, fmt.Errorf("tests and the rest are not in one file")
	}
	var err error
	if g.file, err = parser.ParseFile(g.set, c.at, c.text, parser.ParseComments|parser.SkipObjectResolution); err != nil {
		return nil, fmt.Errorf("it cannot be read")
	}
	for _, group := range g.file.Comments {
		for _, line := range group.List {
			if strings.HasPrefix(line.Text, "//go:") || strings.HasPrefix(line.Text, "// +build") {
				return nil, fmt.Errorf("line %d tells the compiler of the file", g.line(line.Pos()))
			}
		}
	}
	if err := g.choose(); err != nil {
		return nil, err
	}
	return g.write()
}

func (g *goCut) line(at token.Pos) int   { return g.set.Position(at).Line }
func (g *goCut) offset(at token.Pos) int { return g.set.Position(at).Offset }

// choose finds the declarations of the names.
func (g *goCut) choose() error {
	var known []string
	for _, d := range g.file.Decls {
		declared, method := map[string]bool{}, false
		if of, is := d.(*ast.FuncDecl); is && of.Recv != nil {
			declared[receiverOf(of)], method = true, true
		} else {
			declares(d, declared)
		}
		in := 0
		for name := range declared {
			if slices.Contains(g.takes, name) {
				in++
			}
			if !method {
				known = append(known, name)
			}
		}
		switch {
		case in == 0:
		case in < len(declared):
			return fmt.Errorf("line %d declares others in one group with it", g.line(d.Pos()))
		default:
			g.out = append(g.out, d)
		}
	}
	return g.declared(known)
}

// receiverOf gives the type that a method is of.
func receiverOf(d *ast.FuncDecl) (name string) {
	ast.Inspect(d.Recv.List[0].Type, func(n ast.Node) bool {
		if id, is := n.(*ast.Ident); is && name == "" {
			name = id.Name
		}
		return name == ""
	})
	return name
}

// start gives where a declaration begins, with what is said of it.
func (g *goCut) start(d ast.Decl) int {
	at := d.Pos()
	switch d := d.(type) {
	case *ast.FuncDecl:
		if d.Doc != nil {
			at = d.Doc.Pos()
		}
	case *ast.GenDecl:
		if d.Doc != nil {
			at = d.Doc.Pos()
		}
	}
	return g.offset(at)
}

// end gives where the line ends on which a declaration does.
func (g *goCut) end(d ast.Decl) int {
	at := g.offset(d.End())
	if next := bytes.IndexByte(g.text[at:], '\n'); next >= 0 {
		return at + next + 1
	}
	return len(g.text)
}

// write makes the new file of what is taken out, and takes it and the imports that only it uses out of the
// old one.
func (g *goCut) write() ([]changes.Make, error) {
	var taken, rest []ast.Decl
	for _, d := range g.file.Decls {
		if gen, is := d.(*ast.GenDecl); is && gen.Tok == token.IMPORT {
			continue
		}
		if slices.Contains(g.out, d) {
			taken = append(taken, d)
		} else {
			rest = append(rest, d)
		}
	}
	inNew, inOld := packagesIn(taken), packagesIn(rest)
	var imports []string
	for _, i := range g.file.Imports {
		name := importName(i, inNew, inOld)
		if name == "" {
			return nil, fmt.Errorf("line %d imports %s, and nothing says what that is called", g.line(i.Pos()), pathOf(i))
		}
		if inNew[name] {
			imports = append(imports, string(g.text[g.offset(i.Pos()):g.offset(i.End())]))
		}
		if !inOld[name] && name != "_" {
			g.dropImport(i, inOld, inNew)
		}
	}
	var b strings.Builder
	b.WriteString("package " + g.file.Name.Name + "\n")
	switch len(imports) {
	case 0:
	case 1:
		b.WriteString("\nimport " + imports[0] + "\n")
	default:
		b.WriteString("\nimport (\n\t" + strings.Join(imports, "\n\t") + "\n)\n")
	}
	for _, d := range taken {
		b.WriteString("\n")
		b.Write(g.text[g.start(d):g.end(d)])
		start, end := g.start(d), g.end(d)
		if rest := g.text[end:]; bytes.HasPrefix(rest, []byte("\n")) {
			end++
		} else if len(rest) == 0 && bytes.HasSuffix(g.text[:start], []byte("\n\n")) {
			start--
		}
		g.drop(start, end)
	}
	return []changes.Make{{Path: g.to, Text: b.String()}}, nil
}

func (g *goCut) drop(start, end int) {
	g.edits = append(g.edits, edit.Edit{Path: g.at, Line: 1 + bytes.Count(g.text[:start], []byte("\n")), Start: start, End: end})
}

// dropImport takes an import out of the old file, the whole of its declaration where none of it stays.
func (g *goCut) dropImport(i *ast.ImportSpec, inOld, inNew map[string]bool) {
	for _, d := range g.file.Decls {
		gen, is := d.(*ast.GenDecl)
		if !is || !slices.Contains(gen.Specs, ast.Spec(i)) {
			continue
		}
		stays := slices.ContainsFunc(gen.Specs, func(s ast.Spec) bool {
			name := importName(s.(*ast.ImportSpec), inNew, inOld)
			return inOld[name] || name == "_"
		})
		if stays {
			start := bytes.LastIndexByte(g.text[:g.offset(i.Pos())], '\n') + 1
			end := g.offset(i.End())
			g.drop(start, end+bytes.IndexByte(g.text[end:], '\n')+1)
			return
		}
		if gen.Specs[0] == ast.Spec(i) { // once for all of them
			end := g.end(gen)
			if bytes.HasPrefix(g.text[end:], []byte("\n")) {
				end++
			}
			g.drop(g.start(gen), end)
		}
	}
}

// packagesIn gives the names that stand before a dot in declarations, as those of packages do.
func packagesIn(all []ast.Decl) map[string]bool {
	found := map[string]bool{}
	for _, d := range all {
		ast.Inspect(d, func(n ast.Node) bool {
			if s, is := n.(*ast.SelectorExpr); is {
				if id, is := s.X.(*ast.Ident); is {
					found[id.Name] = true
				}
			}
			return true
		})
	}
	return found
}

var goVersion = lazy.New(`^v\d+$`)

// importName gives what an import is called in a file: its own name, or the one like the end of its path that
// the file uses; "" where neither part uses such a one.
func importName(i *ast.ImportSpec, used ...map[string]bool) string {
	if i.Name != nil {
		return i.Name.Name
	}
	whole, _ := strconv.Unquote(i.Path.Value)
	base := path.Base(whole)
	if goVersion.MatchString(base) {
		base = path.Base(path.Dir(whole))
	}
	first, _, _ := strings.Cut(base, ".")
	for _, name := range []string{base, first, strings.TrimPrefix(first, "go-"), strings.TrimSuffix(first, "-go"), strings.ReplaceAll(first, "-", "_"), strings.ReplaceAll(first, "-", "")} {
		if slices.ContainsFunc(used, func(in map[string]bool) bool { return in[name] }) {
			return name
		}
	}
	return ""
}
