//go:build unix

package hostile

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"
)

// flask is a repository that is known, so that its layout's rules run.
func flask(more map[string]string) map[string]string {
	all := map[string]string{"requirements.txt": "flask\n", "run.py": "from app import create_app\n", "app/__init__.py": "from flask import Flask\n\n\ndef create_app():\n    return Flask(__name__)\n"}
	for path, text := range more {
		all[path] = text
	}
	return all
}

// TestFiles checks repositories whose files are not what they seem.
func TestFiles(t *testing.T) {
	secret := "-> " + filepath.Join(world, "secret")
	for name, files := range map[string]map[string]string{
		"settings that are a link":              flask(map[string]string{"dicaxon.yaml": secret}),
		"settings that are the environment":     flask(map[string]string{"dicaxon.yaml": "-> /proc/self/environ"}),
		"settings without an end":               flask(map[string]string{"dicaxon.yaml": "-> /dev/zero"}),
		"settings that are a pipe":              flask(map[string]string{"dicaxon.yaml": "|"}),
		"settings that are a folder":            flask(map[string]string{"dicaxon.yaml/": ""}),
		"accepted findings that are a link":     flask(map[string]string{"dicaxon-accepted.json": secret}),
		"accepted findings without an end":      flask(map[string]string{"dicaxon-accepted.json": "-> /dev/zero"}),
		"accepted findings that are a pipe":     flask(map[string]string{"dicaxon-accepted.json": "|"}),
		"an ignore list that is a pipe":         flask(map[string]string{".gitignore": "|"}),
		"an ignore list that is a link":         flask(map[string]string{".gitignore": secret}),
		"an ignore list below without an end":   flask(map[string]string{"app/.gitignore": "-> /dev/zero"}),
		"a manifest that is a link":             flask(map[string]string{"package.json": secret, "pyproject.toml": secret, "go.mod": secret}),
		"a manifest that is a pipe":             flask(map[string]string{"package.json": "|", "pyproject.toml": "|"}),
		"a module that is a pipe":               flask(map[string]string{"app/views.py": "|"}),
		"a module that is a link out":           flask(map[string]string{"app/views.py": secret}),
		"a module without an end":               flask(map[string]string{"app/views.py": "-> /dev/zero"}),
		"a page that is a link out":             flask(map[string]string{"app/templates/a.html": secret, "app/templates/b.html": `{% include "a.html" %}`}),
		"a folder that is a link out":           flask(map[string]string{"app/berths": "-> " + world}),
		"a folder that is a link to itself":     flask(map[string]string{"app/berths": "-> ."}),
		"links in a circle":                     flask(map[string]string{"a": "-> b", "b": "-> a", "dicaxon.yaml": "-> a"}),
		"a sample that is a link":               flask(map[string]string{".env.example": secret, ".env": secret}),
		"git's folder as a file that leads out": flask(map[string]string{".git": "gitdir: " + world + "\n"}),
		"git's folder as a pipe":                flask(map[string]string{".git": "|"}),
		"git's folder as a link":                flask(map[string]string{".git": "-> /dev/zero"}),
		"git's HEAD as a pipe":                  flask(map[string]string{".git/HEAD": "|", ".git/objects/": "", ".git/refs/": ""}),
		"git's index as a pipe":                 flask(map[string]string{".git/HEAD": "ref: refs/heads/main\n", ".git/index": "|", ".git/objects/": "", ".git/refs/": ""}),
		"git's index without an end":            flask(map[string]string{".git/HEAD": "ref: refs/heads/main\n", ".git/index": "-> /dev/zero", ".git/objects/": "", ".git/refs/": ""}),
		"git's settings as a pipe":              flask(map[string]string{".git/HEAD": "ref: refs/heads/main\n", ".git/config": "|", ".git/objects/": "", ".git/refs/": ""}),
		"git's excludes as a pipe":              flask(map[string]string{".git/HEAD": "ref: refs/heads/main\n", ".git/info/exclude": "|", ".git/objects/": "", ".git/refs/": ""}),
		"git's excludes elsewhere":              flask(map[string]string{".git/HEAD": "ref: refs/heads/main\n", ".git/config": "[core]\n\texcludesFile = /dev/zero\n", ".git/objects/": "", ".git/refs/": ""}),
		"settings that include themselves":      flask(map[string]string{".git/HEAD": "ref: refs/heads/main\n", ".git/config": strings.Repeat("[include]\n\tpath = config\n", 12), ".git/objects/": "", ".git/refs/": ""}),
		"a reference to itself":                 flask(map[string]string{".git/HEAD": "ref: refs/heads/a\n", ".git/refs/heads/a": "ref: refs/heads/b\n", ".git/refs/heads/b": "ref: refs/heads/a\n", ".git/objects/": ""}),
		"borrowed objects in a circle":          flask(map[string]string{".git/HEAD": "ref: refs/heads/main\n", ".git/objects/info/alternates": "../objects\n../../.git/objects\n" + world + "\n/dev/zero\n", ".git/refs/heads/main": strings.Repeat("a", 40) + "\n"}),
		"an index of nonsense":                  flask(map[string]string{".git/HEAD": "ref: refs/heads/main\n", ".git/index": "DIRC\x00\x00\x00\x04\xff\xff\xff\xff" + strings.Repeat("\xff", 400), ".git/objects/": "", ".git/refs/": ""}),
		"JSON 100,000 deep":                     flask(map[string]string{"package.json": strings.Repeat("[", 100_000), "app/static/a.json": strings.Repeat(`{"a":`, 100_000)}),
		"YAML 50,000 deep":                      flask(map[string]string{"docker-compose.yml": strings.Repeat("[", 50_000), "a.yaml": strings.Repeat("- ", 50_000)}),
		"YAML that multiplies":                  flask(map[string]string{"docker-compose.yml": "a: &a [x,x,x,x,x,x,x,x,x]\nb: &b [*a,*a,*a,*a,*a,*a,*a,*a,*a]\nc: &c [*b,*b,*b,*b,*b,*b,*b,*b,*b]\nd: &d [*c,*c,*c,*c,*c,*c,*c,*c,*c]\ne: &e [*d,*d,*d,*d,*d,*d,*d,*d,*d]\nf: &f [*e,*e,*e,*e,*e,*e,*e,*e,*e]\ng: [*f,*f,*f,*f,*f,*f,*f,*f,*f]\n"}),
		"XML with entities":                     flask(map[string]string{"pom.xml": `<!DOCTYPE a [<!ENTITY a "xxxxxxxxxx"><!ENTITY b "&a;&a;&a;&a;&a;"><!ENTITY s SYSTEM "file://` + world + `/secret">]><project><name>&b;&s;</name></project>`}),
		"a module of brackets":                  flask(map[string]string{"app/views.py": strings.Repeat("(", 1<<20), "app/a.js": strings.Repeat("{", 1<<20), "app/b.kt": strings.Repeat("/*", 1<<19)}),
		"a module of one line":                  flask(map[string]string{"app/views.py": "import " + strings.Repeat("a,", 1<<19), "app/b.js": strings.Repeat("import 'a';", 1<<16)}),
		"pages that include each other":         flask(map[string]string{"app/templates/a.html": `{% include "b.html" %}`, "app/templates/b.html": `{% include "a.html" %}`}),
		"modules that import each other":        flask(map[string]string{"app/a.py": "from app import b\n", "app/b.py": "from app import a\n"}),
		"compiler settings in a circle":         {"package.json": `{"name":"a","devDependencies":{"typescript":"5"}}`, "tsconfig.json": `{"extends":"./b.json"}`, "b.json": `{"extends":"./tsconfig.json"}`, "src/a.ts": "import './b'\n"},
		"compiler settings outside":             {"package.json": `{"name":"a"}`, "tsconfig.json": `{"extends":"` + world + `/secret","references":[{"path":"../../../.."}]}`, "src/a.ts": "import '@/b'\n"},
		"workspaces in a circle":                {"package.json": `{"workspaces":["**/*","../*","."]}`, "a/package.json": `{"workspaces":["../*"]}`},
		"modules elsewhere":                     {"go.mod": "module a\n\nreplace b => ../../../../etc\n", "go.work": "use (\n\t..\n\t/etc\n)\n", "a.go": "package a\n\nimport \"b/c\"\n"},
	} {
		t.Run(name, func(t *testing.T) {
			dir := write(t, t.TempDir(), files)
			for _, args := range [][]string{{"check", ".", "--layout", "flask/areas"}, {"check", "."}, {"check", ".", "--staged"}, {"check", ".", "--at", "HEAD"}, {"identify", "."}, {"explain", "app"}, {"check", ".", "--format", "html"}} {
				run(t, dir, args...)
			}
		})
	}
}

