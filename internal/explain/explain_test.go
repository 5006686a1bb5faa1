package explain_test

import (
	"context"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"dicaxon/internal/app"
	"dicaxon/internal/catalogue"
	"dicaxon/internal/explain"
	"dicaxon/internal/layout"
	"dicaxon/internal/scaffoldtest"
)

// TestEveryScaffoldIsExplained asks about every file and folder of every
// layout's scaffold.
func TestEveryScaffoldIsExplained(t *testing.T) {
	for _, name := range (catalogue.Catalogue{}).Names() {
		l, err := catalogue.Catalogue{}.Layout(name)
		if err != nil {
			t.Fatal(err)
		}
		if l.Base {
			continue
		}
		_, plan := scaffoldtest.Plan(t, name, nil)
		root := scaffoldtest.Write(t, plan)
		r, err := app.Check(context.Background(), root, app.Options{Layout: name})
		if err != nil {
			t.Fatal(err)
		}
		for _, item := range plan.Items {
			a := explain.Path(r.Workspace, item.Path)
			if !a.There || !a.Described || len(a.Role) < 10 || strings.EqualFold(a.Role, filepath.Base(item.Path)) || a.MadeBy == "" {
				t.Errorf("%s: %s: %+v", name, item.Path, a)
			}
			if a.Path != item.Path {
				t.Errorf("%s is answered as %s", item.Path, a.Path)
			}
		}
		if lines := explain.Tree(r.Workspace, r.Projects[0], 0); len(lines) < 4 {
			t.Errorf("%s: a tree of %d lines", name, len(lines))
		}
	}
}

// TestCommonplaceIsWhole holds every commonplace name to what explain tells.
func TestCommonplaceIsWhole(t *testing.T) {
	places, err := catalogue.Catalogue{}.Commonplace()
	if err != nil {
		t.Fatal(err)
	}
	// Some projects commit these, others ignore them, each for a reason.
	either := []string{"go.work", "go.work.sum", ".vscode", "compose.override.yaml", ".envrc", ".env.development"}
	names := 0
	for _, e := range places.Root.Entries {
		names += len(e.Spellings)
		if len(e.Role) < 10 || e.Git == "" && !slices.Contains(either, e.Spellings[0].Text) || !strings.HasSuffix(e.Role, ".") {
			t.Errorf("%s: role %q, git %q", e.Key, e.Role, e.Git)
		}
		if e.Need != layout.May || strings.HasSuffix(e.MadeBy, ".") {
			t.Errorf("%s: need %s, made by %q", e.Key, e.Need, e.MadeBy)
		}
	}
	t.Logf("%d entries, %d names", len(places.Root.Entries), names)
}
