package rules

import "strings"

// What was told of libraries and services of others and was right, by its cause, each beside what is wrong.
func init() {
	const dangling, exposed = "- {rule: dangling}", "- {rule: secrets}"
	key := "-----BEGIN " + "PRIVATE KEY-----\nx\n"
	password := "sa:Tern-" + "86quay"
	series := func(secret string) string {
		return `{"ids": {"Tide": "QX_kw01aa", "Quay": "QX_kw02bb", "Crew": "QX_kw03cc", "Secret": "` + secret + `"}}`
	}
	const packages = "- {rule: package-line, files: '**/*.go', roots: /}"
	cases = append(cases, []ruled{
		{"keys that tests alone name", exposed, files{"conf/certs/a.key": key, "conf/certs/b.key": key, "serve_test.go": "package a\n\nvar a, b = \"conf/certs/a.key\", \"conf/certs/b.key\"\n", "serve.go": "package a\n\nvar b = \"conf/certs/b.key\"\n"}, []string{"exposed conf/certs/a.key:1", "exposed conf/certs/b.key:1"}},
		{"a password of what a pipeline starts beside itself", exposed, files{".github/workflows/a.yml": "x: tides://" + password + "@localhost:9930\n", ".github/workflows/b.yml": "x: tides://" + password + "@tides.example:9930\n"}, []string{"exposed .github/workflows/a.yml:1", "exposed .github/workflows/b.yml:1"}},
		{"one of a series of values", exposed, files{"config.json": series("QX_kw04dd"), "a/config.json": series("ZZ4kw4d")}, []string{"exposed a/config.json:1"}},
		{"what a blueprint hands out", dangling, files{"package.json": `{"name": "tide-blueprint"}`, "files-more/js/a.js": "import './lost'\n", "files/a.js": "import './lost'\n", "page/files/__name@dasherize__/__name@dasherize__.ts": "import './lost'\n", "lib/a.js": "import './lost'\n"}, []string{"dangling lib/a.js:1"}},
		{"settings that are written by a template", "- {rule: names, files: '**/vite.config.*', by: '''(\\./[\\w/.]+)''', to: './{}'}", files{"a/vite.config.hbs": "x('./lost.ts')\n", "b/vite.config.ts": "x('./lost.ts')\n"}, []string{"dangling b/vite.config.ts:1"}},
		{"a list for git in a package that makes others", "- {rule: called, files: none.txt, as: none.md}", files{"package.json": `{"name": "tide-template-bare"}`, "gitignore": "x\n"}, nil},
		{"a list for git that nobody reads", "- {rule: called, files: none.txt, as: none.md}", files{"package.json": `{"name": "tides"}`, "gitignore": "x\n"}, []string{"misnamed gitignore"}},
		{"texts that wait to be translated", "- {rule: copies}", files{"tides.js": strings.Repeat("say('tides')\n", 20), "tides_da.js": strings.Repeat("say('tides')\n", 20), "tides_sv.js": strings.Repeat("say('tides')\n", 20), "tides_fo.js": strings.Repeat("say('tides')\n", 20)}, nil},
		{"settings of a repository that a test opens", "- {rule: copies}", files{"tests/a.git/HEAD": "x", "tests/a.git/config": "x", "tests/a.git/config.bak": "y", "tests/a.git/objects/x": "", "tests/a.git/refs/x": "", "b/config": "x", "b/config.bak": "y"}, []string{"leftover b/config.bak"}},
		{"a copy that somebody began the next one with", "- {rule: copies}", files{"tides.js": strings.Repeat("say('tides')\n", 20), "quays.js": strings.Repeat("say('tides')\n", 20)}, []string{"leftover quays.js"}},
		{"another form of one word", "- {rule: test-names}", files{"a/Paginator.php": "<?php\nclass Paginator {}\n", "a/PaginationTest.php": "<?php\nnew Paginator();\n", "a/Tidetable.php": "<?php\nclass Tidetable {}\n", "a/TidetbaleTest.php": "<?php\nnew Tidetable();\n"}, []string{"misnamed a/TidetbaleTest.php"}},
		{"a program whose text another runs", "- {rule: imported}", files{"watch.py": "x = Watcher()\n", "watcher.py": "class Watcher: pass\n", "other.py": "from watcher import Watcher\n", "watch.js": "import text from './watch.py'\nrun(text)\n", "lone.py": "x = Watcher()\n"}, []string{"dangling lone.py:1"}},
		{"targets of which a program writes the start", packages, files{"go.mod": "module gannet.example/tides\n", "tasks/a.go": "package main\n\nimport \"github.com/magefile/mage/sh\"\n\nfunc Build() { sh.Run(\"x\") }\n", "jobs/a.go": "package main\n\nfunc Build() {}\n"}, []string{"misdeclared jobs/a.go:1"}},
		{"files that a test makes", "- {rule: quoted}", files{"run/a_test.go": "package a\n\nvar a, b = \"pages/tide.yaml\", \"forms/quay.yaml\"\n", "testdata/x/pages/tides.yaml": "", "run/forms/quays.yaml": ""}, []string{"dangling run/a_test.go:3"}},
		{"the end of a name", "- {rule: quoted}", files{"a.js": "write(x + '-tides.json', 'fares/tidse.json')\n", "fares/tides.json": "{}"}, []string{"dangling a.js:1"}},
		{"what a pipeline fetches first", "- {rule: names-file, files: '*.yml', keys: steps.file, made-in: steps.path}", files{"a.yml": "steps:\n  - path: pr\n  - file: pr/go.mod\n  - file: other/go.mod\n"}, []string{"dangling a.yml:4"}},
		{"parts of an address that a page reads", `- {rule: parameters, files: 'app/**/*.tsx', by: ['\bparams\.(\w+)', '\{([^{}=:]*)\}\s*=\s*(?:await\s+)?params\b']}`, files{"app/[di]/page.tsx": "const { id } = await params\n", "app/[slug]/page.tsx": "const x = params.sulg\n", "app/[id]/[berth]/page.tsx": "const { id, berth, more } = await params\n", "app/[a]/page.tsx": "params.toString()\n", "app/x/page.tsx": "params.id\n"}, []string{"disagrees app/[di]/page.tsx:1", "disagrees app/[slug]/page.tsx:1"}},
		{"names with a mark that Python looks for", "- {rule: called, files: none.txt, as: none.md}", files{"a/__niit__.py": "", "a/__version__.py": "", "a/__about__.py": "", "b/__mian__.py": "", "b/x.py": ""}, []string{"misnamed a/__niit__.py", "misnamed b/__mian__.py"}},
		{"a pattern of files", dangling, files{"package.json": "{}", "a.js": "import x from './pages/*.html'\nimport y from './page/x.html'\n"}, []string{"dangling a.js:2"}},

		{"headings with pictures, tags and numbers in their names", dangling, files{"a.md": "# ⚙️ Tides\n## <b>Fares</b> of `<route>`\n## v1.2.0\n[1](#-tides) [2](#fares-of-route) [3](#v121) [4](#-tidse)\n"}, []string{"dangling a.md:4"}},
		{"links by the address of a page", dangling, files{"docs/debug/index.md": "[x](./guide/#now) [y](./gone.md)\n", "docs/guide.md": "", "docs/a/b.mdx": "[x](../c)\n", "docs/a/c.mdx": "", "docs/a/d.md": "[x](tides.example.com/c.md)\n[y](./e.md)\n", "e.md": ""}, []string{"dangling docs/a/d.md:2", "dangling docs/debug/index.md:1"}},
		{"packages whose name begins with a dot, and what a build of Ember makes", dangling, files{"package.json": "{}", "ember-cli-build.js": "", "a.js": "import x from '.prisma/client'\nimport y from './config/environment'\nimport z from './lost'\n"}, []string{"dangling a.js:3"}},
		{"what an image takes", dangling, files{"Dockerfile": "FROM a AS b\nCOPY --from=b /x /x\nCOPY \"run/start.sh\" .\nCOPY tides /bin/\nCOPY quays /bin/\n", "run/start.sh": "", "cmd/tides/main.go": "package main\n\nfunc main() {}\n", "Dockerfile.5.md": "COPY <src> <dest>\n"}, []string{"dangling Dockerfile:5"}},
		{"a value that a template asks for only where it is", `- {rule: value-keys, files: '*.yaml', by: '\.Values\.([\w.]+)', in: values.yml, unless: '\bif\b'}`, files{"values.yml": "image: x\n", "a.yaml": "{{- if .Values.extra }}\nenv: {{ .Values.extra }}\n{{- end }}\nx: {{ .Values.more }}\n"}, []string{"dangling a.yaml:4"}},
		{"credentials of what is tried out", exposed, files{"testutil/pki/a.key": key, "sample.conf": "x = tides://" + password + "@tides.example/x\n", "command/testing.pem": key, "keys/real.key": key}, []string{"exposed command/testing.pem:1", "exposed keys/real.key:1"}},
		{"a list of what once was", "- {rule: quoted}", files{"old.js": "drop('a/tides.css', 'b/quays.css', 'c/crews.css', 'd/fare.css')\n", "new.js": "load('a/tides.css')\n", "a/tide.css": "", "b/quay.css": "", "c/crew.css": "", "d/fares.css": ""}, []string{"dangling new.js:1"}},
		{"tests that somebody calls otherwise throughout", "- {rule: tests-found, name: tests-of-scripts-found, files: 'test/**/*.js', shows: '^test', named: ['*.test.js'], near-only: true}", files{"test/a.tets.js": "test()\n", "test/b.test.js": "test()\n", "test/c.tests.js": "test()\n", "test/d.tests.js": "test()\n", "test/e.tests.js": "test()\n"}, []string{"misnamed test/a.tets.js"}},
		{"functions that no loader looks for", "- {rule: package-line, files: 'src/**/*.php', roots: src/, mapped-by: 'composer.json#autoload.psr-4'}", files{"composer.json": `{"autoload": {"psr-4": {"Gannet\\": "src/"}}}`, "src/More/functions.php": "<?php\nnamespace Gannet;\nfunction a() {}\n", "src/More/Tide.php": "<?php\nnamespace Gannet;\nclass Tide { function a() {} }\n"}, []string{"misdeclared src/More/Tide.php:2"}},
		{"modules of another language, and ones that a macro names", "- {rule: reached, files: 'src/**/*.rs', except: src/main.rs}\n- {rule: dangling}", files{"setup.py": "ext_modules=[Extension('tides._moon', ['moon.c'])]\n", "tides/__init__.py": "from tides import _moon\nfrom tides import _sun\n", "src/main.rs": "commands! {\n  cat\n}\n", "src/cat.rs": "", "src/dog.rs": ""}, []string{"dangling tides/__init__.py:2", "unwired src/dog.rs"}},
		{"a part of a page", dangling, files{"pages/header.html": "<html>\n<script src=\"lost.js\"></script>\n", "pages/whole.html": "<html>\n<script src=\"lost.js\"></script>\n</html>\n"}, []string{"dangling pages/whole.html:2"}},
		{"what a bundler starts from, where its settings have a folder", "- {rule: called, files: none.txt, as: none.md}", files{"config/webpack.config.js": "module.exports = { entry: './desk.js' }\n", "src/desk.js": "", "b/webpack.config.js": "module.exports = { entry: './lost.js' }\n"}, []string{"dangling b/webpack.config.js:1"}},
		{"a build that is there to be read by tests", `- {rule: names, files: '**/setup.py', by: 'where="(\w+)"', to: './{}/'}`, files{"x/testdata/a/setup.py": "find(where=\"src\")\n", "b/setup.py": "find(where=\"src\")\n"}, []string{"dangling b/setup.py:1"}},
	}...)
}
