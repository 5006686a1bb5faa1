//go:build unix

package hostile

import (
	"encoding/json"
	"encoding/xml"
	"io"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"unicode"
	"unicode/utf8"
)

// nasty are names that want to be more than a name.
var nasty = []string{
	"a\nb.html", "a\rb.html", "\x1b[31mred.html", "\x1b]0;title\x07.html", "\x9b31m.html", "a\x00b"[:1] + "\x7f.html", "\u202egnp.html", "\u2066a\u2069.html", "\u200ba.html", "\xff\xfe.html",
	"a`b`c.html", "``` .html", "|x|.html", "# head.html", "\n# head.html", "<script>alert(1)</script>.html", "&lt;b&gt;.html", "@crew.html", "#12.html", "GH-12.html", "https:berths.example.html", "[a](b).html", "![a](b).html",
	"$(touch ran).html", "`touch ran`.html", "; touch ran.html", "-rf.html", "--help.html", "%s%n%d.html", "{{.x}}.html", "]]>.html", "<!--.html", "\"quoted\".html", "'.html", "a\\.html", "\u0085.html", "\u2028.html", "e\u0301.html", "\U000e0041.html", strings.Repeat("w", 250),
}

// TestNames holds that no name, whatever it holds, writes more than itself in any format.
func TestNames(t *testing.T) {
	if len(nasty) < 30 {
		t.Fatal("names are missing")
	}
	files := flask(nil)
	for _, name := range nasty {
		files["app/"+strings.ReplaceAll(name, "/", ":")] = ""
		files["app/"+strings.ReplaceAll(strings.TrimSuffix(name, ".html"), "/", ":")+"d/views.py"] = "import nowhere." + "x\n"
	}
	dir := write(t, t.TempDir(), files)
	for _, format := range []string{"text", "json", "lines", "markdown", "html", "sarif", "junit"} {
		t.Run(format, func(t *testing.T) {
			o := run(t, dir, "check", ".", "--layout", "flask/areas", "--format", format, "--most", "0", "--verbose")
			guarded(t, o.out)
			guarded(t, o.err)
			switch format {
			case "json", "sarif":
				if !json.Valid([]byte(o.out)) {
					t.Error("no JSON")
				}
			case "junit":
				for d := xml.NewDecoder(strings.NewReader(o.out)); ; {
					if _, err := d.Token(); err == io.EOF {
						break
					} else if err != nil {
						t.Fatal(err)
					}
				}
			case "html":
				if strings.Contains(o.out, "<script>alert") {
					t.Error("a script runs")
				}
			case "markdown":
				for line := range strings.Lines(o.out) {
					if strings.HasPrefix(line, "# ") || strings.HasPrefix(line, "## ") {
						t.Errorf("a heading: %q", line)
					}
					if bare := withoutCode(line); strings.Contains(bare, "@crew") || strings.Contains(bare, "#12") || strings.Contains(bare, "<script") || strings.Contains(bare, "GH-12") || strings.Contains(strings.ReplaceAll(bare, `\]`, ""), "](b)") {
						t.Errorf("it is more than text: %q", line)
					}
				}
			}
		})
	}
	for _, args := range [][]string{{"check", ".", "--color", "always", "--layout", "flask/areas", "--most", "0"}, {"explain", ".", "--layout", "flask/areas"}, {"explain", ".", "--color", "always", "--layout", "flask/areas"}, {"identify", ".", "--format", "json"}, {"compare", ".", "flask/areas"}, {"compare", ".", "flask/areas", "--format", "markdown"}, {"compare", ".", "flask/areas", "--format", "json"}} {
		t.Run(strings.Join(args, " "), func(t *testing.T) {
			o := run(t, dir, args...)
			guarded(t, withoutColours(o.out))
			guarded(t, o.err)
		})
	}
	for _, name := range nasty {
		at := "app/" + strings.ReplaceAll(name, "/", ":")
		t.Run("explain "+strings.ToValidUTF8(at, "?"), func(t *testing.T) {
			for _, args := range [][]string{{"explain", "--", at}, {"check", "--", at + "-nowhere"}, {"explain", "--format", "json", "--", at}, {"check", "--layout", at}, {"check", "--only", at}, {"check", "--since", at}, {at}, {"scaffold", at, "new"}, {"check", "--schemas", at}} {
				o := run(t, dir, args...)
				guarded(t, o.out)
				guarded(t, o.err)
			}
		})
	}
	if _, err := os.Stat(filepath.Join(dir, "ran")); err == nil {
		t.Error("a name ran")
	}
}

