package refs

import (
	"fmt"
	"strings"
	"testing"

	"dicaxon/internal/lazy"
)

// TestWords compares the search from word to word with the pattern tried at
// every place, over texts in which the words stand where they mean nothing, too.
func TestWords(t *testing.T) {
	texts := []string{
		"import a from '\x00'; import b from '\x00'\n  import '\x00'\nfoo.import('\x00'); x = require('\x00')\nmyrequire('\x00') $require('\x00')",
		"package a.b;\nimport c.d; import static e.f.*;\n// import no\npublic final class Pier {}\n  interface Berth\nx class No {}\nenum\tTide",
		"x = 1; use Harbour\\Pier as P, Q; use function a;\nrequire '\x00'; brequire('\x00') include_once(__DIR__ . '\x00')",
		"require '\x00'\nself.load '\x00'; load('\x00')\n autoload :Pier, '\x00'\nmodule Harbour; class No; end",
		"library harbour;import '\x00';part of '\x00';\nextension type Pier {}\nabstract class Tide {}",
		"using A; using B = C.D;\nnamespace Harbour.Tides;\ninternal sealed record struct Pier(int A)\nfoo using X;",
		"@import '\x00'; a { b: url( '\x00') } c { d: url(pier.png) myurl(no.png) } @import url('\x00');",
		"@testable import Harbour\nimport struct Harbour.Pier; import No\nfinal class Berth",
		"import '\x00" + strings.Repeat("x ", 20) + "import '\x00' ;import\n'\x00'",
	}
	for name, l := range map[string]*language{"script": &script, "kotlin": &kotlin, "java": &java, "php": &php, "ruby": &ruby, "dart": &dart, "csharp": &csharp, "swift": &swift, "css": &css} {
		for i := range l.statements {
			s := l.statements[i]
			if len(s.words) == 0 {
				continue
			}
			everywhere := lazy.New("(?m)" + strings.TrimSuffix(strings.TrimPrefix(s.pattern.Get().String(), `(?m)\A(?:`), ")"))
			for _, text := range texts {
				want, got := everywhere.Get().FindAllStringSubmatchIndex(text, -1), s.matches([]byte(text))
				if fmt.Sprint(got) != fmt.Sprint(want) {
					t.Errorf("%s, statement %d, of %q: %v, not %v", name, i, text, got, want)
				}
			}
		}
	}
}

// BenchmarkLongLine reads a file of one line, as bundlers write them.
func BenchmarkLongLine(b *testing.B) {
	text := []byte(strings.Repeat("a.import(b);c.export=d;", 50_000))
	for b.Loop() {
		readScript(text)
	}
}

// TestReadOnce holds that what a text says does not hang on where it lies, and
// does hang on its ending.
func TestReadOnce(t *testing.T) {
	text := []byte("import x from './a'\n")
	first := readOnce("one/pier.js", text)
	if again := readOnce("two/pier.js", text); again != first || len(first.Refs) != 1 {
		t.Errorf("%+v and %+v", first, again)
	}
	if other := readOnce("one/pier.txt", text); other == first || len(other.Refs) != 0 {
		t.Errorf("another ending: %+v", other)
	}
	if other := readOnce("one/pier.js", []byte("import x from './b'\n")); other == first {
		t.Error("another text says the same")
	}
}
