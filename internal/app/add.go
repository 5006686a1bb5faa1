package app

import (
	"context"
	"slices"
	"strings"

	"dicaxon/internal/changes"
	"dicaxon/internal/edit"
	"dicaxon/internal/extend"
	"dicaxon/internal/finding"
	"dicaxon/internal/realign"
	"dicaxon/internal/workspace"
)

// Add plans one more unit in the repository that a folder lies in, wired in as the others
// are. The error is as for Check; a mistake in what was asked for is a workspace.CallError.
func Add(ctx context.Context, folder string, unit extend.Options, o Options) (*Realignment, error) {
	r, p, err := opened(ctx, folder, o, unit.Unit)
	if err != nil {
		return nil, err
	}
	g, err := extend.Add(r.Workspace, p, unit)
	if err != nil {
		return nil, workspace.CallError(err.Error())
	}
	value := g.Says[strings.LastIndexByte(g.Says, ' ')+1:]
	g.Edits = extend.Wire(r.Workspace, p, unit.Unit, value, nil)
	var plan *realign.Plan
	var after *Report
	var fresh []finding.Finding // what a check would say of it then
	planned := func() (err error) {
		plan = realign.Compose(ctx, r.Workspace, []realign.Group{*g}, nil)
		if after, err = madeSo(ctx, r.Workspace, &plan.Plan, o); err == nil {
			fresh = newFindings(r, after, plan)
		}
		return err
	}
	if err := planned(); err != nil {
		return nil, err
	}
	if strange := leadNowhere(g, fresh); len(strange) > 0 {
		// Others are wired in a way that this one cannot be.
		g.Edits = extend.Wire(r.Workspace, p, unit.Unit, value, strange)
		if err := planned(); err != nil {
			return nil, err
		}
	}
	// What is known how to put right is put right at once.
	if mended := mend(g, fresh); realign.Supply(r.Workspace, p, g, fresh) || mended {
		if err := planned(); err != nil {
			return nil, err
		}
	}
	for _, f := range fresh {
		if f.Level < finding.Note {
			plan.Remarks = append(plan.Remarks, realign.Remark{Path: f.Path, Line: f.Line, Says: f.Message})
		}
	}
	return &Realignment{r.Workspace, plan, r.Totals, after.Totals}, nil
}

// opened checks a repository and gives the project in it that has units of a kind: that
// which the folder lies in, or else the only one.
func opened(ctx context.Context, folder string, o Options, unit string) (*Report, *workspace.Project, error) {
	root, within, err := rootOf(folder, o.Layout)
	if err != nil {
		return nil, nil, err
	}
	r, err := checked(ctx, root, o)
	if err != nil {
		return nil, nil, err
	}
	p := r.ProjectOf(within)
	has := func(p *workspace.Project) bool {
		return slices.ContainsFunc(extend.Kinds(p), func(k extend.Kind) bool { return k.Unit == unit })
	}
	if !has(p) {
		var others []*workspace.Project
		for _, other := range r.Projects {
			if has(other) {
				others = append(others, other)
			}
		}
		if len(others) == 1 {
			p = others[0]
		}
	}
	if !p.Known() {
		return nil, nil, workspace.CallError("no layout that is known fits here, so there are no units; --layout names one")
	}
	return r, p, nil
}

// Units lists the kinds of units that the project which a folder lies in may have more of.
func Units(ctx context.Context, folder string, o Options) (*workspace.Project, []extend.Kind, error) {
	_, p, err := opened(ctx, folder, o, "")
	if err != nil {
		return nil, nil, err
	}
	return p, extend.Kinds(p), nil
}

// mend takes the edits that would put new findings right into a group, those of files that
// it makes into their texts, and says whether there were any.
func mend(g *realign.Group, fresh []finding.Finding) bool {
	any := false
	for i := range fresh {
		for at, edits := range edit.ByFile(fresh[i].Fix) {
			k := slices.IndexFunc(g.Makes, func(m changes.Make) bool { return m.Path == at })
			if k >= 0 {
				if text, err := edit.Apply([]byte(g.Makes[k].Text), edits); err == nil {
					g.Makes[k].Text, any = string(text), true
				}
				continue
			}
			if slices.ContainsFunc(g.Edits, func(e edit.Edit) bool { return e.Path == at }) {
				continue // its places are those of another text
			}
			g.Edits, any = append(g.Edits, edits...), true
		}
	}
	return any
}

// leadNowhere gives the files that a group edits in which references lead nowhere then.
func leadNowhere(g *realign.Group, fresh []finding.Finding) map[string]bool {
	all := map[string]bool{}
	for _, f := range fresh {
		if f.Kind == finding.Dangling && slices.ContainsFunc(g.Edits, func(e edit.Edit) bool { return e.Path == f.Path }) {
			all[f.Path] = true
		}
	}
	return all
}
