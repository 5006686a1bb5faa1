package rules

import (
	"strings"
	"testing"
)

// byFolder looks addresses up in pages that lie by them.
const byFolder = `- {rule: addresses, files: 'src/**/*.svelte', by: '\bhref="(/[^"]*)"', pages: ['src/routes/**/+page.svelte', 'src/routes/**/+server.ts'], unless-in: hooks.ts}`

// byName looks them up in pages whose names are the last part.
const byName = `- {rule: addresses, files: 'pages/**/*.vue', by: '[ (]"(/[^"]*)"', pages: 'pages/**/*.vue'}`

// Cases of TestRules: what a framework finds by the places and the names of files.
func init() {
	cases = append(cases, []ruled{
		{"addresses a slip away from those of pages", byFolder, files{"hooks.ts": "if (at === '/sailing') {}\n",
			"src/routes/(app)/berths/+page.svelte":     "<a href=\"/berths\"></a>\n<a href=\"/berth\"></a>\n<a href=\"/berth?all#top\"></a>\n<a href=\"/others\"></a>\n<a href=\"/sailing\"></a>\n",
			"src/routes/sailings/+page.svelte":         "<a href=\"/berths/7/card\"></a>\n<a href=\"/berths/{id}/cards\"></a>\n<a href=\"/api/tide\"></a>\n<a href=\"/logo.png\"></a>\n",
			"src/routes/berths/[id]/card/+page.svelte": "", "src/routes/api/tides/+server.ts": "export const GET = 1\n"},
			[]string{"dangling src/routes/(app)/berths/+page.svelte:2", "dangling src/routes/sailings/+page.svelte:2", "dangling src/routes/sailings/+page.svelte:3"}},
		{"addresses that may be anything", byFolder, files{"src/routes/+page.svelte": "<a href=\"/berth\"></a>\n<a href=\"/crew/new\"></a>\n<a href=\"/\"></a>\n", "src/routes/berths/+page.svelte": "", "src/routes/[...rest]/+page.svelte": ""}, nil},
		{"two pages that are as near, and a folder with pages below", byFolder, files{"src/routes/+page.svelte": "<a href=\"/tides1\"></a>\n<a href=\"/berth\"></a>\n", "src/routes/tides2/+page.svelte": "", "src/routes/tides3/+page.svelte": "", "src/routes/berths/+page.svelte": "", "src/routes/berth/new/+page.svelte": ""}, nil},
		{"pages by their names", byName, files{"pages/index.vue": "to=\"/x\" \"/berths/nwe\" \"/berths/new\" \"/berths\"\n", "pages/berths/index.vue": "", "pages/berths/newly.vue": "", "pages/berths/new.vue": "", "pages/crews/[id].vue": ""}, nil},
		{"a page by its name, nearly", byName, files{"pages/index.vue": " \"/crew/list\"\n (\"/crews/lists\")\n", "pages/crews/list.vue": ""}, []string{"dangling pages/index.vue:1", "dangling pages/index.vue:2"}},
		{"addresses below one, by the method", "- {rule: addresses, files: '*.ts', by: 'fetch\\(\"(/[^\"]*)', pages: 'server/api/**/*.ts', under: /api, without: '\\.(?:get|post)$'}",
			files{"a.ts": "fetch(\"/api/tides\")\nfetch(\"/api/tide\")\nfetch(\"/tide\")\n", "server/api/tides/index.get.ts": "", "server/api/tides.post.ts": ""}, []string{"dangling a.ts:2"}},

		{"one of several names, nearly", "- {rule: called, files: 'r/**/+*', as: [+page.ts, +page.server.ts]}", files{"r/+page.ts": "", "r/a/+pages.ts": "", "r/b/+page.severs.ts": "", "r/c/+other.ts": "", "r/d/+page.ts": "", "r/d/+pages.ts": ""}, []string{"misnamed r/a/+pages.ts", "misnamed r/b/+page.severs.ts"}},

		{"components that are found by their paths", "- {rule: names, files: '*.vue', by: '<([A-Z]\\w+)', in: 'parts/**/*.vue', paths-as: pascal, near-only: true}",
			files{"a.vue": "<TideTable>\n<TideTables>\n<BerthCard>\n<BerthCards>\n<Other>\n<Deck>\n", "parts/tide/Table.vue": "", "parts/berth/BerthCard.vue": "", "parts/deck/index.vue": ""}, []string{"dangling a.vue:2", "dangling a.vue:4"}},
		{"names that a framework knows", "- {rule: names, files: '*.yaml', by: 'kind: (\\w+)', known: [Deployment, Service], near-only: true}", files{"a.yaml": "kind: Deployment\nkind: Deploymnet\nkind: Berth\n"}, []string{"dangling a.yaml:2"}},
		{"what is defined in one part of a text", "- {rule: names, files: 'p.ts', by: 'get\\(\"(\\w+)', in: c.ts, defined: '(\\w+)[,} ]', defined-inside: 'all = \\{[^}]*\\}'}", files{"c.ts": "const tides = 1, berths = 2\nall = { tides, crews }\n", "p.ts": "get(\"tides\")\nget(\"berths\")\nget(\"crews\")\n"}, []string{"dangling p.ts:2"}},
		{"a first line behind a byte-order mark", "- {rule: names, files: a.yml, by: '(?m)^use: (\\w+)', in: p.yml, defined: '(?m)^(\\w+):'}", files{"a.yml": "\ufeffuse: tides\nuse: crews\n", "p.yml": "\ufefftides: 1\n"}, []string{"dangling a.yml:2"}},
		{"words in another case", "- {rule: names, files: s.env, by: '(?m)^N_(\\w+)=', in: c.ts, defined: '(\\w+):', loosely: true, near-only: true}", files{"c.ts": "seaPort: 1\n", "s.env": "N_SEA_PORT=\nN_SEA_PROT=\nN_OTHER=\n"}, []string{"dangling s.env:2"}},
		{"what has the very name elsewhere", "- {rule: names, files: 's/*.rb', by: 'require \"([\\w/]+)\"', to: 's/{}.rb', near-only: true, here-only: true}", files{"s/a.rb": "require \"tides\"\nrequire \"helpers\"\n", "s/helper.rb": "", "lib/tides.rb": ""}, []string{"dangling s/a.rb:2"}},

		{"a constant that is nearly that of its path", "- {rule: class-name, files: 'lib/**/*.rb', roots: lib/, near-only: true}", files{"lib/tidal/table.rb": "module Tidal\n  class Tabel\n  end\nend\n", "lib/tidal/cli.rb": "module Tidal\n  class CLI\n  end\nend\n", "lib/tidal/read.rb": "module Tidal\n  class Reader\n  end\nend\n", "lib/tidal/ext.rb": "class String\nend\n"}, []string{"misdeclared lib/tidal/table.rb:2"}},
		{"a value nearly named, though the line does without", "- {rule: value-keys, files: 't/*.yaml', by: '\\.Values\\.([\\w.]+)', in: v.yaml, unless: default}", files{"v.yaml": "image:\n  name: x\nport: 1\n", "t/a.yaml": "{{ .Values.images.name | default \"y\" }}\n{{ .Values.other | default \"y\" }}\n{{ .Values.image.name }}\n"}, []string{"dangling t/a.yaml:1"}},
		{"a package nearly named beside its kin, and in settings", "- {rule: undeclared}", files{"package.json": `{"name": "ferry", "dependencies": {"@pier/bridge": "1", "@pier/quay": "1", "vue": "1"}}`,
			"src/a.js": "import '@pier/bridge'\nimport '@pier/bridges'\nimport '@pier/deck'\n", "tool.config.js": "import '@pier/quays'\nimport 'webpack'\n"}, []string{"disagrees src/a.js:2", "disagrees src/a.js:3", "disagrees tool.config.js:1"}},
		{"a password that is a word", "- {rule: secrets, files: p.yml, by: 'password: ([^ \"{\\n]+)', plain: true}", files{"p.yml": "password: harbour\nb:\n  password: \"{X}\"\n"}, []string{"exposed p.yml:1"}},
		{"a path in a test that differs by a letter", "- {rule: quoted}", files{"spec/a_spec.rb": "read(\"spec/fixtures/tide.csv\")\nread(\"spec/fixtures/none.csv\")\nread(\"spec/fixtures/berths2.csv\")\n", "spec/fixtures/tides.csv": "", "spec/fixtures/berths1.csv": ""}, []string{"dangling spec/a_spec.rb:1"}},
	}...)
}

// FuzzAddresses takes addresses apart and writes each part anew, where it stands.
func FuzzAddresses(f *testing.F) {
	for _, seed := range []string{"/berths/7/card?all#top", "//a//b/", "", "/", "?x", "/a/${id}/b", "/#/a", "/é/{x}"} {
		f.Add(seed)
	}
	f.Fuzz(func(t *testing.T, text string) {
		all := parsed(text)
		for i := range all {
			from, to := whereOf(text, i)
			again := parsed(text[:from] + "tides" + text[to:])
			if len(again) != len(all) || again[i] != "tides" {
				t.Fatalf("%q: part %d of %q becomes %q", text, i, all, again)
			}
			if all[i] != "" && all[i] != text[from:to] {
				t.Fatalf("%q: part %d is %q, not %q", text, i, text[from:to], all[i])
			}
		}
		if !all.leadsTo(append(address{}, all...)) && len(all) > 0 {
			t.Fatalf("%q does not lead to itself", text)
		}
		if part, want := nearAddress(all, []address{all.with(strings.Repeat("x", 3))}); part >= 0 {
			t.Fatalf("%q: what is below is no slip: %d %q", text, part, want)
		}
	})
}
