// Package scaffoldtest makes projects from the starters of layouts, for tests.
package scaffoldtest

import (
	"path/filepath"
	"testing"

	"dicaxon/internal/catalogue"
	"dicaxon/internal/layout"
	"dicaxon/internal/scaffold"
)

// Plan gives a built-in layout with the plan of a project that follows it.
func Plan(t testing.TB, name string, answers map[string]string) (*layout.Layout, *scaffold.Plan) {
	t.Helper()
	l, err := catalogue.Catalogue{}.Layout(name)
	if err != nil {
		t.Fatal(err)
	}
	plan, err := scaffold.Make(l, answers)
	if err != nil {
		t.Fatal(err)
	}
	return l, plan
}

// Write writes a plan into a new folder, and gives its path.
func Write(t testing.TB, plan *scaffold.Plan) string {
	t.Helper()
	root := filepath.Join(t.TempDir(), "new")
	if err := plan.Write(t.Context(), root, false); err != nil {
		t.Fatal(err)
	}
	return root
}
