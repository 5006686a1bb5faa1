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
	"templates that do not close": "${a#", "quotes": "'a#", "double quotes": "\"a#\" ", "three quotes": "\"\"\"a#", "backquotes": "`a#", "comments": "a# //b ", "comments that do not close": "a# /* b",
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
