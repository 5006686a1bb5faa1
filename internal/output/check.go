package output

import (
	"bytes"
	"cmp"
	"encoding/json"
	"fmt"
	"io"
	"slices"
	"strings"

	"github.com/rivo/uniseg"

	"dicaxon/internal/app"
	"dicaxon/internal/baseline"
	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/tree"
	"dicaxon/internal/workspace"
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
	Filtered int             `json:"filtered,omitempty"`
	Outside  int             `json:"outside,omitempty"`
	Troubles []troubleInJSON `json:"troubles,omitempty"`
}

type projectJSON struct {
	At       string            `json:"at"`
	Layout   *string           `json:"layout"` // null where none that is known fits
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
func CheckJSON(out io.Writer, r *app.Report) error {
	answer := findingsJSON{Schema: "dicaxon.findings/1", Root: tree.Printable(r.Root), Totals: r.Totals, Projects: []projectJSON{},
		Known: r.Known, Accepted: r.Accepted, Gone: r.Gone, Waived: r.Waived, Filtered: r.Filtered, Outside: r.Outside}
	for _, p := range r.Projects {
		all := make([]finding.Finding, len(p.Findings))
		for i, f := range p.Findings {
			all[i] = printable(f)
		}
		answer.Projects = append(answer.Projects, projectJSON{tree.Printable(p.At), layoutName(p), p.Evidence, p.Files, p.Folders, all})
	}
	answer.Troubles = troublesInJSON(r.Troubles)
	return JSON(out, answer)
}

// troublesInJSON gives what could not be read, for programs.
func troublesInJSON(all []tree.Trouble) []troubleInJSON {
	var told []troubleInJSON
	for _, t := range all {
		told = append(told, troubleInJSON{tree.Printable(t.Path), t.Error()})
	}
	return told
}

// printable makes the names from the disk in a finding fit to be shown.
func printable(f finding.Finding) finding.Finding {
	for _, text := range []*string{&f.Path, &f.Home, &f.Message, &f.Why, &f.Entry, &f.About} {
		*text = tree.Printable(*text)
	}
	var homes []string
	for _, h := range f.Homes {
		homes = append(homes, tree.Printable(h))
	}
	f.Homes = homes
	var also []string
	for _, a := range f.Also {
		also = append(also, tree.Printable(a))
	}
	f.Also = also
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

// Check writes a check's findings for people, the gravest first, at most so many
// of each project; 0 for all. Verbose tells as well why a layout was chosen and
// what it says of each place.
func (p *Page) Check(r *app.Report, most int, verbose bool) {
	shown := 0
	for _, project := range r.Projects {
		if !project.Known() && len(project.Findings) == 0 && len(r.Projects) > 1 || r.Within != "" && !project.Has(r.Within) && !inside(project.At, r.Within) {
			continue
		}
		if shown++; shown > 1 {
			p.printf("\n")
		}
		p.project(project, r, verbose)
		for k, f := range gravestFirst(project.Findings) {
			if most > 0 && k == most {
				p.printf("%s more are not shown; --most 0 shows all\n", grouped(len(project.Findings)-most))
				break
			}
			p.finding(printable(f), verbose)
		}
	}
	if shown > 1 {
		p.printf("\nIn all: %s\n", p.totals(r))
	}
	if left := leftOut(r); left != "" {
		p.printf("\n")
		p.wrap(0, faint, left)
	}
	if len(r.Troubles) > 0 {
		var all []string
		for _, t := range r.Troubles {
			all = append(all, cmp.Or(tree.Printable(t.Path), "./"))
		}
		p.printf("\n")
		p.wrap(0, bad, "This is not all: "+listed(all, 3)+" could not be read.")
	}
	if next := nextStep(r); next != "" {
		p.printf("\n")
		p.wrap(0, faint, next)
	}
}

// inside says whether a project lies below a path.
func inside(at, within string) bool { return at == within || strings.HasPrefix(at, within+"/") }

// gravestFirst gives findings by their level, otherwise in their order.
func gravestFirst(all []finding.Finding) []finding.Finding {
	sorted := slices.Clone(all)
	slices.SortStableFunc(sorted, func(a, b finding.Finding) int { return int(a.Level - b.Level) })
	return sorted
}

// leftOut says what was found and is not told.
func leftOut(r *app.Report) string {
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
	if r.Filtered > 0 {
		parts = append(parts, grouped(r.Filtered)+" left out by --only or --skip")
	}
	if r.Outside > 0 {
		parts = append(parts, grouped(r.Outside)+" elsewhere in the repository")
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

// nextStep says how to go on, "" where there is nothing to do.
func nextStep(r *app.Report) string {
	for _, p := range r.Projects {
		for _, f := range gravestFirst(p.Findings) {
			return fmt.Sprintf("Next: `dicaxon realign` shows what can be put right; `dicaxon check --explain %s` says what that means, `dicaxon explain PATH` what a place is for.", f.Kind)
		}
	}
	return ""
}

// project writes the headline of a project: how it stands, as what, how large.
func (p *Page) project(project *workspace.Project, r *app.Report, verbose bool) {
	at := tree.Printable(project.At)
	if at != "." {
		at += "/"
	}
	size := count(project.Files, "file") + " in " + count(project.Folders, "folder")
	name := p.in(strong, project.Layout.Name)
	standing := p.standing(project, r)
	between := "  "
	if p.Width < narrow && uniseg.StringWidth(at+project.Layout.Name+withoutColours(standing)+size)+6 > p.Width {
		between = "\n"
	}
	fmt.Fprintf(p.Out, "%s  %s%s%s%s%s\n", p.in(location, at), name, between, standing, between, p.in(faint, size))
	switch {
	case !project.Known():
		p.wrap(0, faint, unknown(project))
	case verbose && len(project.Evidence) > 0:
		p.wrap(0, faint, tree.Printable("chosen since "+strings.Join(project.Evidence, "; ")+nearlyAsGood(project)))
	case len(project.Evidence) > 0:
		p.wrap(0, faint, tree.Printable("chosen since "+project.Evidence[0]+nearlyAsGood(project)))
	}
	if len(project.Findings) > 0 {
		p.printf("\n")
	}
}

// withoutColours gives a text as wide as it is on a screen.
func withoutColours(text string) string { return colours.Get().ReplaceAllString(text, "") }

var colours = lazy.New(`\x1b[0-9a-f]*\[[0-9;]*m`)

func nearlyAsGood(project *workspace.Project) string {
	if len(project.Close) == 0 {
		return ""
	}
	return "; nearly as good: " + strings.Join(project.Close, ", ") + " (`dicaxon identify --write` settles it)"
}

// unknown says what a project without a layout came near to, and how to go on.
func unknown(project *workspace.Project) string {
	said := "No layout that I know fits, so only what holds in any repository was checked."
	if project.Framework != "" {
		said = "This is " + project.Framework + ", for which there is no layout here in this form, so only what holds in any repository was checked."
	}
	if project.Nearest != nil && len(project.Nearest.Evidence) > 0 {
		said += fmt.Sprintf(" Nearest is %s (%s).", project.Nearest.Layout, strings.Join(project.Nearest.Evidence, ", "))
	}
	if project.Folder.Empty() {
		return "It is empty; `dicaxon scaffold` starts a project in it."
	}
	return said + " --layout names one; `dicaxon layouts` lists them."
}

// standing says how many findings a project has, by level.
func (p *Page) standing(project *workspace.Project, r *app.Report) string {
	var t finding.Totals
	for i := range project.Findings {
		t.Add(project.Findings[i].Level)
	}
	if t == (finding.Totals{}) && !project.Known() && !r.Settlement.Any() {
		return p.in(fine, "nothing amiss was found")
	}
	return p.counted(t, r.Settlement)
}

func (p *Page) finding(f finding.Finding, verbose bool) {
	level, kind := f.Level.String(), string(f.Kind)
	at := withLine(f.Path, f.Line)
	p.printf("%s%s", p.in(toneOf(f.Level), level), strings.Repeat(" ", kindColumn-len(level)))
	column := pathColumn
	if p.Width < narrow {
		column = kindColumn
		p.printf("%s\n%s%s\n", kind, strings.Repeat(" ", column), p.in(location, at))
	} else {
		p.printf("%s%s%s\n", kind, strings.Repeat(" ", column-kindColumn-len(kind)), p.in(location, at))
	}
	for _, home := range f.Places() {
		p.printf("%s%s %s\n", strings.Repeat(" ", column), p.arrow(), p.in(location, home))
	}
	p.printf("%s", strings.Repeat(" ", column))
	p.wrap(column, faint, sentence(f))
	if verbose && f.Rule == "" && f.Why != "" && f.Kind != finding.Missing {
		p.printf("%s", strings.Repeat(" ", column))
		p.wrap(column, faint, "The layout says of that place: "+f.Why)
	}
	if f.Other != nil && f.Other.Line > 0 {
		p.printf("%s%s\n", strings.Repeat(" ", column), p.in(faint, "see "+withLine(f.Other.Path, f.Other.Line)))
	}
}

// withLine writes a path with a line, the project's own folder by its dot.
func withLine(path string, line int) string {
	path = cmp.Or(path, "./")
	if line > 0 {
		return fmt.Sprintf("%s:%d", path, line)
	}
	return path
}

// sentence joins what is wrong with what the layout says of it in its own words,
// and with how many more are like it.
func sentence(f finding.Finding) string {
	said := f.Message
	if f.More > 0 {
		said += fmt.Sprintf(" (and %s more like it: %s)", grouped(f.More), listed(f.Also, 3))
	}
	if f.Rule == "" || f.Why == "" {
		return said
	}
	if strings.HasSuffix(said, "?") {
		return said + " " + f.Why
	}
	return said + ". " + f.Why
}

// listed joins the first of some texts.
func listed(all []string, most int) string {
	if len(all) <= most {
		return strings.Join(all, ", ")
	}
	return strings.Join(all[:most], ", ") + ", …"
}

func (p *Page) totals(r *app.Report) string { return p.counted(r.Totals, r.Settlement) }

// counted writes how many findings there are by level. Where some were left out,
// it does not say that all is well.
func (p *Page) counted(t finding.Totals, s baseline.Settlement) string {
	var parts []string
	for _, t := range []struct {
		n    int
		one  string
		tone tone
	}{{t.Error, "error", bad}, {t.Warning, "warning", odd}, {t.Note, "note", faint}} {
		if t.n > 0 {
			parts = append(parts, p.in(t.tone, count(t.n, t.one)))
		}
	}
	switch {
	case len(parts) > 0:
		return strings.Join(parts, ", ")
	case s.Filtered > 0:
		return p.in(fine, "nothing of the kinds asked for")
	case s.Any():
		return p.in(fine, "nothing new is out of place")
	}
	return p.in(fine, "everything is in its place")
}

// CheckLines writes one line for each finding, as compilers do, for editors and
// other programs that jump to places.
func CheckLines(out io.Writer, r *app.Report) {
	for _, p := range r.Projects {
		for _, f := range p.Findings {
			f = printable(f)
			said := sentence(f)
			if places := f.Places(); len(places) > 0 {
				said += " -> " + strings.Join(places, " or ")
			}
			fmt.Fprintf(out, "%s:%d:%d: %s: %s [%s]\n", cmp.Or(f.Path, "./"), max(f.Line, 1), max(f.Column, 1), f.Level, strings.ReplaceAll(said, "\n", " "), f.Kind)
		}
	}
	for _, t := range r.Troubles {
		fmt.Fprintf(out, "%s:1:1: error: it could not be read, so what is in it was not checked [unread]\n", cmp.Or(tree.Printable(t.Path), "./"))
	}
}

// unread says what could not be read, a sentence each.
func unread(r *app.Report) []string {
	var all []string
	for _, t := range r.Troubles {
		all = append(all, t.Error()+"; what is in it was not checked")
	}
	return all
}

// Accepted says that findings were written into the file of accepted ones.
func (p *Page) Accepted(n int) {
	p.printf("%s %s accepted from now on, in %s.\n", count(n, "finding"), be(n), baseline.AcceptedName)
}

// be gives the verb for so many.
func be(n int) string {
	if n == 1 {
		return "is"
	}
	return "are"
}
