package app_test

import (
	"slices"
	"testing"
)

// TestReferencesOfOthers checks small repositories, each for one cause for which a
// reference that leads to nothing here is in order all the same, or, beside it, one
// for which it is not.
func TestReferencesOfOthers(t *testing.T) {
	gem := "class Pier; end\n"
	for _, c := range []struct {
		cause string
		files map[string]string
		want  []string
	}{
		{"a package of the same name may be of others", map[string]string{"alembic/env.py": "from alembic import op\n", "requirements.txt": "alembic\n"}, nil},
		{"a module of the standard library is not the one beside", map[string]string{"ferry/__init__.py": "", "ferry/types.py": "x = 1\n", "ferry/a.py": "from types import ModuleType\nimport collections.abc\n", "ferry/collections/__init__.py": ""}, nil},
		{"a project that is a part of a package", map[string]string{"__init__.py": "", "a.py": "from ferry.tides import x\n", "tides.py": ""}, nil},
		{"a module in another language", map[string]string{"ferry/__init__.py": "", "ferry/a.py": "from . import _fast\nfrom .quick import x\n", "ferry/_fast.c": "", "ferry/quick.pyx": ""}, nil},
		{"a module that gives any name", map[string]string{"ferry/__init__.py": "def __getattr__(name): pass\n", "a.py": "from ferry import anything\nfrom ferry.some import x\n"}, nil},
		{"a name for types stands in a stub", map[string]string{"ferry/__init__.py": "", "ferry/__init__.pyi": "class Pier: ...\n", "ferry/a.pyi": "from . import Pier\n"}, nil},
		{"a name that a package takes from itself is not given by that", map[string]string{"ferry/__init__.py": "from ferry import views\nviews.run()\n", "ferry/view.py": ""}, []string{"ferry/__init__.py:1"}},
		{"a module that moved, under its whole name", map[string]string{"requirements.txt": "flask\n", "a.py": "import tides.table\n", "ferry/tides/table.py": ""}, []string{"a.py:1"}},
		{"types stand beside what is compiled", map[string]string{"package.json": "{}", "a.d.ts": "import { Pier } from './b.js'\n", "b.js": "export const x = 1\n", "b.d.ts": "export interface Pier {}\n"}, nil},
		{"a declaration names the source that it was made of", map[string]string{"package.json": "{}", "a.d.ts": "import { Pier } from './b.ts'\nimport './c.ts'\n", "b.d.ts": "export interface Pier {}\n"}, []string{"a.d.ts:2"}},
		{"a platform stands in the name", map[string]string{"package.json": "{}", "a.js": "import './pier'\nimport './boat'\n", "pier.ios.js": "", "pier.android.js": "", "boat.web.tsx": ""}, nil},
		{"a page names what its bundler writes", map[string]string{"package.json": `{"dependencies": {"react": "19", "react-redux": "9"}}`, "webpack.config.js": "module.exports = { output: { path: __dirname, filename: 'bundle.js' } };\n", "index.html": "<!doctype html><script src=\"bundle.js\"></script>\n"}, nil},
		{"a page names what its bundler writes by a pattern", map[string]string{"package.json": `{"dependencies": {"react": "19", "react-redux": "9"}}`, "web/rollup.config.mjs": "export default { output: { entryFileNames: 'js/[name].bundle.js' } };\n", "web/index.html": "<!doctype html><script src=\"js/tides.bundle.js\"></script>\n"}, nil},
		{"a page names what its bundler does not write", map[string]string{"package.json": `{"dependencies": {"react": "19", "react-redux": "9"}}`, "webpack.config.js": "module.exports = { output: { path: __dirname, filename: 'bundle.js' } };\n", "index.html": "<!doctype html><script src=\"bundel.js\"></script>\n"}, []string{"index.html:1"}},
		{"a module within a bundle", map[string]string{"a.js": "define('ferry/a', ['require'], function (require) { require('./b') })\n", "c.js": "/* bundle */ (function(require,module,exports){ require('./d') })\n"}, nil},
		{"a build makes it", map[string]string{"package.json": "{}", "a.js": "require('./dist/ferry')\nrequire('../lib/x')\n", "test/run.js": "require('../build/Release/ferry.node')\n"}, nil},
		{"an ignore file names it", map[string]string{".gitignore": "made/\n*.gen.ts\n", "package.json": "{}", "a.ts": "import './made/x'\nimport './tides.gen'\n"}, nil},
		{"a compiler makes it of what is not there", map[string]string{"package.json": "{\"main\": \"dist/a.js\",\n\"types\": \"dist/a.d.ts\", \"bin\": \"dist/b.js\",\n\"scripts\": {\"build\": \"tsc\"}}", "tsconfig.json": `{"compilerOptions": {"outDir": "dist", "rootDir": "src"}}`, "src/a.ts": ""}, []string{"package.json:2"}},
		{"a bundler makes it of whatever", map[string]string{"package.json": `{"main": "dist/a.js", "scripts": {"build": "rollup -c"}}`, "tsconfig.json": `{"compilerOptions": {"outDir": "dist"}}`, "src/b.ts": ""}, nil},
		{"the entry of a package may be another's", map[string]string{"package.json": `{"main": "expo-router/entry", "dependencies": {"expo-router": "1"}, "private": true}`}, nil},
		{"what a test runner is given first is a module", map[string]string{"package.json": `{"scripts": {"test": "mocha -r ts-node/register --recursive 'test/**/*.ts'"}, "devDependencies": {"ts-node": "1"}}`, "test/a.ts": ""}, nil},
		{"packages of one vendor share a beginning", map[string]string{"composer.json": `{"autoload": {"psr-4": {"Ferry\\": "src/"}}, "require": {"ferry/tides": "1"}}`, "src/A.php": "<?php\nnamespace Ferry;\nuse Ferry\\Tides\\Table;\nuse Ferry\\Other\\Thing;\nclass A {}\n"}, nil},
		{"a class that a text of the project writes", map[string]string{"composer.json": `{"autoload": {"psr-4": {"Ferry\\": "src/"}}}`, "src/A.php": "<?php\nnamespace Ferry;\nclass A { function f() { return \\Ferry\\Proxy::class; } }\n", "src/B.php": "<?php\nnamespace Ferry;\nclass B { const T = 'class Proxy {}'; }\n"}, nil},
		{"what is asked for first may be absent", map[string]string{"a.php": "<?php\nif (is_file(__DIR__ . '/b.php')) {\n    require __DIR__ . '/b.php';\n}\n", "c.rb": "begin\n  require_relative 'd'\nrescue LoadError\nend\n"}, nil},
		{"a required file that is read late", map[string]string{"lib/ferry.rb": gem + "def f\n  require 'ferry/late'\nend\n", "lib/ferry/a.rb": ""}, nil},
		{"a module with a name below this one", map[string]string{"go.mod": "module m.example/a\n\nrequire m.example/a/tools v1.0.0\n", "a.go": "package a\n\nimport _ \"m.example/a/tools/x\"\nimport _ \"m.example/a/nowhere\"\n"}, []string{"a.go:4"}},
		{"links of a package to what it leaves out are told once", map[string]string{"README.md": "[a](docs/a.md) [b](docs/b.md)\n[c](docs/c.md)\n"}, []string{"README.md:1", "docs/b.md", "docs/c.md"}},
		{"each page of a site has a folder", map[string]string{"docs/a/index.md": "[b](../b/#top)\n", "docs/c.md": "[b](../b/) [d](d.html)\n", "docs/b.md": "", "docs/d.md": ""}, nil},
		{"a part of a page lies elsewhere in the end", map[string]string{"parts/a.html": "<img src=img/x.png>", "b.html": "<!doctype html><img src='{{ logo }}'><script src=gone.js></script>"}, nil},
		{"what others wrote is fetched", map[string]string{"index.html": "<!doctype html><script src=bower_components/jquery/jquery.js></script><script src=js/gone.js></script>"}, []string{"index.html:1"}},
		{"data of tests names what it likes", map[string]string{"testdata/a.js": "import './b'\n", "tests/cases/a.js": "import './b'\n", "template-app/a.js": "import './b'\n"}, nil},
		{"an image is built from a folder above", map[string]string{"docker/Dockerfile": "FROM x\nCOPY src /app\nCOPY sources/ /app\n", "src/a": ""}, []string{"docker/Dockerfile:3"}},
		{"modules of attribute and condition", map[string]string{"Cargo.toml": "[package]\nname = \"ferry\"\n", "src/lib.rs": "#[path = \"x.rs\"]\nmod a;\n#[cfg(test)]\nmod b;\nmod c;\nmod d { mod e; }\n", "src/c.rs": ""}, nil},
		{"generators of Dart write two endings", map[string]string{"pubspec.yaml": "name: ferry\n", "lib/a.dart": "part 'a.g.dart';\nimport 'package:ferry/b.freezed.dart';\nimport 'package:ferry/c.dart';\n"}, []string{"lib/a.dart:3"}},
		{"what a build generates of Java", map[string]string{"build.gradle": "", "src/main/java/example/gannet/A.java": "package example.gannet;\nimport example.gannet.R;\nimport example.gannet.databinding.PierBinding;\nimport example.gannet.Berth;\n", "src/main/java/example/gannet/B.java": "package example.gannet;\n"}, []string{"src/main/java/example/gannet/A.java:4"}},
		{"a package that is a slip away", map[string]string{"src/example/gannet/A.kt": "package example.gannet\nimport example.gannet.tide.Table\nimport example.gannet.other.Thing\n", "src/example/gannet/tides/Table.kt": "package example.gannet.tides\nclass Table\n"}, []string{"src/example/gannet/A.kt:2"}},
		{"a class under another namespace than its place", map[string]string{"composer.json": `{"autoload": {"psr-4": {"Ferry\\": "src/"}, "files": ["src/f.php"]}}`, "src/f.php": "<?php\nnamespace Ferry;\n", "src/A.php": "<?php\nnamespace Ferry;\nuse Ferry\\Tides\\B;\nclass A {}\n", "src/Tides/B.php": "<?php\nnamespace Ferry\\Tide;\nclass B {}\n"}, []string{"src/A.php:3"}},
		{"a class that is loaded by a list", map[string]string{"composer.json": `{"autoload": {"psr-4": {"Ferry\\": "src/"}, "classmap": ["src/"]}}`, "src/A.php": "<?php\nnamespace Ferry;\nuse Ferry\\Tides\\B;\nclass A {}\n", "src/Tides/B.php": "<?php\nnamespace Ferry\\Tide;\nclass B {}\n"}, nil},
		{"a test beside a module gives nothing of it", map[string]string{"package.json": "{}", "a.js": "import { pier } from './b'\n", "b.js": "export const boat = 1\n", "b.test.js": "import { boat } from './b'\n"}, []string{"a.js:1"}},
		{"a name that settings and a custom both know", map[string]string{"package.json": "{}", "tsconfig.json": `{"compilerOptions": {"paths": {"@/*": ["./src/*"]}}}`, "src/a.ts": "import x from '@/img/none.png'\n", "src/img/pier.svg": ""}, []string{"src/a.ts:1"}},
		{"a custom alone", map[string]string{"package.json": "{}", "src/a.ts": "import x from '@/img/none.png'\n", "src/img/pier.svg": ""}, nil},
		{"a class that moved to another namespace", map[string]string{"composer.json": `{"autoload": {"psr-4": {"Ferry\\": "src/"}}}`, "src/A.php": "<?php\nnamespace Ferry;\nuse Ferry\\Models\\Berth;\nclass A {}\n", "src/Berth.php": "<?php\nnamespace Ferry;\nclass Berth {}\n"}, []string{"src/A.php:3"}},
		{"a class that wraps another's of its name", map[string]string{"composer.json": `{"autoload": {"psr-4": {"Ferry\\": "src/"}}}`, "src/Berth.php": "<?php\nnamespace Ferry;\nuse Ferry\\Models\\Berth as Other;\nclass Berth extends Other {}\n"}, nil},
		{"a vendor with packages of its own", map[string]string{"composer.json": `{"autoload": {"psr-4": {"Ferry\\": "src/"}}, "require": {"ferry/line-models": "1"}}`, "src/A.php": "<?php\nnamespace Ferry;\nuse Ferry\\Models\\Berth;\nclass A {}\n", "src/Berth.php": "<?php\nnamespace Ferry;\nclass Berth {}\n"}, nil},
		{"texts that go into a program of Go", map[string]string{"go.mod": "module m\n", "a.go": "package a\n\nimport _ \"embed\"\n\n//go:embed form.tmpl\nvar a string\n\n//go:embed all:pages \"x y.txt\" *.sql\nvar b string\n\n//go:embed forms.tmpl\nvar c string\n", "form.tmpl": "", "pages/a": "", "x y.txt": "", "1.sql": ""}, []string{"a.go:11"}},
		{"a remark that only looks so", map[string]string{"go.mod": "module m\n", "a.go": "package a\n\n// go:embed none.tmpl\nvar a string\n"}, nil},
		{"namespaces of others", map[string]string{"Ferry.csproj": "<Project/>", "A.cs": "using System.Linq;\nusing Ferry.Tides;\nusing Ferry;\nnamespace Ferry;\n"}, []string{"A.cs:2"}},
		{"a package may bring models", map[string]string{"dbt_project.yml": "name: ferry\n", "packages.yml": "packages: []\n", "models/a.sql": "select 1 from {{ ref('brought') }}\n", "snapshots/s.sql": "{% snapshot tides_then %}{% endsnapshot %}\n", "models/b.sql": "select 1 from {{ ref('tides_then') }} join {{ ref('other', 'x') }}\n"}, []string{"models/a.sql:1"}},
	} {
		t.Run(c.cause, func(t *testing.T) {
			t.Parallel()
			got := danglingAt(t, c.files)
			slices.Sort(got)
			slices.Sort(c.want)
			if !slices.Equal(got, c.want) {
				t.Errorf("told %q, not %q", got, c.want)
			}
		})
	}
}
