package app

import (
	"cmp"
	"context"
	"slices"
	"strings"

	"dicaxon/internal/changes"
	"dicaxon/internal/edit"
	"dicaxon/internal/finding"
	"dicaxon/internal/realign"
	"dicaxon/internal/workspace"
)

// A division takes what several units have in one file apart before files are moved, each part to where its
// unit lies, as far as that is clean.
type division struct {
	ctx     context.Context
	options RealignOptions
	start   *Report
	report  *Report // of the repository once all parts so far are taken out
	plan    changes.Plan
	groups  []realign.Group
	unclean map[string]bool // the parts that were tried and left
}

// mostParts is how many parts are taken out in one plan.
const mostParts = 40

// divide takes parts out as long as there are any; wanted says which of them are asked for, nil for all.
func divide(ctx context.Context, r *Report, o RealignOptions, wanted func(path, part string) bool) (*division, error) {
	d := &division{ctx: ctx, options: o, start: r, report: r, unclean: map[string]bool{}}
	for range mostParts {
		part, err := d.next(wanted)
		if part == nil || err != nil {
			return d, err
		}
		if err := d.take(part); err != nil {
			return d, err
		}
	}
	return d, nil
}

// next gives the smallest part that can be taken out, nil for none: what is left of a file goes by moving it.
func (d *division) next(wanted func(path, part string) bool) (part *realign.Left, err error) {
	all, err := d.report.conversions(d.ctx)
	if err != nil {
		return nil, err
	}
	for _, by := range all {
		_, left := within(nil, slices.Clone(by.Left), d.options.Paths)
		for i := range left {
			l := &left[i]
			if len(l.Choices) != 1 || d.unclean[l.Path+"#"+l.Part] || wanted != nil && !wanted(l.Path, l.Part) || part != nil && part.Lines <= l.Lines {
				continue
			}
			part = l
		}
	}
	return part, nil
}

// take takes one part out, unless something led somewhere before and does not then.
func (d *division) take(l *realign.Left) error {
	d.unclean[l.Path+"#"+l.Part] = true
	g, err := realign.Cut(d.report.Workspace, l.Path, strings.Split(l.Part, ","), l.Choices[0])
	if err != nil {
		return nil // it is told with what is left
	}
	step := &changes.Plan{Makes: g.Makes, Edits: g.Edits}
	then, err := madeSo(d.ctx, d.report.Workspace, step, d.options.Options)
	if err != nil {
		return err
	}
	for _, f := range newFindings(d.report, then, &realign.Plan{Plan: *step}) {
		if f.Kind == finding.Dangling {
			return nil
		}
	}
	plan, err := d.plan.Then(step, d.start.Repository.Text)
	if err != nil {
		return err
	}
	g.Asked, g.Converts, g.Part, g.Says = false, true, l.Part, l.Says
	d.plan, d.report, d.groups = *plan, then, append(d.groups, g)
	return nil
}

// before puts what was taken out before a plan that was made of what that left, and settled. It says no where the
// two are in each other's way, or bring something that breaks.
func (d *division) before(r *Realignment, settle *settling) (*Realignment, bool) {
	plan, err := d.plan.Then(&r.Plan.Plan, d.start.Repository.Text)
	if err != nil || !d.same(plan, &r.Plan.Plan) {
		return nil, false
	}
	after := cmp.Or(settle.last, d.report)
	fresh := newFindings(d.start, after, &realign.Plan{Plan: *plan, Groups: r.Groups})
	if len(d.groups) > 0 && slices.ContainsFunc(fresh, func(f finding.Finding) bool { return breaks(&f) }) {
		return nil, false
	}
	all := &realign.Plan{Plan: *plan, Left: d.stillLeft(r.Left, after, plan), Remarks: r.Remarks}
	cut := map[string]bool{}
	for _, g := range d.groups {
		g.Makes = slices.Clone(g.Makes)
		for k := range g.Makes {
			at := r.Plan.Plan.After(g.Makes[k].Path)
			if m := slices.IndexFunc(plan.Makes, func(m changes.Make) bool { return m.Path == at }); m >= 0 {
				g.Makes[k] = plan.Makes[m]
			}
		}
		g.Edits = nil // what is edited for several parts at once is told with the first
		if !cut[g.Path] {
			g.Edits, cut[g.Path] = edit.ByFile(plan.Edits)[g.Path], true
		}
		all.Groups = append(all.Groups, g)
	}
	for _, g := range r.Groups {
		g.Edits = slices.DeleteFunc(slices.Clone(g.Edits), func(e edit.Edit) bool { return !slices.Contains(plan.Edits, e) })
		all.Groups = append(all.Groups, g)
	}
	return &Realignment{d.start.Workspace, all, d.start.Totals, after.Totals}, true
}

// stillLeft leaves out what was told between the two alone.
func (d *division) stillLeft(left []realign.Left, after *Report, plan *changes.Plan) []realign.Left {
	says := func(r *Report, l *realign.Left, at string) bool {
		return slices.ContainsFunc(r.Projects, func(p *workspace.Project) bool {
			return slices.ContainsFunc(p.Findings, func(f finding.Finding) bool { return f.Kind == l.Kind && f.Path == at })
		})
	}
	return slices.DeleteFunc(slices.Clone(left), func(l realign.Left) bool {
		return l.Part == "" && !l.Then && !says(d.start, &l, l.Path) && !says(after, &l, plan.After(l.Path))
	})
}

// same says whether a plan makes of the repository as it is what another makes of it once the parts are taken out.
func (d *division) same(plan, then *changes.Plan) bool {
	one, err := Changes(d.start.Workspace, plan)
	if err != nil {
		return false
	}
	texts := map[string]string{}
	for _, c := range one {
		texts[c.To] = string(c.New)
	}
	two, err := Changes(d.report.Workspace, then)
	if err != nil {
		return false
	}
	for _, c := range two {
		if text, known := texts[c.To]; known && text != string(c.New) || !known && c.To != "" {
			return false
		}
	}
	return true
}

// partsOf says which parts some groups take out.
func partsOf(groups []realign.Group) func(path, part string) bool {
	return func(path, part string) bool {
		return slices.ContainsFunc(groups, func(g realign.Group) bool { return g.Path == path && g.Part == part })
	}
}

// alike says whether two groups are about the same: they move one file at least, or none and are of one path.
func alike(a, b *realign.Group) bool {
	if a.Kind != b.Kind || len(a.Moves) == 0 || len(b.Moves) == 0 {
		return a.Kind == b.Kind && a.Path == b.Path && len(a.Moves) == len(b.Moves)
	}
	return slices.ContainsFunc(a.Moves, func(m changes.Move) bool { return slices.Contains(b.Moves, m) })
}
