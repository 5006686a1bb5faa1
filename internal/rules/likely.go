package rules

import (
	"cmp"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/names"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang/dbt"
	"dicaxon/internal/tree"
)

// mostMeant is how many things that may have been meant are named.
const mostMeant = 3

// likely lists what a reference that leads nowhere likely means, the likeliest
// first, in the words that the reference would have: a near name in the place, or
// the same name elsewhere; and the paths of those that are files or folders.
func (c *Call) likely(e *refs.Edge) (meant, paths []string, near bool) {
	switch {
	case e.Within != "":
		meant, paths = c.likelyIn(e)
		return meant, paths, true
	case e.Ref.Kind == refs.Source:
		if near := nearOne(e.Ref.Name, dbt.Sources(c.Graph.Look())); near != "" {
			meant = []string{near}
		}
		return meant, nil, true
	}
	paths, near = c.likelyPaths(e)
	for _, at := range paths {
		meant = append(meant, c.asWritten(e, at))
	}
	if len(paths) == 0 && !e.Only && !e.Near {
		if at, _ := c.alike(e); at != "" {
			meant = []string{c.asWritten(e, at)}
		}
	}
	return meant, paths, near
}

// likelyPaths lists the paths that a reference that leads nowhere likely means.
func (c *Call) likelyPaths(e *refs.Edge) (paths []string, near bool) {
	if e.Ref.Kind == refs.Model {
		if near := c.nearModel(e.Ref.Name); near != "" {
			return []string{near}, true
		}
	}
	if e.Meant != "" {
		return []string{e.Meant}, true
	}
	for i, at := range e.Sought {
		// Of many endings that may be left out, one is enough to go by.
		if i > 0 && path.Dir(at) == path.Dir(e.Sought[0]) && c.ending(e.Sought[0]) == "" {
			continue
		}
		if at := c.nearPath(at, e.From, e.Ref.Kind == refs.Import); at != "" {
			return []string{at}, true
		}
	}
	if at := c.nearType(e); at != "" {
		return []string{at}, true
	}
	weak := e.Only || e.Near // it is told only where something was likely meant
	if at := c.giver(e); at != "" && !weak {
		return []string{at}, false
	}
	if paths = c.sameName(e.Sought[0], e.From); len(paths) > 0 || weak {
		if weak && kin(path.Ext(e.From), ".java") {
			paths = slices.DeleteFunc(paths, func(at string) bool { return !c.sameHouse(e.Ref.Name, at) })
		}
		return paths, false
	}
	if at, sure := c.alike(e); sure {
		paths = []string{at}
	}
	return paths, false
}

// sameHouse says whether a whole name of the JVM begins as the package of a file does.
func (c *Call) sameHouse(name, at string) bool {
	said := c.refsOf(at).Package()
	return said == nil || firstPart(name, ".") == firstPart(said.Name, ".")
}

// nearType gives the one file of a package of the JVM that has nearly the name of a type that
// is imported from it and not there.
func (c *Call) nearType(e *refs.Edge) string {
	i := strings.LastIndexByte(e.Ref.Name, '.')
	if i < 0 || e.Ref.Kind != refs.Import || !kin(path.Ext(e.From), ".java") {
		return ""
	}
	return c.nearFile(e.Ref.Name[i+1:], func(f string) bool {
		said := c.refsOf(f).Package()
		return kin(path.Ext(f), ".java") && said != nil && said.Name == e.Ref.Name[:i]
	})
}

// nearModel gives the one table of nearly a name, in whatever folder it lies; "" where
// there is none, or several.
func (c *Call) nearModel(name string) string {
	return c.nearFile(name, func(f string) bool { return path.Ext(f) == ".sql" || path.Ext(f) == ".csv" })
}

// asWritten gives a path as a reference would have it: from its own file where it is
// written so.
func (c *Call) asWritten(e *refs.Edge, at string) string {
	plain := e.Ref.Kind == refs.Link || e.Ref.Kind == refs.Import && strings.HasPrefix(e.Ref.Name, ".")
	if !plain {
		return at
	}
	at = refs.WayTo(e.From, at)
	if e.Ref.Kind != refs.Import {
		return strings.TrimPrefix(at, "./")
	}
	switch written := c.ending(e.Ref.Name); {
	case written == "":
		at = strings.TrimSuffix(at, c.ending(at))
	case slices.Contains(compiledTo, written) && strings.Contains(path.Ext(at), "ts"):
		at = strings.TrimSuffix(at, path.Ext(at)) + written // of what it is compiled to
	}
	return at
}

// nearPath puts right the first name on the way to a path that is not there, if
// what the rest of the way leads to is there then. An ending may be left out only
// where the reference leaves it out.
func (c *Call) nearPath(at, from string, loose bool) string {
	return cmp.Or(c.nearFirst(at, from, loose), c.nearFolder(at, from))
}

