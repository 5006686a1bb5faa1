package app_test

import (
	"fmt"
	"maps"
	"slices"
	"strings"
	"testing"

	"dicaxon/internal/app"
	"dicaxon/internal/changes"
	"dicaxon/internal/finding"
	"dicaxon/internal/realign"
	"dicaxon/internal/treetest"
)

// TestCuts takes declarations out of files: with the imports that they need, with those who use them, or
// with the old file handing them on; and says why where it would not be clean.
func TestCuts(t *testing.T) {
	python := map[string]string{"requirements.txt": "pydantic\n", "app/__init__.py": "", "app/base.py": "class Base:\n    pass\n",
		"app/shapes.py": "\"\"\"Shapes of data.\"\"\"\nfrom datetime import date, time\nimport os\n\nfrom .base import Base\n\n\ndef _day(at):\n    return date(at)\n\n\n# What a crew is.\n@dataclass(\n    frozen=True,\n)\nclass Crew(Base):\n    \"\"\"\nA crew\n\"\"\"\n\n    since: date = _day(1)\n\n\nclass Tide(Base):\n    at: time\n    of: \"os.PathLike\"\n\n\nclass Low(Tide):\n    pass\n",
		"app/crews.py":  "from app.shapes import Crew\n\nprint(Crew)\n", "app/tides.py": "from .shapes import Tide\n", "app/all.py": "from app.shapes import Crew, Tide\n", "app/whole.py": "from app import shapes\n\nprint(shapes.Tide)\n"}
	script := map[string]string{"package.json": `{"name": "ferry", "type": "module"}`, "src/actions.js": "export const ASKED = 'asked';\nexport const LEFT = 'left';\n",
		"src/reducers.js": "import { ASKED, LEFT } from './actions.js';\n\nconst start = [];\n\nexport function tides(state = start, action) {\n  return action.type === ASKED ? [`x\ny`] : state;\n}\n\n// Ships that are here.\nexport const ships = (state = {}, action) => {\n  return action.type === LEFT ? {} : state;\n};\n\nexport default { tides };\n",
		"src/index.js":    "import { ships } from './reducers.js';\nimport all from './reducers.js';\nconsole.log(ships, all);\n"}
	for name, c := range map[string]struct {
		files    map[string]string
		from, to string
		text     map[string]string // of files afterwards
		why      string
	}{
		"a class, with what only it uses": {python, "app/shapes.py#Crew", "app/crew/shapes.py", map[string]string{
			"app/crew/shapes.py": "from datetime import date\n\nfrom ..base import Base\n\n\ndef _day(at):\n    return date(at)\n\n\n# What a crew is.\n@dataclass(\n    frozen=True,\n)\nclass Crew(Base):\n    \"\"\"\nA crew\n\"\"\"\n\n    since: date = _day(1)\n",
			"app/shapes.py":      "\"\"\"Shapes of data.\"\"\"\nfrom datetime import time\nimport os\n\nfrom .base import Base\n\n\nclass Tide(Base):\n    at: time\n    of: \"os.PathLike\"\n\n\nclass Low(Tide):\n    pass\n",
			"app/crews.py":       "from app.crew.shapes import Crew\n\nprint(Crew)\n", "app/all.py": "from app.crew.shapes import Crew\nfrom app.shapes import Tide\n", "app/crew/__init__.py": ""}, ""},
		"what uses the rest":           {python, "app/shapes.py#Low", "app/low.py", map[string]string{"app/low.py": "from .shapes import Tide\n\n\nclass Low(Tide):\n    pass\n"}, ""},
		"what the rest uses":           {python, "app/shapes.py#Tide", "app/tide.py", map[string]string{"app/tides.py": "from .tide import Tide\n"}, ""},
		"what is looked for as a part": {python, "app/shapes.py#Lows", "app/low.py", nil, "it declares no Lows; did you mean Low?"},
		"two that need each other":     {map[string]string{"requirements.txt": "flask\n", "a.py": "class A:\n    def b(self):\n        return B()\n\n\nclass B(A):\n    pass\n"}, "a.py#B", "b.py", nil, "they would import each other"},
		"a name in a text":             {map[string]string{"requirements.txt": "flask\n", "a.py": "class A:\n    of: \"B\"\n\n\nclass B:\n    pass\n"}, "a.py#B", "b.py", nil, `line 1 has "B" in a text`},
		"a file that is there":         {python, "app/shapes.py#Crew", "app/base.py", nil, "app/base.py is there already"},
		"another language":             {python, "app/shapes.py#Crew", "app/crew.js", nil, "app/crew.js is of another language"},
		"a language that is not cut":   {map[string]string{"Gemfile": "gem 'rails'\n", "a.rb": "class A\nend\n"}, "a.rb#A", "b.rb", nil, "only files of Python, JavaScript, TypeScript and Go are"},
		"a type of Go with its methods": {map[string]string{"go.mod": "module x.example/x\n", "a.go": "package a\n\nimport (\n\t\"fmt\"\n\t\"strings\"\n)\n\n// A T has a name.\ntype T struct{ name string }\n\nvar all = []T{} // of them\n\n// Name gives it.\nfunc (t *T) Name() string { return strings.ToUpper(t.name) }\n\nfunc F() { fmt.Println(all) }\n"},
			"a.go#T", "t.go", map[string]string{"t.go": "package a\n\nimport \"strings\"\n\n// A T has a name.\ntype T struct{ name string }\n\n// Name gives it.\nfunc (t *T) Name() string { return strings.ToUpper(t.name) }\n", "a.go": "package a\n\nimport (\n\t\"fmt\"\n)\n\nvar all = []T{} // of them\n\nfunc F() { fmt.Println(all) }\n"}, ""},
		"all that imports":        {map[string]string{"go.mod": "module x.example/x\n", "a.go": "package a\n\nimport \"fmt\"\n\nvar A = 1\n\nfunc F() { fmt.Println(A) }\n"}, "a.go#F", "f.go", map[string]string{"a.go": "package a\n\nvar A = 1\n", "f.go": "package a\n\nimport \"fmt\"\n\nfunc F() { fmt.Println(A) }\n"}, ""},
		"into another package":    {map[string]string{"go.mod": "module x.example/x\n", "a.go": "package a\n\nvar A = 1\n"}, "a.go#A", "b/b.go", nil, "goes to another one beside it"},
		"one of a group":          {map[string]string{"go.mod": "module x.example/x\n", "a.go": "package a\n\nvar (\n\tA = 1\n\tB = 2\n)\n"}, "a.go#A", "b.go", nil, "declares others in one group with it"},
		"what the compiler heeds": {map[string]string{"go.mod": "module x.example/x\n", "a.go": "//go:build linux\n\npackage a\n\nvar A = 1\n"}, "a.go#A", "b.go", nil, "tells the compiler of the file"},
		"a reducer": {script, "src/reducers.js#ships", "src/ships/reducer.js", map[string]string{
			"src/ships/reducer.js": "import { LEFT } from '../actions.js';\n\n// Ships that are here.\nexport const ships = (state = {}, action) => {\n  return action.type === LEFT ? {} : state;\n};\n",
			"src/reducers.js":      "import { ASKED } from './actions.js';\n\nconst start = [];\n\nexport function tides(state = start, action) {\n  return action.type === ASKED ? [`x\ny`] : state;\n}\n\nexport default { tides };\n",
			"src/index.js":         "import { ships } from './ships/reducer.js';\nimport all from './reducers.js';\nconsole.log(ships, all);\n"}, ""},
		"a reducer that the file uses, with its start": {script, "src/reducers.js#tides", "src/tides.js", map[string]string{
			"src/tides.js":    "import { ASKED } from './actions.js';\n\nconst start = [];\n\nexport function tides(state = start, action) {\n  return action.type === ASKED ? [`x\ny`] : state;\n}\n",
			"src/reducers.js": "import { LEFT } from './actions.js';\nimport { tides } from './tides.js';\n\n// Ships that are here.\nexport const ships = (state = {}, action) => {\n  return action.type === LEFT ? {} : state;\n};\n\nexport default { tides };\n"}, ""},
		"a type, which is handed on as one": {map[string]string{"package.json": "{}", "tsconfig.json": "{}", "src/types.ts": "export interface Berth {\n  number: number;\n}\n\nexport const depth = 3;\n", "src/use.ts": "import { type Berth, depth as deep } from \"./types\"\nexport const all: Berth[] = [{ number: deep }];\n", "src/all.ts": "export * from './types';\n"},
			"src/types.ts#Berth", "src/berth.ts", map[string]string{"src/types.ts": "export type { Berth } from './berth';\n\nexport const depth = 3;\n", "src/berth.ts": "export interface Berth {\n  number: number;\n}\n", "src/use.ts": "import { type Berth } from \"./berth\"\nimport { depth as deep } from \"./types\"\nexport const all: Berth[] = [{ number: deep }];\n"}, ""},
		"what the rest uses and did not export": {map[string]string{"package.json": "{}", "reducers.js": "import { combine } from 'redux'\n\nconst ships = (state, action) => state\n\n// Of tides.\nconst tides = (state, action) => state\n\nexport default combine({ ships, tides })\n"},
			"reducers.js#tides", "tides.js", map[string]string{"tides.js": "// Of tides.\nexport const tides = (state, action) => state\n", "reducers.js": "import { combine } from 'redux'\nimport { tides } from './tides.js'\n\nconst ships = (state, action) => state\n\nexport default combine({ ships, tides })\n"}, ""},
		"several names for a checker": {map[string]string{"requirements.txt": "flask\n", "a.py": "A = 1\nB = 2\nC = A\n", "b.py": "from a import (\n    A,\n    B as bee,\n    C,\n)\n", "c.py": "from a import A, B  # noqa: F401\n", "d.py": "def f():\n    from a import A, B\n    return A, B\n"},
			"a.py#B", "e.py", map[string]string{"a.py": "from e import B  # noqa: F401\n\nA = 1\nC = A\n", "b.py": "from e import B as bee\nfrom a import A, C\n", "c.py": "from e import B  # noqa: F401\nfrom a import A  # noqa: F401\n", "d.py": "def f():\n    from a import A, B\n    return A, B\n"}, ""},
		"routes of what goes, and of what stays": {map[string]string{"requirements.txt": "flask\n", "routes.py": "from flask import Blueprint\n\ncrews = Blueprint('crews', __name__)\ntides = Blueprint('tides', __name__)\n\n\n# Of crews.\n\n@crews.get('/crews')\ndef crew_list():\n    return []\n\n\n@tides.get('/tides')\ndef tide_list():\n    return []\n\n\n@tides.post('/tides')\ndef tide_new():\n    return tide_list()\n", "app.py": "from routes import tides\n"},
			"routes.py#tides,tide_list", "tides.py", map[string]string{"tides.py": "from flask import Blueprint\n\n\ntides = Blueprint('tides', __name__)\n\n\n@tides.get('/tides')\ndef tide_list():\n    return []\n", "app.py": "from routes import tides\n",
				"routes.py": "from flask import Blueprint\nfrom tides import tide_list, tides\n\ncrews = Blueprint('crews', __name__)\n\n\n# Of crews.\n\n@crews.get('/crews')\ndef crew_list():\n    return []\n\n\n@tides.post('/tides')\ndef tide_new():\n    return tide_list()\n"}, ""},
		"a route of what stays": {map[string]string{"requirements.txt": "flask\n", "routes.py": "from flask import Blueprint\n\ncrews = Blueprint('crews', __name__)\n\n\n@crews.get('/crews')\ndef crew_list():\n    return []\n", "app.py": "from routes import crews\n"}, "routes.py#crew_list", "list.py", nil, "they would import each other"},
		"what is registered with others": {map[string]string{"requirements.txt": "django\n", "admin.py": "from django.contrib import admin\n\n\nclass CrewAdmin:\n    pass\n\n\nclass TideAdmin:\n    pass\n\n\nadmin.site.register(1, CrewAdmin)\nadmin.site.register(2, TideAdmin)\n", "use.py": "from admin import TideAdmin\n"},
			"admin.py#TideAdmin", "tides.py", map[string]string{"tides.py": "class TideAdmin:\n    pass\n", "use.py": "from admin import TideAdmin\n", "admin.py": "from django.contrib import admin\nfrom tides import TideAdmin\n\n\nclass CrewAdmin:\n    pass\n\n\nadmin.site.register(1, CrewAdmin)\nadmin.site.register(2, TideAdmin)\n"}, ""},
		"what a script does with what goes": {map[string]string{"package.json": "{}", "routes.js": "import { Router } from 'express';\n\nconst list = (asked, answer) => answer.json([]);\n\nexport const tides = Router();\ntides.get('/', list);\n\nexport const quays = Router();\nquays.get('/', (asked, answer) => answer.end());\n", "app.js": "import { tides } from './routes.js';\n"},
			"routes.js#tides", "tides.js", map[string]string{"app.js": "import { tides } from './tides.js';\n", "tides.js": "import { Router } from 'express';\n\nconst list = (asked, answer) => answer.json([]);\n\nexport const tides = Router();\ntides.get('/', list);\n", "routes.js": "import { Router } from 'express';\n\nexport const quays = Router();\nquays.get('/', (asked, answer) => answer.end());\n"}, ""},
		"what is set beside others":   {map[string]string{"requirements.txt": "flask\n", "a.py": "import os\n\nlow, high = 1, 2\n\n\ndef f():\n    return os.name, high\n"}, "a.py#f", "b.py", nil, "uses high, which line 3 may set beside others"},
		"one of several in a line":    {map[string]string{"package.json": "{}", "a.js": "export const a = 1, b = 2;\n"}, "a.js#a", "c.js", nil, "it declares no a"},
		"into a folder":               {python, "app/shapes.py#Low", "app/low/", map[string]string{"app/low/shapes.py": "from ..shapes import Tide\n\n\nclass Low(Tide):\n    pass\n"}, ""},
		"out of the repository":       {python, "app/shapes.py#Low", "../low.py", nil, "is no path that may be written"},
		"nothing":                     {python, "app/shapes.py#", "app/low.py", nil, "behind the # stand the names"},
		"a file out of it":            {python, "app/shapes.py", "../low.py", nil, "is no path that may be written"},
		"a file into git's own":       {python, "app/shapes.py", ".git/low.py", nil, "is no path that may be written"},
		"what is exported by default": {map[string]string{"package.json": "{}", "a.js": "export default function a() {}\n\nexport const b = 1;\n"}, "a.js#a", "c.js", nil, "it exports by default"},
		"what is not exported":        {map[string]string{"package.json": "{}", "a.js": "const one = 1;\n\nexport const a = one;\n\nexport const b = one;\n"}, "a.js#a", "c.js", nil, "uses one, which is not exported"},
	} {
		t.Run(name, func(t *testing.T) {
			root := treetest.Make(t, c.files)
			r, err := app.Realign(t.Context(), root, app.RealignOptions{Least: finding.Warning, Moves: []changes.Move{{From: c.from, To: c.to}}})
			if c.why != "" {
				if err == nil || !strings.Contains(err.Error(), c.why) {
					t.Errorf("%v, not %q", err, c.why)
				}
				return
			}
			if err != nil {
				t.Fatal(err)
			}
			if _, err := r.Plan.Plan.Write(t.Context(), root, realigning); err != nil {
				t.Fatal(err)
			}
			now := texts(t, root)
			for at, text := range c.text {
				if got, there := now[at]; got != text || !there {
					t.Errorf("%s becomes\n%s\nand not\n%s", at, got, text)
				}
			}
		})
	}
}