// guarded holds that a text is text: no control character but the end of a line, nothing
// that turns the direction of writing, nothing that is no UTF-8.
func guarded(t *testing.T, text string) {
	t.Helper()
	if !utf8.ValidString(text) {
		t.Errorf("bytes that are no text: %q", tail(text))
	}
	for _, r := range text {
		if r != '\n' && !unicode.IsPrint(r) {
			t.Errorf("%U gets out", r)
			return
		}
	}
}

// withoutColours takes the sequences out that set off text (ECMA-48, SGR).
func withoutColours(text string) string {
	for {
		before, rest, ok := strings.Cut(text, "\x1b[")
		if !ok {
			return text
		}
		end := strings.IndexFunc(rest, func(r rune) bool { return r != ';' && (r < '0' || r > '9') })
		if end < 0 || rest[end] != 'm' || strings.Contains(rest[:end], "31") && strings.HasPrefix(rest[end+1:], "red") {
			return text // left for guarded to find
		}
		text = before + rest[end+1:]
	}
}

// withoutCode takes the code spans of Markdown out of a line.
func withoutCode(line string) string {
	var b strings.Builder
	for line != "" {
		start := strings.IndexByte(line, '`')
		if start < 0 || start > 0 && line[start-1] == '\\' {
			if start < 0 {
				b.WriteString(line)
				break
			}
			b.WriteString(line[:start+1])
			line = line[start+1:]
			continue
		}
		b.WriteString(line[:start])
		fence := line[start : start+len(line[start:])-len(strings.TrimLeft(line[start:], "`"))]
		rest := line[start+len(fence):]
		end := strings.Index(rest, fence)
		if end < 0 {
			b.WriteString(rest)
			break
		}
		line = rest[end+len(fence):]
	}
	return b.String()
}

// TestWords holds the same of a layout's words and of answers.
func TestWords(t *testing.T) {
	evil := "\\u001b]0;x\\u0007\\u202e\\nbad\\n# head @crew #12 <script>alert(1)</script>"
	lay := "dicaxon: 1\nlayout: team/berths\ntitle: \"" + evil + "\"\nsuits: \"" + evil + "\"\ndescribes: \"" + evil + "\"\nasks: {project: {question: \"" + evil + "\", default: x, shape: lower}}\nfirst-steps: [\"" + evil + "\"]\ntree:\n  a.txt: {need: must, role: \"" + evil + "\", starter: a, made-by: \"" + evil + "\"}\n  b/: {need: must-not, role: \"" + evil + "\", tree: {c.txt: {role: R.}}}\nrules:\n  - {rule: text, files: a.txt, must: ['\\S{400}'], says: \"" + evil + "\"}\n"
	dir := write(t, t.TempDir(), map[string]string{"lay/layout.yaml": lay, "lay/starters/a.tmpl": "\x1b[31m{{.project}}", "repo/b/c.txt": "", "repo/a.txt": "x", "repo/other": ""})
	for _, args := range [][]string{{"layouts", "./lay"}, {"layouts", "./lay", "--format", "json"}, {"layouts", "./lay", "--format", "markdown"}, {"layouts", "./lay", "--check"}, {"scaffold", "./lay", "new", "--yes"}, {"scaffold", "./lay", "new2", "--yes", "--dry-run"}, {"scaffold", "./lay", "new3", "--yes", "--format", "json"},
		{"compare", "./lay", "flask/areas"}, {"compare", "./lay", "flask/areas", "--format", "markdown"}, {"check", "repo", "--layout", "./lay"}, {"check", "repo", "--layout", "./lay", "--format", "markdown"}, {"check", "repo", "--layout", "./lay", "--format", "html"}, {"check", "repo", "--layout", "./lay", "--format", "lines"}, {"check", "repo", "--layout", "./lay", "--format", "sarif"}, {"explain", "repo/a.txt", "--root", "repo", "--layout", "./lay"}, {"explain", "repo", "--layout", "./lay"}, {"scaffold", "./lay", "x", "--answer", "project=\x1b[2J"}, {"scaffold", "./lay", "x", "--answer", "\x1b[2J=a"}} {
		t.Run(strings.ToValidUTF8(strings.Join(args, " "), "?"), func(t *testing.T) {
			o := run(t, dir, args...)
			guarded(t, o.out)
			guarded(t, o.err)
			for line := range strings.Lines(o.out) {
				if args[len(args)-1] != "html" && strings.HasPrefix(line, "bad") || args[len(args)-1] != "html" && strings.HasPrefix(line, "# head") {
					t.Errorf("a line of its own: %q", line)
				}
			}
			if strings.Contains(o.out, "<script>alert") && args[len(args)-1] == "html" {
				t.Error("a script runs")
			}
		})
	}
}

