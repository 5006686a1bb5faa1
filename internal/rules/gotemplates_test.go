package rules

import (
	"strings"
	"testing"
)

// TestUnreadable shows what of a template of Go cannot be read, and where.
func TestUnreadable(t *testing.T) {
	for _, c := range []struct {
		what, text string
		line       int
		why        string
	}{
		{"with functions of a program's own", "{{ include \"a\" . | nindent 4 }}\n{{- if and .A (not .B) }}x{{ else }}y{{ end }}\n", 0, ""},
		{"with blocks in blocks", "{{ range .All }}{{ with .One }}{{ . }}{{ end }}{{ end }}\n{{/* a remark */}}{{ define \"x\" }}y{{ end }}\n", 0, ""},
		{"plain", "no action in here: {x}\n", 0, ""},
		{"empty", "", 0, ""},
		{"without an end", "a\n{{ if .A }}\nb\n", 4, "unexpected EOF"},
		{"with one end too many", "a\n{{ end }}\n", 2, "unexpected {{end}}"},
		{"with an action that is not closed", "a\nb: {{ .A }\n", 2, "unexpected \"}\" in operand"},
		{"with a text that is not closed", "{{ \"a }}\n", 1, "unterminated quoted string"},
		{"with a name that nothing gives", "{{ range .All }}{{ $x }}{{ end }}\n", 1, "undefined variable \"$x\""},
		{"with a block twice", "{{ define \"x\" }}a{{ end }}\n{{ define \"x\" }}b{{ end }}\n", 2, "multiple definition of template \"x\""},
	} {
		_, line, why := readTemplate("a.yaml", c.text)
		if (why == "") != (c.why == "") || !strings.Contains(why, c.why) {
			t.Errorf("%s: it says %q, not %q", c.what, why, c.why)
		}
		if line != c.line {
			t.Errorf("%s: line %d, not %d", c.what, line, c.line)
		}
	}
}

// FuzzUnreadable holds that a text which can be read says no line, and one that cannot says why in one line.
func FuzzUnreadable(f *testing.F) {
	for _, seed := range []string{"{{ if .A }}x{{ end }}", "{{", "}}", "{{ end }}", "{{ define \"x\" }}", "{{- /* */ -}}", "{{ $x := 1 }}{{ $x }}", "{{ break }}", "{{ template \"x\" . }}", "{{ \"\\x\" }}", "{{ 1e999 }}", "{{ ' ' }}"} {
		f.Add(seed)
	}
	f.Fuzz(func(t *testing.T, text string) {
		_, line, why := readTemplate("a.yaml", text)
		if why == "" && line != 0 {
			t.Fatalf("%q: line %d of nothing", text, line)
		}
		if line > strings.Count(text, "\n")+1 {
			t.Fatalf("%q: line %d is not there", text, line)
		}
	})
}

// What people slip on in templates of Go and in names of folders, each beside what is right.
func init() {
	const templates = "- {rule: go-templates, files: 'templates/**/*.yaml', unless-in: main.go, unless: 'Delims'}"
	cases = append(cases, []ruled{
		{"templates that cannot be read", templates, files{"templates/a.yaml": "{{ if .A }}\n", "templates/b.yaml": "{{ if .A }}{{ end }}\n", "c.yaml": "{{ if }}\n"}, []string{"disagrees templates/a.yaml:2"}},
		{"templates with other marks", templates, files{"templates/a.yaml": "{{ if .A }}\n", "main.go": "package main\n\nfunc main() { t.Delims(\"[[\", \"]]\") }\n"}, nil},
		{"files of other paths beside", `- {rule: names, files: a.yaml, by: 'at: (\S+)', to: '{}/b.yaml'}`, files{"a.yaml": "at: quays/north\nat: quays/south\n", "quays/north/b.yaml": ""}, []string{"dangling a.yaml:2"}},
	}...)
}
