package output

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/app"
	"dicaxon/internal/changes"
	"dicaxon/internal/edit"
	"dicaxon/internal/finding"
	"dicaxon/internal/realign"
	"dicaxon/internal/safe"
	"dicaxon/internal/tree"
	"dicaxon/internal/workspace"
)

// planJSON is the form of a plan for programs. What is under "plan" is all that writing it
// later takes.
type planJSON struct {
	Schema  string           `json:"schema"`
	Root    string           `json:"root"`
	Written bool             `json:"written"`
	Groups  []realign.Group  `json:"groups"`
	Left    []realign.Left   `json:"left"`
	Remarks []realign.Remark `json:"remarks"`
	Before  finding.Totals   `json:"before"`
	After   finding.Totals   `json:"after"`
	Plan    changes.Plan     `json:"plan"`
}

// PlanSchema names the form of a plan.
const PlanSchema = "dicaxon.plan/1"

// PlanJSON writes a plan for programs.
func PlanJSON(out io.Writer, r *app.Realignment, written bool) error {
	answer := planJSON{PlanSchema, tree.Printable(r.Root), written, r.Groups, r.Left, r.Remarks, r.Before, r.After, r.Plan.Plan}
	if answer.Groups == nil {
		answer.Groups = []realign.Group{}
	}
	if answer.Left == nil {
		answer.Left = []realign.Left{}
	}
	if answer.Remarks == nil {
		answer.Remarks = []realign.Remark{}
	}
	return JSON(out, answer)
}

// PlanPatch writes a plan as a patch that `git apply` takes.
func PlanPatch(out io.Writer, w *workspace.Workspace, p *changes.Plan) error {
	all, err := app.Changes(w, p)
	if err != nil {
		return err
	}
	return WritePatch(out, all)
}

// ReadPlan reads a plan that PlanJSON wrote to a file.
func ReadPlan(name string) (*changes.Plan, error) {
	text, err := safe.ReadAny(name, safe.Listing)
	if err != nil {
		return nil, err
	}
	var saved struct { // the rest is for people
		Schema string       `json:"schema"`
		Plan   changes.Plan `json:"plan"`
	}
	if err := json.Unmarshal(text, &saved); err != nil {
		return nil, fmt.Errorf("%s is no plan: %w", name, err)
	}
	if saved.Schema != PlanSchema {
		return nil, fmt.Errorf("%s is no plan: its schema is not %s", name, PlanSchema)
	}
	return &saved.Plan, nil
}

// The columns of a plan: what is done, and what to.
const doneColumn = 7

// Plan writes a plan for people: what would be done, what follows, and what is left.
func (p *Page) Plan(r *app.Realignment, written bool) {
	p.printf("%s\n", p.in(strong, planned(r, written)))
	for i, g := range r.Groups {
		p.printf("\n")
		p.group(r, i+1, g)
	}
	p.following(r)
	p.remarks(r.Remarks)
	p.left(r.Left)
}

// planned is the headline of a plan.
func planned(r *app.Realignment, written bool) string {
	switch {
	case len(r.Groups) == 0 && len(r.Left) == 0 && r.Before.Note > 0:
		return fmt.Sprintf("There is nothing to put right but %s; --level note takes them, too.", count(r.Before.Note, "note"))
	case len(r.Groups) == 0 && len(r.Left) == 0:
		return "Everything is in its place: there is nothing to put right."
	case len(r.Groups) == 0 && slices.ContainsFunc(r.Left, asked):
		return fmt.Sprintf("Nothing of it can be done%s.", leftOver(slices.DeleteFunc(slices.Clone(r.Left), asked)))
	case len(r.Groups) == 0:
		return fmt.Sprintf("Nothing here can be put right with certainty%s.", leftOver(r.Left))
	case written:
		return fmt.Sprintf("Done: %s%s.", Sum(&r.Plan.Plan), leftOver(r.Left))
	}
	return fmt.Sprintf("The plan: %s%s.", Sum(&r.Plan.Plan), leftOver(r.Left))
}

