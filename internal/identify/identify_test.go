package identify

import (
	"context"
	"testing"

	"dicaxon/internal/catalogue"
	"dicaxon/internal/layout"
	"dicaxon/internal/tree"
	"dicaxon/internal/treetest"
)

func projects(t *testing.T, files map[string]string) []Root {
	t.Helper()
	id := New(catalogue.Catalogue{})
	r, err := tree.Read(treetest.Make(t, files), tree.Options{Watch: id.Watch})
	if err != nil {
		t.Fatal(err)
	}
	found, err := id.Roots(context.Background(), r)
	if err != nil {
		t.Fatal(err)
	}
	return found
}

func TestProjects(t *testing.T) {
	flask := "from flask import Flask\napp = Flask(__name__)\n"
	for _, c := range []struct {
		name  string
		files map[string]string
		best  string
	}{
		{"nothing", map[string]string{"a.txt": "x"}, ""},
		{"a library in Go is no service", map[string]string{"go.mod": "module m\n", "lib.go": "package lib\n", "lib_test.go": "package lib\n", "README.md": "x"}, "go/library"},
		{"a script with Flask is neither variant", map[string]string{"requirements.txt": "flask\n", "main.py": flask}, ""},
		{"areas", map[string]string{"requirements.txt": "flask\n", "run.py": "x", "app/__init__.py": flask, "app/tides/__init__.py": "", "app/tides/views.py": "", "app/crews/__init__.py": "", "app/crews/views.py": "", "app/templates/base.html": ""}, "flask/areas"},
		{"audiences", map[string]string{"pyproject.toml": "[project]\ndependencies=['flask']\n", "run.py": "x", "app/__init__.py": flask, "app/routes/__init__.py": "", "app/routes/staff.py": "Blueprint(", "app/templates/base.html": ""}, "flask/package"},
		{"the word alone is no dependency", map[string]string{"requirements.txt": "django # not flask\n", "run.py": "x", "app/__init__.py": ""}, ""},
		{"what its pages are made with bars no framework of another language", map[string]string{"requirements.txt": "flask\n", "package.json": `{"dependencies": {"vue": "3"}}`, "run.py": "x", "app/__init__.py": flask, "app/tides/__init__.py": "", "app/tides/views.py": "", "app/crews/__init__.py": "", "app/crews/views.py": "", "app/templates/base.html": ""}, "flask/areas"},
		{"the framework of the server does bar those of pages", map[string]string{"requirements.txt": "flask\n", "package.json": `{"dependencies": {"vue": "3"}}`, "index.html": "<html>", "vite.config.js": "", "src/main.js": "", "src/App.vue": "<template></template>", "src/router/index.js": "", "src/views/HomeView.vue": "<template></template>"}, ""},
		{"an ignored manifest does not count", map[string]string{".gitignore": "dbt_project.yml\n", "dbt_project.yml": "x"}, ""},
	} {
		found := projects(t, c.files)
		got := ""
		if found[0].Best != nil {
			got = found[0].Best.Layout
		}
		if len(found) != 1 || got != c.best {
			t.Errorf("%s: %d projects, first %q, want %q; %+v", c.name, len(found), got, c.best, found[0])
		}
	}
}

func TestNameSet(t *testing.T) {
	var s nameSet
	for _, name := range []string{"go.mod", "requirements*.txt", "package.json", "*.csproj", ""} {
		s.add(name)
	}
	for name, want := range map[string]bool{"go.mod": true, "go.sum": false, "requirements-dev.txt": true, "requirements.md": false, "package.json": true, "": false, "page_01.html": false, "Ferry.csproj": true, "Ferry.cs": false} {
		if s.has(name) != want {
			t.Errorf("%q: %v", name, !want)
		}
	}
}

// TestTextSigns looks once for all signs: exact names, endings and patterns, as
// deep as six folders, and in no ignored one.
func TestTextSigns(t *testing.T) {
	var forms []fileForm
	for _, pattern := range []string{"*.py", "manage.py", "build.gradle*", "*.py", "*Endpoint.cs"} {
		forms = addForm(forms, pattern)
	}
	if len(forms) != 4 {
		t.Fatalf("%d forms", len(forms))
	}
	root := treetest.Make(t, map[string]string{
		".gitignore": "out/\n", "a.py": "one\n", "manage.py": "two\n", "x/build.gradle.kts": "three\n", "x/y/GetEndpoint.cs": "four\n",
		"1/2/3/4/5/6/deep.py": "five\n", "1/2/3/4/5/6/7/deeper.py": "six\n", "out/z.py": "seven\n",
	})
	r, err := tree.Read(root, tree.Options{})
	if err != nil {
		t.Fatal(err)
	}
	c := &clues{repository: r, folder: r.Top, forms: forms}
	for _, x := range []struct{ file, has, want string }{
		{"*.py", "one", "a.py has one"}, {"*.py", "two", "manage.py has two"}, {"manage.py", "two", "manage.py has two"}, {"manage.py", "one", ""},
		{"build.gradle*", "three", "x/build.gradle.kts has three"}, {"*Endpoint.cs", "four", "x/y/GetEndpoint.cs has four"},
		{"*.py", "five", "1/2/3/4/5/6/deep.py has five"}, {"*.py", "six", ""}, {"*.py", "seven", ""},
	} {
		if got := c.findText(&layout.TextSign{File: x.file, Has: x.has}); got != x.want {
			t.Errorf("%s with %s: %q", x.file, x.has, got)
		}
	}
}
