package cli_test

import (
	"encoding/json"
	"encoding/xml"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/goccy/go-yaml"
)

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
		"flask/module": {"-m", "flask", "routes"}, "airflow/project": nil, "fastapi/areas": nil, "fastapi/routers": nil,
		"python/workspace": nil, "python/script": {"main.py"}, "python/package": {"main.py"}, "python/source": nil,
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
	for _, layout := range []string{"django/project", "django/package"} {
		for _, more := range [][]string{nil, scaffolds[layout]} {
			root := scaffolded(t, layout, more...)
			command(t, root, py, "manage.py", "test")
			command(t, root, py, "manage.py", "makemigrations", "--check")
		}
	}
}

// TestDjangosOwnStarterPasses checks what Django itself makes.
func TestDjangosOwnStarterPasses(t *testing.T) {
	py := python(t)
	dir := t.TempDir()
	command(t, dir, py, "-m", "django", "startproject", "ferry")
	root := filepath.Join(dir, "ferry")
	command(t, root, py, "manage.py", "startapp", "tides")
	passes(t, root)
}

func TestGoScaffoldsBuildVetAndTest(t *testing.T) {
	for _, layout := range []string{"go/service", "go/command", "go/library"} {
		proveGo(t, layout, nil)
		proveGo(t, layout, scaffolds[layout])
	}
}

func TestJavaScriptScaffoldsPassTheirTests(t *testing.T) {
	for _, layout := range []string{"javascript/beside", "javascript/apart", "node/client-server", "electron/app"} {
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
			wellFormedYAML(t, path)
		}
		return err
	})
}

func wellFormedYAML(t *testing.T, path string) {
	t.Helper()
	var value map[string]any
	text, _ := os.ReadFile(path)
	if err := yaml.Unmarshal(text, &value); err != nil || len(value) == 0 {
		t.Errorf("%s: %v", path, err)
	}
}

// TestJavaScaffoldIsCompiledAndTested does what Maven would: it compiles with
// the JDK and lets JUnit run the tests. Maven's own plug-ins are not to be had.
func TestJavaScaffoldIsCompiledAndTested(t *testing.T) {
	const junit = "/usr/share/java/junit-jupiter-api.jar:/usr/share/java/apiguardian-api.jar:/usr/share/java/opentest4j.jar:/usr/share/java/junit-platform-commons.jar"
	const console = "/usr/share/java/junit-platform-console-standalone.jar:/usr/share/java/junit-platform-console.jar:/usr/share/java/junit-platform-launcher.jar:/usr/share/java/junit-platform-engine.jar:/usr/share/java/junit-platform-reporting.jar:/usr/share/java/junit-jupiter-engine.jar:/usr/share/java/picocli.jar:/usr/share/java/opentest4j-reporting-events.jar:/usr/share/java/opentest4j-reporting-schema.jar"
	var roots []string
	for _, layout := range []string{"java/gradle", "java/maven", "java/modules"} {
		roots = append(roots, scaffolded(t, layout), scaffolded(t, layout, scaffolds[layout]...))
	}
	for _, root := range roots {
		command(t, root, "sh", "-c", "javac -Xlint:all -Werror -d target/classes $(find . -path '*/src/main/*' -name '*.java' -o -path './src/main/*' -name '*.java')")
		command(t, root, "sh", "-c", "javac -cp target/classes:"+junit+" -d target/test-classes $(find . -path '*/src/test/*' -name '*.java')")
		command(t, root, "java", "-cp", console+":"+junit, "org.junit.platform.console.ConsoleLauncher",
			"--class-path", "target/classes:target/test-classes", "--scan-class-path", "target/test-classes", "--fail-if-no-tests")
		if _, err := os.Stat(filepath.Join(root, "pom.xml")); err == nil {
			wellFormedXML(t, filepath.Join(root, "pom.xml"))
		}
	}
}

func wellFormedXML(t *testing.T, path string) {
	t.Helper()
	file, err := os.Open(path)
	if err != nil {
		t.Fatal(err)
	}
	defer file.Close()
	d := xml.NewDecoder(file)
	for {
		if _, err := d.Token(); err == io.EOF {
			return
		} else if err != nil {
			t.Fatalf("%s: %v", path, err)
		}
	}
}

func TestKotlinScaffoldIsCompiledAndTested(t *testing.T) {
	root := scaffolded(t, "kotlin/plain", scaffolds["kotlin/plain"]...)
	command(t, root, "sh", "-c", "mkdir -p build && kotlinc src test -include-runtime -d build/tests.jar")
	command(t, root, "java", "-cp", "build/tests.jar", "example.gannet.tidetables.MainTestKt")
	command(t, root, "java", "-cp", "build/tests.jar", "example.gannet.tidetables.MainKt")
	if all := found(t, root); len(all) > 0 {
		t.Errorf("after the build: %v", all)
	}
}

