package golang

import (
	"bytes"
	"errors"
	"go/ast"
	"go/build"
	"go/parser"
	"go/token"
	"go/types"
	"io"
	"maps"
	"path"
	"runtime"
	"slices"
	"strings"

	"golang.org/x/sync/errgroup"

	"dicaxon/internal/refs/lang"
)

// A Source is a file of Go.
type Source struct {
	At   string
	Text []byte
}

// A Checked is the packages of a project as the standard library's type checker understands them (go/types),
// each for one system, and without what is written elsewhere: a type that comes from there is not known, and
// nothing is said of it.
type Checked struct {
	set *token.FileSet
	by  map[string]*checked
}

// A checked is one package: what others see of it, and its files with those of its tests.
type checked struct {
	path    string
	files   []*ast.File // that every build takes in
	inside  []*ast.File // tests that see all of it
	outside []*ast.File // tests that see what others see
	left    [][]byte    // what builds for other systems take in
	broken  bool

	seen *types.Package
	busy bool // it is being looked at
}

// Check reads packages by the paths that they are imported by. A package of which a file cannot be read is not known.
func Check(packages map[string][]Source) *Checked {
	c := &Checked{set: token.NewFileSet(), by: map[string]*checked{}}
	var all errgroup.Group
	all.SetLimit(runtime.GOMAXPROCS(0))
	for at, files := range packages {
		p := &checked{path: at}
		c.by[at] = p
		all.Go(func() error {
			p.read(c.set, files)
			return nil
		})
	}
	_ = all.Wait()                                      // none of them fails
	for _, at := range slices.Sorted(maps.Keys(c.by)) { // what imports itself in a circle is known as far as the first of it goes
		c.look(c.by[at])
	}
	return c
}

// system is the one that packages are looked at for: what is of another is passed over.
var system = build.Context{GOOS: "linux", GOARCH: "amd64", Compiler: "gc", CgoEnabled: true, ReleaseTags: build.Default.ReleaseTags}

// taken says whether a build takes a file in (go help buildconstraint).
func taken(s Source) bool {
	here := system
	here.OpenFile = func(string) (io.ReadCloser, error) { return io.NopCloser(bytes.NewReader(s.Text)), nil }
	is, err := here.MatchFile(path.Dir(s.At), path.Base(s.At))
	return is && err == nil
}

func (p *checked) read(set *token.FileSet, files []Source) {
	for _, s := range files {
		if !taken(s) {
			p.left = append(p.left, s.Text)
			continue
		}
		file, err := parser.ParseFile(set, s.At, s.Text, parser.SkipObjectResolution)
		if err != nil {
			p.broken = true
			return
		}
		shorten(file)
		switch {
		case !strings.HasSuffix(s.At, "_test.go"):
			p.files = append(p.files, file)
		case strings.HasSuffix(file.Name.Name, "_test"):
			p.outside = append(p.outside, file)
		default:
			p.inside = append(p.inside, file)
		}
	}
}

// mostListed is how many things of a list are looked at: tables have many thousands, all alike.
const mostListed = 256

// shorten cuts the long lists of a file.
func shorten(file *ast.File) {
	ast.Inspect(file, func(n ast.Node) bool {
		if list, is := n.(*ast.CompositeLit); is && len(list.Elts) > mostListed {
			list.Elts = list.Elts[:mostListed]
		}
		return true
	})
}

var errElsewhere = errors.New("written elsewhere")

// Import gives what others see of a package of the project, and an error for all others (types.Importer).
func (c *Checked) Import(at string) (*types.Package, error) {
	p := c.by[at]
	if p == nil || p.broken || p.busy || len(p.files) == 0 {
		return nil, errElsewhere
	}
	return c.look(p), nil
}

