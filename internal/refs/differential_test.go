package refs

import (
	"encoding/json"
	"fmt"
	"io/fs"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"dicaxon/internal/refs/lang"
)

// The readers of languages whose own parser is at hand are held against it, over
// code that nobody here wrote: the language's own library.

// most is how many files of a language are compared.
const most = 600

// corpus gives files with an ending below folders.
func corpus(t *testing.T, ending string, folders ...string) []string {
	t.Helper()
	var all []string
	for _, folder := range folders {
		filepath.WalkDir(folder, func(path string, d fs.DirEntry, err error) error {
			if err == nil && !d.IsDir() && filepath.Ext(path) == ending && len(all) < most {
				all = append(all, path)
			}
			return nil
		})
	}
	return all
}

// parsed runs a program of the language that prints, for each file named on its
// standard input, a line of JSON: the path and a list of what it says.
func parsed(t *testing.T, files []string, name string, args ...string) map[string][]string {
	t.Helper()
	cmd := exec.Command(name, args...)
	cmd.Stdin = strings.NewReader(strings.Join(files, "\n"))
	cmd.Stderr = os.Stderr
	out, err := cmd.Output()
	if err != nil {
		t.Fatalf("%s: %v", name, err)
	}
	all := map[string][]string{}
	for line := range strings.Lines(string(out)) {
		var one struct {
			Path string
			Says []string
		}
		if err := json.Unmarshal([]byte(line), &one); err != nil {
			t.Fatalf("%q: %v", line, err)
		}
		all[one.Path] = one.Says
	}
	return all
}

// compareWith counts the files in which the reader and the parser differ, and
// fails where that is more than one in a hundred.
func compareWith(t *testing.T, want map[string][]string, said func(File) []string) {
	t.Helper()
	if len(want) < 50 {
		t.Fatalf("only %d files to compare", len(want))
	}
	differ := 0
	for path, names := range want {
		text, err := os.ReadFile(path)
		if err != nil {
			t.Fatal(err)
		}
		got := said(Read(path, text))
		slices.Sort(got)
		slices.Sort(names)
		if got, names = slices.Compact(got), slices.Compact(names); !slices.Equal(got, names) {
			if differ++; differ <= 5 {
				t.Logf("%s:\n read   %q\n parsed %q", path, minus(got, names), minus(names, got))
			}
		}
	}
	t.Logf("%d of %d files differ", differ, len(want))
	if differ*100 > len(want) {
		t.Errorf("%d of %d files differ", differ, len(want))
	}
}

func minus(a, b []string) []string {
	return slices.DeleteFunc(slices.Clone(a), func(s string) bool { return slices.Contains(b, s) })
}

const pythonParser = `
import ast, json, sys, warnings
warnings.simplefilter("ignore")
for path in sys.stdin.read().split("\n"):
    try:
        tree = ast.parse(open(path, encoding="utf-8").read())
    except Exception:
        continue
    says = []
    for node in ast.walk(tree):
        if isinstance(node, ast.Import):
            says += ["%d %s" % (node.lineno, a.name) for a in node.names]
        elif isinstance(node, ast.ImportFrom):
            says += ["%d %s%s %s" % (node.lineno, "." * node.level, node.module or "", a.name) for a in node.names]
    print(json.dumps({"path": path, "says": says}))
`

func TestPythonAgainstItsOwnParser(t *testing.T) {
	files := corpus(t, ".py", "/usr/lib/python3", "/usr/lib/python3/dist-packages")
	compareWith(t, parsed(t, files, "python3", "-c", pythonParser), func(f File) []string {
		var all []string
		for _, r := range f.Of(Import) {
			name := strings.Repeat(".", r.Relative) + r.Name
			if r.Value == "" {
				all = append(all, fmt.Sprintf("%d %s", r.Line, name))
				continue
			}
			for _, one := range strings.Split(r.Value, ",") {
				all = append(all, fmt.Sprintf("%d %s %s", r.Line, name, one))
			}
		}
		return all
	})
}

