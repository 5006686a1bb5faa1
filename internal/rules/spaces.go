package rules

import (
	"maps"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/edit"
	"dicaxon/internal/finding"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
)

// A space is a folder whose project file says which namespace stands for it.
type space struct {
	prefix string
	right  int // files below whose line fits
	wrong  []misfit
}

// houseWay is how many files of a house follow their folders for each that does not, where it
// is plain that they are meant to.
const houseWay = 4

// tellSpaces tells of files whose namespace is not that of their folders below the nearest
// project file. Only what begins with the project's own name counts: others are extended in
// their own namespaces. Where most files say otherwise the project has its own way.
func (c *Call) tellSpaces(roots, files []file) {
	known := map[string]*space{}
	var order []*space
	var silent []nameless
	cased := map[string][]string{} // by folder, namespaces that say it in another case
	for _, f := range files {
		if _, below := rootOf(roots, f.path); !below {
			continue
		}
		root, s := c.spaceOf(path.Dir(f.path), known)
		if s == nil || s.prefix == "" || c.homeOf(f.path) != f.path {
			continue
		}
		said := c.refsOf(f.path).Package()
		below := strings.Trim(strings.TrimPrefix(path.Dir(f.path)+"/", root), "/.")
		want := packageBelow(s.prefix, below, ".")
		if said == nil && c.lacksPackage(f, root) {
			silent = append(silent, nameless{f, want, root})
		}
		if said == nil || !names.Same(firstPart(said.Name, "."), firstPart(s.prefix, ".")) {
			continue
		}
		if !slices.Contains(order, s) {
			order = append(order, s)
		}
		if strings.EqualFold(said.Name, want) {
			if said.Name != want {
				cased[path.Dir(f.path)] = append(cased[path.Dir(f.path)], said.Name)
			}
			s.right++
			continue
		}
		m := misfit{path: f.path, said: *said, got: said.Name, want: want}
		if below, ok := strings.CutPrefix(said.Name+".", s.prefix+"."); ok {
			m.home = path.Join(root, strings.ReplaceAll(strings.Trim(below, "."), ".", "/"))
		}
		s.wrong = append(s.wrong, m)
	}
	c.tellNameless(files, silent)
	for _, folder := range slices.Sorted(maps.Keys(cased)) {
		c.tellCased(folder, cased[folder])
	}
	right, wrong := 0, 0
	for _, s := range order {
		right, wrong = right+s.right, wrong+len(s.wrong)
	}
	for _, s := range order {
		for _, m := range s.wrong {
			// A project of few files says little of its way: then that of the house counts, but not
			// for what leaves folders out.
			leavesOut := strings.HasPrefix(m.want+".", m.got+".") || m.home == ""
			if len(s.wrong) > s.right/2 && (leavesOut || len(s.wrong) > 2 || wrong*houseWay > right) {
				continue
			}
			told := c.atRef(m.path, m.said, &finding.Place{Path: path.Dir(m.path) + "/"}, "it says %s, but its folder says %s", m.got, m.want)
			if told.Home = c.spaceHome(m, files); told.Home == "" {
				told.Fix = []edit.Edit{c.edit(m.path, m.said.Span, m.want)}
			}
		}
	}
}

// tellCased tells of a folder whose name its files say in another case.
func (c *Call) tellCased(folder string, all []string) {
	space := sole(all)
	last := space[strings.LastIndexByte(space, '.')+1:]
	if last == path.Base(folder) || !strings.EqualFold(last, path.Base(folder)) {
		return
	}
	f := c.report(folder+"/", 0, 0, nil, "its files say %s", space)
	f.Kind, f.Home = finding.Misnamed, c.Top.Path()+path.Join(path.Dir(folder), last)+"/"
}

// spaceHome gives where a file lies by its namespace, where others use that, no file there says
// it and the folder for it is left empty or gone.
func (c *Call) spaceHome(m misfit, files []file) string {
	if m.home == "" || c.node(m.home) != nil && !c.leftEmpty(m.home) {
		return ""
	}
	used := slices.ContainsFunc(files, func(f file) bool {
		return f.path != m.path && slices.ContainsFunc(c.refsOf(f.path).Refs, func(r refs.Ref) bool { return r.Kind == refs.Import && r.Name == m.got })
	})
	said := slices.ContainsFunc(files, func(f file) bool {
		p := c.refsOf(f.path).Package()
		return f.path != m.path && p != nil && p.Name == m.got
	})
	if !used || said {
		return ""
	}
	return c.Top.Path() + path.Join(m.home, path.Base(m.path))
}

// firstPart gives what stands before a separator.
func firstPart(name, separator string) string {
	first, _, _ := strings.Cut(name, separator)
	return first
}

// spaceOf gives the nearest folder around with a project file, with a slash at its end, and
// its namespace; nil where there is none.
func (c *Call) spaceOf(dir string, known map[string]*space) (string, *space) {
	for {
		at := dir + "/"
		if dir == "." {
			at = ""
		}
		s, seen := known[at]
		if !seen {
			s = c.spaceIn(dir, at)
			known[at] = s
		}
		if s != nil || dir == "." {
			return at, s
		}
		dir = path.Dir(dir)
	}
}

func (c *Call) spaceIn(dir, at string) *space {
	n := c.node(dir)
	if n == nil || n.Folder == nil {
		return nil
	}
	for i := range n.Folder.Nodes {
		name := n.Folder.Nodes[i].Name
		if fits, _ := path.Match(c.text("rooted-by"), name); !fits {
			continue
		}
		prefix := strings.NewReplacer("-", "_", " ", "_").Replace(strings.TrimSuffix(name, path.Ext(name)))
		if k := c.prefixIn(at + name); k != nil {
			prefix = k.Value
		}
		if strings.Contains(prefix, "$") {
			prefix = ""
		}
		return &space{prefix: prefix}
	}
	return nil
}

func (c *Call) prefixIn(at string) *refs.Ref {
	if c.text("prefix-key") == "" {
		return nil
	}
	return c.refsOf(at).Get(c.text("prefix-key"))
}
