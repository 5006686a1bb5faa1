package realign

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/changes"
	"dicaxon/internal/edit"
	"dicaxon/internal/finding"
	"dicaxon/internal/place"
	"dicaxon/internal/placement"
	"dicaxon/internal/refs"
	"dicaxon/internal/rules"
	"dicaxon/internal/scaffold"
	"dicaxon/internal/tree"
	"dicaxon/internal/workspace"
)

// A Group is what putting one finding right takes. Paths are those of the repository.
type Group struct {
	Kind  finding.Kind   `json:"kind"`
	Level finding.Level  `json:"level"`
	Path  string         `json:"path"`
	Rule  string         `json:"rule,omitempty"`
	Says  string         `json:"says"` // what is wrong
	Moves []changes.Move `json:"moves,omitempty"`
	Makes []changes.Make `json:"makes,omitempty"`
	Edits []edit.Edit    `json:"edits,omitempty"`
	Drops []string       `json:"drops,omitempty"`
	Part  string         `json:"part,omitempty"` // what of the file is taken out, by the names that are declared there
	// Otherwise is what may be done instead, where this cannot.
	Otherwise *Group `json:"-"`
	// Asked says that somebody named the move, rather than a finding.
	Asked bool `json:"asked,omitempty"`
	// Converts says that it brings a file to where another layout has what is of its kind.
	Converts bool `json:"-"`
}

// A Left is a finding that a plan leaves to people, with why and what could be done.
type Left struct {
	Kind    finding.Kind  `json:"kind"`
	Level   finding.Level `json:"level"`
	Path    string        `json:"path"`
	Line    int           `json:"line,omitempty"`
	Says    string        `json:"says"`
	Choices []string      `json:"choices,omitempty"`
	Why     string        `json:"why,omitempty"`   // it is not done, where that is not plain
	Asked   bool          `json:"asked,omitempty"` // somebody named the move
	Then    bool          `json:"-"`               // it is so once the plan is carried out
	Part    string        `json:"part,omitempty"`  // what of the file it is about, by the names that are declared there
	Lines   int           `json:"-"`               // how many lines that is
}

// mostChoices is how many ways to go on are named.
const mostChoices = 3

// Groups turns the findings of a workspace into what would put them right, and lists those
// that nothing certain would, with where they may belong. The findings are those that are
// told, down to a level. Where a project is to be brought to another layout, what is likely
// is enough, and what that layout does not know is placed, whatever its level.
func Groups(w *workspace.Workspace, least finding.Level, bring bool) (groups []Group, left []Left) {
	for _, p := range w.Projects {
		g := grouper{Workspace: w, project: p, gaps: gapsOf(p)}
		var unseen *Group
		for i := range p.Findings {
			f := &p.Findings[i]
			if f.Level > least && !(bring && (f.Kind == finding.Extra || f.Kind == finding.Misplaced)) {
				continue
			}
			if bring {
				f.Likely = false
			}
			if len(f.Unseen) > 0 {
				unseen = g.unseen(unseen, f)
				continue
			}
			if one, ok := g.group(f); ok {
				groups = append(groups, one)
				continue
			}
			if f.Kind == finding.Extra && len(f.Homes) == 0 {
				f.Homes = g.placed(f.Path)
				if bring && len(f.Homes) == 1 && refs.Reads(f.Path) { // what names others is known to follow
					f.Home = f.Homes[0]
					groups = append(groups, Group{Kind: f.Kind, Level: f.Level, Path: f.Path, Says: "it belongs in " + path.Dir(strings.TrimSuffix(f.Home, "/")) + "/", Moves: []changes.Move{{From: f.Path, To: f.Home}}})
					continue
				}
			}
			l := Left{Kind: f.Kind, Level: f.Level, Path: f.Path, Line: f.Line, Says: f.Message, Choices: f.Homes}
			if f.Likely && f.Home != "" {
				l.Choices = []string{f.Home}
			}
			l.Choices = l.Choices[:min(len(l.Choices), mostChoices)]
			left = append(left, l)
		}
		if unseen != nil {
			at := unseen.Makes[0].Path
			groups = slices.DeleteFunc(groups, func(o Group) bool { return len(o.Makes) == 1 && o.Makes[0].Path == at })
			groups = append(groups, *unseen)
		}
	}
	return backInstead(groups), left
}

