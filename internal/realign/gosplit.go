package realign

import (
	"errors"
	"fmt"
	"go/ast"
	"go/parser"
	"go/token"
	"go/types"
	"maps"
	"path"
	"slices"
	"strings"

	"golang.org/x/mod/modfile"
)

// A goSplit divides a package of Go among several folders, each a package of its own then:
// what one of them uses of another is imported, and written with a capital where it was not
// seen from outside. It is done whole or not at all, since a part of it does not compile.
type goSplit struct {
	*follower
	dir     string
	to      map[string]string // the folder of each file afterwards
	set     *token.FileSet
	files   []*goFile // of the package, its tests among them
	outside []*goFile // tests of the package that are beside it, and whoever else imports it
	pkg     *types.Package
	info    types.Info

	module, root string            // the module's path, and its folder
	names        map[string]string // of the packages afterwards, by their folders
	needs        map[string]map[string]bool
	exported     map[types.Object]string // those that get a capital
	uses         []goUse
	why          []string // it cannot be done
	loose        []Remark // what is left to people once it is
}

// A goUse is a place in one part that names something of another.
type goUse struct {
	in  *goFile
	at  *ast.Ident
	of  types.Object
	its string // the folder that holds it then
}

// splitPackage divides the package of a folder, and says why it does not where it cannot.
func (f *follower) splitPackage(dir string, to map[string]string) []string {
	s := &goSplit{follower: f, dir: dir, to: to, set: token.NewFileSet(), names: map[string]string{}, needs: map[string]map[string]bool{}, exported: map[types.Object]string{}}
	for _, step := range []func(){s.read, s.check, s.call, s.find, s.members, s.passed, s.circles, s.capitals} {
		if step(); len(s.why) > 0 {
			return slices.Compact(slices.Sorted(slices.Values(s.why)))
		}
	}
	s.write()
	f.remarks = append(f.remarks, s.loose...)
	return nil
}

func (s *goSplit) because(format string, args ...any) {
	if one := fmt.Sprintf(format, args...); !slices.Contains(s.why, one) {
		s.why = append(s.why, one)
	}
}

// read parses the files of the package, and those that import it.
func (s *goSplit) read() {
	home, _ := s.graph.Look().Nearest(path.Join(s.dir, "x.go"), "go.mod")
	text, err := s.tree.Text(path.Join(home, "go.mod"))
	if s.module, s.root = modfile.ModulePath(text), home; err != nil || s.module == "" {
		s.because("no go.mod says what it is called")
		return
	}
	parse := func(at string) *goFile {
		g := s.parseInto(s.set, at, parser.ParseComments)
		if g == nil {
			s.because("%s cannot be read", at)
		}
		return g
	}
	for _, name := range s.tree.Names(s.dir) {
		at := path.Join(s.dir, name)
		switch path.Ext(name) {
		case ".s", ".S", ".c", ".h", ".syso":
			s.because("%s is no Go, but a part of it", at)
		case ".go":
			if g := parse(at); g == nil {
			} else if strings.HasSuffix(g.file.Name.Name, "_test") {
				s.outside = append(s.outside, g)
			} else {
				s.files = append(s.files, g)
				if first := s.files[0].file.Name.Name; g.file.Name.Name != first {
					s.because("%s is of another package than %s", at, s.files[0].at)
				}
			}
		}
	}
	for _, e := range s.graph.To(s.dir) {
		known := slices.ContainsFunc(s.outside, func(g *goFile) bool { return g.at == e.From })
		if path.Ext(e.From) == ".go" && path.Dir(e.From) != s.dir && !known {
			if g := parse(e.From); g != nil {
				s.outside = append(s.outside, g)
			}
		}
	}
}

// nothing imports no package: what others declare is not asked for.
type nothing struct{}

func (nothing) Import(string) (*types.Package, error) { return nil, errors.New("not looked at") }

