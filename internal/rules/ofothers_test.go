package rules

// What was told of repositories of others and was right, by its cause, each beside what is wrong.
func init() {
	const imported, undeclared, dangling = "- {rule: imported}", "- {rule: undeclared}", "- {rule: dangling}"
	const spaces = "- {rule: package-line, files: 'tests/**/*.php', roots: tests/, mapped-by: 'composer.json#autoload-dev.psr-4', deeper: true}"
	const pages = `- {rule: names, files: '**/*.py', by: '\brender\(["'']([\w/.]+)["'']', to: '**/pages/{}', where: ['**/pages/'], unless-in: settings.py, unless: '\w+\.Loader'}`
	composer := `{"autoload": {"psr-4": {"Gannet\\": "src/"}}, "autoload-dev": {"psr-4": {"Gannet\\Tests\\": "tests/"}}}`
	module := func(more files) files {
		all := files{"go.mod": "module gannet.example/ferry\n\ngo 1.25\n\nrequire gannet.example/other/v3 v3.0.0\n", "store/store.go": "package store\n\nfunc Open() {}\n", "client/store/store.go": "package clientstore\n\nfunc Ask() {}\n"}
		for at, text := range more {
			all[at] = text
		}
		return all
	}
	cases = append(cases, []ruled{
		{"what a package does not give", imported, module(files{"a/a.go": "package a\n\nimport \"gannet.example/ferry/store\"\n\nvar _ = store.Opne\n"}), []string{"dangling a/a.go:5"}},
		{"a package that is called otherwise than its folder, beside one that is called so", imported, module(files{"a/a.go": "package a\n\nimport (\n\t\"gannet.example/ferry/client/store\"\n\t\"gannet.example/other/v3\"\n)\n\nvar _ = store.Other\nvar _ = clientstore.Ask\n"}), nil},
		{"a file that not every build takes in", imported, module(files{"a/a.go": "//go:build old\n\npackage a\n\nimport \"gannet.example/ferry/store\"\n\nvar _ = store.Opne\n"}), nil},

		{"modules that a bundler finds in a folder of its own", undeclared, files{"package.json": `{"name": "desk", "dependencies": {"react": "1"}}`, "pkg/lib/dialogs.jsx": "export const a = 1\n", "pkg/lib/tides.py": "", "pkg/desk/index.js": "import { a } from 'dialogs'\nimport b from 'tides.py'\nimport c from 'left-pad'\n"}, []string{"disagrees pkg/desk/index.js:3"}},
		{"what a page loads beside the sources of a build", dangling, files{"pkg/desk/index.html": "<!doctype html>\n<script src=\"desk.js\"></script>\n<script src=\"../base/texts.js\"></script>\n<link rel=\"stylesheet\" href=\"desk.css\">\n", "pkg/more/index.html": "<!doctype html>\n<script src=\"../base/texts.js\"></script>\n", "pkg/base/base.ts": "", "pkg/desk/desk.jsx": "", "pkg/desk/desk.scss": ""}, nil},
		{"what a page loads, where one thing alone is absent", dangling, files{"index.html": "<!doctype html>\n<script src=\"js/desk.js\"></script>\n<script src=\"js/texts.js\"></script>\n", "js/texts.js": ""}, []string{"dangling index.html:2"}},
		{"what tests of a compiler read", dangling, files{"test/configCases/missing/index.js": "import a from './nowhere'\n", "test/broken_app/more/models.js": "import a from './nowhere'\n", "src/test/resources-of-builds/a.js": "import a from './nowhere'\n", "src/test/broken-projects/a.js": "import a from './nowhere'\n", "src/index.js": "import a from './nowhere'\n"}, []string{"dangling src/index.js:1"}},

		{"paths that a test hands over", dangling, files{"composer.json": composer, "tests/FilesTest.php": "<?php\nnamespace Gannet\\Tests;\n$a->with(__DIR__.'/en/texts.php');\nrequire __DIR__.'/helpers.php';\n", "src/Files.php": "<?php\nnamespace Gannet;\n$a->with(__DIR__.'/en/texts.php');\n"}, []string{"dangling src/Files.php:3", "dangling tests/FilesTest.php:4"}},
		{"a class of which a test speaks", imported, files{"composer.json": composer, "tests/FilesTest.php": "<?php\nnamespace Gannet\\Tests;\nclass FilesTest { function a() { return [Nowhere::class, new Absent()]; } }\n", "src/Files.php": "<?php\nnamespace Gannet;\nclass Files { function a() { return Nowhere::class; } }\n"}, []string{"dangling src/Files.php:3", "dangling tests/FilesTest.php:3"}},
		{"a namespace of its own for a test", spaces, files{"composer.json": composer, "src/Files.php": "", "tests/Db/RowsTest.php": "<?php\n\nnamespace Gannet\\Tests\\Db\\RowsTest;\n", "tests/Db/KeysTest.php": "<?php\n\nnamespace Gannet\\Tests\\Keys;\n", "tests/Db/Old/OldTest.php": "<?php\n\nnamespace Gannet\\Tests\\Db\\Old;\n", "tests/Db/MoreTest.php": "<?php\n\nnamespace Gannet\\Tests\\Db\\Old;\n"}, []string{"misdeclared tests/Db/KeysTest.php:3", "misdeclared tests/Db/MoreTest.php:3"}},

		{"names that a part of a package gives everybody, once it is loaded", imported, files{"package.json": `{"name": "desk", "dependencies": {"shore": "1"}}`, "a.js": "const { moor } = require('shore')\nmodule.exports = { a: moor }\n", "b.js": "require('shore/global')\nmoor('b')\n", "c.js": "const d = require('./d')\nmoor(d)\n", "d.js": "exports.d = 1\n"}, []string{"dangling c.js:2"}},
		{"a name that whoever starts the modules gives them", imported, files{"a.py": "import os\n\nprint(os.name, HARBOUR)\n", "b.py": "import os\n\nprint(os.name, HARBOUR)\n", "c.py": "import os\n\nprint(os.name, QUAYS)\n"}, []string{"dangling c.py:3"}},
		{"modules that a file loads in a way of its own", dangling, files{"package.json": "{}", "a.js": "const require = (name) => cache[name]\nrequire('./nowhere')\n", "b.mjs": "import { createRequire } from 'node:module'\nconst require = createRequire(import.meta.url)\nrequire('./nowhere')\n"}, []string{"dangling b.mjs:3"}},
		{"a module beside, as Python 2 finds it", dangling, files{"ferry/__init__.py": "", "setup.py": "", "ferry/quays/__init__.py": "from fferry import *\n", "ferry/quays/fferry.py": "a = 1\n", "ferry/tides.py": "import fery\n"}, []string{"dangling ferry/tides.py:1"}},
		{"sources that begin anew below a folder that can be no package", "- {rule: package-line, files: 'src/**/*.java', roots: src/}", files{"src/org/gannet/super/org/gannet/Tide.java": "package org.gannet;\n", "src/org/gannet/more/org/gannet/Tide.java": "package org.gannet;\n"}, []string{"misdeclared src/org/gannet/more/org/gannet/Tide.java:1"}},
		{"a script that is made of the one beside it", dangling, files{"index.html": "<!doctype html>\n<script src=\"js/tide.js\"></script>\n<script src=\"js/tide.min.js\"></script>\n", "more.html": "<!doctype html>\n<script src=\"js/tide.js\"></script>\n<script src=\"js/quay.min.js\"></script>\n", "js/tide.js": ""}, []string{"dangling more.html:3"}},
		{"a part of a package that a declaration stands for", dangling, files{"package.json": `{"name": "desk"}`, "types/index.d.ts": "declare module \"desk\" {\n  import { a } from \"desk/-types\";\n}\ndeclare module \"desk/-types\" {\n  export const a: number;\n}\n", "a.ts": "import { b } from './nowhere'\n"}, []string{"dangling a.ts:1"}},
		{"an image that copies all that is there", dangling, files{"Dockerfile": "FROM node:22\nCOPY ./ ./\nADD . /app\nCOPY ./nowhere ./\n", "a.js": ""}, []string{"dangling Dockerfile:4"}},
		{"a type that a declaration gives everybody", imported, files{"package.json": `{"name": "desk", "dependencies": {"shore": "1"}}`, "a.ts": "import { Quay, Pier } from 'shore'\nexport const a: Quay = Pier\n", "b.ts": "import { a } from './a'\nexport const b: Quay[] = [new Pier(a)]\n", "types/all.d.ts": "type Quay = { at: string }\n"}, []string{"dangling b.ts:2"}},
		{"folders of programs, and of scripts", "- {rule: ignored}", files{".gitignore": "", "bin/build.py": "import os\n", "bin/build.sh": "#!/bin/sh\n", "bin/README.md": "", "test_files/run.log": "", "run.log": "", "change.log": ""}, []string{"exposed run.log"}},
		{"an image that is called as modules are", "- {rule: wall, files: 'web/**', modules: ['node:*']}", files{"web/Dockerfile": "FROM node:22\n", "web/a.js": "import fs from 'node:fs'\n"}, []string{"tangled web/a.js:1"}},
		{"pages, where the framework looks for them", pages, files{"settings.py": "LOADERS = []\n", "a/pages/quay.html": "", "a/a.py": "render('quays.html')\n"}, []string{"dangling a/a.py:1"}},
		{"pages, where a loader of the project's own does", pages, files{"settings.py": "LOADERS = ['harbour.Loader']\n", "a/pages/quay.html": "", "a/a.py": "render('quays.html')\n"}, nil},
	}...)
}

