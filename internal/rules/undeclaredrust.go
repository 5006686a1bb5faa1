package rules

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
)

// ofRust are crates that come with the compiler, and words that begin a path of the crate itself.
var ofRust = lang.SetOf("std core alloc proc_macro test crate self super Self")

// undeclaredRust gives the crate that a path begins with and that Cargo.toml does not list. Since the
// edition of 2018 a path begins with a crate or with a name that the file itself binds (The Rust
// Reference, "Use declarations").
func undeclaredRust(c *Call, e *refs.Edge) (name, manifest string, sure bool) {
	name, _, _ = strings.Cut(strings.TrimPrefix(e.Ref.Name, "::"), "::")
	_, at := c.Graph.Look().Nearest(e.From, "Cargo.toml")
	if at == "" || name == "" || ofRust()[name] || strings.ToLower(name) != name || !strings.Contains(e.Ref.Name, "::") {
		return "", "", false
	}
	f := c.refsOf(at)
	edition := f.Get("package.edition")
	if f.Broken != "" || f.Get("package.name") == nil || edition != nil && edition.Value == "2015" || edition == nil && f.Get("package.edition.workspace") == nil {
		return "", "", false
	}
	as := func(written string) bool {
		written = strings.ReplaceAll(strings.Trim(written, `"`), "-", "_")
		bare := strings.TrimSuffix(strings.TrimPrefix(strings.TrimPrefix(written, "rust_"), "rs_"), "_rs") // what the library in it is often called
		return written == name || bare == name || strings.ReplaceAll(written, "_", "") == strings.ReplaceAll(name, "_", "")
	}
	if as(f.Get("package.name").Value) || f.Get("lib.name") != nil && as(f.Get("lib.name").Value) {
		return "", "", false
	}
	for _, k := range f.Of(refs.Key) {
		list, rest, found := strings.Cut(k.Name, "dependencies.")
		if first, _, _ := strings.Cut(rest, "."); found && (list == "" || strings.HasSuffix(list, "-") || strings.HasSuffix(list, ".")) && as(first) {
			return "", "", false
		}
	}
	if binds := bindsName(c.Graph.Code(e.From), name); binds || !inCrate(path.Dir(at), e.From) {
		return "", "", false
	}
	return name, at, true
}

// bindsName says whether a text of Rust gives a name to something, or may: a module, another import,
// a macro that makes them.
func bindsName(code []byte, name string) bool {
	return slices.ContainsFunc(lang.Words(code, name), func(i int) bool {
		before := strings.TrimRight(string(code[max(0, i-40):i]), " \t\n")
		behind := strings.TrimLeft(string(code[i+len(name):min(len(code), i+len(name)+3)]), " ")
		word := before[strings.LastIndexAny(before, " \t\n({;")+1:]
		return slices.Contains([]string{"mod", "as", "crate", "fn", "let", "type"}, word) || !strings.HasPrefix(behind, "::")
	})
}

// inCrate says whether a file lies where Cargo looks for code of a crate.
func inCrate(dir, at string) bool {
	rest := strings.TrimPrefix(at, dir+"/")
	first, _, _ := strings.Cut(rest, "/")
	return slices.Contains([]string{"src", "tests", "benches", "examples"}, first) && (first == "src" || strings.Count(rest, "/") == 1)
}
