package names

import (
	"slices"
	"strings"
	"testing"
)

func TestRepeated(t *testing.T) {
	for name, c := range map[string]struct {
		text  string
		known []string
		want  string
	}{
		"imports and mounts": {"from app import berths\n\napp.mount(berths.blueprint)\n", []string{"berths"}, "from app import berths\nfrom app import tides\n\napp.mount(berths.blueprint)\napp.mount(tides.blueprint)\n"},
		"in order":           {"mount(berths)\nmount(wharves)\n", []string{"berths", "wharves"}, "mount(berths)\nmount(tides)\nmount(wharves)\n"},
		"out of order":       {"mount(wharves)\nmount(berths)\n", []string{"berths", "wharves"}, "mount(wharves)\nmount(berths)\nmount(tides)\n"},
		"every shape": {"import { BerthsModule } from './berths/berths.module';\n@Module({\n  imports: [BerthsModule],\n})\n", []string{"berths"},
			"import { BerthsModule } from './berths/berths.module';\nimport { TidesModule } from './tides/tides.module';\n@Module({\n  imports: [BerthsModule, TidesModule],\n})\n"},
		"singular and plural":  {"Route('/berths', BerthPage())\n", []string{"berths"}, "Route('/berths', BerthPage())\nRoute('/tides', TidePage())\n"},
		"a list in one line":   {"apps = [\"core\", \"berths\", \"crews\"]\n", []string{"berths", "crews"}, "apps = [\"core\", \"berths\", \"crews\", \"tides\"]\n"},
		"rows of objects":      {"const routes = [\n  { path: 'berths', page: Berths },\n]\n", []string{"berths"}, "const routes = [\n  { path: 'berths', page: Berths },\n  { path: 'tides', page: Tides },\n]\n"},
		"names in braces":      {"import { berths, crews } from './areas'\n", []string{"berths", "crews"}, "import { berths, crews, tides } from './areas'\n"},
		"names of a statement": {"from ferry import berths, crews\n", []string{"berths", "crews"}, "from ferry import berths, crews, tides\n"},
		"a tuple":              {"for area in (crews, berths):\n    pass\n", []string{"berths", "crews"}, "for area in (crews, berths, tides):\n    pass\n"},
		"a list and its use":   {"from ferry import berths, crews\nfor area in (crews, berths):\n", []string{"berths", "crews"}, "from ferry import berths, crews, tides\nfor area in (crews, berths, tides):\n"},
		"a block of settings":  {"models:\n  berths:\n    schema: berths\n  crews:\n    schema: crews\n", []string{"berths", "crews"}, "models:\n  berths:\n    schema: berths\n  crews:\n    schema: crews\n  tides:\n    schema: tides\n"},
		"a call over lines":    {"register(\n  berths,\n)\n", []string{"berths"}, "register(\n  berths,\n  tides,\n)\n"},
		"a function in a line": {"get(func() { berths(1) })\n", []string{"berths"}, "get(func() { berths(1) })\nget(func() { tides(1) })\n"},
		"a block":              {"if berths:\n    pass\n", []string{"berths"}, "if berths:\n    pass\nif tides:\n    pass\n"},
		"another name for it":  {"import app.berths as b\n", []string{"berths"}, "import app.berths as b\n"},
		"there already":        {"mount(berths)\nmount(tides)\n", []string{"berths"}, "mount(berths)\nmount(tides)\n"},
		"a comment":            {"mount(crews) # as berths are\n", []string{"berths"}, "mount(crews) # as berths are\n"},
		"not a whole word":     {"berthsome = 1\nmyberths = 2\n", []string{"berths"}, "berthsome = 1\nmyberths = 2\n"},
		"over several lines":   {"register(berths,\n  1)\n", []string{"berths"}, "register(berths,\n  1)\n"},
		"no line end":          {"mount(berths)", []string{"berths"}, "mount(berths)\nmount(tides)"},
	} {
		code := c.text
		if i := strings.IndexByte(code, '#'); i >= 0 {
			code = code[:i] + strings.Repeat(" ", len(code)-i)
		}
		all := Repeated(c.text, code, c.known, "tides")
		slices.SortStableFunc(all, func(a, b Addition) int { return b.At - a.At })
		got := c.text
		for _, a := range all {
			got = got[:a.At] + a.Text + got[a.At:]
		}
		if got != c.want {
			t.Errorf("%s:\n%q\n%q", name, got, c.want)
		}
	}
}

// FuzzRepeated holds that additions lie in the text, in lines that were there, and that a
// text which is code and comment alike does no harm.
func FuzzRepeated(f *testing.F) {
	f.Add("mount(berths)\nfor x in [berths, crews]:\n  y\n", "berths", "tides")
	f.Add("{\x00berths}\n\t(", "berth-plans", "a")
	f.Add("berths:\n  a: {berths}\n ]\n", "Berths", "ß")
	f.Fuzz(func(t *testing.T, text, known, added string) {
		for _, a := range Repeated(text, text, []string{known, "crews"}, added) {
			if a.At < 0 || a.At > len(text) {
				t.Fatalf("%+v beside %d bytes", a, len(text))
			}
		}
	})
}