// inBringing is a project whose routes are apart and whose data of all units are in two files.
func inBringing(more map[string]string) map[string]string {
	all := map[string]string{"requirements.txt": "fastapi\n", "app/__init__.py": "", "app/main.py": "from fastapi import FastAPI\n\nfrom app.routers import crews, tides\n\napp = FastAPI()\napp.include_router(crews.router)\napp.include_router(tides.router)\n", "app/routers/__init__.py": "",
		"app/routers/crews.py": "from fastapi import APIRouter\n\nfrom app.crud import get_crew\nfrom app.schemas import Crew\n\nrouter = APIRouter()\n", "app/routers/tides.py": "from fastapi import APIRouter\n\nfrom app.crud import tide_at\nfrom app.schemas import Tide\n\nrouter = APIRouter()\n",
		"app/schemas.py": "from datetime import date, time\n\nfrom pydantic import BaseModel\n\n\nclass Crew(BaseModel):\n    since: date\n\n\nclass CrewNew(Crew):\n    name: str\n\n\nclass Tide(BaseModel):\n    at: time\n",
		"app/crud.py":    "from app.schemas import Crew, Tide\n\n\ndef get_crew(n):\n    return Crew(since=n)\n\n\ndef list_crews():\n    return [get_crew(1)]\n\n\ndef tide_at(hour):\n    return Tide(at=hour)\n"}
	for at, text := range more {
		all[at] = text
	}
	return all
}

