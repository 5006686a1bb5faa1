package rules

import (
	"maps"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/layout"
	"dicaxon/internal/placement"
	"dicaxon/internal/tree"
)

// A place is a path pattern of a rule, compiled against the entries of the
// layout: it finds what stands at those entries under any accepted spelling, and
// otherwise goes by names.
type place struct {
	*layout.PathPattern
	reached []map[*layout.Entry]bool // by segment: the entries that it stands for
	across  bool                     // it finds what is of projects below its own, too
}

// placeOf compiles a path pattern. It returns the entries reached by each
// segment, and says whether the last one reaches any, or lies where the layout
// leaves things open.
func placeOf(l, common *layout.Layout, p *layout.PathPattern) (place, bool) {
	at := place{PathPattern: p}
	within := map[*layout.Entry]bool{l.Root: true}
	open := false
	segments := p.Segments()
	for i, s := range segments {
		prev := within
		next := map[*layout.Entry]bool{}
		for e := range within {
			open = open || e.Folder && (e.Others == layout.May || len(e.Entries) == 0 && e.Parent != nil)
			if s == nil {
				below(e, next)
				continue
			}
			for _, c := range e.Entries {
				if c.Folder == (p.Folder || i < len(segments)-1) && c.Answers(s) {
					next[c] = true
				}
			}
		}
		if s != nil && len(next) == 0 && s.Fixed == 0 {
			for e := range within { // whatever there is
				for _, c := range e.Entries {
					next[c] = c.Folder == (p.Folder || i < len(segments)-1)
				}
			}
			maps.DeleteFunc(next, func(_ *layout.Entry, fits bool) bool { return !fits })
		}
		if s != nil && len(next) == 0 && common != nil && (i == 0 || len(prev) > 0 || open) {
			for _, c := range common.Root.Entries {
				if (i == 0 || c.Deep) && (c.Answers(s) || fitsName(c, s)) {
					open = true
				}
			}
		}
		at.reached = append(at.reached, next)
		within = next
		if s != nil && len(next) == 0 {
			// An exact name may stand where only a pattern is described.
			for e := range prev {
				for _, c := range e.Entries {
					if c.Folder == (p.Folder || i < len(segments)-1) && fitsName(c, s) {
						within[c], open = true, true
					}
				}
			}
			at.reached[i] = nil
		}
	}
	return at, open || len(within) > 0
}

// fitsName says whether a segment that is one name is among those of an entry.
func fitsName(e *layout.Entry, s *layout.Pattern) bool {
	name := s.Exact
	if name == "" {
		name, _ = s.Fill(nil)
	}
	_, _, ok := e.Match(name, nil)
	return ok
}

func below(e *layout.Entry, all map[*layout.Entry]bool) {
	all[e] = true
	for _, c := range e.Entries {
		below(c, all)
	}
}

// fits says whether a node stands for a segment, with what its name captures:
// by its entry, else by its name. A segment that is all capture stands only for
// what the layout has it for.
func (p *place) fits(i int, name string, entry *layout.Entry, env *layout.Env) (*layout.Env, bool) {
	s := p.Segments()[i]
	bound, ok := s.Match(name, env)
	reached := p.reached[i]
	switch {
	case entry != nil && reached[entry]:
		if !ok {
			bound, _, _ = entry.Match(name, env)
		}
		return bound, true // under whichever name: what is astray is judged as at its home
	case ok && len(s.Captures()) > 0 && len(reached) > 0 && (s.Fixed == 0 || entry != nil):
		return env, false
	}
	return bound, ok
}

// files gives what the path patterns of an option find, each once.
func (c *Call) files(option string) []file { return c.find(c.paths[option], c.env) }

// together puts files together that have the same key, in the order of the first of each.
func together(files []file, key func(file) string) (all [][]file) {
	place := map[string]int{}
	for _, f := range files {
		k, known := place[key(f)]
		if !known {
			k = len(all)
			place[key(f)], all = k, append(all, nil)
		}
		all[k] = append(all[k], f)
	}
	return all
}

