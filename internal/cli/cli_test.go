package cli_test

import (
	"bytes"
	"encoding/json"
	"errors"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"dicaxon/internal/treetest"
)

var binary string

// TestMain builds the program once; the tests run it as a user would.
func TestMain(m *testing.M) {
	dir, err := os.MkdirTemp("", "dicaxon-cli-*")
	if err != nil {
		panic(err)
	}
	binary = filepath.Join(dir, "dicaxon")
	build := exec.Command("go", "build", "-o", binary, "dicaxon/cmd/dicaxon")
	build.Env = append(os.Environ(), "CGO_ENABLED=0")
	if out, err := build.CombinedOutput(); err != nil {
		panic(string(out))
	}
	os.Setenv("XDG_CACHE_HOME", filepath.Join(dir, "cache"))
	os.Setenv("XDG_STATE_HOME", filepath.Join(dir, "state"))
	status := m.Run()
	os.RemoveAll(dir)
	os.Exit(status)
}

type outcome struct {
	out, err string
	status   int
}

// run runs the program in dir. Standard input is no terminal.
func run(t *testing.T, dir string, args ...string) outcome {
	t.Helper()
	cmd := exec.Command(binary, args...)
	cmd.Dir = dir
	return finish(t, cmd)
}

func finish(t *testing.T, cmd *exec.Cmd) outcome {
	t.Helper()
	var out, stderr bytes.Buffer
	cmd.Stdout, cmd.Stderr = &out, &stderr
	err := cmd.Run()
	var exit *exec.ExitError
	if err != nil && !errors.As(err, &exit) {
		t.Fatal(err)
	}
	if strings.Contains(stderr.String(), "goroutine ") {
		t.Fatalf("a panic: %s", stderr.String())
	}
	return outcome{out.String(), stderr.String(), cmd.ProcessState.ExitCode()}
}

func unpack(t *testing.T) string {
	t.Helper()
	dir := filepath.Join(t.TempDir(), "demo")
	if o := run(t, t.TempDir(), "demo", dir, "--format", "json"); o.status != 0 {
		t.Fatal(o.err)
	}
	return dir
}

// found gives "kind path -> home" for each finding of a check.
func found(t *testing.T, dir string, args ...string) []string {
	t.Helper()
	o := run(t, dir, append([]string{"check", "--format", "json"}, args...)...)
	var answer struct {
		Schema   string
		Projects []struct {
			At, Layout string
			Findings   []struct{ Kind, Path, Home, Level, Message, Why, Entry string }
		}
	}
	if err := json.Unmarshal([]byte(o.out), &answer); err != nil {
		t.Fatalf("%v: %s %s", err, o.out, o.err)
	}
	if answer.Schema != "dicaxon.findings/1" {
		t.Errorf("schema %q", answer.Schema)
	}
	var all []string
	for _, p := range answer.Projects {
		for _, f := range p.Findings {
			line := f.Level + " " + f.Kind + " " + f.Path
			if f.Home != "" {
				line += " -> " + f.Home
			}
			all = append(all, line)
			if f.Message == "" {
				t.Errorf("%s has no message", line)
			}
		}
	}
	return all
}

func TestDemoRepositories(t *testing.T) {
	dir := unpack(t)
	for name, want := range map[string][]string{
		"ferry": {
			"error disagrees .env.example",
			"warning misplaced ferry/berths/card.html -> ferry/berths/templates/card.html",
			"warning empty ferry/berths/static/",
			"error misnamed ferry/berths/view.py -> ferry/berths/views.py",
			"error unwired ferry/crews/views.py",
			"warning tangled ferry/crews/views.py",
			"error missing ferry/manifests/__init__.py",
			"error dangling ferry/manifests/templates/manifests/list.html",
			"warning misnamed ferry/sailings/template/ -> ferry/sailings/templates/",
			"warning misplaced ferry/templates/timetable.css -> ferry/static/timetable.css",
			"note extra old stuff/",
			"warning misnamed tests/test_berth.py -> tests/test_berths.py",
			"note unpaired tests/test_manifests.py",
		},
		"tides": {
			"error exposed .env.sample",
			"warning misplaced cmd/backfill/README.md -> README.md",
			"warning leftover dicaxon.yaml",
			"warning substandard dicaxon.yaml",
			"error misdeclared internal/almanac/almanac.go",
			"warning misnamed internal/modell/ -> internal/model/",
			"warning empty migrations/",
			"note extra tide_test_results.xlsx",
			"note extra vendor.bak/",
		},
		"warehouse": {
			"error disagrees dbt_project.yml",
			"warning misnamed macro/ -> macros/",
			"warning misnamed models/mart/ -> models/marts/",
			"error disagrees models/sources/booking.yml",
			"error misplaced models/staging/harbour/sources.yml -> models/sources/harbour.yml",
			"error disagrees models/warehouse/berth_calls.sql",
			"warning misplaced models/warehouse/stg_harbour__tides.sql -> models/staging/harbour/stg_harbour__tides.sql",
			"note extra old_queries.sql",
			"error exposed profiles.yml",
			"warning empty seeds/",
		},
	} {
		if got := found(t, dir, name); !slices.Equal(got, want) {
			t.Errorf("%s:\n got  %s\n want %s", name, strings.Join(got, "\n      "), strings.Join(want, "\n      "))
		}
	}
}

func TestDemoRunsItsTour(t *testing.T) {
	o := run(t, t.TempDir(), "demo", "there")
	if o.status != 0 || o.err != "" {
		t.Fatalf("status %d: %s", o.status, o.err)
	}
	for _, want := range []string{"$ dicaxon check ferry", "→ ferry/berths/templates/card.html", "$ dicaxon scaffold flask/areas", "everything is in its place"} {
		if !strings.Contains(o.out, want) {
			t.Errorf("the tour does not show %q", want)
		}
	}
}

