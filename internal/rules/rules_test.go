package rules

import (
	"context"
	"fmt"
	"maps"
	"regexp"
	"slices"
	"strings"
	"testing"

	"dicaxon/internal/catalogue"
	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/placement"
	"dicaxon/internal/tree"
	"dicaxon/internal/treetest"
	"dicaxon/internal/workspace"
)

// checked runs the rules of a layout over files and gives each finding as
// "kind path:line". The layout lets everything stand.
func checked(t *testing.T, rules string, files map[string]string, more ...string) []string {
	t.Helper()
	var all []string
	for _, f := range foundIn(t, rules, files, more...) {
		if f.Rule == imported.Name && !strings.Contains(rules, "rule: "+imported.Name) {
			continue // the texts of other cases are short
		}
		line := fmt.Sprintf("%s %s", f.Kind, f.Path)
		if f.Line > 0 {
			line += fmt.Sprintf(":%d", f.Line)
		}
		if f.Message == "" || strings.Contains(f.Message, "%!") {
			t.Errorf("a message is amiss: %+v", f)
		}
		all = append(all, line)
	}
	slices.Sort(all)
	return all
}

// foundIn runs the rules of a layout over files, as checked does.
func foundIn(t *testing.T, rules string, files map[string]string, more ...string) []finding.Finding {
	t.Helper()
	dir := map[string]string{layout.FileName: "dicaxon: 1\nlayout: t/t\ntitle: T\nothers: may\nrules:\n" + indent(rules) + strings.Join(more, "")}
	for path, text := range files {
		if name, ok := strings.CutPrefix(path, "starters/"); ok {
			dir["starters/"+name] = text
		}
	}
	l, err := layout.Resolve(catalogue.Catalogue{Dir: treetest.Make(t, dir)}, ".")
	if err != nil {
		t.Fatal(err)
	}
	kept := maps.Clone(files)
	maps.DeleteFunc(kept, func(path, _ string) bool { return strings.HasPrefix(path, "starters/") })
	r, err := tree.Read(treetest.Make(t, kept), tree.Options{})
	if err != nil {
		t.Fatal(err)
	}
	commonplace, err := catalogue.Catalogue{}.Commonplace()
	if err != nil {
		t.Fatal(err)
	}
	p := &workspace.Project{At: ".", Layout: l, Folder: r.Top, Placement: placement.Pair(placement.Input{Repository: r, Top: r.Top, Layout: l, Commonplace: commonplace})}
	// Every file that begins so was at the top before.
	gone := map[string]string{}
	for at := range kept {
		if was, moved := strings.CutPrefix(at, "moved/"); moved {
			gone[was] = at
		}
	}
	found, err := Run(context.Background(), p, Facts{Gone: func() map[string]string { return gone }})
	if err != nil {
		t.Fatal(err)
	}
	return found
}

func indent(text string) string {
	return "  " + strings.ReplaceAll(strings.TrimSpace(text), "\n", "\n  ") + "\n"
}

type files = map[string]string

// A ruled is what one rule says of some files.
type ruled struct {
	what  string
	rule  string
	files files
	want  []string
}