// TestDivided: what several units have in one file is taken apart where a project is brought to another layout, the
// smaller parts into files of their own, the rest by moving the file; what somebody leaves stays; what would not
// be clean is told by lines.
func TestDivided(t *testing.T) {
	for name, c := range map[string]struct {
		more  map[string]string
		wants func(n int, g *realign.Group) bool
		parts string
		left  string
		text  map[string]string
	}{
		"all": {nil, nil, "app/crud.py#tide_at app/schemas.py#Tide", "", map[string]string{
			"app/tides/schemas.py": "from datetime import time\n\nfrom pydantic import BaseModel\n\n\nclass Tide(BaseModel):\n    at: time\n",
			"app/tides/crud.py":    "from app.tides.schemas import Tide\n\n\ndef tide_at(hour):\n    return Tide(at=hour)\n",
			"app/crews/crud.py":    "from app.crews.schemas import Crew\n\n\ndef get_crew(n):\n    return Crew(since=n)\n\n\ndef list_crews():\n    return [get_crew(1)]\n",
			"app/crews/schemas.py": "from datetime import date\n\nfrom pydantic import BaseModel\n\n\nclass Crew(BaseModel):\n    since: date\n\n\nclass CrewNew(Crew):\n    name: str\n",
			"app/tides/router.py":  "from fastapi import APIRouter\n\nfrom app.tides.crud import tide_at\nfrom app.tides.schemas import Tide\n\nrouter = APIRouter()\n"}},
		"one part": {nil, func(n int, g *realign.Group) bool { return g.Part != "tide_at" }, "app/schemas.py#Tide", "", map[string]string{
			"app/crud.py":         "from app.tides.schemas import Tide\nfrom app.crews.schemas import Crew\n\n\ndef get_crew(n):\n    return Crew(since=n)\n\n\ndef list_crews():\n    return [get_crew(1)]\n\n\ndef tide_at(hour):\n    return Tide(at=hour)\n",
			"app/tides/router.py": "from fastapi import APIRouter\n\nfrom app.crud import tide_at\nfrom app.tides.schemas import Tide\n\nrouter = APIRouter()\n"}},
		"a base that all share": {map[string]string{"app/schemas.py": "from pydantic import BaseModel\n\n\nclass Base(BaseModel):\n    pass\n\n\nclass Crew(Base):\n    name: str\n\n\nclass Tide(Base):\n    at: int\n"}, nil, "app/crud.py#tide_at app/schemas.py#Crew app/schemas.py#Tide", "", map[string]string{
			"app/schemas.py":       "from pydantic import BaseModel\n\n\nclass Base(BaseModel):\n    pass\n",
			"app/tides/schemas.py": "from app.schemas import Base\n\n\nclass Tide(Base):\n    at: int\n"}},
		"two that need each other": {map[string]string{"app/crud.py": "def get_crew(n):\n    return tide_at(n)\n\n\ndef tide_at(hour):\n    return hour or get_crew(1)\n"}, nil, "app/schemas.py#Tide",
			"app/crud.py:1 lines 1 to 2 are reading and writing of crews; to be cut by hand: they would import each other|app/crud.py:5 lines 5 to 6 are reading and writing of tides; to be cut by hand: they would import each other", map[string]string{"app/tides/schemas.py": "from datetime import time\n\nfrom pydantic import BaseModel\n\n\nclass Tide(BaseModel):\n    at: time\n"}},
		"routes of several blueprints": {map[string]string{"": "flask/areas", "requirements.txt": "flask\n", "ferry/__init__.py": "from flask import Flask\n\nfrom ferry.views import crews, tides_bp\n\n\ndef create_app():\n    app = Flask(__name__)\n    app.register_blueprint(crews)\n    app.register_blueprint(tides_bp)\n    return app\n",
			"ferry/views.py": "from flask import Blueprint, abort\n\ncrews = Blueprint('crews', __name__)\ntides_bp = Blueprint('tides', __name__)\n\n\n@crews.route('/crews')\ndef everybody():\n    return []\n\n\n@crews.route('/crews/<n>')\ndef one(n):\n    abort(404)\n\n\n@tides_bp.route('/tides')\ndef table():\n    return []\n"}, nil, "ferry/views.py#tides_bp,table", "", map[string]string{
			"ferry/tides/views.py": "from flask import Blueprint\n\n\ntides_bp = Blueprint('tides', __name__)\n\n\n@tides_bp.route('/tides')\ndef table():\n    return []\n",
			"ferry/crews/views.py": "from flask import Blueprint, abort\n\ncrews = Blueprint('crews', __name__)\n\n\n@crews.route('/crews')\ndef everybody():\n    return []\n\n\n@crews.route('/crews/<n>')\ndef one(n):\n    abort(404)\n",
			"ferry/__init__.py":    "from flask import Flask\n\nfrom ferry.tides.views import tides_bp\nfrom ferry.crews.views import crews\n\n\ndef create_app():\n    app = Flask(__name__)\n    app.register_blueprint(crews)\n    app.register_blueprint(tides_bp)\n    return app\n"}},
	} {
		t.Run(name, func(t *testing.T) {
			files, to := inBringing(c.more), "fastapi/areas"
			if c.more[""] != "" { // a project of its own
				to, files = c.more[""], maps.Clone(c.more)
				delete(files, "")
			}
			root := treetest.Make(t, files)
			o := app.RealignOptions{Options: app.Options{Layout: to}, Least: finding.Warning, Findings: true, Wants: c.wants}
			r, err := app.Realign(t.Context(), root, o)
			if err != nil {
				t.Fatal(err)
			}
			var parts, left []string
			for _, g := range r.Groups {
				if g.Part != "" {
					parts = append(parts, g.Path+"#"+g.Part)
				}
			}
			for _, l := range r.Left {
				if why, _, _ := strings.Cut(l.Why, ": get_crew"); l.Part != "" {
					why, _, _ = strings.Cut(why, ": tide_at")
					left = append(left, fmt.Sprintf("%s:%d %s; %s", l.Path, l.Line, l.Says, why))
				}
			}
			if slices.Sort(parts); strings.Join(parts, " ") != c.parts || strings.Join(left, "|") != c.left {
				t.Errorf("parts %q\nleft %q", parts, left)
			}
			before := texts(t, root)
			record, err := r.Plan.Plan.Write(t.Context(), root, realigning)
			if err != nil {
				t.Fatal(err)
			}
			now := texts(t, root)
			for at, text := range c.text {
				if now[at] != text {
					t.Errorf("%s becomes\n%s\nand not\n%s", at, now[at], text)
				}
			}
			if again, err := app.Realign(t.Context(), root, o); c.wants == nil && (err != nil || !again.Plan.Empty()) {
				t.Errorf("a second time: %v", again.Plan.Groups)
			}
			if _, err := changes.Undo(t.Context(), root, false); err != nil || record == nil || !maps.Equal(texts(t, root), before) {
				t.Errorf("taken back, it is not as it was: %v", err)
			}
		})
	}
}
