package identify

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/layout"
	"dicaxon/internal/manifest"
	"dicaxon/internal/names"
	"dicaxon/internal/tree"
)

// clues answers questions about signs in one folder, each file read once.
type clues struct {
	repository *tree.Repository
	folder     *tree.Folder
	forms      []fileForm
	files      map[string][]string // by the pattern of a text sign, once one is asked for
	needs      map[string]string   // dependency to the manifest that names it
	texts      map[string]string
}

// find gives what was found of a sign, for people, or "".
func (c *clues) find(s layout.Sign) string {
	switch {
	case s.Has != "":
		for _, one := range s.AnyOf() {
			if found := findIn(c.folder, one, s.Never); found != "" {
				return "it has " + found
			}
		}
	case s.Above != "":
		if c.has(c.folder, s.Above) != "" {
			return ""
		}
		for f := c.folder.Parent; f != nil; f = f.Parent {
			if name := c.has(f, s.Above); name != "" {
				return "it is below " + f.Path() + name
			}
		}
	case s.Needs != "":
		if file := c.needed(s.Needs); file != "" {
			return file + " needs " + s.Needs
		}
	case s.Text != nil:
		return c.findText(s.Text)
	}
	return ""
}

// findIn gives the name of what lies in a folder at a path of patterns, "" where nothing does. Where it
// speaks for a project, a slip in the name of a folder makes it no other one.
func findIn(f *tree.Folder, at string, exactly bool) string {
	if above, below, _ := strings.Cut(at, "/"); below != "" {
		for i := range f.Nodes {
			if n := &f.Nodes[i]; n.Folder != nil && !n.Ignored {
				if ok, _ := path.Match(above, n.Name); !ok {
					continue
				}
				if found := findIn(n.Folder, below, exactly); found != "" {
					return n.Name + "/" + found
				}
			}
		}
		return ""
	}
	name, folder := strings.CutSuffix(at, "/")
	for i := range f.Nodes {
		n := &f.Nodes[i]
		ok, _ := path.Match(name, n.Name)
		ok = ok || folder && !exactly && names.Near(n.Name, name) < names.Apart
		if ok && (n.Folder != nil) == folder && !n.Ignored {
			return n.Name
		}
	}
	return ""
}

// has gives a file of a folder by a pattern of its name, "" where there is none.
func (c *clues) has(f *tree.Folder, pattern string) string {
	for i := range f.Nodes {
		if n := &f.Nodes[i]; n.Folder == nil {
			if ok, _ := path.Match(pattern, n.Name); ok {
				return n.Name
			}
		}
	}
	return ""
}

// needed gives the manifest that names a dependency, "" where none does.
func (c *clues) needed(dependency string) string {
	if c.needs == nil {
		c.readManifests()
	}
	return c.needs[strings.ToLower(dependency)]
}

func (c *clues) readManifests() {
	c.needs = map[string]string{}
	for i := range c.folder.Nodes {
		n := &c.folder.Nodes[i]
		if n.Kind != tree.File || n.Ignored || !manifest.Is(n.Name) {
			continue
		}
		for _, need := range manifest.Needs(n.Name, []byte(c.text(c.folder.Path()+n.Name))) {
			if _, known := c.needs[need]; !known {
				c.needs[need] = n.Name
			}
		}
	}
}

// How far and how much a text sign looks.
const (
	textDepth = 6
	textFiles = 200
	textNames = 5000 // names looked at, whether they fit or not
)

func (c *clues) findText(s *layout.TextSign) string {
	if c.files == nil {
		c.files = map[string][]string{}
		names := textNames
		c.gather(c.folder, 0, &names)
	}
	for _, at := range c.files[s.File] {
		if text := c.text(at); names.HasWords(text, s.Has) && !slices.ContainsFunc(s.Lacks, func(lacks string) bool { return names.HasWords(text, lacks) }) {
			return strings.TrimPrefix(at, c.folder.Path()) + " has " + strings.TrimSpace(s.Has)
		}
	}
	return ""
}

// gather notes the files that any text sign asks about, in one pass for all
// signs: those of a folder before those below it.
func (c *clues) gather(f *tree.Folder, depth int, names *int) {
	for i := range f.Nodes {
		n := &f.Nodes[i]
		if *names--; n.Kind != tree.File || n.Ignored || *names < 0 {
			continue
		}
		for k := range c.forms {
			form := &c.forms[k]
			if form.fits(n.Name) && (!form.top || depth == form.depth) && len(c.files[form.pattern]) < textFiles {
				c.files[form.pattern] = append(c.files[form.pattern], f.Path()+n.Name)
			}
		}
	}
	for i := range f.Nodes {
		if n := &f.Nodes[i]; n.Folder != nil && !n.Ignored && depth < textDepth && *names > 0 && (depth > 0 || !asides[n.Name]) {
			c.gather(n.Folder, depth+1, names)
		}
	}
}

// A fileForm is the name pattern of a text sign.
type fileForm struct {
	pattern string
	name    string // the pattern without "./"
	ending  string // where the pattern is "*" and this
	open    bool   // it is no exact name
	top     bool   // only files so many folders below the project's root
	depth   int
}

func addForm(all []fileForm, pattern string) []fileForm {
	if slices.ContainsFunc(all, func(f fileForm) bool { return f.pattern == pattern }) {
		return all
	}
	below, top := strings.CutPrefix(pattern, "./")
	name := path.Base(below)
	return append(all, fileForm{pattern: pattern, name: name, ending: endingOf(name), open: isPattern(name), top: top, depth: strings.Count(below, "/")})
}

func (f *fileForm) fits(name string) bool {
	switch {
	case f.ending != "":
		return strings.HasSuffix(name, f.ending)
	case f.open:
		ok, _ := path.Match(f.name, name)
		return ok
	}
	return name == f.name
}

func (c *clues) text(path string) string {
	if text, ok := c.texts[path]; ok {
		return text
	}
	if c.texts == nil {
		c.texts = map[string]string{}
	}
	text, _ := c.repository.Text(path)
	c.texts[path] = string(text)
	return c.texts[path]
}
