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
	cases = append(cases, []struct {
		what  string
		rule  string
		files files
		want  []string
	}{
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
			"c.ini": "[other]\ntestapths = tests\n",
		}, []string{"substandard a.ini:1", "substandard b.ini:3"}},
		{"a helper of the tests of Ruby", "- {rule: dangling}", files{
			"spec/spec_helper.rb":     "",
			"spec/quays/desk_spec.rb": "require \"spec_hleper\"\nrequire \"specs\"\n",
		}, []string{"dangling spec/quays/desk_spec.rb:1"}},
	}...)
}
