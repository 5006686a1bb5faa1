package cli_test

import (
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/goccy/go-yaml"

	"dicaxon/internal/treetest"
)

// scaffolds are the options of the calls whose outcome is proved with the real
// toolchains.
var scaffolds = answerOptions(treetest.Answers)

func answerOptions(answers map[string]map[string]string) map[string][]string {
	all := map[string][]string{}
	for layout, given := range answers {
		for key, value := range given {
			all[layout] = append(all[layout], "--answer", key+"="+value)
		}
	}
	return all
}

func scaffolded(t *testing.T, layout string, more ...string) string {
	t.Helper()
	dir := t.TempDir()
	args := append([]string{"scaffold", layout, "new", "--yes"}, more...)
	if o := run(t, dir, args...); o.status != 0 || !strings.Contains(o.out, "First steps:") {
		t.Fatalf("%s: status %d, said %q\n%s", layout, o.status, o.err, o.out)
	}
	return filepath.Join(dir, "new")
}

// TestScaffoldPassesItsOwnCheck holds with and without answers, and the
// project is known for what it is.
func TestScaffoldPassesItsOwnCheck(t *testing.T) {
	for layout, answers := range scaffolds {
		for _, more := range [][]string{nil, answers} {
			root := scaffolded(t, layout, more...)
			if all := found(t, root); len(all) > 0 {
				t.Errorf("%s %v: %v", layout, more, all)
			}
			if o := run(t, root, "identify"); !strings.HasPrefix(o.out, ".  "+layout+"\n") {
				t.Errorf("%s is taken for %s", layout, o.out)
			}
		}
	}
}

func command(t *testing.T, dir, name string, args ...string) {
	t.Helper()
	cmd := exec.Command(name, args...)
	cmd.Dir = dir
	cmd.Env = append(os.Environ(), "GOFLAGS=-mod=mod", "GOWORK=off", "PYTHONDONTWRITEBYTECODE=1")
	if out, err := cmd.CombinedOutput(); err != nil {
		t.Fatalf("%s %v: %v\n%s", name, args, err, out)
	}
}

// python gives an interpreter that has Flask and pytest.
func python(t *testing.T) string {
	t.Helper()
	for _, name := range []string{"python3", "/usr/bin/python3"} {
		if exec.Command(name, "-c", "import flask, pytest, django, fastapi, httpx").Run() == nil {
			return name
		}
	}
	t.Fatal("no Python with Flask, Django and pytest; ./test installs them")
	return ""
}

func TestPythonScaffoldsRunAndPassTheirTests(t *testing.T) {
	py := python(t)
	starts := map[string][]string{
		"flask/areas": {"-m", "flask", "--app", "run", "routes"}, "flask/package": {"-m", "flask", "--app", "run", "routes"},
		"airflow/project": nil, "fastapi/areas": nil,
		"python/script": {"main.py"}, "python/package": {"main.py"}, "python/source": nil,
	}
	for layout, start := range starts {
		for _, more := range [][]string{nil, scaffolds[layout]} {
			root := scaffolded(t, layout, more...)
			command(t, root, py, "-m", "pytest", "-q", "-p", "no:cacheprovider")
			if start != nil { // a package under src/ runs once it is installed
				command(t, root, py, start...)
			}
		}
	}
}

func TestDjangoScaffoldPassesItsTests(t *testing.T) {
	py := python(t)
	for _, more := range [][]string{nil, scaffolds["django/project"]} {
		root := scaffolded(t, "django/project", more...)
		command(t, root, py, "manage.py", "test")
		command(t, root, py, "manage.py", "makemigrations", "--check")
	}
}

// TestDjangosOwnStarterPasses checks what Django itself makes: no error, and
// nothing in it without an explanation.
func TestDjangosOwnStarterPasses(t *testing.T) {
	py := python(t)
	dir := t.TempDir()
	command(t, dir, py, "-m", "django", "startproject", "ferry")
	root := filepath.Join(dir, "ferry")
	command(t, root, py, "manage.py", "startapp", "tides")
	for _, f := range found(t, root) {
		if strings.HasPrefix(f, "error") || strings.Contains(f, "extra") || strings.Contains(f, "misplaced") {
			t.Error(f)
		}
	}
	filepath.WalkDir(root, func(path string, _ os.DirEntry, err error) error {
		if o := run(t, root, "explain", path, "--root", root); o.status != 0 || strings.Contains(o.out, "unknown") {
			t.Errorf("%s: %s%s", path, o.out, o.err)
		}
		return err
	})
}