// backInstead leaves out what would follow a file that another finding has go back, since what it
// names cannot follow: then it is there as it is named.
func backInstead(groups []Group) []Group {
	back := map[changes.Move]bool{}
	for _, g := range groups {
		if g.Kind == finding.Dangling && len(g.Moves) == 1 {
			back[g.Moves[0]] = true
		}
	}
	gone := map[string]bool{}
	for m := range back {
		gone[m.From] = true
	}
	return slices.DeleteFunc(groups, func(g Group) bool {
		if g.Kind == finding.Dangling && len(g.Edits) > 0 && gone[g.Path] {
			return true // it names things as if it lay there
		}
		twice := g.Otherwise != nil && back[g.Otherwise.Moves[0]]
		if g.Kind == finding.Dangling && len(g.Moves) == 1 {
			twice = !back[g.Moves[0]] // two that mean one file
			back[g.Moves[0]] = false
		}
		return twice
	})
}

type grouper struct {
	*workspace.Workspace
	project *workspace.Project
	gaps    map[string]*placement.Gap
}

// placed lists the places that speak for themselves of something that has none.
func (g *grouper) placed(at string) []string {
	if strings.HasSuffix(at, "/") {
		return nil
	}
	a := place.Existing(g.Workspace, at)
	if a.Home || a.Unit != "" {
		return nil
	}
	if strings.Contains(at, "/") && g.project.Placement.CommonName(path.Base(at), g.project.Placement.Top, false) != nil {
		return nil // any part may have one of its own
	}
	var all []string
	for _, p := range a.Places {
		if g.uninstalled(at, p.Path) {
			continue
		}
		if p.Exists && !strings.ContainsAny(p.Path, "<*") && g.Repository.Top.At(strings.TrimSuffix(p.Path, "/")) == nil {
			all = append(all, p.Path)
		}
	}
	return all
}

// uninstalled says whether a module of Python would go below src/, where it is found only once the project
// is installed, though nothing says how to.
func (g *grouper) uninstalled(at, to string) bool {
	if path.Ext(at) != ".py" || !strings.Contains("/"+to, "/src/") || strings.Contains("/"+at, "/src/") {
		return false
	}
	return !slices.ContainsFunc([]string{"pyproject.toml", "setup.py", "setup.cfg"}, func(name string) bool { return g.project.Folder.Find(name) != nil })
}

// gapsOf gives the gaps of a project by the paths that would fill them.
func gapsOf(p *workspace.Project) map[string]*placement.Gap {
	all := map[string]*placement.Gap{}
	if p.Placement == nil {
		return all
	}
	for i := range p.Placement.Gaps {
		g := &p.Placement.Gaps[i]
		if name, complete := g.Name(); complete {
			at := g.Folder.Path() + name
			if g.Entry.Folder {
				at += "/"
			}
			all[at] = g
		}
	}
	return all
}

