package rules

import (
	"fmt"
	"slices"
	"strings"
	"testing"
)

// TestWhatIsNoSlipAway shows what is said of a thing that is not there, where what was meant has
// quite another name; the edits that put it right, as line and text; and where a file goes back
// to that others ask for.
func TestWhatIsNoSlipAway(t *testing.T) {
	for _, c := range []struct {
		what, rule string
		files      files
		says       string // the end of the message
		fixes      []string
		back       string
	}{
		{"the module that gives what is taken", "- {rule: dangling}", files{"src/a.ts": "import { pool } from './database'\n", "src/db.ts": "export const pool = 1\n", "src/log.ts": "export const log = 1\n"}, "did it mean ./db?", []string{"1 ./db"}, ""},
		{"nothing where two give it", "- {rule: dangling}", files{"src/a.ts": "import { pool } from './database'\n", "src/db.ts": "export const pool = 1\n", "src/log.ts": "export const pool = 1\n"}, "not there", nil, ""},
		{"the module that is called as it is known here", "- {rule: dangling}", files{"src/a.js": "import Header from './parts/top.js'\n", "src/parts/header.js": "export default 1\n", "src/parts/topics.js": ""}, "did it mean ./parts/header.js?", []string{"1 ./parts/header.js"}, ""},
		{"the one that begins alike, and that nothing leads to", "- {rule: dangling}", files{"a.js": "import './src/application.js'\n", "src/app.js": "", "src/x.js": ""}, "did it mean ./src/app.js?", []string{"1 ./src/app.js"}, ""},
		{"one that another has is no more than a guess", "- {rule: dangling}", files{"a.js": "import './src/application.js'\n", "b.js": "import './src/app.js'\n", "src/app.js": "", "src/x.js": ""}, "did it mean ./src/app.js?", nil, ""},
		{"the only one that nothing leads to", "- {rule: dangling}", files{"a.js": "import './parts/start.js'\n", "parts/main.js": "import './x.js'\n", "parts/x.js": ""}, "did it mean ./parts/main.js?", []string{"1 ./parts/main.js"}, ""},
		{"not what comes to it itself", "- {rule: dangling}", files{"src/app.js": "import './gone.js'\n", "src/server.js": "import './app.js'\n"}, "not there", nil, ""},
		{"a way up too many", "- {rule: dangling}", files{"tests/deep/a.test.js": "import '../src/app'\n", "src/app.js": ""}, "did it mean ../../src/app?", []string{"1 ../../src/app"}, ""},
		{"a folder beside, though the one that is named is there", "- {rule: dangling}", files{"a.js": "import './tides/table.js'\n", "tides/x.js": "", "tide/table.js": ""}, "did it mean ./tide/table.js?", []string{"1 ./tide/table.js"}, "tides/table.js"},
		{"the one that names things as if it lay there", "- {rule: dangling}", files{"src/a.js": "import './parts/berths.js'\nimport './parts/x.js'\n", "src/berths.js": "import '../log.js'\n", "log.js": "", "src/parts/x.js": ""}, "did it mean ./berths.js?", []string{"1 ./berths.js"}, "src/parts/berths.js"},
		{"a name that a module has under a longer one", "- {rule: dangling}", files{"a.py": "from b import application\n", "b.py": "app = 1\n"}, "did it mean app?", []string{"1 app"}, ""},
		{"a whole module of Python is known by its name", "- {rule: dangling}", files{"requirements.txt": "", "a.py": "import helpers\n\nhelpers.x()\n", "lib/helpers.py": "def x(): pass\n"}, "did it mean lib/helpers.py?", nil, "helpers.py"},
		{"a package of Go that lies loose", "- {rule: dangling}", files{"go.mod": "module m\n", "cmd/x/main.go": "package main\n\nimport \"m/config\"\n\nfunc main() { config.X() }\n", "config.go": "package config\n"}, "did it mean config.go?", nil, "config/config.go"},
		{"a page a folder too high", "- {rule: names, files: '*.py', by: 'page\\(\"([^\"]+)', to: '**/templates/{}'}", files{"a.py": "page(\"crews/list.html\")\n", "ferry/list.html": "", "ferry/templates/x.html": "", "ferry/templates/list.html": ""}, "did it mean ferry/templates/list.html?", []string{"1 list.html"}, "ferry/templates/crews/list.html"},
		{"the only page there is", "- {rule: names, files: '*.rb', by: 'to: \"([\\w.]+)', to: 'actions/{/}.rb'}", files{"r.rb": "to: \"home.index\"\n", "actions/home/show.rb": ""}, "did it mean actions/home/show.rb?", []string{"1 home.show"}, ""},
		{"a name in another shape", "- {rule: names, files: '*.rb', by: 'to: (\\S+)', to: 'c/{_}.rb'}", files{"r.rb": "to: TideTabel\n", "c/tide_table.rb": ""}, "did it mean c/tide_table.rb?", []string{"1 TideTable"}, ""},
		{"a folder elsewhere", "- {rule: names, files: '**/*.tf', by: 'source = \"([^\"]+)', to: './{}/'}", files{"envs/live/a.tf": "source = \"../modules/quay\"\n", "modules/quay/x.tf": ""}, "did it mean modules/quay?", []string{"1 ../../modules/quay"}, ""},
		{"an application in a folder", "- {rule: names, files: '**/apps.py', by: 'name = \"([\\w.]+)', module: true}", files{"apps/berths/apps.py": "name = \"berths\"\n", "apps/berths/__init__.py": "", "apps/__init__.py": ""}, "did it mean apps/berths?", []string{"1 apps.berths"}, ""},
		{"a module by what it gives", "- {rule: names, files: s.cfg, by: '= (\\S+)', module: true}", files{"s.cfg": "x = board.cmd:main\n", "board/__init__.py": "", "board/cli.py": "def main(): pass\n", "board/log.py": ""}, "did it mean board/cli.py?", []string{"1 board.cli:main"}, ""},
		{"what a compiler writes", "- {rule: names-file, files: package.json, keys: main}", files{"package.json": `{"main": "./dist/indx.js", "scripts": {"build": "tsc"}}`, "tsconfig.json": `{"compilerOptions": {"outDir": "dist", "rootDir": "src"}}`, "src/index.ts": "", ".gitignore": "dist/\n"}, "did it mean dist/index.js?", []string{"1 ./dist/index.js"}, ""},
		{"where the program starts", "- {rule: names-file, files: package.json, keys: main}", files{"package.json": `{"main": "./dist/index.js", "scripts": {"build": "tsc"}}`, "tsconfig.json": `{"compilerOptions": {"outDir": "dist", "rootDir": "src"}}`, "src/server.ts": "import './app'\n", "src/app.ts": "", ".gitignore": "dist/\n"}, "did it mean dist/server.js?", []string{"1 ./dist/server.js"}, ""},
		{"a folder whose name begins alike", "- {rule: names-file, files: c.yml, keys: build}", files{"c.yml": "build: ./back\n", "backend/x.js": "", "front/x.js": ""}, "did it mean backend?", []string{"1 ./backend"}, ""},
		{"a project two folders up", "- {rule: names-file, files: '**/*.json', keys: ref}", files{"tests/a/s.json": `{"ref": "..\\..\\..\\src\\a\\a.csproj"}`, "src/a/a.csproj": ""}, "", nil, ""},
		{"a preset", "- {rule: declared, files: .babelrc, keys: presets, in: package.json, below: [devDependencies]}", files{".babelrc": `{"presets": ["babel-preset-reacts"]}`, "package.json": `{"devDependencies": {"babel-preset-react": "1"}}`}, "did it mean babel-preset-react?", []string{"1 babel-preset-react"}, ""},
		{"a value of a template", "- {rule: value-keys, files: 't/*.yaml', by: '\\.Values\\.([\\w.]+)', in: v.yaml}", files{"t/a.yaml": "x: {{ .Values.quay.tagg }}\n", "v.yaml": "quay:\n  tag: 1\n"}, "did it mean quay.tag?", []string{"1 quay.tag"}, ""},
		{"a folder of settings", "- {rule: keys-name-folders, files: p.yml, key: models, folder: models/, mark: '+'}", files{"p.yml": "models:\n  stagin:\n    +x: 1\n", "models/staging/a.sql": ""}, "the folder is called staging", []string{"2 staging"}, ""},
		{"a table that a source declares", "- {rule: dangling}", files{"dbt_project.yml": "name: x\n", "models/a.sql": "{{ source('pier', 'quay') }}\n", "models/s.yml": "sources:\n  - name: pier\n    tables:\n      - name: quays\n"}, "did it mean pier.quays?", []string{"1 quays"}, ""},
		{"a dependency with a slip", "- {rule: undeclared}", files{"package.json": "{\"name\": \"x\", \"dependencies\": {\n\"tide-tabel\": \"1\"}}", "a.js": "import t from 'tide-table'\n"}, "it asks for tide-tabel, which nothing imports", []string{"2 tide-table"}, ""},
		{"one that is imported, too, has no slip", "- {rule: undeclared}", files{"package.json": "{\"name\": \"x\", \"dependencies\": {\n\"tide-tabel\": \"1\"}}", "a.js": "import t from 'tide-table'\nimport u from 'tide-tabel'\n"}, "does not ask for", nil, ""},
		{"one that the lock has, too, has no slip", "- {rule: undeclared}", files{"package.json": "{\"name\": \"x\", \"dependencies\": {\n\"tide-table\": \"1\"}}", "package-lock.json": "{\"packages\": {\"node_modules/tide-table\": {}}}", "a.js": "import t from 'tide-tables/a'\n"}, "did it mean tide-table?", []string{"1 tide-table"}, ""},
		{"one that the lock has beside it is another", "- {rule: undeclared}", files{"package.json": "{\"name\": \"x\", \"dependencies\": {\n\"colors\": \"1\"}}", "package-lock.json": "{\"node_modules/colors\": {}, \"node_modules/color\": {}}", "a.js": "import t from 'color'\nimport u from 'colors'\n"}, "does not ask for", nil, ""},
		{"the own module with a slip", "- {rule: undeclared}", files{"go.mod": "module gannet.example/line\n\nrequire gannet.example/x v1.0.0\n", "a.go": "package line\n", "x/b.go": "package x\n\nimport \"gannet.example/lines\"\n"}, "did it mean gannet.example/line?", []string{"3 gannet.example/line"}, ""},
		{"a key of the sample that nothing reads", "- {rule: env-keys}", files{".env.example": "A=1\nDATABASE=x\n", "a.go": "package a\n\nvar x = os.Getenv(\"DATABASE_URL\")\n"}, "it names DATABASE, which nothing reads", []string{"2 DATABASE_URL"}, ""},
		{"what moved with its own references", "- {rule: dangling}", files{"src/app.ts": "import './services/tides.js'\n", "src/tides.ts": "import '../types.js'\n", "src/types.ts": "", "src/services/x.ts": "", "src/routes/tides.ts": ""}, "did it mean ./tides.js?", []string{"1 ./tides.js"}, "src/services/tides.ts"},
		{"a part that another does not ask for", "- {rule: parts-asked, files: '**/*.kt', manifests: [build.gradle.kts], named: ['\":{:}\"']}", files{"app/build.gradle.kts": "x(project(\":domain\"))\n", "domain/build.gradle.kts": "", "storage/build.gradle.kts": "x(project(\":domain\"))\n", "app/src/g/Main.kt": "package g\n\nimport g.domain.Quay\nimport g.storage.Quays\n", "domain/src/g/domain/Quay.kt": "package g.domain\n", "storage/src/g/storage/Quays.kt": "package g.storage\n"}, "it imports g.storage.Quays of storage/, which app/build.gradle.kts does not ask for", nil, ""},
		{"a library of the list of versions", "- {rule: names, files: b.gradle, by: 'libs\\.([\\w.]+)', in: l.toml, defined: '(?m)^([\\w-]+) =', loosely: true, near-only: true}", files{"b.gradle": "x(libs.pier.servr)\nx(libs.pier.client)\n", "l.toml": "pier-server = 1\npier-client = 1\n"}, "did it mean pier.server?", []string{"1 pier.server"}, ""},
		{"pages of a folder with another name are one cause", "- {rule: names, files: '*.py', by: 'page\\(\"([^\"]+)', to: '**/pages/{}'}", files{"a.py": "page(\"crews/a.html\")\npage(\"crews/b.html\")\n", "x/pages/crew/a.html": "", "x/pages/crew/b.html": ""}, "did it mean x/pages/crew/a.html?", []string{"1 crew/a.html", "2 crew/b.html"}, "x/pages/crews/a.html"},
		{"a template under another name", "- {rule: paired, files: 'views/**/*.rb', mirrored-in: 'pages/{}.*'}", files{"views/a/index.rb": "", "views/a/show.rb": "", "pages/a/list.html.erb": "", "pages/a/show.html.erb": ""}, "is pages/a/list.html.erb meant?", nil, "pages/a/index.html.erb"},
		{"a constant of one name is called as its file", "- {rule: dangling}", files{"config/application.rb": "", "app/models/sailing.rb": "class Sailing\n  include Timeed\nend\n", "app/models/concerns/timed.rb": "module Timed\nend\n"}, "did it mean app/models/concerns/timed.rb?", []string{"2 Timed"}, ""},
		{"a file of a group has its last name", "- {rule: dangling}", files{"D.xcodeproj/project.pbxproj": "{ objects = {\n A = {isa = PBXFileReference; path = Tides.swift; sourceTree = \"<group>\"; };\n G = {isa = PBXGroup; children = (A); path = D; sourceTree = \"<group>\"; };\n T = {isa = PBXGroup; children = (G); sourceTree = \"<group>\"; };\n}; }\n", "D/Tide.swift": ""}, "did it mean D/Tide.swift?", []string{"2 Tide.swift"}, ""},
		{"an address has the name of the page", "- {rule: addresses, files: 'r/**/*.x', by: 'to=\"(/[^\"]*)', pages: 'r/**/page.x'}", files{"r/page.x": "to=\"/line/berth/7?all\"\nto=\"/line/berth/8\"\n", "r/line/berths/[id]/page.x": ""}, "did it mean /line/berths/7?", []string{"1 berths", "2 berths"}, ""},
		{"a namespace where the house has few files", "- {rule: package-line, files: '**/*.cs', roots: ['a/', 'b/'], rooted-by: '*.csproj'}", files{"a/L.A.csproj": "<Project/>", "a/Tides/X.cs": "namespace L.A.Tide;\n", "b/L.B.csproj": "<Project/>", "b/C/1.cs": "namespace L.B.C;\n", "b/C/2.cs": "namespace L.B.C;\n", "b/C/3.cs": "namespace L.B.C;\n", "b/C/4.cs": "namespace L.B.C;\n"}, "its folder says L.A.Tides", []string{"1 L.A.Tides"}, ""},
		{"a house that leaves folders out of namespaces", "- {rule: package-line, files: '**/*.cs', roots: ['a/', 'b/'], rooted-by: '*.csproj'}", files{"a/L.A.csproj": "<Project/>", "a/Tides/X.cs": "namespace L.A;\n", "b/L.B.csproj": "<Project/>", "b/C/1.cs": "namespace L.B.C;\n", "b/C/2.cs": "namespace L.B.C;\n", "b/C/3.cs": "namespace L.B.C;\n", "b/C/4.cs": "namespace L.B.C;\n"}, "", nil, ""},
		{"a type that others use by the name of the file", "- {rule: class-name, files: '**/*.cs'}", files{"A.cs": "namespace L;\nclass B {}\n", "C.cs": "namespace L;\nclass C { A a = new A(); }\n"}, "its name says A, and so do those that use it", []string{"2 A"}, ""},
		{"a type of a package with a slip", "- {rule: class-name, files: '**/*.java'}", files{"a/TableTest.java": "package a;\nclass TabelTest {}\n", "a/Quay.java": "package a;\nclass Berth {}\n"}, "its name says TableTest, by which it is loaded", []string{"2 TableTest"}, ""},
		{"a method that is called as a file is no type", "- {rule: class-name, files: '**/*.cs'}", files{"List.cs": "namespace L;\nclass ListQuery {}\n", "C.cs": "namespace L;\nclass C { void X(S s) { s.List(); List(1); } }\n"}, "", nil, ""},
		{"a module that only its users name", "- {rule: reached, files: 'src/*.rs', except: 'src/lib.rs', by-word: mod}", files{"Cargo.toml": "[package]\nname = \"a\"\n", "src/lib.rs": "mod crews;\nuse crate::tides::X;\n", "src/tides.rs": "pub struct X;\n", "src/crews.rs": ""}, "no .rs names it, so it is not compiled", nil, ""},
		{"a path in code has the name of the file", "- {rule: quoted}", files{"run.py": "read('harbors.json')\n", "data/harbours.json": ""}, "did it mean data/harbours.json?", []string{"1 harbours.json"}, ""},
		{"an address of a group", "- {rule: names, files: '*.erb', by: 'route\\(\"([\\w.]+)', in: 'r.rb', defined: 'name\\(\"(\\w+)', owner: 'group\\(\"(\\w+)', near-only: true}", files{"a.erb": "route(\"berth.show\")\n", "r.rb": "group(\"berths\")\n"}, "did it mean berths.show?", []string{"1 berths.show"}, ""},
		{"a script as the page loads the others", "- {rule: wired, files: 'js/**/*.js', by: index.html, imports: true}", files{"index.html": "<body>\n  <script src=\"js/m/a.js\"></script>\n  <script src=\"js/v/b.js\"></script>\n</body>\n", "js/m/a.js": "", "js/m/c.js": "", "js/v/b.js": ""}, "nothing in index.html imports it", []string{"3   <script src=\"js/m/c.js\"></script>"}, ""},
		{"a name that nothing in a file gives", "- {rule: imported}", files{"a.js": "const { port } = require('./b')\nlisten(prt, () => prt)\nuse(port)\n", "b.js": "exports.port = 1\n"}, "did it mean port?", []string{"2 port", "2 port"}, ""},
		{"a member that is a slip away", "- {rule: imported}", files{"a.js": "const crews = require('./b')\ncrews.lits()\n", "b.js": "exports.list = 1\n"}, "did it mean list?", []string{"2 list"}, ""},
		{"an import that was forgotten, beside others of the module", "- {rule: imported}", files{"a.js": "import { moon } from './b.js';\nimport x from 'x';\nmoon(x, tide());\n", "b.js": "export const moon = 1\nexport function tide() {}\n"}, "b.js gives that", []string{"1 , tide"}, ""},
		{"one of a module that nothing else is imported from", "- {rule: imported}", files{"v/a.jsx": "import x from \"x\";\nexport default () => <Tide x={x} />;\n", "c/Tide.jsx": "export default function Tide() {}\n"}, "c/Tide.jsx gives that", []string{"1 \nimport Tide from \"../c/Tide\";"}, ""},
		{"one in the older way", "- {rule: imported}", files{"a.js": "const x = require('./c')\nx.y(crews())\n", "b.js": "exports.crews = 1\n", "c.js": "const { crews } = require('./b')\nmodule.exports = { y: crews(1) }\n"}, "b.js gives that", []string{"1 \nconst { crews } = require('./b')"}, ""},
		{"one of Python, as others import it", "- {rule: imported}", files{"f/__init__.py": "", "f/a.py": "import os\n\nos.stat(Berth())\n", "f/b.py": "from f.m import Berth\n\nBerth()\n", "f/m.py": "class Berth:\n    pass\n"}, "f/m.py gives that", []string{"1 \nfrom f.m import Berth"}, ""},
		{"a package of Go", "- {rule: imported}", files{"go.mod": "module m/x\n", "a.go": "package x\n\nimport (\n\t\"fmt\"\n)\n\nvar y = fmt.Sprint(tides.Table())\n", "tides/t.go": "package tides\n\nfunc Table() {}\n"}, "tides/ is a package of that name", []string{"4 \n\t\"m/x/tides\""}, ""},
		{"a unit by what it offers", "- {rule: wired, files: 'p/<part:pascal>/Point.cs', by: 'Program.cs', line: '<part>.Map();', offers: 'static void (Map\\w+)', or: ['<offers>(']}", files{"Program.cs": "app.MapTides();\nRun();\n", "p/Tides/Point.cs": "static void MapTides(this X x)\n", "p/Crews/Point.cs": "static void MapCrews(this X x)\n"}, "it should say app.MapCrews();", []string{"2 app.MapCrews();"}, ""},
		{"a unit by all its names", "- {rule: wired, files: 'p/<part:pascal>/<kind:pascal>/Point.cs', by: 'Program.cs', line: '<kind>Point.Map();', or: ['<part>.<kind>.Point']}", files{"Program.cs": "using P.Tides.List;\nTides.List.Point.Map();\nRun();\n", "p/Tides/List/Point.cs": "", "p/Crews/Open/Point.cs": ""}, "it should say Crews.Open.Point.Map();", []string{"3 Crews.Open.Point.Map();"}, ""},
		{"a unit among others in a list is no line", "- {rule: wired, files: 'p/<part>/x.py', by: m.py, line: 'mount(<part>)', imports: true}", files{"m.py": "from p import tides, crews\n\nfor part in (tides, crews):\n    mount(part)\n", "p/tides/x.py": "", "p/crews/x.py": "", "p/quays/x.py": ""}, "it should say mount(quays)", []string{"1 , quays", "3 , quays"}, ""},
		{"a unit by the name of its file", "- {rule: wired, files: 'p/<part:pascal>/<part><any:pascal>Point.cs', by: 'Program.cs', line: '<part>Point.Map();', or: ['<self>.Map']}", files{"Program.cs": "ListTidesPoint.Map();\nRun();\n", "p/List/ListTidesPoint.cs": "", "p/Open/OpenBerthPoint.cs": ""}, "it should say OpenBerthPoint.Map();", []string{"2 OpenBerthPoint.Map();"}, ""},
	} {
		all := foundIn(t, c.rule, c.files)
		if c.says == "" {
			continue
		}
		if len(all) == 0 {
			t.Errorf("%s: nothing told", c.what)
			continue
		}
		var fixes []string
		for _, e := range all[0].Fix {
			fixes = append(fixes, strings.TrimRight(fmt.Sprint(e.Line, " ", e.Text), "\n"))
		}
		if f := all[0]; !strings.HasSuffix(f.Message, c.says) || !slices.Equal(fixes, c.fixes) || f.Back != c.back {
			t.Errorf("%s: %q, fixes %q, back to %q; want %q, %q, %q", c.what, f.Message, fixes, f.Back, c.says, c.fixes, c.back)
		}
	}
}