// The cases of each rule: what is wrong, and what only looks so. A case without
// findings is a tempting one.
var cases = []ruled{
	{"a package that says another folder", "- {rule: package-line, files: 'src/**/*.kt', roots: src/, needed: true}",
		files{"src/gannet/tides/A.kt": "package gannet.berths\n", "src/B.kt": "fun b() = 1\n", "src/gannet/C.kt": "// package gannet\nfun c() = 1\n"},
		[]string{"misdeclared src/B.kt:1", "misdeclared src/gannet/C.kt:1", "misdeclared src/gannet/tides/A.kt:1"}},
	{"packages that fit, one of them in a comment too", "- {rule: package-line, files: 'src/**/*.kt', roots: src/, needed: true}",
		files{"src/gannet/A.kt": "/* package no */\n@file:X\npackage gannet\n", "src/B.kt": "", "src/gannet/tides/C.kt": "package gannet.tides // package no\n"}, nil},
	{"a shared part without folders", "- {rule: package-line, files: 'src/**/*.kt', roots: src/, loose: true}",
		files{"src/A.kt": "package example.gannet\n", "src/tides/B.kt": "package example.gannet.tides\n", "src/crews/C.kt": "package example.gannet.berths\n"}, []string{"misdeclared src/crews/C.kt:1"}},
	{"namespaces below a prefix", `- {rule: package-line, files: 'app/**/*.php', roots: app/, prefix: App}`,
		files{"app/Models/A.php": "<?php\nnamespace App\\Models;\n", "app/Http/B.php": "<?php\nnamespace App\\Models;\n", "app/C.php": "<?php namespace App;\n"}, []string{"misdeclared app/Http/B.php:2"}},
	{"packages of Go", "- {rule: package-line, files: '**/*.go', roots: internal/}",
		files{"internal/tide/a.go": "package tide\n", "internal/tide/a_test.go": "package tide_test\n", "internal/go-berth/b.go": "package berth\n", "internal/x/v2/c.go": "package x\n", "internal/d/d.go": "package main\n", "internal/crew/e.go": "package crews\n", "internal/testdata/f.go": "package p\n", "internal/x/_old/g.go": "package p\n", "internal/pier/a.go": "package pier\n", "internal/pier/b.go": "package berth\n"}, []string{"misdeclared internal/d/d.go:1", "misdeclared internal/pier/b.go:1", "misnamed internal/crew/"}},
	{"two packages in a folder of whichever name", "- {rule: package-line, files: '**/*.go', roots: internal/}",
		files{"a.go": "package ferry\n", "b.go": "package ferry_test\n", "c_test.go": "package ferry_test\n", "gen.go": "//go:build ignore\n\npackage main\n", "doc.go": "package documentation\n", "lib/x.go": "package tides\n", "lib/y.go": "package tides\n", "lib/z.go": "package berths\n", "cmd/run/main.go": "package main\n\nfunc main() {}\n", "cmd/run/more.go": "package main\n"}, []string{"misdeclared b.go:1", "misdeclared lib/z.go:1"}},
	{"a package that is not called as it is used", "- {rule: package-line, files: '**/*.go', roots: internal/}",
		files{"go.mod": "module gannet\n", "a.go": "package a\n\nimport \"gannet/internal/tides\"\n\nvar x = tides.Now() // tide.\n", "internal/tides/t.go": "package tide\n", "b.go": "package a\n\nimport (\n\t\"fmt\"\n\t\"gannet/berths\"\n\t_ \"gannet/crews\"\n\tc \"gannet/crews\"\n)\n\nvar y = pier.Now()\nvar z = c.X\n", "berths/b.go": "package berths\n", "crews/c.go": "package crews\n", "d.go": "package a\n\nimport \"gannet/berths\"\n\nvar e = berths.X\n"}, []string{"dangling b.go:5", "misdeclared internal/tides/t.go:1"}},
	{"a package spelt as one folder", "- {rule: package-line, files: 'src/**/*.kt', roots: src/}",
		files{"src/example.gannet/A.kt": "package example.gannet\n", "src/example.gannet/tides/B.kt": "package example.gannet.tides\n"}, []string{"misnamed src/example.gannet/"}},
	{"all files of a folder say another", "- {rule: package-line, files: 'src/**/*.kt', roots: src/}",
		files{"src/a/A.kt": "package b\n", "src/a/B.kt": "package b\n", "src/c/C.kt": "package d\n\nclass C\n", "src/c/D.kt": "package d\n", "src/E.kt": "import d.C\n", "src/f/F.kt": "package g\n", "src/f/G.kt": "package f\n"}, []string{"misdeclared src/a/", "misdeclared src/f/F.kt:1", "misnamed src/c/"}},
	{"Java that is elsewhere", "- {rule: package-line, files: 'src/**/*.java', roots: src/}", files{"src/gannet/A.java": "package gannet;", "src/gannet/B.java": "package gannet.b;", "src/C.java": "class C {}"}, []string{"misdeclared src/gannet/B.java:1"}},

	{"Kotlin without its ending", "- {rule: ending, files: 'src/**/*', shows: '^(fun|class|package) ', ending: .kt}",
		files{"src/A.txt": "package a\n\nfun a() = 1\n", "src/B": "class B\n", "src/c.kt": "package c\n", "src/notes.txt": "have fun with class\n", "src/d.md": "package d\n", "src/E.text": "// E\nfun e() = 1\n"}, []string{"misdeclared src/A.txt:1", "misdeclared src/B:1", "misdeclared src/E.text:2"}},

	{"keys of folders that are not there", "- {rule: keys-name-folders, files: s.yml, key: models.ferry, folder: models, mark: '+', ending: .sql}",
		files{"s.yml": "models:\n  ferry:\n    mart:\n      +schema: x\n    staging:\n      harbor: {}\n    sea: {}\n", "models/marts/a.sql": "", "models/staging/harbour/b.sql": ""}, []string{"disagrees s.yml:3", "disagrees s.yml:6", "disagrees s.yml:7"}},
	{"keys that are settings", "- {rule: keys-name-folders, files: s.yml, key: models.ferry, folder: models, mark: '+', ending: .sql}",
		files{"s.yml": "models:\n  +docs: x\n  ferry:\n    materialized: view\n    +tags: [a]\n    marts:\n      a:\n        +schema: x\n", "models/marts/a.sql": ""}, nil},
	{"folders without a key", "- {rule: keys-name-folders, files: s.yml, key: models.ferry, folder: models, both: true, mark: '+', ending: .sql}",
		files{"s.yml": "models:\n  ferry:\n    marts: {}\n", "models/marts/a.sql": "", "models/tides/b.sql": ""}, []string{"disagrees models/tides/"}},

	{"entry points that are not there", "- {rule: names-file, files: package.json, keys: [main, types, 'bin.*']}",
		files{"package.json": "{\n\"main\": \"lib/indx.js\",\n\"types\": \"lib/types.d.ts\",\n\"bin\": {\"tides\": \"bin/tides.js\"}}", "lib/index.js": ""}, []string{"dangling package.json:2", "dangling package.json:3", "dangling package.json:4"}},
	{"entry points that are there, built, or no paths", "- {rule: names-file, files: package.json, keys: [main, types, module, homepage]}",
		files{"package.json": `{"main": "./lib", "types": "dist/index.d.ts", "module": "lib/index", "homepage": "https://gannet.example/x"}`, "lib/index.js": ""}, nil},
	{"a page's scripts", "- {rule: dangling}",
		files{"index.html": "<!doctype html><script src=js/a.js></script>\n<script src=js/b.js?v=1></script><script src='https://x.example/c.js'></script>\n<img src=logo.png><a href=nowhere>x</a>", "js/a.js": ""}, []string{"dangling index.html:2", "dangling index.html:3"}},
	{"what an image copies", "- {rule: dangling}",
		files{"Dockerfile": "FROM x\nCOPY requirements.txt src/ /app/\nCOPY --from=b /y /z\nCOPY *.toml $X ./\n", "src/a.py": ""}, []string{"dangling Dockerfile:2"}},
	{"what a command starts", "- {rule: names-file, files: package.json, keys: 'scripts.*', from-words: '^node ([\\w./]+\\.js)'}",
		files{"package.json": "{\"scripts\": {\n\"start\": \"node server.js --port 1\",\n\"test\": \"node --test\",\n\"go\": \"node lib/go.js\"}}", "lib/go.js": ""}, []string{"dangling package.json:2"}},

	{"a name that is repeated otherwise", "- {rule: same-value, values: ['s.yml#name', 's.yml#models.*', 't.json#name']}",
		files{"s.yml": "name: ferry\nmodels:\n  fery: {}\n  +x: y\n", "t.json": "{\"name\": \"boat\"}"}, []string{"disagrees s.yml:3", "disagrees t.json:1"}},
	{"a name that is repeated alike", "- {rule: same-value, values: ['s.yml#name', 't.toml#project.name', 'gone.yml#x'], ignore-case: true}",
		files{"s.yml": "name: tide_tables\n", "t.toml": "[project]\nname = 'tide-tables'\n[other]\nname = 'x'\n"}, nil},

	{"a script before what it needs", "- {rule: order, files: index.html, links: ['libs/*.js', 'models/*.js', app.js]}",
		files{"index.html": "<script src=app.js></script>\n<script src=models/a.js></script>\n<script src=libs/x.js></script>\n<script src=other.js></script>", "app.js": "new App.Tide();\n", "models/a.js": "App.Tide = Lib.extend({});\n", "libs/x.js": "(function(){ root.Lib = {} })()\n", "other.js": "var App = App || {};\n"}, []string{"disagrees index.html:2"}},
	{"one script out of place among many", "- {rule: order, files: p.html, links: [base.js, 'v/*.js']}",
		files{"p.html": "<script src=v/a.js></script>\n<script src=v/b.js></script>\n<script src=v/c.js></script>\n<script src=base.js></script>", "base.js": "class Base {}\n", "v/a.js": "class A extends Base {}\n", "v/b.js": "window.B = Base.extend({});\n", "v/c.js": "(function () { new Base() })();\n"}, []string{"disagrees p.html:4"}},
	{"what is used later may be loaded later", "- {rule: order, files: p.html, links: [base.js, 'v/*.js']}",
		files{"p.html": "<script src=v/a.js></script>\n<script src=base.js></script>", "base.js": "var Base = {};\n", "v/a.js": "$(function () { new Base(); });\nvar a = { b: function () { if (x) { Base() } }, c() { Base() } };\nvar d = () => { Base() };\nfunction e(f) { return Base }\n"}, nil},
	{"scripts in order, one in a comment", "- {rule: order, files: index.html, links: ['libs/*.js', 'models/*.js', app.js]}",
		files{"index.html": "<!-- <script src=app.js></script> -->\n<link rel=preload href=app.js>\n<script src=libs/x.js></script><script src=models/a.js></script><script src=app.js></script>", "app.js": "A()\n", "models/a.js": "window.A = X;\n", "libs/x.js": "var X = 1\n"}, nil},
	{"a library that tells nothing of itself", "- {rule: order, files: p.html, links: ['libs/*.js', app.js]}",
		files{"p.html": "<script src=app.js></script><script src=libs/x.js></script>", "app.js": "X()\n", "libs/x.js": "!function(e){e.X=1}(this)\n"}, []string{"disagrees p.html:1"}},

	{"an area that nothing mounts", "- {rule: wired, files: 'app/<area>/views.py', by: app/__init__.py, line: 'app.register_blueprint(<area>.blueprint)', or: ['<area>.blueprint']}",
		files{"app/__init__.py": "# app.register_blueprint(tides.blueprint)\napp.register_blueprint(\n    crews.blueprint, url_prefix='/crews'\n)\n'tides'\n", "app/tides/views.py": "", "app/crews/views.py": "", "app/crew/views.py": ""}, []string{"unwired app/crew/views.py", "unwired app/tides/views.py"}},
	{"routes that nothing imports", "- {rule: wired, files: 'src/routes/<r>.ts', by: src/app.ts, imports: true}",
		files{"src/app.ts": "import { list } from './routes/tides.js'\n// import './routes/crews'\nconst s = list('./routes/crews')\n", "src/routes/tides.ts": "", "src/routes/crews.ts": ""}, []string{"unwired src/routes/crews.ts"}},
	{"the package itself is no area", "- {rule: wired, files: 'app/<area>/views.py', by: app/__init__.py, imports: true}",
		files{"app/__init__.py": "from app import tides\nfrom . import crews\n", "app/tides/views.py": "", "app/crews/__init__.py": "", "app/crews/views.py": "", "app/berths/views.py": ""}, []string{"unwired app/berths/views.py"}},
	{"all wired", "- {rule: wired, files: 'app/<area>/', by: app/main.py, or: ['from app import <area>']}",
		files{"app/main.py": "from app   import\\\n  tides\n", "app/tides/views.py": ""}, nil},

	{"what no ignore file names", "- {rule: ignored}", files{".gitignore": "*.log\n", ".env": "A=1\n", "node_modules/a/b.js": "", "a/__pycache__/b.pyc": "", "x.log": ""}, []string{"exposed .env", "exposed a/__pycache__/", "exposed node_modules/"}},
	{"many alike", "- {rule: ignored}", files{"a/__pycache__/b.pyc": "", "b/__pycache__/b.pyc": "", "testdata/x.log": "", "c/x.log": ""}, []string{"exposed a/__pycache__/", "exposed c/x.log"}},
	{"a package that is called log", "- {rule: ignored}", files{"log/log.go": "package log\n", "build/x.py": "", ".vscode/settings.json": "{}"}, nil},
	{"what is ignored, and samples", "- {rule: ignored}", files{".gitignore": ".env*\n!.env.example\nnode_modules/\n__pycache__/\n", ".env": "A=1\n", ".env.example": "A=\n", "node_modules/a/b.js": "", "a/__pycache__/b.pyc": "", "logs/.gitkeep": ""}, nil},

	{"the place of a key in a sample", "- {rule: secrets}", files{"a.yml": "# k: '-----BEGIN EC " + "PRIVATE KEY-----\n#   <your key>\n"}, nil},
	{"credentials in settings", "- {rule: secrets}", files{"a.yml": "x: 1\nkey: AKIA" + "IOSFODNN7ABCDEFG\n", "config/b.json": "{\"url\": \"postgres://crew:s3a-l10n@db/ferry\"}", "c.pem": "-----BEGIN RSA " + "PRIVATE KEY-----\n", "deep/er/d.yml": "key: AKIA" + "IOSFODNN7ABCDEFG\n"}, []string{"exposed a.yml:2", "exposed c.pem:1", "exposed config/b.json:1", "exposed deep/er/d.yml:1"}},
	{"what only looks like credentials", "- {rule: secrets}", files{"a.yml": "key: AKIA" + "IOSFODNN7EXAMPLE\nurl: postgres://crew:password@db/ferry\nother: postgres://crew:${PASSWORD}@db/ferry\nmore: postgres://crew:changethis@db/ferry\nsame: postgres://gannet:gannet@db/ferry\nakia: AKIA123\nsha: 3f786850e387550fdab836ed7e6dc881de23001b\n"}, nil},

	{"a sample that lags behind", "- {rule: sample-of, sample: .env.example, real: .env}", files{".gitignore": ".env\n", ".env": "A=1\nNEW=2\n", ".env.example": "A=\nOLD=\nAPI_TOKEN=9f8a7b6c5d4e3f2a1b0c\n"}, []string{"disagrees .env.example", "disagrees .env.example:2", "exposed .env.example:3"}},
	{"a sample without what is new, once", "- {rule: sample-of, sample: .env.example, real: .env}", files{".gitignore": ".env\n", ".env": "A=1\nNEW=2\nQUAY=3\n", ".env.example": "A=\nOLD=\nPIER=\n"}, []string{"disagrees .env.example", "disagrees .env.example:2"}},
	{"a key that one of two misspells", "- {rule: sample-of, sample: .env.example, real: .env}", files{".gitignore": ".env\n", ".env": "A=1\nTIDE_URL=2\n", ".env.example": "A=\nTIED_URL=\n"}, []string{"disagrees .env.example:2"}},
	{"a sample that keeps up", "- {rule: sample-of, sample: .env.example, real: .env}", files{".gitignore": ".env\n", ".env": "A=1\n# B=2\nTOKEN='x'\n", ".env.example": "# a comment\nA=change-me\nTOKEN=your-token-goes-here-please\n"}, nil},
	{"a sample without the real ones", "- {rule: sample-of, sample: .env.example, real: .env}", files{".env.example": "A=\n"}, nil},

	{"plain components that reach the store", "- {rule: wall, files: 'src/components/**', to: ['src/store.js', 'src/actions/**'], modules: [react-redux]}",
		files{"src/components/A.jsx": "import { s } from '../store';\nimport x from 'react-redux'\n", "src/components/b/B.jsx": "import a from '../../actions/a.js'\n", "src/containers/C.jsx": "import { s } from '../store'", "src/store.js": "", "src/actions/a.js": ""}, []string{"tangled src/components/A.jsx:1", "tangled src/components/b/B.jsx:1"}},
	{"imports on this side, comments, names alike", "- {rule: wall, files: 'src/components/**', to: ['src/store.js'], modules: [redux]}",
		files{"src/components/A.jsx": "// import '../store'\nimport B from './store';\nimport c from 'redux-form';\nconst s = \"import '../store'\"\n", "src/components/store.js": "", "src/store.js": ""}, nil},
	{"one area inside another", "- {rule: wall, files: 'app/<area>/**', to: 'app/<area>/**', apart: area, through: 'app/<area>/__init__.py'}",
		files{"app/tides/views.py": "from app.crews import models\nfrom app import crews\nfrom . import models\n", "app/crews/models.py": "X = 1\n", "app/crews/__init__.py": "", "app/tides/models.py": "", "app/crews/views.py": "from app.crews.models import X\n"}, []string{"tangled app/tides/views.py:1"}},
	{"a module outside its place", "- {rule: only-here, modules: ['package:http/*', dio], files: 'lib/**/*.dart', in: 'lib/services/**'}",
		files{"lib/services/a.dart": "import 'package:http/http.dart';", "lib/screens/b.dart": "import 'package:http/http.dart';\nimport 'package:https/x.dart';\n// import 'dio';"}, []string{"tangled lib/screens/b.dart:1"}},
	{"parts in a circle", "- {rule: no-cycles, files: 'src/<part>/'}",
		files{"src/a/x.js": "import '../b/y'", "src/b/y.js": "import '../c/z'", "src/c/z.js": "import '../a/x'", "src/d/w.js": "import '../a/x'"}, []string{"tangled src/a/x.js:1"}},
	{"no circle", "- {rule: no-cycles, files: 'src/<part>/'}",
		files{"src/a/x.js": "import '../b/y'; import './x2'", "src/a/x2.js": "import './x'", "src/b/y.js": "// import '../a/x'", "src/app.js": "import './a/x'"}, nil},

	{"what two units use lies with one", "- {rule: shared, unit: f, files: 'src/<f>/parts/**', shared: 'src/shared/**', users: 'src/<f>/**'}",
		files{"src/a/v.js": "import './parts/p'; import '../shared/s'", "src/a/parts/p.js": "", "src/b/w.js": "import '../a/parts/p'", "src/shared/s.js": ""}, []string{"misplaced src/a/parts/p.js", "misplaced src/shared/s.js"}},
	{"what everyone uses is shared", "- {rule: shared, unit: f, files: 'src/<f>/parts/**', shared: 'lib/**', users: 'src/<f>/**'}",
		files{"src/a/v.js": "import '../../lib/s'; import './parts/p'", "src/a/parts/p.js": "", "src/b/w.js": "import '../../lib/s'", "lib/s.js": "import './t'", "lib/t.js": ""}, nil},

	{"too much in one file", "- {rule: size, files: 'm/*.go', lines: 3, types: 1, loose: 2}",
		files{"m/a.go": "package m\n\ntype A int\n\ntype B int\n", "m/b.go": "package m\n", "m/c.go": "package m\n"}, []string{"crowded m/", "crowded m/a.go:4", "crowded m/a.go:5"}},
	{"enough in one file", "- {rule: size, files: 'm/*.go', lines: 5, types: 1, loose: 1}", files{"m/a.go": "package m\n\ntype A int\n\n// type B int\n"}, nil},
	{"too many routes", "- {rule: size, files: v.py, matches: 2, of: '^@\\w+\\.route'}", files{"v.py": "@a.route('/')\n# @a.route('/x')\n@a.route('/b')\n@a.route('/c')\n"}, []string{"crowded v.py:4"}},

	{"two ways mixed", "- {rule: one-way, ways: ['src/**/*.test.js', 'tests/**/*.test.js']}", files{"src/a.test.js": "", "src/b/c.test.js": "", "tests/d.test.js": ""}, []string{"crowded tests/d.test.js"}},
	{"one way", "- {rule: one-way, ways: ['src/**/*.test.js', 'tests/**/*.test.js']}", files{"src/a.test.js": "", "tests/helpers.js": ""}, nil},

	{"no test beside it", "- {rule: paired, files: 'src/<m>.js', with: ['src/<m>.test.js', 'tests/<m>.test.js'], except: ['src/*.test.js', src/index.js]}",
		files{"src/tides.js": "", "src/tides.test.js": "", "src/crews.js": "", "tests/crew.test.js": "", "src/index.js": "", "src/berths.js": "", "tests/berths.test.js": ""}, []string{"unpaired src/crews.js"}},
	{"nested packages without their marker", "- {rule: paired, files: 'app/**/<m>.py', with: '<m>.py'}", files{"app/a.py": "", "a.py": ""}, nil},

	{"templates that no handler names", "- {rule: paired, files: 'app/templates/**/*.html', named-in: 'app/*.py', except: 'app/templates/base.html'}",
		files{"app/templates/base.html": "", "app/templates/tides/list.html": "", "app/templates/crew.html": "", "app/views.py": "render_template('tides/list.html')\n# crew.html\nx = 'crew_html'\n"}, []string{"unpaired app/templates/crew.html"}},
	{"private code under a public folder", "- {rule: public, files: 'public/**', names: ['public/**/*.env', 'public/**/server.js'], shows: ['process\\.env\\.\\w*SECRET']}",
		files{"public/a.js": "x\nprocess.env.MY_SECRET\n", "public/b/server.js": "", "public/c.js": "process.env.HOST\n", "private/server.js": "process.env.SECRET"}, []string{"exposed public/a.js:2", "exposed public/b/server.js"}},
	{"values of the framework's starter", "- {rule: default-values, files: package.json, keys: name, values: [my-app]}", files{"package.json": `{"name": "my-app", "x": {"name": "my-app"}}`}, []string{"leftover package.json:1"}},
	{"values of one's own", "- {rule: default-values, files: package.json, keys: name, values: [my-app]}", files{"package.json": `{"name": "my-apple"}`}, nil},

	{"jobs without tags", "- {rule: text, files: 'dags/*.py', where: '@dag', must: ['tags=', 'retries'], must-not: ['SubDag'], says: Jobs have tags.}",
		files{"dags/a.py": "# tags=\n@dag(retries=1)\n", "dags/b.py": "@dag(tags=[], retries=1)\nSubDag()\n", "dags/c.py": "no job\n", "dags/d.py": "@dag(tags=[], retries=2)\n# SubDag\n"}, []string{"substandard dags/a.py", "substandard dags/b.py:2"}},
	{"settings that the house asks for", "- {rule: set-keys, files: package.json, keys: [name, engines.node, 'scripts.*']}", files{"package.json": `{"name": "x", "engines": {"npm": "1"}, "scripts": {"a": "b"}}`}, []string{"substandard package.json"}},
	{"requirements without a version", "- {rule: pinned, files: requirements.txt}", files{"requirements.txt": "flask==3.0\n# x\npytest>=8\ndjango\nx @ https://gannet.example/x.whl\n"}, []string{"substandard requirements.txt:3", "substandard requirements.txt:4"}},
	{"a module that the manifest lacks", "- {rule: declared, files: t.json, keys: types, in: package.json, below: [dependencies, devDependencies], known: [node]}",
		files{"t.json": `{"types": ["node", "jest", "vite/client", "./local"]}`, "package.json": `{"devDependencies": {"vite": "8", "@types/mocha": "1"}}`}, []string{"substandard t.json:1"}},
	{"a module that the manifest has", "- {rule: declared, files: t.json, keys: types, in: package.json, below: [devDependencies]}", files{"t.json": `{"types": ["mocha", "@a/b/c"]}`, "package.json": `{"devDependencies": {"@types/mocha": "1", "@a/b": "1"}}`}, nil},

	{"folders that are no schemas", "- {rule: schemas, files: 'models/<s>/', except: models/sources/, list: schemas.csv}",
		files{"schemas.csv": "schema_name\nstaging\nmarts\n", "models/staging/a.sql": "", "models/mart/b.sql": "", "models/tides/c.sql": "", "models/sources/d.yml": ""}, []string{"disagrees models/mart/", "disagrees models/tides/"}},
	{"no list to compare with", "- {rule: schemas, files: 'models/<s>/', list: schemas.csv}", files{"models/mart/b.sql": ""}, nil},
	{"sources that are models, and folders of no source", "- {rule: sources, files: 'models/sources/*.yml', models: 'models/**/*.sql', folders: 'models/staging/<source>/', source-key: sources.name, schema-key: sources.schema, table-key: sources.tables.name}",
		files{"models/sources/s.yml": "sources:\n  - name: harbour\n    tables:\n      - name: berths\n  - name: wh\n    schema: warehouse\n    tables:\n      - name: sailings\n", "models/warehouse/sailings.sql": "", "models/staging/harbor/stg.sql": "", "models/staging/harbour/stg_berths.sql": ""}, []string{"disagrees models/sources/s.yml:8", "disagrees models/staging/harbor/"}},
	{"a table called as a model in another schema", "- {rule: sources, files: 'models/sources/*.yml', models: 'models/**/*.sql', folders: 'models/staging/<source>/', source-key: sources.name, schema-key: sources.schema, table-key: sources.tables.name}",
		files{"models/sources/s.yml": "sources:\n  - name: harbour\n    tables:\n      - name: sailings\n", "models/warehouse/sailings.sql": "", "models/staging/harbour/a.sql": ""}, nil},
	{"a model read as a source is told where it is declared", "- {rule: reads, files: ['models/marts/*.sql', 'models/warehouse/*.sql'], not-sources: true}",
		files{"models/marts/a.sql": "select * from {{ source('warehouse', 'b') }}\n", "models/warehouse/b.sql": ""}, nil},
	{"parts that do not ask for each other", "- {rule: parts-asked, files: '**/*.kt', manifests: part.txt, named: '\":{:}\"'}",
		files{"app/part.txt": "x(project(\":web\"))\n", "web/part.txt": "x(project(\":domain\"))\n", "domain/part.txt": "", "app/g/A.kt": "package g\n\nimport g.domain.B\nimport g.web.W\n", "domain/g/domain/B.kt": "package g.domain\n\nimport g.web.W\n", "web/g/web/W.kt": "package g.web\n"}, []string{"disagrees domain/g/domain/B.kt:3"}},
	{"marts that read raw tables", "- {rule: reads, files: 'models/marts/*.sql', not-sources: true, not: 'models/staging/**'}",
		files{"models/marts/a.sql": "select * from {{ source('h', 'b') }}\n", "models/marts/b.sql": "{# {{ source('h', 'b') }} #}\nselect * from {{ ref('stg_b') }} join {{ ref('c') }}\n", "models/staging/stg_b.sql": "", "models/warehouse/c.sql": ""}, []string{"disagrees models/marts/a.sql:1", "disagrees models/marts/b.sql:2"}},
}

