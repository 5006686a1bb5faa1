package app_test

import (
	"context"
	"fmt"
	"maps"
	"os"
	"path"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"dicaxon/internal/app"
	"dicaxon/internal/finding"
	"dicaxon/internal/placement"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
	"dicaxon/internal/scaffoldtest"
	"dicaxon/internal/treetest"
)

// A named is a reference of a small project: the file and line that it stands in,
// what it leads to, and what is written.
type named struct {
	from   string
	line   int
	to     string // a file, or a folder with a slash at its end
	writes string
}

// followed are small projects, one for each way of naming things, in which every
// reference leads somewhere.
var followed = []struct {
	way   string
	files map[string]string
	refs  []named
}{
	{"python", map[string]string{
		"pyproject.toml": "[project]\nname = \"ferry\"\ndependencies = []\n[project.scripts]\nferry = \"ferry.cli:main\"\n", "ferry/__init__.py": "", "ferry/cli.py": "from ferry.tides import table\nfrom . import berths\nfrom .crews.rota import Rota\n\ndef main(): pass\n",
		"ferry/tides/__init__.py": "", "ferry/tides/table.py": "x = 1\n", "ferry/berths.py": "y = 1\n", "ferry/crews/__init__.py": "", "ferry/crews/rota.py": "class Rota: pass\n", "tests/test_tides.py": "import ferry.tides.table\n",
	}, []named{
		{"ferry/cli.py", 1, "ferry/tides/table.py", "ferry.tides import table"}, {"ferry/cli.py", 2, "ferry/berths.py", "import berths"}, {"ferry/cli.py", 3, "ferry/crews/rota.py", ".crews.rota"},
		{"tests/test_tides.py", 1, "ferry/tides/table.py", "ferry.tides.table"}, {"pyproject.toml", 5, "ferry/cli.py", "ferry.cli"},
	}},
	{"javascript", map[string]string{
		"package.json": `{"name": "ferry", "main": "src/index.js",` + "\n" + `"scripts": {"start": "node src/server.js"}}`, "src/index.js": "import { table } from './tides/table.js'\nexport * from './berths'\nconst c = require('./crews')\nimport('./late.js')\nimport pic from './img/pier.svg?raw'\n",
		"src/tides/table.js": "export const table = 1\n", "src/berths.js": "export const b = 1\n", "src/crews/index.js": "module.exports = {}\n", "src/late.js": "", "src/img/pier.svg": "<svg/>", "src/server.js": "new URL('./work.js', import.meta.url)\n", "src/work.js": "",
	}, []named{
		{"src/index.js", 1, "src/tides/table.js", "./tides/table.js"}, {"src/index.js", 2, "src/berths.js", "./berths"}, {"src/index.js", 3, "src/crews/index.js", "./crews"}, {"src/index.js", 4, "src/late.js", "./late.js"}, {"src/index.js", 5, "src/img/pier.svg", "./img/pier.svg"},
		{"src/server.js", 1, "src/work.js", "./work.js"}, {"package.json", 1, "src/index.js", "src/index.js"}, {"package.json", 2, "src/server.js", "src/server.js"},
	}},
	{"typescript", map[string]string{
		"package.json": `{"name": "ferry", "main": "dist/index.js", "scripts": {"build": "tsc"}}`, "tsconfig.json": `{"compilerOptions": {"outDir": "dist", "rootDir": "src", "baseUrl": ".", "paths": {"#tides/*": ["src/tides/*"]}}}`,
		"src/index.ts": "import { table } from '#tides/table'\nimport { Berth } from './berth.js'\nimport type { Crew } from './crew'\n", "src/tides/table.ts": "export const table = 1\n", "src/berth.ts": "export class Berth {}\n", "src/crew.d.ts": "export interface Crew {}\n",
	}, []named{{"src/index.ts", 1, "src/tides/table.ts", "#tides/table"}, {"src/index.ts", 2, "src/berth.ts", "./berth.js"}, {"src/index.ts", 3, "src/crew.d.ts", "./crew"}, {"package.json", 1, "src/index.ts", "dist/index.js"}}},
	{"go", map[string]string{"go.mod": "module gannet.example/ferry\n\ngo 1.24\n", "main.go": "package main\n\nimport \"gannet.example/ferry/internal/tide\"\n\nfunc main() { tide.X() }\n", "internal/tide/tide.go": "package tide\n\nfunc X() {}\n"},
		[]named{{"main.go", 3, "internal/tide/", "internal/tide"}}},
	{"kotlin", map[string]string{"build.gradle.kts": "", "src/main/kotlin/example/gannet/Main.kt": "package example.gannet\n\nimport example.gannet.tides.Table\n\nfun main() { Table() }\n", "src/main/kotlin/example/gannet/tides/Table.kt": "package example.gannet.tides\n\nclass Table\n", "src/main/kotlin/example/gannet/tides/Moon.kt": "package example.gannet.tides\n\nclass Moon\n"},
		[]named{{"src/main/kotlin/example/gannet/Main.kt", 3, "src/main/kotlin/example/gannet/tides/Table.kt", "tides.Table"}}},
	{"java", map[string]string{"pom.xml": "<project/>", "src/main/java/example/gannet/Main.java": "package example.gannet;\n\nimport example.gannet.tides.Table;\n\nclass Main { Table t; }\n", "src/main/java/example/gannet/tides/Table.java": "package example.gannet.tides;\n\npublic class Table {}\n", "src/main/java/example/gannet/tides/Moon.java": "package example.gannet.tides;\n\npublic class Moon {}\n"},
		[]named{{"src/main/java/example/gannet/Main.java", 3, "src/main/java/example/gannet/tides/Table.java", "tides.Table"}}},
	{"php", map[string]string{"composer.json": `{"autoload": {"psr-4": {"App\\": "app/"}}}`, "app/Berths/Plan.php": "<?php\n\nnamespace App\\Berths;\n\nuse App\\Tides\\Table;\n\nclass Plan { function f() { return \\App\\Tides\\Moon::class; } }\n", "app/Tides/Table.php": "<?php\n\nnamespace App\\Tides;\n\nclass Table {}\n", "app/Tides/Moon.php": "<?php\n\nnamespace App\\Tides;\n\nclass Moon {}\n", "index.php": "<?php\nrequire __DIR__ . '/app/start.php';\n", "app/start.php": "<?php\n"},
		[]named{{"app/Berths/Plan.php", 5, "app/Tides/Table.php", `App\Tides\Table`}, {"app/Berths/Plan.php", 7, "app/Tides/Moon.php", `App\Tides\Moon`}, {"index.php", 2, "app/start.php", "/app/start.php"}}},
	{"ruby", map[string]string{"lib/ferry.rb": "require_relative 'ferry/tides'\nrequire 'ferry/berths'\n", "lib/ferry/tides.rb": "", "lib/ferry/berths.rb": "", "lib/ferry/berthing.rb": ""},
		[]named{{"lib/ferry.rb", 1, "lib/ferry/tides.rb", "ferry/tides"}, {"lib/ferry.rb", 2, "lib/ferry/berths.rb", "ferry/berths"}}},
	{"dart", map[string]string{"pubspec.yaml": "name: ferry\ndependencies:\n  x: 1\nflutter:\n  assets:\n    - assets/pier.png\n", "assets/pier.png": "", "lib/main.dart": "import 'package:ferry/tides/table.dart';\nimport 'berths.dart';\npart 'crew.dart';\n", "lib/tides/table.dart": "", "lib/berths.dart": "", "lib/crew.dart": "part of 'main.dart';\n"},
		[]named{{"lib/main.dart", 1, "lib/tides/table.dart", "package:ferry/tides/table.dart"}, {"lib/main.dart", 2, "lib/berths.dart", "berths.dart"}, {"lib/main.dart", 3, "lib/crew.dart", "crew.dart"}, {"pubspec.yaml", 6, "assets/pier.png", "assets/pier.png"}}},
	{"csharp", map[string]string{"src/Ferry/Ferry.csproj": "<Project Sdk=\"x\"></Project>", "src/Ferry/Program.cs": "using Ferry.Tides;\n\nnamespace Ferry;\n\nclass P {}\n", "src/Ferry/Tides/Table.cs": "namespace Ferry.Tides;\n\nclass Table {}\n", "test/Ferry.Tests/Ferry.Tests.csproj": "<Project>\n<ItemGroup><ProjectReference Include=\"..\\..\\src\\Ferry\\Ferry.csproj\" /></ItemGroup></Project>"},
		[]named{{"src/Ferry/Program.cs", 1, "src/Ferry/Tides/", "Ferry.Tides"}, {"test/Ferry.Tests/Ferry.Tests.csproj", 2, "src/Ferry/Ferry.csproj", `..\..\src\Ferry\Ferry.csproj`}}},
	{"swift", map[string]string{"Package.swift": "// swift\n", "Sources/Tides/T.swift": "struct T {}\n", "Tests/TidesTests/T.swift": "@testable import Tides\n"}, []named{{"Tests/TidesTests/T.swift", 1, "Sources/Tides/", "import Tides"}}},
	{"rust", map[string]string{"Cargo.toml": "[package]\nname = \"ferry\"\n", "src/lib.rs": "mod tides;\npub mod berths;\n", "src/tides.rs": "mod moon;\n", "src/tides/moon.rs": "const X: &str = include_str!(\"x.txt\");\n", "src/tides/x.txt": "", "src/berths/mod.rs": ""},
		[]named{{"src/lib.rs", 1, "src/tides.rs", "tides"}, {"src/lib.rs", 2, "src/berths/mod.rs", "berths"}, {"src/tides.rs", 1, "src/tides/moon.rs", "moon"}, {"src/tides/moon.rs", 1, "src/tides/x.txt", "x.txt"}}},
	{"dbt", map[string]string{"dbt_project.yml": "name: ferry\n", "models/staging/stg_tides.sql": "select 1 from {{ source('harbour', 'tides') }}\n", "models/marts/high_tides.sql": "select 1\nfrom {{ ref('stg_tides') }}\n", "models/staging/sources.yml": "sources:\n  - name: harbour\n    tables:\n      - name: tides\n"},
		[]named{{"models/marts/high_tides.sql", 2, "models/staging/stg_tides.sql", "stg_tides"}, {"models/staging/stg_tides.sql", 1, "", "'tides'"}}},
	{"pages", map[string]string{"index.html": "<!doctype html>\n<link rel=stylesheet href=css/pier.css>\n<script src=\"js/tides.js\"></script>\n<img src='img/boat.png'>\n", "css/pier.css": "@import './base.css';\na { background: url(../img/boat.png) }\n", "css/base.css": "", "js/tides.js": "", "img/boat.png": "", "README.md": "[Tides](docs/tides.md)\n![boat](img/boat.png)\n", "docs/tides.md": ""},
		[]named{{"index.html", 2, "css/pier.css", "css/pier.css"}, {"index.html", 3, "js/tides.js", "js/tides.js"}, {"index.html", 4, "img/boat.png", "img/boat.png"}, {"css/pier.css", 1, "css/base.css", "./base.css"}, {"css/pier.css", 2, "img/boat.png", "../img/boat.png"}, {"README.md", 1, "docs/tides.md", "docs/tides.md"}, {"README.md", 2, "img/boat.png", "img/boat.png"}}},
	{"settings", map[string]string{"Dockerfile": "FROM x\nCOPY src/ /app\nCOPY config/app.toml /etc\n", "src/a.txt": "", "config/app.toml": "", "requirements-dev.txt": "-r requirements.txt\n", "requirements.txt": "", "compose.yaml": "services:\n  web:\n    build: ./web\n", "web/Dockerfile": "FROM x\n", "Cargo.toml": "[workspace]\nmembers = [\"tides\"]\n", "tides/Cargo.toml": "[package]\n"},
		[]named{{"Dockerfile", 2, "src/", "src/"}, {"Dockerfile", 3, "config/app.toml", "config/app.toml"}, {"requirements-dev.txt", 1, "requirements.txt", "requirements.txt"}, {"compose.yaml", 3, "web/", "./web"}, {"Cargo.toml", 2, "tides/", "tides"}}},
}

