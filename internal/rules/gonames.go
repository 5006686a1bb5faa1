package rules

import (
	"fmt"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/refs"
)

// mostLost is how many names that nothing gives a package may use: of one with more, a program writes a part.
const mostLost = 3

// tellGoNames tells of names that the files of a package use and that none of them gives (the Go
// specification, "Declarations and scope"), each once, with all who use it.
func (c *Call) tellGoNames(folder string) {
	if c.lends(folder+"/x.go") || passedOver(folder+"/x.go") {
		return
	}
	lost, order := map[string][]goName{}, []string{}
	for _, at := range c.goFiles(folder, true) {
		for _, n := range c.lostIn(at) {
			if lost[n.name] == nil {
				order = append(order, n.name)
			}
			lost[n.name] = append(lost[n.name], n)
		}
	}
	if len(order) == 0 {
		return
	}
	written := c.isWritten(folder) || c.leavesOutGo()
	given := c.namesInGo(folder)
	for _, name := range order {
		all := lost[name]
		near, other := nearOne(name, given), c.declaredBelow(folder, name)
		message := fmt.Sprintf("it uses %s, which nothing in its package gives", name)
		switch {
		case near != "":
			message += "; did it mean " + near + "?"
		case other != "":
			message += "; " + c.Top.Path() + other + " gives that"
		case written || len(order) > mostLost:
			continue
		}
		f := c.atName(all[0].at, all[0].span, other, "%s", message)
		f.About = folder + "/ " + name // as those say who take it of the package
		for _, n := range all {
			f.AlsoAt(c.Top.Path() + n.at)
			if near != "" {
				f.Fix = append(f.Fix, c.edit(n.at, n.span, near))
			}
		}
	}
}

// A goName is a name that a file of Go uses, at its first place there.
type goName struct {
	name, at string
	span     refs.Span
}

// lostIn gives the names that a file uses and that its package does not give. What not every build takes in,
// and what takes all names of another package, is not looked at.
func (c *Call) lostIn(at string) (lost []goName) {
	said := c.refsOf(at)
	if p := said.Package(); said.Broken != "" || said.Open || p == nil || p.Guarded || slices.ContainsFunc(said.Of(refs.Import), func(r refs.Ref) bool { return r.Value == "." || r.Name == "C" }) {
		return nil
	}
	for _, u := range said.Uses.Unbound {
		if !strings.Contains(u.Name, ".") && !c.givesInGo(path.Dir(at), u.Name, isTest(at)) && !importsAs(said, u.Name) {
			lost = append(lost, goName{u.Name, at, u.Span})
		}
	}
	return lost
}

// importsAs says whether a file may know a package by a name.
func importsAs(said *refs.File, name string) bool {
	return slices.ContainsFunc(said.Of(refs.Import), func(r refs.Ref) bool {
		return r.Value == name || r.Value == "" && strings.Contains(r.Name, name)
	})
}

// declaredBelow gives the one file in another folder of the project that gives a name and says that it is of the
// package of a folder, or whose package alone gives that name.
func (c *Call) declaredBelow(folder, name string) string {
	declares := func(at string) bool {
		return path.Ext(at) == ".go" && path.Dir(at) != folder && !isTest(at) && c.refsOf(at).Uses.Gives.Has(name) && slices.Contains(c.declaredInGo(at), name)
	}
	var all []string
	c.Graph.Look().Each(func(at string) {
		if declares(at) {
			all = append(all, at)
		}
	})
	if len(all) == 1 {
		return all[0]
	}
	own := c.packageIn(folder)
	return only(all, func(at string) bool {
		p := c.refsOf(at).Package()
		return p != nil && p.Name == own
	})
}

// packageIn gives the name of the package in a folder, as a file of it says.
func (c *Call) packageIn(folder string) string {
	for _, at := range c.goFiles(folder, false) {
		if p := c.refsOf(at).Package(); p != nil && !p.Guarded {
			return p.Name
		}
	}
	return ""
}

// leavesOutGo says whether git is told to leave files of Go out, which a program writes.
func (c *Call) leavesOutGo() bool {
	return slices.ContainsFunc(c.Graph.Look().Called(""), func(at string) bool {
		return path.Base(at) == ".gitignore" && goLeftOut.Match(c.textOf(at))
	})
}

var goLeftOut = lazy.New(`(?m)^[^#\n]*\.go\s*$`)

// tellInternal tells of an import of a package below internal/ from outside of the folder that holds it: the go
// command refuses it (go help importpath, "Internal Directories").
func (c *Call) tellInternal(at string, said *refs.File) {
	own := ""
	for _, r := range said.Of(refs.Import) {
		i := lastInternal(r.Name)
		if i < 0 {
			continue
		}
		if own == "" {
			own = c.goPath(path.Dir(at))
		}
		around := strings.TrimSuffix(r.Name[:i], "/")
		to := c.targets(at, r)
		if own == "" || around == "" || len(to) == 0 || strings.HasPrefix(own+"/", around+"/") || c.homeOf(at) != at || c.homeOf(to[0]) != to[0] {
			continue
		}
		f := c.atRef(at, r, &finding.Place{Path: to[0] + "/"}, "it imports %s, which only what lies below %s may", r.Name, around)
		f.Kind, f.Level = finding.Tangled, finding.Error
	}
}

// lastInternal gives where the last part of a path begins that is called internal, -1 where none is.
func lastInternal(name string) int { return strings.LastIndex("/"+name+"/", "/internal/") }

// tellNeverRun tells of files with a func main whose package is none: go build makes no program of it (the Go
// specification, "Program execution").
func (c *goPackages) tellNeverRun(folder string) {
	for _, o := range c.all[folder] {
		if o.said.Name == "main" || c.most(folder) == "main" || strings.HasSuffix(o.path, "_test.go") || c.lends(o.path) {
			continue
		}
		said := c.refsOf(o.path)
		if said.Broken == "" && said.Uses.Gives.Has("main") && mainFunction.Match(c.Graph.Code(o.path)) {
			f := c.atRef(o.path, o.said, &finding.Place{Path: folder + "/"}, "it has a func main and says package %s: only package main is run", o.said.Name)
			f.Level = max(f.Level, finding.Warning)
			if len(c.all[folder]) == 1 {
				f.Fix = c.called(o, "main")
			}
		}
	}
}
