package rules

import (
	"bytes"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
)

var copies = &Rule{
	Name: "copies", Kind: finding.Leftover, Level: finding.Warning, Always: true,
	Doc: "A file is no copy that somebody made by hand of the one beside it, such as \"berths copy.py\", berths.py.bak or berths_old.py.",
	Example: `- rule: copies
  except: "archive/**"`,
	Options: []Option{{"except", Paths, false, "files that may be copies", true}},
	Run: func(c *Call) {
		for _, f := range c.everything() {
			of, sure := copied(path.Base(f.path))
			at := path.Join(path.Dir(f.path), of)
			if of == "" || c.node(at) == nil || c.isFolder(at) || c.lends(f.path) || c.fits("except", f.path) || c.saidByName(f.path) {
				continue
			}
			if sure || c.alikeInText(f.path, at) {
				c.report(f.path, 0, 0, &finding.Place{Path: at}, "it looks like a copy of %s, which is beside it", of)
			}
		}
	},
}

var (
	// copyMarks are what desktops, editors and tools of version control put into the name of a copy.
	copyMarks = lazy.New(`^(?:(.+?)(?: - Copy| copy| Copy)(?: \d+| \(\d+\))?(\.[\w.]+)?|Copy of (.+)|(.+) \(\d\)(\.\w+)|(.+)\.(?:bak|orig|rej|old|backup|save))$`)
	// oldMarks are what people put there, and what other things may be called, too.
	oldMarks = lazy.New(`^(.+)[._-](?:old|OLD|bak|backup|orig|copy|alt)(\.\w+)$`)
)

// ofCopies is what the name of each copy holds a part of: that is looked for first, since it takes a
// fraction of the time.
var ofCopies = []string{"copy", "Copy", "old", "OLD", "bak", "orig", "rej", "backup", "save", "alt", " ("}

// copied gives the name of the file that another, by its name, is a copy of, and whether nothing else
// is called so; "" where it is none.
func copied(name string) (of string, sure bool) {
	if !slices.ContainsFunc(ofCopies, func(part string) bool { return strings.Contains(name, part) }) {
		return "", false
	}
	if m := copyMarks.Get().FindStringSubmatch(name); m != nil {
		return strings.Join(m[1:], ""), true
	}
	return strings.Join(append(oldMarks.Get().FindStringSubmatch(name), "", "")[1:], ""), false
}

// saidByName says whether a reference says the name of a file, and does not lead to it as to all of a package
// or namespace; that of nobody knows what in a large project.
func (c *Call) saidByName(at string) bool {
	return c.Files > mostTurned || slices.ContainsFunc(c.Graph.To(at), func(e refs.Edge) bool {
		return strings.Contains(e.Ref.Name+e.Ref.Value, names.Stem(path.Base(at)))
	})
}

// declareOneThing says whether two files of a package of Go, neither of which is built on some machines
// alone, declare something of the same name, which Go does not allow.
func (c *Call) declareOneThing(at, other string) bool {
	guarded := func(at string) bool { p := c.refsOf(at).Package(); return p == nil || p.Guarded }
	if guarded(at) || guarded(other) {
		return false
	}
	declared := map[string]bool{}
	for _, m := range declaredInGo.Get().FindAllSubmatch(c.Graph.Code(other), -1) {
		declared[string(m[1])] = len(m[1]) > 0 && string(m[1]) != "init" && string(m[1]) != "_"
	}
	return slices.ContainsFunc(declaredInGo.Get().FindAllSubmatch(c.Graph.Code(at), -1), func(m [][]byte) bool { return declared[string(m[1])] })
}

// alikeInText says whether a text is another, or of code at least half of the lines of a text stand in another, too.
func (c *Call) alikeInText(at, other string) bool {
	switch text := bytes.TrimSpace(c.textOf(at)); {
	case len(text) > 0 && path.Ext(at) != ".go" && bytes.Equal(text, bytes.TrimSpace(c.textOf(other))):
		return true
	case !refs.IsCode(at):
		return false
	case path.Ext(at) == ".go": // files of one package share what they are used for, but declare a thing once
		return c.declareOneThing(at, other)
	}
	known := map[string]bool{}
	for line := range bytes.Lines(c.textOf(other)) {
		known[string(bytes.TrimSpace(line))] = true
	}
	all, same := 0, 0
	for line := range bytes.Lines(c.textOf(at)) {
		if line = bytes.TrimSpace(line); len(line) > 3 {
			all++
			if known[string(line)] {
				same++
			}
		}
	}
	return all > 1 && 2*same >= all
}
