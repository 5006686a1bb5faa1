package refs

import (
	"fmt"
	"slices"
	"strings"
	"testing"
)

// said gives the references of a kind as "line:name" or "line:name=value".
func said(f File, kind Kind) []string {
	var all []string
	for _, r := range f.Of(kind) {
		text := fmt.Sprintf("%d:%s%s", r.Line, strings.Repeat(".", r.Relative), r.Name)
		if r.Value != "" {
			text += "=" + r.Value
		}
		all = append(all, text)
	}
	return all
}

// TestReaders shows each text beside what is read from it. What only looks
// like code, in comments and strings, stands in every one.
func TestReaders(t *testing.T) {
	for _, c := range []struct {
		name, text string
		kind       Kind
		want       []string
	}{
		{"a.go", "// import \"no\"\npackage tides\n\nimport (\n\t\"fmt\"\n\tb \"gannet.example/berths\"\n)\n\nvar s = `import \"no\"`\n", Import, []string{"5:fmt", "6:gannet.example/berths=b"}},
		{"a.go", "package tides // package no\n", Package, []string{"1:tides"}},
		{"a.go", "package tides\n\ntype Tide struct{}\n\nfunc f() { type inner int }\n", Type, []string{"3:Tide"}},
		{"a.py", "\"\"\"import no\nfrom no import no\"\"\"\nimport os, ferry.tides as t  # import no\nfrom . import views\nfrom ..berths import (a,\n    b as c)\nfrom ferry import x; import y\ns = 'import no'\nprint('from no import no')\n", Import, []string{"3:os", "3:ferry.tides", "4:.=views", "5:..berths=a", "5:..berths=b", "7:ferry=x", "7:y"}},
		{"a.py", "from ferry \\\n  import tides\nfrom __future__ import annotations\n", Import, []string{"1:ferry=tides", "3:__future__=annotations"}},
		{"a.py", "important = 1\nfromage = 2\nx.import_module('no')\n", Import, nil},
		{"a.js", "// import 'no'\n/* require('no') */\nimport a, { b } from \"./a.js\";\nimport './style.css'\nexport { c } from './c';\nexport * from './d';\nconst e = require('./e');\nconst f = await import('./f');\nconst s = \"import 'no'\";\nconst t = `require('no') ${g('x')} `;\nconst r = /require('no')/;\nx.require('no'); require(path); import(`./${x}`);\n", Import,
			[]string{"3:./a.js=b", "3:./a.js=default", "4:./style.css", "5:./c=c", "6:./d=*", "7:./e", "8:./f"}},
		{"a.tsx", "import type { A } from './a'\nimport {\n  B,\n  C,\n} from '@/b'\nexport const p = <p>Don't import 'no'</p>\nimport D = require('./d')\n", Import, []string{"1:./a=A", "5:@/b=B", "5:@/b=C", "7:./d"}},
		{"a.js", "const { a } = require('./x').b;\nconst { c } = require('./y')(1);\nconst { d } = require('./z');\n", Import, []string{"1:./x", "2:./y", "3:./z=d"}},
		{"a.js", "define('berths', ['./a', \"views/b\",\n  'text!c.html'], function (a) {\n  require(['d'], f); other.define(['no']); define([path]);\n});\n", Import, []string{"1:./a", "1:views/b", "2:text!c.html", "3:d"}},
		{"a.js", "if (typeof define === 'function' && define.amd) define(['jquery'], f);\n", Import, nil},
		{"a.js", "const x = a / b; const y = 'from' / require('./z')\nreturn /'/.test(x)\nimport q from './q'\n", Import, []string{"1:./z", "3:./q=default"}},
		{"A.vue", "<template><p>import x from 'no'</p></template>\n<script setup lang=\"ts\">\nimport b from './b.vue'\n</script>\n<style>@import 'no';</style>\n", Import, []string{"3:./b.vue=default"}},
		{"A.kt", "/* package no /* nested */ package no */\npackage example.gannet\n\nimport example.tides.Tide // import no\nimport example.berths.*\nval s = \"import no.such\"\nval t = \"\"\"\nimport no.more\n\"\"\"\n", Import, []string{"4:example.tides.Tide", "5:example.berths.*"}},
		{"A.kt", "@file:JvmName(\"X\")\npackage example.gannet\n", Package, []string{"2:example.gannet"}},
		{"A.java", "package example.gannet; // package no;\nimport static example.T.x;\nimport java.util.*;\nclass A { String s = \"import no;\"; }\n", Import, []string{"2:example.T.x", "3:java.util.*"}},
		{"A.java", "/* package no; */\npackage example.gannet;\n", Package, []string{"2:example.gannet"}},
		{"a.php", "namespace No;\n<?php\nnamespace App\\Models;\nuse App\\A, B\\C;\nuse App\\{D, E as F};\n// use No;\n$f = function () use ($x) {};\n$s = 'use No;';\nclass X { use Trait1; }\n", Import, []string{"4:App\\A", "4:B\\C", "5:App\\D", "5:App\\E"}},
		{"a.php", "<?php\nnamespace App\\Models;\necho <<<END\nnamespace No;\nEND;\n", Package, []string{"2:App\\Models"}},
		{"a.php", "<?php require __DIR__.'/../vendor/autoload.php'; include 'x.php';\n", Path, []string{"1:/../vendor/autoload.php=__DIR__", "1:x.php"}},
		{"a.rb", "require \"json\"\nrequire_relative 'tides'\n# require 'no'\nx = \"require 'no'\"\n=begin\nrequire 'no'\n=end\ny = <<~SQL\n  require 'no'\nSQL\n", Import, []string{"1:json=require", "2:tides=require_relative"}},
		{"a.rb", "class Tides::Table < ApplicationRecord\n  NAME = Berths::Plan.new\nend\n", Import, []string{"1:ApplicationRecord", "2:Berths::Plan"}},
		{"a.dart", "import 'package:ferry/tides.dart' as t;\nexport 'src/a.dart' show A;\npart 'b.g.dart';\n// import 'no';\nvar s = \"import 'no';\";\n", Import, []string{"1:package:ferry/tides.dart=import", "2:src/a.dart=export", "3:b.g.dart=part"}},
		{"a.cs", "using System;\nusing global::Ferry.Y;\nusing static Ferry.X;\nusing T = Ferry.Tides;\nnamespace Ferry.Berths;\n// using No;\nclass A { void f() { using (var x = y) {} using var z = w; } string s = \"using No;\"; }\n", Import, []string{"1:System", "2:Ferry.Y", "3:Ferry.X", "4:Ferry.Tides=T"}},
		{"a.cs", "/* namespace No; */\nnamespace Ferry.Berths\n{\n}\n", Package, []string{"2:Ferry.Berths"}},
		{"project.pbxproj", "// !$*UTF8*$!\n{ objects = {\n  A = {isa = PBXFileReference; path = \"My Tide.swift\"; sourceTree = \"<group>\"; };\n  B = {isa = PBXFileReference; path = UIKit.framework; sourceTree = SDKROOT; };\n  C = {isa = PBXFileReference; path = x/Top.swift; sourceTree = SOURCE_ROOT; };\n  G = {isa = PBXGroup; children = (A /* tide */, B,); path = Model; sourceTree = \"<group>\"; };\n  T = {isa = PBXGroup; children = (G, C); sourceTree = \"<group>\"; };\n  L = {isa = PBXFileReference; path = Lost.swift; sourceTree = \"<group>\"; };\n}; }\n", Path, []string{"3:Model/My Tide.swift", "5:x/Top.swift"}},
		{"project.pbxproj", "{ objects = { A = {isa = PBXFileReference; path = a.swift; sourceTree = SOURCE_ROOT; }; };", Path, nil},
		{"a.swift", "import Foundation\n@testable import Ferry\nimport struct Tides.Table\n/* import No /* */ import No */\nlet s = \"import No\"\n", Import, []string{"1:Foundation", "2:Ferry=testable", "3:Tides.Table"}},
		{"a.sql", "select * from {{ source('harbour', \"berths\") }}\njoin {{ ref('stg_tides') }} using (id) {# ref('no') #}\n", Model, []string{"2:stg_tides"}},
		{"a.sql", "select * from {{ source('harbour', \"berths\") }} -- 'no'\n", Source, []string{"1:harbour.berths=harbour"}},
		{"a.html", "<!-- <script src='no'></script> -->\n<link rel=stylesheet href=a.css>\n<script src=\"b.js\"></script>\n<script>var s = '<img src=no>'</script>\n<img src='c.png'>\n", Link, []string{"2:a.css=stylesheet", "3:b.js=script", "5:c.png=img"}},
		{"a.css", "/* @import 'no'; */\n@import url('a.css');\nb { background: url(c.png) }\n", Link, []string{"2:a.css", "3:c.png"}},
		{"a.json", "{\n  // \"no\": 1\n  \"main\": \"index.js\",\n  \"files\": [\"a\", \"b\"],\n  \"x\": {\"y\": 1,},\n}\n", Key, []string{"3:main=index.js", "4:files", "4:files=a", "4:files=b", "5:x", "5:x.y=1"}},
		{"a.toml", "# no = 1\n[project]\nname = \"tides\"\nscripts = {run = \"a:b\"}\n[[tool.x]]\ny = ['a', 'b']\n", Key, []string{"2:project", "3:project.name=tides", "4:project.scripts", "4:project.scripts.run=a:b", "5:tool.x", "6:tool.x.y", "6:tool.x.y=a", "6:tool.x.y=b"}},
		{"a.yml", "# no: 1\nname: tides\npaths: [a, b]\nx:\n  y: &z 1\n  w:\n    - n: 2\n", Key, []string{"2:name=tides", "3:paths", "3:paths=a", "3:paths=b", "4:x", "5:x.y=1", "6:x.w", "7:x.w.n=2"}},
		{"a.xml", "<?xml version='1.0'?>\n<!-- <no/> -->\n<p a='1'>\n <q>x</q>\n</p>\n", Key, []string{"3:p", "3:p.@a=1", "4:p.q=x"}},
		{".env.example", "# NO=1\nFERRY_KEY=abc # comment\nexport PORT=\"80 80\"\nnot a line\n", Key, []string{"2:FERRY_KEY=abc", "3:PORT=80 80"}},
		{"requirements-dev.txt", "-r requirements.txt\n# no\nFlask[async]>=3 ; python_version > '3'\npytest\n", Import, []string{"3:Flask=>=3", "4:pytest"}},
		{"a.rs", "mod tides;\npub mod berths; // mod no;\nuse crate::tides::Table;\nmod inner { }\nlet s = \"mod no;\"; let c = '\"';\nmod crews;\n", Import, []string{"1:tides=mod", "2:berths=mod", "3:crate::tides::Table", "6:crews=mod"}},
		{"a.md", "# [Tides](tides.md) and ![map](img/map.png \"Map\")\n`[no](no.md)`\n```\n[no](no.md)\n```\n\n[crews]: crews.md#top\n    [no](no.md)\n", Link, []string{"1:tides.md=a", "1:img/map.png=img", "7:crews.md#top=a"}},
		{"a.md", "Crews `and` \r\n===\r\nno \r\n\r\n---\r\n", Anchor, []string{"1:Crews and"}},
		{"a.md", "# Tides of [the *harbour*](x.md) <b>now</b> {#now}\nCrews and `rota`\n---\n```\n# no\n```\n| no |\n---\n<a id='by-hand'></a>\n(aim)=\n    # no\n", Anchor, []string{"1:Tides of [the *harbour*](x.md) <b>now</b> {#now}", "1:now", "2:Crews and rota", "9:by-hand", "10:aim"}},
		{"a.php", "<?php\n$a = \\App\\Berths\\Plan::class; $b = 'App\\\\Tides\\\\Table'; // \\No\\No\n", Import, []string{"2:App\\Berths\\Plan=full", "2:App\\Tides\\Table=text"}},
		{"a.ts", "import A, {\n  // no\n  type B,\n  /* no */ C as D,\n} from './e'\n", Import, []string{"5:./e=B", "5:./e=C", "5:./e=default"}},
		{"a.js", "try { require('./maybe') } catch {}\njest.mock('./tides'); new URL('./a.png', import.meta.url)\n", Import, []string{"1:./maybe", "2:./tides", "2:./a.png"}},
		{"Dockerfile", "# COPY no /\nFROM python:3.14 AS base\nCOPY requirements.txt \\\n  src/ /app/\nCOPY --from=base /x /y\nADD [\"a b\", \"/z\"]\nRUN echo COPY no no\n", Path, []string{"3:requirements.txt=built", "4:src/=built", "6:a b=built"}},
	} {
		if got := said(Read(c.name, []byte(c.text)), c.kind); !slices.Equal(got, c.want) {
			t.Errorf("%s:\n%s\n got %q\nwant %q", c.name, c.text, got, c.want)
		}
		for _, r := range Read(c.name, []byte(c.text)).Refs {
			written := strings.NewReplacer("\\\\", "\\", "`", "").Replace(string(r.Span.In([]byte(c.text))))
			if !strings.HasSuffix(r.Name, strings.Trim(written, ".")) || r.Value != "" && r.ValueSpan.Len() > 0 && r.Value != "default" && r.Value != strings.Join(strings.Fields(string(r.ValueSpan.In([]byte(c.text)))), " ") {
				t.Errorf("%s: %+v spans %q and %q", c.name, r, r.Span.In([]byte(c.text)), r.ValueSpan.In([]byte(c.text)))
			}
		}
	}
}

