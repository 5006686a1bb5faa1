package rules

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/lazy"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
)

// ofRust are crates that come with the compiler, words that begin a path of the crate itself, and tools that
// attributes speak to.
var ofRust = lang.SetOf("std core alloc proc_macro test crate self super Self clippy rustfmt rustdoc miri diagnostic")

// undeclaredRust gives the crate that a path begins with and that Cargo.toml does not list. Since the
// edition of 2018 a path begins with a crate or with a name that the file itself binds (The Rust
// Reference, "Use declarations").
func undeclaredRust(c *Call, e *refs.Edge) (name, manifest string, sure bool) {
	name, _, _ = strings.Cut(strings.TrimPrefix(e.Ref.Name, "::"), "::")
	_, at := c.Graph.Look().Nearest(e.From, "Cargo.toml")
	if at == "" || name == "" || ofRust()[name] || strings.ToLower(name) != name {
		return "", "", false
	}
	f := c.refsOf(at)
	if !sinceCrates(f) || knowsCrate(f, name) || !inCrate(path.Dir(at), e.From) || bindsName(c.Graph.Code(e.From), name) {
		return "", "", false
	}
	return name, at, true
}

// sinceCrates says whether a manifest is of a crate whose paths begin with crates, as they do since the edition of 2018.
func sinceCrates(f *refs.File) bool {
	edition := f.Get("package.edition")
	return f.Broken == "" && f.Get("package.name") != nil && (edition != nil && edition.Value != "2015" || edition == nil && f.Get("package.edition.workspace") != nil)
}

// knowsCrate says whether a manifest is of a crate that code calls by a name, or asks for one.
func knowsCrate(f *refs.File, name string) bool {
	as := func(written string) bool {
		written = strings.ReplaceAll(strings.Trim(written, `"`), "-", "_")
		bare := strings.TrimSuffix(strings.TrimPrefix(strings.TrimPrefix(written, "rust_"), "rs_"), "_rs") // what the library in it is often called
		return written == name || bare == name || strings.ReplaceAll(written, "_", "") == strings.ReplaceAll(name, "_", "")
	}
	own := f.Get("lib.name")
	if own == nil {
		own = f.Get("package.name")
	}
	if as(own.Value) {
		return true
	}
	return slices.ContainsFunc(f.Of(refs.Key), func(k refs.Ref) bool {
		list, rest, found := strings.Cut(k.Name, "dependencies.")
		first, _, _ := strings.Cut(rest, ".")
		return found && (list == "" || strings.HasSuffix(list, "-") || strings.HasSuffix(list, ".")) && as(first)
	})
}

// bindsName says whether a text of Rust gives a name to something, or may: a module, another import,
// a macro that makes them.
func bindsName(code []byte, name string) bool {
	return slices.ContainsFunc(lang.Words(code, name), func(i int) bool {
		before := strings.TrimRight(string(code[max(0, i-40):i]), " \t\n")
		behind := strings.TrimLeft(string(code[i+len(name):min(len(code), i+len(name)+3)]), " ")
		if takesItself.Match(code[i+len(name):]) {
			return true
		}
		word := before[strings.LastIndexAny(before, " \t\n({;")+1:]
		return slices.Contains([]string{"mod", "as", "crate", "fn", "let", "type"}, word) || !strings.HasPrefix(behind, "::")
	})
}

// takesItself is what stands behind a module of which a use takes names, and the module itself.
var takesItself = lazy.New(`\A::\{[^}]*\bself\b`)

// inCrate says whether a file lies where Cargo looks for code of a crate.
func inCrate(dir, at string) bool {
	rest := strings.TrimPrefix(at, dir+"/")
	first, _, _ := strings.Cut(rest, "/")
	return slices.Contains([]string{"src", "tests", "benches", "examples"}, first) && (first == "src" || strings.Count(rest, "/") == 1 || path.Base(rest) == "mod.rs")
}