func TestGoScaffoldsBuildVetAndTest(t *testing.T) {
	for _, layout := range []string{"go/service", "go/command", "go/library"} {
		proveGo(t, layout, nil)
		proveGo(t, layout, scaffolds[layout])
	}
}

func TestJavaScriptScaffoldsPassTheirTests(t *testing.T) {
	for _, layout := range []string{"javascript/beside", "javascript/apart", "node/client-server"} {
		for _, more := range [][]string{nil, scaffolds[layout]} {
			command(t, scaffolded(t, layout, more...), "node", "--test")
		}
	}
}

func TestRustScaffoldsBuildAndTest(t *testing.T) {
	t.Setenv("CARGO_TARGET_DIR", t.TempDir())
	for _, layout := range []string{"rust/crate", "rust/workspace"} {
		for _, more := range [][]string{nil, scaffolds[layout]} {
			command(t, scaffolded(t, layout, more...), "cargo", "test", "--offline", "--quiet")
		}
	}
}

func proveGo(t *testing.T, layout string, more []string) {
	t.Helper()
	root := scaffolded(t, layout, more...)
	command(t, root, "go", "build", "./...")
	command(t, root, "go", "vet", "./...")
	command(t, root, "go", "test", "./...")
	out, err := exec.Command("gofmt", "-l", root).Output()
	if err != nil || len(out) > 0 {
		t.Errorf("not as gofmt writes it: %s %v", out, err)
	}
}

func TestScaffoldSpeaksOnlyOfTheAnswers(t *testing.T) {
	example := regexp.MustCompile(`(?i)\b(todo|lorem|foo|acme|hello|sample)\b`)
	for layout, answers := range scaffolds {
		root := scaffolded(t, layout, answers...)
		filepath.WalkDir(root, func(path string, d os.DirEntry, err error) error {
			if err != nil || d.IsDir() {
				return err
			}
			text, err := os.ReadFile(path)
			if m := example.Find(text); m != nil {
				t.Errorf("%s speaks of %q", path, m)
			}
			if strings.Contains(string(text), "<no value>") {
				t.Errorf("%s has a hole", path)
			}
			return err
		})
	}
}

func TestScaffoldDryRunWritesNothing(t *testing.T) {
	dir := t.TempDir()
	o := run(t, dir, "scaffold", "flask/areas", "new", "--dry-run")
	if o.status != 0 || !strings.Contains(o.out, "Nothing was written") || !strings.Contains(o.out, "views.py") {
		t.Errorf("status %d: %s%s", o.status, o.out, o.err)
	}
	if left, _ := os.ReadDir(dir); len(left) > 0 {
		t.Errorf("left behind: %v", left)
	}
}

func TestScaffoldIntoAnEmptyFolder(t *testing.T) {
	dir := t.TempDir()
	command(t, dir, "git", "init", "--quiet")
	if o := run(t, dir, "scaffold", "dbt/layers", ".", "--yes"); o.status != 0 {
		t.Fatal(o.err)
	}
	if all := found(t, dir); len(all) > 0 {
		t.Error(all)
	}
	if o := run(t, dir, "scaffold", "dbt/layers", ".", "--yes"); o.status != 2 || !strings.Contains(o.err, "nothing was written") {
		t.Errorf("a second time: status %d, %s", o.status, o.err)
	}
}

