package cli_test

import (
	"os"
	"os/exec"
	"strings"
	"testing"

	"dicaxon/internal/treetest"
)

// TestBroughtProjectsRun brings flat projects to a layout, or divides them as somebody says,
// and lets the languages say whether they still run; and what is taken back is as before.
func TestBroughtProjectsRun(t *testing.T) {
	py := python(t)
	for name, c := range map[string]struct {
		files map[string]string
		call  []string
		proof string
		there []string
	}{
		"one module of Flask": {map[string]string{
			"requirements.txt": "flask\n", ".flaskenv": "FLASK_APP=app.py\n",
			"app.py":               "from flask import Flask, render_template\n\napp = Flask(__name__)\n\n\n@app.route(\"/\")\ndef index():\n    return render_template(\"index.html\")\n",
			"templates/index.html": "<!doctype html>{{ 1 }}\n", "static/main.css": "body {}\n",
			"test_app.py": "from pathlib import Path\n\nfrom app import app\n\n\ndef test_pages():\n    client = app.test_client()\n    assert client.get(\"/\").status_code == 200\n    assert Path(app.static_folder, \"main.css\").exists()\n",
		}, []string{"--to", "flask/package"}, "PYTHON -m pytest -q -p no:cacheprovider && FLASK_APP=$(sed s/FLASK_APP=// .flaskenv) PYTHON -m flask routes", []string{"app/__init__.py", "app/templates/index.html", "app/static/main.css"}},
		"a flat program of Go": {map[string]string{
			"go.mod":         "module gannet.example/ferry\n\ngo 1.22\n",
			"main.go":        "package main\n\nimport \"fmt\"\n\nfunc main() { fmt.Println(tideTable(3), cardOf(berth{Name: \"North\"})) }\n",
			"tides.go":       "package main\n\n// tideTable lists hours.\nfunc tideTable(n int) []int { return make([]int, n) }\n",
			"tides_test.go":  "package main\n\nimport \"testing\"\n\nfunc TestTideTable(t *testing.T) {\n\tif len(tideTable(2)) != 2 {\n\t\tt.Fail()\n\t}\n}\n",
			"berths.go":      "package main\n\ntype berth struct {\n\tName  string\n\tTides []int\n}\n",
			"cards.go":       "package main\n\n// A card shows one berth.\ntype card struct {\n\tof    berth // which\n\tstays bool  // for now\n}\n\nfunc cardOf(b berth) string { return card{of: b}.of.Name }\n",
			"cards_test.go":  "package main\n\nimport \"testing\"\n\nfunc TestCard(t *testing.T) {\n\tif cardOf(berth{Name: \"x\", Tides: tideTable(1)}) != \"x\" {\n\t\tt.Fail()\n\t}\n}\n",
			"Makefile":       "build:\n\tgo build -o bin/ferry .\n",
			"docs/README.md": "See [the tides](../tides.go).\n",
		}, []string{"--map", "main.go=cmd/ferry/main.go", "--map", "tides.go=internal/tides/tides.go", "--map", "berths.go=internal/berths/berths.go", "--map", "cards.go=internal/cards/cards.go"},
			"go vet ./... && go test ./... && test -z \"$(gofmt -l .)\" && $(sed -n 's/^\\tgo build -o bin.ferry/go run/p' Makefile)", []string{"cmd/ferry/main.go", "internal/tides/tides_test.go", "internal/cards/cards_test.go"}},
		"a flat program of Go, by what its files say": {map[string]string{
			"go.mod":        "module gannet.example/ferryd\n\ngo 1.22\n",
			"main.go":       "package main\n\nimport (\n\t\"fmt\"\n\t\"net/http\"\n)\n\nfunc main() {\n\t_ = http.StatusOK\n\tfmt.Println(read().address, open(read()).all(), handler(open(read())) != nil)\n}\n",
			"settings.go":   "package main\n\nimport \"os\"\n\ntype settings struct{ address, dsn string }\n\nfunc read() settings { return settings{address: os.Getenv(\"ADDRESS\"), dsn: os.Getenv(\"DSN\")} }\n",
			"berth.go":      "package main\n\n// A berth is where a ship lies.\ntype berth struct{ id int }\n\nfunc (b berth) free() bool { return b.id > 2 }\n",
			"berth_test.go": "package main\n\nimport \"testing\"\n\nfunc TestFree(t *testing.T) {\n\tif !(berth{id: 3}).free() {\n\t\tt.Fail()\n\t}\n}\n",
			"store.go":      "package main\n\nimport \"database/sql\"\n\ntype store struct{ db *sql.DB }\n\nfunc open(s settings) *store { _ = s.dsn; return &store{} }\n\nfunc (s *store) all() []berth { return []berth{{id: 1}} }\n",
			"berths.go":     "package main\n\nimport (\n\t\"fmt\"\n\t\"net/http\"\n)\n\nfunc handler(s *store) http.HandlerFunc {\n\treturn func(w http.ResponseWriter, r *http.Request) {\n\t\tfor _, b := range s.all() {\n\t\t\tfmt.Fprintln(w, b.id, b.free())\n\t\t}\n\t}\n}\n",
		}, []string{"--to", "go/service"}, "go vet ./... && go test ./... && test -z \"$(gofmt -l .)\" && go build -o /dev/null ./...", []string{"cmd/ferryd/main.go", "internal/config/settings.go", "internal/model/berth_test.go", "internal/store/store.go", "internal/handler/berths.go"}},
		"modules of a script": {map[string]string{
			"requirements.txt": "pytest\n", "README.md": "# Tides\n\n    python report.py\n",
			"report.py": "import tides\nfrom tables import row\n\nif __name__ == \"__main__\":\n    print(row(tides.high(3)))\n",
			"tides.py":  "def high(n):\n    return n > 2\n", "tables.py": "import tides\n\n\ndef row(cell):\n    return f\"{cell} {tides.high(1)}\"\n",
			"tests/conftest.py": "import sys\nfrom pathlib import Path\n\nsys.path.insert(0, str(Path(__file__).parent.parent))\n", "tests/test_tables.py": "from tables import row\n\n\ndef test_row():\n    assert row(1) == \"1 False\"\n",
		}, []string{"--to", "python/package"}, "PYTHON report.py && PYTHON -m pytest -q -p no:cacheprovider", []string{"report.py"}},
		"blueprints of Flask": {map[string]string{
			"requirements.txt": "flask\n", "tests/test_pages.py": "from ferry import create_app\n\n\ndef test_pages():\n    client = create_app().test_client()\n    assert client.get(\"/tides/\").data == b\"<p>4</p>\"\n    assert client.get(\"/in\").status_code == 302\n",
			"ferry/__init__.py": "from flask import Flask\n\n\ndef create_app():\n    app = Flask(__name__)\n    from . import auth, tides  # noqa: E402\n    app.register_blueprint(auth.bp)\n    app.register_blueprint(tides.bp)\n    return app\n",
			"ferry/auth.py":     "from flask import Blueprint, redirect, url_for\n\nbp = Blueprint(\"auth\", __name__)\n\n\n@bp.route(\"/in\")\ndef enter():\n    return redirect(url_for(\"tides.index\"))\n",
			"ferry/tides.py":    "from flask import Blueprint, render_template\n\nfrom .heights import height\n\nbp = Blueprint(\"tides\", __name__, url_prefix=\"/tides\")\n\n\n@bp.route(\"/\")\ndef index():\n    return render_template(\"tides/index.html\", height=height())\n",
			"ferry/heights.py":  "def height():\n    return 4\n", "ferry/templates/tides/index.html": "<p>{{ height }}</p>",
		}, []string{"--to", "flask/areas"}, "PYTHON -m pytest -q -p no:cacheprovider", []string{"ferry/auth/views.py", "ferry/tides/views.py", "ferry/tides/__init__.py"}},
		"blueprints of Flask in one module": {map[string]string{
			"requirements.txt": "flask\n", "tests/test_pages.py": "from ferry import create_app\n\n\ndef test_pages():\n    client = create_app().test_client()\n    assert client.get(\"/tides\").data == b\"4\"\n    assert client.get(\"/crews\").data == b\"none\"\n    assert client.post(\"/crews\").status_code == 302\n",
			"ferry/__init__.py": "from flask import Flask\n\nfrom ferry.views import crews, tides_bp\n\n\ndef create_app():\n    app = Flask(__name__)\n    app.register_blueprint(crews)\n    app.register_blueprint(tides_bp)\n    return app\n",
			"ferry/views.py":    "from flask import Blueprint, redirect, render_template, url_for\n\nfrom .heights import height\n\ncrews = Blueprint(\"crews\", __name__)\ntides_bp = Blueprint(\"tides\", __name__)\n\n\n@crews.get(\"/crews\")\ndef everybody():\n    return render_template(\"crews/index.html\")\n\n\n@crews.post(\"/crews\")\ndef new():\n    return redirect(url_for(\"tides.table\"))\n\n\n@tides_bp.get(\"/tides\")\ndef table():\n    return str(height())\n",
			"ferry/heights.py":  "def height():\n    return 4\n", "ferry/templates/crews/index.html": "none",
		}, []string{"--to", "flask/areas"}, "PYTHON -m pytest -q -p no:cacheprovider", []string{"ferry/crews/views.py", "ferry/tides/views.py", "ferry/tides/__init__.py"}},
		"tests of Node.js": {map[string]string{
			"package.json": "{\"name\": \"ferry\", \"version\": \"1.0.0\", \"main\": \"lib/index.js\", \"scripts\": {\"test\": \"node --test\"}}\n", "lib/index.js": "exports.tide = require('./sea/tide');\n", "lib/sea/tide.js": "module.exports = (n) => n > 2;\n",
			"test/tide.test.js": "const test = require('node:test');\nconst assert = require('node:assert');\nconst tide = require('../lib/sea/tide');\n\ntest('high', () => assert.ok(tide(3)));\n",
		}, []string{"--to", "javascript/beside"}, "node --test", []string{"lib/sea/tide.test.js"}},
		"roles of a page": {map[string]string{
			"package.json": "{\"name\": \"ferry\", \"version\": \"1.0.0\", \"type\": \"module\", \"dependencies\": {\"react\": \"^19.0.0\", \"react-dom\": \"^19.0.0\", \"react-redux\": \"^9.0.0\", \"redux\": \"^5.0.0\"}}\n", "index.html": "<!doctype html><div id=app></div>\n",
			"src/main.jsx":               "import { createRoot } from 'react-dom/client';\nimport store from './store.js';\ncreateRoot(document.body).render(<p>{store}</p>);\n",
			"src/actions/tides.js":       "export const ASKED = 'asked';\nexport const asked = () => ({ type: ASKED });\n",
			"src/reducers/tides.js":      "import { ASKED } from '../actions/tides.js';\nexport default function tides(state = 0, action) {\n  switch (action.type) {\n    case ASKED:\n      return state + 1;\n    default:\n      return state;\n  }\n}\n",
			"src/reducers/tides.test.js": "import test from 'node:test';\nimport assert from 'node:assert';\nimport tides from './tides.js';\nimport { asked } from '../actions/tides.js';\n\ntest('asked', () => assert.equal(tides(1, asked()), 2));\n",
			"src/reducers/index.js":      "import tides from './tides.js';\nexport default (state = {}, action) => ({ tides: tides(state.tides, action) });\n",
			"src/store.js":               "import { createStore } from 'redux';\nimport all from './reducers/index.js';\nexport default createStore(all);\n",
			"src/components/Table.jsx":   "export default function Table() {\n  return <ul />;\n}\n",
		}, []string{"--to", "react/features"}, "node --test src/", []string{"src/features/tides/state.js", "src/features/tides/actions.js", "src/features/tides/state.test.js", "src/rootReducer.js"}},
		"what several share, taken out": {map[string]string{
			"requirements.txt": "pytest\n", "ferry/__init__.py": "", "ferry/shapes.py": "\"\"\"Shapes.\"\"\"\nfrom dataclasses import dataclass\nfrom datetime import date\n\n\ndef _day(n):\n    return date(2026, 1, n)\n\n\n@dataclass\nclass Crew:\n    since: date = _day(3)\n\n\n@dataclass\nclass Tide:\n    height: int = 2\n",
			"ferry/crews.py": "from .shapes import Crew\n\n\ndef first():\n    return Crew()\n", "tests/test_all.py": "from ferry import crews, shapes\nfrom ferry.shapes import Crew, Tide\n\n\ndef test_all():\n    assert crews.first() == Crew() == shapes.Crew()\n    assert Tide().height == 2\n",
		}, []string{"--map", "ferry/shapes.py#Crew=ferry/crew/shapes.py"}, "PYTHON -m pytest -q -p no:cacheprovider", []string{"ferry/shapes.py"}},
		"a part of a script, taken out": {map[string]string{
			"package.json": "{\"name\": \"ferry\", \"version\": \"1.0.0\", \"type\": \"module\"}\n", "src/names.js": "export const ASKED = 'asked';\n",
			"src/state.js":       "import { ASKED } from './names.js';\n\nconst start = 1;\n\nexport const tides = (state = start, action) => (action.type === ASKED ? state + 1 : state);\n\nexport const ships = (state = 0) => state;\n\nexport const all = (state, action) => ({ tides: tides(state.tides, action), ships: ships(state.ships) });\n",
			"test/state.test.js": "import test from 'node:test';\nimport assert from 'node:assert';\nimport { all, tides } from '../src/state.js';\n\ntest('asked', () => assert.deepEqual(all({}, { type: 'asked' }), { tides: tides(1, { type: 'asked' }), ships: 0 }));\n",
		}, []string{"--map", "src/state.js#tides=src/tides/state.js"}, "node --test test/", []string{"src/tides/state.js"}},
	} {
		t.Run(name, func(t *testing.T) {
			root := treetest.Make(t, c.files)
			prove := func(when string) {
				cmd := exec.Command("sh", "-c", strings.ReplaceAll(c.proof, "PYTHON", py))
				cmd.Dir, cmd.Env = root, append(os.Environ(), "GOFLAGS=-mod=mod", "GOWORK=off", "PYTHONDONTWRITEBYTECODE=1")
				if out, err := cmd.CombinedOutput(); err != nil {
					t.Fatalf("%s: %v\n%s", when, err, out)
				}
			}
			prove("before")
			o := run(t, root, append([]string{"realign", "--write"}, c.call...)...)
			if o.status != 0 {
				t.Fatal(o.out, o.err)
			}
			for _, at := range c.there {
				if _, err := os.Stat(root + "/" + at); err != nil {
					t.Errorf("%v\n%s", err, o.out)
				}
			}
			prove("after")
			if o := run(t, root, "undo"); o.status != 0 {
				t.Fatal(o.err)
			}
			prove("taken back")
		})
	}
}
