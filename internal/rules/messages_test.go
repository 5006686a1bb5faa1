package rules

import (
	"fmt"
	"slices"
	"strings"
	"testing"
)

// TestMessages shows what people read, word by word, where several things are said at once, or a guess is made or
// held back; and which edits come with it.
func TestMessages(t *testing.T) {
	const sample = "- {rule: sample-of, sample: .env.example, real: .env}"
	for _, c := range []struct {
		what, rule string
		files      files
		says       []string
	}{
		{"one key", sample, files{".gitignore": ".env\n", ".env": "A=1\nQUAY=2\n", ".env.example": "A=\n"}, []string{"it lacks QUAY, which .env has + QUAY="}},
		{"several keys, for the end of a text without an end of line", sample, files{".gitignore": ".env\n", ".env": "A=1\nQUAY=2\nPIER=3\nCREW=4\n", ".env.example": "A="},
			[]string{"it lacks QUAY, PIER and CREW, which .env has + /QUAY=/PIER=/CREW="}},
		{"keys that nobody sets", sample, files{".gitignore": ".env\n", ".env": "A=1\n", ".env.example": "A=\nQUAY=\nPIER=\n"}, []string{"it has QUAY and PIER, which .env lacks"}},
		{"a key that one of two misspells", sample, files{".gitignore": ".env\n", ".env": "TIDE_URL=1\n", ".env.example": "TIED_URL=\n"},
			[]string{"it has TIED_URL, and .env has TIDE_URL: one of the two is misspelt"}},
		{"a key that code reads", "- {rule: env-keys}", files{"a.py": "import os\nx = os.environ[\"QUAY\"]\n", ".env.example": "A=\n"},
			[]string{"it reads QUAY from the environment, which .env.example does not name + QUAY="}},

		{"texts of a language", `- {rule: same-keys, files: "*.json", by-path: '^([a-z]{2})\.json$'}`, files{"en.json": `{"a": 1, "b": 1, "c": 1, "d": 1}`, "da.json": `{"a": 1, "c": 1}`},
			[]string{"it lacks b and d, which en.json has"}},
		{"texts that both languages lack", `- {rule: same-keys, files: "*.json", by-path: '^([a-z]{2})\.json$'}`, files{"en.json": `{"a": 1, "b": 1}`, "da.json": `{"a": 1, "c": 1}`},
			[]string{"it lacks b, which en.json has", "it lacks c, which da.json has"}},

		{"what an object does not hold", "- {rule: imported}", files{"package.json": "{}", "a.js": "import routes from './routes'\nuse(routes.BERTS)\n", "routes.js": "export default {\n  BERTHS: 1,\n}\n"},
			[]string{"it takes BERTS of ./routes, which has no such name; did it mean BERTHS? + BERTHS"}},
		{"what nobody exports", "- {rule: imported}", files{"package.json": "{}", "a.js": "const b = require('./b')\nb()\n", "b.js": "function b() {}\n"},
			[]string{"it requires ./b, which exports nothing"}},
		{"a type that got another name", "- {rule: imported}", files{"Tide.swift": "struct Flow {\n    let next: [Flow]\n}\n", "A.swift": "let x: Tide\n", "B.swift": "let y: Tide\n"},
			[]string{"it declares Flow, which nothing uses; did it mean Tide, which nothing declares, and which A.swift uses? + Tide + Tide"}},
		{"types that a package lost", "- {rule: imported}", files{"a/A.kt": "package a.tides\n\nclass A {\n    fun f() { throw LostQuay(\"x\") }\n}\n", "a/B.kt": "package a.tides\n\nclass B {\n    fun g() { fails<LostQuay>() }\n}\n"},
			[]string{"it uses LostQuay, which nothing in a.tides declares and nothing imports"}},

		{"a class under another name, and one that is nearly that", `- {rule: names, files: '*.xib', by: 'customClass="(\w+)"', in: '*.swift', defined: 'class (\w+)'}`,
			files{"a.xib": "customClass=\"TideCell\"\n", "TideCell.swift": "class Row\n", "TidesCell.swift": "class TidesCell\n"}, []string{"it names TideCell, which is not there"}},
		{"a class that is misspelt in its own file", `- {rule: names, files: '*.xib', by: 'customClass="(\w+)"', in: '*.swift', defined: 'class (\w+)'}`,
			files{"a.xib": "customClass=\"TideCell\"\n", "TideCell.swift": "class TideCel\n"}, []string{"it names TideCell, which is not there; did it mean TideCel? + TideCel"}},
		{"a folder that is nearly called so", `- {rule: names, files: '*.swift', by: 'named: "(\w+)"', to: '**/{}.imageset/'}`,
			files{"a.swift": "named: \"Anchr\"\n", "x/Anchor.imageset/a.pdf": "x"}, []string{"it names Anchr, and there is no Anchr.imageset/; did it mean x/Anchor.imageset/? + Anchor"}},
		{"a folder on the way that is nearly called so", `- {rule: names, files: '*.py', by: 'sql="([\w/.]+)"', to: '**/{}'}`,
			files{"a.py": "sql=\"tickets/load.sql\"\n", "sql/ticket/load.sql": ""}, []string{"it names tickets/load.sql, and there is no tickets/load.sql; did it mean sql/ticket/load.sql? + ticket/load.sql"}},
		{"modules that settings name that are code", `- {rule: declared, files: a.js, by: 'plugins: \["([\w-]+)"', in: package.json, below: [devDependencies]}`,
			files{"a.js": "plugins: [\"tidal-quays\"]\n", "package.json": `{"devDependencies": {"tidal-quay": "1"}}`}, []string{"it names tidal-quays, which package.json does not have; did it mean tidal-quay? + tidal-quay"}},
		{"a package of an owner, and one of tests", "- {rule: undeclared}", files{"package.json": `{"name": "x", "dependencies": {"@pier/quay": "1"}, "devDependencies": {"jest": "1"}}`, "a.js": "import '@pier/crane'\n", "a.test.js": "import 'superquay'\n"},
			[]string{"it imports @pier/crane, which package.json does not ask for", "it imports superquay, which package.json does not ask for"}},
		{"a folder that a text says", "- {rule: quoted}", files{"README.md": "See `jobs/mart`.\n", "jobs/marts/a.py": ""}, []string{"it says jobs/mart, which is not there; did it mean jobs/marts? + jobs/marts"}},
	} {
		var got []string
		for _, f := range foundIn(t, c.rule, c.files) {
			said := f.Message
			for _, e := range f.Fix {
				said += " + " + strings.ReplaceAll(strings.TrimSuffix(fmt.Sprint(e.Text), "\n"), "\n", "/")
			}
			got = append(got, said)
		}
		if !slices.Equal(got, c.says) {
			t.Errorf("%s:\n got %q\nwant %q", c.what, got, c.says)
		}
	}
}
