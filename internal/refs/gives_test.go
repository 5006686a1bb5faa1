package refs

import (
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"dicaxon/internal/refs/lang"
)

// What a module gives is told to nobody as gone unless it is: the names that readers find are held against those that
// the languages' own parsers find, over the languages' own libraries.

// pythonBinds prints the names that each module binds at its top level, a plus before them, and those that it only uses,
// a minus before them.
const pythonBinds = `
import ast, builtins, json, sys, warnings
warnings.simplefilter("ignore")

def targets(node, out):
    for n in ast.walk(node):
        if isinstance(n, ast.Name) and isinstance(n.ctx, ast.Store):
            out.add(n.id)

def bind(body, out):
    for s in body:
        if isinstance(s, (ast.FunctionDef, ast.AsyncFunctionDef, ast.ClassDef)):
            out.add(s.name)
            for n in ast.walk(s):
                if isinstance(n, ast.Global):
                    out.update(n.names)
            continue
        if isinstance(s, (ast.Import, ast.ImportFrom)):
            for a in s.names:
                out.add(a.asname or a.name.split(".")[0])
        if isinstance(s, (ast.Assign, ast.AnnAssign, ast.AugAssign)):
            for t in getattr(s, "targets", None) or [s.target]:
                targets(t, out)
        if isinstance(s, (ast.For, ast.AsyncFor)):
            targets(s.target, out)
        if isinstance(s, (ast.With, ast.AsyncWith)):
            for i in s.items:
                if i.optional_vars is not None:
                    targets(i.optional_vars, out)
        for part in ("body", "orelse", "finalbody"):
            bind(getattr(s, part, []), out)
        for h in getattr(s, "handlers", []):
            if h.name:
                out.add(h.name)
            bind(h.body, out)

for path in sys.stdin.read().split("\n"):
    try:
        tree = ast.parse(open(path, encoding="utf-8").read())
    except (SyntaxError, ValueError, UnicodeDecodeError):
        continue
    bound = set()
    bind(tree.body, bound)
    used = {n.id for n in ast.walk(tree) if isinstance(n, ast.Name)} - bound - set(dir(builtins))
    said = ["+" + n for n in bound if n != "*"] + ["-" + n for n in used if len(n) > 3]
    print(json.dumps({"Path": path, "Says": said}))
`

// TestPythonGives asks that no name which a module binds is missed, and that few of those count as given which it only
// uses: parameters and what functions keep for themselves.
func TestPythonGives(t *testing.T) {
	files := corpus(t, ".py", "/usr/lib/python3", "/usr/lib/python3/dist-packages", "/usr/lib/python3.11", "/usr/lib/python3.13")
	known, used, taken := 0, 0, 0
	for at, names := range parsed(t, files, "python3", "-c", pythonBinds) {
		text, err := os.ReadFile(at)
		if err != nil {
			t.Fatal(err)
		}
		f := Read(at, text)
		if f.Open || len(f.Uses.Gives) == 0 {
			continue
		}
		known++
		for _, name := range names {
			switch has := f.Uses.Gives.Has(name[1:]); {
			case name[0] == '+' && !has:
				t.Errorf("%s binds %s", at, name[1:])
			case name[0] == '-':
				used++
				if has {
					taken++
				}
			}
		}
	}
	t.Logf("%d modules; %d of %d names that they only use count as given", known, taken, used)
	if known < 50 || taken*10 > used {
		t.Errorf("%d modules known, %d of %d used names count as given", known, taken, used)
	}
}

// TestGoNames asks that each name which a file of Go's own library uses and does not declare is one that another file of
// its package declares, or that it imports.
func TestGoNames(t *testing.T) {
	root, err := exec.Command("go", "env", "GOROOT").Output()
	if err != nil {
		t.Fatal(err)
	}
	looked := 0
	for _, in := range []string{"net/http", "net", "os", "go/types", "encoding/json", "text/template", "database/sql", "crypto/tls", "strconv", "time"} {
		folder := filepath.Join(strings.TrimSpace(string(root)), "src", in)
		entries, err := os.ReadDir(folder)
		if err != nil {
			t.Fatal(err)
		}
		said := map[string]File{}
		for _, e := range entries {
			if filepath.Ext(e.Name()) != ".go" {
				continue
			}
			text, err := os.ReadFile(filepath.Join(folder, e.Name()))
			if err != nil {
				t.Fatal(err)
			}
			said[e.Name()] = Read(e.Name(), text)
		}
		for name, f := range said {
			if slices.ContainsFunc(f.Of(Import), func(r Ref) bool { return r.Value == "." || r.Name == "C" }) {
				continue
			}
			for _, u := range f.Uses.Unbound {
				if strings.Contains(u.Name, ".") {
					continue
				}
				looked++
				if !givenInGo(said, u) && !slices.ContainsFunc(f.Of(Import), func(r Ref) bool { return r.Value == u.Name || strings.Contains(r.Name, u.Name) }) {
					t.Errorf("%s/%s uses %s", in, name, u.Name)
				}
			}
		}
	}
	if looked < 500 {
		t.Errorf("only %d names looked at", looked)
	}
}

func givenInGo(said map[string]File, u lang.Quoted) bool {
	for _, f := range said {
		if f.Uses.Gives.Has(u.Name) {
			return true
		}
	}
	return false
}

// TestScriptGives asks what modules of JavaScript of either kind give, where they say it all.
func TestScriptGives(t *testing.T) {
	for text, want := range map[string]string{
		"const a = 1\nmodule.exports = { a, b: 2, c: 'd', d () { return { x: 1 } }, async e () {}, get f () { return 1 } }\n": "a b c d e f",
		"exports.one = 1\nmodule.exports.two = (x, y) => x\n":                                                                 "one two",
		"module.exports = { a }\nmodule.exports.b = 1\n":                                                                      "?",
		"module.exports = { ...rest, a }\n":                                                                                   "?",
		"module.exports = { [key]: 1 }\n":                                                                                     "?",
		"module.exports = make({ a })\n":                                                                                      "?",
		"Object.defineProperty(exports, 'a', { value: 1 })\nexports.b = 1\n":                                                  "?",
		"// exports.c\nexports.a = 1\nconst s = 'exports.b = 2'\n":                                                            "a",
		"export const a = 1\nexport function b() {}\nexport { c, d as e }\nconst f=1":                                         "a b c d e",
	} {
		f := Read("a.js", []byte(text))
		var got []string
		for _, name := range strings.Fields("a b c d e f one two x") {
			if len(f.Uses.Gives) > 0 && f.Uses.Gives.Has(name) {
				got = append(got, name)
			}
		}
		if len(f.Uses.Gives) == 0 {
			got = []string{"?"}
		}
		if said := strings.Join(got, " "); said != want {
			t.Errorf("%q gives %q, not %q", text, said, want)
		}
	}
}