// leftOver says how much a plan leaves, as the end of a sentence.
func leftOver(left []realign.Left) string {
	findings := slices.DeleteFunc(slices.Clone(left), asked)
	said := ""
	if n := len(left) - len(findings); n > 0 {
		said = "; " + are(n, "move") + " not done"
	}
	if n := len(findings); n > 0 {
		said += "; " + are(n, "finding") + " left to you"
	}
	return said
}

func asked(l realign.Left) bool { return l.Asked }

func are(n int, what string) string {
	if n == 1 {
		return "1 " + what + " is"
	}
	return count(n, what) + " are"
}

// Sum says in a few words what a plan does.
func Sum(p *changes.Plan) string {
	var parts []string
	if n := len(p.Moves); n > 0 {
		parts = append(parts, count(n, "move"))
	}
	if n := len(p.Makes); n > 0 {
		parts = append(parts, count(n, "new file"))
	}
	if n := len(p.Edits); n > 0 {
		parts = append(parts, count(n, "edit")+" in "+count(len(edit.ByFile(p.Edits)), "file"))
	}
	return strings.Join(parts, ", ")
}

func (p *Page) group(r *app.Realignment, n int, g realign.Group) {
	for _, m := range g.Moves {
		p.act("move", tree.Printable(m.From)+" "+p.arrow()+" "+tree.Printable(m.To))
	}
	for _, m := range g.Makes {
		p.act("make", tree.Printable(m.Path))
	}
	for _, e := range g.Edits {
		p.act("edit", p.edit(r.Workspace, e))
	}
	p.printf("%s", strings.Repeat(" ", doneColumn))
	says := tree.Printable(g.Says)
	if len(g.Moves) == 0 {
		says = tree.Printable(g.Path) + ": " + says
	}
	p.wrap(doneColumn, faint, fmt.Sprintf("%d: %s", n, says))
}

func (p *Page) act(what, text string) {
	p.printf("%s%s%s\n", p.in(strong, what), strings.Repeat(" ", doneColumn-len(what)), p.in(location, text))
}

// edit shows one edit: the place, what stands there, and what will.
func (p *Page) edit(w *workspace.Workspace, e edit.Edit) string {
	at := fmt.Sprintf("%s:%d", tree.Printable(e.Path), e.Line)
	old := standing(w, e)
	shown := func(text string) string {
		text = strings.TrimSpace(text)
		if first, _, more := strings.Cut(text, "\n"); more {
			text = strings.TrimSpace(first) + " …"
		}
		return tree.Printable(text)
	}
	switch {
	case old == "" && !strings.Contains(e.Text, "\n"):
		return at + "  " + shown(lineWith(w, e))
	case old == "":
		return at + "  + " + shown(e.Text)
	case e.Text == "":
		return at + "  - " + shown(old)
	}
	return at + "  " + shown(old) + " " + p.arrow() + " " + shown(e.Text)
}

// standing gives what stands where an edit puts its text.
func standing(w *workspace.Workspace, e edit.Edit) string {
	text, err := w.Repository.Text(e.Path)
	if err != nil || e.Start > e.End || e.End > len(text) {
		return ""
	}
	return string(text[e.Start:e.End])
}

// lineWith gives the line that an edit puts something into, as it is then.
func lineWith(w *workspace.Workspace, e edit.Edit) string {
	text, err := w.Repository.Text(e.Path)
	if err != nil || e.Start > len(text) {
		return e.Text
	}
	start := bytes.LastIndexByte(text[:e.Start], '\n') + 1
	rest, _, _ := strings.Cut(string(text[e.Start:]), "\n")
	return string(text[start:e.Start]) + e.Text + rest
}

