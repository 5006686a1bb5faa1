package rules

// What people slip on in applications for phones, by its cause, each beside what is right.
func init() {
	const types, keys = "- {rule: imported}", `- {rule: same-keys, files: "**/texts/*.*", by-path: '/([a-z]{2})\.\w+$'}`
	const sets = `- {rule: names, files: '*.swift', by: 'named: "(\w+)"', to: ["**/{}.imageset/", "**/{}.png"]}`
	cases = append(cases, []ruled{
		{"a file whose type got another name", types, files{"Tide.swift": "struct Flow {\n    let at: Flow?\n}\n", "Table.swift": "struct Table {\n    let tides: [Tide]\n}\n", "Use.swift": "let x = Table()\n"}, []string{"dangling Tide.swift:1"}},
		{"types of a system that a file is called after", types, files{"App.swift": "struct HarbourApp: App {\n}\n", "Chart.swift": "struct TideLine {\n}\n", "Color.swift": "extension Color {\n}\n", "Use.swift": "let x: [Any] = [Chart(), Color(), TideLine()]\nlet y: App\n"}, nil},
		{"a type that its file gives besides", types, files{"lib/tide_row.dart": "class TideLine {}\n", "lib/page.dart": "import 'tide_row.dart';\n\nclass Page {\n  Page(this.row);\n  final TideRow row;\n}\n", "lib/use.dart": "import 'page.dart';\n\nfinal x = Page();\n"}, []string{"dangling lib/tide_row.dart:1"}},
		{"folders that stand for a name, wherever", sets, files{"a.swift": "named: \"Wave\"\nnamed: \"Anchr\"\nnamed: \"Moon\"\n", "app/Assets/Wave.imageset/wave.pdf": "x", "app/Assets/Anchor.imageset/anchor.pdf": "x"}, []string{"dangling a.swift:2", "dangling a.swift:3"}},
		{"a text that one language lacks", keys, files{"texts/en.json": `{"title": "Tides", "high": {"one": "x", "other": "y"}, "low": "Low"}`, "texts/da.json": `{"title": "Tidevand", "high": {"few": "x"}}`, "more/texts/en.yml": "en:\n  title: x\n  quay: y\n", "more/texts/da.yml": "da:\n  title: x\n  quay: y\n"}, []string{"disagrees texts/da.json"}},
		{"a language on its way", keys, files{"texts/en.json": `{"a": 1, "b": 1, "c": 1, "d": 1, "e": 1, "f": 1}`, "texts/da.json": `{"a": 1}`, "texts/notes.json": `{"z": 1}`}, nil},
	}...)
}