func TestRules(t *testing.T) {
	told := map[string]bool{}
	for _, c := range cases {
		if got := checked(t, c.rule, c.files); !slices.Equal(got, c.want) {
			t.Errorf("%s\n%s\n got %q\nwant %q", c.what, c.rule, got, c.want)
		}
		told[regexp.MustCompile(`rule: ([\w-]+)`).FindStringSubmatch(c.rule)[1]] = true
	}
	for _, r := range All {
		if !told[r.Name] && r != own && r != recognised {
			t.Errorf("no case shows the rule %s", r.Name)
		}
	}
}

func TestOwn(t *testing.T) {
	tree := "asks:\n  area: {question: Q, shape: snake, default: a, several: true}\ntree:\n  README.md: {role: R., starter: README.md}\n"
	starter := "# Ferry\n\n{{range .areas}}- {{.}}\n{{end}}\nDone.\n"
	for text, want := range map[string][]string{
		"# Ferry\n\n- a\n- b\n\nDone.\n": {"leftover README.md"}, "# Ferry\n\n\nDone.\n\n": {"leftover README.md"},
		"# Ferry\n\nIt ferries.\n": nil, "Our\n# Ferry\n\n\nDone.\n": nil,
	} {
		if got := checked(t, "- {rule: own, files: README.md}", files{"README.md": text, "starters/README.md.tmpl": starter}, tree); !slices.Equal(got, want) {
			t.Errorf("%q: got %q", text, got)
		}
	}
	if got := checked(t, "- {rule: own, files: README.md, beyond: 1}", files{"README.md": "# Ferry\n\n\nDone.\n", "starters/README.md.tmpl": starter}, tree); got != nil {
		t.Errorf("a new project may keep it: %q", got)
	}
}

