package realign

import (
	"maps"
	"path"
	"path/filepath"
	"slices"
	"strings"

	"dicaxon/internal/changes"
	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/placement"
	"dicaxon/internal/scaffold"
	"dicaxon/internal/workspace"
)

// Answers gives what is known to stand for the names that a project's layout asks for.
func Answers(p *workspace.Project) map[string]string {
	all := map[string]string{}
	_, env := p.Placement.Folder(p.Placement.Top)
	for i := range p.Layout.Asks {
		ask := &p.Layout.Asks[i]
		if value, ok := env.Get(ask.Name); ok {
			all[ask.Name] = value
		} else if value := p.Answers[ask.Name]; value != "" {
			all[ask.Name] = value
		} else if value := captured(p, ask); value != "" {
			all[ask.Name] = value
		} else if value := inferred(p, ask); value != "" {
			all[ask.Name] = value
		} else if ask.OfFolder {
			all[ask.Name] = ask.DefaultIn(folderName(p))
		}
	}
	return all
}

// folderName gives the name of the folder that a project lies in.
func folderName(p *workspace.Project) string {
	if name := p.Placement.Top.Name; name != "" {
		return name
	}
	return filepath.Base(p.Placement.Repository.Root)
}

// Supply adds to a group what the layout starts and the project lacks, as far as new
// references name it, and says whether there is anything.
func Supply(w *workspace.Workspace, p *workspace.Project, g *Group, fresh []finding.Finding) bool {
	of := grouper{Workspace: w, project: p, gaps: gapsOf(p)}
	for _, f := range fresh {
		for _, at := range f.Sought {
			if gap := mayStand(p, at); gap != nil && of.gaps[at] == nil {
				of.gaps[at] = gap
			}
		}
	}
	any := false
	for _, at := range slices.Sorted(maps.Keys(of.gaps)) {
		for _, m := range of.made(at) {
			named := slices.ContainsFunc(fresh, func(f finding.Finding) bool {
				return f.Kind == finding.Dangling && slices.ContainsFunc(f.Sought, func(sought string) bool { return m.Path == sought || strings.HasSuffix(m.Path, "/"+sought) })
			})
			if named && !slices.ContainsFunc(g.Makes, func(o changes.Make) bool { return o.Path == m.Path }) {
				g.Makes, any = append(g.Makes, m), true
			}
		}
	}
	return any
}

// mayStand gives the gap at a path of the repository where the layout has a first text for what is called so and may be
// there, nil where it has none.
func mayStand(p *workspace.Project, at string) *placement.Gap {
	below, inside := strings.CutPrefix(at, p.Placement.Top.Path())
	in := p.Placement.Top
	if dir := path.Dir(below); dir != "." {
		n := in.At(dir)
		if n == nil || n.Folder == nil {
			return nil
		}
		in = n.Folder
	}
	a := p.Placement.Lookup(below)
	if !inside || a.There || a.State != placement.Placed || a.Entry.Starter == "" || a.Entry.Spellings[0].Exact != path.Base(at) {
		return nil
	}
	return &placement.Gap{Entry: a.Entry, Folder: in, Env: a.Env}
}

// captured gives the one value that the names of a project's files and folders have for an
// answer, "" where they have none or several.
func captured(p *workspace.Project, ask *layout.Ask) string {
	if ask.Several {
		return ""
	}
	found := ""
	for _, f := range p.Placement.Repository.Folders {
		if !strings.HasPrefix(f.Path(), p.Placement.Top.Path()) || f.Unread || f.ID < p.Placement.Top.ID {
			continue
		}
		_, env := p.Placement.Folder(f)
		for i := -1; i < len(f.Nodes); i++ {
			bound := env
			if i >= 0 {
				place := p.Placement.Place(f, i)
				if f.Nodes[i].Folder != nil || place.State != placement.Placed || !slices.Contains(place.Entry.Spellings[0].Captures(), ask.Name) {
					continue
				}
				bound, _, _ = place.Entry.Match(f.Nodes[i].Name, env)
			}
			value, ok := bound.Get(ask.Name)
			if ok && found != "" && value != found {
				return ""
			}
			if ok {
				found = value
			}
		}
	}
	return found
}

// inferred gives an answer by what a file says where its starter has it: the starter is
// filled in with a word of its own, and the line of that word is looked for.
func inferred(p *workspace.Project, ask *layout.Ask) string {
	if ask.Several {
		return ""
	}
	const word = "zqanswer"
	for _, e := range p.Layout.Entries {
		if e.Starter == "" || e.Folder || e.Parent == nil {
			continue
		}
		for _, spot := range p.Placement.Spots(e) {
			name, whole := e.Name(spot.Env)
			if !whole || spot.Folder == nil || spot.Folder.Find(name) == nil {
				continue
			}
			items, err := scaffold.Part(p.Layout, e, spot.Path, spot.Env, map[string]string{ask.Name: word}, nil)
			if err != nil || len(items) != 1 || !strings.Contains(string(items[0].Text), word) {
				break
			}
			text, err := p.Placement.Repository.Text(p.Placement.Top.Path() + spot.Path + name)
			if value := standsFor(word, string(items[0].Text), string(text)); err == nil && value != "" && ask.Check(value) == nil {
				return value
			}
		}
	}
	return ""
}

// standsFor gives what a text has where another, of the same lines, has a word.
func standsFor(word, with, text string) string {
	for line := range strings.SplitSeq(with, "\n") {
		before, after, ok := strings.Cut(strings.TrimSpace(line), word)
		if !ok || strings.Contains(after, word) || len(before)+len(after) < 3 {
			continue
		}
		for there := range strings.SplitSeq(text, "\n") {
			there = strings.TrimSpace(there)
			if len(there) > len(before)+len(after) && strings.HasPrefix(there, before) && strings.HasSuffix(there, after) {
				if value := there[len(before) : len(there)-len(after)]; !strings.ContainsAny(value, " \"'") {
					return value
				}
			}
		}
	}
	return ""
}