// TestWhereDeclarationsLead shows which of a file's place and its own words is put right.
func TestWhereDeclarationsLead(t *testing.T) {
	for _, c := range []struct {
		what, rule string
		files      files
		home       string
		fixes      []string
	}{
		{"a class that nobody else names", "- {rule: class-name, files: 'a/*.java'}", files{"a/Port.java": "public class Ports {\n  public Ports() {}\n}\n", "a/X.java": "class X { Port p; }\n"}, "", []string{"1 Port", "2 Port"}},
		{"a class that others name", "- {rule: class-name, files: 'a/*.java'}", files{"a/Port.java": "public class Ports {}\n", "a/X.java": "class X { Ports p; }\n"}, "", nil},
		{"a module of Ruby", "- {rule: class-name, files: 'app/**/*.rb', roots: app/}", files{"app/tides/table.rb": "module Tide\n  class Table\n  end\nend\n"}, "", []string{"1 Tides"}},
		{"a file of Ruby that was moved", "- {rule: class-name, files: 'app/**/*.rb', roots: app/}", files{"app/tides/berth.rb": "class Berth\nend\n", "app/x.rb": "class X\n  Berth.all\nend\n"}, "app/berth.rb", nil},
		{"a package of Java that is asked for", "- {rule: package-line, files: 'src/**/*.java', roots: src/}", files{"src/a/Berth.java": "package a.b;\n", "src/a/X.java": "package a;\n\nimport a.b.Berth;\n"}, "src/a/b/Berth.java", nil},
		{"one that nobody asks for", "- {rule: package-line, files: 'src/**/*.java', roots: src/}", files{"src/a/Berth.java": "package a.b;\n", "src/a/X.java": "package a;\n"}, "", []string{"1 a"}},
		{"no package, as the others beside it have", "- {rule: package-line, files: 'src/**/*.kt', roots: src/, needed: true, loose: true}", files{"src/b/A.kt": "\nclass A\n", "src/b/B.kt": "package a.b\n"}, "", []string{"1 package a.b"}},
		{"a package of Go among others", "- {rule: package-line, files: '**/*.go', roots: x/}", files{"go.mod": "module m\n", "a.go": "package m\n", "b.go": "package m\n", "c.go": "package n\n"}, "", []string{"1 m"}},
		{"a file of Go that was moved", "- {rule: package-line, files: '**/*.go', roots: x/}", files{"go.mod": "module m\n", "a.go": "package m\n", "b.go": "package m\n", "c.go": "package cmd\n", "cmd/d.go": "package cmd\n"}, "cmd/c.go", nil},
		{"a package of Go by its folder and its users", "- {rule: package-line, files: '**/*.go', roots: x/}", files{"go.mod": "module m\n", "a.go": "package m\n\nimport \"m/tides\"\n\nvar x = tides.X\n", "tides/t.go": "package tide\n"}, "", []string{"1 tides"}},
		{"a namespace that a manifest maps otherwise than all files say", "- {rule: package-line, files: 'src/**/*.php', roots: src/, mapped-by: 'composer.json#autoload.psr-4'}", files{"composer.json": `{"autoload": {"psr-4": {"Gannet\\Tide\\": "src/"}}}`, "src/Format/Clock.php": "<?php\nnamespace Gannet\\Tides\\Format;\nclass Clock {}\n", "src/Table.php": "<?php\nnamespace Gannet\\Tides;\n"}, "", []string{`1 Gannet\\Tides\\`}},
		{"a namespace that a manifest maps otherwise than some files say", "- {rule: package-line, files: 'src/**/*.php', roots: src/, mapped-by: 'composer.json#autoload.psr-4'}", files{"composer.json": `{"autoload": {"psr-4": {"Gannet\\Tide\\": "src/"}}}`, "src/Format/Clock.php": "<?php\nnamespace Gannet\\Tides\\Format;\nclass Clock {}\n", "src/Table.php": "<?php\nnamespace Gannet\\Tide;\n"}, "", []string{`2 Gannet\Tide\Format`}},
		{"a namespace that a manifest maps", "- {rule: package-line, files: 'src/**/*.php', roots: src/, mapped-by: 'composer.json#autoload.psr-4'}", files{"composer.json": `{"autoload": {"psr-4": {"Gannet\\Tides\\": "src/"}}}`, "src/Format/Clock.php": "<?php\nnamespace Gannet\\Tides\\Formats;\nclass Clock {}\n", "src/Other.php": "<?php\nnamespace Foreign;\n"}, "", []string{`2 Gannet\Tides\Format`}},
		{"a type of .NET that others of its namespace use", "- {rule: class-name, files: '**/*.cs'}", files{"a/Answer.cs": "namespace G.A;\n\npublic record TideAnswer(int X);\n", "a/Use.cs": "namespace G.A;\n\nclass Use { Answer A; }\n", "b/Answer.cs": "namespace G.B;\n\npublic record Other(int X);\n"}, "", []string{"3 Answer"}},
		{"a folder around two", "- {rule: package-line, files: '**/*.cs', roots: x/, prefix: G}", files{"x/tide/A/a.cs": "namespace G.tides.A;\n", "x/tide/A/b.cs": "namespace G.tides.A;\n", "x/tide/B/a.cs": "namespace G.tides.B;\n", "x/tide/B/b.cs": "namespace G.tides.B;\n", "x/c.cs": "using G.tides.A;\nusing G.tides.B;\nnamespace G;\n"}, "x/tides/", nil},
		{"tests of Go away from their package", "- {rule: package-line, files: '**/*.go', roots: x/}", files{"go.mod": "module m\n", "tests/a_test.go": "package quay\n", "quay/a.go": "package quay\n"}, "quay/a_test.go", nil},
		{"a namespace of .NET that is used, and gone", "- {rule: package-line, files: '**/*.cs', roots: x/, rooted-by: '*.csproj'}", files{"x/Gannet.csproj": "<Project/>", "x/Dto.cs": "namespace Gannet.Models;\n", "x/C/A.cs": "using Gannet.Models;\nnamespace Gannet.C;\n", "x/C/B.cs": "namespace Gannet.C;\n", "x/C/D.cs": "namespace Gannet.C;\n"}, "x/Models/Dto.cs", nil},
	} {
		all := foundIn(t, c.rule, c.files)
		if len(all) == 0 {
			t.Errorf("%s: nothing told", c.what)
			continue
		}
		var fixes []string
		for _, e := range all[0].Fix {
			fixes = append(fixes, strings.TrimSpace(fmt.Sprint(e.Line, " ", e.Text)))
		}
		if all[0].Home != c.home || !slices.Equal(fixes, c.fixes) {
			t.Errorf("%s: %q, home %q, fixes %q; want %q, %q", c.what, all[0].Message, all[0].Home, fixes, c.home, c.fixes)
		}
	}
}