// fits says whether a path is among those of an option.
func (c *Call) fits(option, at string) bool { return c.rank(c.paths[option], at) >= 0 }

// rank gives the place of the first pattern that a path fits, or -1.
func (c *Call) rank(patterns []place, at string) int {
	for i := range patterns {
		if _, ok := c.matches(&patterns[i], at, c.env); ok {
			return i
		}
	}
	return -1
}

// matches says whether a path of the project, there or not, fits a pattern.
func (p *project) matches(at *place, path string, env *layout.Env) (*layout.Env, bool) {
	names := strings.Split(strings.TrimSuffix(path, "/"), "/")
	entries := make([]*layout.Entry, len(names))
	in := p.Top
	for i, name := range names {
		if in == nil {
			break
		}
		k, there := in.Index(name)
		if !there {
			break
		}
		entries[i] = p.Place(in, k).Entry
		in = in.Nodes[k].Folder
	}
	return matchNames(at, 0, names, entries, env)
}

func matchNames(p *place, i int, names []string, entries []*layout.Entry, env *layout.Env) (*layout.Env, bool) {
	segments := p.Segments()
	if i == len(segments) {
		return env, len(names) == 0
	}
	if segments[i] == nil {
		for k := 0; k <= len(names); k++ {
			if bound, ok := matchNames(p, i+1, names[k:], entries[k:], env); ok {
				return bound, true
			}
		}
		return env, i == len(segments)-1 && len(names) > 0
	}
	if len(names) == 0 {
		return env, false
	}
	bound, ok := p.fits(i, names[0], entries[0], env)
	if !ok {
		return env, false
	}
	return matchNames(p, i+1, names[1:], entries[1:], bound)
}

// everyFile fits every file of a project.
var everyFile = []place{{PathPattern: layout.Everything, reached: make([]map[*layout.Entry]bool, 2)}}

// everything gives every file of the project that people wrote.
func (p *project) everything() []file {
	if p.every == nil {
		p.every = p.find(everyFile, p.env)
	}
	return p.every
}

// find gives what path patterns find, in the order of the tree. Files that
// version control does not see, that a program makes, or that belong to another
// project are passed over.
func (p *project) find(patterns []place, env *layout.Env) []file {
	var all []file
	if len(patterns) == 1 && patterns[0].depths() < 2 { // finds nothing twice
		p.walk(p.Top, &patterns[0], 0, env, func(f file) { all = append(all, f) })
		return all
	}
	seen := map[string]bool{}
	for i := range patterns {
		at := &patterns[i]
		p.walk(p.Top, at, 0, env, func(f file) {
			if !seen[f.path] {
				seen[f.path] = true
				all = append(all, f)
			}
		})
	}
	return all
}

func (p *project) walk(in *tree.Folder, at *place, i int, env *layout.Env, yield func(file)) {
	segments := at.Segments()
	if i == len(segments) {
		return
	}
	last := i == len(segments)-1
	if segments[i] == nil {
		if last {
			p.Below(in, func(in *tree.Folder, k int) bool { return p.sees(in, k, at) }, func(path string, n *tree.Node) { yield(file{path, env, n, at}) })
			return
		}
		if !at.across && in == p.Top && i == len(segments)-2 && at.byName() {
			p.withEnding(at, segments[i+1], env, yield)
			return
		}
		p.walk(in, at, i+1, env, yield)
		for k := range in.Nodes {
			if n := &in.Nodes[k]; n.Folder != nil && p.sees(in, k, at) {
				p.walk(n.Folder, at, i, env, yield)
			}
		}
		return
	}
	visit := func(k int) {
		n := &in.Nodes[k]
		if (n.Folder != nil) != (at.Folder || !last) {
			return
		}
		bound, ok := at.fits(i, n.Name, p.Place(in, k).Entry, env)
		switch {
		case !ok || !p.sees(in, k, at):
		case last:
			yield(file{strings.TrimPrefix(in.Path()+n.Name, p.Top.Path()), bound, n, at})
		default:
			p.walk(n.Folder, at, i+1, bound, yield)
		}
	}
	if names, settled := at.names(i, env); settled {
		for _, name := range names {
			if k, there := in.Index(name); there {
				visit(k)
			}
		}
		return
	}
	for k := range in.Nodes {
		visit(k)
	}
}

