package refs

import (
	"fmt"
	"slices"
	"strings"
	"testing"
)

// TestReadOnce holds that what a text says does not hang on where it lies, and
// does hang on its ending.
func TestReadOnce(t *testing.T) {
	text := []byte("import x from './a'\n")
	first := readOnce("one/pier.js", text)
	if again := readOnce("two/pier.js", text); again != first || len(first.Refs) != 1 {
		t.Errorf("%+v and %+v", first, again)
	}
	if other := readOnce("one/pier.txt", text); other == first || len(other.Refs) != 0 {
		t.Errorf("another ending: %+v", other)
	}
	if other := readOnce("one/pier.js", []byte("import x from './b'\n")); other == first {
		t.Error("another text says the same")
	}
}

// TestGraph asks a small project in every direction.
func TestGraph(t *testing.T) {
	files := map[string]string{
		"ferry/__init__.py": "", "ferry/tides.py": "table = 1\n", "ferry/main.py": "from ferry import tides\nfrom ferry.tides import tabel\nimport os\nfrom .nowhere import x\ntry:\n    from . import maybe\nexcept ImportError:\n    pass\n",
		"pages/index.html": "<!doctype html><script src=app.js></script><img src=gone.png>", "pages/app.js": "import './more.js'\nimport 'react'\n", "notes.txt": "",
	}
	g := NewGraph(of(files))
	show := func(edges []Edge) []string {
		var all []string
		for _, e := range edges {
			all = append(all, fmt.Sprintf("%s:%d %s%s", e.From, e.Ref.Line, strings.Repeat(".", e.Ref.Relative), e.Ref.Name))
		}
		return all
	}
	for what, c := range map[string]struct{ got, want []string }{
		"from":        {show(g.From("pages/app.js")), []string{"pages/app.js:1 ./more.js", "pages/app.js:2 react"}},
		"to a file":   {show(g.To("ferry/tides.py")), []string{"ferry/main.py:1 ferry", "ferry/main.py:2 ferry.tides"}},
		"to a folder": {show(g.To("pages/")), []string{"pages/index.html:1 app.js"}},
		"broken":      {show(g.Broken()), []string{"ferry/main.py:2 ferry.tides", "ferry/main.py:4 .nowhere", "pages/app.js:1 ./more.js", "pages/index.html:1 gone.png"}},
		"outside":     {show(g.Outside()), []string{"ferry/main.py:3 os", "pages/app.js:2 react"}},
	} {
		if !slices.Equal(c.got, c.want) {
			t.Errorf("%s: %q, not %q", what, c.got, c.want)
		}
	}
	for _, c := range []struct {
		from, name, at string
		want           bool
	}{{"pages/app.js", "./more.js", "pages/more.js", true}, {"pages/app.js", "./more.js", "more.js", false}, {"pages/index.html", "app.js", "pages/app.js", true}} {
		for _, e := range g.From(c.from) {
			if e.Ref.Name == c.name && g.Leads(c.from, e.Ref, c.at) != c.want {
				t.Errorf("%s in %s leads to %s: %v", c.name, c.from, c.at, !c.want)
			}
		}
	}
}

// TestGraphKeeps holds that code without comments is made once, and what is no file gives none.
func TestGraphKeeps(t *testing.T) {
	g := NewGraph(of(map[string]string{"pier.go": "//go:build linux\n\npackage pier // the pier\n\nvar x = tides.Now().Crew.Name // berths.None\n"}))
	code := g.Code("pier.go")
	if again := g.Code("pier.go"); &again[0] != &code[0] || strings.Contains(string(code), "pier\n\nvar") || strings.Contains(string(code), "berths") {
		t.Errorf("%q", code)
	}
	if g.Code("gone.go") != nil {
		t.Error("there is code where no file is")
	}
	said := g.Of("pier.go")
	if p := said.Package(); p == nil || !p.Guarded || !said.Words.Has("tides") || !said.Words.Has("Crew") || said.Words.Has("berths") || said.Words.Has("Name") {
		t.Errorf("%+v", said)
	}
}

// TestGraphOfMany holds that a project too large for its references to be kept has its
// credentials found all the same, in the one pass over all files.
func TestGraphOfMany(t *testing.T) {
	many := listed{texts: map[string]string{"f7.py": "KEY = '-----BEGIN RSA " + "PRIVATE KEY-----" + strings.Repeat("M", 60) + "'\n", "f9.py": "read('sql/tides.sql')\n"}}
	for i := range mostKept + 1 {
		many.files = append(many.files, fmt.Sprintf("f%d.py", i))
	}
	g := NewGraph(many)
	if got := g.Noted("f7.py").Credentials; len(got) != 1 || got[0].Line != 1 || g.Noted("f8.py").Credentials != nil {
		t.Errorf("%+v", got)
	}
	if got := g.Noted("f9.py").Quotes; len(got) != 1 || got[0].Name != "sql/tides.sql" {
		t.Errorf("%+v", got)
	}
	if n := g.Parsed(); n != len(many.files) {
		t.Errorf("%d texts of %d were read", n, len(many.files))
	}
}

// FuzzGraph follows whatever a file says; nothing that is written there stops it.
func FuzzGraph(f *testing.F) {
	for _, name := range []string{"a.go", "a.py", "a.ts", "a.vue", "a.kt", "a.java", "a.php", "a.rb", "a.dart", "a.cs", "a.swift", "a.rs", "a.sql", "a.html", "a.css", "a.md", "Dockerfile", "requirements.txt", "project.pbxproj"} {
		f.Add(name, []byte("import '../../..'\nfrom ... import x\nuse \\A\\{B, };\n{{ ref('') }}\nmod x;\n[a](../%zz)\nCOPY ../.. /\n-r ..\nrequire_relative '../..'\n<script src=/..>"))
	}
	f.Add("project.pbxproj", []byte("{ objects = { A = {isa = PBXFileReference; path = \"a b.swift\"; sourceTree = \"<group>\"; }; G = {isa = PBXGroup; children = (A, G,); sourceTree = \"<group>\"; }; }; /* x"))
	f.Fuzz(func(t *testing.T, name string, text []byte) {
		if strings.ContainsAny(name, "/\x00") || name == "" {
			return
		}
		files := []string{"deep/" + name, "package.json", "composer.json", "go.mod", "Cargo.toml", "pubspec.yaml", "dbt_project.yml", "deep/b.kt", "lib/a/b.rb", "lib/a.rb", "config/app.rb"}
		g := NewGraph(listed{files, map[string]string{"deep/" + name: string(text), "package.json": `{"imports": {"#x/*": "./y/*"}}`, "composer.json": `{"autoload": {"psr-4": {"A\\": "deep/"}}}`, "go.mod": "module m\n", "pubspec.yaml": "name: a\n", "deep/b.kt": "package a.b\n"}})
		for _, e := range append(g.Broken(), g.Outside()...) {
			if e.Broken() && len(e.Sought) == 0 {
				t.Errorf("%+v leads nowhere, and nothing was looked for", e)
			}
		}
	})
}
