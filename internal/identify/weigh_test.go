package identify

import (
	"math"
	"testing"

	"dicaxon/internal/layout"
	"dicaxon/internal/placement"
	"dicaxon/internal/tree"
	"dicaxon/internal/treetest"
)

// TestFits holds what a layout must reach to be taken for a project's: enough in
// all, half of what it wants, and a place for two fifths of what is there; one that no framework speaks for, also
// nearly all that must be there.
func TestFits(t *testing.T) {
	for _, c := range []struct {
		score, wanted, placed float64
		general               bool
		lacks                 int
		want                  bool
	}{
		{score: 0.60, wanted: 0.50, placed: 0.40, want: true}, {score: 1, wanted: 1, placed: 1, want: true},
		{score: 0.59, wanted: 1, placed: 1}, {score: 1, wanted: 0.49, placed: 1}, {score: 1, wanted: 1, placed: 0.39},
		{score: 1, wanted: 1, placed: 1, lacks: 2, want: true}, {score: 1, wanted: 1, placed: 1, general: true, lacks: 1, want: true},
		{score: 1, wanted: 1, placed: 1, general: true, lacks: 2},
	} {
		if got := (&Candidate{Score: c.score, wanted: c.wanted, placed: c.placed, general: c.general, lacks: c.lacks}).fits(); got != c.want {
			t.Errorf("%+v: %v", c, got)
		}
	}
}

// TestScore holds how signs, what is wanted and what has a place make a score.
func TestScore(t *testing.T) {
	for _, c := range []struct{ signs, wanted, settled, strays, explained, score float64 }{
		{4, 1, 10, 0, 0, 1}, {8, 1, 10, 0, 0, 1}, {2, 1, 10, 0, 0, 0.9}, {4, 0.5, 10, 0, 0, 0.8}, {4, 1, 5, 5, 0, 0.8},
		{4, 1, 5, 5, 5, 0.94}, {4, 1, 5, 5, 9, 0.94}, {0, 0, 0, 0, 0, 0},
	} {
		got := Candidate{signs: c.signs, wanted: c.wanted}
		got.weighUp(c.settled, c.strays, c.explained)
		if math.Abs(got.Score-c.score) > 1e-9 {
			t.Errorf("%+v: %v", c, got.Score)
		}
	}
}

// TestWeights holds that a dependency says more than a file, and a file more than
// a folder or a text; and how much what has no place counts.
func TestWeights(t *testing.T) {
	text := &layout.TextSign{File: "*.go", Has: "x"}
	for i, s := range []layout.Sign{{Has: "cmd/"}, {Text: text}, {Has: "go.mod"}, {Text: text, One: true}, {Needs: "flask"}} {
		if got, want := weightOf(s), []float64{1, 1, 2, 2, 3}[i]; got != want {
			t.Errorf("%+v weighs %v, not %v", s, got, want)
		}
	}
	files := map[string]string{"a.txt": "", "many/x": "", "tests/x": ""}
	for _, n := range "abcdefghijklmno" {
		files["many/"+string(n)] = ""
	}
	r, err := tree.Read(treetest.Make(t, files), tree.Options{})
	if err != nil {
		t.Fatal(err)
	}
	var each []float64
	for i := range r.Top.Nodes {
		each = append(each, weigh([]placement.Stray{{Folder: r.Top, Index: i}}))
	}
	if each[0] != 1 || each[1] != 2 || each[2] != 0.5 { // 16 files: 1 + 4/4
		t.Errorf("a file, a folder of 16 files and one of tests weigh %v", each)
	}
	if share(2, 0, 0.7) != 0.7 || share(3, 2, 0) != 1 || share(1, 4, 0) != 0.25 {
		t.Error("a share is wrong")
	}
}

// TestSigns holds what opens the door to a layout, by what bars it.
func TestSigns(t *testing.T) {
	flask := "from flask import Flask\napp = Flask(__name__)\n"
	app := func(more map[string]string) map[string]string {
		all := map[string]string{"requirements.txt": "flask\n", "run.py": "x", "app/__init__.py": flask, "app/tides/__init__.py": "", "app/tides/views.py": "", "app/crews/__init__.py": "", "app/crews/views.py": "", "app/templates/base.html": ""}
		for path, text := range more {
			all[path] = text
		}
		return all
	}
	django := func(settings, apps, app string) map[string]string {
		return map[string]string{"manage.py": "DJANGO_SETTINGS_MODULE", "requirements.txt": "django\n", settings + "/__init__.py": "", settings + "/settings.py": "INSTALLED_APPS = ['" + app + "']\n", settings + "/urls.py": "urlpatterns = []\n", settings + "/wsgi.py": "", apps + "/__init__.py": "",
			apps + "/tides/__init__.py": "", apps + "/tides/apps.py": "AppConfig", apps + "/tides/models.py": "", apps + "/tides/views.py": "", apps + "/crews/__init__.py": "", apps + "/crews/models.py": "", apps + "/templates/base.html": "{% block x %}"}
	}
	for _, c := range []struct {
		name      string
		files     map[string]string
		best      string
		framework string
		others    int // projects below
	}{
		{"a framework without a layout bars the general ones", map[string]string{"package.json": `{"devDependencies": {"svelte": "5"}}`, "src/main.js": "export const x = 1\n", "index.js": "", "README.md": ""}, "", "Svelte", 0},
		{"a framework comes before its language", app(map[string]string{"setup.py": "", "pyproject.toml": "[project]\nname = 'x'\n"}), "flask/areas", "", 0},
		{"tests, examples and what others wrote are no projects", app(map[string]string{"tests/x/go.mod": "module m\n", "tests/x/a.go": "package x\n", "examples/x/go.mod": "module m\n", "examples/x/a.go": "package x\n", "vendor/x/go.mod": "module m\n", "vendor/x/a.go": "package x\n"}), "flask/areas", "", 0},
		{"another module is one", app(map[string]string{"tool/go.mod": "module m\n", "tool/a.go": "package tool\n", "tool/README.md": "x", "tool/a_test.go": "package tool\n"}), "flask/areas", "", 1},
		{"a word within another is no sign", map[string]string{"go.mod": "module m\n", "a.go": "package lib\n\nvar x = plugin.New(\n)\n", "README.md": ""}, "go/library", "", 0},
		{"apps in a package beside that of the settings", django("config", "ferry", "ferry.tides"), "django/package", "", 0},
		{"apps in the package of the settings", django("ferry", "ferry", "ferry.tides"), "django/package", "", 0},
		{"apps in a folder for them", django("config", "apps", "apps.tides"), "django/project", "", 0},
		{"the second is taken where the first does not fit", map[string]string{"requirements.txt": "flask\n", "tide.py": "x = 1\n"}, "", "Flask", 0},
	} {
		found := projects(t, c.files)
		best := ""
		if found[0].Best != nil {
			best = found[0].Best.Layout
		}
		if best != c.best || found[0].Framework != c.framework || len(found) != 1+c.others {
			t.Errorf("%s: %q, framework %q, %d below", c.name, best, found[0].Framework, len(found)-1)
		}
	}
}
