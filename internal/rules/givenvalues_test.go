package rules

import (
	"slices"
	"strings"
	"testing"

	"dicaxon/internal/lazy"
)

// TestFilledBehind reads what stands in the brackets behind the name of a type where a thing of it is made.
func TestFilledBehind(t *testing.T) {
	for code, want := range map[string]string{
		"Tides(high: 1)":            "high: 1",
		"new Tides (high: f(2))":    "high: f(2)",
		"let a = Tides { high: 1 }": " high: 1 ",
		"sea::Tides { high }":       " high ",
		"fn a() -> Tides { x: 1 }":  "-",
		"impl Tides { x: 1 }":       "-",
		"impl Sea for Tides { x }":  "-",
		"class A: Tides { x: 1 }":   "-",
		"match Tides { x: 1 }":      "-",
		"Tides.high":                "-",
		"Tides(high: 1":             "-",
	} {
		at := strings.Index(code, "Tides")
		got := "-"
		if inside, from := filledBehind([]byte(code), at, at+len("Tides")); inside != nil {
			if got = string(inside); !strings.HasPrefix(code[from:], got) {
				t.Errorf("%q: it begins at %d", code, from)
			}
		}
		if got != want {
			t.Errorf("%q: %q", code, got)
		}
	}
}

// TestMade gives the type of what a type makes, or one of its functions that says so.
func TestMade(t *testing.T) {
	body := "static Tides of(int n) { }\nstatic func read(_ text: String) throws -> Tides {\n}\nfn open(path: &Path) -> Result<Self> {\n}\nstatic int count() { }\nfun low(): Sea = x\n"
	types := &ownTypes{by: map[string][]*ownType{"Tides": {{name: "Tides", body: []byte(body)}}, "Added": {{name: "Added", adds: true}}}}
	for behind, want := range map[string]string{
		" = new Tides(1)": "Tides", " = Tides(a: 1)": "Tides", " = try await Tides(a)": "Tides", " = Tides { a: 1 }": "Tides", " = sea::Tides::open(x)?;": "Tides",
		" = Tides.of(1)": "Tides", " = try! Tides.read(x)": "Tides", " = Tides.count()": "", " = Tides.low()": "", " = Tides.lost()": "", " = Tides.HIGH;": "", " = Moon(1)": "", " = Added(1)": "", " = tides(1)": "", ": Tides": "",
	} {
		if got := types.made([]byte("x"+behind), 1); got != want {
			t.Errorf("%q: %q", behind, got)
		}
	}
}

// TestAround gives the inmost type in whose body something stands.
func TestAround(t *testing.T) {
	code := "class Sea {\n  a()\n  class Tide {\n    b()\n  }\n}\nc()\nimpl Sea {\n  d()\n}\n"
	types := &ownTypes{by: map[string][]*ownType{}}
	for _, at := range []int{strings.Index(code, "Sea"), strings.Index(code, "Tide"), strings.LastIndex(code, "Sea")} {
		name, _, _ := strings.Cut(code[at:], " ")
		types.add(&ownType{name: name, at: "a.rs", start: at}, []byte(code))
	}
	for what, want := range map[string]string{"a()": "Sea", "b()": "Tide", "c()": "", "d()": "Sea"} {
		if got := types.around("a.rs", strings.Index(code, what)); got != want {
			t.Errorf("%s: %q", what, got)
		}
	}
	if got := types.around("b.rs", 5); got != "" {
		t.Errorf("of another file: %q", got)
	}
}

// TestPathsBegin lists the names with which paths of Rust begin and that the code says nowhere else.
func TestPathsBegin(t *testing.T) {
	for code, want := range map[string][]string{
		"fs::read(); io::stdin();": {"fs", "io"}, "use std::fs;\nfs::read();": {}, "sea::fs::read();": {"sea"}, "Sea::fs();": {}, "u8::MAX + std::x::y;": {}, "let fs = 1; fs::read();": {},
		"a.fs::<T>();": {}, "$crate::x(); 'a::b": {}, "self::a::b(); crate::c::d();": {},
	} {
		if got := pathsBegin([]byte(code)); !slices.Equal(got, want) {
			t.Errorf("%q: %q", code, got)
		}
	}
}

// TestBasesOfWhatIsAdded reads what a part of a type that stands apart is built on before its name.
func TestBasesOfWhatIsAdded(t *testing.T) {
	c := &Call{regexps: map[string][]*lazy.Regexp{"bases": {lazy.New(`\bimpl\b\s*([\w:]+)\s+for\s`)}}}
	for before, want := range map[string][]string{"impl fmt::Display for ": {"Display"}, "impl Visit<Sea> for ": {"Visit"}, "impl ": {}} {
		if got := c.basesOf(&ownType{adds: true, before: []byte(before), head: []byte("Tides ")}); !slices.Equal(got, want) {
			t.Errorf("%q: %q", before, got)
		}
	}
}