func TestRecognised(t *testing.T) {
	tree := `tree:
  models/: {role: R., tree: {"*.rb": {role: R., shows: ApplicationRecord}}}
  controllers/: {role: R., tree: {"*_controller.rb": {role: R., shows: "class \\w+Controller"}, "*.rb": {role: R.}}}
`
	got := checked(t, "- {rule: recognised, files: '**/*.rb'}", files{
		"models/tides_controller.rb": "class TidesController\n", "models/tide.rb": "class Tide < ApplicationRecord\n", "models/plain.rb": "class Plain\n",
		"controllers/tides_controller.rb": "class TidesController\n", "controllers/berth.rb": "class Berth < ApplicationRecord\n",
	}, tree)
	if want := []string{"misplaced controllers/berth.rb", "misplaced models/tides_controller.rb"}; !slices.Equal(got, want) {
		t.Errorf("got %q", got)
	}
}

// TestTestsOfOneKind: a folder that the layout keeps for tests of one kind mirrors nothing.
func TestTestsOfOneKind(t *testing.T) {
	tree := "tree:\n  spec/: {role: R., others: may, tree: {requests/: {role: R., others: may}}}\n"
	got := checked(t, "- {rule: mirrored, files: 'spec/**/*.rb', of: 'app/**/*.rb', named: ['{}_spec']}", files{
		"app/a/x.rb": "", "app/a/y.rb": "", "app/b/z.rb": "", "app/b/w.rb": "", "app/b/v.rb": "", "spec/a/x_spec.rb": "", "spec/a/y_spec.rb": "",
		"spec/b/z_spec.rb": "", "spec/b/u_spec.rb": "", "spec/requests/v_spec.rb": "", "spec/a/w_spec.rb": "",
	}, tree)
	if want := []string{"misplaced spec/a/w_spec.rb"}; !slices.Equal(got, want) {
		t.Errorf("got %q", got)
	}
}

