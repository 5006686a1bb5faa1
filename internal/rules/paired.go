package rules

import (
	"path"
	"slices"
	"strings"
	"sync"

	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/names"
	"dicaxon/internal/tree"
)

var paired = &Rule{
	Name: "paired", Kind: finding.Unpaired, Level: finding.Warning,
	Doc: "Every file has its counterpart, such as a test or a marker.",
	Example: `- rule: paired
  files: "src/<module>.js"
  with: ["src/<module>.test.js", "tests/<module>.test.js"]
  except: ["src/index.js", "src/*.test.js"]`,
	Options: []Option{
		{"files", Paths, true, "the files", false},
		{"with", Paths, false, "the counterparts, of which one must be there", false},
		{"mirrored-in", Texts, false, "where the counterparts stand: `{}` is the path of the file below the \"**/\" of its pattern, without its ending, and the last name may hold `*`", false},
		{"where", Regexps, false, "only what has this text", false},
		{"unless", Regexps, false, "not what has this text", false},
		{"named-in", Paths, false, "files of which one must name it, such as the handlers of a template", false},
		{"mostly", Flag, false, "true where it is told only if as many of them are named, or have their counterpart, as are not", false},
		{"never-with", Texts, false, "names that never stand in the same folder", false},
		inParts,
		{"by-stem", Flag, false, "true where the file's name without its ending is what they are to name", false},
		{"except", Paths, false, "files that need none", false},
		{"near-only", Flag, false, "true where it is told only if something of nearly the counterpart's name is there", false},
	},
	Run: func(c *Call) {
		c.tellUnnamed()
		taken, usual := sync.OnceValue(c.mirrored), sync.OnceValue(c.mostlyMirrored)
		for _, f := range c.files("files") {
			if c.fits("except", f.path) || inSample(f.path) && c.texts("mirrored-in") != nil || len(c.find(c.paths["with"], f.env)) > 0 || !c.saysSo(f.path) {
				continue
			}
			if mirrors := c.mirrorsOf(f); len(mirrors) > 0 {
				if c.homeOf(f.path) == f.path && !slices.ContainsFunc(mirrors, c.counterpart) && (!c.flag("mostly") || usual()) {
					c.unmirrored(f, mirrors, taken())
				}
				continue
			}
			for _, name := range c.texts("never-with") {
				if beside := path.Join(path.Dir(f.path), name); c.node(beside) != nil {
					c.report(f.path, 0, 0, &finding.Place{Path: beside}, "%s stands beside it; only one of them can answer", name)
				}
			}
			if c.paths["named-in"] != nil {
				continue
			}
			if c.paths["with"] == nil {
				continue
			}
			if c.flag("near-only") {
				c.nearlyPaired(f)
				continue
			}
			var wanted []string
			for _, w := range c.paths["with"] {
				wanted = append(wanted, c.pathOf(&w, f.env))
			}
			if slices.ContainsFunc(wanted, c.comes) {
				continue
			}
			c.report(f.path, 0, 0, &finding.Place{Path: wanted[0]}, "it has no %s", strings.Join(wanted, " or "))
		}
	},
}

// mostlyMirrored says whether as many of the files have their counterpart as have not.
func (c *Call) mostlyMirrored() bool {
	have, lack := 0, 0
	for _, f := range c.files("files") {
		if mirrors := c.mirrorsOf(f); len(mirrors) > 0 && c.saysSo(f.path) {
			if slices.ContainsFunc(mirrors, c.counterpart) {
				have++
			} else {
				lack++
			}
		}
	}
	return have > 0 && have >= lack
}

// tellUnnamed tells of the files that none of those names which are to name them all.
func (c *Call) tellUnnamed() {
	in := c.find(c.paths["named-in"], c.env)
	if len(in) == 0 {
		return
	}
	namers, named := c.codeOf(in), 0
	var left []string
	for _, f := range c.files("files") {
		switch {
		case c.fits("except", f.path) || !c.saysSo(f.path):
		case slices.ContainsFunc(namers, func(code string) bool { return mentions(code, c.namedAs(f.path)) }):
			named++
		default:
			left = append(left, f.path)
		}
	}
	if c.flag("mostly") && (named == 0 || named < len(left)) {
		return
	}
	who := "nothing names it"
	if len(in) == 1 {
		who = c.Top.Path() + in[0].path + " does not name it"
	}
	for _, at := range left {
		c.report(at, 0, 0, nil, "%s", who)
	}
}

// namedAs gives what is to name a file: its name, or that without its ending.
func (c *Call) namedAs(at string) string {
	if c.flag("by-stem") {
		return names.Stem(path.Base(at))
	}
	return path.Base(at)
}

// comes says whether a file that is astray has its home at a path.
func (c *Call) comes(at string) bool {
	return slices.ContainsFunc(c.Graph.Look().Called(names.BeforeDot(path.Base(at))), func(f string) bool { return f == at || c.homeOf(f) == at })
}

