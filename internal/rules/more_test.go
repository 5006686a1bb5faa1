package rules

// mounting asks for areas to be mounted, as Flask has it.
const mounting = `- {rule: wired, each: 'app/<area>/views.py', by: app/__init__.py, imports: true, creates: '(\w+) = Flask\(', offers: '(\w+) = Blueprint\(', mounts: '\.register_blueprint\(\s*([\w.]+)'}`

// More of the cases of TestRules: each row of what rules catch has at least
// three that are wrong and three that only look so.
func init() {
	cases = append(cases, []struct {
		what  string
		rule  string
		files files
		want  []string
	}{
		{"one namespace in many spellings", "- {rule: package-line, files: 'src/**/*.cs', roots: src/, prefix: Ferry}",
			files{"src/Tides/A.cs": "namespace Ferry.Tides;\n", "src/Tides/B.cs": "namespace Ferry.Tides\n{\n}\n", "src/C.cs": "namespace Ferry;\n", "src/Crews/D.cs": "// namespace Ferry.Crews;\nnamespace Ferry.Crew;\n"}, []string{"misdeclared src/Crews/D.cs:2"}},
		{"an ending that promises something", "- {rule: ending, files: 'src/**/*', shows: '^fun ', ending: .kt}", files{"src/a.md": "fun facts\n", "src/b.java": "fun x\n", "src/LICENSE": "no fun here\n"}, nil},

		{"both ways of a key", "- {rule: keys-name-folders, file: s.yml, key: m, folder: models, both: true, mark: '+', ending: .sql}", files{"s.yml": "m:\n  marts: {}\n  tides: {}\n", "models/marts/a.sql": "", "models/crews/b.sql": ""}, []string{"disagrees models/crews/", "disagrees s.yml:3"}},
		{"a project's own name as a key", "- {rule: keys-name-folders, file: s.yml, key: 'models.<project>', folder: models, mark: '+', ending: .sql}", files{"s.yml": "models:\n  gannet:\n    marts: {}\n", "models/marts/a.sql": ""}, nil},
		{"a key of one model", "- {rule: keys-name-folders, file: s.yml, key: m, folder: models, mark: '+', ending: .sql}", files{"s.yml": "m:\n  marts:\n    fares:\n      +enabled: true\n", "models/marts/fares.sql": ""}, nil},

		{"an import that leads nowhere, and ones that may", "- {rule: dangling, except: 'old/**'}", files{"a.js": "import './b.js'\nimport './c.js'\nimport 'react'\ntry { require('./d') } catch {}\n", "c.js": "", "old/x.js": "import './y.js'\n", "testdata/x.js": "import './y.js'\n", "lib/z.min.js": "import './y.js'\n"}, []string{"dangling a.js:1"}},
		{"a text that names what was moved", "- {rule: old-names, except: 'past/**'}", files{"moved/plans/tides.csv": "", "run.ini": "x\nread = plans/tides.csv\n", "no.ini": "myplans/tides.csv my-plans/tides.csv\n", "past/x.txt": "plans/tides.csv\n", "CHANGES.md": "plans/tides.csv\n"}, []string{"dangling run.ini:2"}},
		{"forty imports of one thing", "- {rule: dangling}", files{"a.py": "from ferry.tide import x\n", "b.py": "from ferry.tide import y\n", "ferry/__init__.py": "", "ferry/tides.py": "x = y = 1\n"}, []string{"dangling a.py:1"}},
		{"a name that a module does not give", "- {rule: dangling}", files{"ferry/__init__.py": "", "ferry/tides.py": "def table(): pass\n", "ferry/a.py": "from .tides import tabel, table\nfrom .moon import x\n", "ferry/moon.py": "from os import *\n"}, []string{"dangling ferry/a.py:1"}},
		{"pages that are rendered", "- {rule: names, files: '*.py', by: 'render\\(\\s*[\"'']([\\w/.]+)', to: '**/templates/{}'}", files{"a.py": "render('tides/table.html')\nrender('tides/tabel.html')\n# render('no.html')\n", "app/templates/tides/table.html": ""}, []string{"dangling a.py:2"}},
		{"endpoints of a group", "- {rule: names, files: '*.py', by: 'url_for\\([\"'']([\\w.]+)', defined: 'def (\\w+)', owner: 'Blueprint\\([\"''](\\w+)', except: '\\.static$'}", files{"a.py": "b = Blueprint('tides')\ndef table(): pass\nurl_for('tides.table')\nurl_for('tides.tabel')\nurl_for('tide.table')\nurl_for('other.page')\nurl_for('tides.static')\n"}, []string{"dangling a.py:4", "dangling a.py:5"}},
		{"modules that settings start", "- {rule: names, files: s.toml, keys: 'run.*', module: true}", files{"s.toml": "[run]\na = \"ferry.cli:main\"\nb = \"ferry.clii:main\"\nc = \"ferry.cli:mian\"\nd = \"other.thing:main\"\n", "ferry/__init__.py": "", "ferry/cli.py": "def main(): pass\n"}, []string{"dangling s.toml:3", "dangling s.toml:4"}},
		{"an address that is given twice", "- {rule: once, files: '*.py', by: 'route\\([\"'']([^\"'']+)', what: address}", files{"a.py": "\"\"\"Such as:\n\n    @app.route('/tides')\n\"\"\"\n@app.route('/tides')\n@app.route('/berths')\n", "b.py": "@app.route('/tides')\n"}, []string{"disagrees b.py:1"}},
		{"classes by which files are loaded", "- {rule: class-name, files: '**/*', roots: app/models/}", files{"A.java": "package x;\npublic class B {}\n", "C.java": "public final class C {}\nclass D {}\n", "E.php": "<?php\nnamespace X;\nclass F {}\n", "app/models/tides/moon.rb": "module Tides\n  class Sun\n  end\nend\n", "app/models/berth.rb": "class Berth\n  class Inner\n  end\nend\n", "app/models/api_key.rb": "class APIKey\nend\n"}, []string{"misdeclared A.java:2", "misdeclared E.php:3", "misdeclared app/models/tides/moon.rb:2"}},
		{"what nobody asks for", "- {rule: undeclared, except: 'old/**'}", files{"package.json": "{\"name\": \"ferry\", \"dependencies\": {\"react\": \"1\", \"@pier/a\": \"1\"}}", "src/a.js": "import 'react'\nimport 'vue'\nimport 'fs'\nimport 'ferry'\nimport '@pier/b'\nimport 'node:x'\n", "src/b.test.js": "import 'jest-x'\n", "old/x.js": "import 'vue'\n"}, []string{"disagrees src/a.js:2"}},
		{"what no list of requirements has", "- {rule: undeclared}", files{"requirements.txt": "flask==3\nbeautifulsoup4==4\n", "a.py": "import flask, bs4, os\nimport werkzeug\nimport paramiko\ntry:\n    import ujson\nexcept ImportError:\n    pass\nimport b\n", "b.py": ""}, []string{"disagrees a.py:3"}},
		{"what no module requires", "- {rule: undeclared}", files{"go.mod": "module m\n\nrequire gannet.example/a v1.0.0\n", "a.go": "package m\n\nimport (\n\t\"fmt\"\n\t\"gannet.example/a/b\"\n\t\"gannet.example/c\"\n)\n"}, []string{"disagrees a.go:6"}},
		{"a compiled list that is behind", "- {rule: compiled-list}", files{"requirements.in": "flask\nrequests\n", "requirements.txt": "flask==3\nclick\n"}, []string{"disagrees requirements.in:2", "disagrees requirements.txt:2"}},
		{"what a compiler wrote and nobody ignores", "- {rule: compiled-output}", files{".gitignore": "node_modules/\n", "package.json": `{"scripts": {"build": "tsc"}}`, "tsconfig.json": `{"compilerOptions": {"outDir": "made", "rootDir": "src"}}`, "src/a.ts": "", "made/a.js": ""}, []string{"exposed made/"}},
		{"what nobody compiles, or what is ignored", "- {rule: compiled-output}", files{".gitignore": "made/\n", "package.json": `{}`, "tsconfig.json": `{"compilerOptions": {"outDir": "lib"}}`, "src/a.ts": "", "lib/b.js": "", "made/a.js": ""}, nil},
		{"a module beside a package of its name", "- {rule: shadowed}", files{"ferry/tides.py": "", "ferry/tides/__init__.py": "", "ferry/crews.py": "", "ferry/crews/a.txt": ""}, []string{"disagrees ferry/tides.py"}},
		{"a sample with the real secret", "- {rule: sample-of, sample: .env.example, real: .env}", files{".env.example": "API_TOKEN=harbour-fog-9\nNAME=harbour-fog-9\nDB_PASSWORD=changeme\n", ".env": "API_TOKEN=harbour-fog-9\nNAME=harbour-fog-9\nDB_PASSWORD=changeme\n", ".gitignore": ".env\n"}, []string{"exposed .env.example:1"}},
		{"keys that no sample names", "- {rule: env-keys, except: '^LATER_'}", files{".env.example": "TIDES_KEY=\n# BERTHS_KEY=\n", "a.py": "import os\na = os.environ['TIDES_KEY']\nb = os.environ['CREWS_KEY']\nc = os.getenv('PIER_KEY') or 'x'\nd = os.environ['BERTHS_KEY']\ne = os.environ['HOME']\nf = os.environ['LATER_KEY']\n", "b.ts": "process.env.MOON_KEY ?? 'x'\nprocess.env.SUN_KEY\n"}, []string{"disagrees a.py:3", "disagrees b.ts:2"}},
		{"a list that includes one that is not there", "- {rule: dangling}", files{"requirements-dev.txt": "-r requirement.txt\npytest\n", "requirements.txt": ""}, []string{"dangling requirements-dev.txt:1"}},
		{"assets of a manifest", "- {rule: names-file, files: pubspec.yaml, keys: flutter.assets, except: 'packages/**'}", files{"pubspec.yaml": "flutter:\n  assets:\n    - assets/\n    - images/logo.png\n    - packages/x/y.png\n", "assets/a.png": ""}, []string{"dangling pubspec.yaml:4"}},
		{"only what is nearly there", "- {rule: names-file, files: s.yml, keys: paths, near-only: true}", files{"s.yml": "paths: [seeds, macro]\n", "macros/a.sql": ""}, []string{"dangling s.yml:1"}},

		{"an environment that names another package", "- {rule: same-value, values: ['a.toml#project.name', 'b.yml#app']}", files{"a.toml": "[project]\nname = 'ferry'\n", "b.yml": "x: 1\napp: ferries\n"}, []string{"disagrees b.yml:2"}},
		{"nothing to compare with", "- {rule: same-value, values: ['a.toml#project.name', 'b.yml#app']}", files{"b.yml": "app: ferries\n"}, nil},

		{"settings that are broken", "- {rule: names-file, files: p.json, keys: main}", files{"p.json": "{\n  \"main\": \"x.js\",\n  \"y\": [1,\n"}, []string{"substandard p.json:4"}},
		{"code that breaks off is read up to there", "- {rule: package-line, files: '*/*.go', roots: a/}", files{"a/a.go": "package a\n", "a/b.go": "package b\n\nfunc {\n"}, []string{"misdeclared a/b.go:1", "substandard a/b.go:3"}},
		{"a style is no script, and what is not there is no matter of order", "- {rule: order, files: p.html, links: ['a.js', 'b.js']}", files{"p.html": "<link rel=stylesheet href=b.js><script src=a.js></script><script src=c.js></script><script src=b.js></script>", "a.js": "b()\n"}, nil},

		{"an operation that is mapped by its class", "- {rule: wired, each: 'E/<r>/<o>/*Endpoint.cs', by: Program.cs, or: ['<o>Endpoint.Map(']}", files{"Program.cs": "GetOneEndpoint.Map(app);\n// GetAllEndpoint.Map(app);\n", "E/T/GetOne/GetOneEndpoint.cs": "", "E/T/GetAll/GetAllEndpoint.cs": ""}, []string{"unwired E/T/GetAll/GetAllEndpoint.cs"}},
		{"the file that creates the application, whatever its name", mounting, files{"app/__init__.py": "", "app/core.py": "from app.crews.views import bp as crews_bp\nimport app.berths.views\nsite = Flask(__name__)\nsite.register_blueprint(crews_bp)\n",
			"app/crews/views.py": "bp = Blueprint('c', __name__)\n", "app/berths/views.py": "pages = Blueprint('b', __name__)\n", "app/tides/views.py": "@app.route('/')\n"},
			[]string{"unwired app/berths/views.py", "unwired app/tides/views.py"}},
		{"imported and not mounted", mounting, files{"app/__init__.py": "from app.crews import views\nfrom app.berths.views import (\n  bp as b,\n  x,\n)\napp = Flask(__name__)\napp.register_blueprint(b)\n", "app/crews/views.py": "bp = Blueprint('c', __name__)\n", "app/berths/views.py": "bp = Blueprint('b', __name__)\nx = 1\n"},
			[]string{"unwired app/crews/views.py"}},
		{"mounted in a way that nobody can tell", mounting, files{"app/__init__.py": "from app.crews import views\napp = Flask(__name__)\nfor b in ALL:\n    app.register_blueprint(b)\n", "app/crews/views.py": "bp = Blueprint('c', __name__)\n"}, nil},
		{"nothing to mount", mounting, files{"app/__init__.py": "from app.crews import views\napp = Flask(__name__)\n", "app/crews/views.py": "@app.route('/')\ndef a(): pass\n"}, nil},
		{"tests and declarations are no units", "- {rule: wired, each: 'r/*.ts', by: m.ts, imports: true}", files{"m.ts": "", "r/a.d.ts": "", "r/b.test.ts": "", "r/c.ts": ""}, []string{"unwired r/c.ts"}},
		{"an import that comes back too early", "- {rule: circular}", files{"app/__init__.py": "from app import views\napp = make()\nfrom app import pages\n", "app/views.py": "from app import app\n", "app/pages.py": "from app import app\n"}, []string{"tangled app/__init__.py:1"}},
		{"an import that comes back over another", "- {rule: circular}", files{"app/__init__.py": "from .a import x\n\ndef db():\n    pass\n", "app/a.py": "from . import b\nx = 1\n", "app/b.py": "from app import db\n"}, []string{"tangled app/__init__.py:1"}},
		{"imports that come back in time", "- {rule: circular}", files{"app/__init__.py": "db = 1\nfrom app import a, b, c, d\ntry:\n    from x import y\nexcept ImportError:\n    y = 2\nlate = 3\n", "app/a.py": "from app import db, c\n", "app/b.py": "def f():\n    from app import late\n", "app/c.py": "import app\n", "app/d.py": "if TYPE_CHECKING:\n    from app import late\n"}, nil},
		{"a value that nobody gives", "- {rule: value-keys, files: 't/*.yaml', by: '\\.Values\\.([\\w.]+)', in: v.yaml, unless: default}", files{"v.yaml": "port: 1\nimage:\n  name: x\nmore: {}\n", "t/a.yaml": "a: {{ .Values.port }}\nb: {{ .Values.image.nam }}\nc: {{ .Values.more.any }}\nd: {{ .Values.none | default 1 }}\ne: {{ .Values.image }}\nf: {{ .Values.prt }}\n"}, []string{"dangling t/a.yaml:2", "dangling t/a.yaml:6"}},
		{"a marker under another name", "- {rule: called, name: markers, files: ['**/init.py', '**/__int__.py'], as: __init__.py, beside: '**/*.py'}", files{"a/init.py": "", "a/b.py": "", "c/init.py": "", "c/__init__.py": "", "d/__int__.py": "", "e/__int__.py": "", "e/x.py": ""}, []string{"misnamed a/init.py", "misnamed e/__int__.py"}},
		{"a module that nothing names", "- {rule: reached, files: 'src/**/*.rs', except: ['src/lib.rs', 'src/bin/**']}", files{"src/lib.rs": "mod tides;\n// mod berths;\n", "src/tides.rs": "mod moon;\n", "src/tides/moon.rs": "", "src/berths.rs": "", "src/bin/x.rs": ""}, []string{"unwired src/berths.rs"}},
		{"a name inside another", "- {rule: wired, each: 'app/<a>/', by: m.py, or: ['<a>']}", files{"m.py": "crews_old = 1\nxtides = 2\nberths()\n", "app/crews/v.py": "", "app/tides/v.py": "", "app/berths/v.py": ""}, []string{"unwired app/crews", "unwired app/tides"}},
		{"only what has the text", "- {rule: wired, each: 'app/<a>/m.py', by: s.py, or: ['<a>'], where: 'class'}", files{"s.py": "", "app/crews/m.py": "# class\n", "app/tides/m.py": "class T: pass\n"}, []string{"unwired app/tides/m.py"}},

		{"a cache that one line would name", "- {rule: ignored}", files{".gitignore": ".venv\n", ".venv/a.py": "", ".pytest_cache/x": "", ".idea/w.xml": ""}, []string{"exposed .idea/"}},
		{"passwords in the settings of a program", "- {rule: secrets}", files{"appsettings.json": "{\n\"Db\": {\"Main\": \"Host=db;Password=k3lp-and-tide\",\n\"Other\": \"Host=db;Password=${DB}\"}}", "config/config.json": "{\n\"db\": {\n\"password\": \"k3lp-and-tide\"}}",
			"settings.json": "{\"password\": \"changeme\", \"api_key\": \"<key>\", \"password_hint\": \"a b c d e f\", \"secret\": \"\"}", "locales/en.json": "{\"password\": \"Passwort\"}", "tests/config.json": "{\"password\": \"k3lp-and-tide\"}"}, []string{"exposed appsettings.json:2", "exposed config/config.json:3"}},
		{"tokens of several houses", "- {rule: secrets}", files{"a.ini": "t = ghp_" + "abcdefghijklmnopqrstuvwxyz0123456789\n", "b.toml": "t = 'glpat-" + "abcdefghijklmnopqrst'\n", "c.cfg": "xoxb-" + "1234567890-abc\n"}, []string{"exposed a.ini:1", "exposed b.toml:1", "exposed c.cfg:1"}},
		{"hashes, names and places for tokens", "- {rule: secrets}", files{"a.yml": "ghp: x\nt: ghp_short\nu: https://gannet.example:8080/x@y\nv: npm_config_cache\nw: ${TOKEN}\n"}, nil},
		{"a sample with places for values", "- {rule: sample-of, sample: .env.example, real: .env}", files{".env.example": "API_KEY=\nTOKEN=<your token>\nPASSWORD=changeme\nSECRET=${SECRET}\n"}, nil},

		{"a type import goes across too", "- {rule: wall, from: 'client/**', to: 'server/**'}", files{"client/a.ts": "import type { X } from '../server/x'\nexport * from '../server/y'\nconst z = await import('../server/z')\n", "server/x.ts": "", "server/y.ts": "", "server/z.ts": ""}, []string{"tangled client/a.ts:1"}},
		{"those who may", "- {rule: wall, from: 'client/**', to: 'server/**', except: 'client/boot.ts', through: 'server/api.ts'}", files{"client/boot.ts": "import '../server/x'", "client/a.ts": "import '../server/api'", "server/x.ts": "", "server/api.ts": ""}, nil},
		{"a circle of two", "- {rule: no-cycles, parts: 'app/<part>/'}", files{"app/a/x.py": "from app.b import y\n", "app/b/y.py": "from app.a import x\n"}, []string{"tangled app/a/x.py:1"}},

		{"a page with too many lines, one without an end", "- {rule: size, files: '*.css', lines: 2}", files{"a.css": "a\nb\nc\n", "b.css": "a\nb", "c.css": ""}, []string{"crowded a.css:3"}},
		{"two ways, half and half", "- {rule: one-way, ways: ['a/*.x', 'b/*.x']}", files{"a/1.x": "", "b/1.x": ""}, []string{"crowded b/1.x"}},
		{"marker files of nested packages", "- {rule: paired, each: 'app/<package>/', with: 'app/<package>/__init__.py'}", files{"app/tides/__init__.py": "", "app/crews/v.py": ""}, []string{"unpaired app/crews"}},

		{"a version that is exact", "- {rule: pinned, files: r.txt}", files{"r.txt": "a==1\n-r b.txt\n# c\n\n"}, nil},
		{"keys that are there", "- {rule: set-keys, files: c.yml, keys: [a, 'b.*']}", files{"c.yml": "a: 1\nb:\n  x: 2\n"}, nil},
		{"values alike elsewhere", "- {rule: default-values, files: p.json, keys: 'scripts.*', values: [x]}", files{"p.json": `{"name": "x", "scripts": {"a": "x", "b": "xy"}}`}, []string{"leftover p.json:1"}},
		{"a banned word in a comment", "- {rule: text, files: '*.py', must-not: 'eval\\(', except: 'ok.py'}", files{"a.py": "# eval(\nx = 1\n", "ok.py": "eval(x)\n", "b.py": "eval(x)\n"}, []string{"substandard b.py:1"}},
		{"a source that is only read", "- {rule: sources, files: 's/*.yml', models: 'models/**/*.sql', folders: 'models/staging/<s>/', source-key: sources.name, schema-key: sources.schema, table-key: sources.tables.name}", files{"s/a.yml": "sources:\n  - name: booking\n    schema: raw\n    tables: [{name: sailings}]\n", "models/staging/booking/a.sql": "", "models/marts/sailings.sql": ""}, nil},
		{"models of the layer before", "- {rule: reads, models: 'models/marts/*.sql', not-sources: true}", files{"models/marts/a.sql": "select {{ ref('b') }}, 'source(x)'", "models/b.sql": "{{ source('a', 'b') }}"}, nil},
	}...)
}
