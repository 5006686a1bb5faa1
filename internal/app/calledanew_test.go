package app_test

import (
	"testing"

	"dicaxon/internal/app"
	"dicaxon/internal/finding"
	"dicaxon/internal/treetest"
)

// TestCalledAnew shows what realign writes where a module calls something otherwise than those who take it, and what
// it leaves, since a file may mean something else by the name.
func TestCalledAnew(t *testing.T) {
	const use, text = "use.ts", "import { longDate, clock } from './dates'\n\nexport const a = () => [longDate(1), clock, { at: longDate }, x.longDate]\n"
	for _, c := range []struct{ what, dates, use, want string }{
		{"one name that has a word in common", "export const fullDate = (x: number) => x\nexport const clock = 1\n", text,
			"import { fullDate, clock } from './dates'\n\nexport const a = () => [fullDate(1), clock, { at: fullDate }, x.longDate]\n"},
		{"none that has a word in common", "export const hours = (x: number) => x\nexport const clock = 1\n", text, text},
		{"two of them", "export const fullDate = 1\nexport const shortDate = 1\nexport const clock = 1\n", text, text},
		{"one that its module uses itself", "export const fullDate = 1\nexport const clock = fullDate + 1\n", text, text},
		{"one that the file has for something else", "export const fullDate = 1\nexport const clock = 1\n", text + "const fullDate = 3\n", text + "const fullDate = 3\n"},
		{"a name that means two things", "export const fullDate = 1\nexport const clock = 1\n", text + "export const b = (longDate: number) => longDate\n", text + "export const b = (longDate: number) => longDate\n"},
		{"a name in an object, for itself", "export const fullDate = 1\nexport const clock = 1\n", text + "export const b = { c: 1, longDate }\n", text + "export const b = { c: 1, longDate }\n"},
		{"a name under another", "export const fullDate = 1\nexport const clock = 1\n", "import { longDate as date, clock } from './dates'\nexport const a = [date, clock]\n", "import { fullDate as date, clock } from './dates'\nexport const a = [date, clock]\n"},
		{"who takes all", "export const fullDate = 1\nexport const clock = 1\n", text + "import * as dates from './dates'\nexport const b = dates\n", text + "import * as dates from './dates'\nexport const b = dates\n"},
		{"a text with the name", "export const fullDate = 1\nexport const clock = 1\n", text + "export const b = 'longDate'\n", text + "export const b = 'longDate'\n"},
	} {
		root := treetest.Make(t, map[string]string{"package.json": "{}\n", "dates.ts": c.dates, use: c.use})
		if got := realigned(t, root)[use]; got != c.want {
			t.Errorf("%s: it becomes\n%s", c.what, got)
		}
	}
}

// TestExported shows that realign exports what a script declares, keeps for itself, and another imports.
func TestExported(t *testing.T) {
	for declared, want := range map[string]string{
		"class Berth {}\nexport const y = 1\n":            "export class Berth {}\nexport const y = 1\n",
		"export const x = 1\nasync function Berth() {}\n": "export const x = 1\nexport async function Berth() {}\n",
		"enum Berth { One }\nexport const x = Berth\n":    "export enum Berth { One }\nexport const x = Berth\n",
		"{\n  class Berth {}\n}\nexport const x = 1\n":    "{\n  class Berth {}\n}\nexport const x = 1\n",
	} {
		root := treetest.Make(t, map[string]string{"package.json": "{}\n", "berth.ts": declared, "use.ts": "import { Berth } from './berth'\n\nexport const a = Berth\n"})
		if got := realigned(t, root)["berth.ts"]; got != want {
			t.Errorf("%q becomes\n%s", declared, got)
		}
	}
}

// realigned puts a tree right, and gives the texts that it has then.
func realigned(t *testing.T, root string) map[string]string {
	t.Helper()
	r, err := app.Realign(t.Context(), root, app.RealignOptions{Least: finding.Warning})
	if err != nil {
		t.Fatal(err)
	}
	if !r.Empty() {
		if _, err := r.Plan.Plan.Write(t.Context(), root, realigning); err != nil {
			t.Fatal(err)
		}
	}
	return texts(t, root)
}
