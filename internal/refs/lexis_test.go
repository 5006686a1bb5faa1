package refs

import (
	"strings"
	"testing"

	"dicaxon/internal/refs/lang/script"
)

// TestCodeInTexts holds that code within a template ends where it ends: neither a mark in a regular
// expression, nor one in a comment, nor another template begins a text that swallows what follows.
func TestCodeInTexts(t *testing.T) {
	for _, text := range []string{
		"a = `\"${b.replace(/\"/g, 'c')}\"`; AFTER()",
		"a = `${b /* it's */}`; AFTER()",
		"a = `${b.map((c) => `<i>${c}'s</i>`)}`; AFTER()",
		"a = `${b / c} and ${d / e}'s`; AFTER()",
		"a = `${ { b: '}' } }`; AFTER()",
	} {
		code, broken := script.Language.Writes().Scrub([]byte(text))
		if broken >= 0 || !strings.HasSuffix(string(code), "; AFTER()") {
			t.Errorf("%s: %q, broken at %d", text, code, broken)
		}
	}
}
