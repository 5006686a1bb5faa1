package refs

import (
	"fmt"
	"reflect"
	"slices"
	"strings"
	"testing"
)

// TestUses shows which names a text uses and does not bind, what it takes of modules, and which
// imports it has for nothing.
func TestUses(t *testing.T) {
	for _, c := range []struct {
		name, text             string
		unbound, members, idle string
	}{
		{"a.js", "import a from './a'\na.b(cde, { fgh }, (ijk) => ijk.l, function (mno) { return mno })\n", "cde", "b", ""},
		{"a.js", "const all = { one, two: three }\nimport './a'\nconst { four, five: six } = all\n", "one", "", ""},
		{"a.js", "const all = {\n  one,\n  two,\n}\nimport x from './x'\n", "one two", "", "./x"},
		{"a.ts", "import { a } from './a'\nconst range = new Range()\na(range as Selection, KeyboardEvent, Quay, __filename)\n", "Quay", "", ""},
		{"a.js", "free.standing(script)\n", "", "", ""},
		{"a.jsx", "import x from './x'\nexport default () => <Card one={two}>Edit card.js (here), please</Card>\n", "Card Card two", "", "./x"},
		{"a.tsx", "import { A } from './a'\nconst f = <T extends Item>(x: Array<Props>) => A.of<Card>(x)\n", "Props Card", "of", ""},
		{"a.ts", "const { default: Card } = await import('./card')\nexport const f = ({ as: Berth = 'b', of: Quay }) => Card\n", "", "", ""},
		{"a.ts", "export type Of<Item, Keys extends Card = Berth> = Item | Keys\ninterface One<Crew> { of: Crew; by: Quay }\n", "Quay", "", ""},
		{"a.vue", "<template><BerthRow /><tide-row/><Teleport/></template>\n<script setup>\nimport x from './x'\nx(CrewRow)\n</script>\n", "CrewRow BerthRow", "", ""},
		{"a.ts", "import { a as b, type C } from './a'\nclass X { get(d) { return b(d) } render(): Y { return this.z } }\n", "", "", ""},
		{"a.js", "import a from './a'\nexport { b } from './b'\nexport * from './c'\nimport d from 'd'\n", "", "", "./a"},
		{"a.js", "const tides = require('./a')\ntides.bar = 1\ntides.bar()\ntides.cue\n  .dee()\n", "", "cue", ""},
		{"a.js", "const tides = require('./a')\ntides.bar()\nfunction f(tides) { tides.eff() }\n", "", "", ""},
		{"a.js", "import a from './a'\nlabel: for (;;) { break label }\nswitch (a) { case other: }\n`${inner}`\n", "", "", ""},
		{"a.py", "from a import b\nb.c(Dee, eff=gee, *hhh)\nfor iii in b: pass\n", "Dee gee", "c", ""},
		{"a.py", "import a\n\nclass X(Base):\n    one: Two = 3\n    ...\n    four = one\n\n    @five\n    def six(self, seven=eight) -> Nine:\n        return [ten for ten in self.x if ten]\n", "Base five eight Nine", "", ""},
		{"a.py", "x = (a.\n     bcd(1)). efg()\nlambda hij: hij(hij)\nf'{klm}'\nprint(len(x))\n", "", "", ""},
		{"a.py", "import re\n\nwhile line := input():\n    print(line)\nif (one := two) and three := 3:\n    print(one, three, [four for x in line if (four := x)])\n", "two", "", ""},
		{"a.py", "globals()['x'] = 1\nabc(def_)\n", "", "", ""},
		{"a.ts", "import { DeskService } from './a'\nexport const all = [DeskSrevice, Board]\nexport const more = [one => one]\n", "DeskSrevice", "", "./a"},
		{"a.ts", "import { formed } from './a'\nconst { all: fromed } = formed\nexport const two = [fromed]\n", "", "", ""},
		{"a.ts", "const a = () => import('./a').then((m) => m.Desk)\nconst b = () => import('./b').then(m => ({ default: m.Board }))\nconst c = () => import('./c').then((m) => n.Quay)\nimport('d').then((m) => m.Of)\n", "", "Desk Board", ""},
		{"a.py", "from quays import Berth\n\n\ndef all(tides) -> list[Betrh]:\n    return tides[Berth]\n", "Betrh", "", ""},
		{"a.py", "def test(client):\n    assert clinet.get('/').ok\n", "clinet", "", ""},
		{"a.rs", "use crate::harbour::Berth;\nuse crate::tides::{Table, high, moon::Phase};\nuse super::quay::Quay as Q;\nmod tests {\n    use super::Other;\n}\nfn f(_: Berth) {}\n", "Table Berth", "Berth Table high Quay", ""},
		{"a.rs", "use crate::tides::{self, Table, high as up};\nfn f(x: Table) -> Card { tides::low(x) }\n", "Table Card", "Table high", ""},
		{"a.cs", "using Quays.Desks;\n\nnamespace Quays;\n\npublic record Card(Berth One);\n\npublic class Desk : Board { public Tides.High Two = new Tides.High(); void Low(Crew crew) { } }\n", "Berth Board Tides Low Crew", "", ""},
		{"a.swift", "import Foundation\n\nfinal class Desk: Board {\n    let one: [Berth] = []\n    func two(_ crew: Crew) -> Quay.Kind { .open }\n}\nextension Table { }\n", "Board Berth Crew Quay Table", "", ""},
		{"a.go", "package a\n\nimport \"m/store\"\n\nfunc f(x store.Type) { store.Open(); other.Call(); store := 1; store.Close(); x.Do() }\n", "other.Call", "Type Open", ""},
		{"a.go", "package a\n\nimport s \"m/store\"\n\nvar _ = s.Open\n\nfunc g(h func()) { h.No() }\n", "", "Open", ""},
	} {
		f := Read(c.name, []byte(c.text))
		var unbound, members, idle []string
		for _, u := range f.Uses.Unbound {
			unbound = append(unbound, u.Name)
			if at := string(u.Span.In([]byte(c.text))); !strings.HasPrefix(u.Name, at) {
				t.Errorf("%s: %s is at %q", c.name, u.Name, at)
			}
		}
		for _, m := range f.Uses.Members {
			members = append(members, m.Name)
		}
		for _, s := range f.Uses.Idle {
			idle = append(idle, string(s.In([]byte(c.text))))
		}
		got, want := []string{strings.Join(unbound, " "), strings.Join(members, " "), strings.Join(idle, " ")}, []string{c.unbound, c.members, c.idle}
		if !slices.Equal(got, want) {
			t.Errorf("%s:\n%s\n got %q\nwant %q", c.name, c.text, got, want)
		}
		again, err := unpack(pack(&f))
		if err != nil || fmt.Sprint(again.Uses) != fmt.Sprint(f.Uses) {
			t.Errorf("%s: remembered as %+v, not %+v: %v", c.name, again.Uses, f.Uses, err)
		}
		marked := Read(c.name, []byte("\ufeff"+c.text))
		marked.Uses.Each(func(s *Span) { s.Start, s.End = s.Start-3, s.End-3 })
		if !reflect.DeepEqual(marked.Uses.Unbound, f.Uses.Unbound) || !reflect.DeepEqual(marked.Uses.Members, f.Uses.Members) {
			t.Errorf("%s: behind a mark %+v, not %+v", c.name, marked.Uses, f.Uses)
		}
	}
}
