package rules

import (
	"iter"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/lazy"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
)

// standIns lists the files that stand in the folder of a path that is not there and may be
// named in its place: of its ending, or such as fit where it leaves that out; nil for none.
func (p *project) standIns(at, from string, fits func(name string) bool) (all []string) {
	in := p.node(path.Dir(at))
	if in == nil || in.Folder == nil {
		return nil
	}
	ending := p.ending(at)
	for i := range in.Folder.Nodes {
		n := &in.Folder.Nodes[i]
		one := path.Join(path.Dir(at), n.Name)
		if n.Folder != nil || n.Ignored || one == from || strings.HasPrefix(n.Name, ".") || isTest(n.Name) != isTest(at) {
			continue
		}
		sameStem := names.BeforeDot(n.Name) == names.BeforeDot(path.Base(at)) && !refs.Reads(n.Name) && !refs.Reads(at)
		if ending != "" && path.Ext(n.Name) == ending || ending == "" && fits != nil && fits(n.Name) || sameStem && path.Ext(n.Name) != "" {
			all = append(all, one)
		}
	}
	return all
}

// foldersBeside lists the folders that stand in the folder of a path.
func (p *project) foldersBeside(at string) (all []string) {
	in := p.node(path.Dir(at))
	if in == nil || in.Folder == nil {
		return nil
	}
	for i := range in.Folder.Nodes {
		if n := &in.Folder.Nodes[i]; n.Folder != nil && !n.Ignored {
			all = append(all, path.Join(path.Dir(at), n.Name))
		}
	}
	return all
}

// modules lists the files that may be imported where a reference looks for one.
func (c *Call) modules(e *refs.Edge) []string {
	return c.standIns(e.Sought[0], e.From, func(name string) bool {
		return refs.IsCode(name) && kin(path.Ext(name), path.Ext(e.From)) && !strings.Contains(name, ".config.") && !markers[names.BeforeDot(name)]
	})
}

// only gives the one of some paths that fits, "" where none does, or several do.
func only(all []string, fits func(at string) bool) (one string) {
	for _, at := range all {
		switch {
		case at == one || !fits(at):
		case one != "":
			return ""
		default:
			one = at
		}
	}
	return one
}

// sole gives the one of some paths, "" where there is none, or are several.
func sole(all []string) string { return only(all, func(string) bool { return true }) }

// giver gives the one module, where an import looks for one, that gives what is taken out of
// it, or is called as it is known in the file.
func (c *Call) giver(e *refs.Edge) string {
	if taken := c.taken(e); len(taken) > 0 {
		return only(c.modules(e), func(at string) bool { return c.givesAll(at, taken) })
	}
	known := c.boundTo(e)
	return only(c.modules(e), func(at string) bool { return strings.EqualFold(names.BeforeDot(path.Base(at)), known) })
}

// alike gives the file that a reference likely means where its name is no slip away from any:
// the one whose name begins as the other does, or the only one that nothing leads to. Sure
// says that nothing else there can be meant.
func (c *Call) alike(e *refs.Edge) (at string, sure bool) {
	all := c.modules(e)
	if len(all) == 0 || e.Ref.Kind == refs.Model || len(c.taken(e)) > 0 { // that is the giver's
		return "", false
	}
	idle := func(at string) bool { return c.idle(at) && !c.comesTo(at, e.From) }
	if at = only(all, func(at string) bool { return beginAlike(at, e.Sought[0]) }); at != "" {
		return at, idle(at)
	}
	if path.Dir(e.Sought[0]) == "." {
		return "", false
	}
	at = only(all, idle)
	return at, at != ""
}

// mostTurned is how many files a project may have whose references are listed by where they lead.
const mostTurned = 20_000

// idle says whether no reference leads to a file or folder; of a large project nobody knows.
func (p *project) idle(at string) bool { return p.Files <= mostTurned && len(p.Graph.To(at)) == 0 }

// beginAlike says whether the name of one of two files is how that of the other begins.
func beginAlike(a, b string) bool {
	const enough = 3
	a, b = strings.ToLower(names.BeforeDot(path.Base(a))), strings.ToLower(names.BeforeDot(path.Base(b)))
	return min(len(a), len(b)) >= enough && (strings.HasPrefix(a, b) || strings.HasPrefix(b, a))
}

