package report

import (
	"bytes"
	"cmp"
	"encoding/json"
	"fmt"
	"io"
	"strings"

	"dicaxon/internal/check"
	"dicaxon/internal/finding"
	"dicaxon/internal/tree"
)

// findingsJSON is the form of a check's answer for programs.
type findingsJSON struct {
	Schema   string          `json:"schema"`
	Root     string          `json:"root"`
	Projects []projectJSON   `json:"projects"`
	Totals   finding.Totals  `json:"totals"`
	Known    int             `json:"known,omitempty"` // there before, in the revision compared with
	Accepted int             `json:"accepted,omitempty"`
	Gone     int             `json:"gone,omitempty"`
	Waived   int             `json:"waived,omitempty"`
	Troubles []troubleInJSON `json:"troubles,omitempty"`
}

type projectJSON struct {
	At       string            `json:"at"`
	Layout   string            `json:"layout"`
	Evidence []string          `json:"evidence,omitempty"`
	Files    int               `json:"files"`
	Folders  int               `json:"folders"`
	Findings []finding.Finding `json:"findings"`
}

type troubleInJSON struct {
	Path    string `json:"path"`
	Message string `json:"message"`
}

// JSON writes any value, indented, as the answer of a command.
func JSON(out io.Writer, value any) error {
	e := json.NewEncoder(out)
	e.SetEscapeHTML(false)
	e.SetIndent("", "  ")
	return e.Encode(value)
}

// marshal gives a value as JSON whose texts are not changed for HTML.
func marshal(value any) ([]byte, error) {
	var b bytes.Buffer
	e := json.NewEncoder(&b)
	e.SetEscapeHTML(false)
	err := e.Encode(value)
	return bytes.TrimSpace(b.Bytes()), err
}

// CheckJSON writes a check's findings for programs.
func CheckJSON(out io.Writer, r *check.Report) error {
	answer := findingsJSON{Schema: "dicaxon.findings/1", Root: tree.Printable(r.Root), Totals: r.Totals, Projects: []projectJSON{},
		Known: r.Known, Accepted: r.Accepted, Gone: r.Gone, Waived: r.Waived}
	for _, p := range r.Projects {
		all := make([]finding.Finding, len(p.Match.Findings))
		for i, f := range p.Match.Findings {
			all[i] = printable(f)
		}
		answer.Projects = append(answer.Projects, projectJSON{p.At, p.Layout.Name, p.Evidence, p.Match.Files, p.Match.Folders, all})
	}
	for _, t := range r.Troubles {
		answer.Troubles = append(answer.Troubles, troubleInJSON{tree.Printable(t.Path), t.Error()})
	}
	return JSON(out, answer)
}

// printable makes the names from the disk in a finding fit to be shown.
func printable(f finding.Finding) finding.Finding {
	f.Path, f.Home, f.Message = tree.Printable(f.Path), tree.Printable(f.Home), tree.Printable(f.Message)
	var homes []string
	for _, h := range f.Homes {
		homes = append(homes, tree.Printable(h))
	}
	f.Homes = homes
	if f.Other != nil {
		f.Other = &finding.Place{Path: tree.Printable(f.Other.Path), Line: f.Other.Line}
	}
	return f
}

// The columns of a finding: its level, its kind, and what it is about.
const (
	kindColumn = 9
	pathColumn = kindColumn + 13
	// Below this width the path gets a line of its own.
	narrow = 70
)

// Check writes a check's findings for people, at most so many of each project;
// 0 for all.
func (p *Page) Check(r *check.Report, most int) {
	for i, project := range r.Projects {
		if i > 0 {
			p.printf("\n")
		}
		p.project(&project)
		for k, f := range project.Match.Findings {
			if most > 0 && k == most {
				p.printf("%s more are not shown; --most 0 shows all\n", grouped(len(project.Match.Findings)-most))
				break
			}
			p.finding(printable(f))
		}
	}
	p.printf("\n%s\n", p.totals(r))
	if left := leftOut(r); left != "" {
		p.wrap(0, faint, left)
	}
}

