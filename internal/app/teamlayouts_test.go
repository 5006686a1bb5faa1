package app_test

import (
	"context"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"dicaxon/internal/app"
	"dicaxon/internal/catalogue"
	"dicaxon/internal/scaffold"
	"dicaxon/internal/treetest"
)

// TestTeamLayoutsOfTheDocs: the layouts in docs/examples are in order, what they start
// passes its check, and slips in it are told.
func TestTeamLayoutsOfTheDocs(t *testing.T) {
	folders, err := filepath.Glob("../../docs/examples/*/layout.yaml")
	if err != nil || len(folders) < 6 {
		t.Fatal(err, folders)
	}
	for _, file := range folders {
		folder, err := filepath.Abs(filepath.Dir(file))
		if err != nil {
			t.Fatal(err)
		}
		t.Run(filepath.Base(folder), func(t *testing.T) {
			t.Parallel()
			if _, err := app.CheckLayout(context.Background(), folder); err != nil {
				t.Fatal(err)
			}
			name, files := started(t, folder)
			e := &example{layout: name, files: files}
			said, err := os.ReadFile(filepath.Join(folder, "slips.txt"))
			if err != nil {
				t.Fatal(err)
			}
			for line := range strings.Lines(string(said)) {
				e.slips = append(e.slips, readSlip(t, strings.TrimSpace(line)))
			}
			if len(e.slips) < 5 {
				t.Errorf("only %d slips", len(e.slips))
			}
			root := t.TempDir()
			treetest.Restore(t, root, e.files)
			known := e.right(t, root)
			for _, s := range e.slips {
				e.slip(t, root, s, known)
			}
		})
	}
}

// started gives the files of a project that a layout starts, with what names the layout.
func started(t *testing.T, folder string) (name string, files map[string]string) {
	t.Helper()
	l, err := catalogue.Catalogue{}.Layout(folder)
	if err != nil {
		t.Fatal(err)
	}
	plan, err := scaffold.Make(l, nil)
	if err != nil {
		t.Fatal(err)
	}
	plan.Record(folder, nil)
	files = map[string]string{}
	for _, item := range plan.Items {
		if !strings.HasSuffix(item.Path, "/") {
			files[item.Path] = string(item.Text)
		}
	}
	return l.Name, files
}
