package realign

import (
	"context"
	"slices"
	"strings"

	"dicaxon/internal/changes"
	"dicaxon/internal/edit"
	"dicaxon/internal/placement"
	"dicaxon/internal/refs"
	"dicaxon/internal/rules"
	"dicaxon/internal/tree"
	"dicaxon/internal/workspace"
)

// A Plan is what would put a repository right. The paths of its groups and edits are those
// of before.
type Plan struct {
	changes.Plan
	Groups  []Group
	Left    []Left
	Remarks []Remark
}

// Compose makes one plan of groups, with the edits by which references follow its moves.
// A group that is in another's way is left.
func Compose(ctx context.Context, w *workspace.Workspace, groups []Group, left []Left) *Plan {
	p := &Plan{Left: slices.Clone(left)}
	to, from := map[string]bool{}, map[string]bool{}
	goes := map[string]bool{}
	for _, g := range groups {
		for _, m := range g.Moves {
			goes[m.From] = true
		}
	}
	for _, g := range groups {
		if emptied(w, g, goes) {
			continue
		}
		if g.Converts { // several may ask for one marker
			g.Makes = slices.DeleteFunc(slices.Clone(g.Makes), func(m changes.Make) bool { return slices.Contains(p.Makes, m) })
		}
		if why := clash(g, to, from); why != "" {
			p.Left = append(p.Left, g.Leave(why))
			continue
		}
		for _, m := range g.Moves {
			to[m.To], from[m.From] = true, true
		}
		for _, m := range g.Makes {
			to[m.Path] = true
		}
		p.Groups = append(p.Groups, g)
		p.Moves, p.Makes = append(p.Moves, g.Moves...), append(p.Makes, g.Makes...)
		p.Edits, p.Drops = append(p.Edits, g.Edits...), append(p.Drops, g.Drops...)
	}
	p.markers(w)
	p.packages(w)
	if len(p.Moves) > 0 {
		for _, one := range w.Projects {
			p.follow(ctx, one)
		}
		if len(w.Projects) > 1 {
			p.across(w)
		}
	}
	p.sure()
	p.Edits = settle(p.Edits)
	p.see(w)
	return p
}

// Also adds edits of the files as they lie after the plan, and says which of them it can: not
// those within what other edits bring.
func (p *Plan) Also(w *workspace.Workspace, edits []edit.Edit) bool {
	back, by := p.Back(), edit.ByFile(p.Edits)
	var all []edit.Edit
	for _, e := range edits {
		e.Path = back.After(e.Path)
		start, end, known := before(by[e.Path], e.Start, e.End)
		if !known {
			return false
		}
		e.Start, e.End = start, end
		all = append(all, e)
	}
	p.Edits = settle(append(p.Edits, all...))
	p.Remarks = slices.DeleteFunc(p.Remarks, func(r Remark) bool { // it does follow
		return r.About == "" && slices.ContainsFunc(all, func(e edit.Edit) bool { return e.Path == r.Path && e.Line == r.Line })
	})
	p.see(w)
	return true
}

// Leave is a group as it is told among what is left to people, and why.
func (g *Group) Leave(why string) Left {
	l := Left{Kind: g.Kind, Level: g.Level, Path: g.Path, Says: g.Says, Why: why, Asked: g.Asked}
	for _, m := range g.Moves {
		l.Choices = append(l.Choices, m.To)
	}
	return l
}

// emptied says whether a group moves a folder of which all goes elsewhere by itself.
func emptied(w *workspace.Workspace, g Group, goes map[string]bool) bool {
	if len(g.Moves) != 1 || !strings.HasSuffix(g.Moves[0].From, "/") || g.Asked {
		return false
	}
	n := w.Repository.Top.At(strings.TrimSuffix(g.Moves[0].From, "/"))
	return n != nil && n.Folder != nil && allGo(n.Folder, goes)
}

func allGo(f *tree.Folder, goes map[string]bool) bool {
	some := false
	for i := range f.Nodes {
		n := &f.Nodes[i]
		if n.Folder != nil && !allGo(n.Folder, goes) || n.Folder == nil && !goes[f.Path()+n.Name] {
			return false
		}
		some = true
	}
	return some
}

func clash(g Group, to, from map[string]bool) string {
	for _, m := range g.Moves {
		if to[m.To] {
			return "something else comes to " + m.To
		}
		for other := range from {
			if other == m.From {
				return "it goes elsewhere already"
			}
			if !g.Asked && (inside(other, m.From) || inside(m.From, other)) {
				return "a part of it goes elsewhere already"
			}
		}
	}
	for _, m := range g.Makes {
		if to[m.Path] {
			return "something else comes to " + m.Path
		}
	}
	return ""
}

// inside says whether a path lies in a folder.
func inside(at, folder string) bool {
	return strings.HasSuffix(folder, "/") && strings.HasPrefix(at, folder)
}

// markers lets go of the empty files that only kept a folder which is filled now.
func (p *Plan) markers(w *workspace.Workspace) {
	fill := func(at string) {
		dir := at[:strings.LastIndexByte(strings.TrimSuffix(at, "/"), '/')+1]
		n := w.Repository.Top.At(strings.TrimSuffix(dir, "/"))
		if dir == "" || n == nil || n.Folder == nil || strings.HasSuffix(at, "/.gitkeep") {
			return
		}
		for _, name := range []string{".gitkeep", ".keep"} {
			marker := dir + name
			if n.Folder.Find(name) == nil || slices.Contains(p.Drops, marker) || p.After(marker) != marker {
				continue
			}
			if text, err := w.Repository.Text(marker); err == nil && len(text) == 0 {
				p.Drops = append(p.Drops, marker)
			}
		}
	}
	for _, m := range p.Moves {
		fill(m.To)
	}
	for _, m := range p.Makes {
		fill(m.Path)
	}
}