// What people do to projects of frameworks and nobody told, by its cause.
func init() {
	module := func(call string) files {
		return files{"live/main.tf": "module \"tides\" {\n  source = \"../modules/tides\"\n\n" + call + "}\n", "modules/tides/variables.tf": "variable \"bucket\" {}\n\nvariable \"zone\" {\n  default = \"a\"\n}\n", "modules/tides/outputs.tf": "output \"url\" {\n  value = 1\n}\n"}
	}
	const handed = `- {rule: arguments, files: '**/*.tf', calls: '(?ms)^module\s+"([\w-]+)"\s*\{.*?^\}', of: '(?m)^\s*source\s*=\s*"(\.\.?/[^"]*)"', hands: '(?m)^  (\w+)\s*=', except: '^source$', asks: '(?ms)^variable\s+"(\w+)"\s*\{(?:\}|.*?^\})', unless: '\bdefault\s*=', takes: '\bmodule\.(\w+)\.(\w+)', gives: '(?m)^output\s+"(\w+)"'}`
	cases = append(cases, []ruled{
		{"what a module asks for", handed, module("  bucket = 1\n"), nil},
		{"what a module needs and is not given", handed, module("  zone = 1\n"), []string{"dangling live/main.tf:1"}},
		{"what a module does not ask for", handed, module("  bucket = 1\n  place = 2\n"), []string{"dangling live/main.tf:5"}},
		{"one thing called otherwise", handed, module("  buckets = 1\n"), []string{"dangling live/main.tf:4"}},
		{"what a module does not give", handed, module("  bucket = module.tides.uri\n"), []string{"dangling live/main.tf:4"}},
		{"what is given twice in a folder", `- {rule: once, files: '**/*.tf', by: '(?m)^variable "(\w+)"', what: variable, in-folder: true}`, files{"a/a.tf": "variable \"x\" {}\n", "a/b.tf": "variable \"x\" {}\n", "b/a.tf": "variable \"x\" {}\n"}, []string{"disagrees a/b.tf:1"}},
		{"what a module keeps for itself", "- {rule: dangling}", files{"package.json": "{}", "a.ts": "import { Quay, Pier } from './b'\n", "b.ts": "export class Quay {}\nclass Pier {}\n"}, []string{"dangling a.ts:1"}},
		{"names in another shape", "- {rule: spelling, files: 'lib/**/*.dart', shape: snake}", files{"lib/TideTile.dart": "", "lib/tide_tile2.dart": "", "lib/sha256.dart": "", "lib/_part.dart": "", "lib/berth-card.g.dart": ""}, []string{"misnamed lib/TideTile.dart", "misnamed lib/berth-card.g.dart"}},
		{"two locks", "- {rule: one-way, ways: [package-lock.json, yarn.lock]}", files{"package-lock.json": "{}", "yarn.lock": "", "package.json": "{}"}, []string{"crowded yarn.lock", "crowded yarn.lock"}},
		{"a secret that a generator made, given in code", "- {rule: secrets}", files{"a.py": "class S:\n    SECRET_KEY: str = \"4f1c9d" + "27ab3e58f6c0d9b1a7e2\"\n    SECRET_NAME = \"harbour-of-the-gannet-line-2026\"\n    token = \"4f1c9d" + "27ab3e58f6c0d9b1a7e2\"\n"}, []string{"exposed a.py:2"}},
		{"a password that code gives to a name", "- {rule: secrets}", files{"a.py": "PORT_PASSWORD = \"Tern!9-quay77\"\nKEY = \"password\"\npassword = \"harbour\"\n", "b.js": "const a = { password: 'x9!" + "quay-Tern', secret: process.env.A, token: 'a.b.c' }\n", "tests/a_test.py": "password = \"Tern!9-quay77\"\n"}, []string{"exposed a.py:1", "exposed b.js:1", "exposed tests/a_test.py:1"}},
	}...)
}
