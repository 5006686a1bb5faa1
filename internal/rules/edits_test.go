package rules

// What people mistype where they edit by hand.
func init() {
	crate := func(more files) files {
		all := files{
			"Cargo.toml":           "[package]\nname = \"quays\"\n",
			"src/lib.rs":           "pub mod harbour;\npub mod tides;\n",
			"src/harbour/mod.rs":   "pub mod berth;\npub use self::berth::Berth;\n",
			"src/harbour/berth.rs": "pub struct Berth;\n",
			"src/tides.rs":         "use crate::harbour::Berth;\npub fn high(_: &Berth) {}\n",
		}
		for at, text := range more {
			all[at] = text
		}
		return all
	}
	cases = append(cases, []ruled{
		{"what a use of Rust takes of a module", "- {rule: imported}", crate(files{
			"src/tides.rs": "use crate::harbour::Betrh;\nuse super::harbour::berth::{Berth, Crane};\npub fn high(_: &Betrh) {}\n",
		}), []string{"dangling src/tides.rs:1", "dangling src/tides.rs:2"}},
		{"what a module of Rust takes of all of another", "- {rule: imported}", crate(files{
			"src/harbour/mod.rs": "pub mod berth;\npub use self::berth::*;\n",
			"src/tides.rs":       "use crate::harbour::Berth;\npub fn high(_: &Berth) {}\nmod tests {\n    use super::Nothing;\n}\n",
		}), nil},
		{"a module of Rust by way of the one above", "- {rule: dangling}", crate(files{
			"src/tides.rs": "use super::habrour::Berth;\npub fn high(_: &Berth) {}\n",
			"src/lib.rs":   "pub mod harbour;\npub mod tides;\npub use harbour::betrh::Berth;\n",
		}), []string{"dangling src/lib.rs:3", "dangling src/tides.rs:1"}},
		{"the file of a module that stands two attributes above", "- {rule: dangling}", crate(files{
			"build.rs": "#[path = \"src/tides.rs\"]\n#[allow(dead_code)]\nmod water;\n",
		}), nil},
		{"a name of a module in a file that shares its first word", "- {rule: dangling}", files{
			"src/auth.module.ts":  "import { AuthSrevice } from './auth.service'\nexport class AuthModule { one = new AuthSrevice() }\n",
			"src/auth.service.ts": "export class AuthService {}\n",
		}, []string{"dangling src/auth.module.ts:1"}},
		{"a name that another platform gives", "- {rule: dangling}", files{
			"src/desk.ts":         "import { Board } from './board'\nexport const one = new Board()\n",
			"src/board.ts":        "export class Table {}\n",
			"src/board.native.ts": "export class Board {}\n",
		}, nil},
		{"a module that others call otherwise", "- {rule: as-elsewhere}", files{
			"a.py": "from quays.core import one\nfrom quays import desk\n",
			"b.py": "from quays.core import tides\nimport unittets\n",
			"c.py": "from qauys.core import one\nfrom quays.core import tieds\n",
			"d.py": "from quays.coer import one\nfrom quays.core import tides\n",
		}, []string{"dangling b.py:2", "dangling c.py:1", "dangling c.py:2", "dangling d.py:1"}},
		{"modules of nearly one name", "- {rule: as-elsewhere}", files{
			"requirements.txt": "qauys\nquays\n",
			"a.py":             "from quays.trail import one\n",
			"b.py":             "from quays.trial import one\nfrom quays.form import MSG_NUM_FLAG\n",
			"c.py":             "from qauys.core import one\nfrom quays.form import MSG_ENUM_FLAG\n",
			"d.py":             "from quays.core import one\nfrom quays.form import MSG_ENUM_FLAG\n",
		}, nil},
		{"a package that comes with Go", "- {rule: as-elsewhere}", files{
			"go.mod": "module gannet.example/quays\n",
			"a.go":   "package quays\n\nimport \"net/htpt\"\n\nvar _ = http.Get\n",
		}, []string{"dangling a.go:3"}},
		{"a key that is mistyped", "- {rule: keys-spelt, files: set.yaml, below: 'services.*', known: [build, env_file, volumes, image]}", files{
			"set.yaml": "services:\n  web:\n    bulid: .\n    envfile: .env\n    volume: [a]\n  data:\n    image: db\n    x-note: one\n    images: two\n",
		}, []string{"substandard set.yaml:3", "substandard set.yaml:4", "substandard set.yaml:5"}},
		{"a section and its keys", "- {rule: keys-spelt, files: '*.ini', known: [pytest]}\n- {rule: keys-spelt, name: b, files: '*.ini', below: pytest, known: [testpaths, addopts]}", files{
			"a.ini": "[pytset]\ntestpaths = tests\n",
			"b.ini": "[pytest]\n# testapths = a\ntestapths =\n    tests\n    more\naddopts = -q\n",
			"c.ini": "[other]\naddotps = tests\n",
		}, []string{"substandard a.ini:1", "substandard b.ini:3"}},
		{"a type that nothing declares", "- {rule: imported}", files{
			"src/main/java/example/quays/Table.java":     "package example.quays;\n\npublic class Table {\n}\n",
			"src/test/java/example/quays/TableTest.java": "package example.quays;\n\nclass TableTest {\n    void high() {\n        new Talbe();\n    }\n}\n",
		}, []string{"dangling src/test/java/example/quays/TableTest.java:5"}},
		{"a type whose declaration is mistyped", "- {rule: imported}", files{
			"Berth.cs": "namespace Quays;\n\npublic class Betrh {}\n",
			"Desk.cs":  "namespace Quays;\n\npublic class Desk { Berth one = new Berth(); }\n",
			"Board.cs": "namespace Quays;\n\npublic class Board { Berth one; }\n",
		}, []string{"dangling Berth.cs:3"}},
		{"a type of C# that git knew under another name", "- {rule: imported}", files{
			"Desk.cs":        "namespace Quays;\n\npublic class Desk { Berth one = new Berth(); Http two; }\n",
			"Board.cs":       "namespace Quays;\n\npublic class Board { Berth one; }\n",
			"moved/Berth.cs": "namespace Quays;\n\npublic class Mooring {}\n",
		}, []string{"dangling Board.cs:3"}},
		{"what git knew and another file declares", "- {rule: imported}", files{
			"Desk.cs":        "namespace Quays;\n\npublic class Desk { Berth one = new Berth(); }\n",
			"Moorings.cs":    "namespace Quays;\n\npublic class Berth {}\n",
			"moved/Berth.cs": "namespace Quays;\n\npublic class Mooring {}\n",
		}, nil},
		{"types of others, methods and cases that are nearly types here", "- {rule: imported}", files{
			"src/lib.rs":  "pub mod form;\npub mod desk;\n",
			"src/form.rs": "pub struct Form;\n",
			"src/desk.rs": "pub struct Desk;\nimpl From<u8> for Desk {}\n",
			"Table.swift": "struct Table {}\nextension Talbe {}\n",
			"Quay.swift":  "enum Quay { case Taelb }\nfunc Taleb() {}\nlet one = Taleb()\n",
		}, []string{"dangling Table.swift:2"}},
		{"a name that is said once", "- {rule: imported}", files{
			"desk.module.ts":  "import { DeskService } from './desk.service'\nexport const all = { giving: [DeskSrevice], one: 1 }\n",
			"desk.service.ts": "export class DeskService {}\n",
			"form.ts":         "import { DeskService } from './desk.service'\nexport const { all: DeskSrevice } = DeskService\nexport const two = [DeskSrevice]\n",
			"desk.py":         "from quays import Berth\n\n\ndef all() -> list[Betrh]:\n    return [Berth]\n",
			"quays.py":        "class Berth:\n    pass\n",
		}, []string{"dangling desk.module.ts:2", "dangling desk.py:4"}},
		{"a name of a module that is awaited", "- {rule: imported}", files{
			"routes.ts": "export const all = [() => import('./desk').then((m) => m.Dseks), () => import('./desk').then(m => ({ default: m.Desks })), () => import('./desk').then((m) => n.Dseks)]\n",
			"desk.ts":   "export class Desks {}\n",
		}, []string{"dangling routes.ts:1"}},
		{"words with two letters in another order", "- {rule: words-spelt}", files{
			"Dockerfile":           "# says qauys\nRUN build -o /serevr\nCOPY --from=build /server /server\nRUN install prdo\n",
			"prod.txt":             "",
			"quays/a.py":           "route('/qauys')\nmetres('from', 'metre')\n",
			"quays/b.py":           "say('a sentence of qauys')\nform = 'trail'\n",
			"page.html":            "<a href=\"/desk/berhts\">of qauys</a>",
			"berths/trial.py":      "",
			"meter/form.yml":       "key: ffaabb\ncode: 1berhts2\n",
			"config/locales/x.yml": "key: qauys\n",
		}, []string{"dangling Dockerfile:2", "dangling Dockerfile:4"}},
		{"words that are said once", "- {rule: words-spelt}", files{
			"quays/a.py": "route('/qauys')\n",
			"page.html":  "<a href=\"/desk/berhts\">of qauis</a>",
			"berths.py":  "",
		}, []string{"dangling page.html:1", "dangling quays/a.py:1"}},
		{"a class that neither an import nor the own namespace gives", "- {rule: imported}", files{
			"composer.json":    `{"autoload": {"psr-4": {"App\\": "app/"}}}`,
			"app/Berth.php":    "<?php\nnamespace App;\nclass Berth { use Named; use Namde; public Desk $desk; public \\Http $http; }\n",
			"app/Named.php":    "<?php\nnamespace App;\ntrait Named {}\n",
			"app/One/Card.php": "<?php\nnamespace App\\One;\nuse Others\\Desk;\nclass Card extends Desk {}\n",
			"lib/Plain.php":    "<?php\nclass Plain extends Desk {}\n",
		}, []string{"dangling app/Berth.php:3", "dangling app/Berth.php:3"}},
		{"a class of tests in a folder that is called as data are", "- {rule: dangling}", files{
			"composer.json":            `{"autoload": {"psr-4": {"App\\": "app/"}}}`,
			"app/Source/Csv.php":       "<?php\nnamespace App\\Source;\nclass Csv {}\n",
			"tests/Source/CsvTest.php": "<?php\nnamespace Tests\\Source;\nuse App\\Soucre\\Csv;\nclass CsvTest { public Csv $one; }\n",
			"tests/samples/Broken.php": "<?php\nnamespace Tests;\nuse App\\Soucre\\Csv;\nclass Broken { public Csv $one; }\n",
		}, []string{"dangling tests/Source/CsvTest.php:3"}},
		{"a page that runs the tests", "- {rule: dangling}", files{
			"spec/index.html": "<script src=\"../js/a.js\"></script><script src=\"../js/b.js\"></script><script src=\"../js/cranse.js\"></script><script src=\"../js/build.js\"></script>",
			"js/a.js":         "", "js/b.js": "", "js/cranes.js": "",
		}, []string{"dangling spec/index.html:1"}},
		{"pages that others may bring", "- {rule: names, files: '*.py', by: 'page\\(\"([^\"]+)', to: '**/pages/{}', of-others: '^admin/'}", files{
			"a.py":                  "page(\"admin/desk.html\")\npage(\"admin/list.html\")\npage(\"desk.html\")\npage(\"admin/tide.html\")\npage(\"tide.html\")\n",
			"pages/adimn/desk.html": "", "pages/list.html": "", "pages/desk.html": "", "pages/tide.html": "",
		}, []string{"dangling a.py:1", "dangling a.py:2"}},
		{"a copy in a package of Go", "- {rule: copies}", files{
			"go.mod": "module gannet.example/quays\n",
			"a.go":   "package quays\n\nfunc One() {}\n", "a_old.go": "package quays\n\nfunc One() {}\n",
			"b.go": "package quays\n\nfunc Two() {}\n", "b_old.go": "package quays\n\nfunc Three() {}\n",
			"c.go": "package quays\n\nfunc Four() {}\n", "c_old.go": "//go:build ignore\n\npackage quays\n\nfunc Four() {}\n",
		}, []string{"disagrees a_old.go:3", "leftover a_old.go"}},
		{"a list of requirements in an image", "- {rule: quoted}", files{
			"requirements/prod.txt": "flask\n",
			"Dockerfile":            "RUN pip install -r /srv/requirments/prod.txt\nRUN pip install -r made.txt -c requirements/prod.txt\n",
		}, []string{"dangling Dockerfile:1"}},
		{"a helper of the tests of Ruby", "- {rule: dangling}", files{
			"spec/spec_helper.rb":     "",
			"spec/quays/desk_spec.rb": "require \"spec_hleper\"\nrequire \"specs\"\n",
		}, []string{"dangling spec/quays/desk_spec.rb:1"}},
	}...)
}