// Found leaves out what a plan remarks of names that lead, in the repository as it is afterwards, where they are to lead.
func (p *Plan) Found(ctx context.Context, after *workspace.Workspace) {
	if !slices.ContainsFunc(p.Remarks, func(r Remark) bool { return r.Name != "" }) {
		return
	}
	for _, of := range after.Projects {
		if of.Placement == nil {
			continue
		}
		top := of.Placement.Top.Path()
		for _, n := range rules.NamedFiles(ctx, of) {
			p.Remarks = slices.DeleteFunc(p.Remarks, func(r Remark) bool {
				return r.Name == n.Name && p.After(r.Path) == top+n.From && top+n.To == r.To
			})
		}
	}
}

// Needless takes out the groups that only make the marker of a folder which others fill, and says whether
// there are any.
func (p *Plan) Needless() bool {
	before := len(p.Groups)
	p.Groups = slices.DeleteFunc(p.Groups, func(g Group) bool {
		return len(g.Makes) == 1 && len(g.Moves)+len(g.Edits) == 0 && slices.ContainsFunc(p.Moves, func(m changes.Move) bool {
			folder, marker := strings.CutSuffix(g.Makes[0].Path, ".gitkeep")
			return marker && inside(m.To, folder)
		})
	})
	return len(p.Groups) < before
}

// sure leaves out that a text has the bare name of what goes by its kind, as a table has that of its
// routes, where the text loads nothing.
func (p *Plan) sure() {
	p.Remarks = slices.DeleteFunc(p.Remarks, func(r Remark) bool {
		return r.Bare && slices.ContainsFunc(p.Groups, func(g Group) bool {
			return g.Converts && slices.ContainsFunc(g.Moves, func(m changes.Move) bool { return m.From == r.About })
		})
	})
}

// follow adds the edits by which the references of one project follow.
func (p *Plan) follow(ctx context.Context, of *workspace.Project) {
	if of.Placement == nil {
		return
	}
	top := of.Placement.Top.Path()
	local := &changes.Plan{}
	for _, m := range p.Moves {
		from, ok := strings.CutPrefix(m.From, top)
		to, also := strings.CutPrefix(m.To, top)
		if ok && also {
			local.Moves = append(local.Moves, changes.Move{From: from, To: to})
			if by := madeBy(of.Placement, from); by != "" {
				p.Remarks = append(p.Remarks, Remark{Path: m.From, Line: 1, Says: "it lies in what " + by + " makes; no reference in there follows"})
			}
		}
	}
	for _, m := range p.Makes {
		if at, ok := strings.CutPrefix(m.Path, top); ok {
			m.Path = at
			local.Makes = append(local.Makes, m)
		}
	}
	if len(local.Moves) == 0 {
		return
	}
	edits, remarks := Follow(of.Placement.Graph, placement.Files{Placement: of.Placement}, rules.NamedFiles(ctx, of), local)
	p.take(top, edits, remarks)
}

// madeBy gives the program that makes what lies at a path, "" where people do.
func madeBy(p *placement.Placement, at string) string {
	for i, c := range at + "/" {
		if e := p.Lookup(at[:i]).Entry; c == '/' && e != nil && e.MadeBy != "" {
			return e.MadeBy
		}
	}
	return ""
}

// across adds the edits of references from one project to another: what is looked up from
// the top of the repository.
func (p *Plan) across(w *workspace.Workspace) {
	all := whole{w.Repository}
	edits, remarks := Follow(refs.NewGraph(all), all, nil, &changes.Plan{Moves: p.Moves, Makes: p.Makes})
	p.take("", edits, remarks)
}

// take takes over edits and remarks whose paths are those below a folder.
func (p *Plan) take(top string, edits []edit.Edit, remarks []Remark) {
	for _, e := range edits {
		e.Path = top + e.Path
		p.Edits = append(p.Edits, e)
	}
	for _, r := range remarks {
		r.Path = top + r.Path
		if r.About != "" {
			r.About = top + r.About
		}
		if r.To != "" {
			r.To = top + r.To
		}
		if !slices.Contains(p.Remarks, r) {
			p.Remarks = append(p.Remarks, r)
		}
	}
}

// A whole is a repository as names are looked up in it, whatever projects it holds.
type whole struct{ *tree.Repository }

func (w whole) IsFile(at string) bool        { return w.Top.HasFile(at) }
func (w whole) IsFolder(at string) bool      { return w.Top.HasFolder(at) }
func (w whole) Names(folder string) []string { return w.Top.Names(folder) }

// Each gives the path of every file that version control has.
func (w whole) Each(yield func(string)) {
	for _, f := range w.Folders {
		for i := range f.Nodes {
			if n := &f.Nodes[i]; !f.Unread && n.Kind == tree.File && !n.Ignored {
				yield(f.Path() + n.Name)
			}
		}
	}
}

// settle puts edits in order. Of two in one place the longer one counts.
func settle(edits []edit.Edit) []edit.Edit {
	var kept []edit.Edit
	for _, e := range edit.InOrder(edits) {
		if n := len(kept); n > 0 && kept[n-1].Path == e.Path && e.Start < kept[n-1].End {
			if e.End-e.Start > kept[n-1].End-kept[n-1].Start {
				kept[n-1] = e
			}
			continue
		}
		kept = append(kept, e)
	}
	return kept
}

// see notes what the files hold that are edited.
func (p *Plan) see(w *workspace.Workspace) {
	p.Seen = map[string]string{}
	for _, e := range p.Edits {
		if p.Seen[e.Path] == "" {
			text, err := w.Repository.Text(e.Path)
			if err == nil {
				p.Seen[e.Path] = changes.Digest(text)
			}
		}
	}
}
