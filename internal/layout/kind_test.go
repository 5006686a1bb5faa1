package layout

import (
	"slices"
	"testing"
)

// TestKinds: an entry is of the kind that it says, or else of that of the nearest folder around it; a layout
// that builds on another may say otherwise.
func TestKinds(t *testing.T) {
	base := "dicaxon: 1\nlayout: team/base\ntitle: T\nbase: true\ntree:\n  routers/: {kind: routes, role: R., tree: {\"*.py\": {role: R.}, tests/: {role: T., tree: {\"*.py\": {kind: [tests, routes], role: R.}}}}}\n  main.py: {role: M.}\n"
	l := resolve(t, "builds-on: team/base\ntree:\n  main.py: {kind: programs}\n  shapes/: {role: S., tree: {\"*.py\": {kind: shapes of data, role: S.}}}\n", "team/base", base)
	for path, want := range map[string][]string{"routers/": {"routes"}, "routers/*.py": {"routes"}, "routers/tests/*.py": {"tests", "routes"}, "main.py": {"programs"}, "shapes/": nil, "shapes/*.py": {"shapes of data"}} {
		e := l.Find(path)
		if e == nil {
			t.Fatalf("there is no %s", path)
		}
		if got := e.Kind(); !slices.Equal(got, want) {
			t.Errorf("%s is of %q, not %q", path, got, want)
		}
	}
}

// TestFoundAnswers: a project that is there says an answer where the layout knows to look for it, if it is one.
func TestFoundAnswers(t *testing.T) {
	asks := func(more string) string {
		return "asks:\n  program: {question: Q, shape: kebab, default: server, refuses: [keywords/go], found-in: " + more + "}\n"
	}
	l := resolve(t, asks(`{file: go.mod, has: '^module\s+(?:\S*/)?([\w-]+)$'}`))
	for text, want := range map[string]string{"module a.example/ferryd\n": "ferryd", "// x\nmodule ferryD\n": "ferry-d", "module a.example/func\n": "", "go 1.26\n": "", "": ""} {
		got := l.Ask("program").Found(func(at string) []byte {
			if at != "go.mod" {
				t.Errorf("%s is read", at)
			}
			return []byte(text)
		})
		if got != want {
			t.Errorf("%q says %q, not %q", text, got, want)
		}
	}
	for _, bad := range []string{"{file: go.mod}", "{has: x}", "{file: go.mod, has: '('}", "{file: go.mod, has: 'x'}", "{file: go.mod, has: '(a)(b)'}", "go.mod"} {
		if _, err := Resolve(texts{"team/x": head + asks(bad)}, "team/x"); err == nil {
			t.Errorf("it takes %s", bad)
		}
	}
	if (&Ask{}).Found(nil) != "" {
		t.Error("what says nothing of it is found")
	}
}
