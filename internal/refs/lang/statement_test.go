package lang_test

import (
	"fmt"
	"strings"
	"testing"

	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
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
	compared := 0
	for _, l := range refs.Languages() {
		if l.Patterns == nil {
			continue
		}
		for i := range l.Patterns.Statements {
			s := &l.Patterns.Statements[i]
			everywhere := lang.Everywhere(s)
			if everywhere == nil {
				continue
			}
			compared++
			for _, text := range texts {
				want, got := everywhere.FindAllStringSubmatchIndex(text, -1), lang.Matches(s, []byte(text))
				if fmt.Sprint(got) != fmt.Sprint(want) {
					t.Errorf("%v, statement %d, of %q: %v, not %v", l.Endings, i, text, got, want)
				}
			}
		}
	}
	if compared < 25 {
		t.Errorf("only %d statements were compared", compared)
	}
}
