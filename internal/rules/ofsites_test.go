package rules

// What people slip on in sites and in what finds pages by their files, by its cause, each beside what is right.
func init() {
	const leads = `- {rule: addresses, files: '**/*.vue', by: 'to="(/[^"]*)"', surely: '<Way to="(/[^"]*)"', pages: 'pages/**/*.vue', unless-in: site.config.ts, elsewhere: 'morePages'}`
	const parts = `- {rule: names, files: '**/*.vue', by: '<([A-Z]\w+)', in: 'parts/**/*.vue', paths-as: pascal, near-only: true, kin-there: true}`
	const given = `- {rule: text, files: build.ts, given-in: ['*.json', 'src/*.ts'], given: ['"@/', 'from "@/'], given-not: 'plain', must: 'alias', says: S.}`
	const broken = "- {rule: dangling}"
	pages := files{"pages/berths/index.vue": "", "pages/tides/[day].vue": "", "pages/crews.vue": ""}
	with := func(more files) files {
		for at, text := range pages {
			more[at] = text
		}
		return more
	}
	cases = append(cases, []ruled{
		{"addresses that a framework looks up itself", leads, with(files{"a.vue": "<Way to=\"/sailings\">\n<a to=\"/sailings\">\n<Way to=\"/berths\">\n<Way to=\"/tides/today\">\n<Way to=\"/chart.pdf\">\n<Way to=\"/\">\n<Way to=\"/da/crews\">\n<Way to=\"/berth\">\n<Way to=\"/old\">\n<Way to=\"/${x}\">\n", "site.config.ts": "from: '/old'\n"}),
			[]string{"dangling a.vue:1", "dangling a.vue:8"}},
		{"the same address twice", leads, with(files{"a.vue": "<Way to=\"/sailings\">\n<Way to=\"/sailings\">\n", "b.vue": "<Way to=\"/sailings\">\n"}), []string{"dangling a.vue:1"}},
		{"pages that others make, too", leads, with(files{"a.vue": "<Way to=\"/sailings\">\n<Way to=\"/berth\">\n", "site.config.ts": "morePages()\n"}), []string{"dangling a.vue:2"}},
		{"an address that another one begins with", leads, with(files{"a.vue": "<Way to=\"/berth\">\n", "site.config.ts": "to: '/berths'\n"}), []string{"dangling a.vue:1"}},
		{"pages below a part that says the language", leads, files{"a.vue": "<Way to=\"/crews/new\">\n<Way to=\"/quays/new\">\n", "pages/[lang]/crews/[id].vue": "", "pages/[lang]/tides.vue": ""}, []string{"dangling a.vue:2"}},
		{"parts whose kin is there", parts, files{"a.vue": "<BerthCard>\n<BerthFooter>\n<AppFooter>\n<Berth>\n<UiButton>\n", "parts/berth/Card.vue": "", "parts/App.vue": "", "parts/ui/Field.vue": ""}, []string{"dangling a.vue:2"}},
		{"what several files have to say", given, files{"build.ts": "x\n", "a.json": "\"@/*\"", "src/a.ts": "from \"@/b\"\n"}, []string{"substandard build.ts"}},
		{"what one of several files does not say", given, files{"build.ts": "x\n", "a.json": "\"@/*\"", "src/a.ts": "from \"./b\"\n"}, nil},
		{"what no file may say", given, files{"build.ts": "x\n", "a.json": "\"@/*\" plain", "src/a.ts": "from \"@/b\"\n"}, nil},
		{"statements between the paragraphs of a text", broken, files{"tsconfig.json": `{"compilerOptions": {"paths": {"@parts/*": ["./src/parts/*"]}}}`, "src/parts/Tide.js": "export const Tide = 1\n",
			"a.mdx": "import { Tide } from '@parts/Tide'\nimport { Tides } from '@parts/Tide' // x\nimport {\n  Crew,\n} from '@parts/Crew'\n\nimport text, from './nowhere'\n\n```js\nimport x from './none'\n```\n\nexport const a = 1\n\nSee import x from './b'.\n"}, []string{"dangling a.mdx:2", "dangling a.mdx:5", "dangling a.mdx:7"}},
		{"what a module lacks where a compiler could write it", broken, files{"tsconfig.json": "{}", "a.mjs": "import { tides, crews } from './b.mjs'\ntides(crews)\n", "b.mjs": "export function tides() {}\n"}, []string{"dangling a.mjs:1"}},
		{"a module without a default, where a loader gives all of it", broken, files{"package.json": "{}", "tsconfig.json": "{}", "ember-cli-build.js": "module.exports = 1\n", "a.js": "import all from './b'\nimport { none } from './b'\nall(none)\n", "b.js": "export const one = 1\n"}, []string{"dangling a.js:2"}},
		{"a module without a default", broken, files{"package.json": "{}", "tsconfig.json": "{}", "a.js": "import all from './b'\nall()\n", "b.js": "export const one = 1\n"}, []string{"dangling a.js:1"}},
		{"a folder beside others that have a short name", broken, files{"package.json": `{"dependencies": {"@berth/card": "1"}}`, "tsconfig.json": `{"compilerOptions": {"paths": {"@parts/*": ["./src/parts/*"]}}}`,
			"src/parts/a.ts": "import '@texts/b'\nimport '@berth/card'\nimport '@others/b'\nimport '@texts/c'\n", "src/texts/b.ts": "", "src/berth/card.ts": ""}, []string{"dangling src/parts/a.ts:1", "disagrees src/parts/a.ts:3"}},
		{"short names of SvelteKit", broken, files{"package.json": "{}", "svelte.config.js": "export default { kit: { alias: { $parts: 'src/parts' } } };\n", "src/a.ts": "import '$parts/b'\nimport '$parts/c'\nimport '$app/state'\n", "src/parts/b.ts": ""}, []string{"dangling src/a.ts:2"}},
		{"what both sides share, as Nuxt calls it", broken, files{"nuxt.config.ts": "export default {}\n", "server/a.ts": "import '#shared/b'\nimport '#shared/c'\nimport '#imports'\n", "shared/b.ts": ""}, []string{"dangling server/a.ts:2"}},
		{"ways that code writes down", `- {rule: addresses, files: '*.js', by: 'to="(/[^"]*)"', written-in: '*.js', written: 'path="([^"]*)"', surely: 'Way to="(/[^"]*)"', elsewhere: 'path=\{[a-z]'}`, files{
			"a.js": "path=\"/\"\npath=\"/berths\"\npath=\":id\"\npath=\"edit\"\npath=\"*\"\npath=\"/old/*\"\n",
			"b.js": "Way to=\"/berth\"\nWay to=\"/berths/3/edit\"\nWay to=\"/crews/x\"\nto=\"/quays/x\"\nWay to=\"/old/a/b\"\nWay to=\"/edit\"\n"}, []string{"dangling b.js:1", "dangling b.js:3"}},
		{"ways without a part that may be anything", `- {rule: addresses, files: '*.js', by: 'to="(/[^"]*)"', written-in: '*.js', written: 'path="([^"]*)"', surely: 'Way to="(/[^"]*)"', elsewhere: 'path=\{[a-z]'}`, files{
			"a.js": "path=\"/\"\npath=\"/berths\"\npath=\"new\"\npath=\"*\"\n", "b.js": "Way to=\"/crews\"\nWay to=\"/berths/new\"\nto=\"/quays\"\n"}, []string{"dangling b.js:1"}},
		{"ways that are said by names", `- {rule: addresses, files: '*.js', by: 'to="(/[^"]*)"', written-in: '*.js', written: 'path="([^"]*)"', surely: 'Way to="(/[^"]*)"', elsewhere: 'path=\{[a-z]'}`, files{
			"a.js": "path=\"/\"\npath=\"/berths\"\npath={crews}\n", "b.js": "Way to=\"/crews\"\n"}, nil},
		{"what an object has that a module exports by name", "- {rule: imported}", files{"package.json": "{}", "a.ts": "import { channels, Kind, set, typed, open as shut } from './b'\nimport { given } from './b'\nuse(channels.tides, channels.tidse, Kind.Low, Kind.Mid, set.later, typed.more, shut.nowhere, given.toString)\n",
			"b.ts": "export const channels = {\n  tides: 'tides:list',\n} as const\nexport enum Kind { Low = 1, High }\nexport const set = { a: 1 }\nexport const typed: Some = { a: 1 }\nexport const open = { ...others }\nexport const given = { a: 1 }\n", "c.js": "set.later = 2\n"},
			[]string{"dangling a.ts:3", "dangling a.ts:3"}},
		{"an object that is handed to somebody", "- {rule: imported}", files{"package.json": "{}", "a.js": "import { api, all } from './b'\nuse(api.more, all.more)\n", "b.js": "export const api = { a: 1 }\nextend(api, others)\nexport const all = { a: 1 }\n", "c.js": "import { all } from './b'\nObject.assign(all, more)\n"}, nil},
		{"what nobody names beside a folder of any name", `- {rule: names, files: 's.js', by: '"([\w/]+)"', to: '**/{}.md'}`, files{"s.js": "\"guides/tides\"\n\"words\"\n", "README.md": "", "docs/guides/tides.md": ""}, []string{"dangling s.js:2"}},
		{"what another image has made", `- {rule: names, files: Dockerfile, by: '"node", "([\w./]+)"', to: './{}'}`, files{"Dockerfile": "CMD [\"node\", \".output/a.mjs\"]\nCMD [\"node\", \"srv/b.js\"]\n"}, []string{"dangling Dockerfile:2"}},
	}...)
}
