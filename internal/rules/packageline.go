package rules

import (
	"cmp"
	"maps"
	"path"
	"slices"
	"strings"
	"sync"

	"dicaxon/internal/finding"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
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
		{"roots", Paths, true, "the folders from which the package is spelt", false},
		{"prefix", Text, false, "the namespace that stands for such a folder", false},
		{"needed", Flag, false, "true where a file without a package line is wrong", false},
		{"loose", Flag, false, "true where the part that all packages share may have no folders", false},
	},
	Run: runPackageLine,
}

func runPackageLine(c *Call) {
	roots := c.files("roots")
	files := slices.DeleteFunc(c.files("files"), func(f file) bool { return passedOver(f.path) })
	c.readAhead(files)
	odd, of := map[string][]oddPackage{}, map[string]int{}
	defer func() { c.tellPackages(odd, of) }()
	for _, f := range files {
		home := c.homeOf(f.path) // what is astray is judged as at its home
		root, ok := rootOf(roots, home)
		if !ok {
			if root, ok = rootOf(roots, f.path); !ok && !strings.HasSuffix(f.path, ".go") {
				continue
			}
			home = f.path
		}
		below := strings.TrimPrefix(strings.TrimPrefix(path.Dir(home), root), "/")
		if below == "." {
			below = ""
		}
		said := c.refsOf(f.path).Package()
		if said == nil {
			if c.flag("needed") && len(strings.TrimSpace(string(c.textOf(f.path)))) > 0 {
				c.report(f.path, 1, 0, &finding.Place{Path: path.Dir(f.path) + "/"}, "it says no package, so it is in the nameless one")
			}
			continue
		}
		if strings.HasSuffix(f.path, ".go") {
			if c.goPackage(home, *said) {
				odd[path.Dir(f.path)] = append(odd[path.Dir(f.path)], oddPackage{f.path, *said})
			}
			of[path.Dir(f.path)]++
			continue
		}
		c.spelt(f, *said, below)
	}
}

// passedOver says whether the go command passes a file over, by the folders that
// it lies in (go help packages).
func passedOver(at string) bool {
	return strings.HasSuffix(at, ".go") && slices.ContainsFunc(strings.Split(path.Dir(at), "/"), func(name string) bool {
		return name == "testdata" || strings.HasPrefix(name, "_") || strings.HasPrefix(name, ".") && name != "."
	})
}

// rootOf gives the deepest of the folders that the path lies in.
func rootOf(roots []file, at string) (root string, ok bool) {
	for _, r := range roots {
		if strings.HasPrefix(at, r.path+"/") && len(r.path) >= len(root) {
			root, ok = r.path, true
		}
	}
	return root, ok
}

// spelt compares a package with the folders below the root.
func (c *Call) spelt(f file, said refs.Ref, below string) {
	separator := "."
	if strings.HasSuffix(f.path, ".php") {
		separator = `\`
	}
	want := strings.ReplaceAll(below, "/", separator)
	if prefix := fill(c.text("prefix"), f.env, c.env); prefix != "" {
		want = strings.Trim(prefix+separator+want, separator)
	}
	got := strings.Trim(said.Name, separator)
	if got == want || c.flag("loose") && (want == "" || strings.HasSuffix(got, separator+want)) {
		return
	}
	c.atRef(f.path, said, &finding.Place{Path: path.Dir(f.path) + "/"}, "it says %s, but its folder says %s", got, cmp.Or(want, "no package"))
}

// An oddPackage is a file whose package is not called as its folder is.
type oddPackage struct {
	path string
	said refs.Ref
}

// tellPackages tells of packages of Go by their folders. Files that contradict
// their neighbours do not compile. Where all agree, the folder is right, whatever
// it is called, as long as something imports it or nothing tells another name.
func (c *Call) tellPackages(odd map[string][]oddPackage, of map[string]int) {
	imported := sync.OnceValue(c.imports)
	for _, folder := range slices.Sorted(maps.Keys(odd)) {
		files := odd[folder]
		if len(files) < of[folder] {
			c.tellOdd(folder, files)
			continue
		}
		if _, spelt := rootOf(c.files("roots"), folder+"/x"); !spelt || imported()[folder] {
			continue
		}
		name := strings.TrimSuffix(files[0].said.Name, "_test")
		same := !slices.ContainsFunc(files, func(o oddPackage) bool { return strings.TrimSuffix(o.said.Name, "_test") != name })
		home := path.Join(path.Dir(folder), name)
		switch there := c.node(home) != nil; {
		case c.hasFileOf(folder): // file and folder agree against the package line
			c.tellOdd(folder, files)
		case !same:
		case !there && (imported()[home] || c.describes(home) || names.Near(path.Base(folder), name) != names.Apart):
			f := c.report(folder+"/", 0, 0, nil, "all its files say package %s", name)
			f.Kind, f.Home = finding.Misnamed, c.Top.Path()+home+"/"
			if !imported()[home] {
				f.Level = max(f.Level, finding.Warning) // it builds as it is
			}
		case there && len(files) == 1:
			c.tellOdd(folder, files)
		}
	}
}

func (c *Call) tellOdd(folder string, files []oddPackage) {
	for _, o := range files {
		c.atRef(o.path, o.said, &finding.Place{Path: folder + "/"}, "it says package %s, but its folder is %s", o.said.Name, path.Base(folder))
	}
}

// imports gives what the files of Go import, by the ends of the paths: a folder is
// imported where its own path is among them.
func (c *Call) imports() map[string]bool {
	all := map[string]bool{}
	for _, f := range c.files("files") {
		if !strings.HasSuffix(f.path, ".go") {
			continue
		}
		for _, r := range c.refsOf(f.path).Of(refs.Import) {
			for end, more := r.Name, true; more; _, end, more = strings.Cut(end, "/") {
				all[end] = true
			}
		}
	}
	return all
}

// describes says whether the layout has a folder of that very name.
func (c *Call) describes(at string) bool {
	e := c.Lookup(at + "/").Entry
	return e != nil && e.Parent != nil && e.Spellings[0].Exact != ""
}

// hasFileOf says whether a folder holds a file of its own name: then the folder is
// called as it was meant to be.
func (c *Call) hasFileOf(folder string) bool {
	return c.node(path.Join(folder, path.Base(folder)+".go")) != nil
}

// goPackage says whether a package of Go is not called as its folder is: a package bears the name
// of its folder, but for programs, tests from outside, versions, and what a
// name of Go cannot hold (Effective Go, "Package names").
func (c *Call) goPackage(home string, said refs.Ref) bool {
	name := said.Name
	if strings.HasSuffix(home, "_test.go") {
		name = strings.TrimSuffix(name, "_test")
	}
	folder := path.Base(path.Dir(home))
	if folder == "." || name == "main" || name == "documentation" {
		return false
	}
	if len(folder) > 1 && folder[0] == 'v' && strings.Trim(folder[1:], "0123456789") == "" {
		return false
	}
	plain := strings.ToLower(strings.NewReplacer("-", "", "_", "", ".", "").Replace(folder))
	bare := strings.ToLower(strings.ReplaceAll(name, "_", ""))
	return bare != plain && bare != strings.TrimPrefix(plain, "go") && bare != strings.TrimSuffix(plain, "go")
}