// check finds what each name of the package stands for.
func (s *goSplit) check() {
	s.info = types.Info{Defs: map[*ast.Ident]types.Object{}, Uses: map[*ast.Ident]types.Object{}, Selections: map[*ast.SelectorExpr]*types.Selection{}, Types: map[ast.Expr]types.TypeAndValue{}}
	config := types.Config{Importer: nothing{}, Error: func(err error) {
		if e := (types.Error{}); errors.As(err, &e) && (strings.Contains(e.Msg, "redeclared") || strings.Contains(e.Msg, "already declared")) {
			s.because("it declares something twice, for several systems: %s", e.Msg)
		}
	}}
	var files []*ast.File
	for _, g := range s.files {
		files = append(files, g.file)
		for _, i := range g.file.Imports {
			if i.Path.Value == `"C"` || i.Name != nil && i.Name.Name == "." {
				s.because("%s imports %s, in a way that is not looked through", g.at, i.Path.Value)
			}
		}
	}
	for _, g := range s.outside {
		if i := g.imports(s.path(s.dir)); i != nil && i.Name != nil && i.Name.Name == "." {
			s.because("%s imports it with a dot, so that nothing says what is of it", g.at)
		}
	}
	s.pkg, _ = config.Check(s.path(s.dir), s.set, files, &s.info) // errors are of what others declare
	for _, g := range s.files {
		s.passedOver(g)
	}
}

// passedOver finds what names stand for that were not looked at, since they are beside
// something of a type that others declare.
func (s *goSplit) passedOver(g *goFile) {
	no := map[*ast.Ident]bool{g.file.Name: true}
	ast.Inspect(g.file, func(n ast.Node) bool {
		switch n := n.(type) {
		case *ast.SelectorExpr:
			no[n.Sel] = true
		case *ast.BranchStmt:
			no[n.Label] = true
		case *ast.LabeledStmt:
			no[n.Label] = true
		case *ast.ImportSpec:
			return false
		case *ast.CompositeLit:
			for _, e := range n.Elts {
				if pair, ok := e.(*ast.KeyValueExpr); ok {
					if key, ok := pair.Key.(*ast.Ident); ok && s.info.Uses[key] == nil {
						no[key] = true
						if of := s.around(key.Name, key.Pos()); of != nil && of.Parent() == s.pkg.Scope() && s.folder(of.Pos()) != s.to[g.at] {
							s.because("%s:%d has the key %s, which may be a field or what %s declares", g.at, g.line(key.Pos()), key.Name, s.set.Position(of.Pos()).Filename)
						}
					}
				}
			}
		case *ast.Ident:
			if s.info.Uses[n] == nil && s.info.Defs[n] == nil && !no[n] {
				if of := s.around(n.Name, n.Pos()); of != nil && of.Parent() == s.pkg.Scope() {
					s.info.Uses[n] = of
				}
			}
		}
		return true
	})
}

// path gives the path by which the package of a folder is imported.
func (s *goSplit) path(dir string) string {
	below := strings.TrimPrefix(strings.TrimPrefix(dir, s.root), "/")
	if s.root == "." {
		below = dir
	}
	return path.Join(s.module, below)
}

// folder gives where the file that holds a position lies afterwards.
func (s *goSplit) folder(at token.Pos) string { return s.to[s.set.Position(at).Filename] }

func (s *goSplit) test(at token.Pos) bool {
	return strings.HasSuffix(s.set.Position(at).Filename, "_test.go")
}

// call finds what the packages are called afterwards.
func (s *goSplit) call() {
	starts := ""
	if main := s.pkg.Scope().Lookup("main"); main != nil && s.pkg.Name() == "main" {
		starts = s.folder(main.Pos())
	}
	moving := slices.Collect(maps.Keys(s.to))
	for _, dir := range slices.Sorted(maps.Values(s.to)) {
		there := s.packageIn(dir, moving)
		switch {
		case s.names[dir] != "":
		case s.pkg.Name() == "main" && dir == starts:
			s.names[dir] = "main"
		case there != "":
			s.names[dir] = there
		case dir == s.dir && s.pkg.Name() != "main":
			s.names[dir] = s.pkg.Name()
		default:
			s.names[dir] = path.Base(s.path(dir))
		}
		if !token.IsIdentifier(s.names[dir]) {
			s.because("%s is no name for a package", s.names[dir])
		}
		tests := true
		for _, g := range s.files {
			tests = tests && (s.to[g.at] != dir || s.test(g.file.Pos()))
		}
		if there != "" {
			s.joins(dir, moving)
		} else if tests {
			s.because("only tests of it would be in %s", folderSaid(dir))
		}
	}
}