const rubyParser = `
require "ripper"
require "json"
def calls(node, says)
  return unless node.is_a?(Array)
  if node[0] == :command && %w[require require_relative load].include?(node[1][1])
    text = (node[2][1][0] rescue nil)
    if text.is_a?(Array) && text[0] == :string_literal && text[1].length == 2 && text[1][1][0] == :@tstring_content
      says << "#{node[1][1]} #{text[1][1][1]}"
    end
  end
  node.each { |below| calls(below, says) }
end
STDIN.read.split("\n").each do |path|
  text = File.read(path, encoding: "UTF-8")
  next unless text.valid_encoding?
  tree = Ripper.sexp(text) or next
  says = []
  calls(tree, says)
  puts JSON.generate({path: path, says: says})
end
`

func TestRubyAgainstItsOwnParser(t *testing.T) {
	files := corpus(t, ".rb", "/usr/lib/ruby", "/usr/share/rubygems-integration")
	compareWith(t, parsed(t, files, "ruby", "-e", rubyParser), func(f File) []string {
		var all []string
		for _, r := range f.Of(Import) {
			if r.Value == "require" || r.Value == "require_relative" || r.Value == "load" {
				all = append(all, r.Value+" "+r.Name)
			}
		}
		return all
	})
}

// TestGoReadsItsOwnLibrary lets nothing of it be broken, but what is there to be
// broken.
func TestGoReadsItsOwnLibrary(t *testing.T) {
	out, err := exec.Command("go", "env", "GOROOT").Output()
	if err != nil {
		t.Fatal(err)
	}
	files := corpus(t, ".go", filepath.Join(strings.TrimSpace(string(out)), "src", "net"), filepath.Join(strings.TrimSpace(string(out)), "src", "cmd", "go"))
	if len(files) < 200 {
		t.Fatalf("only %d files", len(files))
	}
	for _, path := range files {
		if strings.Contains(path, "testdata") {
			continue
		}
		text, err := os.ReadFile(path)
		if err != nil {
			t.Fatal(err)
		}
		if f := Read(path, text); f.Broken != "" || f.Package() == nil {
			t.Errorf("%s: %s", path, f.Broken)
		}
	}
}

// TestSpansGiveTheTextBack reads code and documents that nobody here wrote and
// looks whether each span holds what the reference says that it names.
func TestSpansGiveTheTextBack(t *testing.T) {
	out, err := exec.Command("go", "env", "GOROOT").Output()
	if err != nil {
		t.Fatal(err)
	}
	goroot := strings.TrimSpace(string(out))
	files, spans := 0, 0
	for ending, folders := range map[string][]string{
		".py": {"/usr/lib/python3", "/usr/lib/python3/dist-packages"}, ".rb": {"/usr/lib/ruby"}, ".go": {filepath.Join(goroot, "src", "net")}, ".html": {filepath.Join(goroot)}, ".md": {filepath.Join(goroot, "src")},
		".json": {"/usr/lib", "/usr/share"}, ".yml": {"/usr/lib", "/usr/share"}, ".yaml": {"/usr/lib", "/usr/share"}, ".toml": {"/usr/lib", "/usr/share"}, ".xml": {"/usr/share"}, ".js": {"/usr/share", "/usr/lib", goroot}, ".css": {"/usr/share", "/usr/lib"}, ".mod": {goroot},
	} {
		for _, path := range corpus(t, ending, folders...) {
			text, err := os.ReadFile(path)
			if err != nil || len(text) > 1<<16 {
				continue
			}
			files++
			lines := lang.LinesOf(text)
			for _, r := range Read(path, text).Refs {
				if r.Span.Len() == 0 {
					continue
				}
				spans++
				if written := string(r.Span.In(text)); !sameName(r, written) {
					t.Errorf("%s:%d: %q stands where %q is named", path, r.Line, written, r.Name)
				}
				if line, column := lines.At(int(r.Span.Start)); r.Kind != Key && (line != r.Line || column != r.Column) {
					t.Errorf("%s: %q is said to be at %d:%d and is at %d:%d", path, r.Name, r.Line, r.Column, line, column)
				}
			}
		}
	}
	t.Logf("%d spans in %d files", spans, files)
	if files < 500 || spans < 5000 {
		t.Errorf("only %d spans in %d files", spans, files)
	}
}

// sameName says whether what is written is the name of a reference, or the end of
// it, where the rest stands elsewhere.
func sameName(r Ref, written string) bool {
	plain := strings.NewReplacer("\\\\", "\\", "`", "", "&amp;", "&").Replace(written)
	return plain == r.Name || strings.HasSuffix(r.Name, plain) || strings.Trim(written, ".") == "" || strings.ContainsAny(written, "\\&")
}
