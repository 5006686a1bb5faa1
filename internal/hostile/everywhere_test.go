//go:build unix

package hostile

import (
	"encoding/json"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
)

// findings gives what a check says, as "level kind path message".
func findings(t *testing.T, dir string, args ...string) []string {
	t.Helper()
	o := run(t, dir, append([]string{"check", ".", "--format", "json", "--no-cache"}, args...)...)
	var answer struct {
		Projects []struct {
			At       string
			Findings []struct{ Level, Kind, Path, Home, Message string }
		}
	}
	if err := json.Unmarshal([]byte(o.out), &answer); err != nil {
		t.Fatalf("%v: %s", err, o.all())
	}
	var all []string
	for _, p := range answer.Projects {
		for _, f := range p.Findings {
			all = append(all, strings.Join([]string{p.At, f.Level, f.Kind, f.Path, f.Home, f.Message}, " "))
		}
	}
	return all
}

// TestLineEnds checks the demo repositories as an editor on Windows would leave them: with
// carriage returns, and with a byte-order mark.
func TestLineEnds(t *testing.T) {
	demo := filepath.Join(t.TempDir(), "demo")
	if o := run(t, world, "demo", demo); o.status != 0 {
		t.Fatal(o.err)
	}
	for _, repository := range []string{"ferry", "tides", "warehouse"} {
		for how, change := range map[string]func(string) string{
			"carriage returns":  func(text string) string { return strings.ReplaceAll(text, "\n", "\r\n") },
			"a byte-order mark": func(text string) string { return "\ufeff" + text },
		} {
			t.Run(repository+" with "+how, func(t *testing.T) {
				dir := filepath.Join(t.TempDir(), repository)
				must(t, os.CopyFS(dir, os.DirFS(filepath.Join(demo, repository))))
				want := findings(t, dir)
				must(t, filepath.Walk(dir, func(at string, info os.FileInfo, err error) error {
					if err != nil || !info.Mode().IsRegular() || strings.Contains(how, "mark") && !strings.Contains(".py .js .json .yml .yaml .html .sql .toml", filepath.Ext(at)+" ") {
						return err
					}
					text, err := os.ReadFile(at)
					if err != nil {
						return err
					}
					return os.WriteFile(at, []byte(change(string(text))), info.Mode())
				}))
				if got := findings(t, dir); !slices.Equal(got, want) {
					t.Errorf("got\n%s\nwant\n%s", strings.Join(got, "\n"), strings.Join(want, "\n"))
				}
			})
		}
	}
}

// TestNamesThatDifferLittle checks what only some disks can hold.
func TestNamesThatDifferLittle(t *testing.T) {
	for name, files := range map[string]map[string]string{
		"case":                     {"README.md": "x", "readme.md": "y", "app/Views.py": "", "app/views.py": "", "App/views.py": ""},
		"composed characters":      {"caf\u00e9.md": "[a](cafe\u0301.md)", "e\u0301.py": "", "\u00e9.py": ""},
		"git's folder in capitals": {".GIT/hooks/pre-commit": "k: AKIA" + "IOSFODNN7ABCDEFG\n", ".GIT/config": "x"},
		"devices":                  {"con.py": "", "aux/a.py": "", "nul": "", "a./b.py": "", "a b /c.py": "", "a:b": ""},
	} {
		t.Run(name, func(t *testing.T) {
			dir := write(t, t.TempDir(), flask(files))
			for _, format := range []string{"text", "json"} {
				if o := run(t, dir, "check", ".", "--layout", "flask/areas", "--format", format); o.status > 1 || strings.Contains(o.out, ".GIT") {
					t.Errorf("status %d: %s", o.status, tail(o.all()))
				}
			}
		})
	}
}

// TestFormOfCharacters holds that a link written in one form of composed characters leads
// to a file whose name is written in the other.
func TestFormOfCharacters(t *testing.T) {
	dir := write(t, t.TempDir(), map[string]string{"README.md": "[a](docs/caf\u00e9.md)\n", "docs/cafe\u0301.md": "x\n"})
	if got := findings(t, dir, "--only", "dangling"); len(got) != 0 {
		t.Errorf("%q", got)
	}
	write(t, dir, map[string]string{"b.md": "[a](docs/caff\u00e9.md)\n"})
	if got := findings(t, dir, "--only", "dangling"); len(got) != 1 {
		t.Errorf("%q", got)
	}
}