// TestRenamed shows what is written where a name in a text was a slip of one that is there.
func TestRenamed(t *testing.T) {
	for rule, c := range map[string]struct {
		files files
		want  []string
	}{
		"- {rule: names, files: '*.py', by: 'render\\(\"([^\"]+)', to: '**/pages/{}'}":                                      {files{"a.py": "render(\"tides/lst.html\")\nrender(\"tides/lst.html\")\n", "x/pages/tides/list.html": ""}, []string{"1 tides/list.html", "2 tides/list.html"}},
		"- {rule: names, files: '*.php', by: 'view\\(\"([^\"]+)', to: 'views/{/}.blade.php'}":                               {files{"a.php": "<?php view(\"tides.lst\");\n", "views/tides/list.blade.php": ""}, []string{"1 tides.list"}},
		"- {rule: names, files: '*.rb', by: 'to: \"([\\w.]+)', to: 'actions/{/}.*'}":                                        {files{"a.rb": "to: \"tides.indx\"\n", "actions/tides/index.rb": ""}, []string{"1 tides.index"}},
		"- {rule: names, files: '*.yml', by: 'role: ([\\w.]+)', own: 'g.toml#name', to: 'roles/{}/'}":                       {files{"g.toml": "name = \"gannet\"\n", "a.yml": "role: gannet.quays\n", "roles/quay/x": ""}, []string{"1 quay"}},
		"- {rule: names, files: '*.py', by: 'url_for\\(\"([\\w.]+)', defined: 'def (\\w+)', owner: 'Blueprint\\(\"(\\w+)'}": {files{"a.py": "b = Blueprint(\"tides\")\ndef table(): pass\nurl_for(\"tides.tabel\")\nurl_for(\"tide.table\")\n"}, []string{"3 tides.table", "4 tides.table"}},
		"- {rule: names, files: '*.tf', by: 'source = \"([^\"]+)', to: './{}/'}":                                            {files{"a.tf": "source = \"./parts/quays\"\n", "parts/quay/x": ""}, []string{"1 ./parts/quay"}},
		"- {rule: names-file, files: s.json, keys: main}":                                                                   {files{"s.json": `{"main": "./src/mian.js"}`, "src/main.js": ""}, []string{"1 ./src/main.js"}},
		"- {rule: names-file, files: w.json, keys: parts}":                                                                  {files{"w.json": `{"parts": ["part/*"]}`, "parts/a/x.js": ""}, []string{"1 parts/"}},
		"- {rule: dangling}": {files{"a.ts": "import './user/users.module'\nimport './plugin/db.js'\nimport './page'\n", "users/users.module.ts": "", "plugins/db.ts": "", "pages/index.ts": ""}, []string{"1 ./users/users.module", "2 ./plugins/db.js", "3 ./pages"}},
		"- {rule: names, files: '*.md', by: 'see (\\S+)', to: '{_}.rb'}": {files{"a.md": "see Tide::Tabel\n", "tide/table.rb": ""}, []string{"1 Tide::Table"}},
	} {
		var got []string
		for _, f := range foundIn(t, rule, c.files) {
			for _, e := range f.Fix {
				got = append(got, fmt.Sprint(e.Line, " ", e.Text))
			}
		}
		if !slices.Equal(got, c.want) {
			t.Errorf("%s: got %q, want %q", rule, got, c.want)
		}
	}
}

