package output

import (
	"bytes"
	"encoding/json"
	"strings"
	"testing"
	"unicode"
	"unicode/utf8"
)

func printed(ascii bool, parts ...string) string {
	var b bytes.Buffer
	p := NewPrinter(&b)
	p.ASCII = ascii
	for _, part := range parts {
		_, _ = p.Write([]byte(strings.ReplaceAll(part, "SIGN", p.Sign)))
	}
	return b.String()
}

func TestPrinter(t *testing.T) {
	for _, c := range []struct {
		ascii bool
		parts []string
		want  string
	}{
		{false, []string{"tide tables …\n"}, "tide tables …\n"},
		{true, []string{"tide → table …\n"}, "tide -> table ...\n"},
		{true, []string{"b\u00e4rth"}, `b\u00e4rth`},
		{false, []string{"\x1b[31mred\x1b]0;t\x07\r\t"}, `\u001b[31mred\u001b]0;t\u0007\u000d\u0009`},
		{false, []string{"\x1bSIGN[1mberth\x1bSIGN[0m"}, "\x1b[1mberth\x1b[0m"},
		{false, []string{"\x1bSIGN[1;2Jberth"}, `\u001b`},
		{false, []string{"\u202egnp\u2066\u200b"}, `\u202egnp\u2066\u200b`},
		{false, []string{"\U000e0041"}, `\udb40\udc41`},
		{false, []string{"a\xff\xfe"}, `a\ufffd\ufffd`},
		{false, []string{"caf\xc3", "\xa9"}, "café"},
		{true, []string{"caf\xc3", "\xa9"}, `caf\u00e9`},
	} {
		if got := printed(c.ascii, c.parts...); got != c.want && !(strings.HasPrefix(c.parts[0], "\x1bSIGN[1;2J") && strings.HasPrefix(got, c.want)) {
			t.Errorf("%q: got %q, want %q", c.parts, got, c.want)
		}
	}
	// Inside a text of JSON it is the same text.
	var b bytes.Buffer
	if err := JSON(NewPrinter(&b), "a\u202eb\x7f\U000e0041é"); err != nil {
		t.Fatal(err)
	}
	var back string
	if err := json.Unmarshal(b.Bytes(), &back); err != nil || back != "a\u202eb\x7f\U000e0041é" {
		t.Errorf("%s gives %q, %v", b.Bytes(), back, err)
	}
}

// FuzzPrinter holds that whatever is written, in however many parts, is text.
func FuzzPrinter(f *testing.F) {
	f.Add("a\x1b[31m", "\u202e\xff", true)
	f.Add("caf\xc3", "\xa9\n", false)
	f.Fuzz(func(t *testing.T, a, b string, ascii bool) {
		got := printed(ascii, a, b)
		if !utf8.ValidString(got) || strings.ContainsFunc(got, func(r rune) bool { return r != '\n' && !unicode.IsPrint(r) || ascii && r > '~' }) {
			t.Errorf("%q and %q give %q", a, b, got)
		}
	})
}

func TestEscaped(t *testing.T) {
	for text, want := range map[string]string{
		"a*b_c":                       `a\*b\_c`,
		"ask @crew, see #12.":         "ask `@crew`, see `#12`.",
		"at https://berths.example !": "at `https://berths.example` !",
		"<b>\n# head":                 "&lt;b> # head",
		"closes GH-4":                 "closes `GH-4`",
		`\[a](b)`:                     `\\\[a\](b)`,
		"&lt;":                        "&amp;lt;",
	} {
		if got := escaped(text); got != want {
			t.Errorf("%q: got %q, want %q", text, got, want)
		}
	}
	for path, want := range map[string]string{"a.html": "`a.html`", "a`b": "`` a`b ``", "``` x": "```` ``` x ````", "a\nb": "`a\\x0ab`"} {
		if got := inCode(path); got != want {
			t.Errorf("%q: got %q, want %q", path, got, want)
		}
	}
}
