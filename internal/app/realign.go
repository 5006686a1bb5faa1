package app

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"

	"dicaxon/internal/changes"
	"dicaxon/internal/edit"
	"dicaxon/internal/finding"
	"dicaxon/internal/realign"
	"dicaxon/internal/workspace"
)

// RealignOptions say what is to be put right.
type RealignOptions struct {
	Options
	// Least is the mildest level of findings that are put right.
	Least finding.Level
	// Moves were asked for, whatever the layout says; with them, findings are put right
	// only if Findings says so.
	Moves    []changes.Move
	Findings bool
	// Paths keeps to findings about paths, or below them.
	Paths []string
	// Wants says which parts of the plan are asked for, by their numbers in it, from 1;
	// nil for all.
	Wants func(n int, g *realign.Group) bool
}

// A Realignment is a plan for a repository, checked against what a check will say then.
type Realignment struct {
	*workspace.Workspace
	*realign.Plan
	Before, After finding.Totals // what a check tells, before and after
}

// mostRounds is how often a plan is made anew without what did not hold.
const mostRounds = 6

// Realign makes the plan that puts a repository right, as far as that is certain: what is
// in it ends the findings it is for, and brings no new one. The error is as for Check.
func Realign(ctx context.Context, at string, o RealignOptions) (*Realignment, error) {
	root, part, err := rootOf(at, o.Layout)
	if err != nil {
		return nil, err
	}
	if part != "" {
		o.Paths = append(o.Paths, part)
	}
	r, err := checked(ctx, root, o.Options)
	if err != nil {
		return nil, err
	}
	var groups []realign.Group
	for _, m := range o.Moves {
		g, err := realign.Asked(r.Workspace, m.From, m.To)
		if err != nil {
			return nil, workspace.CallError(err.Error())
		}
		groups = append(groups, g)
	}
	realign.WithFellows(r.Workspace, groups)
	var left []realign.Left
	if len(o.Moves) == 0 || o.Findings { // what was asked for is all that is done
		found, others := realign.Groups(r.Workspace, o.Least, o.Findings)
		found, left = within(found, others, o.Paths)
		groups, left = realign.Beside(r.Workspace, groups, found, left)
	}
	plan, err := settleOn(ctx, r, groups, left, o.Options, o.Findings)
	if err != nil || o.Wants == nil {
		return plan, err
	}
	var wanted []realign.Group
	for i := range plan.Groups {
		if o.Wants(i+1, &plan.Groups[i]) {
			wanted = append(wanted, plan.Groups[i])
		}
	}
	return settleOn(ctx, r, wanted, nil, o.Options, o.Findings)
}

// checked is Check with every finding told by itself, and nothing taken from memory.
func checked(ctx context.Context, at string, o Options) (*Report, error) {
	o.Findings, o.apart = false, true
	return Check(ctx, at, o)
}

// settleOn makes a plan of groups that does what it says: what would bring new findings, or
// would not end its own, is left.
func settleOn(ctx context.Context, r *Report, groups []realign.Group, left []realign.Left, o Options, bring bool) (*Realignment, error) {
	for round := 0; ; round++ {
		p := realign.Compose(ctx, r.Workspace, groups, left)
		groups, left = p.Groups, p.Left
		if p.Empty() {
			return &Realignment{r.Workspace, p, r.Totals, r.Totals}, nil
		}
		after, err := madeSo(ctx, r.Workspace, &p.Plan, o)
		if err != nil {
			return nil, err
		}
		if respelt(r.Workspace, p, after) {
			if after, err = madeSo(ctx, r.Workspace, &p.Plan, o); err != nil {
				return nil, err
			}
		}
		fresh := newFindings(r, after, p)
		if len(fresh) > 0 && round == 0 {
			// What a check says of a tree that is not on the disk may differ.
			same, err := madeSo(ctx, r.Workspace, &changes.Plan{}, o)
			if err != nil {
				return nil, err
			}
			fresh = newBeyond(fresh, same, p)
		}
		var expected []finding.Finding // of the layout that the project is brought to
		if bring {
			own := toEnd(p)
			hinders := func(f finding.Finding) bool { return breaks(&f) || own[string(f.Kind)+" "+f.Path] }
			expected = slices.DeleteFunc(slices.Clone(fresh), hinders)
			fresh = slices.DeleteFunc(fresh, func(f finding.Finding) bool { return !hinders(f) })
		}
		bad := blamed(p, fresh)
		doubted(p, bad)
		if bring {
			together(r.Workspace, p, bad)
		}
		if len(bad) == 0 {
			p.Left = slices.DeleteFunc(p.Left, func(l realign.Left) bool { return ends(l, after, p) })
			for _, f := range expected {
				p.Left = append(p.Left, realign.Left{Kind: f.Kind, Level: f.Level, Path: f.Path, Line: f.Line, Says: "then " + f.Message})
			}
			return &Realignment{r.Workspace, p, r.Totals, after.Totals}, nil
		}
		if round == mostRounds {
			return nil, errors.New("no plan was found that brings nothing new")
		}
		var kept []realign.Group
		for i, g := range groups {
			if why, is := bad[i]; is {
				left = append(left, g.Leave(why))
				continue
			}
			kept = append(kept, g)
		}
		groups = kept
	}
}

