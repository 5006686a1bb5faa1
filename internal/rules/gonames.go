package rules

import (
	"fmt"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/edit"
	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang/golang"
)

// mostLost is how many names that nothing gives a package may use: of one with more, a program writes a part.
const mostLost = 3

// tellGoNames tells of names that the files of a package use and that none of them gives (the Go
// specification, "Declarations and scope"), each once, with all who use it.
func (c *Call) tellGoNames(folder string) {
	if c.lends(folder+"/x.go") || passedOver(folder+"/x.go") {
		return
	}
	var all []goName
	for _, at := range c.goFiles(folder, true) {
		all = append(all, c.tellOutside(folder, at, c.lostIn(at))...)
	}
	if len(all) == 0 {
		return
	}
	lost := grouped(all, func(n goName) string { return n.name })
	written := c.isWritten(folder) || c.leavesOutGo()
	given := c.namesInGo(folder)
	for _, uses := range lost {
		name := uses[0].name
		near, other := nearOne(name, given), c.declaredBelow(folder, name)
		message := fmt.Sprintf("it uses %s, which nothing in its package gives", name)
		switch {
		case near != "":
			message += "; did it mean " + near + "?"
		case other != "":
			message += "; " + c.Top.Path() + other + " gives that"
		case written || len(lost) > mostLost:
			continue
		}
		f := c.atName(uses[0].at, uses[0].span, other, "%s", message)
		f.About = folder + "/ " + name // as those say who take it of the package
		for _, n := range uses {
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
	p := said.Package()
	if said.Broken != "" || said.Open || p == nil || p.Guarded || slices.ContainsFunc(said.Of(refs.Import), func(r refs.Ref) bool { return r.Value == "." || r.Name == "C" }) {
		return nil
	}
	gives := func(name string) bool { return c.givesInGo(path.Dir(at), name, isTest(at)) }
	if isOutside(at, p) {
		gives = func(name string) bool { return c.givesOutside(path.Dir(at), p.Name, name) }
	}
	for _, u := range said.Uses.Unbound {
		name, _, before := strings.Cut(u.Name, ".")
		if gives(name) || importsAs(said, name) || slices.ContainsFunc(lost, func(n goName) bool { return n.name == name }) {
			continue
		}
		if before && (!c.knowsPackages(said) || len(golang.StandardCalled(name)) > 0 || c.Graph.Look().FoldersEnding(name) != nil) {
			continue // a package of others, or one that is told of as such
		}
		lost = append(lost, goName{name, at, refs.Span{Start: u.Span.Start, End: u.Span.Start + int32(len(name))}})
	}
	return lost
}

// knowsPackages says whether each package of others that a file imports is known there by a name of its path, so
// that none is called otherwise.
func (c *Call) knowsPackages(said *refs.File) bool {
	for _, r := range said.Of(refs.Import) {
		if r.Value != "" || golang.Standard()[r.Name] {
			continue
		}
		known := slices.ContainsFunc(strings.FieldsFunc(r.Name, func(b rune) bool { return strings.ContainsRune("/.-", b) }), said.Words.Has)
		if !known {
			return false
		}
	}
	return true
}

// isOutside says whether a file holds tests of a package from outside, which see what others see (go help test).
func isOutside(at string, said *refs.Ref) bool {
	return isTest(at) && strings.HasSuffix(said.Name, "_test")
}

// tellOutside tells of tests that use names of the package beside them and say that they are outside of it, and
// gives the names that are lost otherwise.
func (c *Call) tellOutside(folder, at string, lost []goName) (others []goName) {
	p := c.refsOf(at).Package()
	if p == nil || !isOutside(at, p) {
		return lost
	}
	var inside []string
	for _, n := range lost {
		if c.givesInGo(folder, n.name, true) {
			inside = append(inside, n.name)
		} else {
			others = append(others, n)
		}
	}
	if len(inside) > 0 {
		name := strings.TrimSuffix(p.Name, "_test")
		f := c.atRef(at, *p, &finding.Place{Path: folder + "/"}, "it says package %s and uses %s of package %s, which that does not see", p.Name, inOneSentence(inside), name)
		f.Level = finding.Error
		f.Fix = []edit.Edit{c.edit(at, p.Span, name)}
	}
	return others
}

// givesOutside says whether the tests from outside in a folder give a name to each other.
func (c *Call) givesOutside(in, called, name string) bool {
	return slices.ContainsFunc(c.goFiles(in, true), func(at string) bool {
		said := c.refsOf(at)
		p := said.Package()
		return said.Broken != "" || said.Open || p == nil || p.Name == called && isTest(at) && said.Uses.Gives.Has(name)
	})
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
