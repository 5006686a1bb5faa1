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
	"dicaxon/internal/refs"
	"dicaxon/internal/workspace"
)

// A bringing is what a project takes to become what a layout describes: what somebody named, what findings
// say, and what is left.
type bringing struct {
	asked, found []realign.Group
	left         []realign.Left
	roles        []string // the folders for kinds, which the layout may take for units
}

// byKinds adds what brings each project to its layout from how others of its framework have it, beside
// what somebody named. What would take a folder for a kind for a unit is not told.
func (b *bringing) byKinds(ctx context.Context, r *Report) error {
	named := &changes.Plan{}
	for _, g := range b.asked {
		named.Moves = append(named.Moves, g.Moves...)
	}
	all, err := r.conversions(ctx)
	if err != nil {
		return err
	}
	for _, by := range all {
		b.left = append(b.left, by.Left...)
		if len(by.Groups) == 0 {
			continue
		}
		by.Groups = slices.Clone(by.Groups)
		for i := range by.Groups {
			by.Groups[i].Moves = slices.Clone(by.Groups[i].Moves)
		}
		realign.WithFellows(r.Workspace, by.Groups)
		for _, g := range by.Groups {
			g.Moves = slices.DeleteFunc(g.Moves, func(m changes.Move) bool { return named.After(m.From) != m.From })
			if len(g.Moves) > 0 {
				b.asked = append(b.asked, g)
			}
		}
		b.roles = append(b.roles, by.Roles...)
		b.settled(by)
	}
	return nil
}

// conversions gives what brings each of its projects to its layout by kinds. It is found once; nobody changes it.
func (r *Report) conversions(ctx context.Context) ([]realign.Conversion, error) {
	if r.byKinds != nil {
		return r.byKinds, nil
	}
	all := make([]realign.Conversion, 0, len(r.Projects))
	for _, p := range r.Projects {
		others, err := asOthers(ctx, r.Workspace, p)
		if err != nil {
			return nil, err
		}
		all = append(all, realign.Converted(r.Workspace, p, others))
	}
	r.byKinds = all
	return all, nil
}

// settled leaves out what is told of folders for kinds as if they were units, and folders that something
// comes to.
func (b *bringing) settled(by realign.Conversion) {
	asUnit := func(kind finding.Kind, at string) bool {
		return (kind == finding.Missing || kind == finding.Misnamed) && slices.ContainsFunc(by.Roles, func(role string) bool { return strings.HasPrefix(at, role) && at != role })
	}
	filled := func(at string) bool {
		return strings.HasSuffix(at, "/") && slices.ContainsFunc(by.Groups, func(g realign.Group) bool {
			return slices.ContainsFunc(g.Moves, func(m changes.Move) bool { return strings.HasPrefix(m.To, at) })
		})
	}
	b.found = slices.DeleteFunc(b.found, func(g realign.Group) bool {
		return asUnit(g.Kind, g.Path) || g.Kind == finding.Missing && filled(g.Path)
	})
	b.left = slices.DeleteFunc(b.left, func(l realign.Left) bool { return asUnit(l.Kind, l.Path) })
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

// also adds to a plan what the layout asks for once it is carried out and did not before, so that nothing is left to a
// second one: files that are missing then, where it brings files by their kinds, and, where it brings a project to a
// layout, files that stay and have a home then.
func (s *settling) also(plan *Realignment) (*Realignment, error) {
	converts := slices.ContainsFunc(plan.Groups, func(g realign.Group) bool { return g.Converts })
	if s.last == nil || !converts && !s.bring {
		return plan, nil
	}
	wanted, _ := realign.Groups(s.last.Workspace, finding.Warning, true)
	wanted = slices.DeleteFunc(wanted, func(g realign.Group) bool {
		if slices.ContainsFunc(plan.Groups, func(o realign.Group) bool { return o.Path == g.Path }) {
			return true
		}
		missing := converts && g.Kind == finding.Missing && len(g.Makes) > 0 && !slices.ContainsFunc(plan.Left, func(l realign.Left) bool { return l.Path == g.Path && !l.Then })
		return !missing && !(s.bring && s.stays(plan, g))
	})
	if len(wanted) == 0 {
		return plan, nil
	}
	left := slices.DeleteFunc(slices.Clone(plan.Left), func(l realign.Left) bool {
		return l.Then || slices.ContainsFunc(wanted, func(g realign.Group) bool { return g.Path == l.Path }) // it is told anew
	})
	last := s.last
	more, err := s.on(append(slices.Clone(plan.Groups), wanted...), left)
	if err == nil && len(more.Moves) < len(plan.Moves) { // what would come costs what does
		s.last = last
		return plan, nil
	}
	return more, err
}

// stays says whether a group moves code that is there now and that a plan leaves where it is: what else a program
// reads it looks for by a path.
func (s *settling) stays(plan *Realignment, g realign.Group) bool {
	refused := slices.ContainsFunc(plan.Left, func(l realign.Left) bool { return l.Path == g.Path && l.Kind != finding.Extra })
	return len(plan.Moves) > 0 && len(g.Moves) > 0 && !refused && refs.IsCode(g.Path) && !slices.ContainsFunc(g.Moves, func(m changes.Move) bool {
		from := strings.TrimSuffix(m.From, "/")
		return s.before.Workspace.Repository.Top.Node(from) == nil || slices.ContainsFunc(plan.Moves, func(o changes.Move) bool {
			return o.To == m.From || strings.HasPrefix(o.To, from+"/") || strings.HasPrefix(m.From, strings.TrimSuffix(o.From, "/")+"/")
		})
	})
}
