package refs

import (
	"strconv"
	"strings"
	"testing"
	"time"
)

// longTexts are forms that programs write over and over, often in one line: # is another number each
// time. Each was, in some language, read in a time that grew with the square of its length, or is
// near one that was.
var longTexts = map[string]string{
	"arguments": "f(a#,b),", "words": "ab# ", "list": "ab#,", "calls that do not close": "f#(", "objects that do not close": "{a#:b#,", "brackets that nothing opened": ")a#",
	"members": "x1.y#,", "prose between tags": "<p>hello a# world", "tags": "<a# b='c#'>", "components": "<A# b={c#}/>", "lines": "a#\n", "assignments": "a#=b#;",
	"imports in one line": "import {a#} from './b#';", "imports and uses": "import a# from './b#';a#.c;", "imports without an end": "import a#\n", "imports under a condition": "if a#:\n  import b#\n  import c#\n",
	"from": "from a# import b#\n", "from without an end": "from a# import (b#,\n", "use": "use A\\B#;\n", "functions": "function a#(b#){", "definitions": "def a#(b#):\n  c#=d#\n", "arrows": "(a#)=>b#,",
	"required": "a# = require('./b#');\n", "classes": "class A# extends B# {}\n", "types": "Type# name#;", "spaces": "a#      ,      ", "variables": "$a#->b#;",
	"templates that do not close": "${a#", "templates in templates": "`${a#", "quotes": "'a#", "double quotes": "\"a#\" ", "three quotes": "\"\"\"a#", "backquotes": "`a#", "comments": "a# //b ", "comments that do not close": "a# /* b",
	"an import of each": "export {a#} from './b#'\n",
}

// longText gives a form over and over.
func longText(form string, size int) []byte {
	var b strings.Builder
	for i := 0; b.Len() < size; i++ {
		b.WriteString(strings.ReplaceAll(form, "#", strconv.Itoa(i)))
	}
	return []byte(b.String())
}

// TestLongTexts holds that no form of a text of 100,000 bytes keeps a reader long: where the time
// grew with the square of the length, it was between ten seconds and minutes.
func TestLongTexts(t *testing.T) {
	for what, form := range longTexts {
		text := longText(form, 100_000)
		for _, l := range Languages() {
			for _, ending := range l.Endings {
				begun := time.Now()
				Read("a"+ending, text)
				if took := time.Since(begun); took > 3*time.Second {
					t.Errorf("%s in %s: %v", what, ending, took.Round(time.Millisecond))
				}
			}
		}
	}
	begun := time.Now()
	for _, text := range []string{strings.Repeat("a", 1_000_000), "a" + strings.Repeat(" ", 1_000_000) + "b", strings.Repeat("\n", 1_000_000)} {
		Read("a.js", []byte(text))
	}
	if took := time.Since(begun); took > 10*time.Second {
		t.Errorf("one word, one space and empty lines: %v", took)
	}
}

// TestFewUses holds that of a text of very many names no more is kept than anybody looks at.
func TestFewUses(t *testing.T) {
	if n := len(Read("a.py", longText("import a#\na#.b#\nc#()\n", 400_000)).Uses.Unbound); n != mostUses {
		t.Errorf("%d names are kept", n)
	}
}

// BenchmarkLongLine reads files of one line, as bundlers write them.
func BenchmarkLongLine(b *testing.B) {
	for _, form := range []string{"a.import(b);c.export=d;", "ab#,", "x1.y#,", "import a# from './b#';a#.c;"} {
		b.Run(form, func(b *testing.B) {
			text := longText(form, 1_000_000)
			b.SetBytes(int64(len(text)))
			for b.Loop() {
				Read("a.js", text)
			}
		})
	}
}

// TestStatementsThatNeverEnd holds that a statement which never ends takes none of those behind it
// along, and that one over several lines is read whole, whatever words stand in it.
func TestStatementsThatNeverEnd(t *testing.T) {
	for _, c := range []struct{ at, text, want string }{
		{"a.js", "import a\nimport b from './b'\n", "./b"},
		{"a.js", "import {\n  importer,\n  exporter,\n} from './a'\nimport b from './b'\n", "./a ./a ./b"},
		{"a.js", "import a, { b,\n  c } from './a'; import d from './d'\n", "./a ./a ./a ./d"},
		{"a.ts", "import type { A } from './a'\nimport type\nimport { B } from './b'\n", "./a ./b"},
		{"a.js", "export {\n  a,\n  b,\n} from './a'\nexport * from './b'\n", "./a ./a ./b"},
		{"a.py", "from a import b; from c import d\n", "a c"},
		{"a.py", "from a import (b,\n  c)\nimport d; import e\n", "a a d e"},
		{"a.py", "from a import (b,\nfrom c import d\n", "a c"}, // nobody can run that
		{"a.py", "x = 1; import a\n", "a"},
		{"a.py", "class A: pass; import a\n", "a"},
		{"A.java", "import a.B;\nimport c.D;\nimport static e.F.g;\nclass A {}\n", "a.B c.D e.F.g"},
	} {
		var got []string
		for _, r := range Read(c.at, []byte(c.text)).Refs {
			if r.Kind == Import {
				got = append(got, r.Name)
			}
		}
		if strings.Join(got, " ") != c.want {
			t.Errorf("%q: %q, not %q", c.text, got, c.want)
		}
	}
}

// TestGuards tells what runs only under a condition, one after the other and back.
func TestGuards(t *testing.T) {
	for _, c := range []struct{ at, text, want string }{
		{"a.js", "try { require('./a') } catch {}\nrequire('./b')\ntry {\n  if (x) { require('./c') }\n} catch {}\n", "./a ./c"},
		{"a.js", "function f() { require('./a') }\nif (x) { require('./b') }\n", ""},
		{"a.js", "}}} try { require('./a') }\n", "./a"},
		{"a.php", "<?php\nif (is_file(__DIR__ . '/a.php')) { require __DIR__ . '/a.php'; }\nrequire __DIR__ . '/b.php';\n", "/a.php /a.php"},
		{"a.py", "try:\n  import a\nexcept ImportError:\n  import b\nimport c\n", "a b"},
		{"a.py", "if x:\n" + strings.Repeat("  y = 1\n", 5000) + "  import a\nimport b\n", "a"},
	} {
		var got []string
		for _, r := range Read(c.at, []byte(c.text)).Refs {
			if r.Guarded {
				got = append(got, r.Name)
			}
		}
		if strings.Join(got, " ") != c.want {
			t.Errorf("%.60q: %q, not %q", c.text, got, c.want)
		}
	}
}