// nearFolder puts right the name of one folder on the way to a path, though a folder of that
// name is there: what the rest of the way leads to is in one of nearly its name.
func (c *Call) nearFolder(at, from string) (found string) {
	parts := strings.Split(at, "/")
	for i := range parts[:len(parts)-1] {
		way := strings.Join(parts[:i+1], "/")
		if !c.isFolder(way) {
			return found
		}
		in := c.node(path.Dir(way))
		for k := range in.Folder.Nodes {
			n := &in.Folder.Nodes[k]
			if n.Folder == nil || n.Ignored || names.Near(parts[i], n.Name) == names.Apart || n.Name == parts[i] {
				continue
			}
			meant := path.Join(path.Dir(way), n.Name, strings.Join(parts[i+1:], "/"))
			switch {
			case meant == from || !c.standsWithout(meant):
			case found != "":
				return ""
			default:
				found = meant
			}
		}
	}
	return found
}

// nearFirst is nearPath for the first name that is not there.
func (c *Call) nearFirst(at, from string, loose bool) string {
	parts := strings.Split(at, "/")
	for i := range parts {
		way, rest := strings.Join(parts[:i+1], "/"), parts[i+1:]
		if n := c.node(way); n != nil && (len(rest) > 0 || n.Folder == nil) && (n.Folder == nil || !n.Folder.Empty()) {
			continue // an empty folder is what something was moved out of
		}
		in := c.node(path.Dir(way))
		if in == nil || in.Folder == nil {
			return ""
		}
		best, least := "", names.Apart
		for k := range in.Folder.Nodes {
			n := &in.Folder.Nodes[k]
			if n.Ignored || n.Folder == nil && len(rest) > 0 || n.Folder != nil && len(rest) == 0 && c.ending(at) != "" {
				continue
			}
			slip := names.Near(parts[i], n.Name)
			stem := names.BeforeDot(n.Name)
			if strings.Contains(parts[i], ".") {
				stem = names.Stem(n.Name)
			}
			ofKind := path.Ext(from) != ".py" || slices.Contains([]string{".py", ".pyi", ".pyx", ".so"}, path.Ext(n.Name))
			if stem != "" && slip == names.Apart && loose && ofKind && n.Folder == nil && c.ending(parts[i]) == "" && (refs.IsCode(n.Name) || !refs.Reads(n.Name)) {
				slip = names.Near(parts[i], stem)
			}
			meant := path.Join(append([]string{path.Dir(way), n.Name}, rest...)...)
			if slip != names.None && slip < least && meant != from && c.standsWithout(meant) {
				best, least = meant, slip
			}
		}
		return best
	}
	return ""
}

// nearUnder is nearPath for a path below any folder of its first name.
func (c *Call) nearUnder(at, from string, anywhere bool) (found string) {
	first, rest, deeper := strings.Cut(strings.TrimSuffix(at, "/"), "/")
	if !anywhere || !deeper {
		return ""
	}
	below := "" // what is near, from the folder on: the same below another folder is no other
	for _, folder := range c.Graph.Look().FoldersEnding(first) {
		near := c.nearPath(folder+"/"+rest, from, true)
		switch {
		case near == "" || found != "" && below == strings.TrimPrefix(near, folder):
		case found != "":
			return ""
		default:
			found, below = near, strings.TrimPrefix(near, folder)
		}
	}
	if found != "" {
		return found
	}
	if near := c.Graph.Look().FolderNear(first); near != "" && c.standsWithout(near+rest) {
		return near + rest
	}
	return ""
}

// nearBelow gives the one file, or folder, of nearly the name of a path that lies in a folder of the
// path's folders, wherever that is; of a path without folders only where any folder does. ""
// where there is none, or several.
func (p *project) nearBelow(at string, anywhere bool) string {
	found, known := p.below[at]
	if folder, is := strings.CutSuffix(at, "/"); is && !known {
		if anywhere {
			found = p.Graph.Look().FolderNear(folder)
		}
	} else if dir := path.Dir(at); !known && (dir != "." || anywhere) {
		found = p.nearFile(names.BeforeDot(path.Base(at)), func(f string) bool {
			return path.Ext(f) == path.Ext(at) && (dir == "." || path.Dir(f) == dir || strings.HasSuffix(path.Dir(f), "/"+dir))
		})
		if p.below == nil {
			p.below = map[string]string{}
		}
		p.below[at] = found
	}
	return found
}

// nearFile gives the one file that fits and has nearly a name, "" where there is none, or
// several.
func (p *project) nearFile(name string, fits func(file string) bool) (found string) {
	for _, stem := range p.nearStems(name) {
		for _, f := range p.Graph.Look().Called(stem) {
			if !fits(f) {
				continue
			}
			if found != "" {
				return ""
			}
			found = f
		}
	}
	return found
}

// mostCompared bounds how many pairs of names are compared: where more names than that lead nowhere,
// what they lead to is not at hand.
const mostCompared = 50_000_000