// following lists the edits by which references follow.
func (p *Page) following(r *app.Realignment) {
	own := map[edit.Edit]bool{}
	for _, g := range r.Groups {
		for _, e := range g.Edits {
			own[e] = true
		}
	}
	var all []edit.Edit
	for _, e := range r.Edits {
		if !own[e] && strings.TrimSpace(e.Text+standing(r.Workspace, e)) != "" { // blanks are no reference
			all = append(all, e)
		}
	}
	if len(all) == 0 {
		return
	}
	p.printf("\n%s\n", p.in(strong, "References that follow"))
	for _, e := range all {
		p.printf("  %s\n", p.edit(r.Workspace, e))
	}
}

func (p *Page) remarks(all []realign.Remark) {
	if len(all) == 0 {
		return
	}
	p.printf("\n%s\n", p.in(strong, "To be looked at by hand"))
	for _, r := range all {
		p.printf("  %s\n      ", p.in(location, fmt.Sprintf("%s:%d", tree.Printable(r.Path), max(r.Line, 1))))
		p.wrap(6, plain, tree.Printable(r.Says))
	}
}

// mostLeft is how many findings are listed that a plan leaves.
const mostLeft = 20

func (p *Page) left(all []realign.Left) {
	if len(all) == 0 {
		return
	}
	p.printf("\n%s\n", p.in(strong, "Left to you"))
	for i, l := range all {
		if i == mostLeft {
			p.printf("  and %s; dicaxon check tells them all\n", count(len(all)-i, "more finding"))
			break
		}
		at := tree.Printable(l.Path)
		if l.Line > 0 {
			at += fmt.Sprintf(":%d", l.Line)
		}
		what, choose := tree.Printable(l.Path), "choose one"
		if l.Part != "" {
			what, choose = what+"#"+tree.Printable(l.Part), "take it out"
		}
		if l.Asked {
			p.printf("  %s  %s\n", p.in(toneOf(l.Level), "move"), p.in(location, at+" "+p.arrow()+" "+tree.Printable(strings.Join(l.Choices, ", "))))
		} else {
			p.printf("  %s  %s\n      ", p.in(toneOf(l.Level), string(l.Kind)), p.in(location, at))
			p.wrap(6, plain, tree.Printable(l.Says))
		}
		if l.Why != "" {
			p.printf("      ")
			p.wrap(6, faint, "not done: "+tree.Printable(l.Why))
		}
		if l.Why == "" && len(l.Choices) > 0 {
			p.printf("      ")
			p.wrap(6, plain, choose+": dicaxon realign --map "+what+"="+tree.Printable(strings.Join(l.Choices, ", or ")))
		}
	}
}

// recordsJSON is the form of what can be taken back.
type recordsJSON struct {
	Schema  string       `json:"schema"`
	Root    string       `json:"root"`
	Records []recordJSON `json:"records"`
}

type recordJSON struct {
	Time    string `json:"time"`
	Command string `json:"command"`
	Summary string `json:"summary"`
}

// RecordsJSON writes what can be taken back, the last first, for programs.
func RecordsJSON(out io.Writer, root string, all []*changes.Record) error {
	answer := recordsJSON{"dicaxon.undo/1", tree.Printable(root), []recordJSON{}}
	for _, r := range all {
		answer.Records = append(answer.Records, recordJSON{r.Time.UTC().Format("2006-01-02T15:04:05Z"), tree.Printable(r.Command), tree.Printable(r.Summary)})
	}
	return JSON(out, answer)
}

// Records lists what can be taken back, the last first.
func (p *Page) Records(root string, all []*changes.Record) {
	if len(all) == 0 {
		p.printf("Nothing that dicaxon wrote in %s can be taken back.\n", tree.Printable(path.Base(root)))
		return
	}
	for _, r := range all {
		p.printf("%s  %s\n", p.in(faint, r.Time.Local().Format("2006-01-02 15:04")), p.in(strong, tree.Printable(r.Command)))
		p.printf("%s", strings.Repeat(" ", 18))
		p.wrap(18, plain, tree.Printable(r.Summary))
	}
	p.printf("\n`dicaxon undo` takes back the first of them.\n")
}
