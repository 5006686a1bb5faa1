//go:build unix

package hostile

import (
	"fmt"
	"maps"
	"os"
	"path/filepath"
	"strings"
	"testing"
)

// head begins a layout.
const head = "dicaxon: 1\nlayout: team/berths\ntitle: Berths\n"

// one is a layout whose tree has one file with a starter.
func one(starter string) map[string]string {
	return map[string]string{"layout.yaml": head + "tree:\n  a.txt: {role: R., starter: a}\n", "starters/a.tmpl": starter}
}

func entry(key, value string) map[string]string {
	return map[string]string{"layout.yaml": head + "tree:\n  " + key + ": " + value + "\n", "starters/a.tmpl": "#!/bin/sh\necho ran > /tmp/ran\n"}
}

// TestLayouts starts projects from layouts of strangers, and checks with them.
func TestLayouts(t *testing.T) {
	long := strings.Repeat("x", 300)
	doubling := strings.Repeat("{{$x = printf \"%s%s\" $x $x}}", 60)
	nested := strings.Repeat("{{range $.areas}}", 20) + "x" + strings.Repeat("{{end}}", 20)
	var areas []string
	for i := range 20 {
		areas = append(areas, fmt.Sprintf("b%d", i))
	}
	manyAreas := "area=" + strings.Join(areas, ",")
	asks := "asks:\n  area: {question: Q, default: a, several: true, shape: lower}\n"
	var eight, name string
	for i := range 8 {
		eight += fmt.Sprintf("  q%d: {question: Q, default: a, several: true, shape: any}\n", i)
		name += fmt.Sprintf("<q%d>", i)
	}
	var eightAnswers []string
	for i := range 8 {
		eightAnswers = append(eightAnswers, "--answer", fmt.Sprintf("q%d=%s", i, strings.TrimPrefix(manyAreas, "area=")))
	}
	cases := []struct {
		name   string
		layout map[string]string
		args   []string // beyond "scaffold LAYOUT DIR --yes"
		want   string   // in what is said; "" where the project is made
	}{
		// Git's own folder, as git, HFS+ and NTFS take names for it.
		{"git's folder", entry("'.git/hooks/pre-commit'", "{role: R., starter: a}"), nil, "git"},
		{"in capitals", entry("'.GIT/config'", "{role: R., starter: a}"), nil, "git"},
		{"by its short name", entry("'git~1/config'", "{role: R., starter: a}"), nil, "git"},
		{"as a stream", entry("'.git::$INDEX_ALLOCATION/config'", "{role: R., starter: a}"), nil, "git"},
		{"with nothing in it", entry("\".g\\u200cit/config\"", "{role: R., starter: a}"), nil, "git"},
		{"with a dot behind", entry("'.git./config'", "{role: R., starter: a}"), nil, "git"},
		{"with a space behind", entry("'.git /config'", "{role: R., starter: a}"), nil, "git"},
		{"a file of its name", entry("'.git'", "{role: R., starter: a}"), nil, "git"},
		{"among spellings", entry("'x/ | .Git/'", "{role: R., tree: {config: {role: R., starter: a}}}"), nil, "git"},
		{"by an answer", map[string]string{"layout.yaml": head + "shapes: {any: '.*'}\nasks: {a: {question: Q, default: x, shape: any}}\ntree:\n  .<a>/: {role: R., tree: {config: {role: R., starter: a}}}\n", "starters/a.tmpl": "x"}, []string{"--answer", "a=git"}, "git"},
		{"by two answers", map[string]string{"layout.yaml": head + "shapes: {any: '.*'}\nasks: {a: {question: Q, default: x, shape: any}, b: {question: Q, default: y, shape: any}}\ntree:\n  .<a><b>/: {role: R., tree: {config: {role: R., starter: a}}}\n", "starters/a.tmpl": "x"}, []string{"--answer", "a=g", "--answer", "b=it"}, "git"},
		// Out of the project.
		{"upwards", entry("'../a.txt'", "{role: R., starter: a}"), nil, ".."},
		{"from the root", entry("'/etc/a.txt'", "{role: R., starter: a}"), nil, "layout.yaml"},
		{"upwards by an answer", map[string]string{"layout.yaml": head + "shapes: {any: '.*'}\nasks: {a: {question: Q, default: x, shape: any}}\ntree:\n  <a>/: {role: R., tree: {a.txt: {role: R., starter: a}}}\n", "starters/a.tmpl": "x"}, []string{"--answer", "a=.."}, ".."},
		{"a slash in an answer", map[string]string{"layout.yaml": head + "shapes: {any: '.*'}\nasks: {a: {question: Q, default: x, shape: any}}\ntree:\n  <a>.txt: {role: R., starter: a}\n", "starters/a.tmpl": "x"}, []string{"--answer", "a=../../x"}, "/"},
		{"a backslash", entry(`'a\b.txt'`, "{role: R., starter: a}"), nil, `\`},
		{"a starter elsewhere", entry("a.txt", "{role: R., starter: ../../secret}"), nil, "starter"},
		{"a starter that is a link", map[string]string{"layout.yaml": head + "tree:\n  a.txt: {role: R., starter: a}\n", "starters/a.tmpl": "-> " + "../../secret"}, nil, "a.tmpl"},
		{"a starter that is a pipe", map[string]string{"layout.yaml": head + "tree:\n  a.txt: {role: R., starter: a}\n", "starters/a.tmpl": "|"}, nil, "a.tmpl"},
		{"a starter without an end", map[string]string{"layout.yaml": head + "tree:\n  a.txt: {role: R., starter: a}\n", "starters/a.tmpl": "-> /dev/zero"}, nil, "a.tmpl"},
		{"a layout that is a link", map[string]string{"layout.yaml": "-> ../secret"}, nil, "layout.yaml"},
		{"a layout without an end", map[string]string{"layout.yaml": "-> /dev/zero"}, nil, "layout.yaml"},
		{"a layout that is a pipe", map[string]string{"layout.yaml": "|"}, nil, "layout.yaml"},
		{"a layout that is the environment", map[string]string{"layout.yaml": "-> /proc/self/environ"}, nil, "layout.yaml"},
		{"a base that is a link", map[string]string{"layout.yaml": head + "builds-on: [./base]\n", "base/layout.yaml": "-> ../../secret"}, nil, "layout.yaml"},
		// Names that a system cannot hold.
		{"a device", entry("'CON'", "{role: R., starter: a}"), nil, "CON"},
		{"a device with an ending", entry("'nul.txt'", "{role: R., starter: a}"), nil, "nul.txt"},
		{"a device by an answer", map[string]string{"layout.yaml": head + "shapes: {any: '.*'}\nasks: {a: {question: Q, default: x, shape: any}}\ntree:\n  <a>.txt: {role: R., starter: a}\n", "starters/a.tmpl": "x"}, []string{"--answer", "a=aux"}, "aux"},
		{"a colon", entry("'a:b'", "{role: R., starter: a}"), nil, "a:b"},
		{"a dot at the end", entry("'a.'", "{role: R., starter: a}"), nil, `"a."`},
		{"a control character", entry(`"a\u0007b"`, "{role: R., starter: a}"), nil, "nobody sees"},
		{"a name that is too long", entry("'"+long+"'", "{role: R., starter: a}"), nil, "too long"},
		{"two names that differ in case", map[string]string{"layout.yaml": head + "tree:\n  Berth.txt: {role: R., starter: a}\n  berth.txt: {role: S., starter: a}\n", "starters/a.tmpl": "x"}, nil, "case"},
		// Texts that make too much of themselves.
		{"a loop without an end", one("{{range 100000000000}}{{end}}"), nil, "loops"},
		{"a loop that writes", one("{{range 100000000}}" + long + "{{end}}"), nil, "bytes"},
		{"doubling", one(`{{$x := "xxxxxxxx"}}` + doubling + `{{$x}}`), nil, "longer than"},
		{"a template that calls itself", one(`{{define "a"}}{{template "a"}}{{template "a"}}{{end}}{{template "a"}}`), nil, "depth"},
		{"escaping again and again", one(`{{$x := "\\\\"}}` + strings.Repeat("{{$x = js $x}}", 40) + "{{$x}}"), nil, "longer than"},
		{"a wide number", one(`{{printf "%0999999999d" 1}}`), nil, ""},
		{"a starter of many bytes", one(strings.Repeat("x", 2<<20)), nil, "too"},
		{"loops in loops", map[string]string{"layout.yaml": head + asks + "tree:\n  a.txt: {role: R., starter: a}\n", "starters/a.tmpl": nested}, []string{"--answer", manyAreas}, "loops"},
		{"first steps without an end", map[string]string{"layout.yaml": head + "first-steps: ['{{range 100000000000}}{{end}}']\ntree:\n  a.txt: {role: R., starter: a}\n", "starters/a.tmpl": "x"}, nil, "loops"},
		{"eight questions in one name", map[string]string{"layout.yaml": head + "shapes: {any: '.*'}\nasks:\n" + eight + "tree:\n  " + name + ".txt: {role: R., starter: a}\n", "starters/a.tmpl": "x"}, eightAnswers, "more than"},
		{"a function that runs", one(`{{call .x}}`), nil, "a.tmpl"},
		{"a key that is no answer", one(`{{.Secret.Path}}`), nil, "a.tmpl"},
		// Layouts that build on each other.
		{"twice, 25 deep", deepBases(25), nil, "builds on more than"},
		{"on itself", map[string]string{"layout.yaml": head + "builds-on: [.]\n"}, nil, "builds on itself"},
		{"nested 5,000 deep", map[string]string{"layout.yaml": head + "tree: " + strings.Repeat("{a/: {role: R., tree: ", 5000) + "{}" + strings.Repeat("}}", 5000) + "\n"}, nil, "layout.yaml"},
		{"aliases", map[string]string{"layout.yaml": "a: &a [x, x]\nb: [*a, *a]\n" + head}, nil, "layout.yaml"},
		{"a layout of many bytes", map[string]string{"layout.yaml": head + "suits: " + strings.Repeat("x", 3<<20) + "\n"}, nil, "large"},
		{"bytes that are no text", map[string]string{"layout.yaml": "\xff\xfe\x00\x01"}, nil, "layout.yaml"},
		{"an expression that counts far", map[string]string{"layout.yaml": head + "tree:\n  a.txt: {role: R., shows: '[^q]{0,1000}q'}\n"}, nil, "counts too far"},
		{"a shape that counts far", map[string]string{"layout.yaml": head + "shapes: {far: '(a?){500}a{500}'}\ntree:\n  <x:far>/: {role: R.}\n"}, nil, "counts too far"},
	}
	for _, c := range cases {
		t.Run(c.name, func(t *testing.T) {
			dir := t.TempDir()
			must(t, os.WriteFile(filepath.Join(dir, "secret"), []byte("password: "+canary+"\n"), 0o644))
			write(t, filepath.Join(dir, "lay"), c.layout)
			o := run(t, dir, append([]string{"scaffold", "./lay", "new", "--yes"}, c.args...)...)
			_, made := os.Lstat(filepath.Join(dir, "new"))
			switch {
			case c.want == "" && (o.status != 0 || made != nil):
				t.Errorf("status %d, %v: %s", o.status, made, tail(o.err))
			case c.want != "" && (o.status != 2 || made == nil || !strings.Contains(o.err, c.want)):
				t.Errorf("status %d, made %v; want %q in: %s", o.status, made == nil, c.want, tail(o.all()))
			}
			if left, _ := filepath.Glob(filepath.Join(dir, ".dicaxon*")); left != nil {
				t.Errorf("left behind: %v", left)
			}
			if _, err := os.Lstat(filepath.Join(dir, ".git")); err == nil {
				t.Error("a .git came into being")
			}
			// What may not start a project may not judge one, nor hang over it.
			write(t, filepath.Join(dir, "repo"), map[string]string{"a.txt": strings.Repeat("a", 100_000), "b/aaaa.txt": ""})
			for _, command := range [][]string{{"check", "repo", "--layout", "./lay"}, {"layouts", "./lay", "--check"}, {"explain", "repo/a.txt", "--root", "repo", "--layout", "./lay"}} {
				if o := run(t, dir, command...); o.status == 0 && c.want != "" && command[0] == "layouts" {
					t.Errorf("%q finds it in order", command)
				}
			}
		})
	}
}

// deepBases are layouts that each build twice on the next.
func deepBases(n int) map[string]string {
	all := map[string]string{"layout.yaml": head + "builds-on: [./l1, ./l1]\n"}
	for i := 1; i <= n; i++ {
		text := fmt.Sprintf("dicaxon: 1\nlayout: team/l%d\ntitle: T\nbase: true\n", i)
		if i < n {
			text += fmt.Sprintf("builds-on: [../l%d, ../l%d]\n", i+1, i+1)
		} else {
			text += "tree:\n  a.txt: {role: R.}\n"
		}
		all[fmt.Sprintf("l%d/layout.yaml", i)] = text
	}
	return maps.Clone(all)
}

// TestPatterns matches names that make a careless matcher go back and forth.
func TestPatterns(t *testing.T) {
	for _, pattern := range []string{"'" + strings.Repeat("*a", 30) + "b'", "'" + strings.Repeat("<x:snake>", 1) + strings.Repeat("*_*", 20) + "z'", "'**/" + strings.Repeat("*/", 10) + "x'"} {
		t.Run(pattern, func(t *testing.T) {
			dir := t.TempDir()
			write(t, filepath.Join(dir, "lay"), map[string]string{"layout.yaml": head + "tree:\n  " + pattern + ": {role: R.}\n"})
			write(t, filepath.Join(dir, "repo"), map[string]string{strings.Repeat("a", 250): "", strings.Repeat("a_", 120): "", strings.Repeat("a/", 100) + "y": "",
				"dicaxon.yaml": "dicaxon: 1\nwaivers:\n  - {kind: extra, path: '" + strings.Repeat("*a", 30) + "b', reason: R.}\n"})
			if o := run(t, dir, "check", "repo", "--layout", "./lay"); o.status == 3 {
				t.Errorf("status %d: %s", o.status, tail(o.err))
			}
		})
	}
}