// TestPasswords holds that no message shows the password of an address.
func TestPasswords(t *testing.T) {
	dir := write(t, t.TempDir(), flask(nil))
	for _, address := range []string{
		"postgres://crew:" + canary + "@127.0.0.1:1/x", "Postgres://crew:" + canary + "@127.0.0.1:1/x", "postgresql+driver://crew:" + canary + "@127.0.0.1:1/x", "postgres://127.0.0.1:1/x?user=crew&password=" + canary,
		"mysql://crew:" + canary + "@h/x", "host=127.0.0.1 port=1 user=crew password=" + canary, "host=127.0.0.1 port=1 password='" + canary + "'", "POSTGRESQL://crew:" + canary + "@[x", "postgres://crew:" + canary + "@127.0.0.1:notaport/x", "sqlserver://crew:" + canary + "@h?database=x", "postgres://h/x?sslpassword=" + canary,
	} {
		t.Run(strings.ReplaceAll(address, canary, "…"), func(t *testing.T) {
			for _, args := range [][]string{{"check", ".", "--schemas", address}, {"check", address}, {"check", "--schemas=" + address, "--layout", address}, {"explain", address}, {"check", ".", "--since", address}} {
				if o := run(t, dir, args...); o.status == 0 {
					t.Errorf("%q passes", args)
				}
			}
		})
	}
	o := runWith(t, dir, []string{"DATABASE_URL=postgres://crew:" + canary + "@127.0.0.1:1/x"}, "check", ".", "--schemas", "environment")
	if o.status == 0 || !strings.Contains(o.err, "cannot be asked") {
		t.Errorf("status %d: %s", o.status, o.err)
	}
	for name, text := range map[string]string{
		"app/settings.json": `{"password": "` + canary + `7"}`, "deep/er/and/deeper/x.yml": "db:\n  url: postgres://crew:" + canary + "@db/ferry\n", "app/key.py": "KEY = \"\"\"-----BEGIN RSA " + "PRIVATE KEY-----\nMIIEpAIBAAKCAQEAharbourfogcanaryharbourfogcanaryharbourfog\n\"\"\"\n",
		"app/Web.config.xml": `<add connectionString="Server=db;Password=` + canary + `;"/>`, ".env": "SECRET_KEY=" + canary + "\n",
	} {
		t.Run(name, func(t *testing.T) {
			dir := write(t, t.TempDir(), flask(map[string]string{name: text, ".gitignore": "*.pyc\n"}))
			o := run(t, dir, "check", ".", "--format", "json", "--only", "exposed")
			if !strings.Contains(o.out, `"path": "`+name) {
				t.Errorf("it is not told: %s", tail(o.out))
			}
		})
	}
	// What is tracked although it is ignored is in the history as well.
	tracked := filepath.Join(t.TempDir(), "repo")
	must(t, os.Mkdir(tracked, 0o755))
	begin(t, tracked)
	write(t, tracked, map[string]string{".env": "API_KEY=" + canary + "\n"})
	git(t, tracked, "add", ".env")
	write(t, tracked, map[string]string{".gitignore": ".env\n"})
	if o := run(t, tracked, "check", ".", "--only", "exposed"); !strings.Contains(strings.Join(strings.Fields(o.out), " "), "the history holds its keys too") {
		t.Errorf("the history is not told of: %s", o.out)
	}
}
