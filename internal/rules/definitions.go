package rules

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/lazy"
	"dicaxon/internal/names"
	"dicaxon/internal/placement"
	"dicaxon/internal/refs"
)

// definitions are the names that files define, with the groups that they are in.
type definitions struct {
	names, owners []string
	files         int                 // how many may define one
	loosely       bool                // whatever separates words
	of            map[string][]string // the names of each group, where those of a file are of its group alone
	open          map[string]bool     // the groups of files that may have more names
	groupsThere   bool                // names of other groups are not told
	first         map[string]bool     // the first words of names that are paths, where the rule goes by kin
}

// leastKin is how many letters a word has at least by which things of one project are kin.
const leastKin = 3

// hasKin says whether something that is there by its path begins with the same word as a name of several.
func (d *definitions) hasKin(name string) bool {
	words := names.Words(name)
	return d != nil && len(words) > 1 && len(words[0]) >= leastKin && d.first[words[0]]
}

// definers gives the definitions that count for what a file names: everybody's, or those
// of its folder.
func (c *Call) definers() func(from string) *definitions {
	if c.regexps["defined"] == nil && c.texts("defined-keys") == nil && !c.flag("key-names") && c.text("paths-as") == "" && c.texts("known") == nil {
		return func(string) *definitions { return nil }
	}
	option := "in"
	if c.paths["in"] == nil {
		option = "files"
	}
	files := append(c.files(option), c.coming(option)...) // what is astray defines its names at home
	files = append(files, c.madeOf(option)...)
	files = append(files, c.ofOthers(option, files)...)
	if !c.flag("beside") {
		all := c.defined(files)
		return func(string) *definitions { return all }
	}
	in := map[string][]file{}
	for _, f := range files {
		dir := path.Dir(c.homeOf(f.path))
		in[dir] = append(in[dir], f)
	}
	known := map[string]*definitions{}
	return func(from string) *definitions {
		dir := path.Dir(c.homeOf(from))
		if known[dir] == nil {
			known[dir] = c.defined(in[dir])
			if len(known[dir].names) == 0 {
				known[dir].files = 0 // what defines them all is what is absent
			}
		}
		return known[dir]
	}
}

// madeOf gives the files that an option names by their whole path and that a program makes, such
// as a lock: rules are not about them, but what they say holds.
func (c *Call) madeOf(option string) (all []file) {
	for i := range c.paths[option] {
		p := &c.paths[option][i]
		if n := c.node(p.Text); n != nil && n.Folder == nil && c.Lookup(p.Text).Entry != nil && c.Lookup(p.Text).Entry.MadeBy != "" {
			all = append(all, file{path: p.Text, env: c.env, node: n, pattern: p})
		}
	}
	return all
}

// ofOthers gives the files that an option names by their last name, at any depth, in projects
// below this one, beside those that are known: a member of a workspace is called in its manifest.
func (c *Call) ofOthers(option string, known []file) (all []file) {
	for i := range c.paths[option] {
		p := &c.paths[option][i]
		name, anywhere := strings.CutPrefix(p.Text, "**/")
		if !anywhere || strings.ContainsAny(name, "*?<|/") {
			continue
		}
		for _, whole := range c.anywhere()[name] {
			at, below := strings.CutPrefix(whole, c.Top.Path())
			if below && c.ofAnother(at) && !slices.ContainsFunc(known, func(f file) bool { return f.path == at }) {
				all = append(all, file{path: at, env: c.env, node: c.node(at), pattern: p})
			}
		}
	}
	return all
}

// ofAnother says whether a path lies in another project below this one.
func (c *Call) ofAnother(at string) bool {
	in := c.Top
	for _, name := range strings.Split(path.Dir(at), "/") {
		k, there := in.Index(name)
		if !there || in.Nodes[k].Folder == nil {
			return false
		}
		if c.Place(in, k).State == placement.Apart {
			return true
		}
		in = in.Nodes[k].Folder
	}
	return false
}

