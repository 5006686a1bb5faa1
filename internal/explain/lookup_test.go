package explain_test

import (
	"context"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"dicaxon/internal/app"
	"dicaxon/internal/explain"
	"dicaxon/internal/scaffoldtest"
	"dicaxon/internal/treetest"
)

// TestThereOrNot asks about every file and folder of every layout's scaffold
// twice: while it is there, and once it is gone. The answer is the same but for
// what only its text tells.
func TestThereOrNot(t *testing.T) {
	asked := 0
	for name, answers := range treetest.Answers {
		_, plan := scaffoldtest.Plan(t, name, answers)
		root := scaffoldtest.Write(t, plan)
		for i, item := range plan.Items {
			if i%3 != len(name)%3 { // a third of them, other ones for each layout
				continue
			}
			before := ask(t, root, name, item.Path)
			if err := os.Rename(filepath.Join(root, item.Path), filepath.Join(root, "..", "aside")); err != nil {
				t.Fatal(err)
			}
			after := ask(t, root, name, strings.TrimSuffix(item.Path, "/"))
			if err := os.Rename(filepath.Join(root, "..", "aside"), filepath.Join(root, item.Path)); err != nil {
				t.Fatal(err)
			}
			asked++
			if before.Entry != after.Entry || before.Role != after.Role || before.Path != after.Path || before.Folder != after.Folder || before.Unit != after.Unit || after.There {
				t.Errorf("%s: %s\n there  %s %q %q %s\n absent %s %q %q %s", name, item.Path, before.Path, before.Entry, before.Role, before.Unit, after.Path, after.Entry, after.Role, after.Unit)
			}
		}
	}
	if asked < 200 {
		t.Errorf("only %d were asked about", asked)
	}
}

func ask(t *testing.T, root, layout, path string) explain.Answer {
	t.Helper()
	r, err := app.Check(context.Background(), root, app.Options{Layout: layout})
	if err != nil {
		t.Fatal(err)
	}
	return explain.Path(r.Workspace, path)
}

// TestWhatIsNotKnown says nothing untrue of what no layout describes.
func TestWhatIsNotKnown(t *testing.T) {
	root := treetest.Make(t, map[string]string{
		"server/go.mod": "module m\n", "server/cmd/ferry/main.go": "package main\n\nimport \"net/http\"\n\nfunc main() { http.ListenAndServe(\"\", nil) }\n", "server/README.md": "x", "server/.gitignore": "x\n",
		"README.md": "x", "docs/moon.md": "x", "almanac/a.go": "package x\n", "almanac/b.go": "package x\n", "almanac/in/c.txt": "x", "server/old stuff/x.xyz": "x",
		"services/x.xyz": "x", "tool/requests.http": "GET /\n",
	})
	r, err := app.Check(context.Background(), root, app.Options{})
	if err != nil {
		t.Fatal(err)
	}
	for _, c := range []struct{ path, project, has, lacks string }{
		{"README.md", ".", "What the project or folder is", "module"},
		{"docs", ".", "Documentation", ""},
		{"server/README.md", "server", "What the module is for", ""},
		{"almanac", ".", "Holds 2 files of the kind .go, 1 folder", ""},
		{"services", ".", "Usually the logic", ""},
		{"tool/requests.http", ".", "Usually requests", ""},
		{"server/old stuff", "server", "", "package"},
		{"server/cmd/ferry/main.go", "server", "The function main", ""},
	} {
		a := explain.Path(r.Workspace, c.path)
		if a.Project != c.project || !strings.Contains(a.Role, c.has) || c.lacks != "" && strings.Contains(a.Role, c.lacks) || strings.Contains(a.MadeBy, "scaffold") {
			t.Errorf("%s: %+v", c.path, a)
		}
	}
	if a := explain.Path(r.Workspace, "server/none/such/thing.xyz"); a.Inside == "" || a.Role != "" {
		t.Errorf("%+v", a)
	}
}
