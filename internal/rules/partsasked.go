package rules

import (
	"bytes"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/placement"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
)

var partsAsked = &Rule{
	Name: "parts-asked", Kind: finding.Disagrees, Level: finding.Error,
	Doc: "What code imports from another part of a build is of a part that its own asks for, or one that comes with those.",
	Example: `- rule: parts-asked
  files: "**/*.kt"
  manifests: [build.gradle.kts, build.gradle]
  named: ['":{:}"', "projects.{}"]`,
	Options: []Option{
		{"files", Paths, true, "the code", false},
		{"manifests", Texts, true, "the names of the files that make a folder a part, and ask for others; \"*\" stands for any characters", false},
		{"named", Texts, true, "the texts that ask for a part: \"{}\" is the name of its folder, \"{:}\" its path with colons for slashes, \"{.}\" the name of its manifest without the ending", false},
		{"name-keys", Texts, false, "keys of a manifest whose values are its part's name; that of the folder holds beside them", false},
		{"by-name", Flag, false, "true where an import says the name of a part, and tests and settings may bring others", false},
		{"circles", Text, false, "what happens where parts ask for each other in a circle: then that is told", false},
		{"aside", Regexps, false, "what of a manifest may ask back, such as what only tests need", false},
		{"unless", Regexps, false, "what the manifest at the top, or of a part, has where others ask for parts too", false},
	},
	Run: runPartsAsked,
}

// A part is a folder with a manifest.
type part struct {
	folder, manifest string
	text             []byte
	called           []string // as its folder, and as its manifest says
}

func runPartsAsked(c *Call) {
	parts, shared := c.parts()
	c.tellCirclesOfParts(parts)
	if len(parts) < 2 || shared {
		return
	}
	reach := map[string]map[string]bool{}
	told := map[string]int{}
	for _, f := range c.files("files") {
		own := partOf(parts, f.path)
		if own == nil || c.homeOf(f.path) != f.path || c.lends(f.path) || c.flag("by-name") && aside(f.path) {
			continue
		}
		for _, e := range c.Graph.From(f.path) {
			other := c.otherPart(parts, own, &e)
			if other == nil || e.Ref.Guarded {
				continue
			}
			if reach[own.folder] == nil {
				reach[own.folder] = map[string]bool{}
				c.reachable(parts, own, reach[own.folder])
				if top := path.Base(own.manifest); c.flag("by-name") && c.node(top) != nil { // what the whole repository asks for is there for each
					c.reachable(parts, &part{".", top, c.textOf(top), nil}, reach[own.folder])
				}
			}
			if reach[own.folder][other.folder] {
				continue
			}
			key := own.folder + "\x00" + other.folder
			if c.toldOf(told, key, f.path) {
				continue
			}
			c.atRef(f.path, e.Ref, &finding.Place{Path: own.manifest}, "it imports %s of %s/, which %s does not ask for", e.Ref.Name, other.folder, own.manifest).About = c.Top.Path() + other.folder
			told[key] = len(c.findings)
		}
	}
}

// aside says whether a file is one of tests or examples, or of the settings of a tool.
func aside(at string) bool {
	return isTest(at) || inSample(at) || placement.ForTests(path.Dir(at)) || strings.Contains(path.Base(at), ".config.")
}

// parts lists the folders below the top that have a manifest, and says whether one of them leaves
// to others what is asked for.
func (c *Call) parts() (all []part, shared bool) {
	manifest := func(name string) bool {
		return slices.ContainsFunc(c.texts("manifests"), func(pattern string) bool {
			fits, _ := path.Match(pattern, name)
			return fits
		})
	}
	for _, f := range c.everything() {
		if !manifest(path.Base(f.path)) {
			continue
		}
		text := c.textOf(f.path)
		for _, re := range c.regexps["unless"] {
			shared = shared || re.Match(text)
		}
		if dir := path.Dir(f.path); dir != "." {
			called := []string{path.Base(dir)}
			for _, k := range c.keysOf(f.path, "name-keys") {
				called = append(called, k.Value)
			}
			all = append(all, part{dir, f.path, text, called})
		}
	}
	return all, shared
}

// partOf gives the deepest part that a path lies in, nil where there is none.
func partOf(parts []part, at string) *part {
	return deepest(parts, at, func(p *part) string { return p.folder })
}

// otherPart gives the one part, other than its own, that an import leads into; nil where it is
// not sure.
func (c *Call) otherPart(parts []part, own *part, e *refs.Edge) (other *part) {
	// A namespace of C# is found by what files say, and seen where one of their projects is.
	byName := c.flag("by-name")
	sure := e.How == lang.Exactly || path.Ext(e.From) == ".cs" || byName
	relative := strings.HasPrefix(e.Ref.Name, ".") || e.Ref.Relative > 0
	if e.Ref.Kind != refs.Import || !sure || e.Within != "" || byName && relative {
		return nil
	}
	for _, to := range e.To {
		p := partOf(parts, to+"/") // it may be the folder of a part itself
		if p == nil || p == own || other != nil && other != p || c.isFolder(to) && !byName {
			return nil
		}
		other = p
	}
	return other
}

// reachable notes the parts that one asks for, and those that come with them.
func (c *Call) reachable(parts []part, from *part, found map[string]bool) {
	for i := range parts {
		if p := &parts[i]; p != from && !found[p.folder] && c.asksFor(from, p) {
			found[p.folder] = true
			c.reachable(parts, p, found)
		}
	}
}

func (c *Call) asksFor(from, to *part) bool {
	return slices.ContainsFunc(c.formsOf(to), func(form string) bool { return bytes.Contains(from.text, []byte(form)) })
}

// formsOf gives the texts that ask for a part.
func (c *Call) formsOf(to *part) (all []string) {
	base := path.Base(to.manifest)
	for _, name := range to.called {
		forms := strings.NewReplacer("{}", name, "{:}", strings.ReplaceAll(to.folder, "/", ":"), "{.}", strings.TrimSuffix(base, path.Ext(base)))
		for _, named := range c.texts("named") {
			all = append(all, forms.Replace(named))
		}
	}
	return all
}