// nearlyPaired tells of a file whose counterpart is there under nearly its name, and is that of
// no other.
func (c *Call) nearlyPaired(f file) {
	for i := range c.paths["with"] {
		w := &c.paths["with"][i]
		at, slash := c.pathOf(w, f.env), ""
		if w.Folder {
			slash = "/"
		}
		near := c.nearPath(at, f.path, false)
		if near == "" || path.Dir(near) != path.Dir(at) || slices.ContainsFunc(c.files("files"), func(o file) bool { return c.pathOf(w, o.env) == near }) {
			continue
		}
		told := c.report(near+slash, 0, 0, &finding.Place{Path: f.path}, "%s looks for it as %s", f.path, path.Base(at)+slash)
		told.Kind, told.Home = finding.Misnamed, c.Top.Path()+at+slash
		return
	}
}

// saysSo says whether the text of a file is one that a rule asks about.
func (c *Call) saysSo(at string) bool {
	if c.regexps["where"] == nil && c.regexps["unless"] == nil {
		return true
	}
	return c.concerns(c.Graph.Code(at))
}

// concerns says whether a rule is about a text, which has no comments.
func (c *Call) concerns(code []byte) bool {
	where, unless := c.regexps["where"], c.regexps["unless"]
	return (where == nil || anyFits(where, code)) && !anyFits(unless, code)
}

// anyFits says whether a text fits one of some expressions.
func anyFits(all []*lazy.Regexp, text []byte) bool {
	return slices.ContainsFunc(all, func(one *lazy.Regexp) bool { return one.Match(text) })
}

// mirrorsOf gives the paths at which the counterpart of a file may stand by where it lies
// itself; the last name of each may be a pattern.
func (c *Call) mirrorsOf(f file) (all []string) {
	below := path.Join(split(f).below, names.BeforeDot(path.Base(f.path)))
	for _, in := range c.texts("mirrored-in") {
		all = append(all, fill(strings.ReplaceAll(in, "{}", below), f.env, c.env))
	}
	return all
}

// counterpart says whether a file fits a path whose last name may be a pattern.
func (c *Call) counterpart(at string) bool {
	n := c.node(path.Dir(at))
	return n != nil && n.Folder != nil && slices.ContainsFunc(n.Folder.Nodes, func(n tree.Node) bool {
		fits, _ := path.Match(path.Base(at), n.Name)
		return fits
	})
}

// mirrored gives the paths at which counterparts of all the files may stand.
func (c *Call) mirrored() map[string]bool {
	taken := map[string]bool{}
	for _, o := range c.files("files") {
		for _, at := range c.mirrorsOf(o) {
			taken[at] = true
		}
	}
	return taken
}

// unmirrored tells of a file without its counterpart. Where one that has none itself lies beside
// the place of that, or in a folder of nearly its name, it likely has the wrong name.
func (c *Call) unmirrored(f file, mirrors []string, taken map[string]bool) {
	var all [][2]string // what is there, and what it is to be called
	for _, at := range mirrors {
		if stem, open := strings.CutSuffix(at, ".*"); open {
			all = append(all, c.likeMirrors(stem, f.path, taken)...)
		}
	}
	message := "it has no " + strings.Join(mirrors, " or ")
	if len(all) == 1 {
		message += "; is " + all[0][0] + " meant?"
	}
	told := c.report(f.path, 0, 0, &finding.Place{Path: mirrors[0]}, "%s", message)
	if len(all) == 1 {
		told.Meant, told.Back = c.Top.Path()+all[0][0], c.Top.Path()+all[0][1]
	}
}

// likeMirrors lists the files that nothing has for its counterpart and that one may be meant by
// that is looked for by its path without an ending, each with what it is to be called.
func (c *Call) likeMirrors(stem, from string, taken map[string]bool) (all [][2]string) {
	if near := c.nearPath(stem, from, true); path.Base(near) == path.Base(stem) {
		if there := c.Graph.Look().Stemmed(near); len(there) == 1 && !taken[near+".*"] {
			return [][2]string{{there[0], stem + strings.TrimPrefix(there[0], near)}}
		}
	}
	n := c.node(path.Dir(stem))
	if n == nil || n.Folder == nil {
		return nil
	}
	for _, one := range n.Folder.Nodes {
		name, ending, _ := strings.Cut(one.Name, ".")
		in := path.Join(path.Dir(stem), name)
		if one.Folder == nil && !one.Ignored && !strings.HasPrefix(name, "_") && name != "" && !taken[in+".*"] {
			all = append(all, [2]string{in + "." + ending, stem + "." + ending})
		}
	}
	return all
}

// codeOf gives the texts of files without their comments.
func (c *Call) codeOf(files []file) []string {
	var all []string
	for _, f := range files {
		all = append(all, string(c.Graph.Code(f.path)))
	}
	return all
}
