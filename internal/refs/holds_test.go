package refs

import (
	"strings"
	"testing"
)

// TestHolds shows which names the object of a module has that it exports by default, and of which modules
// nobody can tell.
func TestHolds(t *testing.T) {
	for _, c := range []struct{ what, text, has string }{
		{"written out", "export default {\n  QUAYS: 'Quays',\n  tides,\n  async berths() { return { inner: 1 } },\n  get crew() { return 1 },\n}\n", "QUAYS tides berths crew"},
		{"in one line, with its statement's end", "export default { a: 1, b: [c, { d: 2 }] };\n", "a b"},
		{"frozen", "export default Object.freeze({ a: 1 })\n", "a"},
		{"of styles", "import { StyleSheet } from 'react-native'\n\nexport default StyleSheet.create({ row: { height: 1 } });\n", "row"},
		{"under a name", "const routes = { a: 1 }\n\nexport default routes\n", "a"},
		{"a constant", "export default { a: 1 } as const\n", "a"},
		{"with all of another", "export default { ...others, a: 1 }\n", ""},
		{"with a name that is worked out", "export default { [key]: 1, a: 2 }\n", ""},
		{"with a name in quotes, which is hidden", "export default { 'a-b': 1, c: 2 }\n", ""},
		{"of a type that may have more", "export default { a: 1 } as Options\n", ""},
		{"given more later", "const api = { a: 1 }\napi.b = 2\nexport default api\n", ""},
		{"handed to somebody", "const api = { a: 1 }\nextend(api, more)\nexport default api\n", ""},
		{"of a declared type", "const api: Api = { a: 1 }\nexport default api\n", ""},
		{"what a call makes of it", "export default defineStore({ a: 1 })\n", ""},
		{"called further", "export default { a: 1 }.b\n", ""},
		{"not closed", "export default { a: 1\n", ""},
		{"empty", "export default {}\n", ""},
		{"a function", "export default function f() { return { a: 1 } }\n", ""},
		{"none", "export const a = { b: 1 }\n", ""},
		{"two, of which one is wrong", "export default { a: 1 }\nexport default { b: 1 }\n", ""},
	} {
		said := Read("a.ts", []byte(c.text))
		holds := said.Uses.Holds
		if known := len(holds) > 0; known != (c.has != "") {
			t.Errorf("%s: it is known what it holds: %v", c.what, known)
			continue
		}
		for _, name := range strings.Fields(c.has) {
			if !holds.Has(name) {
				t.Errorf("%s: it lacks %s", c.what, name)
			}
		}
		if c.has != "" && (holds.Has("inner") || holds.Has("d") || holds.Has("height") || holds.Has("nothing")) {
			t.Errorf("%s: it has what lies deeper, or is not there", c.what)
		}
	}
}
