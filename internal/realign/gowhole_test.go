package realign

import (
	"strings"
	"testing"

	"golang.org/x/tools/txtar"

	"dicaxon/internal/changes"
	"dicaxon/internal/refs"
)

// TestPackagesThatStayWhole: what Go does not allow is said, and no reference is edited.
func TestPackagesThatStayWhole(t *testing.T) {
	for _, c := range []struct{ a, b, moves, why string }{
		{"type t struct{}", "func (t) m() {}", "b.go b/b.go", "b.go has a method of t, which is in a.go"},
		{"type T struct{ n, N2 int }", "func F(t T) int { return t.n }", "b.go b/b.go", "uses n of a.go, which is seen in its own package only"},
		{"type T struct{ n int `json:\"n\"` }", "func F(t T) int { return t.n }", "b.go b/b.go", "uses n of a.go, which is seen in its own package only"},
		{"type T struct{}\nfunc (T) string() string { return \"\" }", "func F(t T) string { return t.string() }", "b.go b/b.go", "uses string of a.go, which is seen in its own package only"},
		{"type T struct{}\nfunc (T) m() {}", "import \"x\"\nfunc F(t T) { t.m(); x.Of().m() }", "b.go b/b.go", "uses m of a.go"},
		{"import \"x\"\ntype T struct{}\nfunc (T) m() {}\nfunc G() { x.Of().m() }", "func F(t T) { t.m() }", "b.go b/b.go", "may mean m of a.go, which another part needs"},
		{"type T struct{ n int }\ntype U struct{ N int }", "func F(t T) int { return t.n }", "b.go b/b.go", "uses n of a.go"},
		{"type T struct{ n, N2 int }", "var V = T{1, 2}", "b.go b/b.go", "makes a T of fields that are seen"},
		{"type T struct{ n int }", "var V = T{1}", "b.go b/b.go", "it makes a T without the names of its fields"},
		{"type t struct{ N int }", "type U struct{ t }", "b.go b/b.go", "embeds t, which would need a capital"},
		{"type T struct{}\nfunc (T) m() {}", "import \"x\"\nfunc F(t *T) { x.Of(t).m() }", "b.go b/b.go", "uses m of a.go"},
		{"type T interface{ m() }", "var V T", "b.go b/b.go", "has the method m, which only types of its own package have"},
		{"var A = B", "var B = 1\nvar C = A", "b.go b/b.go", "they would import each other"},
		{"var a = 1\nvar A = 2", "var B = a", "b.go b/b.go", "there is A beside it"},
		{"var a = 1", "func F(A int) int { return a + A }\nfunc G() int { return a }", "a.go one/a.go b.go two/b.go", ""},
		{"func F() int { A := 1; return a + A }\nvar a = 1", "var B = a", "b.go b/b.go", "A means something else there"},
		{"var _a = 1", "var B = _a", "b.go b/b.go", "has no capital"},
		{"import \"C\"\nvar A = 1", "var B = A", "b.go b/b.go", "not looked through"},
		{"var A = 1\nvar A = 2", "var B = A", "b.go b/b.go", "it declares something twice"},
		{"//go:linkname x y\nvar A = 1", "var B = A", "b.go b/b.go", "a symbol of the linker"},
		{"var A = 1", "var B = A", "a.go x/internal/a/a.go", "which is internal to x/"},
		{"var A = 1", "var B = A", "b.go b-c/b.go", "b-c is no name for a package"},
		{"var A = 1", "var B = A", "b.go full/b.go", "and there is one in full/full.go"},
		{"type t struct{}", "import \"x\"\nfunc F() bool { _, ok := x.F().(t); return ok }\nvar W = x.S{A: 1}\nvar T = t{}", "b.go b/b.go", ""},
		{"var A = 1", "import \"x\"\nvar W = x.S{A: A}", "b.go b/b.go", "has the key A, which may be a field or what a.go declares"},
		{"import . \"x\"\nvar A = 1", "var B = A", "b.go b/b.go", "not looked through"},
		{"var A = 1", "import _ \"embed\"\n\n//go:embed a.go\nvar B string", "b.go b/b.go", "b.go embeds a.go, which does not go with it"},
		{"type T struct{ N int }", "var B = T{1}", "b.go b/b.go", "it makes a T without the names of its fields"},
		{"var A = 1", "var B = A", "b.go main.s/b.go", "main.s is no name"},
	} {
		tree := Texts{"go.mod": []byte("module example.com/ferry\n"), "a.go": []byte("package ferry\n" + c.a + "\n"), "b.go": []byte("package ferry\n" + c.b + "\n"),
			"full/full.go": []byte("package full\n\nvar B = 2\n")}
		p := &changes.Plan{Moves: movesOf(c.moves)}
		edits, remarks := Follow(refs.NewGraph(tree), tree, nil, p)
		var said []string
		for _, r := range remarks {
			said = append(said, r.Says)
		}
		all := strings.Join(said, "\n")
		refused := len(remarks) > 0 && remarks[0].Breaks
		if c.why != "" && (len(edits) > 0 && refused || !strings.Contains(all, c.why)) || c.why == "" && all != "" {
			t.Errorf("%s | %s: %v; said %q, not %q", c.a, c.b, edits, all, c.why)
		}
	}
}

// TestDotsBeforeWhatLeaves: who imports a package with a dot names nothing of it.
func TestDotsBeforeWhatLeaves(t *testing.T) {
	tree := Texts{"go.mod": []byte("module example.com/ferry\n"), "port/a.go": []byte("package port\n\nvar A = 1\n"), "port/b.go": []byte("package port\n\nvar B = 1\n"),
		"dot/dot.go": []byte("package dot\n\nimport . \"example.com/ferry/port\"\n\nvar F = B\n")}
	for moves, breaks := range map[string]bool{"port/b.go port/b/b.go": true, "port/a.go port/a/a.go": false} {
		_, remarks := Follow(refs.NewGraph(tree), tree, nil, &changes.Plan{Moves: movesOf(moves)})
		if got := len(remarks) == 1 && remarks[0].Breaks && strings.Contains(remarks[0].Says, "dot/dot.go imports it with a dot"); got != breaks || !breaks && len(remarks) > 0 {
			t.Errorf("%s: %v", moves, remarks)
		}
	}
}

// TestTheProgramStaysWhole: nothing can import a program, nor a test.
func TestTheProgramStaysWhole(t *testing.T) {
	for moves, why := range map[string]string{
		"main.go cmd/ferry/main.go":                 "tides.go uses name, which stays in the program, main.go",
		"b_test.go b/b_test.go":                     "only tests of it would be in b/",
		"b_test.go b/b_test.go tides.go b/tides.go": "b_test.go uses help of a test, a_test.go, which goes elsewhere",
	} {
		tree := Texts{}
		for _, f := range txtar.Parse([]byte(`
-- go.mod --
module example.com/ferry
-- main.go --
package main

const name = "ferry"

func main() { println(tides()) }
-- tides.go --
package main

func tides() string { return name }
-- a_test.go --
package main

func help() {}
-- b_test.go --
package main

func init() { help() }
`)).Files {
			tree[f.Name] = f.Data
		}
		_, remarks := Follow(refs.NewGraph(tree), tree, nil, &changes.Plan{Moves: movesOf(moves)})
		if len(remarks) == 0 || !remarks[0].Breaks || !strings.Contains(remarks[0].Says, why) {
			t.Errorf("%s: %v", moves, remarks)
		}
	}
}
