package rules

import "strings"

// What was told of packages and programs of others and was right, by its cause, each beside what is wrong.
func init() {
	const imported, dangling = "- {rule: imported}", "- {rule: dangling}"
	const maven = "- {rule: parts-asked, files: '**/*.java', manifests: pom.xml, named: ['<artifactId>{}</artifactId>'], circles: Nothing is built.}"
	asks := func(own, other string) string {
		return "<project>\n<artifactId>" + own + "</artifactId>\n<dependency><artifactId>" + other + "</artifactId></dependency>\n</project>\n"
	}
	const pages = `- {rule: names, files: '**/*.js', by: '\brender\(["'']([\w/]+)["'']', to: 'views/{}.html'}`
	const routes = "- {rule: wired, files: 'routes/*.js', by: main.js, imports: true, creates: '(server)', offers: 'export default (\\w+)', mounts: ['use\\(\\s*(\\w+)'], level: error}"
	const spaces = "- {rule: package-line, files: 'src/**/*.php', roots: src/, mapped-by: 'composer.json#autoload.psr-4', needed: true}"
	composer := `{"autoload": {"psr-4": {"Gannet\\": "src/", "Gannet\\Inner\\Shore\\": "src/Pier/Inner/"}}}`
	module := `{"name": "desk", "dependencies": {"shore": "1"}}`
	xcode := func(paths ...string) string {
		text := "{ objects = {\n"
		for _, at := range paths {
			text += "  \"" + at + "\" = {isa = PBXFileReference; path = \"" + at + "\"; sourceTree = SOURCE_ROOT; };\n"
		}
		return text + "}; }\n"
	}
	cases = append(cases, []ruled{
		{"a name that three scripts use and none of them binds", imported, files{"package.json": module, "a.js": "const z = require('./z')\nuse(z)\n", "b.js": "const z = require('./z')\nuse(z)\n", "c.js": "const z = require('./z')\nuse(z)\nmoor(z)\n", "k.js": "const { use, moor } = require('shore')\nmodule.exports = { use, moor }\n", "z.js": "exports.z = 1\n"}, []string{"dangling c.js:3"}},
		{"the value of a store", imported, files{"package.json": module, "a.svelte": "<script>\n  import { tides } from 'shore'\n  $: now = $tides.now\n</script>\n", "b.svelte": "<script>\n  import { tiades } from 'shore'\n  tiades.now()\n  $: now = tides.now\n</script>\n"}, []string{"dangling b.svelte:4"}},
		{"a space that no line breaks at", imported, files{"package.json": module, "a.js": "import berth from 'shore'\nexport const a = [\u00a0berth.b, berht.c]\n"}, []string{"dangling a.js:2"}},
		{"what is exported in the line behind", dangling, files{"package.json": module, "a.js": "import { Tide, Quay } from './b'\n", "b.js": "export \nclass Tide {}\n\nclass Quay {}\n"}, []string{"dangling a.js:1"}},
		{"functions of an object that is exported", "- {rule: imported}\n- {rule: dangling}", files{"package.json": module, "a.js": "import kept from './b'\nimport { forget } from './c'\nkept.createAll()\nkept.retire()\n", "b.js": "function createAl() {}\nfunction createAll() {}\nfunction retire() {}\nexport default {\n  createAl,\n  createAll,\n  drop: retire\n}\n", "c.js": "function forget() {}\nexport default { x, forgets() {} }\n"}, []string{"dangling a.js:2", "dangling a.js:4"}},
		{"what another module adds to what a module exports", imported, files{"package.json": module, "a.js": "const tides = require('./tides')\ntides.reply()\n", "tides.js": "(function (Tides) {\n  require('./more')(Tides)\n  Tides.replies = 1\n}(exports))\n", "more.js": "module.exports = (Tides) => { Tides.reply = 1 }\n", "b.js": "const quays = require('./quays')\nquays.reply()\n", "quays.js": "exports.replies = 1\n"}, []string{"dangling b.js:2"}},
		{"what a compiler or a loader makes of a module", dangling, files{"package.json": module, "a.ts": "import { F } from '../made/app.module.ngfactory'\n", "wide.js": "(function (mod) {\n  if (typeof exports == 'object') mod(require('../lib/desk'))\n  else if (typeof define == 'function' && define.amd) define(['../lib/desk'], mod)\n})(x)\n", "b.js": "require('../lib/desk')\n", "sub/b.js": "require('../lib/desk')\n"}, []string{"dangling sub/b.js:1"}},
		{"names of a long list that are taken under others", imported, files{"package.json": module, "a.mjs": "import {\n" + long("    Tide1 as core_Tide1,\n", 300) + "    Berth as core_Berth\n} from 'shore'\nexport default core_Berth\n", "Berth.mjs": "class Berth {}\nexport default Berth\n", "b.mjs": "import x from './Berth.mjs'\nexport const y = new Berth(x)\n"}, []string{"dangling b.mjs:2"}},
		{"members of what a call has made", imported, files{"package.json": module, "a.js": "const router = require('./b')\nrouter.routes()\nconst table = require('./c')\ntable.routes()\n", "b.js": "const router = require('shore')()\nmodule.exports = router\n", "d.js": "const router = make(1)\nrouter.get()\nmodule.exports = router\n", "e.js": "const d = require('./d')\nd.routers()\n", "c.js": "const table = {\n  routers: 1\n}\nmodule.exports = table\n"}, []string{"dangling a.js:4"}},
		{"what is only there where it is built, or was built", dangling, files{"package.json": module, "index.html": "<!doctype html>\n<script src=\"cordova.js\"></script>\n<script src=\"lost.js\"></script>\n", "open/dist/api.js": "import x from './lost'\n", "blueprints/__name__/a.js": "import x from './lost'\n", "lost.css": ""}, []string{"dangling index.html:3"}},
		{"what files without a mark may not have", `- {rule: text, files: '*.tsx', unless: '\A\s*["'']use client["'']', must-not: useEffect}`, files{"a.tsx": "'use client'\nimport { useEffect } from 'react'\n", "b.tsx": "// x\n\"use client\"\nimport { useEffect } from 'react'\n", "c.tsx": "import { useEffect } from 'react'\n'use client'\n"}, []string{"substandard c.tsx:1"}},
		{"what lies in a folder that a program fills", dangling, files{"package.json": module, "a.js": "import x from './compiled/a.vue'\nimport y from './made/a.vue'\n"}, []string{"dangling a.js:2"}},
		{"what a declaration names that nothing runs", dangling, files{"package.json": module, "types/a.d.ts": "import { A } from '../nowhere'\n"}, []string{"dangling types/a.d.ts:1"}},

		{"what is brought or made before a project of Xcode is built", dangling, files{"ios/x.xcodeproj/project.pbxproj": xcode("Pods/Tides/a.xcconfig", "main.jsbundle", "Lost.swift", "Carthage/Build/b.framework"), "ios/Here.swift": ""}, []string{"dangling ios/x.xcodeproj/project.pbxproj:4"}},
		{"pages of which none is where they are looked for", pages, files{"a.js": "render('account/edit')\nrender('groups')\nrender('people/list')\nrender('chats')\nrender('sailings')\n", "views/sailing.html": ""}, []string{"dangling a.js:5"}},
		{"pages of which most are there", pages, files{"a.js": "render('a')\nrender('b')\nrender('c')\n", "views/a.html": "", "views/b.html": ""}, []string{"dangling a.js:3"}},
		{"style sheets for two ways of writing", "- {rule: copies}", files{"a/style.css": long("style { color: red }\n", 10), "a/style-rtl.css": long("style { color: red }\n", 10)}, nil},
		{"an address that begins as a module is called", "- {rule: wall, files: 'web/**', modules: [http]}", files{"web/a.html": "<a href=\"http://gannet.example/tides\">x</a>\n", "web/a.js": "import http from 'http'\n"}, []string{"tangled web/a.js:1"}},
		{"two builds of the same parts", maven, files{"a/pom.xml": asks("tides", "quays"), "b/pom.xml": asks("quays", "tides"), "old/a/pom.xml": asks("tides", "quays"), "old/b/pom.xml": asks("quays", "tides")}, nil},
		{"a list of routes that hands on what the start leads to", routes, files{"main.js": "import all from './routes/all.js'\nuse(all)\n", "routes/all.js": "import tides from './tides.js'\nuse(tides)\nexport default all\n", "routes/tides.js": "export default tides\n", "routes/quays.js": "export default quays\n"}, []string{"unwired routes/quays.js"}},

		{"a value of which a template asks first whether there is any", `- {rule: value-keys, files: '*.yaml', by: '\.Values\.([\w.]+)', in: values.yml, unless: '\bif\b'}`, files{"values.yml": "image: x\n", "a.yaml": "{{- if .Values.extra }}\nenv: {{ .Values.extra.env }}\n{{- end }}\n", "b.yaml": "env: {{ .Values.more.env }}\n"}, []string{"dangling b.yaml:1"}},
		{"what an image is built of from the top", "- {rule: names-file, files: '**/compose.yaml', keys: 'services.*.build.dockerfile', within: context}", files{"test/compose.yaml": "services:\n  a:\n    build:\n      context: .\n      dockerfile: ./test/a/Dockerfile\n  b:\n    build:\n      context: .\n      dockerfile: ./test/b/Dockerfile\n", "test/a/Dockerfile": ""}, []string{"dangling test/compose.yaml:9"}},
		{"settings that people make of a sample", "- {rule: names-file, files: compose.yaml, keys: 'services.*.env_file'}", files{"compose.yaml": "services:\n  a:\n    env_file: .env\n  b:\n    env_file: more/.env\n", ".env.example": "", "more/x": ""}, []string{"dangling compose.yaml:5"}},
		{"a key that browsers are sent", `- {rule: secrets, files: '**/config.ts', by: 'apiKey: ''(\w+)''', aside: '\{[^{}]*indexName[^{}]*\}'}`, files{"a/config.ts": "export default { search: { apiKey: '34b64" + "ae4fc8d9', indexName: 'tides' } }\n", "b/config.ts": "export default { mail: { apiKey: '34b64" + "ae4fc8d9' } }\n"}, []string{"exposed b/config.ts:1"}},
		{"names of letters in what was made small", "- {rule: secrets}", files{"a.min.js": "var password = \"Tern!9-" + "quay77\"\n", "a.js": "var password = \"Tern!9-" + "quay77\"\n"}, []string{"exposed a.js:1"}},

		{"a crate whose root lies elsewhere", dangling, files{"Cargo.toml": "[package]\nname = \"tides\"\n\n[lib]\npath = \"src/tides/lib.rs\"\n", "src/tides/lib.rs": "pub mod util;\npub mod ledger;\n", "src/tides/util.rs": "use crate::ledger::Line;\nuse crate::ledgre::Line;\n", "src/tides/ledger.rs": "pub struct Line;\n"}, []string{"dangling src/tides/util.rs:2"}},
		{"a module that the manifest names as a start", "- {rule: reached, files: 'src/**/*.rs', except: src/main.rs, named-in: Cargo.toml}", files{"Cargo.toml": "[lib]\npath = \"src/tides/lib.rs\"\n", "src/main.rs": "\n", "src/tides/lib.rs": "\n", "src/tides/lost.rs": "\n"}, []string{"unwired src/tides/lost.rs"}},
		{"names of the global namespace among others", imported, files{"composer.json": `{"autoload": {"psr-4": {"Gannet\\": "src/"}}}`, "src/Quay.php": "<?php\nnamespace Gannet {\nclass Quay {}\n}\n\nnamespace {\nfunction a($x) { return $x instanceof ArrayAccess; }\n}\n", "src/Pier.php": "<?php\nnamespace Gannet;\nclass Pier { function a($x) { return $x instanceof ArrayAccess; } }\n"}, []string{"dangling src/Pier.php:3"}},
		{"files of PHP that no loader looks for", spaces, files{"composer.json": composer, "src/config/services.php": "<?php\nnamespace Gannet\\Loader;\nreturn 1;\n", "src/one-way/Tide.php": "<?php\nnamespace Gannet\\OneWay;\nclass Tide {}\n", "src/Pier/Inner/Rail.php": "<?php\nnamespace Gannet\\Pier\\Inner;\nclass Rail {}\n", "src/Pier/Outer/Rail.php": "<?php\nnamespace Gannet\\Pier\\Inner;\nclass Rail {}\n", "src/Fixtures/Bare.php": "<?php\nclass Bare {}\n", "src/Pier/Bare.php": "<?php\nclass Bare {}\n"}, []string{"misdeclared src/Pier/Bare.php:1", "misdeclared src/Pier/Outer/Rail.php:2"}},
		{"a file that a test itself makes", dangling, files{"tests/ATest.php": "<?php\nunlink(__DIR__ . '/made.php');\n$a = require __DIR__ . '/made.php';\n$b = require __DIR__ . '/lost.php';\n"}, []string{"dangling tests/ATest.php:4"}},
		{"templates of a package that makes others", dangling, files{"package.json": `{"name": "create-tides"}`, "template/base/index.html": "<!doctype html>\n<script src=\"/src/main.js\"></script>\n<script src=\"lost.js\"></script>\n", "template/base/lost.css": "", "index.html": "<!doctype html>\n<script src=\"lost.js\"></script>\n"}, []string{"dangling index.html:2"}},
		{"a library of others that a manager puts into a folder of theirs", dangling, files{"index.html": "<!doctype html>\n<script src=\"/vendor/bower/tide.js\"></script>\n<script src=\"/vendor/quya.js\"></script>\n", "vendor/quay.js": ""}, []string{"dangling index.html:3"}},
	}...)
}

// long repeats a line.
func long(line string, times int) string { return strings.Repeat(line, times) }
