package explain

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/placement"
	"dicaxon/internal/tree"
	"dicaxon/internal/workspace"
)

// A Line is one line of an annotated tree.
type Line struct {
	Name    string   `json:"name"`
	Role    string   `json:"role"`
	Finding bool     `json:"finding,omitempty"` // Role says what check found
	MadeBy  string   `json:"madeBy,omitempty"`  // a program; empty for a person
	Git     string   `json:"git,omitempty"`
	Also    []string `json:"also,omitempty"` // other spellings that are accepted
	Below   []Line   `json:"below,omitempty"`
}

// How many nodes of one pattern, and how many that no entry names, are shown
// before the rest is counted.
const (
	alike   = 4
	unnamed = 20
)

// Tree gives the annotated tree of a project, so many folders deep; 0 for all.
func Tree(w *workspace.Workspace, p *workspace.Project, depth int) []Line {
	t := &treeMaker{project: p, usual: usual(), depth: depth, findings: map[string]finding.Finding{}}
	for _, f := range p.Findings {
		if before, told := t.findings[f.Path]; !told || f.Level < before.Level {
			t.findings[f.Path] = f // of several the gravest
		}
	}
	return t.lines(p.Folder, 1)
}

type treeMaker struct {
	project  *workspace.Project
	usual    *layout.Scope
	depth    int
	findings map[string]finding.Finding
}

func (t *treeMaker) lines(f *tree.Folder, level int) []Line {
	shown, more := map[*layout.Entry]int{}, map[*layout.Entry]int{}
	var folders, files []Line
	for i := range f.Nodes {
		n := &f.Nodes[i]
		place := t.project.Placement.Place(f, i)
		// Nodes without an entry of their own are counted under nil.
		if e, most := countedAs(place); most > 0 {
			if shown[e]++; shown[e] > most {
				more[e]++
				continue
			}
		}
		line := t.line(f, n, place)
		if n.Folder == nil {
			files = append(files, line)
			continue
		}
		switch {
		case n.Folder.Unread || place.State == placement.Unplaced || place.State == placement.Apart:
		case t.depth > 0 && level >= t.depth:
		case place.State == placement.Placed && len(place.Entry.Entries) == 0, place.State == placement.Common:
		default:
			line.Below = t.lines(n.Folder, level+1)
		}
		folders = append(folders, line)
	}
	lines := append(folders, files...)
	for i := range f.Nodes {
		e, _ := countedAs(t.project.Placement.Place(f, i))
		switch {
		case more[e] == 0:
			continue
		case e == nil:
			lines = append(lines, Line{Name: fmt.Sprintf("… %d more", more[e]), Role: "that no entry names"})
		default:
			lines = append(lines, Line{Name: fmt.Sprintf("… %d more %s", more[e], e.Label()), Role: e.Role})
		}
		more[e] = 0
	}
	return lines
}

// countedAs gives what a node is counted as and how many of that are shown; 0
// where it has a name of its own.
func countedAs(place placement.Place) (e *layout.Entry, most int) {
	switch {
	case place.State != placement.Placed && place.State != placement.Common:
		return nil, unnamed
	case place.State == placement.Placed && place.Entry.Spellings[0].Exact == "":
		return place.Entry, alike
	}
	return nil, 0
}

// said gives what check says of a node, in short.
func (t *treeMaker) said(f *tree.Folder, n *tree.Node) string {
	at := f.Path() + n.Name
	if n.Folder != nil {
		at += "/"
	}
	said, ok := t.findings[at]
	switch {
	case !ok:
		return ""
	case said.Home != "":
		return fmt.Sprintf("%s: belongs at %s", said.Kind, tree.Printable(said.Home))
	}
	// The tree says what is wrong; check says what to do about it.
	message, _, _ := strings.Cut(tree.Printable(said.Message), "; ")
	if strings.HasPrefix(message, string(said.Kind)) {
		return message
	}
	return fmt.Sprintf("%s: %s", said.Kind, message)
}

func (t *treeMaker) line(f *tree.Folder, n *tree.Node, place placement.Place) Line {
	line := Line{Name: tree.Printable(n.Name)}
	e := place.Entry
	if place.State == placement.Free || place.State == placement.Hidden {
		e = t.project.Placement.CommonName(n.Name, f, n.Folder != nil)
	}
	astray := place.State == placement.Unplaced || place.State == placement.Below
	said := t.said(f, n)
	switch {
	case astray && said != "":
		line.Role, line.Finding = said, true
	case place.State == placement.Apart:
		line.Role = "A project of its own."
	case e != nil && !astray:
		line.Role, line.MadeBy, line.Git = e.Role, e.MadeBy, e.Git
		if said != "" {
			line.Role, line.Finding, line.MadeBy, line.Git = e.Role+" — "+said, true, "", ""
		}
	default:
		if usual := t.usual.Find(n.Name, n.Folder != nil); usual != nil {
			line.Role = usual.Role
		}
	}
	if n.Folder != nil {
		line.Name += "/"
	}
	return line
}

// weight orders entries for a reader: what must be there first.
func weight(n layout.Need) int {
	return [...]int{layout.Must: 0, layout.Should: 1, layout.May: 2, layout.ShouldNot: 3, layout.MustNot: 4}[n]
}

// Layout gives the tree of a layout itself, with needs before the roles and
// folders before files.
func Layout(l *layout.Layout) []Line { return entryLines(l.Root) }

func entryLines(e *layout.Entry) []Line {
	var folders, files []Line
	sorted := slices.Clone(e.Entries)
	slices.SortStableFunc(sorted, func(a, b *layout.Entry) int { return cmp.Compare(weight(a.Need), weight(b.Need)) })
	for _, c := range sorted {
		line := Line{Name: c.Label(), Role: c.Need.String() + ": " + c.Role, MadeBy: c.MadeBy, Git: c.Git, Below: entryLines(c)}
		for _, other := range c.Spellings[1:] {
			if text, _ := other.Fill(nil); text != strings.TrimSuffix(line.Name, "/") {
				line.Also = append(line.Also, text)
			}
		}
		if c.Folder {
			folders = append(folders, line)
		} else {
			files = append(files, line)
		}
	}
	return append(folders, files...)
}
