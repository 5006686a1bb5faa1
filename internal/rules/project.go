package rules

import (
	"fmt"
	"maps"
	"path"
	"runtime"
	"slices"
	"strings"

	"golang.org/x/sync/errgroup"

	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/match"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
	"dicaxon/internal/tree"
)

// A Project is what rules look at: a project that was paired with its layout.
// Every text is read and understood at most once, and only where a rule asks.
type Project struct {
	Repository  *tree.Repository
	Top         *tree.Folder
	Layout      *layout.Layout
	Commonplace *layout.Layout
	Match       *match.Result
	// Tracked gives the paths that git tracks, whatever ignore files say; nil
	// where nobody can tell. It is asked at most once, and only if it matters.
	Tracked func() map[string]bool
	// Schemas lists the schemas of a database; nil where nobody named one.
	Schemas []string

	tracked  map[string]bool
	env      *layout.Env // captured names that stand for one thing
	read     map[string]*refs.File
	resolver *refs.Resolver
	findings []finding.Finding
}

// Run runs the rules of the project's layout and gives their findings.
func Run(p *Project) ([]finding.Finding, error) {
	calls, err := Compile(p.Layout)
	if err != nil {
		return nil, err
	}
	_, p.env = p.Match.Folder(p.Top)
	p.read = map[string]*refs.File{}
	for _, c := range calls {
		c.Project = p
		c.rule.Run(c)
	}
	p.broken()
	return p.findings, nil
}

// broken notes the files that a rule asked about and that could not be read to
// their end: what stands beyond was not compared.
func (p *Project) broken() {
	for _, at := range slices.Sorted(maps.Keys(p.read)) {
		// A text that is longer than is read breaks off by that alone.
		if f := p.read[at]; f.Broken != "" && len(p.textOf(at)) < tree.TextLimit {
			p.findings = append(p.findings, finding.Finding{
				Kind: finding.Substandard, Level: finding.Note, Path: p.Top.Path() + at, Line: f.BrokenLine,
				Message: "it cannot be read beyond here: " + f.Broken,
			})
		}
	}
}

// A file is one that a path pattern found, by its path below the project, with
// what the pattern captured.
type file struct {
	path    string
	env     *layout.Env
	node    *tree.Node
	pattern *layout.PathPattern
}

// files gives what the path patterns of an option find, each once.
func (c *Call) files(option string) []file { return c.find(c.paths[option], c.env) }

// fits says whether a path is among those of an option.
func (c *Call) fits(option, at string) bool { return rankOf(c.paths[option], at, c.env) >= 0 }

// everyFile fits every file of a project.
var everyFile = []*layout.PathPattern{layout.Everything}

// find gives what path patterns find, in the order of the tree. Files that
// version control does not see, that a program makes, or that belong to another
// project are passed over.
func (p *Project) find(patterns []*layout.PathPattern, env *layout.Env) []file {
	var all []file
	seen := map[string]bool{}
	for _, pattern := range patterns {
		p.walk(p.Top, pattern, pattern.Segments(), env, func(f file) {
			if !seen[f.path] {
				seen[f.path] = true
				all = append(all, f)
			}
		})
	}
	return all
}

func (p *Project) walk(in *tree.Folder, pattern *layout.PathPattern, segments []*layout.Pattern, env *layout.Env, yield func(file)) {
	if len(segments) == 0 {
		return
	}
	first, last := segments[0], len(segments) == 1
	if first == nil {
		if last {
			segments = append(segments[:1:1], layout.AnyName)
		}
		p.walk(in, pattern, segments[1:], env, yield)
		for i := range in.Nodes {
			if n := &in.Nodes[i]; n.Folder != nil && p.seen(in, i) {
				p.walk(n.Folder, pattern, segments, env, yield)
			}
		}
		return
	}
	for i := range in.Nodes {
		n := &in.Nodes[i]
		if (n.Folder != nil) != (pattern.Folder || !last) {
			continue
		}
		bound, ok := first.Match(n.Name, env)
		switch {
		case !ok || !p.seen(in, i):
		case last:
			yield(file{strings.TrimPrefix(in.Path()+n.Name, p.Top.Path()), bound, n, pattern})
		default:
			p.walk(n.Folder, pattern, segments[1:], bound, yield)
		}
	}
}

// seen says whether rules look at a node at all.
func (p *Project) seen(in *tree.Folder, i int) bool {
	n := &in.Nodes[i]
	if n.Ignored || n.Kind == tree.Link || n.Kind == tree.Special || n.Folder != nil && n.Folder.Unread {
		return false
	}
	place := p.Match.Place(in, i)
	return place.State != match.Apart && (place.Entry == nil || place.Entry.MadeBy == "")
}