// TestShapesOfTrees checks trees that grow in one direction.
func TestShapesOfTrees(t *testing.T) {
	for name, make := range map[string]func(dir string){
		"2,000 folders deep": func(dir string) {
			at := dir
			for range 2000 {
				at += "/d"
			}
			deep(t, dir, 2000)
		},
		"20,000 files in one folder": func(dir string) {
			for i := range 20_000 {
				must(t, os.WriteFile(filepath.Join(dir, fmt.Sprintf("stray%d.xyz", i)), nil, 0o644))
			}
		},
		"2,000 files and 20,000 patterns to ignore": func(dir string) {
			var list strings.Builder
			for i := range 20_000 {
				fmt.Fprintf(&list, "*pattern%d*\nfolder%d/x\n", i, i)
			}
			write(t, dir, map[string]string{".gitignore": list.String()})
			for i := range 2000 {
				must(t, os.WriteFile(filepath.Join(dir, fmt.Sprintf("file%d.txt", i)), nil, 0o644))
			}
		},
		"patterns to ignore that go back and forth": func(dir string) {
			write(t, dir, map[string]string{".gitignore": strings.Repeat("*a", 40) + "b\n" + strings.Repeat("**/a/", 40) + "b\n" + strings.Repeat("[a-z]*", 40) + "0\n", strings.Repeat("a", 250): "", strings.Repeat("a/", 200) + "c": ""})
		},
		"waivers that go back and forth": func(dir string) {
			write(t, dir, map[string]string{"dicaxon.yaml": "dicaxon: 1\nwaivers:\n" + strings.Repeat("  - {kind: extra, path: '"+strings.Repeat("*a", 40)+"b', reason: R.}\n", 50), strings.Repeat("a", 250): ""})
		},
	} {
		t.Run(name, func(t *testing.T) {
			dir := write(t, t.TempDir(), map[string]string{"requirements.txt": "flask\n", "app.py": "from flask import Flask\napp = Flask(__name__)\n"})
			make(dir)
			run(t, dir, "check", ".", "--layout", "flask/areas")
			run(t, dir, "check", ".", "--format", "json", "--no-cache")
			run(t, dir, "explain", "a/b/c/d", "nowhere/at/all")
		})
	}
}