// nearStems gives what files are called, up to the first dot, that is nearly a name.
func (p *project) nearStems(name string) []string {
	if found, known := p.near[name]; known {
		return found
	}
	if p.near == nil {
		p.near, p.beginning = map[string][]string{}, map[rune][]string{}
		for stem := range p.Graph.Look().Stems() {
			first, _ := names.Beginning(stem)
			p.beginning[first] = append(p.beginning[first], stem)
		}
	}
	if len(p.near)*len(p.Graph.Look().Stems()) > mostCompared {
		return nil
	}
	var found []string
	first, second := names.Beginning(name)
	for _, letter := range slices.Compact([]rune{first, second}) {
		for _, stem := range p.beginning[letter] {
			if names.Near(name, stem) != names.Apart {
				found = append(found, stem)
			}
		}
	}
	p.near[name] = found
	return found
}

// standsWithout says whether something is at a path, whose ending may be left out.
func (c *Call) standsWithout(at string) bool {
	return c.node(at) != nil || c.ending(at) == "" && len(c.Graph.Look().Stemmed(at)) > 0
}

// ending gives the ending of a file's name, "" where it was left out: what stands behind
// the last dot is the ending of no file then, as in "roles.guard".
func (p *project) ending(at string) string {
	ending := path.Ext(at)
	if ending != "" && !refs.IsCode(at) && !refs.Parses(at) && len(p.endings()[ending]) == 0 {
		return ""
	}
	return ending
}

// markers are names that stand for the folder around them.
var markers = map[string]bool{"index": true, "__init__": true, "mod": true, "_index": true}

// kin says whether a file with one ending may import one with another.
func kin(a, b string) bool {
	script := func(e string) bool {
		return slices.Contains([]string{".js", ".jsx", ".mjs", ".cjs", ".ts", ".tsx", ".mts", ".cts", ".vue", ".svelte"}, e)
	}
	jvm := func(e string) bool { return e == ".java" || e == ".kt" }
	style := func(e string) bool { return e == ".css" || e == ".scss" }
	return a == b || script(a) && script(b) || jvm(a) && jvm(b) || style(a) && style(b)
}

// givenWithin lists what a module gives, and what lies in the folder that is one, or that it stands for.
func (c *Call) givenWithin(at string) []string {
	known := c.givenBy(at)
	n := c.node(at)
	if n != nil && n.Folder == nil && names.BeforeDot(path.Base(at)) == "__init__" {
		n = c.node(path.Dir(at))
	}
	if n != nil && n.Folder != nil {
		for i := range n.Folder.Nodes {
			known = append(known, names.BeforeDot(n.Folder.Nodes[i].Name))
		}
	}
	return known
}

// likelyIn gives the name in a module that one was likely meant that it does not
// have, or where that is now.
func (c *Call) likelyIn(e *refs.Edge) (meant, paths []string) {
	if e.Meant != "" {
		return []string{e.Meant}, nil
	}
	known := c.givenWithin(e.Within)
	if c.keeps(e) {
		return nil, nil
	}
	if near := names.Closest(e.Ref.Value, known); near != "" {
		return []string{near}, nil
	}
	if begun := only(known, func(name string) bool { return beginAlike(name, e.Ref.Value) }); begun != "" {
		return []string{begun}, nil
	}
	if other := c.renamedTo(e); other != "" {
		return []string{other}, nil
	}
	paths = c.sameName(e.Sought[0], e.From)
	return paths, paths
}

// isTest says whether a file is one of tests, by its name.
func isTest(at string) bool {
	_, test := names.Testee(path.Base(at))
	return test
}

// inAnother says whether what an import looks for lies in another project of the
// repository, under the same names: it may be built together with that one.
func (c *Call) inAnother(e *refs.Edge) bool {
	if e.Ref.Kind != refs.Import || e.Within != "" || e.Ref.Relative > 0 || strings.HasPrefix(e.Ref.Name, ".") || c.Top == c.Repository.Top {
		return false
	}
	n := len(strings.FieldsFunc(e.Ref.Name, func(r rune) bool { return strings.ContainsRune(`./\:`, r) }))
	return n > 1 && slices.ContainsFunc(e.Sought, func(at string) bool {
		parts := strings.Split(at, "/")
		tail := strings.Join(parts[max(0, len(parts)-n):], "/")
		return slices.ContainsFunc(c.anywhere()[path.Base(at)], func(f string) bool {
			return !strings.HasPrefix(f, c.Top.Path()) && (f == tail || strings.HasSuffix(f, "/"+tail))
		})
	})
}

// anywhere lists the files of the whole repository by their names.
func (p *project) anywhere() map[string][]string {
	if p.inRepository == nil {
		p.inRepository = map[string][]string{}
		p.Repository.Top.EachFile(func(in *tree.Folder, n *tree.Node) {
			p.inRepository[n.Name] = append(p.inRepository[n.Name], in.Path()+n.Name)
		})
	}
	return p.inRepository
}

// templates end the names of texts that a build fills in.
var templates = []string{".in", ".template", ".tmpl", ".tpl", ".j2", ".erb", ".mustache", ".hbs", ".ejs", ".vm", ".ftl"}

// filledIn says whether a template of what is absent at a path is there: a build makes it.
func (c *Call) filledIn(at string) bool {
	return slices.ContainsFunc(templates, func(ending string) bool { return c.node(at+ending) != nil })
}
