package app

import (
	"cmp"
	"context"
	"slices"
	"strings"

	"dicaxon/internal/catalogue"
	"dicaxon/internal/changes"
	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/placement"
	"dicaxon/internal/realign"
	"dicaxon/internal/workspace"
)

// converting adds to what findings of projects say what brings each to its layout from how others of
// its framework have it, beside what somebody named. What would take a folder for a kind for a unit
// is not told.
func converting(ctx context.Context, r *Report, asked, found []realign.Group, left []realign.Left) (_, _ []realign.Group, _ []realign.Left, all []string, err error) {
	named := &changes.Plan{}
	for _, g := range asked {
		named.Moves = append(named.Moves, g.Moves...)
	}
	for _, p := range r.Projects {
		others, err := asOthers(ctx, r.Workspace, p)
		if err != nil {
			return nil, nil, nil, nil, err
		}
		by := realign.Converted(r.Workspace, p, others)
		groups, roles := by.Groups, by.Roles
		left = append(left, by.Left...)
		realign.WithFellows(r.Workspace, groups)
		for _, g := range groups {
			g.Moves = slices.DeleteFunc(g.Moves, func(m changes.Move) bool { return named.After(m.From) != m.From })
			if len(g.Moves) > 0 {
				asked = append(asked, g)
			}
		}
		if len(groups) == 0 {
			continue
		}
		all = append(all, roles...)
		within := func(at string) bool {
			return slices.ContainsFunc(roles, func(role string) bool { return strings.HasPrefix(at, role) && at != role })
		}
		found = slices.DeleteFunc(found, func(g realign.Group) bool {
			return within(g.Path) && (g.Kind == finding.Missing || g.Kind == finding.Misnamed) || g.Kind == finding.Missing && slices.ContainsFunc(groups, func(o realign.Group) bool {
				return slices.ContainsFunc(o.Moves, func(m changes.Move) bool { return strings.HasSuffix(g.Path, "/") && strings.HasPrefix(m.To, g.Path) })
			})
		})
		left = slices.DeleteFunc(left, func(l realign.Left) bool {
			return within(l.Path) && (l.Kind == finding.Missing || l.Kind == finding.Misnamed)
		})
	}
	return asked, found, left, all, nil
}

// asOthers gives a project as the other layouts of its framework see it, the best fitting first.
func asOthers(ctx context.Context, w *workspace.Workspace, p *workspace.Project) (all []*placement.Placement, err error) {
	if p.Placement == nil {
		return nil, nil
	}
	var names []string
	for _, name := range (catalogue.Catalogue{}).Names() {
		if layout.Family(name) == layout.Family(p.Layout.Name) {
			names = append(names, name)
		}
	}
	roots, err := w.Roots(ctx)
	if err != nil {
		return nil, err
	}
	for _, root := range roots { // which may be of another framework that stands on the same
		if root.At == p.At && root.Best != nil {
			names = append(names, root.Best.Layout)
		}
	}
	for _, name := range names {
		l, err := (catalogue.Catalogue{}).Layout(name)
		if err != nil {
			return nil, err
		}
		if known := slices.ContainsFunc(all, func(o *placement.Placement) bool { return o.Layout.Name == name }); known || l.Base || name == p.Layout.Name {
			continue
		}
		in := p.Placement.Input
		in.Layout, in.Named, in.Bring, in.Answers = l, false, false, nil
		all = append(all, placement.Pair(in))
	}
	slices.SortStableFunc(all, func(a, b *placement.Placement) int { return cmp.Compare(b.Settled-b.Astray, a.Settled-a.Astray) })
	return all, nil
}

// also adds to a plan that brings files by their kinds what the layout asks for then and did not before,
// so that nothing is left to a second one.
func (s *settling) also(plan *Realignment) (*Realignment, error) {
	if s.last == nil || !slices.ContainsFunc(plan.Groups, func(g realign.Group) bool { return g.Converts }) {
		return plan, nil
	}
	wanted, _ := realign.Groups(s.last.Workspace, finding.Warning, true)
	wanted = slices.DeleteFunc(wanted, func(g realign.Group) bool {
		return g.Kind != finding.Missing || len(g.Makes) == 0 || slices.ContainsFunc(plan.Groups, func(o realign.Group) bool { return o.Path == g.Path }) ||
			slices.ContainsFunc(plan.Left, func(l realign.Left) bool { return l.Path == g.Path && !strings.HasPrefix(l.Says, "then ") })
	})
	if len(wanted) == 0 {
		return plan, nil
	}
	left := slices.DeleteFunc(slices.Clone(plan.Left), func(l realign.Left) bool { return strings.HasPrefix(l.Says, "then ") }) // it is told anew
	return s.on(append(slices.Clone(plan.Groups), wanted...), left)
}