// danglingAt gives the places of findings of the kind, "path:line", and the paths
// of those that are folded into one.
func danglingAt(t *testing.T, files map[string]string) []string {
	t.Helper()
	r, err := app.Check(context.Background(), treetest.Make(t, files), app.Options{Only: []string{"dangling"}})
	if err != nil {
		t.Fatal(err)
	}
	var all []string
	for _, p := range r.Projects {
		for _, f := range p.Findings {
			all = append(all, fmt.Sprintf("%s:%d", f.Path, f.Line))
			if f.Kind == finding.Misplaced && f.Other != nil { // it is told where it lies
				all = append(all, fmt.Sprintf("%s:%d", f.Other.Path, f.Other.Line))
			} else if f.Kind != finding.Dangling || f.Message == "" {
				t.Errorf("%+v", f)
			}
			for _, also := range f.Also {
				all = append(all, also)
			}
		}
	}
	return all
}

// TestReferencesThatLeadNowhere breaks every reference of the small projects in
// every way that people do, one at a time, and looks whether it is told at its line.
func TestReferencesThatLeadNowhere(t *testing.T) {
	told, all := 0, 0
	for _, p := range followed {
		if got := danglingAt(t, p.files); len(got) > 0 {
			t.Errorf("%s, in order: %v", p.way, got)
		}
		for _, r := range p.refs {
			for _, way := range []string{"renamed", "deleted", "misspelt", "moved away"} {
				broken := breakRef(p.files, r, way)
				if broken == nil {
					continue
				}
				all++
				want := fmt.Sprintf("%s:%d", r.from, r.line)
				got := danglingAt(t, broken)
				if slices.Contains(got, want) || slices.Contains(got, r.from) || slices.Contains(got, r.writes) {
					told++
				} else {
					t.Logf("%s: %s of %s, %s: told %v", p.way, r.writes, want, way, got)
				}
			}
		}
	}
	t.Logf("%d of %d", told, all)
	if float64(told) < 0.97*float64(all) || all < 130 {
		t.Errorf("%d of %d were told, less than 0.97", told, all)
	}
}

