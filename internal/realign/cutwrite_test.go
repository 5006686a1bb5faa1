package realign

import (
	"fmt"
	"strings"
	"testing"
)

// TestImportsAnew: an import is read and written anew with what is used of it; one that is not plain is not.
func TestImportsAnew(t *testing.T) {
	only := func(names ...string) func(string) bool {
		return func(name string) bool { return strings.Contains(" "+strings.Join(names, " ")+" ", " "+name+" ") }
	}
	for _, c := range []struct {
		l          *cutLanguage
		text, uses string
		want       string // "-" for one that cannot be read
	}{
		{pythonCut, "from a.b import (\n    c,  # of it\n    d as e,\n)", "e", "from a.b import d as e"},
		{pythonCut, "from .. import c, d", "c d", "from .. import c, d"},
		{pythonCut, "import os.path", "os", "import os.path"},
		{pythonCut, "import numpy as np  # noqa", "np", "import numpy as np"},
		{pythonCut, "import os", "sys", ""},
		{pythonCut, "import os, sys", "os", "-"},
		{pythonCut, "from a import b; c = 1", "b", "-"},
		{pythonCut, "from a import *", "b", "-"},
		{scriptCut, "import A, { b, c as d } from \"x\";", "A d", "import A, { c as d } from \"x\";"},
		{scriptCut, "import A from './x'", "b", ""},
		{scriptCut, "import * as n from './x';", "n", "import * as n from './x';"},
		{scriptCut, "import type { T, U } from './x';", "U", "import type { U } from './x';"},
		{scriptCut, "import { type T, u } from './x';", "T", "import { type T } from './x';"},
		{scriptCut, "import {\n  a,\n  b,\n} from './x';", "a b", "import { a, b } from './x';"},
		{scriptCut, "import './x.css';", "a", ""},
		{scriptCut, "import a = require('x');", "a", "-"},
	} {
		i, ok := importOf(c.l, c.text)
		if !ok {
			if c.want != "-" {
				t.Errorf("%q cannot be read", c.text)
			}
			continue
		}
		got := ""
		if kept, any := i.only(only(strings.Fields(c.uses)...)); any {
			got = kept.write(c.l)
		}
		if got != c.want {
			t.Errorf("%q for %s becomes %q, not %q", c.text, c.uses, got, c.want)
		}
	}
}

// TestStatements: what stands in no other, with the remarks and decorators before it, and what it declares.
func TestStatements(t *testing.T) {
	for _, c := range []struct{ at, text, want string }{
		{"a.py", "\"\"\"Doc.\n\nx = 1\n\"\"\"\nimport os\n\n# Of the file.\n\n# Of a.\na = (\n1,\n)\n\n\n@one\n@two(\n    3,\n)\nasync def f():\n    return a\n\n\nif a:\n    b = 1\nelse:\n    c = 2\n", "1-4 |5-5 imports|10-12 a #|15-20 f|23-26 "},
		{"a.py", "T: int = 3\nx == 2\ndef g(): pass\n", "1-1 T|2-2 |3-3 g"},
		{"a.ts", "// File.\n\nimport { a } from 'b';\n\n/**\n * Says.\n */\nexport const one = [\n  1,\n];\nexport default class Two {\n}\n\ntype Three = {\n  a: string;\n};\none\n  .map(a);\n", "3-3 imports|8-10 one #|11-12 Two|14-16 Three|17-18 "},
		{"a.py", "a = b = 1\nc: int = d = 2\ne, f = 1, 2\ng = (1, 2)\nh = 1; i = 2\ndef j(k=1, m=2): pass\nn = x == y\n", "1-1 |2-2 c|3-3 |4-4 g|5-5 |6-6 j|7-7 n"},
		{"a.ts", "const a = 1, b = 2;\nconst { c, d } = e;\nlet f = g(1, 2);\nconst h = (a, b) => a;\nvar i = 1; var j = 2;\nexport const k = { l: 1, m: 2 };\nfunction n(a = 1, b = 2) {}\n", "1-1 |2-2 |3-3 f|4-4 h|5-5 |6-6 k|7-7 n"},
		{"a.ts", "const a = (", ""}, {"a.rb", "a = 1\n", ""},
	} {
		var got []string
		for _, s := range statementsOf(c.at, []byte(c.text)) {
			line := strings.Join(s.names, ",")
			if s.imports {
				line = "imports"
			}
			if s.start < s.body && !strings.HasPrefix(c.text[s.start:], "@") {
				line += " #"
			}
			got = append(got, fmt.Sprintf("%d-%d %s", s.line, s.last, line))
		}
		if all := strings.Join(got, "|"); all != c.want {
			t.Errorf("%s: %s\nnot %s", c.at, all, c.want)
		}
	}
}

// TestCapitals: a name of Go as other packages see it.
func TestCapitals(t *testing.T) {
	for name, want := range map[string]string{"berth": "Berth", "id": "ID", "urlOf": "URLOf", "idle": "Idle", "httpClient": "HTTPClient", "x": "X", "api_key": "API_key"} {
		if got := capital(name); got != want {
			t.Errorf("%s is %s, not %s", name, got, want)
		}
	}
}
