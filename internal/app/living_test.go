package app_test

import (
	"context"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"dicaxon/internal/app"
	"dicaxon/internal/baseline"
	"dicaxon/internal/memory"
	"dicaxon/internal/treetest"
)

// a small project with one finding of each kind that this file needs.
var small = map[string]string{
	"requirements.txt": "flask\n", "run.py": "from app import app\napp.run()\n", "config.py": "import os\n", "README.md": "x\n", ".gitignore": ".venv/\n__pycache__/\n.env\n",
	"app/__init__.py":         "from flask import Flask\nfrom app import tides\napp = Flask(__name__)\napp.register_blueprint(tides.blueprint)\n",
	"app/templates/base.html": "", "app/static/x.css": "", "app/tides/__init__.py": "blueprint = 1\n", "app/tides/views.py": "from app.tides import blueprint\nx = 1\n@blueprint.route('/')\n",
	"app/crews/__init__.py": "blueprint = 1\n", "app/crews/views.py": "from app.tides.views import x\nfrom app.crews import blueprint\n@blueprint.route('/')\n",
	"tests/test_tides.py": "", "tests/test_crews.py": "", "app/tides/notes.xyz": "old\n",
}

func said(t *testing.T, root string, o app.Options) (*app.Report, []string) {
	t.Helper()
	r, err := app.Check(context.Background(), root, o)
	if err != nil {
		t.Fatal(err)
	}
	var all []string
	for _, p := range r.Projects {
		for _, f := range p.Findings {
			all = append(all, fmt.Sprintf("%s %s %s", f.Level, f.Kind, f.Path))
		}
	}
	return r, all
}

func git(t *testing.T, dir string, args ...string) {
	t.Helper()
	cmd := exec.Command("git", append([]string{"-c", "user.name=Crew", "-c", "user.email=crew@gannet.example", "-c", "init.defaultBranch=main"}, args...)...)
	cmd.Dir = dir
	if out, err := cmd.CombinedOutput(); err != nil {
		t.Fatalf("git %v: %v\n%s", args, err, out)
	}
}

func TestWaiversAndLevels(t *testing.T) {
	root := treetest.Make(t, small)
	if _, got := said(t, root, app.Options{}); !slices.Equal(got, []string{"error unwired app/crews/views.py", "warning tangled app/crews/views.py", "note extra app/tides/notes.xyz"}) {
		t.Fatalf("%q", got)
	}
	config := "dicaxon: 1\nlevels: {extra: warning, wall: error}\nwaivers:\n"
	treetest.Add(t, root, map[string]string{"dicaxon.yaml": config +
		"  - {paths: 'app/crews/**', kinds: unwired, reason: Comes with the winter timetable., until: 2027-01-31}\n" +
		"  - {paths: '**/*.xyz'}\n" +
		"  - {paths: 'app/berths/**', reason: Long gone.}\n"})
	day := time.Date(2027, 1, 31, 12, 0, 0, 0, time.UTC)
	r, got := said(t, root, app.Options{Today: day})
	if want := []string{"error tangled app/crews/views.py", "warning extra app/tides/notes.xyz", "warning substandard dicaxon.yaml", "note leftover dicaxon.yaml"}; !slices.Equal(got, want) || r.Waived != 1 {
		t.Errorf("%d waived, %q", r.Waived, got)
	}
	if _, got = said(t, root, app.Options{Today: day.AddDate(0, 0, 2), Only: []string{"unwired", "leftover"}}); len(got) != 3 {
		t.Errorf("after its day: %q", got)
	}
	if _, got = said(t, root, app.Options{Today: day, Skip: []string{"wall", "substandard", "leftover"}}); !slices.Equal(got, []string{"warning extra app/tides/notes.xyz"}) {
		t.Errorf("skipped: %q", got)
	}
	treetest.Add(t, root, map[string]string{"dicaxon.yaml": "dicaxon: 1\nlevels: {unwired: \"off\"}\n",
		"app/crews/views.py": "from app.tides.views import x  # dicaxon: waive tangled: Goes with the next release.\n", "app/tides/notes.xyz": "# dicaxon: waive extra: Kept for the audit.\n"})
	if r, got = said(t, root, app.Options{}); len(got) > 0 || r.Waived != 2 {
		t.Errorf("inline: %d waived, %q", r.Waived, got)
	}
	treetest.Add(t, root, map[string]string{"app/tides/notes.xyz": "# dicaxon: waive extra:\n# dicaxon: waive missing: no\n"})
	if _, got = said(t, root, app.Options{}); len(got) != 1 {
		t.Errorf("a waiver without a reason: %q", got)
	}
}

