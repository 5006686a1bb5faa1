package app_test

import (
	"strings"
	"testing"

	"dicaxon/internal/app"
	"dicaxon/internal/changes"
	"dicaxon/internal/finding"
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
			"app/shapes.py":      "\"\"\"Shapes of data.\"\"\"\nfrom datetime import time\nimport os\n\nfrom .base import Base\nfrom .crew.shapes import Crew  # noqa: F401\n\n\nclass Tide(Base):\n    at: time\n    of: \"os.PathLike\"\n\n\nclass Low(Tide):\n    pass\n",
			"app/crews.py":       "from app.crew.shapes import Crew\n\nprint(Crew)\n", "app/all.py": "from app.shapes import Crew, Tide\n", "app/crew/__init__.py": ""}, ""},
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
		"a type, which is handed on as one": {map[string]string{"package.json": "{}", "tsconfig.json": "{}", "src/types.ts": "export interface Berth {\n  number: number;\n}\n\nexport const depth = 3;\n", "src/use.ts": "import { Berth, depth } from './types';\nexport const all: Berth[] = [{ number: depth }];\n"},
			"src/types.ts#Berth", "src/berth.ts", map[string]string{"src/types.ts": "export type { Berth } from './berth';\n\nexport const depth = 3;\n", "src/berth.ts": "export interface Berth {\n  number: number;\n}\n"}, ""},
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

// TestCuttings: what several units have in one file is told by what each has, with the call that takes it out.
func TestCuttings(t *testing.T) {
	root := treetest.Make(t, map[string]string{"requirements.txt": "fastapi\n", "app/__init__.py": "", "app/main.py": "from fastapi import FastAPI\n\nfrom app.routers import crews, tides\n\napp = FastAPI()\napp.include_router(crews.router)\napp.include_router(tides.router)\n", "app/routers/__init__.py": "",
		"app/routers/crews.py": "from fastapi import APIRouter\n\nfrom app.crud import get_crew\n\nrouter = APIRouter()\n", "app/routers/tides.py": "from fastapi import APIRouter\n\nfrom app.crud import tide_at\n\nrouter = APIRouter()\n",
		"app/crud.py": "def get_crew(n):\n    return n\n\n\ndef list_crews():\n    return [get_crew(1)]\n\n\ndef tide_at(hour):\n    return hour\n"})
	r, err := app.Realign(t.Context(), root, app.RealignOptions{Options: app.Options{Layout: "fastapi/areas"}, Least: finding.Warning, Findings: true})
	if err != nil {
		t.Fatal(err)
	}
	var told []string
	for _, l := range r.Left {
		if l.Part != "" {
			told = append(told, l.Part+" "+l.Says+" "+strings.Join(l.Choices, ","))
		}
	}
	want := "get_crew,list_crews lines 1 to 2, 5 to 6 are reading and writing of crews app/crews/crud.py|tide_at lines 9 to 10 are reading and writing of tides app/tides/crud.py"
	if got := strings.Join(told, "|"); got != want {
		t.Errorf("%s\nnot\n%s", got, want)
	}
}