// leftOut says what was found and is not told.
func leftOut(r *check.Report) string {
	var parts []string
	if r.Known > 0 {
		parts = append(parts, count(r.Known, "finding")+" there before")
	}
	if r.Accepted > 0 {
		parts = append(parts, grouped(r.Accepted)+" accepted")
	}
	if r.Waived > 0 {
		parts = append(parts, grouped(r.Waived)+" waived")
	}
	said := ""
	if len(parts) > 0 {
		said = "Not told: " + strings.Join(parts, ", ") + "."
	}
	if r.Gone > 0 {
		said += fmt.Sprintf(" Of those accepted, %s gone; dicaxon check --accept forgets them.", grouped(r.Gone)+" "+be(r.Gone))
	}
	return strings.TrimSpace(said)
}

func (p *Page) project(project *check.Project) {
	at := project.At
	if at != "." {
		at += "/"
	}
	p.printf("%s  %s  %s in %s\n", p.in(path, tree.Printable(at)), p.in(strong, project.Layout.Name),
		count(project.Match.Files, "file"), count(project.Match.Folders, "folder"))
	if len(project.Evidence) > 0 {
		why := "chosen since " + strings.Join(project.Evidence, "; ")
		if len(project.Close) > 0 {
			why += "; nearly as good: " + strings.Join(project.Close, ", ") + " (--layout settles it)"
		}
		p.wrap(0, faint, tree.Printable(why))
	}
	if len(project.Match.Findings) > 0 {
		p.printf("\n")
	}
}

func (p *Page) finding(f finding.Finding) {
	level, kind := f.Level.String(), string(f.Kind)
	at := place(f.Path, f.Line)
	p.printf("%s%s", p.in(toneOf(f.Level), level), strings.Repeat(" ", kindColumn-len(level)))
	column := pathColumn
	if p.Width < narrow {
		column = kindColumn
		p.printf("%s\n%s%s\n", kind, strings.Repeat(" ", column), p.in(path, at))
	} else {
		p.printf("%s%s%s\n", kind, strings.Repeat(" ", column-kindColumn-len(kind)), p.in(path, at))
	}
	homes := f.Homes
	if f.Home != "" {
		homes = []string{f.Home}
	}
	for _, home := range homes {
		p.printf("%s%s %s\n", strings.Repeat(" ", column), p.arrow(), p.in(path, home))
	}
	p.printf("%s", strings.Repeat(" ", column))
	p.wrap(column, faint, sentence(f))
	if f.Other != nil && f.Other.Line > 0 {
		p.printf("%s%s\n", strings.Repeat(" ", column), p.in(faint, "see "+place(f.Other.Path, f.Other.Line)))
	}
}

// place writes a path with a line, the project's own folder by its dot.
func place(path string, line int) string {
	path = cmp.Or(path, "./")
	if line > 0 {
		return fmt.Sprintf("%s:%d", path, line)
	}
	return path
}

// sentence joins what is wrong with what the layout says of the place.
func sentence(f finding.Finding) string {
	if f.Home != "" && f.Kind == finding.Misplaced && strings.HasPrefix(f.Message, "belongs in") {
		return f.Why
	}
	if f.Why == "" {
		return f.Message
	}
	return f.Message + ": " + f.Why
}

func (p *Page) totals(r *check.Report) string {
	var parts []string
	for _, t := range []struct {
		n    int
		one  string
		tone tone
	}{{r.Totals.Error, "error", bad}, {r.Totals.Warning, "warning", odd}, {r.Totals.Note, "note", faint}} {
		if t.n > 0 {
			parts = append(parts, p.in(t.tone, count(t.n, t.one)))
		}
	}
	if len(parts) == 0 && r.Known+r.Accepted+r.Waived > 0 {
		return p.in(fine, "Nothing new is out of place.")
	}
	if len(parts) == 0 {
		return p.in(fine, "Everything is in its place.")
	}
	return strings.Join(parts, ", ")
}

// Accepted says that findings were written into the file of accepted ones.
func (p *Page) Accepted(n int) {
	p.printf("%s %s accepted from now on, in %s.\n", count(n, "finding"), be(n), check.AcceptedName)
}

// be gives the verb for so many.
func be(n int) string {
	if n == 1 {
		return "is"
	}
	return "are"
}
