package cli_test

import (
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"dicaxon/internal/treetest"
)

// team is a layout of a team's own: it builds on a built-in one and changes
// a need, a name and a role, drops an entry, and adds one.
var team = map[string]string{
	"house/layout.yaml": `dicaxon: 1
layout: gannet/flask
title: How Gannet Line arranges a Flask application
builds-on: [flask/areas]
tree:
  config.py | settings.py: {need: must}
  OWNERS: {need: must, role: Who answers for the application., starter: owners}
  .flaskenv: {drop: true}
  <project>/:
    tree:
      pages/: {was: templates/, role: Pages of the whole line.}
      <area:snake>/: {tree: {"tides.yaml": {need: should, role: Tides that matter to the area.}}}
`,
	"house/starters/owners.tmpl": "{{.project}}\n",
}

func TestTeamLayout(t *testing.T) {
	dir := t.TempDir()
	treetest.Add(t, dir, team)
	if o := run(t, dir, "layouts", "--check", "house"); o.status != 0 || !strings.Contains(o.out, "gannet/flask is in order") {
		t.Fatalf("%s%s", o.out, o.err)
	}
	if o := run(t, dir, "scaffold", "./house", "app", "--yes"); o.status != 0 {
		t.Fatal(o.err)
	}
	app := filepath.Join(dir, "app")
	want := []string{"warning missing app/home/tides.yaml"}
	if got := found(t, dir, "app"); !slices.Equal(got, want) { // scaffold has said which layout it follows
		t.Errorf("got %v, want %v", got, want)
	}
	if _, err := os.Stat(filepath.Join(app, "app/pages/base.html")); err != nil {
		t.Error("the folder has not taken its new name, or lost what is in it:", err)
	}
	os.Remove(filepath.Join(app, "config.py"))
	os.Remove(filepath.Join(app, "OWNERS"))
	os.Rename(filepath.Join(app, "app/pages"), filepath.Join(app, "app/templates"))
	os.WriteFile(filepath.Join(app, ".flaskenv"), []byte("A=1\n"), 0o644)
	treetest.Add(t, app, map[string]string{"dicaxon.yaml": "dicaxon: 1\nprojects:\n  - {layout: ../house, answers: {project: app}}\n"})
	want = []string{"note extra .flaskenv", "error missing OWNERS", "warning missing app/home/tides.yaml",
		"warning misnamed app/templates/ -> app/pages/", "error missing config.py"}
	if got := found(t, app); !slices.Equal(got, want) {
		t.Errorf("got %v, want %v", got, want)
	}
}

func TestSeveralProjects(t *testing.T) {
	dir := t.TempDir()
	for layout, at := range map[string]string{"go/service": "tides", "flask/areas": "web/ferry", "dbt/layers": "warehouse"} {
		os.MkdirAll(filepath.Join(dir, "web"), 0o755)
		if o := run(t, dir, "scaffold", layout, at, "--yes"); o.status != 0 {
			t.Fatal(o.err)
		}
	}
	o := run(t, dir, "identify")
	for _, want := range []string{"tides/  go/service", "web/ferry/  flask/areas", "warehouse/  dbt/layers"} {
		if !strings.Contains(o.out, want) {
			t.Errorf("%q is not in\n%s", want, o.out)
		}
	}
	os.Remove(filepath.Join(dir, "tides", "go.mod"))
	treetest.Add(t, dir, map[string]string{"dicaxon.yaml": "dicaxon: 1\nprojects:\n  - {at: tides, layout: go/service}\n  - {at: web/ferry, layout: flask/areas}\n"})
	if got, want := found(t, dir), []string{"error missing tides/go.mod"}; !slices.Equal(got, want) {
		t.Errorf("got %v, want %v", got, want)
	}
}