// breakRef breaks a reference; nil where it cannot be broken in that way.
func breakRef(files map[string]string, r named, way string) map[string]string {
	if keeps := path.Ext(r.from); way != "deleted" && way != "misspelt" && slices.Contains([]string{".kt", ".java", ".cs"}, keeps) {
		return nil // what a file declares is found there wherever it lies
	}
	broken := maps.Clone(files)
	if way == "misspelt" {
		i := strings.LastIndexFunc(r.writes, func(c rune) bool { return 'a' <= c && c <= 'z' || 'A' <= c && c <= 'Z' })
		if dot := strings.LastIndexByte(r.writes, '.'); dot > 0 && !strings.ContainsAny(r.writes[dot:], `/\`) && len(r.writes)-dot < 8 && strings.HasSuffix(r.to, r.writes[dot:]) {
			i = dot - 1
		}
		lines := strings.SplitAfter(files[r.from], "\n")
		lines[r.line-1] = strings.Replace(lines[r.line-1], r.writes, r.writes[:i+1]+"zq"+r.writes[i+1:], 1)
		broken[r.from] = strings.Join(lines, "")
		return broken
	}
	if r.to == "" {
		return nil
	}
	for at, text := range files {
		if at != r.to && !(strings.HasSuffix(r.to, "/") && strings.HasPrefix(at, r.to)) {
			continue
		}
		delete(broken, at)
		switch way {
		case "renamed":
			broken[renamed(at, r.to)] = text
		case "moved away":
			broken["attic/"+path.Base(at)] = text
		}
	}
	return broken
}

// renamed gives what a file is called once it, or the folder that is meant, has
// another name.
func renamed(at, to string) string {
	if folder, ok := strings.CutSuffix(to, "/"); ok {
		return folder + "wx" + strings.TrimPrefix(at, folder)
	}
	dir, base := path.Split(at)
	if base == "index.js" || base == "mod.rs" || base == "__init__.py" {
		return strings.TrimSuffix(dir, "/") + "wx/" + base
	}
	return dir + "qw" + base
}

// TestEveryScaffoldTellsBrokenReferences misspells references in what scaffold
// makes, each where its span is, and looks whether each is told at its line. In
// what it makes, none leads nowhere.
func TestEveryScaffoldTellsBrokenReferences(t *testing.T) {
	t.Parallel()
	const most = 8 // of each layout
	told, all, followed, moved := 0, 0, 0, 0
	for _, name := range slices.Sorted(maps.Keys(treetest.Answers)) {
		_, plan := scaffoldtest.Plan(t, name, treetest.Answers[name])
		root := scaffoldtest.Write(t, plan)
		options := app.Options{Layout: name, Only: []string{"dangling"}}
		r, err := app.Check(context.Background(), root, options)
		if err != nil {
			t.Fatal(err)
		}
		if n := len(r.Projects[0].Findings); n > 0 {
			t.Errorf("%s as it is made: %+v", name, r.Projects[0].Findings)
		}
		edges := insideEdges(r)
		step := max(1, len(edges)/most)
		for i := 0; i < len(edges); i += step {
			e := edges[i]
			all++
			if tellsMisspelt(t, root, options, e) {
				told++
			} else {
				t.Logf("%s: %s:%d %q (%s) is not told", name, e.From, e.Ref.Line, e.Ref.Name, e.Ref.Value)
			}
			if e.Ref.Relative == 0 && !strings.HasPrefix(e.Ref.Name, ".") {
				continue // it leads to the same place from anywhere
			}
			moved++
			if tellsMoved(t, root, app.Options{Layout: name}, e) {
				followed++
			} else {
				t.Logf("%s: %s moved, and %q in line %d is not told", name, e.From, e.Ref.Name, e.Ref.Line)
			}
		}
	}
	t.Logf("%d of %d misspelt, %d of %d in files that moved", told, all, followed, moved)
	if float64(followed) < 0.97*float64(moved) || moved < 40 {
		t.Errorf("%d of %d in files that moved were told, less than 0.97", followed, moved)
	}
	if float64(told) < 0.97*float64(all) || all < 150 {
		t.Errorf("%d of %d were told, less than 0.97", told, all)
	}
}

// tellsMoved moves the file of a reference one folder further down, looks whether the
// reference is told there, or the file itself as one that belongs where it was, and
// puts it back.
func tellsMoved(t *testing.T, root string, options app.Options, e refs.Edge) bool {
	t.Helper()
	to := path.Join(path.Dir(e.From), "pierhead", path.Base(e.From))
	from, there := filepath.Join(root, filepath.FromSlash(e.From)), filepath.Join(root, filepath.FromSlash(to))
	for _, err := range []error{os.Mkdir(filepath.Dir(there), 0o755), os.Rename(from, there)} {
		if err != nil {
			t.Fatal(err)
		}
	}
	defer func() {
		for _, err := range []error{os.Rename(there, from), os.Remove(filepath.Dir(there))} {
			if err != nil {
				t.Fatal(err)
			}
		}
	}()
	r, err := app.Check(context.Background(), root, options)
	if err != nil {
		t.Fatal(err)
	}
	return slices.ContainsFunc(r.Projects[0].Findings, func(f finding.Finding) bool {
		return f.Path == to && (f.Line == e.Ref.Line && f.Kind == finding.Dangling || f.Home == e.From) || f.Meant == to && f.Back == e.From || slices.Contains(f.Also, to)
	})
}

// insideEdges lists the references of a project's files that lead to a file of it,
// as the language has it.
func insideEdges(r *app.Report) []refs.Edge {
	var all []refs.Edge
	g := r.Projects[0].Placement.Graph
	seen := map[string]bool{}
	placement.Files{Placement: r.Projects[0].Placement}.Each(func(at string) {
		for _, e := range g.From(at) {
			key := fmt.Sprint(e.From, e.Ref.Span)
			if len(e.To) > 0 && e.Own && e.How == lang.Exactly && e.Ref.Span.Len() > 3 && !seen[key] {
				seen[key] = true
				all = append(all, e)
			}
		}
	})
	return all
}

// tellsMisspelt misspells a reference in its file, looks whether that is told, and
// puts the file back.
func tellsMisspelt(t *testing.T, root string, options app.Options, e refs.Edge) bool {
	t.Helper()
	at := filepath.Join(root, filepath.FromSlash(e.From))
	text, err := os.ReadFile(at)
	if err != nil {
		t.Fatal(err)
	}
	written := string(e.Ref.Span.In(text))
	written = strings.TrimSuffix(written, "/")
	i := len(strings.TrimSuffix(written, path.Ext(written)))
	if strings.Contains(path.Ext(written), "/") || path.Ext(e.To[0]) != path.Ext(written) {
		i = len(written)
	}
	// A letter too many is the commonest slip.
	from := int(e.Ref.Span.Start) + i
	wrong := slices.Concat(text[:from], text[from-1:from], text[from:])
	if err := os.WriteFile(at, wrong, 0o644); err != nil {
		t.Fatal(err)
	}
	defer func() {
		if err := os.WriteFile(at, text, 0o644); err != nil {
			t.Fatal(err)
		}
	}()
	r, err := app.Check(context.Background(), root, options)
	if err != nil {
		t.Fatal(err)
	}
	return slices.ContainsFunc(r.Projects[0].Findings, func(f finding.Finding) bool {
		return f.Path == e.From && (f.Line == e.Ref.Line || e.Ref.ValueSpan.Len() > 0 && f.Line > 0) || slices.Contains(f.Also, e.From)
	})
}

// TestWhatWasReadIsRemembered checks a large repository twice: the second time
// nothing is read to find out what it says but what changed, and the same is said.
func TestWhatWasReadIsRemembered(t *testing.T) {
	t.Setenv("XDG_CACHE_HOME", t.TempDir())
	files := map[string]string{"ferry/__init__.py": ""}
	for i := range 600 {
		files[fmt.Sprintf("ferry/pier%d.py", i)] = "from ferry import pier0\nfrom ferry.nowhere import x\n"
	}
	root := treetest.Make(t, files)
	past := time.Now().Add(-time.Hour)
	for at := range files {
		if err := os.Chtimes(filepath.Join(root, filepath.FromSlash(at)), past, past); err != nil {
			t.Fatal(err)
		}
	}
	// The number of the file changed a moment ago, too: that counts as a change.
	time.Sleep(2100 * time.Millisecond)
	only := app.Options{Only: []string{"dangling"}, Remember: true}
	parsed := func(o app.Options) (int, string) {
		r, err := app.Check(context.Background(), root, o)
		if err != nil {
			t.Fatal(err)
		}
		said := ""
		for _, f := range r.Projects[0].Findings {
			said += fmt.Sprintln(f.Path, f.Line, f.Message, f.More)
		}
		return r.Projects[0].Placement.Graph.Parsed(), said
	}
	cold, said := parsed(only)
	if cold < 600 || !strings.Contains(said, "nowhere") {
		t.Errorf("cold: %d read, %s", cold, said)
	}
	if warm, again := parsed(only); warm != 0 || again != said {
		t.Errorf("warm: %d read, %s", warm, again)
	}
	if forgot, again := parsed(app.Options{Only: only.Only}); forgot != cold || again != said {
		t.Errorf("forgetting: %d read", forgot)
	}
	treetest.Add(t, root, map[string]string{"ferry/pier7.py": "from ferry.moon import x\n"})
	if warm, again := parsed(only); warm != 1 || !strings.Contains(again, "moon") {
		t.Errorf("one changed: %d read, %s", warm, again)
	}
}
