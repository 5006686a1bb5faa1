package rules

import (
	"bytes"
	"cmp"
	"fmt"
	"maps"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/edit"
	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/lazy"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
	"dicaxon/internal/tree"
)

var packageLine = &Rule{
	Name: "package-line", Kind: finding.Misdeclared, Level: finding.Error,
	Doc: "The package or namespace line of a file follows its folder.",
	Example: `- rule: package-line
  files: "src/**/*.kt"
  roots: src/
  needed: true`,
	Options: []Option{
		{"files", Paths, true, "the files", false},
		{"roots", Paths, true, "the folders from which the package is spelt", true},
		{"rooted-by", Text, false, "a name pattern of files below those folders, each of which makes its own folder such a one, with its own name, without its ending, as the prefix; where most files below say otherwise, none is told", false},
		{"prefix-key", Text, false, "the key of such a file that gives another prefix", false},
		{"prefix", Text, false, "the namespace that stands for such a folder", false},
		{"mapped-by", Texts, false, "keys of a manifest, as file#key, below which each key is a namespace and its value the folder that it stands for; the deepest folder around a file holds", false},
		{"needed", Flag, false, "true where a file without a package line is wrong also where no other file says or imports the package of its folder", false},
		{"loose", Flag, false, "true where the part that all packages share may have no folders", false},
		{"deeper", Flag, false, "true where a file may say a package below that of its folder for which there is no folder", false},
	},
	Run: runPackageLine,
}