// TestQuotes holds which texts in code look like paths of files.
func TestQuotes(t *testing.T) {
	text := "import './m/x.js'\nread('data/tides.csv'); read(\"../sql/a-b.sql\")\nno('data/', 'a/b', '/etc/x.conf', 'https://x.example/a.html', 'a/b.1.2', \"a/b.csv', 'x/y.c', 'a//b.csv')\n`q/r.txt` 'tides.csv' 'tides.py' 'v1.2'\n"
	var got []string
	for _, q := range Read("a.js", []byte(text)).Quotes {
		if string(q.Span.In([]byte(text))) != q.Name {
			t.Errorf("%s stands elsewhere", q.Name)
		}
		got = append(got, q.Name)
	}
	if want := []string{"data/tides.csv", "../sql/a-b.sql", "q/r.txt", "tides.csv"}; !slices.Equal(got, want) {
		t.Errorf("%q, not %q", got, want)
	}
	if all := Read("a.yml", []byte("x: 'data/tides.csv'\n")).Quotes; all != nil {
		t.Errorf("settings: %v", all)
	}
}

// TestBrokenFiles says what could be read before the mistake, and where it is.
func TestBrokenFiles(t *testing.T) {
	for _, c := range []struct {
		name, text string
		line, refs int
	}{
		{"a.go", "package tides\n\nimport \"fmt\"\n\nfunc {\n", 5, 2},
		{"a.py", "import os\nx = '''\n", 2, 1},
		{"a.js", "import a from 'a'\n/* no end", 2, 1},
		{"a.toml", "a = 1\nb = = 2\n", 2, 1},
		{"a.xml", "<a><b>x</b>\n<c", 2, 2},
	} {
		f := Read(c.name, []byte(c.text))
		if f.Broken == "" || f.BrokenLine != c.line || len(f.Refs) < c.refs {
			t.Errorf("%s: %+v", c.name, f)
		}
	}
	for _, name := range []string{"a.json", "a.yaml"} {
		if f := Read(name, []byte("{\"a\": [1,\n")); f.Broken == "" {
			t.Errorf("%s: nothing is said to be broken: %+v", name, f)
		}
	}
}

func FuzzRead(f *testing.F) {
	for _, name := range []string{"a.go", "a.py", "a.ts", "A.vue", "a.kt", "a.java", "a.php", "a.rb", "a.dart", "a.cs", "a.swift", "a.rs", "a.md", "a.sql", "a.html", "a.css", "a.json", "a.toml", "a.yaml", "a.xml", ".env", "requirements.txt", "Dockerfile", "go.mod"} {
		f.Add(name, []byte("import (\"a\"\n'''/* <<~A \"${ {# [a]\n- b: {c\n"))
	}
	f.Fuzz(func(t *testing.T, name string, text []byte) {
		for _, r := range Read(name, text).Refs {
			if r.Line < 1 || r.Column < 1 || r.Line > strings.Count(string(text), "\n")+2 || r.Span.Len() > 0 && r.Span.In(text) == nil || r.ValueSpan.Len() > 0 && r.ValueSpan.In(text) == nil {
				t.Fatalf("%s %q: %+v", name, text, r)
			}
		}
	})
}
