package cli_test

import (
	"encoding/json"
	"fmt"
	"io/fs"
	"math/rand/v2"
	"os"
	"os/exec"
	"path"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"testing"
)

// javaTests compiles what a scaffold in Java holds, and runs its tests.
const javaTests = `rm -rf target && javac -d target/classes $(find . -path '*/src/main/*' -name '*.java') &&
j=/usr/share/java; javac -cp target/classes:$j/junit-jupiter-api.jar:$j/apiguardian-api.jar:$j/opentest4j.jar:$j/junit-platform-commons.jar -d target/test-classes $(find . -path '*/src/test/*' -name '*.java') && rm -rf target`

// proofs are layouts with what shows that a project of one still runs.
var proofs = []struct {
	layout, ending, proof string
	unit                  string
}{
	{"flask/areas", ".py", "PYTHON -m pytest -q -p no:cacheprovider", "area"},
	{"flask/package", ".py", "PYTHON -m pytest -q -p no:cacheprovider", "audience"},
	{"fastapi/areas", ".py", "PYTHON -m pytest -q -p no:cacheprovider", "area"},
	{"fastapi/routers", ".py", "PYTHON -m pytest -q -p no:cacheprovider", "resource"},
	{"django/project", ".py", "PYTHON manage.py test", "app"},
	{"python/package", ".py", "PYTHON -m pytest -q -p no:cacheprovider", ""},
	{"python/source", ".py", "PYTHON -m pytest -q -p no:cacheprovider", ""},
	{"go/service", ".go", "go vet ./... && go test ./...", "resource"},
	{"go/command", ".go", "go vet ./... && go test ./...", "package"},
	{"javascript/beside", ".js", "node --test", ""},
	{"javascript/apart", ".js", "node --test", ""},
	{"node/client-server", ".js", "node --test", "module"},
	{"rust/crate", ".rs", "cargo test --offline --quiet", ""},
	{"java/maven", ".java", javaTests, ""},
	{"java/modules", ".java", javaTests, "module"},
	{"php/library", ".php", "find . -name '*.php' -print0 | xargs -0 -n1 php -l && php -r 'spl_autoload_register(function ($c) { foreach ((array) json_decode(file_get_contents(\"composer.json\"), true)[\"autoload\"][\"psr-4\"] as $p => $d) { if (strpos($c, $p) === 0) { require $d . str_replace(\"\\\\\", \"/\", substr($c, strlen($p))) . \".php\"; } } }); foreach (new RecursiveIteratorIterator(new RecursiveDirectoryIterator(\"src\")) as $f) { if (substr($f, -4) === \".php\") { require_once $f; } }'", ""},
	{"ruby/gem", ".rb", "for test in $(find test -name '*_test.rb'); do ruby -Ilib -Itest $test || exit 1; done", ""},
}

// TestRegroupedProjectsRun moves files and folders of scaffolded projects at random, adds
// units, and lets the languages themselves say whether the projects still run. Where a plan
// says that something is left to people, it is taken back, and the project runs again.
// REGROUP=N makes N moves of each.
func TestRegroupedProjectsRun(t *testing.T) {
	py := python(t)
	t.Setenv("CARGO_TARGET_DIR", t.TempDir())
	rounds := 2
	if set, err := strconv.Atoi(os.Getenv("REGROUP")); err == nil {
		rounds = set
	}
	moved, left, refused, added := 0, 0, 0, 0
	for _, p := range proofs {
		t.Run(p.layout, func(t *testing.T) {
			root := scaffolded(t, p.layout, scaffolds[p.layout]...)
			prove := func(what string) bool {
				cmd := exec.Command("sh", "-c", strings.ReplaceAll(p.proof, "PYTHON", py))
				cmd.Dir = root
				cmd.Env = append(os.Environ(), "GOFLAGS=-mod=mod", "GOWORK=off", "PYTHONDONTWRITEBYTECODE=1")
				out, err := cmd.CombinedOutput()
				if err != nil {
					t.Errorf("%s: %v\n%s", what, err, out[:min(len(out), 1500)])
				}
				return err == nil
			}
			dice := rand.New(rand.NewPCG(3, uint64(len(p.layout))))
			for i := range rounds {
				from, to := regrouping(t, dice, root, p.ending, i)
				if from == "" {
					continue
				}
				o := run(t, root, "realign", "--map", from+"="+to, "--write", "--format", "json")
				var plan struct{ Groups, Remarks []any }
				if err := json.Unmarshal([]byte(o.out), &plan); err != nil {
					t.Fatalf("%s to %s: %s", from, to, o.err)
				}
				if len(plan.Groups) == 0 { // the language does not allow it
					refused++
					continue
				}
				if len(plan.Remarks) == 0 {
					moved++
					if !prove(fmt.Sprintf("%s to %s", from, to)) {
						return
					}
					continue
				}
				left++
				t.Logf("%s to %s is left: %v", from, to, plan.Remarks[0])
				if o := run(t, root, "undo"); o.status != 0 {
					t.Fatal(o.err)
				}
				if !prove("taken back: " + from) {
					return
				}
			}
			if p.unit == "" {
				return
			}
			for _, name := range []string{"lookouts", "harbour-lights"} {
				o := run(t, root, "add", p.unit, name, "--format", "json")
				var plan struct{ Remarks []any }
				if err := json.Unmarshal([]byte(o.out), &plan); err != nil || o.status > 1 {
					t.Fatalf("add %s %s: %s", p.unit, name, o.err)
				}
				if o.status == 1 {
					t.Logf("add %s %s is not written: %v", p.unit, name, plan.Remarks)
					continue
				}
				if len(plan.Remarks) > 0 {
					t.Logf("add %s %s is left: %v", p.unit, name, plan.Remarks[0])
					if o := run(t, root, "undo"); o.status != 0 {
						t.Fatal(o.err)
					}
					continue
				}
				added++
				if !prove("add " + p.unit + " " + name) {
					return
				}
			}
		})
	}
	t.Logf("%d regroupings run, %d were left to people and taken back, %d refused, %d units added run", moved, left, refused, added)
}

// regrouping picks a file or a folder of code, and a place where nobody looks for it.
func regrouping(t *testing.T, dice *rand.Rand, root, ending string, i int) (from, to string) {
	t.Helper()
	var all []string
	err := filepath.WalkDir(root, func(at string, e fs.DirEntry, err error) error {
		rel, _ := filepath.Rel(root, at)
		rel = filepath.ToSlash(rel)
		switch name := e.Name(); {
		case err != nil:
			return err
		case e.IsDir() && (name == "node_modules" || name == "target" || name == "__pycache__" || name == "migrations" || strings.HasPrefix(name, ".") && rel != "."):
			return fs.SkipDir
		case e.IsDir() || filepath.Ext(name) != ending || !strings.Contains(rel, "/"):
		case slices.Contains([]string{"__init__.py", "conftest.py", "apps.py", "admin.py", "models.py", "settings.py", "mod.rs", "lib.rs", "main.rs", "index.js"}, name):
		default:
			all = append(all, rel)
			if dir := path.Dir(rel); strings.Contains(dir, "/") && !slices.Contains(all, dir) {
				all = append(all, dir)
			}
		}
		return nil
	})
	if err != nil || len(all) == 0 {
		t.Fatal(err, "nothing to move")
	}
	from = all[dice.IntN(len(all))]
	dir, base := path.Dir(from), path.Base(from)
	if strings.Contains(base, ".") || dice.IntN(2) == 0 {
		return from, path.Join(dir, fmt.Sprintf("zone%d", i), base)
	}
	return from, path.Join(dir, base+"kit")
}