// respelt lets files that a plan moves say where they lie then, and says whether any does so.
func respelt(w *workspace.Workspace, p *realign.Plan, after *Report) bool {
	any := false
	for _, project := range after.Projects {
		for i := range project.Findings {
			if f := &project.Findings[i]; len(f.Respelt) > 0 && p.Back().After(f.Path) != f.Path {
				any = p.Also(w, f.Respelt) || any
			}
		}
	}
	return any
}

// together leaves what would come to the same new folder as something that is left: what
// an application is made of finds its parts from where it lies.
func together(w *workspace.Workspace, p *realign.Plan, bad map[int]string) {
	left := map[string]string{}
	for k := range bad {
		for _, m := range p.Groups[k].Moves {
			if at := newFolder(w, m.To); at != "" {
				left[at] = m.From
			}
		}
	}
	for k := range p.Groups {
		g := &p.Groups[k]
		for _, m := range g.Moves {
			if with := left[newFolder(w, m.To)]; with != "" && bad[k] == "" && !g.Asked {
				bad[k] = "it goes to a new folder with " + with + ", which is left"
			}
		}
	}
}

// newFolder gives the first folder on the way to a path that is not there, "" where all are.
func newFolder(w *workspace.Workspace, at string) string {
	for i, c := range strings.TrimSuffix(at, "/") {
		if c == '/' && w.Repository.Top.At(at[:i]) == nil {
			return at[:i]
		}
	}
	return ""
}

// breaks says whether a finding means that what worked before a plan does not work after it:
// something leads nowhere, or what the framework asks for is not there. Others are no more
// than what a layout wants.
func breaks(f *finding.Finding) bool {
	return f.Kind == finding.Dangling || f.Level == finding.Error
}

// ends says whether a plan ends something that it was not made for: where something lies, and
// what it says of that. Others may be told by what is not in the tree of afterwards, such as
// files that version control does not see.
func ends(l realign.Left, after *Report, p *realign.Plan) bool {
	switch l.Kind {
	case finding.Missing, finding.Extra, finding.Misplaced, finding.Misnamed, finding.Misdeclared:
	default:
		return false
	}
	if l.Asked || l.Why != "" {
		return false
	}
	for _, project := range after.Projects {
		if slices.ContainsFunc(project.Findings, func(f finding.Finding) bool {
			return f.Kind == l.Kind && (f.Path == p.After(l.Path) || f.Path == l.Path)
		}) {
			return false
		}
	}
	return true
}

// within keeps to what is about some paths.
func within(groups []realign.Group, left []realign.Left, paths []string) ([]realign.Group, []realign.Left) {
	if len(paths) == 0 {
		return groups, left
	}
	outside := func(at string) bool {
		return !slices.ContainsFunc(paths, func(p string) bool {
			p = strings.TrimSuffix(p, "/")
			return strings.TrimSuffix(at, "/") == p || strings.HasPrefix(at, p+"/")
		})
	}
	groups = slices.DeleteFunc(groups, func(g realign.Group) bool { return outside(g.Path) })
	left = slices.DeleteFunc(left, func(l realign.Left) bool { return outside(l.Path) })
	return groups, left
}

// sameness tells findings apart that a check says before and after: what it is about, where
// that lies then.
func sameness(f *finding.Finding, after func(string) string) string {
	entry := f.Entry
	if f.Rule != "" { // which may find it anywhere
		entry = ""
	}
	return strings.Join([]string{string(f.Kind), f.Level.String(), after(f.Path), f.Rule, entry, f.About}, "\x00")
}

func asIs(at string) string { return at }

