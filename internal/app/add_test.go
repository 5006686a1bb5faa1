package app_test

import (
	"fmt"
	"maps"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"dicaxon/internal/app"
	"dicaxon/internal/changes"
	"dicaxon/internal/extend"
	"dicaxon/internal/scaffoldtest"
	"dicaxon/internal/treetest"
)

// TestAddToEveryScaffold adds two units of each kind to a project of each layout: a check
// says no more of it than before, and undo gives back what was there.
func TestAddToEveryScaffold(t *testing.T) {
	t.Parallel()
	added := 0
	for _, name := range slices.Sorted(maps.Keys(treetest.Answers)) {
		_, plan := scaffoldtest.Plan(t, name, treetest.Answers[name])
		root := filepath.Join(t.TempDir(), "ferry")
		if err := plan.Write(t.Context(), root, false); err != nil {
			t.Fatal(err)
		}
		o := app.Options{Layout: name}
		_, kinds, err := app.Units(t.Context(), root, o)
		if err != nil {
			t.Fatal(err)
		}
		for _, k := range kinds {
			for _, called := range []string{"lookouts", "harbour-lights"} {
				before, said := texts(t, root), complaints(t, root, o)
				r, err := app.Add(t.Context(), root, extend.Options{Unit: k.Unit, Name: called}, o)
				if err != nil {
					if !strings.Contains(err.Error(), "no first text") && !strings.Contains(err.Error(), "which ") {
						t.Errorf("%s, %s %s: %v", name, k.Unit, called, err)
					}
					break
				}
				if _, err := r.Plan.Plan.Write(t.Context(), root, changes.Why{Command: "add"}); err != nil {
					t.Fatal(err)
				}
				for what := range complaints(t, root, o) {
					if !said[what] {
						t.Errorf("%s, %s %s: then %s", name, k.Unit, called, what)
					}
				}
				after := texts(t, root)
				if _, err := app.Add(t.Context(), root, extend.Options{Unit: k.Unit, Name: called}, o); err == nil || !strings.Contains(err.Error(), "there already") {
					t.Errorf("%s, %s %s, twice: %v", name, k.Unit, called, err)
				}
				if _, err := changes.Undo(t.Context(), root, false); err != nil {
					t.Fatal(err)
				}
				if d := difference(before, texts(t, root)); d != "" {
					t.Errorf("%s, %s %s, undone:\n%s", name, k.Unit, called, d)
				}
				if _, err := r.Plan.Plan.Write(t.Context(), root, changes.Why{Command: "add"}); err != nil {
					t.Fatal(err)
				}
				if d := difference(after, texts(t, root)); d != "" {
					t.Errorf("%s, %s %s, anew:\n%s", name, k.Unit, called, d)
				}
				added++
			}
		}
	}
	t.Logf("%d units", added)
	if added < 80 {
		t.Errorf("only %d units could be added", added)
	}
}

// complaints gives the errors and warnings of a check.
func complaints(t *testing.T, root string, o app.Options) map[string]bool {
	t.Helper()
	r, err := app.Check(t.Context(), root, o)
	if err != nil {
		t.Fatal(err)
	}
	all := map[string]bool{}
	for _, p := range r.Projects {
		for _, f := range p.Findings {
			if f.Level.String() != "note" {
				all[fmt.Sprintf("%s %s %s: %s", f.Level, f.Kind, f.Path, f.Message)] = true
			}
		}
	}
	return all
}
