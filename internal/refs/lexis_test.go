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

// TestKeptNames holds that a module gives what it exports, and not what else it declares.
func TestKeptNames(t *testing.T) {
	for text, given := range map[string]bool{
		"export const a = 1\nclass Quay {}\n":                                         false,
		"import a from 'b'\nclass Quay {}\n":                                          false,
		"export const a = 1\nclass Quay {}\nexport { Quay }":                          true,
		"export const a = 1\nclass Quay {}\nexport {\n  a as b,\n  Quay as Pier\n}\n": true,
		"export const a = 1\ntype Quay = string\nexport type { Quay }\n":              true,
		"export class Quay {}\n":                                                      true,
		"export default class Quay {}\n":                                              true,
		"const Quay = 1\nexports.Quay = Quay\n":                                       true,
		"export const a = 1\nexport * from './all'\nclass Quay {}\n":                  true,
		"import a from 'b'\nclass Quay {}\nmodule.exports = { ...a }\n":               true,
		"export const { Quay } = a\n":                                                 true,
		"export const a = 1,\n  Quay = 2\n":                                           true,
		"export abstract class Quay {}\nfunction pier() { return new Quay() }\n":      true,
	} {
		if f := Read("a.ts", []byte(text)); (f.Open || f.Words.Has("Quay")) != given {
			t.Errorf("%q gives Quay: want %v", text, given)
		}
	}
}
