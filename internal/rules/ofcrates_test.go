package rules

import (
	"strings"
	"testing"

	"dicaxon/internal/edit"
)

// What is told of crates, modules and types of Rust, and of targets and types of Swift, by its cause.
func init() {
	const crate = "[package]\nname = \"tides\"\nedition = \"2021\"\n\n[dependencies]\nshore = \"1\"\n"
	const imported, undeclared = "- {rule: imported}", "- {rule: undeclared}"
	const members = undeclared // the members of types are asked about in any layout
	const swift = "- {rule: targets-asked, files: ['Sources/**/*.swift']}"
	log := "pub struct Log {\n    pub entries: Vec<u8>,\n    quiet: bool,\n}\n\nimpl Log {\n    pub fn open() -> Result<Self> {\n        Ok(Log { entries: x, quiet: true })\n    }\n\n    pub fn highest_tide(&self) -> u8 {\n        self.entries.len()\n    }\n}\n"
	cases = append(cases, []ruled{
		{"what a type has that a thing is asked", members, files{"log.rs": log, "a.rs": "fn a(log: &Log) {\n    log.entries.len();\n    log.entires.len();\n    Log::open();\n    Log::oepn();\n    sea::Log::oepn();\n    Log::Sea::oepn();\n    x.entires.len();\n}\n"}, []string{"dangling a.rs:3", "dangling a.rs:5", "dangling a.rs:6"}},
		{"what a type's own code asks", members, files{"log.rs": log + "\nimpl Log {\n    fn b(&self) {\n        self.entires.len();\n        Self::oepn();\n    }\n}\n"}, []string{"dangling log.rs:18", "dangling log.rs:19"}},
		{"the type of what a type, or one of its functions, makes", members, files{"log.rs": log, "a.rs": "fn a() {\n    let mut log = Log::open()?;\n    log.entires.len();\n}\n", "b.rs": "fn b() {\n    let log = Log::highest_tide();\n    log.entires.len();\n}\n", "c.rs": "fn c() {\n    all.filter(|log| log.entires.len());\n}\n"}, []string{"dangling a.rs:3"}},
		{"values of what a type has not", members, files{"log.rs": log, "a.rs": "fn a() -> Log {\n    entires: x\n}\n\nfn b() {\n    let log = Log { entires: x, quiet: false };\n    let log = Log { entries: Sea { entires: x }, quiet: false };\n}\n"}, []string{"dangling a.rs:6"}},
		{"what was given another name", members, files{"log.rs": log, "a.rs": "fn a(log: &Log) {\n    log.lowest_tide();\n    log.to_tide();\n    log.depth();\n    log.tide_table;\n}\n"}, []string{"dangling a.rs:2"}},
		{"what others may bring", members, files{"log.rs": log + "\nimpl Visit for Log {\n}\n", "a.rs": "fn a(log: &Log) {\n    log.lowest_tide();\n    log.hihgest_tides();\n}\n"}, nil},
		{"what is added to a type of others", members, files{"log.rs": "impl Sea for Text {\n    fn padded(&self) {}\n}\n", "a.rs": "fn a(text: &Text) {\n    text.paded();\n}\n"}, nil},
		{"a case and a function of one name", members, files{"log.rs": "enum Log {\n    Moored,\n    Free,\n}\n", "a.rs": "fn a(log: &Log) {\n    Log::moored();\n    Log::Moord;\n}\n"}, []string{"dangling a.rs:3"}},

		{"crates of which several names are taken at once", undeclared, files{"Cargo.toml": crate, "src/lib.rs": "mod quay;\nuse shore::{Sand, Rock};\nuse rope::{Knot, Line};\nuse quay::{Berth, Pier};\nuse std::{fs, io};\n", "src/quay.rs": "pub struct Berth;\npub struct Pier;\n"}, []string{"disagrees src/lib.rs:3"}},
		{"a library under a name of its own", undeclared, files{"Cargo.toml": "[package]\nname = \"tides\"\nedition = \"2021\"\n\n[lib]\nname = \"sea\"\n", "src/lib.rs": "", "src/main.rs": "use sea::{Tide, Moon};\nuse tides::{Sand, Rock};\n"}, []string{"disagrees src/main.rs:2"}},
		{"names of a module that stands beside a test", imported, files{"Cargo.toml": crate, "src/lib.rs": "", "tests/day.rs": "mod common;\nuse common::empty_log;\nuse common::emtpy_log;\nuse common::{full_log, flul_log};\n", "tests/common/mod.rs": "pub fn empty_log() {}\npub fn full_log() {}\n"}, []string{"dangling tests/day.rs:3", "dangling tests/day.rs:4"}},
		{"paths that begin with what nothing brings in", imported, files{"Cargo.toml": crate,
			"src/lib.rs":  "mod quay;\nuse std::{\n    collections::{self, HashMap},\n    io::Read,\n};\n#[clippy::pedantic]\nfn a() {\n    fs::read();\n    io::stdin();\n    collections::x();\n    quay::moor();\n    shore::sand();\n    u8::max();\n    let rope = 1;\n    rope::x();\n}\n",
			"src/quay.rs": "use std::fs;\nfn b() {\n    fs::read();\n    report::all();\n    crate::report::all();\n}\n", "src/report.rs": "", "src/open.rs": "use super::*;\nfn c() {\n    fs::read();\n}\n", "sea/d.rs": "fn d() {\n    fs::read();\n}\n",
		}, []string{"dangling src/lib.rs:8", "dangling src/lib.rs:9", "dangling src/quay.rs:4"}},
		{"paths of an edition in which they begin otherwise", imported, files{"Cargo.toml": "[package]\nname = \"tides\"\n", "src/lib.rs": "fn a() {\n    fs::read();\n}\n"}, nil},

		{"targets that ask by way of others, and types of targets", swift, files{
			"Package.swift":               "let package = Package(name: \"Sea\", targets: [\n  .target(name: \"Harbour\", dependencies: [.product(name: \"Ropes\", package: \"ropes\")]),\n  .target(name: \"Tides\", dependencies: [\"Harbour\"]),\n  .target(name: \"Board\", dependencies: [\"Tides\"]),\n])\n",
			"Sources/Harbour/Berth.swift": "import Ropes\npublic struct Berth {}\n", "Sources/Tides/Tide.swift": "import Foundation\npublic struct Tide {\n  let berth: Berth\n}\n",
			"Sources/Tides/Table.swift": "import Harbour\nimport Ropes\nstruct Table {\n  let berth: Berth\n}\n", "Sources/Tides/Sea.swift": "import Others\nstruct Sea {\n  let berth: Berth\n}\n",
			"Sources/Board/Row.swift": "import Harbour\nimport Tides\n", "Sources/Harbour/Sail.swift": "import Board\n",
		}, []string{"dangling Sources/Tides/Tide.swift:3", "disagrees Sources/Board/Row.swift:1", "disagrees Sources/Harbour/Sail.swift:1", "disagrees Sources/Tides/Table.swift:2"}},
		{"blocks of a text that is filled in", "- {rule: imported}", files{"templates/a.conf.j2": "{% for a in b %}\n{{ a }}\n", "tests/data/b.j2": "{% if a %}\n"}, []string{"disagrees templates/a.conf.j2:1"}},

		{"names of Python that lost their last letter", imported, files{"a.py": "def berth_code(n):\n    return n\n\n\nclass F:\n    def all(self):\n        return {'code': berth_cod, 'other': berth_codes}\n"}, []string{"dangling a.py:7", "dangling a.py:7"}},

		{"settings that break off", "- {rule: settings-read, files: ['*.yml', '*.toml', deploy.json, 'test/**'], plain: true, unless: '<%'}", files{"a.yml": "a: [1\nb: 2\n", "b.yml": "a: <% x %>: [\n", "c.yml": "a: 1\n", "a.toml": "[a\n", "deploy.json": "{\n  \"a\": 1,\n}\n", "test/fixtures/a.json": "{"}, []string{"substandard a.toml:1", "substandard a.yml:2", "substandard deploy.json:2"}},
		{"settings with remarks", "- {rule: settings-read, files: deploy.json, plain: true}", files{"deploy.json": "{\n  // x\n  \"a\": 1\n}\n"}, []string{"substandard deploy.json:2"}},
		{"settings that give a key twice", "- {rule: settings-read, files: '*.yaml'}", files{"twice.yaml": "a: 1\na: 2\n"}, []string{"substandard twice.yaml:2"}},
		{"settings that may have remarks", "- {rule: settings-read, files: '*.json'}", files{"tsconfig.json": "{\n  // x\n  \"a\": 1,\n}\n"}, nil},
	}...)
}

