package output

import (
	"fmt"
	"io"

	"dicaxon/internal/app"
	"dicaxon/internal/catalogue"
	"dicaxon/internal/compare"
	"dicaxon/internal/explain"
	"dicaxon/internal/layout"
	"dicaxon/internal/tree"
	"dicaxon/internal/workspace"
)

// The forms of answers for programs, each with the name of its schema. Fields are
// added, never changed: a form that must change gets another number.

type explanationsForm struct {
	Schema   string           `json:"schema"`
	Paths    []explain.Answer `json:"paths"`
	Troubles []troubleInJSON  `json:"troubles,omitempty"`
}

// ExplanationsJSON writes the explanations of paths for programs.
func ExplanationsJSON(out io.Writer, answers []explain.Answer, unread []tree.Trouble) error {
	return JSON(out, explanationsForm{"dicaxon.explanations/1", answers, troublesInJSON(unread)})
}

type treesForm struct {
	Schema   string          `json:"schema"`
	Root     string          `json:"root"`
	Projects []treeForm      `json:"projects"`
	Troubles []troubleInJSON `json:"troubles,omitempty"`
}

type treeForm struct {
	At     string         `json:"at"`
	Layout *string        `json:"layout"` // null where none is known
	Tree   []explain.Line `json:"tree"`
}

// TreesJSON writes annotated trees for programs.
func TreesJSON(out io.Writer, r *app.Report, trees [][]explain.Line) error {
	w := r.Workspace
	form := treesForm{Schema: "dicaxon.trees/1", Root: tree.Printable(w.Root), Troubles: troublesInJSON(r.Troubles)}
	for i, p := range w.Projects {
		form.Projects = append(form.Projects, treeForm{tree.Printable(p.At), layoutName(p), trees[i]})
	}
	return JSON(out, form)
}

// layoutName gives the layout of a project, nil where none is known.
func layoutName(p *workspace.Project) *string {
	if !p.Known() {
		return nil
	}
	return &p.Layout.Name
}

type rootsForm struct {
	Schema   string          `json:"schema"`
	Root     string          `json:"root"`
	Projects []rootForm      `json:"projects"`
	Troubles []troubleInJSON `json:"troubles,omitempty"`
}

type rootForm struct {
	At        string          `json:"at"`
	Best      *candidateForm  `json:"best"`
	Others    []candidateForm `json:"others"`
	Close     []string        `json:"close,omitempty"`
	Framework string          `json:"framework,omitempty"`
}

type candidateForm struct {
	Layout   string   `json:"layout"`
	Score    float64  `json:"score"`
	Evidence []string `json:"evidence"`
}

// IdentifyJSON writes which layouts projects follow, for programs.
func IdentifyJSON(out io.Writer, found *app.Identified) error {
	form := rootsForm{Schema: "dicaxon.projects/1", Root: tree.Printable(found.Root), Projects: []rootForm{}, Troubles: troublesInJSON(found.Troubles)}
	for _, r := range found.Roots {
		f := rootForm{At: tree.Printable(r.At), Others: []candidateForm{}, Close: r.Close, Framework: r.Framework}
		if r.Best != nil {
			f.Best = &candidateForm{r.Best.Layout, r.Best.Score, r.Best.Evidence}
		}
		for _, o := range r.Others {
			f.Others = append(f.Others, candidateForm{o.Layout, o.Score, o.Evidence})
		}
		form.Projects = append(form.Projects, f)
	}
	return JSON(out, form)
}

type layoutsForm struct {
	Schema  string              `json:"schema"`
	Layouts []catalogue.Summary `json:"layouts"`
}

// LayoutsJSON writes the list of layouts for programs.
func LayoutsJSON(out io.Writer, all []catalogue.Summary) error {
	return JSON(out, layoutsForm{"dicaxon.layouts/1", all})
}

type layoutForm struct {
	Schema string            `json:"schema"`
	Layout catalogue.Summary `json:"layout"`
	Tree   []explain.Line    `json:"tree"`
}

// LayoutJSON writes one layout with its tree for programs.
func LayoutJSON(out io.Writer, l *layout.Layout, lines []explain.Line) error {
	return JSON(out, layoutForm{"dicaxon.layout/1", catalogue.Summarise(l), lines})
}

type layoutCheckForm struct {
	Schema   string `json:"schema"`
	Layout   string `json:"layout"`
	Entries  int    `json:"entries"`
	Starters int    `json:"starters"`
	Rules    int    `json:"rules"`
	Tried    int    `json:"tried"`
}

// LayoutCheckJSON writes that a layout is in order, for programs.
func LayoutCheckJSON(out io.Writer, r *app.LayoutReport) error {
	return JSON(out, layoutCheckForm{"dicaxon.layout-check/1", r.Layout.Name, len(r.Layout.Entries) - 1, r.Starters, len(r.Layout.Rules), r.Tried})
}

// LayoutChecked writes that a layout is in order, for people.
func LayoutChecked(out io.Writer, r *app.LayoutReport) {
	fmt.Fprintf(out, "%s is in order: %s, %s, %s.\n", r.Layout.Name, count(len(r.Layout.Entries)-1, "entry"), count(r.Starters, "starter"), count(len(r.Layout.Rules), "rule"))
	switch {
	case r.Tried == 1:
		fmt.Fprintln(out, "1 project, made in memory, passes its check.")
	case r.Tried > 1:
		fmt.Fprintf(out, "%s, made in memory, pass its check.\n", count(r.Tried, "project"))
	}
}

type rulesForm struct {
	Schema string     `json:"schema"`
	Rules  []RuleLine `json:"rules"`
}

// RulesJSON writes the list of rules for programs.
func RulesJSON(out io.Writer) error { return JSON(out, rulesForm{"dicaxon.rules/1", RuleLines()}) }

type comparisonForm struct {
	Schema string `json:"schema"`
	compare.Layouts
}

// CompareJSON writes a comparison of two layouts for programs.
func CompareJSON(out io.Writer, c compare.Layouts) error {
	return JSON(out, comparisonForm{"dicaxon.comparison/1", c})
}

type distanceForm struct {
	Schema string `json:"schema"`
	At     string `json:"at"`
	compare.Distance
	Troubles []troubleInJSON `json:"troubles,omitempty"`
}

// DistanceJSON writes a comparison of a repository and a layout for programs.
func DistanceJSON(out io.Writer, at string, d compare.Distance, unread []tree.Trouble) error {
	return JSON(out, distanceForm{"dicaxon.distance/1", at, d, troublesInJSON(unread)})
}
