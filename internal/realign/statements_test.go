package realign

import (
	"strings"
	"testing"
)

// FuzzStatements: a file divided into statements is divided into parts of it, in their order, whatever it holds.
func FuzzStatements(f *testing.F) {
	for _, text := range []string{"", "a = 1\n", "@x(\n)\ndef f():\n    pass\n\n\n# c\nclass C:\n    \"\"\"\nx\n\"\"\"\n", "import { a } from 'b';\n\nexport const c = `\nx`;\n", "if a:\n  b\nelse:\n  c\n", "@", "@(", "def f(\n", "\"\"\"\nx", "a", "\xff=1\r\nb = 2\r\n"} {
		f.Add(text)
	}
	f.Fuzz(func(t *testing.T, text string) {
		for _, at := range []string{"a.py", "a.ts"} {
			end := 0
			for _, s := range statementsOf(at, []byte(text)) {
				if s.start < end || s.body < s.start || s.end < s.body || s.end > len(text) || s.last < s.line || s.line < 1 {
					t.Fatalf("%s: %+v behind %d of %q", at, s, end, text)
				}
				if at == "a.py" && strings.Count(text[:s.body], "\n")+1 != s.line {
					t.Fatalf("%d is no line of %q", s.line, text[s.body:s.end])
				}
				end = s.end
			}
		}
	})
}