// TestComplaints shows what is said of rules that are written wrong.
func TestComplaints(t *testing.T) {
	for rule, says := range map[string]string{
		"- {rule: wierd}":                                      "6:12: \"wierd\" is no rule; did you mean \"wired\"?",
		"- {rule: wall}":                                       `the rule "wall" needs "files"`,
		"- {rule: wall, files: 'a/**', thru: x}":               `"thru" is no option of the rule "wall"`,
		"- {rule: text, files: a, must: '('}":                  `must is no regular expression`,
		"- {rule: names, files: a, by: x, to: a}":              `by has no group`,
		"- {rule: secrets, files: a, by: x+}":                  `by has no group`,
		"- {rule: size, files: a, lines: many}":                `lines is a whole number from 1`,
		"- {rule: wired, files: a, by: b, imports: yes}":       `imports is true or false`,
		"- {rule: size, files: a, bytes: large}":               `"large" is no size; write one as 500 kB or 2 MB`,
		"- {rule: set-keys, files: a, shaped: 'day: dat'}":     `"day: dat" is no key with a shape`,
		"- {rule: wall, files: '../x'}":                        `leaves the folder`,
		"- {rule: order, files: [a, b], links: '<x'}":          `"<" is not closed`,
		"- {rule: ending, files: a, shows: b, ending: [c, d]}": `ending is one value, not a list`,
	} {
		dir := treetest.Make(t, map[string]string{layout.FileName: "dicaxon: 1\nlayout: t/t\ntitle: T\nothers: may\nrules:\n" + indent(rule)})
		l, err := layout.Resolve(catalogue.Catalogue{Dir: dir}, ".")
		if err == nil {
			_, err = Compile(l, nil)
		}
		if err == nil || !strings.Contains(err.Error(), says) || !strings.Contains(err.Error(), ".yaml:6:") {
			t.Errorf("%s: said %v", rule, err)
		}
	}
}

