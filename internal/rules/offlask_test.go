package rules

// What is told of the environment, of versions and of types that other modules hand on, by its cause.
func init() {
	const env = "- {rule: env-keys}"
	tide := "export interface Tide {\n  height: number\n  next(): Tide\n}\n"
	cases = append(cases, []ruled{
		{"a key with a default that is misspelt", env, files{".env.example": "DESK_HARBOUR=x\nDESK_PAGES=1\n",
			"a.py": "import os\na = os.environ.get('DESK_HARBUOR', 'x')\nb = os.environ.get('DESK_TIDES', 'x')\n", "b.js": "const pages = process.env.DESK_PAEGS ?? 1\nconst tides = process.env.DESK_TIDES ?? 1\n"}, []string{"disagrees a.py:2", "disagrees b.js:1"}},
		{"a key with a default that is another one's", env, files{".env.example": "DESK_HARBOUR=x\n", "a.py": "import os\na = os.environ.get('DESK_HARBOURS', 'x')\nb = os.environ['DESK_HARBOUR']\n"}, nil},
		{"versions of Node", "- {rule: env-keys}", files{"package.json": "{\n  \"engines\": {\"node\": \">=22\"}\n}\n", ".nvmrc": "v18.2\n"}, []string{"disagrees .nvmrc:1"}},
		{"a type that another module hands on", "- {rule: env-keys}", files{"package.json": "{}", "tide.ts": tide, "index.ts": "export type { Tide } from './tide'\n", "a.ts": "import type { Tide } from './index'\nexport function a(tide: Tide) {\n  return tide.hieght\n}\n", "b.ts": "import type { Tide } from './others'\nexport function b(tide: Tide) {\n  return tide.hieght\n}\n", "others.ts": "export const Tide = 1\n"}, []string{"dangling a.ts:3"}},
	}...)
}