// TestImportsWritten holds that what a path of Rust or a type of Swift lacks is written below what its file takes in, in
// lines that end as the others do, and nowhere where nothing stands so.
func TestImportsWritten(t *testing.T) {
	const crate, module = "[package]\nname = \"tides\"\nedition = \"2021\"\n", "let p = Package(targets: [.target(name: \"Sea\"), .target(name: \"Quay\", dependencies: [\"Sea\"])])\n"
	for text, want := range map[string]string{
		"use std::io;\n\nfn a() {\n    fs::read();\n}\n":           "use std::io;\nuse std::fs;\n\nfn a() {\n    fs::read();\n}\n",
		"use std::io;\r\n\r\nfn a() {\r\n    fs::read();\r\n}\r\n": "use std::io;\r\nuse std::fs;\r\n\r\nfn a() {\r\n    fs::read();\r\n}\r\n",
		"fn a() {\n    use std::io;\n    fs::read();\n}\n":         "",
		"import Foundation\n\nlet a: Tide? = nil\n":                "import Foundation\nimport Sea\n\nlet a: Tide? = nil\n",
	} {
		at, all := "src/lib.rs", files{"Cargo.toml": crate}
		if strings.Contains(text, "import ") {
			at, all = "Sources/Quay/A.swift", files{"Package.swift": module, "Sources/Sea/Tide.swift": "public struct Tide {}\n"}
		}
		all[at] = text
		got := ""
		for _, f := range foundIn(t, "- {rule: targets-asked, files: 'Sources/**/*.swift'}", all) {
			if f.Fix != nil {
				made, err := edit.Apply([]byte(text), f.Fix)
				if got = string(made); err != nil {
					t.Error(err)
				}
			}
		}
		if got != want {
			t.Errorf("%q\nand not\n%q", got, want)
		}
	}
}

// TestMergedTwice holds that settings which merge two others are no error, since some programs take them: it is only
// said that they are not read here.
func TestMergedTwice(t *testing.T) {
	const asked = "- {rule: settings-read, files: '*.yaml'}"
	for text, want := range map[string]string{"a: &a {b: 1}\nc:\n  <<: *a\n  <<: *a\n": "note", "a: 1\na: 2\n": "error"} {
		found := foundIn(t, asked, files{"deploy.yaml": text})
		if len(found) != 1 || found[0].Level.String() != want {
			t.Errorf("%q: %v", text, found)
		}
	}
}