func TestExplain(t *testing.T) {
	dir := unpack(t)
	ferry := filepath.Join(dir, "ferry")
	for _, c := range []struct{ path, says string }{
		{"ferry/berths", `area "berths"`},
		{"ferry/berths", "One area: its routes, pages and static files, together."},
		{"ferry/sailings/templates", "Pages that several areas share → ferry/templates/"},
		{"ferry/__pycache__", "the Python interpreter"},
		{"node_modules", "npm install"},
		{"node_modules", "leave it out"},
		{"target", "cargo build, mvn or dbt"},
		{"node_modules/x/y", "inside     node_modules/"},
		{"ferry/berths/view.py", "misnamed: belongs at ferry/berths/views.py"},
		{"run.py", "flask/common, entry run.py"},
		{"nothing.xyz", "flask/areas says nothing more about it"},
		{".", "Flask, one package for each area of the business."},
	} {
		if o := run(t, ferry, "explain", c.path, "--root", "."); o.status != 0 || !strings.Contains(o.out, c.says) {
			t.Errorf("%s: %q is not in\n%s%s", c.path, c.says, o.out, o.err)
		}
	}
	// From elsewhere, each path is explained in the project around it.
	far := run(t, t.TempDir(), "explain", filepath.Join(ferry, "ferry", "berths"), filepath.Join(dir, "tides", "vendor"))
	if !strings.Contains(far.out, "ferry/berths/  area \"berths\"") || !strings.Contains(far.out, "Copies of the modules it needs.") {
		t.Errorf("from elsewhere: %s%s", far.out, far.err)
	}
	o := run(t, ferry, "explain", "--ascii")
	if strings.ContainsAny(o.out, "├└│") || !strings.Contains(o.out, "|- ferry/") {
		t.Errorf("--ascii:\n%s", o.out)
	}
	for _, line := range strings.Split(runWide(t, ferry, 60, "explain"), "\n") {
		if n := len([]rune(line)); n > 60 {
			t.Errorf("%d columns: %q", n, line)
		}
	}
}

// TestNarrow keeps every line of prose within the screen; only paths may be
// longer.
func TestNarrow(t *testing.T) {
	dir := unpack(t)
	for _, args := range [][]string{{"check", "ferry"}, {"identify", "tides"}, {"layouts"}, {"layouts", "dbt/layers"}} {
		for _, line := range strings.Split(runWide(t, dir, 60, args...), "\n") {
			if n := len([]rune(line)); n > 60 && !strings.Contains(line, "/") {
				t.Errorf("%v: %d columns: %q", args, n, line)
			}
		}
	}
}

func runWide(t *testing.T, dir string, columns int, args ...string) string {
	t.Helper()
	t.Setenv("COLUMNS", map[int]string{60: "60"}[columns])
	return run(t, dir, args...).out
}

func TestColours(t *testing.T) {
	dir := unpack(t)
	if o := run(t, dir, "check", "ferry"); strings.Contains(o.out, "\x1b") {
		t.Error("colours in a pipe")
	}
	if o := run(t, dir, "check", "ferry", "--color", "always"); !strings.Contains(o.out, "\x1b[31") {
		t.Error("no colours though asked for")
	}
	if o := run(t, dir, "check", "ferry", "--color", "sometimes"); o.status != 2 {
		t.Error("an unknown value of --color is taken")
	}
}

func TestFailOn(t *testing.T) {
	dir := t.TempDir()
	if o := run(t, dir, "scaffold", "flask/areas", "app", "--yes"); o.status != 0 {
		t.Fatal(o.err)
	}
	os.RemoveAll(filepath.Join(dir, "app", "tests"))                     // a wish
	os.Mkdir(filepath.Join(dir, "app", "app", "static", "ferry"), 0o755) // a warning
	for level, want := range map[string]int{"error": 0, "warning": 1, "note": 1} {
		if o := run(t, dir, "check", "app", "--fail-on", level); o.status != want {
			t.Errorf("--fail-on %s: status %d, want %d", level, o.status, want)
		}
	}
}