func (c *Call) defined(files []file) *definitions {
	d := &definitions{names: slices.Clone(c.texts("known")), files: len(files), loosely: c.flag("loosely"), groupsThere: c.flag("groups-there"), first: map[string]bool{}}
	for _, f := range files {
		for _, name := range c.namesOfPath(f) {
			d.names = append(d.names, name)
			if words := names.Words(name); c.flag("kin-there") && len(words) > 1 {
				d.first[words[0]] = true
			}
		}
		for _, r := range c.keysOf(f.path, "defined-keys") {
			d.names = append(d.names, r.Value)
		}
		if c.flag("key-names") {
			for _, r := range c.refsOf(f.path).Of(refs.Key) {
				d.names = append(d.names, r.Name)
			}
		}
		code := c.Graph.Code(f.path)
		own := map[string][]string{}
		for _, part := range partsOf(code, c.regexps["defined-inside"]) {
			for _, option := range []string{"defined", "owner"} {
				for _, re := range c.regexps[option] {
					own[option] = append(own[option], groupsIn(re, code[part[0]:part[1]])...)
				}
			}
		}
		d.names, d.owners = append(d.names, own["defined"]...), append(d.owners, own["owner"]...)
		if c.flag("stem-is-group") {
			stem := names.BeforeDot(path.Base(f.path))
			d.owners = append(d.owners, stem)
			d.group([]string{stem}, own["defined"], anyFits(c.regexps["unless"], code))
		}
		if c.flag("file-is-group") {
			d.group(own["owner"], own["defined"], anyFits(c.regexps["unless"], code))
		}
	}
	slices.Sort(d.names)
	if c.flag("if-any") && len(d.names) == len(c.texts("known")) {
		d.files = 0 // who defines them, nobody here knows
	}
	return d
}

// group notes the names that a file defines as those of its groups; it may be open for more.
func (d *definitions) group(owners, defined []string, open bool) {
	if d.of == nil {
		d.of, d.open = map[string][]string{}, map[string]bool{}
	}
	for _, owner := range owners {
		d.of[owner] = append(d.of[owner], defined...)
		d.open[owner] = d.open[owner] || open
	}
}

// unseparated gives a name without what separates its words: marks and case.
func unseparated(name string) string {
	return strings.ToLower(strings.NewReplacer("-", "", "_", "", ".", "").Replace(name))
}

// compared gives a name as it is compared with others.
func (d *definitions) compared(name string) string {
	if d.loosely {
		return unseparated(name)
	}
	return strings.ReplaceAll(name, ".", "-") // groups are words of it
}

// lacks says whether a name is defined nowhere, with the one that was likely
// meant. A name of a group is known only where the group is.
func (d *definitions) lacks(name string) (meant string, lacks bool) {
	owner, last := "", name
	if d.loosely {
		var joined []string
		for _, n := range d.names {
			joined = append(joined, unseparated(n))
		}
		if slices.Contains(joined, unseparated(name)) {
			return "", false
		}
		if i := slices.Index(joined, names.Closest(unseparated(name), joined)); i >= 0 {
			meant = d.names[i]
		}
		if strings.Contains(name, ".") { // as the name has it
			meant = strings.ReplaceAll(meant, "-", ".")
		}
		return meant, true
	}
	if i := strings.LastIndexByte(name, '.'); i >= 0 && d.owners != nil {
		owner, last = name[:i], name[i+1:]
	}
	if owner != "" && !slices.Contains(d.owners, owner) {
		near := names.Closest(owner, d.owners)
		if near == "" || d.groupsThere || names.Near(owner, near) == names.Apart {
			return "", false
		}
		return near + "." + last, true
	}
	among := d.names
	if owner != "" && d.of != nil {
		among = d.of[owner]
	}
	if d.files == 0 || slices.Contains(among, last) || d.open[owner] {
		return "", false
	}
	if near := names.Closest(last, among); near != "" {
		if owner != "" {
			near = owner + "." + near
		}
		return near, true
	}
	return "", true
}

// groupsIn lists what the groups of an expression find in a text.
func groupsIn(re *lazy.Regexp, text []byte) (all []string) {
	for _, m := range re.FindAll(text) {
		for i := 2; i < len(m); i += 2 {
			if m[i] < m[i+1] {
				all = append(all, string(text[m[i]:m[i+1]]))
			}
		}
	}
	return all
}

// namesOfPath gives the names that a file's path is, where the rule asks for them: all the
// names on the way below the root, and the last alone where it begins with those before it.
func (c *Call) namesOfPath(f file) (all []string) {
	shape := names.Shape(c.text("paths-as"))
	if shape == "" {
		return nil
	}
	way := strings.Split(path.Join(split(f).below, names.BeforeDot(path.Base(f.path))), "/")
	last := len(way) - 1
	if way[last] == "index" && last > 0 {
		way = way[:last]
	}
	whole := names.To(shape, strings.Join(way, "-"))
	all = append(all, whole)
	for i := range way { // BerthCard.vue in berth/ is no BerthBerthCard
		if short := names.To(shape, strings.Join(way[i:], "-")); i > 0 && strings.HasPrefix(short, names.To(shape, way[i-1])) {
			all = append(all, names.To(shape, strings.Join(append(slices.Clone(way[:i-1]), way[i:]...), "-")))
		}
	}
	return all
}