// TestRailsScaffoldPassesItsTests runs it on the Rails that there is, so it
// takes out the version that the starter asks for.
func TestRailsScaffoldPassesItsTests(t *testing.T) {
	for _, more := range [][]string{nil, scaffolds["rails/app"]} {
		root := scaffolded(t, "rails/app", more...)
		command(t, root, "sh", "-c", `sed -i 's/, "[~>].*//' Gemfile && sed -i "s/load_defaults 8.0/load_defaults $(ruby -e 'puts Gem.loaded_specs["rails"]&.version || Gem::Specification.find_by_name("rails").version' | cut -d. -f1,2)/" config/application.rb`)
		command(t, root, "bundle", "install", "--local", "--quiet")
		command(t, root, "bin/rails", "test")
		command(t, root, "env", "RAILS_ENV=production", "SECRET_KEY_BASE=only-for-this-test", "bin/rails", "runner", "Rails.logger.info :booted")
		if all := found(t, root); len(all) > 0 {
			t.Errorf("after the tests: %v", all)
		}
	}
}

// TestRailsOwnStarterPasses checks what Rails itself makes.
func TestRailsOwnStarterPasses(t *testing.T) {
	dir := t.TempDir()
	command(t, dir, "rails", "new", "ferry", "--skip-bundle", "--skip-webpack-install", "--quiet")
	passes(t, filepath.Join(dir, "ferry"))
}

func TestAnsibleScaffoldRuns(t *testing.T) {
	for _, more := range [][]string{nil, scaffolds["ansible/role"]} {
		root := scaffolded(t, "ansible/role", more...)
		command(t, root, "ansible-playbook", "--syntax-check", "-i", "tests/inventory", "tests/test.yml")
		command(t, root, "sh", "-c", "ansible-playbook -i tests/inventory tests/test.yml -e '{\"new_folder\": \"'$PWD/made'\", \"tide_tables_folder\": \"'$PWD/made'\"}' && rmdir made")
	}
}

func TestAnsibleSitesAndCollectionsAreRead(t *testing.T) {
	for _, more := range [][]string{nil, scaffolds["ansible/site"]} {
		root := scaffolded(t, "ansible/site", more...)
		command(t, root, "ansible-playbook", "--syntax-check", "site.yml")
	}
	for _, more := range [][]string{nil, scaffolds["ansible/collection"]} {
		command(t, scaffolded(t, "ansible/collection", more...), "ansible-galaxy", "collection", "build", "--output-path", t.TempDir())
	}
}

// TestGemScaffoldPassesItsTests runs them as rake would.
func TestGemScaffoldPassesItsTests(t *testing.T) {
	for _, more := range [][]string{nil, scaffolds["ruby/gem"]} {
		root := scaffolded(t, "ruby/gem", more...)
		command(t, root, "sh", "-c", "for test in test/*_test.rb; do ruby -Ilib -Itest $test || exit 1; done")
		command(t, root, "sh", "-c", "gem build *.gemspec && rm *.gem")
	}
}

// TestAnsiblesOwnStarterPasses checks what Ansible itself makes.
func TestAnsiblesOwnStarterPasses(t *testing.T) {
	dir := t.TempDir()
	command(t, dir, "ansible-galaxy", "role", "init", "ferry")
	passes(t, filepath.Join(dir, "ferry"))
}

// passes says that check finds no error, and that nothing is without an
// explanation.
func passes(t *testing.T, root string) {
	t.Helper()
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

// TestScaffoldsParse lets the language itself read the files of starters whose
// framework is not to be had.
func TestScaffoldsParse(t *testing.T) {
	for layout, parse := range map[string]string{
		"php/library":           "find . -name '*.php' -print0 | xargs -0 -n1 php -l",
		"laravel/classic":       "find . -name '*.php' -print0 | xargs -0 -n1 php -l && php -l artisan",
		"laravel/models-folder": "find . -name '*.php' -print0 | xargs -0 -n1 php -l && php -l artisan",
		"hanami/app":            "find . -name '*.rb' -print0 | xargs -0 -n1 ruby -c",
		"hanami/slices":         "find . -name '*.rb' -print0 | xargs -0 -n1 ruby -c",
	} {
		root := scaffolded(t, layout, scaffolds[layout]...)
		command(t, root, "sh", "-c", parse)
		filepath.WalkDir(root, func(path string, _ os.DirEntry, err error) error {
			switch filepath.Ext(path) {
			case ".json":
				text, _ := os.ReadFile(path)
				if !json.Valid(text) {
					t.Errorf("%s is no JSON", path)
				}
			case ".xml":
				wellFormedXML(t, path)
			}
			return err
		})
	}
}