func TestLayoutsAndVersion(t *testing.T) {
	dir := t.TempDir()
	if o := run(t, dir, "layouts"); !strings.Contains(o.out, "flask/areas") || strings.Contains(o.out, "python/common") {
		t.Error(o.out)
	}
	if o := run(t, dir, "layouts", "--schema"); !strings.Contains(o.out, "json-schema.org/draft/2020-12") {
		t.Error(o.out)
	}
	if o := run(t, dir, "layouts", "go/service", "--format", "json"); !strings.Contains(o.out, `"dicaxon.layout/1"`) {
		t.Error(o.out)
	}
	if o := run(t, dir, "version"); !strings.HasPrefix(o.out, "dicaxon ") {
		t.Error(o.out)
	}
	if o := run(t, dir, "completion", "bash"); o.status != 0 || !strings.Contains(o.out, "dicaxon") {
		t.Error("no completion for bash")
	}
	if o := run(t, dir, "__complete", "check", "--layout", ""); !strings.Contains(o.out, "flask/areas") {
		t.Errorf("layouts are not completed: %s", o.out)
	}
}

// TestLayoutPagesAreCurrent fails where a layout was changed and its page not
// written again.
func TestLayoutPagesAreCurrent(t *testing.T) {
	docs := filepath.Join("..", "..", "docs", "layouts")
	proofs, err := os.ReadFile(filepath.Join(docs, "README.md"))
	if err != nil {
		t.Fatal(err)
	}
	for name := range scaffolds {
		page := strings.ReplaceAll(name, "/", "-") + ".md"
		got, err := os.ReadFile(filepath.Join(docs, page))
		if want := run(t, t.TempDir(), "layouts", name, "--format", "markdown").out; err != nil || string(got) != want {
			t.Errorf("%s is out of date; run scripts/layout-pages.sh", page)
		}
		if !strings.Contains(string(proofs), "["+name+"]("+page+")") {
			t.Errorf("the table of proofs lacks %s", name)
		}
		if !strings.Contains(run(t, t.TempDir(), "layouts", "--format", "markdown").out, "["+name+"]") {
			t.Errorf("the list lacks %s", name)
		}
	}
	got, err := os.ReadFile(filepath.Join(docs, "..", "rules.md"))
	if err != nil || string(got) != run(t, t.TempDir(), "layouts", "--rules", "--format", "markdown").out {
		t.Error("docs/rules.md is out of date; run scripts/layout-pages.sh")
	}
	pages, _ := filepath.Glob(filepath.Join(docs, "*-*.md"))
	if len(pages) != len(scaffolds) {
		t.Errorf("%d pages for %d layouts", len(pages), len(scaffolds))
	}
}

func TestCompare(t *testing.T) {
	dir := unpack(t)
	for _, c := range []struct {
		call, says string
		status     int
	}{
		{"compare flask/package flask/areas", "→ <project>/<area>/forms.py", 0},
		{"compare flask/package flask/areas", "→ <project>/<area>/views.py", 0},
		{"compare flask/package flask/areas --format markdown", "# flask/package and flask/areas", 0},
		{"compare flask/package flask/areas --format json", `"schema": "dicaxon.comparison/1"`, 0},
		{"compare ferry flask/areas", "→ ferry/static/timetable.css", 0},
		{"compare flask/areas ferry --format markdown", "# ferry and flask/areas", 0},
		{"compare ferry flask/areas --format json", `"schema": "dicaxon.distance/1"`, 0},
		{"compare flask/areas", "accepts 2 arg", 2},
		{"compare flask/areas flask/packge", "did you mean flask/package?", 2},
		{"compare ferry tides", "there is no layout tides", 2},
	} {
		o := run(t, dir, strings.Fields(c.call)...)
		if o.status != c.status || !strings.Contains(o.out+o.err, c.says) {
			t.Errorf("%s: status %d, %q is not in\n%s%s", c.call, o.status, c.says, o.out, o.err)
		}
	}
}
