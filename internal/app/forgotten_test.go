package app_test

import (
	"maps"
	"path"
	"regexp"
	"slices"
	"strings"
	"sync/atomic"
	"testing"

	"dicaxon/internal/app"
	"dicaxon/internal/finding"
	"dicaxon/internal/treetest"
)

// ownImports find lines that import something of the project's own, by the endings of files.
var ownImports = map[string]*regexp.Regexp{
	".js":   regexp.MustCompile(`(?m)^(?:import [\w{ ,}]+ from|const [\w{ ,}]+ = require\() ?['"]\.[^'"]+['"]\)?;?\n`),
	".ts":   regexp.MustCompile(`(?m)^import [\w{ ,}]+ from ['"]\.[^'"]+['"];?\n`),
	".tsx":  regexp.MustCompile(`(?m)^import [\w{ ,}]+ from ['"][.@]/[^'"]+['"];?\n`),
	".vue":  regexp.MustCompile(`(?m)^import \w+ from ['"][.@]/[^'"]+['"];?\n`),
	".py":   regexp.MustCompile(`(?m)^from \.\w[\w.]* import \w+\n`),
	".go":   regexp.MustCompile(`(?m)^\t"[\w.-]+/[\w./-]*internal/[\w./-]+"\n`),
	".kt":   regexp.MustCompile(`(?m)^import (?:example|line|org)\.gannet[\w.]*\.[A-Z]\w+\n`),
	".java": regexp.MustCompile(`(?m)^import (?:example|line|org)\.gannet[\w.]*\.[A-Z]\w+;\n`),
	".php":  regexp.MustCompile(`(?m)^use App\\[\w\\]+;\n`),
}

// TestForgottenImports takes imports of the project's own out of living examples, as people forget
// them when they move code: most are told in the file that lacks them, and never is an error or a
// warning told of a file that has nothing to do with it.
func TestForgottenImports(t *testing.T) {
	t.Parallel()
	var all, told, mended atomic.Int64
	t.Run("examples", func(t *testing.T) {
		eachExample(t, func(t *testing.T, e *example, root string) {
			known := e.right(t, root)
			for _, at := range slices.Sorted(maps.Keys(e.files)) {
				line := ""
				if find := ownImports[path.Ext(at)]; find != nil && !strings.Contains(at, "test") && !strings.Contains(at, "spec") {
					line = find.FindString(e.files[at])
				}
				if line == "" {
					continue
				}
				all.Add(1)
				here, written := e.forget(t, root, at, line, known)
				if here {
					told.Add(1)
				}
				if written {
					mended.Add(1)
				}
				if testing.Short() {
					break
				}
			}
		})
	})
	share := float64(told.Load()) / float64(max(all.Load(), 1))
	t.Logf("of %d imports that were forgotten %d are told, and %d are written again", all.Load(), told.Load(), mended.Load())
	if all.Load() < 100 || share < 0.7 {
		t.Errorf("only %.2f are told", share)
	}
}

// forget takes a line of imports out of a file, and puts it back: whether that is told there, and
// whether a line would be written.
func (e *example) forget(t *testing.T, root, at, line string, known map[string]bool) (here, written bool) {
	t.Helper()
	s := slip{line: "without " + strings.TrimSpace(line) + " in " + at, do: []string{"edit", at, "|" + strings.TrimSuffix(line, "\n") + "\\n||"}}
	s.make(t, root)
	defer treetest.Restore(t, root, e.files)
	r, err := app.Check(t.Context(), root, app.Options{})
	if err != nil {
		t.Fatal(err)
	}
	for _, p := range r.Projects {
		for _, f := range p.Findings {
			if f.Level == finding.Note || known[string(f.Kind)+" "+f.Path+" "+f.Message] {
				continue
			}
			about := f.Path == at || slices.Contains(f.Also, at) || f.Other != nil && (f.Other.Path == at || path.Dir(f.Other.Path) == path.Dir(at))
			here = here || about
			if !about && !slices.ContainsFunc(words.FindAllString(line, -1), func(word string) bool { return strings.Contains(f.Path+f.Message, word) }) {
				t.Errorf("%s: %s %s %s", s.line, f.Kind, f.Path, f.Message)
			}
		}
	}
	plan, err := app.Realign(t.Context(), root, app.RealignOptions{Least: finding.Warning})
	if err != nil {
		t.Fatal(err)
	}
	return here, len(plan.Edits) > 0
}

// words finds the words of a line.
var words = regexp.MustCompile(`\w{3,}`)
