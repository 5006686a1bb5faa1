package rules

import (
	"go/token"
	"maps"
	"path"
	"slices"
	"strings"
	"sync"

	"dicaxon/internal/edit"
	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
)

// passedOver says whether the go command passes a file over, by the folders that
// it lies in (go help packages).
func passedOver(at string) bool {
	return strings.HasSuffix(at, ".go") && slices.ContainsFunc(strings.Split(path.Dir(at), "/"), func(name string) bool {
		return name == "testdata" || strings.HasPrefix(name, "_") || strings.HasPrefix(name, ".") && name != "."
	})
}

// An oddPackage is a file whose package is not called as its folder is.
type oddPackage struct {
	path string
	said refs.Ref
}

// goPackages are the packages of Go that a project has, by their folders.
type goPackages struct {
	*Call
	odd, all map[string][]oddPackage // of odd ones only those not called as their folder
	names    map[string]string       // see most
}

// note keeps what a file says of its package.
func (c *goPackages) note(at string, roots []file) {
	said := c.refsOf(at).Package()
	if said == nil || said.Guarded {
		return
	}
	home, folder := c.homeOf(at), path.Dir(at)
	if _, ok := rootOf(roots, home); !ok {
		if _, ok := rootOf(roots, at); !ok {
			home = at
		}
	}
	if c.goPackage(home, *said) {
		c.odd[folder] = append(c.odd[folder], oddPackage{at, *said})
	}
	c.all[folder] = append(c.all[folder], oddPackage{at, *said})
}

// tell tells of packages of Go by their folders. Files that contradict their
// neighbours do not compile. Where all agree, the folder is right, whatever it is
// called, as long as something imports it or nothing tells another name.
func (c *goPackages) tell() {
	imported := sync.OnceValue(c.imports)
	c.tellUnused()
	c.tellCircles()
	for _, folder := range slices.Sorted(maps.Keys(c.all)) {
		c.tellNeverRun(folder)
		if few := c.minority(folder); len(few) > 0 {
			for _, o := range few {
				f := c.atRef(o.path, o.said, &finding.Place{Path: folder + "/"}, "it says package %s, but the other files here say %s", o.said.Name, c.most(folder))
				if f.Home = c.homeByPackage(o); f.Home == "" {
					f.Fix = c.called(o, c.most(folder))
				}
			}
			continue
		}
		if at := c.idle(folder); at != nil {
			f := c.atRef(at.path, at.said, &finding.Place{Path: folder + "/"}, "it says package main, and no file here has a func main")
			f.Level = max(f.Level, finding.Warning) // a plugin needs none
			continue
		}
		files := c.odd[folder]
		if len(files) == 0 {
			continue
		}
		if c.testsElsewhere(folder, files) {
			continue
		}
		if _, spelt := rootOf(c.files("roots"), folder+"/x"); !spelt || imported()[folder] {
			continue
		}
		name := strings.TrimSuffix(files[0].said.Name, "_test")
		same := !slices.ContainsFunc(files, func(o oddPackage) bool { return strings.TrimSuffix(o.said.Name, "_test") != name })
		home := path.Join(path.Dir(folder), name)
		switch there, below := c.node(home) != nil && !c.leftEmpty(home), path.Join(folder, name); {
		case same && len(c.all[below]) > 0 && c.most(below) == name: // they lie one level too high
			for _, o := range files {
				f := c.atRef(o.path, o.said, &finding.Place{Path: below + "/"}, "it says package %s, which lies below", name)
				f.Home = c.Top.Path() + path.Join(below, path.Base(o.path))
			}
		case len(files) < 3 && c.hasFileOf(folder): // file and folder agree against the package line
			c.tellOdd(folder, files)
		case !same:
		case slices.Contains([]string{"internal", "pkg", "cmd", "src"}, path.Base(folder)) && (path.Base(folder) == "internal" && len(files) < 3 || imported()[below]): // such a folder holds packages
			for _, o := range files {
				f := c.atRef(o.path, o.said, &finding.Place{Path: folder + "/"}, "it says package %s, and %s/ holds folders of packages", name, path.Base(folder))
				f.Home = c.Top.Path() + path.Join(below, path.Base(o.path))
			}
		case !there && (imported()[home] || c.describes(home) || names.Near(path.Base(folder), name) != names.Apart):
			f := c.report(folder+"/", 0, 0, nil, "all its files say package %s", name)
			f.Kind, f.Home = finding.Misnamed, c.Top.Path()+home+"/"
			if !imported()[home] {
				f.Level = max(f.Level, finding.Warning) // it builds as it is
			}
		case there && len(files) == 1:
			if to := c.homeByPackage(files[0]); to != "" {
				f := c.atRef(files[0].path, files[0].said, &finding.Place{Path: home + "/"}, "it says package %s, but its folder is %s", name, path.Base(folder))
				f.Home = to
				continue
			}
			c.tellOdd(folder, files)
		}
	}
}

// plainName gives the name of a package without what marks tests from outside.
func (o oddPackage) plainName() string {
	if strings.HasSuffix(o.path, "_test.go") && o.said.Name != path.Base(path.Dir(o.path)) {
		return strings.TrimSuffix(o.said.Name, "_test")
	}
	return o.said.Name
}