// group gives what puts a finding right, where that is certain.
func (g *grouper) group(f *finding.Finding) (Group, bool) {
	one := Group{Kind: f.Kind, Level: f.Level, Path: f.Path, Rule: f.Rule, Says: f.Message}
	switch {
	case len(f.Fix) > 0:
		one.Edits = f.Fix
	case (f.Kind == finding.Misplaced || f.Kind == finding.Misnamed || f.Kind == finding.Misdeclared) && f.Home != "" && (!f.Likely || f.IfIdle && g.idle(f.Path)) && f.Home != f.Path && !strings.ContainsAny(f.Home, "<*"):
		one.Moves = []changes.Move{{From: f.Path, To: f.Home}}
	case f.Kind == finding.Missing && f.More == 0:
		one.Makes = g.made(f.Path)
	case f.Kind == finding.Empty && strings.HasSuffix(f.Path, "/"):
		for _, at := range append([]string{f.Path}, f.Also...) {
			if n := g.Repository.Top.At(strings.TrimSuffix(at, "/")); n != nil && n.Folder != nil {
				one.Makes = append(one.Makes, kept(n.Folder)...)
			}
		}
	}
	if f.Back != "" {
		back := one
		back.Edits, back.Moves = nil, []changes.Move{{From: f.Meant, To: f.Back}}
		if !g.ownFollow(f, &one) || len(one.Edits) == 0 {
			return back, true
		}
		one.Otherwise = &back
	}
	return one, len(one.Moves)+len(one.Makes)+len(one.Edits) > 0
}

// ownFollow adds what puts the references of a file that was moved right to what does so with
// those of others to it, and says whether that is all of them.
func (g *grouper) ownFollow(f *finding.Finding, one *Group) bool {
	for i := range g.project.Ended {
		own := &g.project.Ended[i]
		if !own.OfMove || own.Path != f.Meant {
			continue
		}
		if len(own.Fix) == 0 {
			return false
		}
		one.Edits = append(slices.Clone(one.Edits), own.Fix...)
	}
	return true
}

// kept gives the files that keep an empty folder, and what is in it: one in each that has none
// below.
func kept(f *tree.Folder) (all []changes.Make) {
	for i := range f.Nodes {
		if below := f.Nodes[i].Folder; below != nil && !f.Nodes[i].Ignored {
			all = append(all, kept(below)...)
		}
	}
	if all == nil {
		all = append(all, changes.Make{Path: f.Path() + ".gitkeep"})
	}
	return all
}

// idle says whether no reference leads to a file as it lies.
func (g *grouper) idle(at string) bool {
	p := g.project.Placement
	return p != nil && len(p.Graph.To(strings.TrimPrefix(at, p.Top.Path()))) == 0
}

// unseen adds what a finding says that no ignore file names to the one that is to be made:
// what the layout starts it with, and a line for each that this does not name.
func (g *grouper) unseen(one *Group, f *finding.Finding) *Group {
	at := g.project.Folder.Path() + ".gitignore"
	if one == nil {
		one = &Group{Kind: f.Kind, Level: f.Level, Path: f.Path, Rule: f.Rule, Says: f.Message, Makes: g.made(at)}
		if len(one.Makes) != 1 {
			one.Makes = []changes.Make{{Path: at}}
		}
	}
	text := &one.Makes[0].Text
	named := strings.Split(*text, "\n")
	for _, unseen := range f.Unseen {
		if !slices.Contains(named, unseen) && !slices.Contains(named, "/"+unseen) && !slices.Contains(named, path.Base(unseen)+unseen[len(strings.TrimSuffix(unseen, "/")):]) {
			*text += rules.NamePaths([]byte(*text), []string{unseen})
		}
	}
	return one
}

// made gives what the layout starts at a path that a gap waits for.
func (g *grouper) made(at string) []changes.Make {
	gap := g.gaps[at]
	if gap == nil || gap.Entry.MadeBy != "" {
		return nil
	}
	p := g.project
	below := strings.TrimPrefix(gap.Folder.Path(), p.Placement.Top.Path())
	items, err := scaffold.Part(p.Layout, gap.Entry, below, gap.Env, Answers(p), p.Placement.UnitNames())
	if err != nil {
		return nil
	}
	var all []changes.Make
	for _, item := range items {
		if strings.HasSuffix(item.Path, "/") {
			continue // it comes with what is in it
		}
		all = append(all, item.Made(p.Placement.Top.Path()))
	}
	return all
}
