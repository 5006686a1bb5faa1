package golang

import (
	"fmt"
	"maps"
	"slices"
	"strings"
	"testing"
)

// lacksOf says in a line each what the files of a module lack: its packages are their folders below "m".
func lacksOf(files map[string]string) (all []string) {
	packages := map[string][]Source{}
	for _, at := range slices.Sorted(maps.Keys(files)) {
		folder := "m"
		if i := strings.LastIndex(at, "/"); i >= 0 {
			folder += "/" + at[:i]
		}
		packages[folder] = append(packages[folder], Source{At: at, Text: []byte(files[at])})
	}
	for _, l := range Check(packages).Lacks() {
		if written := files[l.At][l.Span.Start:l.Span.End]; l.By == "" && written != l.Name {
			all = append(all, "the place is that of "+written)
		}
		line := fmt.Sprintf("%s: %s of %s", l.At, l.Name, l.Of)
		for what, is := range map[string]bool{" hidden": l.Hidden, " open": l.Open, " twice": l.Twice, " for " + l.By: l.By != ""} {
			if is {
				line += what
			}
		}
		all = append(all, line)
	}
	return all
}

// TestLacks shows what the types of packages lack, beside what nothing is said of.
func TestLacks(t *testing.T) {
	const tide = "package tide\n\ntype Tide struct {\n\tMetres float64\n\tnote string\n}\n\nfunc (t *Tide) High() bool { return t.Metres > 2 }\n"
	for _, c := range []struct {
		what  string
		files map[string]string
		want  []string
	}{
		{"a field and a method of another package", map[string]string{"tide/tide.go": tide, "a.go": "package main\n\nimport \"m/tide\"\n\nfunc main() {\n\tt := tide.Tide{Meters: 1}\n\t_ = t.High()\n\t_ = t.Low()\n}\n"}, []string{"a.go: Meters of Tide", "a.go: Low of Tide"}},
		{"what only its own package sees", map[string]string{"tide/tide.go": tide, "a.go": "package main\n\nimport \"m/tide\"\n\nfunc main() {\n\t_ = tide.Tide{}.note\n}\n"}, []string{"a.go: note of  hidden"}},
		{"a method by way of what is ranged over", map[string]string{"a.go": "package a\n\ntype T struct{ N int }\n\nfunc f(all map[string][]*T) (n int) {\n\tfor _, ts := range all {\n\t\tfor _, t := range ts {\n\t\t\tn += t.M\n\t\t}\n\t}\n\treturn n\n}\n"}, []string{"a.go: M of T"}},
		{"types of others, and what is built on them", map[string]string{"a.go": "package a\n\nimport (\n\t\"x.org/orm\"\n\t\"x.org/web\"\n)\n\ntype T struct {\n\torm.Model\n\tName string\n}\n\ntype Alias = orm.Model\n\ntype Other orm.Model\n\nfunc f(c *web.Context, t T, a Alias, o Other) {\n\tc.Anything(t.ID, a.ID, o.ID)\n}\n"}, []string{"a.go: ID of T open"}},
		{"an interface of the project", map[string]string{"a.go": "package a\n\ntype Store interface {\n\tSave(n int) error\n\tClose() error\n}\n\ntype file struct{}\n\nfunc (f *file) Save(n int) error { return nil }\n\nfunc open() Store { return &file{} }\n"}, []string{"a.go: Close of file for Store"}},
		{"an interface that is kept", map[string]string{"a.go": "package a\n\ntype Store interface{ Save(n int) error }\n\ntype base struct{}\n\nfunc (base) Save(n int) error { return nil }\n\ntype file struct{ base }\n\nvar _ Store = file{}\n"}, nil},
		{"an interface kept by what others give", map[string]string{"a.go": "package a\n\nimport \"x.org/q\"\n\ntype Store interface{ Save(n int) error }\n\ntype file struct{ q.Saver }\n\nvar _ Store = file{}\n"}, nil},
		{"a method declared twice", map[string]string{"a.go": "package a\n\ntype T struct{}\n\nfunc (T) M() {}\n", "b.go": "package a\n\nfunc (T) M() {}\n\nfunc f() {}\n", "c.go": "package a\n\nfunc f() {}\n"}, []string{"b.go: M of T twice", "c.go: f of  twice"}},
		{"programs run file by file", map[string]string{"a.go": "package main\n\nfunc f() {}\n\nfunc main() { f() }\n", "b.go": "package main\n\nfunc f() {}\n\nfunc main() { f() }\n"}, nil},
		{"what another system has", map[string]string{"a.go": "package a\n\ntype T struct{}\n\nfunc f(t T) { t.Start() }\n", "a_windows.go": "package a\n\nfunc (T) Start() {}\n"}, nil},
		{"what an older build has", map[string]string{"a.go": "package a\n\ntype T struct{ A int }\n", "b.go": "//go:build never\n\npackage a\n\nvar x = T{}.B\n"}, nil},
		{"tests inside and outside", map[string]string{"tide/tide.go": tide, "tide/x_test.go": "package tide\n\nfunc (t *Tide) Mark() {}\n", "tide/y_test.go": "package tide_test\n\nimport \"m/tide\"\n\nfunc f(t *tide.Tide) {\n\tt.Mark()\n\tt.Marks()\n}\n"}, []string{"tide/y_test.go: Marks of Tide"}},
		{"packages in a circle", map[string]string{"a/a.go": "package a\n\nimport \"m/b\"\n\ntype A struct{ B b.B }\n\nvar x = A{}.C\n", "b/b.go": "package b\n\nimport \"m/a\"\n\ntype B struct{ A a.A }\n"}, []string{"a/a.go: C of A"}},
		{"a file that cannot be read", map[string]string{"a.go": "package a\n\ntype T struct{}\n\nvar x = T{}.A\n", "b.go": "package a\n\nfunc {\n"}, nil},
		{"a generic type", map[string]string{"a.go": "package a\n\ntype L[E any] struct{ all []E }\n\nfunc f(l L[int]) { l.Push(1) }\n"}, nil},
		{"fields of what is embedded", map[string]string{"a.go": "package a\n\nimport \"io\"\n\ntype B struct{ N int }\n\ntype T struct {\n\tB\n\tio.WriterTo\n}\n\nvar t = T{N: 1, Name: 2}\n\nvar n = t.WriteTo\n"}, []string{"a.go: Name of T open", "a.go: WriteTo of T open"}},
		{"a file of C", map[string]string{"a.go": "package a\n\nimport \"C\"\n\ntype T struct{}\n\nfunc f(C T) { C.anything() }\n"}, nil},
		{"a type within a function that is called as another", map[string]string{"a.go": "package a\n\ntype T struct{ N int }\n\nfunc f() int {\n\ttype T struct{ M int }\n\treturn T{}.N\n}\n"}, nil},
		{"a long table, and what uses it", map[string]string{"a.go": "package a\n\nvar table = [...]int{" + strings.Repeat("1, ", 2*mostListed) + "}\n\ntype T struct{ N int }\n\nvar t = T{N: table[300], M: 1}\n"}, []string{"a.go: M of T"}},
	} {
		if got := lacksOf(c.files); !slices.Equal(got, c.want) {
			t.Errorf("%s: %q, not %q", c.what, got, c.want)
		}
	}
}

// BenchmarkLacks looks through a module of forty packages, each of which uses the one before.
func BenchmarkLacks(b *testing.B) {
	packages := map[string][]Source{}
	for i := range 40 {
		text := fmt.Sprintf("package p%d\n\nimport \"m/p%d\"\n\ntype T struct{ Before *p%d.T }\n", i, i-1, i-1)
		if i == 0 {
			text = "package p0\n\ntype T struct{ Before *T }\n"
		}
		for j := range 50 {
			text += fmt.Sprintf("\nfunc (t *T) M%d(n int) int {\n\tif t.Before != nil {\n\t\treturn t.M%d(n-1)\n\t}\n\treturn n\n}\n", j, (j+1)%50)
		}
		at := fmt.Sprintf("m/p%d", i)
		packages[at] = []Source{{At: at + ".go", Text: []byte(text)}}
	}
	for b.Loop() {
		if lacks := Check(packages).Lacks(); len(lacks) > 0 {
			b.Fatal(lacks)
		}
	}
}