// taken lists what a file takes by name out of what one of its references names.
func (c *Call) taken(e *refs.Edge) (all []string) {
	if ending := path.Ext(e.From); ending != ".py" && !kin(ending, ".js") {
		return nil
	}
	for _, r := range c.refsOf(e.From).Of(refs.Import) {
		if r.Name == e.Ref.Name && r.Relative == e.Ref.Relative && r.Value != "" && r.Value != "default" && r.Value != "*" {
			all = append(all, r.Value)
		}
	}
	return all
}

// givesAll says whether the text of a module gives all of some names.
func (c *Call) givesAll(at string, taken []string) bool {
	words := c.Graph.Noted(at).Words
	if slices.ContainsFunc(taken, func(name string) bool { return !words.Has(name) }) {
		return false
	}
	known := c.givenBy(at)
	return !slices.ContainsFunc(taken, func(name string) bool { return !slices.Contains(known, name) })
}

// given finds what a module gives a name to.
var given = lazy.New(`(?m)^(?:export\s+)?(?:default\s+)?(?:async\s+)?(?:abstract\s+)?(?:def|class|function\*?|const|let|var|interface|type|enum)\s+(\w+)|^(\w+)\s*(?::[^=\n]+)?=`)

// givenBy lists the names that the text of a module gives: found once, for it is asked of each that may be meant.
func (p *project) givenBy(at string) []string {
	all, known := p.given[at]
	if !known {
		if p.given == nil {
			p.given = map[string][]string{}
		}
		all = namesGivenIn(p.textOf(at))
		p.given[at] = all
	}
	return all
}

// namesGivenIn lists the names that the text of a module gives.
func namesGivenIn(text []byte) (all []string) {
	for _, m := range given.Get().FindAllSubmatch(text, -1) {
		all = append(all, string(m[1])+string(m[2]))
	}
	for _, m := range handedOn.Get().FindAllSubmatch(text, -1) {
		for _, one := range strings.Split(string(m[1]), ",") {
			if words := strings.Fields(one); len(words) > 0 {
				all = append(all, words[len(words)-1])
			}
		}
	}
	return all
}

// handedOn finds the names in a list of exports.
var handedOn = lazy.New(`(?m)^export\s*(?:type\s*)?\{([^}]*)\}`)

// bound finds the name under which a module of scripts is known where it is imported.
var bound = lazy.New(`(?:import\s+(?:\*\s+as\s+)?|(?:const|let|var)\s+)([A-Za-z_$][\w$]*)\s*(?:,[^=]*)?(?:from|=)\s*(?:\w+\s*\(\s*)*$`)

// boundTo gives the name under which what an import names is known in its file, "" where
// there is none.
func (c *Call) boundTo(e *refs.Edge) string {
	text := c.textOf(e.From)
	if e.Ref.Kind != refs.Import || e.Ref.Quote == 0 || e.Ref.Span.Len() == 0 || int(e.Ref.Span.Start) > len(text) {
		return ""
	}
	before := text[:e.Ref.Span.Start-1]
	before = before[strings.LastIndexByte(string(before), '\n')+1:]
	if m := bound.Get().FindSubmatch(before); m != nil {
		return string(m[1])
	}
	return ""
}

// comesTo says whether references lead from a file, over others, to another: then that one
// does not need it.
func (c *Call) comesTo(at, to string) bool {
	const farthest = 500
	for f := range c.comeTo(at, farthest) {
		if f == to {
			return true
		}
	}
	return false
}

// comeTo yields what references lead to from a file, over others, the nearest first; where that is more than so many,
// not all of it.
func (c *Call) comeTo(at string, most int) iter.Seq[string] {
	return func(yield func(string) bool) {
		seen, next := map[string]bool{at: true}, []string{at}
		for len(next) > 0 && len(seen) < most {
			one := next[0]
			next = next[1:]
			for _, e := range c.Graph.From(one) {
				for _, f := range e.To {
					if seen[f] {
						continue
					}
					if seen[f] = true; !yield(f) {
						return
					}
					next = append(next, f)
				}
			}
		}
	}
}
