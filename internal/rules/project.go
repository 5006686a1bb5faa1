package rules

import (
	"context"
	"fmt"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/doing"
	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/names"
	"dicaxon/internal/placement"
	"dicaxon/internal/refs"
	"dicaxon/internal/tree"
	"dicaxon/internal/workspace"
)

// Facts are what rules know beyond the project itself.
type Facts struct {
	// Tracked gives the paths that git tracks, whatever ignore files say; nil
	// where nobody can tell. It is asked at most once, and only if it matters.
	Tracked func() map[string]bool
	// Gone gives the files that git knows and that are not there any more, with where
	// each went, "" where nobody knows; nil where nobody can tell.
	Gone func() map[string]string
	// Schemas lists the schemas of a database; nil where nobody named one.
	Schemas []string
	// Wanted says whether anybody wants findings of a kind or a rule; nil for all.
	Wanted func(kind finding.Kind, rule string) bool
}

// A project is what rules look at: one that was paired with its layout. Every
// text is read and understood at most once, and only where a rule asks.
type project struct {
	*placement.Placement
	Facts
	tracked    map[string]bool
	env        *layout.Env       // captured names that stand for one thing
	moves      map[string]string // where what is astray belongs
	findings   []finding.Finding
	lent       map[string]bool     // see lends
	notGivenBy map[string][]string // names that are taken out of a module and not there; see soleLost
	pagesBuilt *bool               // pages stand beside sources of what they load; nil until asked for
	// byEnding lists the files that people wrote by the endings of their names: of many
	// patterns that ask for a name at any depth, each need look only there.
	byEnding  map[string][]standing
	every     []file              // see everything
	below     map[string]string   // see nearBelow
	near      map[string][]string // see nearStems
	beginning map[rune][]string   // what files are called, by its first letter
	// inRepository lists files by their names; see anywhere.
	inRepository map[string][]string
	manifests    map[string]*refs.File    // see manifestAt
	members      map[string]bool          // see isMember
	lostNames    map[nameAt]finding.Level // see toldBefore
	given        map[string][]string      // see givenBy
}

// Run runs the rules of the project's layout and returns their findings.
func Run(ctx context.Context, of *workspace.Project, facts Facts) ([]finding.Finding, error) {
	calls, err := Compile(of.Layout, of.Placement.Commonplace)
	if err != nil {
		return nil, err
	}
	p := &project{Placement: of.Placement, Facts: facts, moves: map[string]string{}, manifests: map[string]*refs.File{}, lostNames: map[nameAt]finding.Level{}}
	_, p.env = p.Folder(p.Top)
	for _, m := range of.Moves {
		p.moves[m.From] = m.To
	}
	for _, c := range calls {
		if err := ctx.Err(); err != nil {
			return nil, err
		}
		if facts.Wanted != nil && !facts.Wanted(c.rule.Kind, c.asked.Called()) && !facts.Wanted(c.rule.Kind, c.rule.Name) {
			continue
		}
		c.project = p
		doing.Step("the rule " + c.rule.Name)
		c.rule.Run(c)
	}
	p.broken()
	return p.findings, nil
}

// broken notes the files that a rule asked about and that could not be read to
// their end: what stands beyond was not compared.
func (p *project) broken() {
	for _, at := range p.Graph.Asked() {
		// A text that is longer than is read breaks off by that alone.
		if f := p.Graph.Of(at); f.Broken != "" && refs.Parses(at) && p.homeOf(at) == at && len(p.textOf(at)) < tree.TextLimit && !p.saysUnreadable(at) {
			p.findings = append(p.findings, finding.Finding{
				Kind: finding.Substandard, Level: finding.Note, Path: p.Top.Path() + at, Line: f.BrokenLine,
				Message: fmt.Sprintf(breaksOff, f.Broken),
			})
		}
	}
}

// saysUnreadable says whether a rule has told already that a file cannot be read to its end.
func (p *project) saysUnreadable(at string) bool {
	return slices.ContainsFunc(p.findings, func(f finding.Finding) bool {
		return f.Kind == finding.Substandard && f.Path == p.Top.Path()+at && f.Of == settingsRead.Name
	})
}

// A file is one that a path pattern found, by its path below the project, with
// what the pattern captured.
type file struct {
	path    string
	env     *layout.Env
	node    *tree.Node
	pattern *place
}

// textOf gives the text of a file of the project, nil where it cannot be read.
func (p *project) textOf(at string) []byte {
	text, err := p.Repository.Text(p.Top.Path() + at)
	if err != nil {
		return nil
	}
	return text
}

// around says whether a folder around the project holds a file of one of the names.
func (p *project) around(named ...string) bool {
	for dir := strings.TrimSuffix(p.Top.Path(), "/"); dir != "" && dir != "."; {
		dir = path.Dir(dir)
		if slices.ContainsFunc(named, func(name string) bool { return p.Repository.Top.Node(path.Join(dir, name)) != nil }) {
			return true
		}
	}
	return false
}