func TestScaffoldGit(t *testing.T) {
	home := t.TempDir()
	t.Setenv("HOME", home)
	t.Setenv("GIT_CONFIG_NOSYSTEM", "1")
	t.Setenv("GIT_AUTHOR_NAME", "")
	dir := t.TempDir()
	// Without a name git refuses to commit, and nothing may be left.
	t.Setenv("GIT_CONFIG_COUNT", "1")
	t.Setenv("GIT_CONFIG_KEY_0", "user.useConfigOnly")
	t.Setenv("GIT_CONFIG_VALUE_0", "true")
	if o := run(t, dir, "scaffold", "dbt/layers", "new", "--yes", "--git"); o.status != 3 || !strings.Contains(o.err, "git commit failed") {
		t.Errorf("status %d, said %q", o.status, o.err)
	}
	if left, _ := os.ReadDir(dir); len(left) > 0 {
		t.Fatalf("left behind: %v", left)
	}
	os.Unsetenv("GIT_AUTHOR_NAME")
	treetest.Add(t, home, map[string]string{".gitconfig": "[user]\n\tname = Crew\n\temail = crew@gannet.example\n"})
	if o := run(t, dir, "scaffold", "dbt/layers", "new", "--yes", "--git"); o.status != 0 {
		t.Fatal(o.err)
	}
	out, err := exec.Command("git", "-C", filepath.Join(dir, "new"), "status", "--porcelain", "--branch").Output()
	if err != nil || strings.Count(string(out), "\n") != 1 {
		t.Errorf("the commit leaves something out: %s %v", out, err)
	}
	clone := filepath.Join(dir, "clone")
	command(t, dir, "git", "clone", "--quiet", "new", "clone")
	if all := found(t, clone); len(all) > 0 {
		t.Errorf("a fresh clone, where empty folders are gone: %v", all)
	}
}

func TestScaffoldAsks(t *testing.T) {
	dir := t.TempDir()
	// script gives the program a terminal of its own.
	cmd := exec.Command("script", "-qec", binary+" scaffold", "/dev/null")
	cmd.Dir = dir
	cmd.Stdin = strings.NewReader("99\nflask/areas\nferry-app\nFerry\nferry\nsailings, berths\n")
	o := finish(t, cmd)
	for _, want := range []string{"the numbers go from 1 to", "Folder of the project", "is written in snake case", "[app]", "Made 18 files"} {
		if !strings.Contains(o.out, want) {
			t.Errorf("%q is not said in\n%s%s", want, o.out, o.err)
		}
	}
	if all := found(t, filepath.Join(dir, "ferry-app")); len(all) > 0 {
		t.Error(all)
	}
}

// dbtProof reads a dbt project as dbt's own parts do: every template by
// Jinja2, and the models, with their references put in, by a real database.
const dbtProof = `
import pathlib, re, sqlite3, sys
import jinja2
root = pathlib.Path(sys.argv[1])
parser = jinja2.Environment(extensions=["jinja2.ext.do"])
for path in root.rglob("*.sql"):
    parser.parse(path.read_text())
db = sqlite3.connect(":memory:")
def table(match):
    name = "__".join(re.findall(r"'([^']*)'", match.group(0)))
    if match.group(1) == "source":
        db.execute("create table if not exists %s (id)" % name)
    return name
made = 0
for folder in ("staging", "warehouse", "marts"):
    for path in sorted(p for p in (root / "models").rglob("*.sql") if folder in p.relative_to(root).parts):
        sql = re.sub(r"\{\{ *(source|ref)\([^)]*\) *\}\}", table, path.read_text())
        db.execute("create view %s as %s" % (path.stem, sql))
        db.execute("select * from %s" % path.stem).fetchall()
        made += 1
print(made)
`

func TestDbtScaffoldsAreYAMLAndSQL(t *testing.T) {
	for _, layout := range []string{"dbt/layers", "dbt/domains"} {
		proveDbt(t, layout, nil)
		proveDbt(t, layout, scaffolds[layout])
	}
}

func proveDbt(t *testing.T, layout string, more []string) {
	t.Helper()
	py := python(t)
	root := scaffolded(t, layout, more...)
	out, err := exec.Command(py, "-c", dbtProof, root).CombinedOutput()
	if err != nil || strings.TrimSpace(string(out)) == "0" {
		t.Errorf("%v\n%s", err, out)
	}
	filepath.WalkDir(root, func(path string, _ os.DirEntry, err error) error {
		if err == nil && filepath.Ext(path) == ".yml" {
			var value map[string]any
			text, _ := os.ReadFile(path)
			if err := yaml.Unmarshal(text, &value); err != nil || len(value) == 0 {
				t.Errorf("%s: %v", path, err)
			}
		}
		return err
	})
}