// TestRulesAskedFor holds that a word for a rule is one for all that layouts make of it, and that each of those
// has a name of its own, also of findings that an earlier run left.
func TestRulesAskedFor(t *testing.T) {
	t.Setenv("XDG_CACHE_HOME", t.TempDir())
	settled := memory.Settled
	memory.Settled = 0
	defer func() { memory.Settled = settled }()
	root := treetest.Make(t, map[string]string{"Quay.csproj": "<Project Sdk=\"Microsoft.NET.Sdk.Web\"></Project>\n", "appsettings.json": `{"ConnectionStrings": {"Harbour": ""}}`, "Program.cs": "var at = settings.GetConnectionString(\"Harbor\");\n"})
	told := []string{"warning dangling Program.cs"}
	if _, got := said(t, root, app.Options{Remember: true, Findings: true}); !slices.Equal(got, told) {
		t.Errorf("%q", got)
	}
	for words, want := range map[[2]string][]string{{"names", ""}: told, {"connections-asked-for", ""}: told, {"wired", ""}: nil, {"dangling", "names"}: nil, {"dangling", "connections-asked-for"}: nil, {"dangling", "wired"}: told} {
		for _, remembers := range []bool{false, true} {
			r, got := said(t, root, app.Options{Only: words[:1], Skip: words[1:], Remember: remembers, Findings: remembers})
			if !slices.Equal(got, want) || (r.Projects[0].Placement == nil) != remembers {
				t.Errorf("%q, remembered %v: %q", words, remembers, got)
			}
		}
	}
}

func TestAccepted(t *testing.T) {
	root := treetest.Make(t, small)
	r, _ := said(t, root, app.Options{Anew: true})
	if n, err := baseline.Accept(t.Context(), r.Workspace, baseline.Options{}); n != 3 || err != nil {
		t.Fatal(n, err)
	}
	treetest.Add(t, root, map[string]string{"app/crews/views.py": "# a line more\n\nfrom app.tides.views import x\nfrom app.crews import blueprint\n@blueprint.route('/')\n"})
	if r, got := said(t, root, app.Options{}); len(got) > 0 || r.Accepted != 3 || r.Gone != 0 {
		t.Errorf("lines that moved: %+v %q", r.Settlement, got)
	}
	if err := os.Rename(filepath.Join(root, "app/tides/notes.xyz"), filepath.Join(root, "app/crews/notes.xyz")); err != nil {
		t.Fatal(err)
	}
	treetest.Add(t, root, map[string]string{"app/tides/new.xyz": "x"})
	if r, got := said(t, root, app.Options{}); !slices.Equal(got, []string{"note extra app/tides/new.xyz"}) || r.Accepted != 3 {
		t.Errorf("a new one beside one that moved: %+v %q", r.Settlement, got)
	}
	if err := os.Remove(filepath.Join(root, "app/crews/notes.xyz")); err != nil {
		t.Fatal(err)
	}
	if err := os.Remove(filepath.Join(root, "app/tides/new.xyz")); err != nil {
		t.Fatal(err)
	}
	if r, got := said(t, root, app.Options{}); len(got) > 0 || r.Gone != 1 {
		t.Errorf("one that was put right: %+v %q", r.Settlement, got)
	}
	treetest.Add(t, root, map[string]string{baseline.AcceptedName: "{"})
	if _, err := app.Check(context.Background(), root, app.Options{}); err == nil || !strings.Contains(err.Error(), "--accept") {
		t.Errorf("a broken file: %v", err)
	}
}

// TestAcceptedFolder holds that a folder is accepted with what lay in it: what is
// new in it is told, and what is gone from it is not.
func TestAcceptedFolder(t *testing.T) {
	root := treetest.Make(t, small)
	treetest.Add(t, root, map[string]string{"old stuff/a.xyz": "x", "old stuff/b.xyz": "x"})
	r, _ := said(t, root, app.Options{Anew: true})
	if n, err := baseline.Accept(t.Context(), r.Workspace, baseline.Options{}); n != 4 || err != nil {
		t.Fatal(n, err)
	}
	if err := os.Remove(filepath.Join(root, "old stuff/b.xyz")); err != nil {
		t.Fatal(err)
	}
	if r, got := said(t, root, app.Options{}); len(got) > 0 {
		t.Errorf("less in it: %+v %q", r.Settlement, got)
	}
	treetest.Add(t, root, map[string]string{"old stuff/c.xyz": "x"})
	if r, got := said(t, root, app.Options{}); len(got) != 1 || !strings.HasPrefix(got[0], "note extra old stuff/") {
		t.Errorf("more in it: %+v %q", r.Settlement, got)
	}
}

// TestParts holds that the dicaxon.yaml of a folder holds for what lies below it,
// and that the answer is the same from wherever one asks.
func TestParts(t *testing.T) {
	root := treetest.Make(t, small)
	treetest.Add(t, root, map[string]string{"dicaxon.yaml": "dicaxon: 1\nprojects:\n  - layout: flask/areas\n", "app/tides/dicaxon.yaml": "dicaxon: 1\nlevels: {extra: error}\n", "notes.xyz": "x"})
	_, all := said(t, root, app.Options{})
	for _, want := range []string{"error extra app/tides/notes.xyz", "note extra notes.xyz"} {
		if !slices.Contains(all, want) {
			t.Errorf("no %s in %q", want, all)
		}
	}
	r, within := said(t, filepath.Join(root, "app/tides"), app.Options{})
	if !slices.Contains(within, "error extra app/tides/notes.xyz") || slices.Contains(within, "note extra notes.xyz") || r.Outside == 0 {
		t.Errorf("from within: %q, %d outside", within, r.Outside)
	}
}

