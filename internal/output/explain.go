package output

import (
	"strings"

	"github.com/rivo/uniseg"

	"dicaxon/internal/explain"
	"dicaxon/internal/tree"
	"dicaxon/internal/workspace"
)

// The column in which an answer's texts begin.
const factColumn = 11

// Answer writes the explanation of one path for people.
func (p *Page) Answer(a *explain.Answer) {
	p.printf("%s", p.in(location, tree.Printable(orHere(a.Path))))
	switch {
	case a.Inside != "":
		if !a.There {
			p.printf("%s", p.in(faint, "  not there"))
		}
		p.printf("\n")
		p.fact("inside", orHere(a.Inside))
		if a.Role != "" {
			p.fact("role", a.Role)
		}
		if a.Layout == "" {
			p.fact("says", "no layout that is known says anything about it")
		} else {
			p.fact("says", a.Layout+" says nothing more about it")
		}
		return
	case !a.There:
		p.printf("%s", p.in(faint, "  not there yet"))
	}
	if a.Unit != "" {
		p.printf("  %s", a.Unit)
	}
	p.printf("\n")
	if a.Role != "" {
		p.fact("role", a.Role)
	}
	if !a.Described && a.Role == "" {
		p.fact("role", "unknown: neither "+a.Layout+" nor the commonplace names describe it")
	}
	if a.Described && a.Path != "" {
		p.fact("made by", a.MadeBy)
		p.fact("git", gitWords[a.Git])
	}
	for i, b := range a.Belongs {
		p.belonging(i, b)
	}
	for i, nh := range a.NotHere {
		label := ""
		if i == 0 {
			label = "not here"
		}
		p.fact(label, nh.What+" "+p.arrow()+" "+nh.GoesTo)
	}
	for _, f := range a.Findings {
		f = printable(f)
		text := string(f.Kind) + ": " + f.Message
		if f.Home != "" {
			text = string(f.Kind) + ": belongs at " + f.Home
		}
		p.fact("check", text)
	}
	if a.Says != "" {
		p.fact("says", a.Says)
	}
}

var gitWords = map[string]string{
	"committed": "commit it",
	"ignored":   "leave it out: an ignore file should name it",
	"either":    "the layout leaves it open",
	"":          "commit it",
}

func orHere(path string) string {
	if path == "" {
		return "./"
	}
	return path
}

func (p *Page) fact(label, text string) {
	p.pair(2, 2+factColumn, label, plain, tree.Printable(text))
}

// belonging writes an entry of a folder, in three columns where they fit.
func (p *Page) belonging(i int, b explain.Belonging) {
	label := ""
	if i == 0 {
		label = "belongs"
	}
	gap := max(1, 24-uniseg.StringWidth(b.Label))
	needTone := plain
	if b.Need == "must" {
		needTone = strong
	}
	p.printf("  %s%s%s%s%s", label, strings.Repeat(" ", factColumn-len(label)), p.in(location, b.Label), strings.Repeat(" ", gap), p.in(needTone, b.Need))
	at := 2 + factColumn + uniseg.StringWidth(b.Label) + gap + len(b.Need)
	if column := 2 + factColumn + 32; p.Width >= 90 && at < column {
		p.printf("%s", strings.Repeat(" ", column-at))
		p.wrap(column, faint, b.Role)
		return
	}
	p.printf("\n%s", strings.Repeat(" ", 4+factColumn))
	p.wrap(4+factColumn, faint, b.Role)
}

// Tree writes the annotated tree of a project.
func (p *Page) Tree(project *workspace.Project, lines []explain.Line) {
	at := "./"
	if project.At != "." {
		at = tree.Printable(project.At) + "/"
	}
	p.DrawTree(at, project.Layout.Name+": "+project.Layout.Title, lines)
}

// DrawTree draws lines below a title.
func (p *Page) DrawTree(at, title string, lines []explain.Line) {
	column := min(max(deepest(lines, 0)+2, uniseg.StringWidth(at)+2), p.Width*45/100)
	p.headed(column, at, plain, title)
	p.branch(lines, "", column)
}

// deepest gives the columns that the names of a tree take.
func deepest(lines []explain.Line, indent int) int {
	most := 0
	for _, l := range lines {
		most = max(most, indent+3+uniseg.StringWidth(l.Name), deepest(l.Below, indent+3))
	}
	return most
}

func (p *Page) branch(lines []explain.Line, prefix string, column int) {
	for i, l := range lines {
		mark, under := p.branches(i == len(lines)-1)
		name, rest := l.Name, prefix+under
		if len(l.Below) == 0 {
			rest = prefix + strings.TrimRight(under, " ")
		}
		p.treeLine(prefix+mark, name, l, rest, column)
		p.branch(l.Below, prefix+under, column)
	}
}

// branches gives what stands before a line of a tree and before those below it.
func (p *Page) branches(last bool) (mark, under string) {
	switch {
	case last && p.ASCII:
		return "`- ", "   "
	case last:
		return "└─ ", "   "
	case p.ASCII:
		return "|- ", "|  "
	}
	return "├─ ", "│  "
}

// treeLine writes one line; under carries the branches on to the lines that a
// long role needs.
func (p *Page) treeLine(branches, name string, l explain.Line, under string, column int) {
	t := plain
	if strings.HasSuffix(name, "/") {
		t = location
	}
	p.printf("%s%s", p.in(faint, branches), p.in(t, name))
	role := l.Role
	if l.MadeBy != "" {
		role += " Made by " + l.MadeBy + "."
	}
	if l.Git == "ignored" {
		role += " Not committed."
	}
	if len(l.Also) > 0 {
		role += " Also: " + strings.Join(l.Also, ", ") + "."
	}
	if role == "" {
		p.printf("\n")
		return
	}
	roleTone := faint
	if l.Finding {
		roleTone = odd
	}
	used := uniseg.StringWidth(branches + name)
	for i, part := range broken(role, max(p.Width-column, 20)) {
		if i > 0 || used+1 > column {
			if i == 0 {
				p.printf("\n")
			}
			used = uniseg.StringWidth(under)
			p.printf("%s", p.in(faint, under))
		}
		p.printf("%s%s\n", strings.Repeat(" ", column-used), p.in(roleTone, part))
	}
}
