package rules

// What a build, a loader, a runner or a reader never finds, each beside what it does find.
func init() {
	const maven = "- {rule: parts-asked, files: '**/*.java', manifests: pom.xml, named: ['<artifactId>{}</artifactId>'], circles: Nothing is built., aside: ['(?s)<dependencyManagement>.*?</dependencyManagement>']}"
	asks := func(name string) string { return "<project>\n<artifactId>" + name + "</artifactId>\n</project>\n" }
	const menu = `- {rule: listed, files: 'pages/**/*.md', in: menu.yml, inside: '(?m)^nav:\n(?:[ -].*\n?)*', by: '(?m)- (?:\w+: )?([\w./]+)$', to: 'pages/{}', unless: glob, aside: orphan}`
	const spring = "- {rule: built-by, files: 'src/**/*.java', where: '@Service', manifests: 'src/**/*.java', shows: '@Application', what: application class, unless: scanned}"
	const swift = "- {rule: targets-asked, files: ['Sources/**/*.swift', 'Tests/**/*.swift']}"
	pages := func(more files) files {
		all := files{"menu.yml": "site: x\nnav:\n  - index.md\n  - Start: start.md\n  - guide/\n", "pages/index.md": "", "pages/start.md": "", "pages/guide/a.md": "", "pages/guide/b.md": ""}
		for at, text := range more {
			all[at] = text
		}
		return all
	}
	cases = append(cases, []ruled{
		{"parts of a build that ask for each other", maven, files{"a/pom.xml": asks("b"), "b/pom.xml": asks("c"), "c/pom.xml": asks("a"), "d/pom.xml": asks("a"), "d/x/pom.xml": asks("d")}, []string{"tangled a/pom.xml:2"}},
		{"a part that only settles versions of those that ask for it", maven, files{"a/pom.xml": "<dependencyManagement><artifactId>b</artifactId></dependencyManagement>\n", "b/pom.xml": asks("a"), "c/pom.xml": asks("more-c"), "more-c/pom.xml": asks("c.d")}, nil},

		{"a page that the menu lacks", menu, pages(files{"pages/fares.md": "", "pages/old.md": "orphan\n", "pages/guide/README.md": ""}), []string{"unwired pages/fares.md"}},
		{"a menu that is not of all pages", menu, pages(files{"pages/1.md": "", "pages/2.md": "", "pages/3.md": "", "pages/4.md": "", "pages/5.md": ""}), nil},
		{"a menu that takes in what it does not name", menu, pages(files{"pages/fares.md": "", "menu.yml": "nav:\n  - start.md\n  - glob\n"}), nil},
		{"pages that a toctree names from the folder above", "- {rule: dangling}", files{"docs/index.rst": ".. toctree::\n   :maxdepth: 1\n\n   user/index\n   Start <start>\n", "docs/start.rst": "", "docs/user/index.rst": ".. toctree::\n\n   ../curl.rst\n", "docs/curl.rst": "", "docs/lost.rst": "", "docs/contents.rst": ".. toctree::\n\n   index\n", "docs/apart.rst": ":orphan:\n"}, []string{"unwired docs/lost.rst"}},
		{"no menu", menu, pages(files{"menu.yml": "site: x\n"}), nil},

		{"what lies beside the folder of the application", spring, files{"src/a/app/Main.java": "@Application\n", "src/a/app/One.java": "@Service\n", "src/a/app/b/Two.java": "@Service\n", "src/a/other/Three.java": "@Service\n", "src/a/other/Four.java": "\n"}, []string{"unwired src/a/other/Three.java"}},
		{"an application that lies too deep", spring, files{"src/a/boot/Main.java": "@Application\n", "src/a/One.java": "@Service\n", "src/a/b/Two.java": "@Service\n"}, []string{"unwired src/a/boot/Main.java"}},
		{"an application that says where it looks", spring, files{"src/a/boot/Main.java": "@Application scanned\n", "src/a/One.java": "@Service\n"}, nil},

		{"a target that another does not ask for", swift, files{"Package.swift": "let p = Package(targets: [\n  .target(name: \"Tides\"),\n  .target(name: \"Quays\", dependencies: [.target(name: \"Tides\"), .product(name: \"Log\", package: \"log\")]),\n  .executableTarget(name: \"Main\", dependencies: all),\n  .testTarget(name: \"TidesTests\", dependencies: [\"Tides\"]),\n])\n",
			"Sources/Tides/A.swift": "import Foundation\nimport Quays\n", "Sources/Quays/B.swift": "import Tides\nimport Log\n", "Sources/Main/C.swift": "import Tides\n", "Tests/TidesTests/D.swift": "@testable import Tides\nimport Quays\n"}, []string{"disagrees Sources/Tides/A.swift:2", "disagrees Tests/TidesTests/D.swift:2"}},

		{"one address of two files", `- {rule: once, files: 'api/**/*.ts', by-path: '^api/(.*?)(?:/index)?\.(get|post)\.ts$', what: address}`, files{"api/tides.get.ts": "", "api/tides/index.get.ts": "", "api/tides.post.ts": "", "api/tides/more.get.ts": "", "api/x.ts": ""}, []string{"disagrees api/tides/index.get.ts"}},
		{"variables of a group that nothing names", "- {rule: paired, files: 'groups/*.yml', except: groups/all.yml, named-in: hosts, by-stem: true}", files{"hosts": "[web]\na\n[web-servers]\n", "groups/all.yml": "", "groups/web.yml": "", "groups/servers.yml": "", "groups/db.yml": ""}, []string{"unpaired groups/db.yml"}},
		{"what holds where settings say so", "- {rule: text, files: '*.proj', must-not: 'Version=', given-in: '*.props', given: 'central: true'}", files{"a.proj": "Version=1\n", "x.props": "central: true\n"}, []string{"substandard a.proj:1"}},
		{"what would hold if settings said so", "- {rule: text, files: '*.proj', must-not: 'Version=', given-in: '*.props', given: 'central: true'}", files{"a.proj": "Version=1\n", "x.props": "central: false\n"}, nil},
		{"an ending that is doubted", "- {rule: ending, files: '*.*', shows: 'return <', ending: .jsx, doubted: .js}", files{"a.js": "return <a />\n", "b.js": "return 1\n", "c.ts": "return <a />\n"}, []string{"misdeclared a.js:1"}},
		{"an ending that settings allow", "- {rule: ending, files: '*.*', shows: 'return <', ending: .jsx, doubted: .js, unless-in: b.config, unless: 'loader:'}", files{"a.js": "return <a />\n", "b.config": "loader: jsx\n"}, nil},
		{"a file that is looked for in another folder", "- {rule: called, files: ['hooks.*', 'lib/hooks.*'], as: 'src/{}'}", files{"hooks.ts": ""}, []string{"misplaced hooks.ts"}},
		{"the only file, which its loader does not find", "- {rule: tests-found, files: 'controllers/*.js', shows: 'extends Controller', named: '*_controller.js', surely: true, holds: 'a controller that is never loaded: the loader'}", files{"controllers/tide.js": "extends Controller\n", "controllers/index.js": "x\n"}, []string{"misnamed controllers/tide.js"}},
		{"a folder of tests that is nearly called as what it mirrors", "- {rule: test-names}", files{"src/crews/a.py": "", "src/shifts/b.py": "", "src/piers/c.py": "", "tests/crew/test_a.py": "", "tests/shifts/test_b.py": "", "tests/piers/test_e.py": ""}, []string{"misnamed tests/crew/"}},
		{"folders of tests that mirror nothing", "- {rule: test-names}", files{"src/crews/a.py": "", "src/shifts/b.py": "", "tests/crew/test_a.py": "", "tests/shift/test_b.py": ""}, nil},
		{"a package of another part that its own does not ask for", "- {rule: dangling}", files{"package.json": `{"workspaces": ["p/*"], "devDependencies": {"all": "*"}}`, "p/ui/package.json": `{"name": "ui"}`, "p/ui/index.js": "", "p/all/package.json": `{"name": "all"}`, "p/all/index.js": "", "p/app/package.json": `{"name": "app"}`, "p/app/a.js": "import 'ui'\nimport 'all'\nimport './b'\n", "p/app/b.js": "", "p/app/a.test.js": "import 'ui'\n"}, []string{"disagrees p/app/a.js:1"}},
		{"a member that the workspace of Python does not list", "- {rule: dangling}", files{"pyproject.toml": "[tool.uv.workspace]\nmembers = ['libs/*']\n", "libs/a/pyproject.toml": "[project]\nname = 'a'\ndependencies = ['b>=1', 'c']\n", "lib/b/pyproject.toml": "[project]\nname = 'b'\n", "other/d/pyproject.toml": "[project]\nname = 'd'\n"}, []string{"unwired lib/b/"}},
		{"a module of one's own that is not in src/", "- {rule: dangling}", files{"pyproject.toml": "[project]\nname = 'gannet-tides'\n", "src/tides/__init__.py": "", "src/tides/a.py": "import gannet_tides.b\n"}, []string{"dangling src/tides/a.py:1"}},
		{"a test of what nothing wires", "- {rule: wired, files: 'cmd/*.js', where: 'var \\w+Cmd', by: '**/*.js', offers: 'var (\\w+Cmd)', or: ['Add(<offers>']}", files{"main.js": "\n", "cmd/a.js": "var aCmd = 1\n", "cmd/a.test.js": "Add(aCmd)\n"}, []string{"unwired cmd/a.js"}},
	}...)
}
