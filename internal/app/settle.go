package app

import (
	"context"
	"errors"
	"fmt"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/changes"
	"dicaxon/internal/edit"
	"dicaxon/internal/finding"
	"dicaxon/internal/names"
	"dicaxon/internal/realign"
	"dicaxon/internal/workspace"
)

// A settling makes plans that do what they say, by what a check will tell after them.
type settling struct {
	ctx     context.Context
	before  *Report
	options Options
	bring   bool     // to a layout that the project does not follow yet
	roles   []string // the folders for kinds, which the layout may take for units; see bringing
	last    *Report  // of afterwards, by the last plan that holds
	same    *Report  // of the tree as it is, read as that of afterwards is; nil until asked for
}

// mostRounds is how often a plan is made anew without what did not hold.
const mostRounds = 6

// on makes a plan of groups: what would bring new findings, or would not end its own, is left.
func (s *settling) on(groups []realign.Group, left []realign.Left) (*Realignment, error) {
	w := s.before.Workspace
	for range mostRounds + 1 {
		p := realign.Compose(s.ctx, w, groups, left)
		groups, left = p.Groups, p.Left
		if p.Empty() {
			return &Realignment{w, p, s.before.Totals, s.before.Totals}, nil
		}
		after, err := s.after(p)
		if err != nil {
			return nil, err
		}
		fresh, expected, err := s.fresh(p, after)
		if err != nil {
			return nil, err
		}
		bad := blamed(w, p, fresh)
		doubted(p, bad, s.bring)
		if s.bring {
			together(w, p, bad)
		}
		if len(bad) == 0 && p.Needless() {
			groups = p.Groups
			continue
		}
		if len(bad) == 0 {
			p.Left = slices.DeleteFunc(p.Left, func(l realign.Left) bool { return ends(l, after, p) })
			for _, f := range expected {
				if slices.ContainsFunc(p.Left, func(l realign.Left) bool { return l.Path == f.Path && (l.Part != "" || l.Kind == f.Kind) }) {
					continue // it is told, or its parts are
				}
				p.Left = append(p.Left, realign.Left{Kind: f.Kind, Level: f.Level, Path: f.Path, Line: f.Line, Says: "then " + f.Message, Then: true})
			}
			s.last = after
			return &Realignment{w, p, s.before.Totals, after.Totals}, nil
		}
		var kept []realign.Group
		for i, g := range groups {
			switch why, is := bad[i]; {
			case is && g.Otherwise != nil:
				kept = append(kept, *g.Otherwise)
			case is:
				left = append(left, g.Leave(why))
			default:
				kept = append(kept, g)
			}
		}
		groups = kept
	}
	return nil, errors.New("no plan was found that brings nothing new")
}

// after checks the repository as a plan makes it. Files that move say where they lie then.
func (s *settling) after(p *realign.Plan) (*Report, error) {
	after, err := madeSo(s.ctx, s.before.Workspace, &p.Plan, s.options)
	if err == nil && respelt(s.before.Workspace, p, after) {
		after, err = madeSo(s.ctx, s.before.Workspace, &p.Plan, s.options)
	}
	if err == nil {
		p.Found(s.ctx, after.Workspace)
	}
	return after, err
}

// fresh gives what a check tells after a plan and did not tell before: what is in its way, and
// what the layout that the project is brought to wants besides.
func (s *settling) fresh(p *realign.Plan, after *Report) (fresh, expected []finding.Finding, err error) {
	fresh = newFindings(s.before, after, p)
	if len(fresh) > 0 && s.same == nil {
		// What a check says of a tree that is not on the disk may differ.
		if s.same, err = madeSo(s.ctx, s.before.Workspace, &changes.Plan{}, s.options); err != nil {
			return nil, nil, err
		}
	}
	if len(fresh) > 0 {
		fresh = newBeyond(fresh, s.same, p)
	}
	if !s.bring {
		return fresh, nil, nil
	}
	own := toEnd(p)
	ofRole := func(f finding.Finding) bool {
		return (f.Kind == finding.Missing || f.Kind == finding.Misnamed) && slices.ContainsFunc(s.roles, func(role string) bool { return strings.HasPrefix(f.Path, role) })
	}
	inTheWay := func(f finding.Finding) bool {
		return (breaks(&f) || s.wrong(p, &f)) && !ofRole(f) || own[string(f.Kind)+" "+f.Path]
	}
	expected = slices.DeleteFunc(slices.Clone(fresh), inTheWay)
	return slices.DeleteFunc(fresh, func(f finding.Finding) bool { return !inTheWay(f) }), expected, nil
}

