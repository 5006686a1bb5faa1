package rules

// What is told of how servers start and answer, and of what components, functions and objects give each other.
func init() {
	cases = append(cases, []ruled{
		{"settings that are not there", "- {rule: imported}", files{
			"app/__init__.py": "", "app/config.py": "class Settings(BaseSettings):\n    tide_url: str\n    def whole(self):\n        return self.tide_url\n\n\nsettings = Settings()\nother = make()\n",
			"app/a.py": "from app.config import settings, other\n\nx = settings.tide_ulr\ny = settings.tide_url\nz = settings.whole()\nw = settings.model_dump()\nv = other.anything\n",
		}, []string{"dangling app/a.py:3"}},
		{"settings that may have more", "- {rule: imported}", files{
			"app/__init__.py": "", "app/config.py": "class Settings(Base):\n    tide_url: str\n\n\nsettings = Settings()\n\n\nclass Loose(BaseSettings):\n    model_config = {}\n    extra = \"allow\"\n\n\nloose = Loose()\nsettings2 = Loose()\nsettings2 = Settings()\n",
			"app/a.py": "from app.config import loose, settings, settings2\n\nx = settings.tide_ulr\ny = loose.berth\nz = settings2.crew\n",
		}, nil},
		{"a default that is taken by its name", "- {rule: dangling}", files{
			"app.js": "const app = make()\n\nexport default app\n", "a.js": "import { app } from './app.js'\napp()\n", "b.js": "import app from './app.js'\napp()\n",
			"two.js": "const two = make()\n\nexport { two }\nexport default two\n", "c.js": "import { two } from './two.js'\ntwo()\n",
		}, []string{"dangling a.js:1"}},
		{"names that a package keeps for itself", "- {rule: dangling}", files{
			"package.json": `{"imports": {"#app/*": "./src/*", "#db": {"node": "./src/db.js", "default": "./src/none.js"}}}`, "src/tide.js": "export const tide = 1\n",
			"a.js": "import { tide } from '#app/tide.js'\nimport db from '#db'\nimport { x } from '#lib/tide.js'\n",
		}, []string{"dangling a.js:3"}},
		{"such names where the framework has its own", "- {rule: dangling}", files{
			"package.json": `{"imports": {"#app/*": "./src/*"}}`, "nuxt.config.ts": "export default {}\n", "a.ts": "import { x } from '#imports'\n", "b/package.json": "{}", "b/a.js": "import y from '#y'\n",
		}, nil},
		{"what a function of the project returns", "- {rule: imported}", files{
			"use.js":   "export function useTide() {\n  const high = 1\n  function pick(a) {\n    return a\n  }\n  return { high, pick, low: 2 }\n}\nexport const useOpen = () => ({ ...rest })\nexport const useBerth = () => ({ name: 1 })\n",
			"store.js": "import { defineStore } from 'pinia'\nexport const useCrews = defineStore('crews', {\n  state: () => ({ all: [] }),\n  getters: { first: (s) => s.all[0] },\n  actions: { async load() {} },\n})\nexport const useWide = defineStore('wide', { state: make, actions: { go() {} } })\n",
			"a.js":     "import { useBerth, useOpen, useTide } from './use.js'\nimport { useCrews, useWide } from './store.js'\nconst { high, pick: choose, sun } = useTide()\nconst { any } = useOpen()\nconst crews = useCrews()\nconst { all, none } = storeToRefs(crews)\ncrews.load()\ncrews.lode()\ncrews.$reset()\nuseBerth().name\nconst wide = useWide()\nwide.more()\n",
			"b.js":     "import { useCrews } from './store.js'\nconst crews = useCrews()\nconst each = (crews) => crews.anything\n",
		}, []string{"dangling a.js:3", "dangling a.js:6", "dangling a.js:8"}},
		{"routes that an earlier one answers", "- {rule: first-fits, files: '*.js', by: '(router)\\.(get|post)\\(\"(?P<name>[^\"]*)\"', unless: '\\bnext\\b'}", files{
			"a.js": "router.get(\"/:id\", a)\nrouter.get(\"/free\", b)\nrouter.post(\"/free\", b)\nrouter.get(\"/:id/crew\", b)\nrouter.get(\"/all/*\", b)\n",
			"b.js": "router.get(\"/free\", a)\nrouter.get(\"/:id\", b)\nrouter.get(\"/:name\", b)\n", "c.js": "router.get(\"/:id\", (q, s, next) => next())\nrouter.get(\"/free\", b)\n",
		}, []string{"disagrees a.js:2"}},
		{"routes of another class", "- {rule: first-fits, files: '*.ts', inside: '(?s)class \\w+.*?\\n\\}', by: '@(Get)\\(\"(?P<name>[^\"]*)\"'}", files{
			"a.ts": "class A {\n  @Get(\":id\")\n}\nclass B {\n  @Get(\"free\")\n  @Get(\":id\")\n  @Get(\"all\")\n}\n",
		}, []string{"disagrees a.ts:7"}},
		{"tests that no command runs", "- {rule: tests-run, manifests: package.json, keys: 'scripts.*'}", files{
			"package.json": `{"scripts": {"test": "node --test \"test/**/*.test.js\""}}`, "test/a.test.js": "test('a')\n", "test/b/c.test.js": "test('c')\n", "test/b/d.spec.js": "test('d')\n", "src/e.test.js": "test('e')\n", "src/f.test.js": "export const x = 1\n",
		}, []string{"unwired src/e.test.js", "unwired test/b/d.spec.js"}},
		{"tests that another runner finds", "- {rule: tests-run, manifests: package.json, keys: 'scripts.*'}", files{
			"package.json": `{"scripts": {"test": "mocha 'test/*.test.js' && jest"}}`, "test/a.test.js": "test('a')\n", "src/b.test.js": "test('b')\n",
		}, nil},
		{"tests that are compiled first", "- {rule: tests-run, manifests: package.json, keys: 'scripts.*'}", files{
			"package.json": `{"scripts": {"test": "mocha 'obj/test/**/*.test.js'"}}`, "test/a.test.ts": "test('a')\n", "src/b.test.ts": "test('b')\n",
		}, nil},
		{"what components are handed", "- {rule: handed, files: '*.vue', tags: '<([A-Z]\\w+)(\\s[^<>]*)>', attributes: '\\s:?([a-z][\\w-]*)=', takes: '(\\w+)\\??\\s*:', takes-inside: 'defineProps<\\{[^}]*\\}', except: '^class$'}", files{
			"Card.vue": "<script setup>\ndefineProps<{ berth: Berth; tideTable?: Tide }>()\n</script>\n",
			"a.vue":    "<script setup>\nimport Card from './Card.vue'\nimport Other from 'others'\n</script>\n<template>\n<Card :bearth=\"x\" tide-table=\"y\" clas=\"z\" />\n<Card :berth=\"x\" :berths=\"y\" />\n<Other :bearth=\"x\" />\n</template>\n",
			"b.vue":    "<script setup>\nimport Card from './Card.vue'\n</script>\n<template>\n<Card :berth=\"x\" :tide-tabel=\"y\" />\n</template>\n",
		}, []string{"dangling a.vue:6", "dangling b.vue:5"}},
		{"keys that a function of one's own reads", "- {rule: env-keys}", files{
			".env.example": "TIDES=1\n", "a.js": "const needed = (key) => {\n  const value = process.env[key]\n  if (!value) throw key\n  return value\n}\nconst a = needed('TIDES')\nconst b = needed('BERTHS')\nconst c = other('CREWS')\n",
			"b.py": "import os\n\n\ndef asked(name):\n    return os.environ[name]\n\n\ndef kept(name):\n    return cache[name]\n\n\nx = asked(\"QUAYS\")\ny = kept(\"MOON\")\n",
		}, []string{"disagrees a.js:7", "disagrees b.py:12"}},
		{"what a list of code imports, and what that imports", "- {rule: listed, files: 'app/*/models.py', in: env.py, by: '(?m)^from ([\\w.]+) import', to: ['{/}.py'], imports: true}", files{
			"env.py": "from app.a.models import x\n", "app/__init__.py": "", "app/a/__init__.py": "", "app/b/__init__.py": "", "app/c/__init__.py": "",
			"app/a/models.py": "from app.b.models import y\nx = y\n", "app/b/models.py": "y = 1\n", "app/c/models.py": "z = 1\n",
		}, []string{"unwired app/c/models.py"}},
		{"addresses below others", "- {rule: addresses, files: '*.ejs', by: 'href=\"(/[\\w/]*)\"', written-in: '*.js', written: 'r\\.(?:get|use)\\(\"(/[^\"]*)\"', stacked: true}", files{
			"a.js": "r.use(\"/berths\", b)\nr.get(\"/:id/assign\", c)\nr.get(\"/board\", d)\n", "a.ejs": "<a href=\"/berths/1/assign\">\n<a href=\"/berths/1/asign\">\n<a href=\"/bord\">\n<a href=\"/board\">\n<a href=\"/quays\">\n",
		}, []string{"dangling a.ejs:2", "dangling a.ejs:3"}},
		{"a name for what a text may not have", "- {rule: text, files: '*.js', must-not: 'use\\(error\\)(?s:.*)use\\(routes', what: routes behind errors}", files{"a.js": "use(error)\nuse(routes)\n", "b.js": "use(routes)\nuse(error)\n"}, []string{"substandard a.js:1"}},
		{"names once, but for what tests have", "- {rule: once, files: '**/*.py', except: 'tests/**', by: 'name = \"(\\w+)\"', what: table}", files{"a.py": "name = \"a\"\n", "b.py": "name = \"a\"\n", "tests/c.py": "name = \"a\"\n"}, []string{"disagrees b.py:1"}},
		{"the one that is not called as its neighbours", "- {rule: neighbours, files: '**/*.js', except: '**/index.js'}", files{
			"controllers/berthController.js": "", "controllers/tideController.js": "", "controllers/crew.controller.js": "", "controllers/index.js": "",
			"services/tide.service.js": "", "services/berth.service.js": "", "services/mail.js": "", "services/mail.test.js": "", "models/a.js": "", "models/b.js": "", "models/cModel.js": "",
			"routes/a_route.js": "", "routes/b_route.js": "", "routes/c.js": "", "routes/d.js": "", "api/aApi.js": "", "api/bApi.js": "", "api/c.js": "",
		}, []string{"misnamed controllers/crew.controller.js", "misnamed services/mail.js"}},
		{"a folder that an image takes, where nothing builds programs", "- {rule: dangling}", files{"package.json": "{}", "Dockerfile": "FROM x\nCOPY database ./database\nCOPY src ./src\nCOPY dist ./dist\n", "src/a.js": ""}, []string{"dangling Dockerfile:2"}},
		{"a program that was built before", "- {rule: dangling}", files{"go.mod": "module g\n", "package.json": "{}", "Dockerfile": "FROM x\nCOPY berthd ./berthd\n"}, nil},
		{"blocks that no page around has", "- {rule: filled-blocks, files: '**/*.html', to: '**/templates/{}'}", files{
			"templates/base.html": "{% block body %}{% block side %}{% endblock %}{% endblock %}\n", "templates/two.html": "{% extends \"base.html\" %}{% block body %}{% block within %}{% endblock %}{% endblock %}\n",
			"templates/a.html": "{% extends \"base.html\" %}\n{% block bodi %}{% endblock %}\n{% block side %}{% endblock %}\n", "templates/b.html": "{# x #}{% extends 'two.html' %}{% block within %}{% endblock %}{% block other %}{% endblock %}\n",
			"templates/c.html": "{% extends 'none.html' %}{% block any %}{% endblock %}\n", "templates/d.html": "{% extends which %}{% block any %}{% endblock %}\n", "templates/e.html": "{% block any %}{% endblock %}\n",
		}, []string{"dangling templates/a.html:2", "dangling templates/b.html:1"}},
		{"two steps that are the last", "- {rule: one-last, files: '**/steps/*.py', inside: '\\[.*?\\]', by: '\\(\"(?P<of>\\w+)\", \"(?P<name>\\w+)\"\\)', unless: replaces}", files{
			"tides/steps/__init__.py": "", "tides/steps/a.py": "[]\n", "tides/steps/b.py": "[(\"tides\", \"a\")]\n", "tides/steps/c.py": "[(\"tides\", \"a\")]\n",
			"crews/steps/a.py": "[]\n", "crews/steps/b.py": "[(\"crews\", \"a\"), (\"tides\", \"b\")]\n", "quays/steps/a.py": "[(\"other\", \"x\")]\n", "quays/steps/b.py": "[(\"other\", \"a\")]\n",
			"fares/steps/a.py": "[]\n", "fares/steps/b.py": "[(\"fares\", \"a\")]\n", "fares/steps/c.py": "[(\"fares\", \"a\")]\nreplaces\n",
		}, []string{"disagrees tides/steps/c.py"}},
		{"keys that settings read in other words", "- {rule: env-keys}", files{".env.example": "TIDES=1\n", "a.py": "x = env.str(\"TIDES\")\ny = env.bool(\"BERTHS\")\nz = env(\"CREWS\", default=1)\nw = config(\"QUAYS\")\n"}, []string{"disagrees a.py:2", "disagrees a.py:4"}},
		{"a page that names sources as they are", "- {rule: dangling}", files{"index.html": "<!doctype html>\n<script type=\"module\" src=\"/src/main.js\"></script>\n", "vite.config.ts": "export default {}\n", "package.json": "{}", "tsconfig.json": "{}", "src/main.ts": "x()\n"}, []string{"dangling index.html:2"}},
	}...)
}