// TestHistory compares with real git: a revision, what is staged, and what a
// change causes at a distance.
func TestHistory(t *testing.T) {
	root := treetest.Make(t, small)
	git(t, root, "init", "--quiet")
	git(t, root, "add", "--all")
	git(t, root, "commit", "--quiet", "-m", "one")
	_, now := said(t, root, app.Options{})
	if _, got := said(t, root, app.Options{At: "HEAD"}); !slices.Equal(got, now) {
		t.Errorf("a revision: %q, on the disk %q", got, now)
	}
	if r, got := said(t, root, app.Options{Since: "main"}); len(got) > 0 || r.Known != 3 {
		t.Errorf("nothing changed: %q", got)
	}
	// The file that goes is named elsewhere.
	if err := os.RemoveAll(filepath.Join(root, "app/tides/__init__.py")); err != nil {
		t.Fatal(err)
	}
	if _, got := said(t, root, app.Options{Since: "HEAD"}); !slices.Equal(got, []string{"error missing app/tides/__init__.py"}) {
		t.Errorf("a file that went: %q", got)
	}
	if _, got := said(t, root, app.Options{Staged: true, Since: "HEAD"}); len(got) > 0 {
		t.Errorf("nothing is staged: %q", got)
	}
	git(t, root, "add", "--all")
	git(t, root, "commit", "--quiet", "-m", "two")
	treetest.Add(t, root, map[string]string{".env": "SECRET_KEY=a1b2c3\n", "app/tides/more.xyz": ""})
	git(t, root, "add", "--force", ".env")
	if _, got := said(t, root, app.Options{Staged: true, Since: "HEAD"}); !slices.Equal(got, []string{"error exposed .env"}) {
		t.Errorf("what is staged: %q", got)
	}
	if _, got := said(t, root, app.Options{Only: []string{"exposed"}}); !slices.Equal(got, []string{"error exposed .env"}) {
		t.Errorf("tracked though ignored: %q", got)
	}
	if _, got := said(t, filepath.Join(root, "app"), app.Options{At: "HEAD~1", Layout: "python/package"}); slices.ContainsFunc(got, func(s string) bool { return strings.Contains(s, "app/") }) {
		t.Errorf("a folder below: %q", got)
	}
	for _, o := range []app.Options{{At: "nothing"}, {Since: "nothing"}} {
		if _, err := app.Check(context.Background(), root, o); err == nil || !strings.Contains(err.Error(), `"nothing"`) {
			t.Errorf("%+v: %v", o, err)
		}
	}
	if _, err := app.Check(context.Background(), treetest.Make(t, small), app.Options{At: "HEAD"}); err == nil || !strings.Contains(err.Error(), "no repository of git") {
		t.Errorf("without git: %v", err)
	}
}

// TestOldNames tells of texts that still name what git knows was moved, in any
// language, and is silent where nothing moved or where the past is told.
func TestOldNames(t *testing.T) {
	root := treetest.Make(t, map[string]string{"ferry/__init__.py": "", "ferry/tides/__init__.py": "", "ferry/tides/table.py": "x = 1\n",
		"deploy.ini": "run = ferry/tides/\n", "notes.txt": "first\nsee ferry/tides/table.py, ferry.tides.table and other/ferry/tides/table.py\n", "CHANGELOG.md": "ferry/tides/table.py is new\n"})
	git(t, root, "init", "--quiet")
	git(t, root, "add", "--all")
	git(t, root, "commit", "--quiet", "-m", "one")
	only := app.Options{Only: []string{"old-names"}}
	if _, got := said(t, root, only); len(got) > 0 {
		t.Errorf("nothing moved: %q", got)
	}
	git(t, root, "mv", "ferry/tides", "ferry/almanac")
	want := []string{"warning dangling deploy.ini", "warning dangling notes.txt"}
	r, got := said(t, root, only)
	if !slices.Equal(got, want) || !strings.Contains(r.Projects[0].Findings[1].Message, "ferry/tides/table.py, which is ferry/almanac/table.py now") || r.Projects[0].Findings[1].Line != 2 {
		t.Errorf("moved and staged: %q %+v", got, r.Projects[0].Findings)
	}
	git(t, root, "commit", "--quiet", "-m", "two")
	if _, got := said(t, root, only); len(got) > 0 {
		t.Errorf("committed: %q", got)
	}
	if _, got := said(t, root, app.Options{Only: only.Only, Since: "HEAD~1"}); !slices.Equal(got, want) {
		t.Errorf("since the commit before: %q", got)
	}
	if err := os.Rename(filepath.Join(root, "notes.txt"), filepath.Join(root, "remarks.txt")); err != nil {
		t.Fatal(err)
	}
	treetest.Add(t, root, map[string]string{"deploy.ini": "read = notes.txt\n"})
	if r, got := said(t, root, only); !slices.Equal(got, []string{"warning dangling deploy.ini"}) || !strings.Contains(r.Projects[0].Findings[0].Message, "remarks.txt now") {
		t.Errorf("moved on the disk alone: %q", got)
	}
}