// TestBadCalls has one line an error, which names the thing and the next step.
func TestBadCalls(t *testing.T) {
	dir := treetest.Make(t, map[string]string{
		"file": "x", "none/": "", "plain/a.txt": "x", "full/b": "x", "app/requirements.txt": "flask\n",
		"bad/dicaxon.yaml":        "dicaxon: 1\nprojects:\n  - layuot: flask/areas\n",
		"syntax/dicaxon.yaml":     "dicaxon: [1\n",
		"escape/dicaxon.yaml":     "dicaxon: 1\nprojects:\n  - {at: ../x, layout: flask/areas}\n",
		"unknown/dicaxon.yaml":    "dicaxon: 1\nprojects:\n  - layout: flask/aeras\n",
		"answer/dicaxon.yaml":     "dicaxon: 1\nprojects:\n  - {layout: flask/areas, answers: {projct: x}}\n",
		"huge/dicaxon.yaml":       strings.Repeat("# a line of a comment\n", 2_500_000),
		"bomb/dicaxon.yaml":       "dicaxon: 1\na: &a [x,x]\nb: &b [*a,*a]\nprojects: [*b,*b]\n",
		"starter/layout.yaml":     "dicaxon: 1\nlayout: team/x\ntitle: T\ntree:\n  a.txt: {role: R., starter: a}\n",
		"starter/starters/a.tmpl": "one\n{{.nobody}}\n",
		"nul/layout.yaml":         "dicaxon: 1\nlayout: team/x\ntitle: T\ntree:\n  \"a\\0b\": {role: R.}\n",
		"cycle/one/layout.yaml":   "dicaxon: 1\nlayout: team/one\ntitle: T\nbuilds-on: [../two]\n",
		"cycle/two/layout.yaml":   "dicaxon: 1\nlayout: team/two\ntitle: T\nbuilds-on: [../one]\n",
		"absolute/layout.yaml":    "dicaxon: 1\nlayout: team/x\ntitle: T\ntree:\n  /etc/passwd: {role: R.}\n",
	})
	for _, c := range []struct {
		call   string
		status int
		says   string
	}{
		{"check nowhere", 3, "nowhere: there is no such file or folder"},
		{"check file --layout flask/areas", 3, "is a file; name the folder"},
		{"check app --layout flask/area", 2, "did you mean flask/areas?"},
		{"check app --layout flask/nothing", 2, "flask has flask/areas"},
		{"check app --layout ./nowhere", 2, "a layout's folder holds a layout.yaml"},
		{"check app --fail-on eror", 2, "the levels are error, warning, note"},
		{"check app --formta json", 2, "did you mean --format?"},
		{"check app --format jsn", 2, "did you mean json?"},
		{"check a b", 2, "accepts at most 1 arg"},
		{"chekc", 2, "did you mean check?"},
		{"check bad", 2, `dicaxon.yaml:3:5: "layuot" is no key of a project; did you mean "layout"?`},
		{"check syntax", 2, "dicaxon.yaml:1:"},
		{"check escape", 2, `"../x" is no folder of the repository`},
		{"check unknown", 2, "dicaxon.yaml:3:13: there is no layout flask/aeras; did you mean flask/areas?"},
		{"check answer", 2, `flask/areas does not ask for "projct"; did you mean "project"?`},
		{"check huge", 2, "larger than 1024 KiB"},
		{"check bomb", 2, "anchors, aliases, tags and merge keys are not part of the language"},
		{"layouts --check starter", 2, "a starter of team/x does not render: a.tmpl:2:2"},
		{"layouts --check starter/layout.yaml", 2, "does not render"},
		{"layouts --check nul", 2, "holds a NUL"},
		{"layouts --check cycle/one", 2, "builds on itself"},
		{"layouts --check absolute", 2, "is an absolute path"},
		{"layouts --check nowhere", 2, "a layout's folder holds a layout.yaml"},
		{"layouts flask/aeras", 2, "did you mean flask/areas?"},
		{"scaffold", 2, "there is nobody to ask"},
		{"scaffold flask/areas", 2, "there is nobody to ask"},
		{"scaffold python/common new", 2, "is there to be built on"},
		{"scaffold flask/areas full", 2, "is not empty: it holds b; nothing was written"},
		{"scaffold flask/areas file", 2, "is not empty: it is a file"},
		{"scaffold flask/areas new --answer aera=x", 2, `did you mean "area"?`},
		{"scaffold flask/areas new --answer area=My-Area", 2, `"My-Area" is not`},
		{"scaffold flask/areas new --answer area=templates", 2, "has that name for another purpose"},
		{"scaffold flask/areas new --answer area=a,a", 2, `names "a" twice`},
		{"scaffold flask/areas new --answer area", 2, "write it as key=value"},
		{"scaffold ./starter new", 2, "a.tmpl:2:2"},
		{"explain .. --root app --layout flask/areas", 2, "is not in"},
		{"explain app/x --layout flask/areas --root nowhere", 3, "there is no such file or folder"},
		{"identify nowhere", 3, "there is no such file or folder"},
	} {
		o := run(t, dir, strings.Fields(c.call)...)
		if o.status != c.status || !strings.Contains(o.err, c.says) {
			t.Errorf("%s: status %d, said %q; want %d and %q", c.call, o.status, o.err, c.status, c.says)
		}
		if lines := strings.Count(o.err, "\n"); c.status != 0 && (lines < 1 || lines > 2) {
			t.Errorf("%s: %d lines: %q", c.call, lines, o.err)
		}
		if _, err := os.Stat(filepath.Join(dir, "new")); err == nil {
			t.Fatalf("%s left a folder behind", c.call)
		}
	}
}