// textOf gives the text of a file of the project, nil where it cannot be read.
func (p *Project) textOf(at string) []byte {
	text, err := p.Repository.Text(p.Top.Path() + at)
	if err != nil {
		return nil
	}
	return text
}

// refsOf gives what a file says.
func (p *Project) refsOf(at string) *refs.File {
	f := p.read[at]
	if f == nil {
		f = &refs.File{}
		if refs.Reads(at) {
			*f = refs.Read(at, p.textOf(at))
		}
		p.read[at] = f
	}
	return f
}

// readAhead reads what files say side by side, where there are many.
func (p *Project) readAhead(files []file) {
	const few = 64
	parts := runtime.GOMAXPROCS(0)
	if len(files) < few || parts == 1 {
		return
	}
	found := make([]*refs.File, len(files))
	var all errgroup.Group
	for k := range parts {
		all.Go(func() error {
			for i := k; i < len(files); i += parts {
				if at := files[i].path; p.read[at] == nil && refs.Reads(at) {
					f := refs.Read(at, p.textOf(at))
					found[i] = &f
				}
			}
			return nil
		})
	}
	_ = all.Wait()
	for i, f := range found {
		if f != nil {
			p.read[files[i].path] = f
		}
	}
}

// targets gives the files and folders of the project that a reference leads to.
func (p *Project) targets(from string, ref refs.Ref) []string {
	if p.resolver == nil {
		p.resolver = refs.NewResolver(resolved{p})
	}
	return p.resolver.Resolve(from, ref)
}

// resolved is a project as references are looked up in it.
type resolved struct{ *Project }

func (r resolved) IsFile(at string) bool {
	n := r.node(at)
	return n != nil && n.Folder == nil && !n.Ignored
}

func (r resolved) IsFolder(at string) bool {
	n := r.node(at)
	return n != nil && n.Folder != nil && !n.Ignored
}

func (r resolved) Each(yield func(string)) { r.everything(r.Top, yield) }

func (r resolved) Text(at string) ([]byte, error) { return r.Repository.Text(r.Top.Path() + at) }

func (p *Project) everything(in *tree.Folder, yield func(string)) {
	for i := range in.Nodes {
		switch n := &in.Nodes[i]; {
		case !p.seen(in, i):
		case n.Folder != nil:
			p.everything(n.Folder, yield)
		default:
			yield(strings.TrimPrefix(in.Path()+n.Name, p.Top.Path()))
		}
	}
}

// node gives what stands at a path of the project, or nil.
func (p *Project) node(at string) *tree.Node {
	at = strings.TrimSuffix(path.Clean(at), "/")
	if at == "." {
		return &tree.Node{Kind: tree.IsFolder, Folder: p.Top}
	}
	return p.Top.At(at)
}

// made says whether the layout, or common knowledge, has a program make what
// stands at the path or around it: it may be absent.
func (p *Project) made(at string) bool {
	e, env := p.Layout.Root, p.env
	var deep []*layout.Scope
	parts := strings.Split(strings.TrimSuffix(path.Clean(at), "/"), "/")
	for i, name := range parts {
		folder := i < len(parts)-1
		if p.Commonplace != nil {
			for _, folder := range []bool{true, false} {
				if known := p.Commonplace.Root.Scope.Find(name, folder); known != nil && known.MadeBy != "" && (i == 0 || known.Deep) {
					return true
				}
			}
		}
		if e != nil && e.Scope != nil {
			if e.Scope.Deep != nil {
				deep = append(deep, e.Scope.Deep)
			}
			next := e.Scope.Exact(name, true)
			if next == nil {
				next = e.Scope.Exact(name, false)
			}
			if next == nil {
				next, env = e.Scope.Pattern(name, folder, env)
			}
			e = next
		} else {
			e = nil
		}
		if e != nil && e.MadeBy != "" {
			return true
		}
		for _, s := range deep {
			if found := s.Find(name, folder); e == nil && found != nil && found.MadeBy != "" {
				return true
			}
		}
	}
	return false
}

// Tracks says whether git tracks a file, or anything in a folder, by its path in
// the repository.
func (p *Project) Tracks(at string, folder bool) bool {
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
func (p *Project) nearest(at string) string {
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

// report adds a finding about a place of a file; line and column are 0 for the
// whole of it.
func (c *Call) report(at string, line, column int, other *finding.Place, format string, args ...any) *finding.Finding {
	f := finding.Finding{
		Kind: c.rule.Kind, Level: c.level, Path: c.Top.Path() + at, Line: line, Column: column,
		Message: fmt.Sprintf(format, args...), Why: c.asked.Says, Rule: c.asked.Called(),
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