// joins says what is in the way of coming into a package that is there.
func (s *goSplit) joins(dir string, moving []string) {
	for _, name := range s.tree.Names(dir) {
		at := path.Join(dir, name)
		if path.Ext(name) != ".go" || slices.Contains(moving, at) {
			continue
		}
		g := s.parse(at)
		if g == nil {
			s.because("%s cannot be read", at)
			return
		}
		for _, i := range g.file.Imports {
			if strings.HasPrefix(pathOf(i), s.module) {
				s.because("%s imports %s", at, pathOf(i))
			}
		}
		theirs := map[string]bool{}
		for _, d := range g.file.Decls {
			declares(d, theirs)
		}
		for name := range theirs {
			if o := s.pkg.Scope().Lookup(name); o != nil && s.folder(o.Pos()) == dir {
				s.because("%s declares %s, and there is one in %s", s.set.Position(o.Pos()).Filename, name, at)
			}
		}
	}
}

// find finds the places that name something of another part.
func (s *goSplit) find() {
	for _, g := range s.files {
		here := s.to[g.at]
		if here != s.dir && g.imports(s.path(here)) != nil {
			s.because("%s imports the package that it comes to", g.at)
		}
		ast.Inspect(g.file, func(n ast.Node) bool {
			id, ok := n.(*ast.Ident)
			if !ok {
				return true
			}
			of := s.info.Uses[id]
			if of == nil || of.Pkg() != s.pkg || of.Parent() != s.pkg.Scope() {
				return true
			}
			its := s.folder(of.Pos())
			if its == here {
				return true
			}
			s.uses = append(s.uses, goUse{g, id, of, its})
			if s.names[its] == "main" {
				s.because("%s uses %s, which stays in the program, %s", g.at, of.Name(), s.set.Position(of.Pos()).Filename)
			}
			if s.test(of.Pos()) {
				s.because("%s uses %s of a test, %s, which goes elsewhere", g.at, of.Name(), s.set.Position(of.Pos()).Filename)
			}
			s.need(here, its)
			if !of.Exported() {
				s.exported[of] = capital(of.Name())
			}
			return true
		})
	}
}

// need notes that one folder imports another, which it may not where the other is internal
// to something else.
func (s *goSplit) need(here, its string) {
	if s.needs[here] == nil {
		s.needs[here] = map[string]bool{}
	}
	s.needs[here][its] = true
	if i := strings.LastIndex("/"+its+"/", "/internal/"); i >= 0 {
		if around := strings.Trim(("/" + its)[:i], "/"); around != "" && here != around && !strings.HasPrefix(here, around+"/") {
			s.because("%s/ may not import %s/, which is internal to %s/", here, its, around)
		}
	}
}

// circles says which parts would import each other.
func (s *goSplit) circles() {
	var path []string
	done := map[string]bool{}
	var walk func(at string)
	walk = func(at string) {
		if i := slices.Index(path, at); i >= 0 {
			var all []string
			for k, one := range path[i:] {
				next := append(path[i:], at)[k+1]
				use := s.uses[slices.IndexFunc(s.uses, func(u goUse) bool { return s.to[u.in.at] == one && u.its == next })]
				all = append(all, fmt.Sprintf("%s uses %s of %s", use.in.at, use.of.Name(), s.set.Position(use.of.Pos()).Filename))
			}
			s.because("they would import each other: %s", strings.Join(all, ", "))
			return
		}
		if done[at] {
			return
		}
		path = append(path, at)
		for _, next := range slices.Sorted(maps.Keys(s.needs[at])) {
			walk(next)
		}
		path, done[at] = path[:len(path)-1], true
	}
	for _, at := range slices.Sorted(maps.Keys(s.needs)) {
		walk(at)
	}
}
