package app_test

import (
	"slices"
	"strings"
	"testing"

	"dicaxon/internal/app"
	"dicaxon/internal/changes"
	"dicaxon/internal/finding"
	"dicaxon/internal/scaffoldtest"
	"dicaxon/internal/treetest"
)

// TestUnitsRenamed gives units other names: what else is called after one goes with it, whoever names it follows, no
// reference leads nowhere that led somewhere, and undo gives all back.
func TestUnitsRenamed(t *testing.T) {
	t.Parallel()
	_, areas := scaffoldtest.Plan(t, "flask/areas", map[string]string{"area": "tides,crews"})
	_, routers := scaffoldtest.Plan(t, "fastapi/areas", map[string]string{"area": "tides,crews"})
	for _, c := range []struct {
		layout, root, from, to string
		moves                  []string
	}{
		{"flask/areas", scaffoldtest.Write(t, areas), "app/tides", "app/moons", []string{"app/tides/ > app/moons/", "app/tides/templates/tides/ > app/moons/templates/moons/", "tests/test_tides.py > tests/test_moons.py"}},
		{"fastapi/areas", scaffoldtest.Write(t, routers), "app/tides", "app/crews/tides", []string{"app/tides/ > app/crews/tides/"}}, // no other name of the unit
		{"fastapi/areas", scaffoldtest.Write(t, routers), "app/tides", "app/zone/tides", []string{"app/tides/ > app/zone/tides/"}},
		{"fastapi/areas", scaffoldtest.Write(t, routers), "app/tides", "app/moons", []string{"app/tides/ > app/moons/", "tests/test_tides.py > tests/test_moons.py"}},
		{"hanami/slices", treetest.Make(t, readExample(t, "../catalogue/layouts/hanami/slices/examples/desk.txtar").files), "slices/desk", "slices/tickets", []string{"config/slices/desk.rb > config/slices/tickets.rb", "slices/desk/ > slices/tickets/", "spec/slices/desk/ > spec/slices/tickets/"}},
	} {
		original, lost, errors := texts(t, c.root), dangling(t, c.root, c.layout), errorsOf(t, c.root, c.layout)
		o := app.RealignOptions{Options: app.Options{Layout: c.layout}, Least: finding.Warning, Moves: []changes.Move{{From: c.from, To: c.to}}}
		r, err := app.Realign(t.Context(), c.root, o)
		if err != nil {
			t.Fatal(err)
		}
		if moves := movesOf(r); !slices.Equal(moves, c.moves) {
			t.Errorf("%s: moves %q", c.layout, moves)
		}
		if _, err := r.Plan.Plan.Write(t.Context(), c.root, realigning); err != nil {
			t.Fatal(err)
		}
		if !strings.HasSuffix(c.to, "/tides") && (dangling(t, c.root, c.layout) > lost || errorsOf(t, c.root, c.layout) > errors) {
			t.Errorf("%s: something leads nowhere, or is wrong", c.layout)
		}
		if _, err := changes.Undo(t.Context(), c.root, false); err != nil {
			t.Error(err)
		}
		if d := difference(original, texts(t, c.root)); d != "" {
			t.Errorf("%s: undone, it differs:\n%s", c.layout, d)
		}
	}
}