func runPackageLine(c *Call) {
	roots := c.files("roots")
	files := slices.DeleteFunc(c.files("files"), func(f file) bool { return passedOver(f.path) })
	c.readAhead(files)
	if c.text("rooted-by") != "" {
		c.tellSpaces(roots, files)
		return
	}
	programs := goPackages{Call: c, odd: map[string][]oddPackage{}, all: map[string][]oddPackage{}, names: map[string]string{}}
	mappings := c.tellMappings(files, c.mappings())
	misfits, of := map[string][]misfit{}, map[string]int{}
	var silent []nameless
	for _, f := range files {
		if strings.HasSuffix(f.path, ".go") {
			programs.note(f.path, roots)
			continue
		}
		home := c.homeOf(f.path) // what is astray is judged as at its home
		root, ok := rootOf(roots, home)
		if !ok {
			if root, ok = rootOf(roots, f.path); !ok {
				continue
			}
			home = f.path
		}
		of[path.Dir(f.path)]++
		said := c.refsOf(f.path).Package()
		if said == nil {
			if c.lacksPackage(f, root) {
				silent = append(silent, nameless{f, c.packageOf(f, root, home, mappings), root})
			}
			continue
		}
		root, prefix, ok := c.spaceAround(f, root, home, mappings)
		if !ok || c.texts("mapped-by") != nil && firstPart(strings.Trim(said.Name, `\`), `\`) != firstPart(prefix, `\`) {
			continue // what says a namespace of others is theirs, and only lies here
		}
		if path.Ext(f.path) == ".php" && c.loadedByPath(f.path) {
			continue
		}
		below := strings.TrimPrefix(strings.TrimPrefix(path.Dir(home), root), "/")
		if m := c.misfitOf(f, *said, root, prefix, strings.TrimSuffix(below, ".")); m != nil && !c.fitsAnother(m, home, mappings) {
			misfits[path.Dir(f.path)] = append(misfits[path.Dir(f.path)], *m)
		}
	}
	c.tellNameless(files, silent)
	c.tellDotted(of, roots)
	from := len(c.findings)
	for _, folder := range slices.Sorted(maps.Keys(misfits)) {
		c.tellMisfits(folder, misfits[folder], of[folder])
	}
	c.oneFolder(from)
	programs.tell()
}

// fitsAnother says whether a file lies by what it says below another of the folders that stand for namespaces.
func (c *Call) fitsAnother(m *misfit, home string, mappings []mapping) bool {
	return c.texts("mapped-by") != nil && slices.ContainsFunc(mappings, func(to mapping) bool {
		below, ok := strings.CutPrefix(path.Dir(home)+"/", to.root+"/")
		return ok && m.got == packageBelow(to.prefix, strings.TrimSuffix(below, "/"), separatorIn(m.path))
	})
}

// returns finds what a file gives to whoever loads it.
var returns = lazy.New(`(?m)^return\b`)

// loadedByPath says whether a file of PHP is found by its path alone: one that gives something back and declares
// nothing, or lies where no namespace leads to.
func (c *Call) loadedByPath(at string) bool {
	return c.refsOf(at).Of(refs.Type) == nil && returns.Match(c.Graph.Code(at)) || strings.ContainsAny(path.Dir(at), "-. ")
}

// A misfit is a file whose package line does not fit its folder.
type misfit struct {
	path      string
	said      refs.Ref
	got, want string
	home      string // the folder for what the line says, "" where there is no telling
}

// rootOf gives the deepest of the folders that the path lies in.
func rootOf(roots []file, at string) (root string, ok bool) {
	if found := deepest(roots, at, func(r *file) string { return r.path }); found != nil {
		return found.path, true
	}
	return "", false
}

// functionOfPHP is a function of a file that is no method of a class.
var functionOfPHP = lazy.New(`(?m)^\s*function \w`)

// spaceAround gives the folder around a file from which its package is spelt, and what stands for that;
// not ok where no mapping does, or the file is lent.
func (c *Call) spaceAround(f file, root, home string, mappings []mapping) (from, prefix string, ok bool) {
	if c.texts("mapped-by") == nil {
		return root, fill(c.text("prefix"), f.env, c.env), true
	}
	m := deepest(mappings, home, func(m *mapping) string { return m.root })
	if m == nil || c.lends(f.path) || path.Ext(f.path) == ".php" && len(c.refsOf(f.path).Of(refs.Type)) == 0 && functionOfPHP.Match(c.textOf(f.path)) { // no loader looks for functions
		return "", "", false
	}
	return m.root, m.prefix, true
}

// packageOf gives the package that the folder of a file says, "" where nobody knows.
func (c *Call) packageOf(f file, root, home string, mappings []mapping) string {
	root, prefix, ok := c.spaceAround(f, root, home, mappings)
	if !ok || c.flag("loose") {
		return ""
	}
	below := strings.Trim(strings.TrimPrefix(path.Dir(home), root), "/.")
	return packageBelow(prefix, below, separatorIn(f.path))
}

// packageBelow gives the package of a folder below one that a prefix stands for.
func packageBelow(prefix, below, separator string) string {
	return strings.Trim(prefix+separator+strings.ReplaceAll(below, "/", separator), separator)
}

// misfitOf compares a package with the folders below the root; nil where they agree.
func (c *Call) misfitOf(f file, said refs.Ref, root, prefix, below string) *misfit {
	separator := separatorIn(f.path)
	want := packageBelow(prefix, below, separator)
	got := strings.Trim(said.Name, separator)
	if got == want || c.flag("loose") && (want == "" || strings.HasSuffix(got, separator+want)) {
		return nil
	}
	if rest, ok := strings.CutPrefix(got, want+separator); ok && c.flag("deeper") && !c.isFolder(path.Join(path.Dir(f.path), firstPart(rest, separator))) {
		return nil
	}
	if around, ok := strings.CutSuffix(want, separator+got); ok && slices.Contains(noPackage, around[strings.LastIndex(around, separator)+1:]) {
		return nil
	}
	m := &misfit{path: f.path, said: said, got: got, want: cmp.Or(want, "no package")}
	if rest, ok := strings.CutPrefix(got+separator, prefix+separator); ok || prefix == "" {
		if prefix == "" {
			rest = got
		}
		m.home = strings.Trim(root+"/"+strings.ReplaceAll(strings.Trim(rest, separator), separator, "/"), "/")
	}
	return m
}

// noPackage are words of Java, and so none of a package: sources below a folder of that name begin
// anew, such as those that stand in for others in another build. The Java Language Specification, 3.9.
var noPackage = []string{"abstract", "default", "final", "import", "native", "new", "package", "private", "protected", "public", "static", "super", "switch", "this"}

// tellMisfits tells of the files of one folder: one finding where all of them say the
// same. The folder is wrong where others import what they say.
func (c *Call) tellMisfits(folder string, all []misfit, of int) {
	first := all[0]
	same := len(all) > 1 && len(all) == of && !slices.ContainsFunc(all, func(m misfit) bool { return m.got != first.got })
	if !same {
		for _, m := range all {
			if c.belongs(m) {
				f := c.atRef(m.path, m.said, nil, "it says %s, which is the package of %s/", m.got, m.home)
				f.Kind, f.Home = finding.Misplaced, c.Top.Path()+path.Join(m.home, path.Base(m.path))
				continue
			}
			f := c.atRef(m.path, m.said, &finding.Place{Path: folder + "/"}, "it says %s, but its folder says %s", m.got, m.want)
			if f.Home = c.askedBack(m); f.Home != "" {
				continue
			}
			if m.want != "no package" && c.homeOf(m.path) == m.path {
				f.Fix = []edit.Edit{c.edit(m.path, m.said.Span, m.want)}
			}
		}
		return
	}
	f := c.report(folder+"/", 0, 0, nil, "all its %d files say %s, but the folder says %s", len(all), first.got, first.want)
	for _, m := range all {
		f.Also = append(f.Also, c.Top.Path()+m.path)
		if m.want != "no package" && c.homeOf(m.path) == m.path {
			f.Fix = append(f.Fix, c.edit(m.path, m.said.Span, m.want))
		}
	}
	if first.home != "" && c.node(first.home) == nil && c.importsOf(first.got) {
		f.Kind, f.Home, f.Fix = finding.Misnamed, c.Top.Path()+first.home+"/", nil
	}
}

// oneFolder puts findings from one on together whose folders all lie in one that has the wrong
// name: it is that one cause.
func (c *Call) oneFolder(from int) {
	type renaming struct{ path, home string }
	groups := map[renaming][]int{}
	for i := from; i < len(c.findings); i++ {
		f := &c.findings[i]
		if f.Kind != finding.Misnamed || f.Rule != c.rule.Name {
			continue
		}
		a, b := strings.TrimSuffix(f.Path, "/"), strings.TrimSuffix(f.Home, "/")
		for path.Base(a) == path.Base(b) && a != b && strings.Contains(a, "/") && strings.Contains(b, "/") {
			a, b = path.Dir(a), path.Dir(b)
		}
		if a+"/" != f.Path {
			groups[renaming{a, b}] = append(groups[renaming{a, b}], i)
		}
	}
	drop := map[int]bool{}
	for r, all := range groups {
		n := c.node(strings.TrimPrefix(r.path, c.Top.Path()))
		if len(all) < 2 || n == nil || n.Folder == nil || c.node(strings.TrimPrefix(r.home, c.Top.Path())) != nil || folders(n.Folder) > len(all) {
			continue
		}
		first := &c.findings[all[0]]
		for _, i := range all[1:] {
			first.Also = append(first.Also, c.findings[i].Also...)
			drop[i] = true
		}
		first.Path, first.Home = r.path+"/", r.home+"/"
		first.Message = fmt.Sprintf("what is below says that it is in %s", path.Base(r.home))
	}
	kept := c.findings[:from]
	for i := from; i < len(c.findings); i++ {
		if !drop[i] {
			kept = append(kept, c.findings[i])
		}
	}
	c.findings = kept
}

// folders counts the folders in one.
func folders(f *tree.Folder) (n int) {
	for i := range f.Nodes {
		if f.Nodes[i].Folder != nil && !f.Nodes[i].Ignored {
			n++
		}
	}
	return n
}

// belongs says whether a file belongs where its package line says: a folder that is
// there waits for it by name, and where it lies it is but one of many.
func (c *Call) belongs(m misfit) bool {
	if m.home == "" || c.node(m.home) == nil || c.node(path.Join(m.home, path.Base(m.path))) != nil {
		return false
	}
	here, there := c.Lookup(m.path).Entry, c.Lookup(path.Join(m.home, path.Base(m.path))).Entry
	return (here == nil || here.CatchAll() || here.OnlyEnding()) && there != nil &&
		slices.ContainsFunc(there.Spellings, func(s layout.Pattern) bool { return s.Exact == path.Base(m.path) })
}

// separatorIn is what stands between the names of a package in a file.
func separatorIn(at string) string {
	if strings.HasSuffix(at, ".php") {
		return `\`
	}
	return "."
}

// askedBack gives where a file was looked for by its package line, where somebody imports it by
// that: it was moved, and nothing else was; "" where nobody does.
func (c *Call) askedBack(m misfit) string {
	if m.home == "" || c.homeOf(m.path) != m.path {
		return ""
	}
	name, to := m.got+separatorIn(m.path)+names.BeforeDot(path.Base(m.path)), path.Join(m.home, path.Base(m.path))
	asked := slices.ContainsFunc(c.files("files"), func(f file) bool {
		return f.path != m.path && slices.ContainsFunc(c.refsOf(f.path).Of(refs.Import), func(r refs.Ref) bool { return strings.Trim(r.Name, `\`) == name })
	})
	if !asked && !c.leftEmpty(m.home) || c.node(to) != nil {
		return ""
	}
	return c.Top.Path() + to
}

// importsOf says whether a file imports something of a package.
func (c *Call) importsOf(name string) bool {
	return slices.ContainsFunc(c.files("files"), func(f file) bool {
		return slices.ContainsFunc(c.refsOf(f.path).Of(refs.Import), func(r refs.Ref) bool { return names.HasWords(r.Name, name) })
	})
}

// tellDotted tells of folders whose one name holds what should be several folders, as
// a package spelt with dots does: the compiler takes it, the tools do not.
func (c *Call) tellDotted(of map[string]int, roots []file) {
	told := map[string]bool{}
	for _, folder := range slices.Sorted(maps.Keys(of)) {
		root, ok := rootOf(roots, folder+"/x")
		if !ok {
			continue
		}
		at := root
		for _, name := range strings.Split(strings.Trim(strings.TrimPrefix(folder, root), "/"), "/") {
			at = strings.TrimPrefix(at+"/"+name, "/")
			if strings.Contains(name, ".") && !told[at] && hasEnding(c, folder, ".kt", ".java") {
				told[at] = true
				f := c.report(at+"/", 0, 0, nil, "a package is one folder for each of its names")
				f.Kind, f.Home = finding.Misnamed, c.Top.Path()+path.Join(path.Dir(at), strings.ReplaceAll(name, ".", "/"))+"/"
			}
		}
	}
}

// hasEnding says whether a folder holds a file with one of the endings.
func hasEnding(c *Call, folder string, endings ...string) bool {
	return hasFile(c, folder, func(name string) bool { return slices.Contains(endings, path.Ext(name)) })
}

// hasFile says whether a folder holds a file with a name that fits.
func hasFile(c *Call, folder string, fits func(name string) bool) bool {
	n := c.node(folder)
	return n != nil && n.Folder != nil && slices.ContainsFunc(n.Folder.Nodes, func(n tree.Node) bool { return n.Folder == nil && fits(n.Name) })
}

// starts says whether a file begins a program at the top of its sources, which the nameless package
// fits.
func (c *Call) starts(at, root string) bool {
	return path.Dir(at) == root && !c.flag("loose") && bytes.Contains(c.textOf(at), []byte("fun main("))
}
