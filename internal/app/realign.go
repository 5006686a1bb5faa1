package app

import (
	"context"
	"errors"
	"fmt"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/catalogue"
	"dicaxon/internal/changes"
	"dicaxon/internal/finding"
	"dicaxon/internal/identify"
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
	o.bring = o.Findings && o.Layout != ""
	r, err := checked(ctx, root, o.Options)
	if err != nil {
		return nil, err
	}
	if o.Findings && o.Layout != "" && len(o.Moves) == 0 {
		if err := canBecome(r, o.Layout); err != nil {
			return nil, err
		}
	}
	if o.bring && len(o.Moves) == 0 {
		return whole(ctx, r, o)
	}
	plan, settle, err := proposed(ctx, r, o)
	if err != nil || o.Wants == nil {
		return plan, err
	}
	return settle.on(wantedOf(plan.Groups, o), nil)
}

// whole makes the plan that brings a project to a layout: what several units have in one file is taken apart
// first, and the rest is planned of what that leaves.
func whole(ctx context.Context, r *Report, o RealignOptions) (*Realignment, error) {
	d, err := divide(ctx, r, o, nil)
	if err != nil {
		return nil, err
	}
	plan, settle, err := proposed(ctx, d.report, o)
	if err != nil {
		return nil, err
	}
	all, clear := d.before(plan, settle)
	if !clear { // then only files are moved
		d = &division{start: r, report: r}
		if plan, settle, err = proposed(ctx, r, o); err != nil {
			return nil, err
		}
		all = plan
	}
	if o.Wants == nil {
		return all, nil
	}
	wanted := wantedOf(all.Groups, o)
	if taken := func(g realign.Group) bool { return g.Part == "" || partsOf(wanted)(g.Path, g.Part) }; slices.ContainsFunc(d.groups, func(g realign.Group) bool { return !taken(g) }) {
		if d, err = divide(ctx, r, o, partsOf(wanted)); err != nil {
			return nil, err
		}
		if plan, settle, err = proposed(ctx, d.report, o); err != nil {
			return nil, err
		}
	}
	plan, err = settle.on(slices.DeleteFunc(plan.Groups, func(g realign.Group) bool {
		return !slices.ContainsFunc(wanted, func(w realign.Group) bool { return alike(&w, &g) })
	}), nil)
	if err != nil {
		return nil, err
	}
	if all, clear = d.before(plan, settle); !clear {
		return nil, errors.New("what is taken out of files and what is moved are in each other's way; take fewer parts")
	}
	return all, nil
}

// wantedOf gives the groups that somebody wants.
func wantedOf(groups []realign.Group, o RealignOptions) (wanted []realign.Group) {
	for i := range groups {
		if o.Wants(i+1, &groups[i]) {
			wanted = append(wanted, groups[i])
		}
	}
	return wanted
}

// proposed makes the plan of all that is certain, and what it was settled by.
func proposed(ctx context.Context, r *Report, o RealignOptions) (*Realignment, *settling, error) {
	var groups []realign.Group
	for _, m := range o.Moves {
		g, err := asMapped(r.Workspace, m, len(o.Moves))
		if err != nil {
			return nil, nil, workspace.CallError(err.Error())
		}
		groups = append(groups, g)
	}
	realign.WithNames(r.Workspace, groups)
	realign.WithFellows(r.Workspace, groups)
	b := &bringing{asked: groups}
	if len(o.Moves) == 0 || o.Findings { // what was asked for is all that is done
		b.found, b.left = realign.Groups(r.Workspace, o.Least, o.Findings)
		if o.bring {
			if err := b.byKinds(ctx, r); err != nil {
				return nil, nil, err
			}
		}
		b.found, b.left = within(b.found, b.left, o.Paths)
		b.asked, b.left = realign.Beside(r.Workspace, b.asked, b.found, b.left)
		if o.bring {
			realign.WithMirrors(r.Workspace, b.asked)
		}
	}
	settle := &settling{ctx: ctx, before: r, options: o.Options, bring: o.Findings, roles: b.roles}
	plan, err := settle.on(b.asked, b.left)
	if err == nil && o.bring {
		plan, err = settle.also(plan)
	}
	return plan, settle, err
}

// asMapped makes a group of a move that somebody named: of a file or folder, or of what a file declares under
// the names behind a "#". Nothing goes out of the repository.
func asMapped(w *workspace.Workspace, m changes.Move, of int) (g realign.Group, err error) {
	if file, names, parts := strings.Cut(m.From, "#"); parts && w.Repository.Top.At(m.From) == nil {
		g, err = taken(w, file, names, m, of)
	} else {
		g, err = realign.Asked(w, m.From, m.To)
	}
	if err != nil {
		return g, err
	}
	for _, to := range g.Moves {
		if err := changes.Writable(to.To); err != nil {
			return g, err
		}
	}
	for _, made := range g.Makes {
		if err := changes.Writable(made.Path); err != nil {
			return g, err
		}
	}
	return g, nil
}

// taken makes a group of what is taken out of a file.
func taken(w *workspace.Workspace, file, names string, m changes.Move, of int) (realign.Group, error) {
	switch {
	case !w.Repository.Top.HasFile(file):
		return realign.Group{}, fmt.Errorf("%s: there is no such file", file)
	case names == "":
		return realign.Group{}, fmt.Errorf("%s: behind the # stand the names that are to be taken out, with commas between them", m.From)
	case of > 1:
		return realign.Group{}, fmt.Errorf("%s: a part of a file is taken out by itself, without other moves", m.From)
	case strings.HasSuffix(m.To, "/"): // into that folder
		m.To += path.Base(file)
	}
	return realign.Cut(w, file, strings.Split(names, ","), m.To)
}

// canBecome says no where nothing in a project is of the kind that a layout is for.
func canBecome(r *Report, name string) error {
	p := r.Projects[0]
	lacks := identify.Lacks(catalogue.Catalogue{}, p.Placement.Repository, p.Placement.Top, name)
	if lacks == "" {
		return nil
	}
	return workspace.CallError(fmt.Sprintf("%s is for what %s, and nothing here does; `dicaxon identify` says what this is", name, lacks))
}

// checked is Check with every finding told by itself, and nothing taken from memory.
func checked(ctx context.Context, at string, o Options) (*Report, error) {
	o.Findings, o.apart = false, true
	return Check(ctx, at, o)
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