// look finds out what others see of a package.
func (c *Checked) look(p *checked) *types.Package {
	if p.seen == nil && !p.broken && !p.busy {
		p.busy = true
		config := types.Config{Importer: c, IgnoreFuncBodies: true, FakeImportC: true, Error: passOver}
		p.seen, _ = config.Check(p.path, c.set, shown(p.files), nil) // what is wrong is asked for later
		p.busy = false
	}
	return p.seen
}

// shown leaves out what others do not see of files and what takes long: tables that are the package's own.
func shown(files []*ast.File) (all []*ast.File) {
	for _, file := range files {
		short := *file
		short.Decls = slices.DeleteFunc(slices.Clone(file.Decls), func(d ast.Decl) bool {
			group, is := d.(*ast.GenDecl)
			return is && group.Tok == token.VAR && !slices.ContainsFunc(group.Specs, func(s ast.Spec) bool {
				return slices.ContainsFunc(s.(*ast.ValueSpec).Names, func(name *ast.Ident) bool { return name.IsExported() })
			})
		})
		all = append(all, &short)
	}
	return all
}

// passOver lets a check go on after what it does not understand.
func passOver(error) {}

// A beside lets tests from outside see all of the package that they are beside.
type beside struct {
	*Checked
	is *types.Package
}

func (b beside) Import(at string) (*types.Package, error) {
	if at == b.is.Path() {
		return b.is, nil
	}
	return b.Checked.Import(at)
}

// A reading is what is wrong with some files of a package.
type reading struct {
	*Checked
	pkg   *types.Package
	wrong []types.Error
	ofC   map[*token.File]bool // those that import C
}

// readings reads a package with its tests, and the tests from outside by themselves.
func (c *Checked) readings(p *checked) (all []*reading) {
	if p.broken || len(p.files) == 0 {
		return nil
	}
	whole := c.reading(p.path, append(p.files[:len(p.files):len(p.files)], p.inside...), c)
	if len(p.outside) == 0 {
		return []*reading{whole}
	}
	return []*reading{whole, c.reading(p.path+"_test", p.outside, beside{c, whole.pkg})}
}

func (c *Checked) reading(at string, files []*ast.File, others types.Importer) *reading {
	r := &reading{Checked: c, ofC: map[*token.File]bool{}}
	for _, file := range files {
		r.ofC[c.set.File(file.Package)] = slices.ContainsFunc(file.Imports, func(i *ast.ImportSpec) bool { return i.Path.Value == `"C"` })
	}
	config := types.Config{Importer: others, FakeImportC: true, Error: func(err error) {
		if e := (types.Error{}); errors.As(err, &e) {
			r.wrong = append(r.wrong, e)
		}
	}}
	r.pkg, _ = config.Check(at, c.set, files, nil)
	return r
}

// called gives the type of the project that a message names, with the name of its package before it where that is
// another; nil where it is none, or not surely one.
func (r *reading) called(name string) *types.Named {
	pkg := r.pkg
	if of, rest, qualified := strings.Cut(name, "."); qualified {
		name = rest
		i := slices.IndexFunc(r.pkg.Imports(), func(p *types.Package) bool { return p.Name() == of && r.by[p.Path()] != nil })
		if i < 0 {
			return nil
		}
		pkg = r.pkg.Imports()[i]
	}
	found, isType := pkg.Scope().Lookup(name).(*types.TypeName)
	if !isType {
		return nil
	}
	named, _ := types.Unalias(found.Type()).(*types.Named)
	if named == nil || named.TypeParams().Len() > 0 || named.Obj().Pkg() == nil || r.by[strings.TrimSuffix(named.Obj().Pkg().Path(), "_test")] == nil {
		return nil
	}
	return named
}

// elsewhere says whether the package of a type has a name in what builds for other systems take in.
func (r *reading) elsewhere(of *types.Named, name string) bool {
	return slices.ContainsFunc(r.by[strings.TrimSuffix(of.Obj().Pkg().Path(), "_test")].left, func(text []byte) bool { return lang.HasWord(text, name) })
}
