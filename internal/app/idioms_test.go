package app_test

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"dicaxon/internal/app"
	"dicaxon/internal/finding"
	"dicaxon/internal/treetest"
)

// TestIdioms checks small projects that do what the documents of their framework teach and that a rule may take for
// something else: imports of types across a wall, pages of others, names with a mark, parts that call each other.
// Nothing of them is an error, and nothing worth a warning. The first line of each archive is its layout.
func TestIdioms(t *testing.T) {
	all, err := filepath.Glob("testdata/idioms/*.txtar")
	if err != nil || len(all) == 0 {
		t.Fatal(err, "none")
	}
	for _, file := range all {
		t.Run(strings.TrimSuffix(filepath.Base(file), ".txtar"), func(t *testing.T) {
			t.Parallel()
			archive, err := os.ReadFile(file)
			if err != nil {
				t.Fatal(err)
			}
			want, _, _ := strings.Cut(string(archive), "\n")
			r, err := app.Check(t.Context(), treetest.Make(t, filesIn(string(archive))), app.Options{})
			if err != nil {
				t.Fatal(err)
			}
			for _, p := range r.Projects {
				if p.At == "." && p.Layout.Name != want {
					t.Errorf("it is taken for %s, not %s", p.Layout.Name, want)
				}
				for _, f := range p.Findings {
					if f.Level < finding.Note {
						t.Errorf("%s %s %s:%d %s", f.Level, f.Kind, f.Path, f.Line, f.Message)
					}
				}
			}
		})
	}
}