// deep makes a folder within a folder, so often, whose path is longer than a system call
// takes.
func deep(t *testing.T, dir string, n int) {
	t.Helper()
	root, err := os.OpenRoot(dir)
	must(t, err)
	for range n {
		must(t, root.Mkdir("d", 0o755))
		next, err := root.OpenRoot("d")
		must(t, err)
		root.Close()
		root = next
	}
	must(t, root.WriteFile("a.py", []byte("import os\n"), 0o644))
	root.Close()
}

// TestUnreadableElsewhere holds the same of the other commands.
func TestUnreadableElsewhere(t *testing.T) {
	if os.Getuid() == 0 {
		binaryForAll(t)
	}
	for _, args := range [][]string{{"explain", ".", "--layout", "flask/areas", "--format", "json"}, {"identify", ".", "--format", "json"}, {"compare", ".", "flask/areas", "--format", "json"}} {
		t.Run(args[0], func(t *testing.T) {
			dir := write(t, t.TempDir(), flask(map[string]string{"app/berths/views.py": "import os\n"}))
			must(t, os.Chmod(filepath.Join(dir, "app/berths"), 0))
			defer os.Chmod(filepath.Join(dir, "app/berths"), 0o755)
			o := asNobody(t, dir, args...)
			if o.status != 3 || !strings.Contains(o.err, "app/berths/: permission denied") || !strings.Contains(o.out, `"troubles"`) {
				t.Errorf("status %d: %s\n%s", o.status, o.err, tail(o.out))
			}
		})
	}
}

// TestUnreadable holds that what cannot be read is told, in every format, with its status.
func TestUnreadable(t *testing.T) {
	if os.Getuid() == 0 {
		binaryForAll(t)
	}
	for _, format := range []string{"text", "json", "lines", "markdown", "html", "sarif", "junit"} {
		t.Run(format, func(t *testing.T) {
			dir := write(t, t.TempDir(), flask(map[string]string{"app/views.py": "import os\n", "app/berths/views.py": "import os\n", ".gitignore": "x\n"}))
			must(t, os.Chmod(filepath.Join(dir, "app/views.py"), 0))
			must(t, os.Chmod(filepath.Join(dir, "app/berths"), 0))
			defer os.Chmod(filepath.Join(dir, "app/berths"), 0o755)
			o := asNobody(t, dir, "check", ".", "--layout", "flask/areas", "--format", format)
			if o.status != 3 || !strings.Contains(o.err, "app/views.py: permission denied") || !strings.Contains(o.err, "app/berths/: permission denied") {
				t.Errorf("status %d: %s", o.status, o.err)
			}
			if format == "json" && strings.Contains(o.out, `"path": "app/views.py",\n          "line"`) {
				t.Errorf("what cannot be read is judged:\n%s", tail(o.out))
			}
			if !strings.Contains(o.out, "app/berths/") || strings.Count(o.out, "app/views.py") == 0 {
				t.Errorf("it is not told:\n%s", tail(o.out))
			}
		})
	}
}