// manifestAt gives what the manifest of a package at a path of the repository says, which may lie
// outside of the project; nil where none can be read.
func (p *project) manifestAt(at string) *refs.File {
	f, known := p.manifests[at]
	if !known {
		if text, err := p.Repository.Text(at); err == nil {
			read := refs.Read(at, text)
			f = &read
		}
		p.manifests[at] = f
	}
	return f
}

// refsOf gives what a file says.
func (p *project) refsOf(at string) *refs.File { return p.Graph.Of(at) }

// readAhead reads what files say side by side, where there are many.
func (p *project) readAhead(files []file) {
	paths := make([]string, len(files))
	for i := range files {
		paths[i] = files[i].path
	}
	p.Graph.Ahead(paths)
}

// targets gives the files and folders of the project that a reference leads to.
func (p *project) targets(from string, ref refs.Ref) []string { return p.Graph.Resolve(from, ref) }

// node gives what stands at a path of the project, or nil.
func (p *project) node(at string) *tree.Node { return p.Node(at) }

// isFolder says whether there is a folder at a path.
func (p *project) isFolder(at string) bool {
	n := p.node(at)
	return n != nil && n.Folder != nil
}

// leftEmpty says whether there is a folder without a file at a path: what was in it is gone.
func (p *project) leftEmpty(at string) bool {
	n := p.node(at)
	return n != nil && n.Folder != nil && n.Folder.Empty()
}

// deepest gives the one of some things that lies deepest around a path, each by its folder; nil
// where none does.
func deepest[T any](all []T, at string, folder func(*T) string) (found *T) {
	for i := range all {
		if one := folder(&all[i]); strings.HasPrefix(at, one+"/") && (found == nil || len(one) > len(folder(found))) {
			found = &all[i]
		}
	}
	return found
}

// toldOf says whether a cause was told of, in the finding whose place in the list is noted from 1;
// then it adds the file in which it is met again.
func (c *Call) toldOf(causes map[string]int, cause, at string) bool {
	k := causes[cause]
	if k > 0 {
		c.findings[k-1].AlsoAt(c.Top.Path() + at)
	}
	return k > 0
}

// made says whether the layout, or common knowledge, has a program make what
// stands at the path or around it: it may be absent.
func (p *project) made(at string) bool {
	at = strings.TrimSuffix(path.Clean(at), "/")
	for ; at != "." && at != "/"; at = path.Dir(at) {
		if e := p.Lookup(at).Entry; e != nil && e.MadeBy != "" {
			return true
		}
	}
	return false
}

// Tracks says whether git tracks a file, or anything in a folder, by its path in
// the repository.
func (p *project) Tracks(at string, folder bool) bool {
	if p.Tracked == nil {
		return false
	}
	if p.tracked == nil {
		p.tracked = map[string]bool{}
		for file := range p.Tracked() {
			for ; file != "." && !p.tracked[file]; file = path.Dir(file) {
				p.tracked[file] = true
			}
		}
	}
	return p.tracked[at]
}

// nearest gives a name beside the path that was likely meant, or "".
func (p *project) nearest(at string) string {
	n := p.node(path.Dir(at))
	if n == nil || n.Folder == nil {
		return ""
	}
	var known []string
	for i := range n.Folder.Nodes {
		known = append(known, n.Folder.Nodes[i].Name)
	}
	return names.Closest(path.Base(at), known)
}

// homeOf gives where a file of the project will lie once what is astray lies in
// its place.
func (p *project) homeOf(at string) string {
	full := p.Top.Path() + at
	if to, ok := p.moves[full]; ok {
		return strings.TrimPrefix(to, p.Top.Path())
	}
	for i := len(full) - 1; i > 0; i-- {
		if full[i] == '/' {
			if to, ok := p.moves[full[:i+1]]; ok {
				return strings.TrimPrefix(to+full[i+1:], p.Top.Path())
			}
		}
	}
	return at
}

// report adds a finding about a place of a file; line and column are 0 for the
// whole of it.
func (c *Call) report(at string, line, column int, other *finding.Place, format string, args ...any) *finding.Finding {
	f := finding.Finding{
		Kind: c.rule.Kind, Level: c.level, Path: c.Top.Path() + at, Line: line, Column: column,
		Message: fmt.Sprintf(format, args...), Why: c.asked.Says, Rule: c.asked.Called(), Of: c.rule.Name, Works: c.rule.Arrangement,
	}
	if other != nil {
		f.Other = &finding.Place{Path: c.Top.Path() + other.Path, Line: other.Line}
	}
	c.findings = append(c.findings, f)
	return &c.findings[len(c.findings)-1]
}

// atRef reports about a reference.
func (c *Call) atRef(at string, ref refs.Ref, other *finding.Place, format string, args ...any) *finding.Finding {
	return c.report(at, ref.Line, ref.Column, other, format, args...)
}