// sees says whether a pattern may find a node: one that people wrote, and, where that counts, one of
// another project.
func (p *project) sees(in *tree.Folder, k int, at *place) bool {
	n := &in.Nodes[k]
	return p.Seen(in, k) || at.across && n.Folder != nil && !n.Ignored && !n.Folder.Unread && p.Place(in, k).State == placement.Apart
}

// depths counts the segments that stand for any depth.
func (p *place) depths() (n int) {
	for _, s := range p.Segments() {
		if s == nil {
			n++
		}
	}
	return n
}

// byName says whether only names tell what a pattern finds, and the name's ending is
// known.
func (p *place) byName() bool {
	last := p.Segments()[len(p.Segments())-1]
	return !p.Folder && len(p.reached[len(p.reached)-1]) == 0 && (last.Ending != "" || last.Exact != "")
}

// standing is a place in a folder.
type standing struct {
	in    *tree.Folder
	index int32
}

// endings lists what people wrote by the endings of their names.
func (p *project) endings() map[string][]standing {
	if p.byEnding == nil {
		p.byEnding = map[string][]standing{}
		p.list(p.Top)
	}
	return p.byEnding
}

// withEnding yields the files below the project whose name fits a segment.
func (p *project) withEnding(at *place, s *layout.Pattern, env *layout.Env, yield func(file)) {
	ending := s.Ending
	if s.Exact != "" {
		ending = path.Ext(s.Exact)
	}
	for _, st := range p.endings()[ending] {
		n := &st.in.Nodes[st.index]
		if bound, ok := s.Match(n.Name, env); ok {
			yield(file{strings.TrimPrefix(st.in.Path()+n.Name, p.Top.Path()), bound, n, at})
		}
	}
}

// list notes what people wrote in a folder, before what they wrote in those below it.
func (p *project) list(in *tree.Folder) {
	for k := range in.Nodes {
		if n := &in.Nodes[k]; n.Folder == nil && p.Seen(in, k) {
			ending := path.Ext(n.Name)
			p.byEnding[ending] = append(p.byEnding[ending], standing{in, int32(k)})
		}
	}
	for k := range in.Nodes {
		if n := &in.Nodes[k]; n.Folder != nil && p.Seen(in, k) {
			p.list(n.Folder)
		}
	}
}

// names gives the only names that a segment can have, where the captured ones
// settle that: then nothing needs to be searched.
func (p *place) names(i int, env *layout.Env) (all []string, settled bool) {
	name, complete := p.Segments()[i].Fill(env)
	if !complete || p.Segments()[i].Rewrites() {
		return nil, false
	}
	all = []string{name}
	for e := range p.reached[i] {
		for k := range e.Spellings {
			spelling, complete := e.Spellings[k].Fill(env)
			if !complete || e.Spellings[k].Rewrites() {
				return nil, false
			}
			if !slices.Contains(all, spelling) {
				all = append(all, spelling)
			}
		}
	}
	slices.Sort(all)
	return all, true
}

// pathOf gives the path that a pattern stands for, with captured names put in and
// each folder under the name that the project has for it.
func (p *project) pathOf(at *place, envs ...*layout.Env) string {
	var names []string
	in := p.Top
	for i, s := range at.Segments() {
		if s == nil {
			names = append(names, "**")
			in = nil
			continue
		}
		name := fill(s.Text, envs...)
		if in != nil {
			name = p.nameInUse(at, i, in, name)
			if n := in.Find(name); n != nil {
				in = n.Folder
			} else {
				in = nil
			}
		}
		names = append(names, name)
	}
	return strings.Join(names, "/")
}

func (p *project) nameInUse(at *place, i int, in *tree.Folder, name string) string {
	if in.Find(name) != nil {
		return name
	}
	for k := range in.Nodes {
		if place := p.Place(in, k); place.State == placement.Placed && at.reached[i][place.Entry] && place.Entry.Singular() {
			return in.Nodes[k].Name
		}
	}
	return name
}
