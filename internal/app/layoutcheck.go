package app

import (
	"context"
	"fmt"
	"maps"
	"path/filepath"
	"slices"
	"strings"

	"dicaxon/internal/catalogue"
	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/names"
	"dicaxon/internal/rules"
	"dicaxon/internal/scaffold"
	"dicaxon/internal/source"
	"dicaxon/internal/tree"
	"dicaxon/internal/workspace"
)

// A LayoutReport is what an examination of a layout found: that it is in order.
type LayoutReport struct {
	Layout   *layout.Layout
	Starters int
	Tried    int // projects that were made in memory and checked
}

// CheckLayout examines the layout in a folder: its text, its rules against its
// entries, and the projects that it starts, which are made in memory with its default
// answers and with others, and checked. The error holds every mistake: a *source.Error
// where it has a place.
func CheckLayout(ctx context.Context, folder string) (*LayoutReport, error) {
	full, err := filepath.Abs(folder)
	if err != nil {
		return nil, err
	}
	from, name := catalogue.Catalogue{Dir: filepath.Dir(full)}, "./"+filepath.Base(full)
	l, mistakes := layout.Examine(from, name)
	if l == nil {
		return nil, source.Join(mistakes)
	}
	common, err := from.Commonplace()
	if err != nil {
		return nil, err
	}
	if _, err := rules.Compile(l, common); err != nil {
		mistakes = append(mistakes, err)
	}
	mistakes = append(mistakes, l.Shadowed()...)
	r := &LayoutReport{Layout: l}
	for _, e := range l.Entries {
		if e.Starter != "" {
			r.Starters++
		}
	}
	if mistakes == nil && r.Starters > 0 && !l.Base {
		for _, answers := range trials(l) {
			r.Tried++
			mistakes = append(mistakes, try(ctx, from.Dir, name, l, answers)...)
		}
	}
	return r, source.Join(mistakes)
}

var trialWords = []string{"tide tables", "berth plans", "crew lists", "sailing days", "cargo manifests"}

// trials gives the answers of each project that is made for trial: none, so that the
// defaults hold; names of two words; and several where several can be named.
func trials(l *layout.Layout) []map[string]string {
	longer, more := map[string]string{}, map[string]string{}
	for i := range l.Asks {
		a := &l.Asks[i]
		if a.Shape == "" || a.Shape.Own() || a.Shape == names.Digits || a.Shape == names.Date {
			continue
		}
		if word := names.To(a.Shape, trialWords[i%len(trialWords)]); a.Check(word) == nil {
			longer[a.Name] = word
			if a.Several && word != a.Default {
				more[a.Name] = a.Default + ", " + word
			}
		}
	}
	all := []map[string]string{nil}
	for _, answers := range []map[string]string{longer, more} {
		if len(answers) > 0 {
			all = append(all, answers)
		}
	}
	return all
}

// try makes a project in memory and checks it; what it finds wrong is the layout's
// mistake. What the layout wants and gives no starter for may be absent.
func try(ctx context.Context, dir, name string, l *layout.Layout, answers map[string]string) []error {
	with := answersSaid(answers)
	plan, err := scaffold.Make(l, answers)
	if err != nil {
		return []error{callf("it starts no project%s: %v", with, err)}
	}
	texts := map[string][]byte{}
	var files []tree.Recorded
	for _, item := range plan.Items {
		if !strings.HasSuffix(item.Path, "/") {
			texts[item.Path] = item.Text
			files = append(files, tree.Recorded{Path: item.Path, Kind: tree.File})
		}
	}
	nowhere := filepath.Join(dir, "in memory") // not around the layout itself, which is no part of the project
	w, err := workspace.Open(ctx, nowhere, workspace.Options{Layout: name, Dir: dir, Made: func(watch func(string) bool) *tree.Repository {
		return tree.FromRecord(nowhere, files, watch, func(at string) ([]byte, error) {
			if text, ok := texts[at]; ok {
				return text, nil
			}
			return nil, fmt.Errorf("%s is not made", at)
		})
	}})
	if err != nil {
		return []error{err}
	}
	var all []error
	for _, p := range w.Projects {
		if err := find(ctx, w, p, rules.Facts{}, nil); err != nil {
			return []error{err}
		}
		for _, f := range p.Findings {
			if f.Level != finding.Note && f.Kind != finding.Missing && f.Kind != finding.Leftover {
				all = append(all, callf("what it starts%s does not pass its own check: %s: %s", with, f.Path, f.Message))
			}
		}
	}
	return all
}

func callf(format string, args ...any) error {
	return workspace.CallError(fmt.Sprintf(format, args...))
}

// answersSaid names answers in the middle of a sentence.
func answersSaid(answers map[string]string) string {
	var said []string
	for _, name := range slices.Sorted(maps.Keys(answers)) {
		said = append(said, name+"="+answers[name])
	}
	if said == nil {
		return ""
	}
	return " with " + strings.Join(said, " ")
}