// TestEveryRuleIsUsedAndDocumented: each stands in a built-in layout, and its
// example holds.
func TestEveryRuleIsUsedAndDocumented(t *testing.T) {
	used := map[string]bool{}
	for _, name := range append((catalogue.Catalogue{}).Names(), catalogue.CommonplaceName) {
		l, err := catalogue.Catalogue{}.Layout(name)
		if err != nil {
			t.Fatal(err)
		}
		for _, r := range l.Rules {
			used[r.Rule] = true
		}
	}
	for _, r := range All {
		if !used[r.Name] && !r.Always {
			t.Errorf("no layout uses the rule %s", r.Name)
		}
		if r.Doc == "" || !strings.HasSuffix(r.Doc, ".") || r.Run == nil {
			t.Errorf("%s is not whole", r.Name)
		}
		checked(t, r.Example, files{"a.txt": ""})
	}
}

// TestArrangement holds which rules tell only of where things may stand: what they tell works all the
// same, and a plan may bring it about.
func TestArrangement(t *testing.T) {
	var got []string
	for _, r := range All {
		if r.Arrangement {
			got = append(got, r.Name)
		}
	}
	slices.Sort(got)
	if want := []string{"describes", "home-said", "keys-name-folders", "only-here", "reads", "sample-of", "sources", "wall"}; !slices.Equal(got, want) {
		t.Errorf("they are %q, not %q", got, want)
	}
}
