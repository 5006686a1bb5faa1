package realign

import (
	"fmt"
	"go/ast"
	"go/parser"
	"go/token"
	"maps"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/refs"
)

// A goFile is one file of Go, parsed.
type goFile struct {
	at   string
	set  *token.FileSet
	file *ast.File
}

func (f *follower) parse(at string) *goFile { return f.parseInto(token.NewFileSet(), at, 0) }

// parseInto parses a file beside others of a set; nil where it cannot be read.
func (f *follower) parseInto(set *token.FileSet, at string, mode parser.Mode) *goFile {
	text, err := f.tree.Text(at)
	if err != nil {
		return nil
	}
	g := &goFile{at: at, set: set}
	if g.file, err = parser.ParseFile(set, at, text, mode); err != nil {
		return nil
	}
	return g
}

func (g *goFile) offset(p token.Pos) int { return g.set.PositionFor(p, false).Offset }
func (g *goFile) line(p token.Pos) int   { return g.set.PositionFor(p, false).Line }

// goPackages lets packages of Go follow: a folder that moves as a whole takes its imports
// along and, where its name was the package's, the name; of one that is left in part, the
// parts import each other, or none of it moves.
func (f *follower) goPackages() {
	folders := map[string][]string{}
	for _, m := range f.plan.Moves {
		f.moved.each(strings.TrimSuffix(m.From, "/"), func(at string) {
			if path.Ext(at) == ".go" && !slices.Contains(folders[path.Dir(at)], at) {
				folders[path.Dir(at)] = append(folders[path.Dir(at)], at)
			}
		})
	}
	for _, dir := range slices.Sorted(maps.Keys(folders)) {
		f.goFolder(dir, folders[dir])
	}
}

// goFolder lets the files that leave a folder follow.
func (f *follower) goFolder(dir string, files []string) {
	to, all := map[string][]string{}, map[string]string{}
	for _, at := range files {
		if now := path.Dir(f.plan.After(at)); now != dir { // a file of Go may have any name in its folder
			to[now] = append(to[now], at)
		}
	}
	if why := f.embedded(to); len(why) > 0 {
		f.cannotLeave(dir, files, why)
		return
	}
	stay := false
	for _, name := range f.tree.Names(dir) {
		if at := path.Join(dir, name); path.Ext(name) == ".go" {
			all[at] = path.Dir(f.plan.After(at))
			stay = stay || all[at] == dir
		}
	}
	places := slices.Sorted(maps.Keys(to))
	if len(places) == 1 && !stay && f.packageIn(places[0], files) == "" {
		f.wholePackage(dir, places[0], files)
		return
	}
	for _, place := range places {
		if f.bound(dir, to[place]) == "" {
			continue
		}
		if why := f.splitPackage(dir, all); len(why) > 0 {
			f.cannotLeave(dir, files, why)
		}
		return
	}
	for _, place := range places {
		f.loosePackage(dir, place, to[place], f.packageIn(place, to[place]))
	}
}

// embedded says which files of Go would leave what they embed behind: a pattern leads down
// from the folder of its file only.
func (f *follower) embedded(to map[string][]string) (why []string) {
	for _, now := range slices.Sorted(maps.Keys(to)) {
		for _, at := range to[now] {
			for _, e := range f.graph.From(at) {
				if e.Ref.Kind == refs.Path && len(e.To) > 0 && !strings.HasPrefix(f.plan.After(e.To[0]), now+"/") {
					why = append(why, fmt.Sprintf("%s embeds %s, which does not go with it", at, e.Ref.Name))
				}
			}
		}
	}
	return why
}

// cannotLeave remarks on why a package is not divided. Nothing moves out of it then, though
// it was asked for: half of it would not compile.
func (f *follower) cannotLeave(dir string, files, why []string) {
	const most = 3
	says := "it cannot leave the package of " + folderSaid(dir) + " by itself: " + strings.Join(why[:min(len(why), most)], "; ")
	if more := len(why) - most; more > 0 {
		says += fmt.Sprintf("; and %d more", more)
	}
	for _, m := range f.plan.Moves {
		if i := slices.IndexFunc(files, func(at string) bool { return m.From == at || inside(at, m.From) }); i >= 0 {
			f.remarks = append(f.remarks, Remark{Path: files[i], Line: 1, Says: says, About: m.From, Breaks: true})
		}
	}
}

func folderSaid(dir string) string {
	if dir == "." {
		return "the top folder"
	}
	return dir + "/"
}

// packageIn gives the package of the files that lie in a folder and stay there, or "".
func (f *follower) packageIn(dir string, moving []string) string {
	for _, name := range f.tree.Names(dir) {
		at := path.Join(dir, name)
		if path.Ext(name) == ".go" && !slices.Contains(moving, at) && f.plan.After(at) == at {
			if said := f.graph.Of(at).Package(); said != nil {
				return strings.TrimSuffix(said.Name, "_test")
			}
		}
	}
	return ""
}

// wholePackage renames a package that was called as its folder.
func (f *follower) wholePackage(dir, to string, files []string) {
	old, new := path.Base(dir), path.Base(to)
	if old == new || !token.IsIdentifier(new) {
		return
	}
	for _, at := range files {
		said := f.graph.Of(at).Package()
		if said == nil || strings.TrimSuffix(said.Name, "_test") != old {
			return
		}
	}
	f.declareGo(files, old, new)
	for _, e := range f.graph.To(dir) {
		if path.Ext(e.From) == ".go" && e.Ref.Value == "" {
			f.usesGo(e, old, new)
		}
	}
}