// most gives the name that most files of a folder say, that of the folder of several.
func (c *goPackages) most(folder string) string {
	if name, known := c.names[folder]; known {
		return name
	}
	times := map[string]int{}
	for _, o := range c.all[folder] {
		times[o.plainName()] += 2
		if o.plainName() == path.Base(folder) || path.Base(o.path) == "main.go" {
			times[o.plainName()]++
		}
	}
	best := ""
	for _, name := range slices.Sorted(maps.Keys(times)) {
		if times[name] > times[best] {
			best = name
		}
	}
	c.names[folder] = best
	return best
}

// minority gives the files of a folder that say another package than the others: one
// folder is one package (go help packages).
func (c *goPackages) minority(folder string) []oddPackage {
	most := c.most(folder)
	var few []oddPackage
	for _, o := range c.all[folder] {
		if name := o.plainName(); name != most && name != "documentation" {
			few = append(few, o)
		}
	}
	return few
}

// mainFunction is where a program starts (the Go specification, "Program execution").
var mainFunction = lazy.New(`(?m)^func main\(\)`)

// givesMain is the library of a program that writes the func main of the targets in a folder (magefile.org).
const givesMain = `"github.com/magefile/mage/`

// idle gives a file of a folder that is package main and starts nothing; nil where
// there is none, or where the start may be made.
func (c *goPackages) idle(folder string) *oddPackage {
	all := c.all[folder]
	if c.most(folder) != "main" {
		return nil
	}
	starts := slices.ContainsFunc(all, func(o oddPackage) bool {
		text := c.textOf(o.path)
		return mainFunction.Match(text) || strings.Contains(string(text), "//go:generate") || strings.Contains(string(text), `import "C"`) || strings.Contains(string(text), givesMain) || strings.HasSuffix(o.path, "_test.go")
	})
	if starts || c.lends(all[0].path) {
		return nil
	}
	return &all[0]
}

func (c *Call) tellOdd(folder string, files []oddPackage) {
	for _, o := range files {
		f := c.atRef(o.path, o.said, &finding.Place{Path: folder + "/"}, "it says package %s, but its folder is %s", o.said.Name, path.Base(folder))
		if name := path.Base(folder); token.IsIdentifier(name) {
			f.Fix = c.called(o, name)
		}
	}
}

// called gives the edit by which a file says that it is of a package, none where it is astray.
func (c *Call) called(o oddPackage, name string) []edit.Edit {
	if c.homeOf(o.path) != o.path {
		return nil
	}
	if o.plainName() != o.said.Name {
		name += "_test"
	}
	return []edit.Edit{c.edit(o.path, o.said.Span, name)}
}

// homeByPackage gives where a file lies that was moved out of its package: the one other folder
// that has a package of that name, or that somebody imports by it and that is not there; ""
// where there is none, or several.
func (c *goPackages) homeByPackage(o oddPackage) (home string) {
	name := o.plainName()
	if name == "main" {
		return ""
	}
	folders := map[string]bool{}
	for folder, all := range c.all {
		if folder != path.Dir(o.path) && c.most(folder) == name && len(all) > 0 {
			folders[folder] = true
		}
	}
	for _, e := range c.Graph.Broken() {
		if at := e.Sought[0]; path.Ext(e.From) == ".go" && path.Base(at) == name && len(c.all[at]) == 0 {
			folders[at] = true
		}
	}
	if len(folders) != 1 {
		return ""
	}
	for folder := range folders {
		if to := path.Join(folder, path.Base(o.path)); c.node(to) == nil {
			home = c.Top.Path() + to
		}
	}
	return home
}

// testsElsewhere tells of tests of a package from inside it that lie alone in another folder: there
// they are a package of their own.
func (c *goPackages) testsElsewhere(folder string, files []oddPackage) bool {
	told := false
	for _, o := range files {
		if len(files) < len(c.all[folder]) || !strings.HasSuffix(o.path, "_test.go") || strings.HasSuffix(o.said.Name, "_test") {
			return told
		}
		home := c.homeByPackage(o)
		in := path.Dir(strings.TrimPrefix(home, c.Top.Path()))
		if home != "" && slices.ContainsFunc(c.all[in], func(o oddPackage) bool { return !strings.HasSuffix(o.path, "_test.go") }) {
			f := c.atRef(o.path, o.said, &finding.Place{Path: in + "/"}, "it says package %s, which lies in %s/", o.said.Name, in)
			f.Home, f.Level, told = home, max(f.Level, finding.Warning), true
		}
	}
	return told
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
	if folder == "." || name == "main" || name == "documentation" || said.Name == folder {
		return false
	}
	if len(folder) > 1 && folder[0] == 'v' && strings.Trim(folder[1:], "0123456789") == "" {
		return false
	}
	plain := strings.ToLower(strings.NewReplacer("-", "", "_", "", ".", "").Replace(folder))
	bare := strings.ToLower(strings.ReplaceAll(name, "_", ""))
	return bare != plain && bare != strings.TrimPrefix(plain, "go") && bare != strings.TrimSuffix(plain, "go")
}