// respelt lets files that a plan moves say where they lie then, and says whether any does so.
func respelt(w *workspace.Workspace, p *realign.Plan, after *Report) bool {
	any, back := false, p.Back()
	for _, project := range after.Projects {
		for i := range project.Findings {
			f := &project.Findings[i]
			if f.Respelt == nil || back.After(f.Path) == f.Path && !fills(p, f.Path) {
				continue
			}
			if edits := f.Respelt(); len(edits) > 0 {
				any = p.Also(w, edits) || any
			}
		}
	}
	return any
}

// fills says whether a plan moves something into a folder, given with its slash.
func fills(p *realign.Plan, folder string) bool {
	return strings.HasSuffix(folder, "/") && slices.ContainsFunc(p.Moves, func(m changes.Move) bool { return strings.HasPrefix(m.To, folder) })
}

// breaks says whether a finding means that what worked before a plan does not work after it:
// something leads nowhere, or what the framework asks for is not there. Others are no more
// than what a layout wants.
func breaks(f *finding.Finding) bool {
	return f.Kind == finding.Dangling || f.Level == finding.Error && !f.Works
}

// wrong says whether a finding is an error in what a plan brings by kinds to a new folder, or one that
// files tell different stories once it has.
func (s *settling) wrong(p *realign.Plan, f *finding.Finding) bool {
	if f.Level == finding.Error && (f.Kind == finding.Disagrees || f.Kind == finding.Unwired) {
		return slices.ContainsFunc(p.Groups, func(g realign.Group) bool { return g.Converts })
	}
	return f.Level == finding.Error && slices.ContainsFunc(p.Groups, func(g realign.Group) bool {
		return g.Converts && slices.ContainsFunc(g.Moves, func(m changes.Move) bool {
			folder := newFolder(s.before.Workspace, m.To)
			return f.Path == m.To || folder != "" && strings.HasPrefix(f.Path, folder+"/")
		})
	})
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
	if l.Asked || l.Why != "" || l.Part != "" {
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
			known[sameness(&project.Findings[i], p.After)] = true
		}
	}
	return slices.DeleteFunc(fresh, func(f finding.Finding) bool { return known[sameness(&f, asIs)] && !toEnd[string(f.Kind)+" "+f.Path] })
}

// blamed says which groups of a plan bring new findings, and what they are. Where none is
// near enough, all that nobody asked for are.
func blamed(w *workspace.Workspace, p *realign.Plan, fresh []finding.Finding) map[int]string {
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
		if blamedUnit(w, p, f, bad, why) {
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

// blamedUnit blames the groups that make the folder of a unit, where a finding is about what is called
// after it elsewhere, and says whether any does.
func blamedUnit(w *workspace.Workspace, p *realign.Plan, f *finding.Finding, bad map[int]string, why string) (any bool) {
	unit := names.BeforeDot(path.Base(f.Path))
	for k := range p.Groups {
		g := &p.Groups[k]
		if !g.Asked && slices.ContainsFunc(g.Moves, func(m changes.Move) bool {
			folder := newFolder(w, m.To)
			return folder != "" && slices.Contains(strings.Split(path.Dir(m.To), "/")[strings.Count(folder, "/"):], unit)
		}) {
			bad[k], any = why, true
		}
	}
	return any
}

// doubted adds the groups that move what a text may name, and those that the language does
// not allow. A bare word holds nothing back from the layout that somebody names.
func doubted(p *realign.Plan, bad map[int]string, bring bool) {
	for _, r := range p.Remarks {
		for k := range p.Groups {
			g := &p.Groups[k]
			if (g.Asked || bring && r.Bare) && !r.Breaks || !slices.ContainsFunc(g.Moves, func(m changes.Move) bool { return r.About == m.From }) {
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