func (f *follower) declareGo(files []string, old, new string) {
	for _, at := range files {
		said := f.graph.Of(at).Package()
		f.edit(at, said.Line, int(said.Span.Start), int(said.Span.Start)+len(old), new)
	}
}

// usesGo renames a package where a file uses it. Where the file has another thing of the
// new name, it keeps the old one by an alias.
func (f *follower) usesGo(e refs.Edge, old, new string) {
	g := f.parse(e.From)
	if g == nil {
		return
	}
	taken := false
	var uses []*ast.Ident
	ast.Inspect(g.file, func(n ast.Node) bool {
		if s, ok := n.(*ast.SelectorExpr); ok {
			if x, ok := s.X.(*ast.Ident); ok && x.Name == old && x.Obj == nil {
				uses = append(uses, x)
			}
		}
		if x, ok := n.(*ast.Ident); ok && x.Name == new {
			taken = true
		}
		return true
	})
	if taken {
		f.edit(e.From, e.Ref.Line, int(e.Ref.Span.Start)-1, int(e.Ref.Span.Start)-1, old+" ")
		return
	}
	for _, x := range uses {
		f.edit(e.From, g.line(x.Pos()), g.offset(x.Pos()), g.offset(x.End()), new)
	}
}

// loosePackage lets files leave a package that stays, or join one that is there, where
// nothing of either side uses the other.
func (f *follower) loosePackage(dir, to string, files []string, occupied string) {
	name := occupied
	if name == "" {
		name = path.Base(to)
	}
	said := f.graph.Of(files[0]).Package()
	if said == nil || !token.IsIdentifier(name) {
		return
	}
	old := strings.TrimSuffix(said.Name, "_test")
	if old != name && (old != "main" || occupied != "") {
		f.declareGo(files, old, name)
	}
}

// bound says why files cannot leave their package: they use what stays in it, or what stays,
// or another package, uses them; "" where nothing does.
func (f *follower) bound(dir string, files []string) string {
	ours, theirs := map[string]bool{}, map[string]bool{}
	var stay []*goFile
	for _, name := range f.tree.Names(dir) {
		at := path.Join(dir, name)
		if path.Ext(name) != ".go" {
			continue
		}
		g := f.parse(at)
		if g == nil {
			return at + " cannot be read"
		}
		into := theirs
		if slices.Contains(files, at) {
			into = ours
		} else {
			stay = append(stay, g)
		}
		for _, d := range g.file.Decls {
			declares(d, into)
		}
	}
	if said := f.graph.Of(files[0]).Package(); said != nil && said.Name == "main" && ours["main"] && len(stay) > 0 {
		return "the rest of the program stays in " + dir + "/"
	}
	for _, at := range files {
		if used := f.parse(at).uses(theirs); used != "" {
			return fmt.Sprintf("it uses %s, which stays in %s/", used, dir)
		}
	}
	for _, g := range stay {
		if used := g.uses(ours); used != "" {
			return fmt.Sprintf("%s uses its %s", g.at, used)
		}
	}
	for _, e := range f.graph.To(dir) {
		if path.Ext(e.From) != ".go" {
			continue
		}
		if g := f.parse(e.From); g != nil {
			called := path.Base(dir)
			if said := f.graph.Of(files[0]).Package(); said != nil {
				called = said.Name
			}
			if e.Ref.Value != "" {
				called = e.Ref.Value
			}
			used := g.selects(called, ours)
			if called == "." {
				used = g.uses(ours)
			}
			if used != "" {
				return fmt.Sprintf("%s uses its %s", e.From, used)
			}
		}
	}
	return ""
}

// declares enters the names that a declaration gives its package.
func declares(d ast.Decl, into map[string]bool) {
	switch d := d.(type) {
	case *ast.FuncDecl:
		if d.Recv == nil { // a method stays with its type
			into[d.Name.Name] = true
		}
	case *ast.GenDecl:
		for _, s := range d.Specs {
			switch s := s.(type) {
			case *ast.TypeSpec:
				into[s.Name.Name] = true
			case *ast.ValueSpec:
				for _, n := range s.Names {
					into[n.Name] = true
				}
			}
		}
	}
}

// uses gives a name of those that a file uses without declaring it, or "".
func (g *goFile) uses(names map[string]bool) (used string) {
	for _, x := range g.file.Unresolved {
		if names[x.Name] {
			return x.Name
		}
	}
	// A receiver names a type that is declared in another file.
	ast.Inspect(g.file, func(n ast.Node) bool {
		if d, ok := n.(*ast.FuncDecl); ok && d.Recv != nil {
			ast.Inspect(d.Recv, func(n ast.Node) bool {
				if x, ok := n.(*ast.Ident); ok && names[x.Name] && x.Obj == nil {
					used = x.Name
				}
				return true
			})
		}
		return used == ""
	})
	return used
}

// selects gives a name of those that a file takes from a package, or "".
func (g *goFile) selects(called string, names map[string]bool) (used string) {
	ast.Inspect(g.file, func(n ast.Node) bool {
		if s, ok := n.(*ast.SelectorExpr); ok && names[s.Sel.Name] {
			if x, ok := s.X.(*ast.Ident); ok && x.Name == called && x.Obj == nil {
				used = s.Sel.Name
			}
		}
		return used == ""
	})
	return used
}