// newFindings lists what a check says after a plan and did not say before; and what it
// still says though the plan was to end it.
func newFindings(before, after *Report, p *realign.Plan) []finding.Finding {
	known, toEnd := map[string]int{}, toEnd(p)
	for _, project := range before.Projects {
		for i := range project.Findings {
			if f := &project.Findings[i]; !toEnd[string(f.Kind)+" "+f.Path] {
				known[sameness(f, p.After)]++
			}
		}
		for i := range project.Ended { // they were there, and are told now that their cause is gone
			known[sameness(&project.Ended[i], p.After)]++
		}
	}
	var fresh []finding.Finding
	for _, project := range after.Projects {
		for i := range project.Findings {
			f := &project.Findings[i]
			if key := sameness(f, asIs); known[key] > 0 {
				known[key]--
				continue
			}
			if f.Kind == finding.Leftover && f.Level == finding.Note {
				continue // what is made is its starter still
			}
			fresh = append(fresh, *f)
		}
	}
	return fresh
}

// toEnd tells the findings that a plan is to end, by kind and path.
func toEnd(p *realign.Plan) map[string]bool {
	all := map[string]bool{}
	for _, g := range p.Groups {
		if !g.Asked {
			all[string(g.Kind)+" "+g.Path] = true
		}
	}
	return all
}

// newBeyond leaves out what is also said of the tree as it is, read in the same way.
func newBeyond(fresh []finding.Finding, same *Report, p *realign.Plan) []finding.Finding {
	known, toEnd := map[string]bool{}, toEnd(p)
	for _, project := range same.Projects {
		for i := range project.Findings {
			known[sameness(&project.Findings[i], asIs)] = true
		}
	}
	return slices.DeleteFunc(fresh, func(f finding.Finding) bool { return known[sameness(&f, asIs)] && !toEnd[string(f.Kind)+" "+f.Path] })
}

// blamed says which groups of a plan bring new findings, and what they are. Where none is
// near enough, all that nobody asked for are.
func blamed(p *realign.Plan, fresh []finding.Finding) map[int]string {
	bad := map[int]string{}
	for i := range fresh {
		f := &fresh[i]
		why := "then " + f.Path + ": " + f.Message
		near, asked := false, false
		for k := range p.Groups {
			g := &p.Groups[k]
			switch {
			case !touches(p, g, f):
			case g.Asked:
				asked = true
			default:
				bad[k], near = why, true
			}
		}
		if near || asked || asks(p) && !ofReferences(f) {
			if asked && ofReferences(f) {
				p.Remarks = append(p.Remarks, realign.Remark{Path: f.Path, Line: f.Line, Says: f.Message})
			}
			continue
		}
		for k := range p.Groups {
			if g := &p.Groups[k]; !g.Asked {
				bad[k] = why
			}
		}
		if asks(p) {
			p.Remarks = append(p.Remarks, realign.Remark{Path: f.Path, Line: f.Line, Says: f.Message})
		}
	}
	return bad
}

// doubted adds the groups that move what a text may name, and those that the language does
// not allow.
func doubted(p *realign.Plan, bad map[int]string) {
	for _, r := range p.Remarks {
		for k := range p.Groups {
			g := &p.Groups[k]
			if g.Asked && !r.Breaks || !slices.ContainsFunc(g.Moves, func(m changes.Move) bool { return r.About == m.From }) {
				continue
			}
			if bad[k] = r.Says; !r.Breaks {
				bad[k] = fmt.Sprintf("%s:%d: %s", r.Path, r.Line, r.Says)
			}
		}
	}
}

// asks says whether somebody named a move of the plan.
func asks(p *realign.Plan) bool {
	return slices.ContainsFunc(p.Groups, func(g realign.Group) bool { return g.Asked })
}

// ofReferences says whether a finding is about what files say of each other, rather than of
// where they lie.
func ofReferences(f *finding.Finding) bool {
	switch f.Kind {
	case finding.Dangling, finding.Misdeclared, finding.Unwired, finding.Disagrees:
		return true
	}
	return false
}

// touches says whether a finding is about what a group changes.
func touches(p *realign.Plan, g *realign.Group, f *finding.Finding) bool {
	about := func(at string) bool {
		of := func(path string) bool {
			return path == at || strings.HasSuffix(at, "/") && strings.HasPrefix(path, at) || strings.HasSuffix(path, "/") && strings.HasPrefix(at, path)
		}
		return of(f.Path) || f.Other != nil && of(f.Other.Path) || slices.ContainsFunc(f.Sought, of)
	}
	return slices.ContainsFunc(g.Moves, func(m changes.Move) bool { return about(m.To) || about(m.From) }) ||
		slices.ContainsFunc(g.Makes, func(m changes.Make) bool { return about(m.Path) }) ||
		slices.ContainsFunc(g.Edits, func(e edit.Edit) bool { return about(p.After(e.Path)) })
}
