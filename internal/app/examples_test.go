package app_test

import (
	"context"
	"fmt"
	"os"
	"path"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"golang.org/x/tools/txtar"

	"dicaxon/internal/app"
	"dicaxon/internal/explain"
	"dicaxon/internal/finding"
	"dicaxon/internal/treetest"
)

// examples is where the living examples of each layout lie.
const examples = "../catalogue/layouts/*/*/examples/*.txtar"

// An example is a tree that a layout's scaffold did not make, with what is to be said
// of it and of slips in it.
type example struct {
	layout string
	from   string
	says   []string // "level kind path", each with its reason behind a colon
	slips  []slip
	files  map[string]string
}

// A slip is one change that people make by mistake, and the finding that tells it.
type slip struct {
	line string
	do   []string
	want string // "kind path", the path as a part of that of the finding
}

func readExample(t *testing.T, file string) *example {
	t.Helper()
	a, err := txtar.ParseFile(file)
	if err != nil {
		t.Fatal(err)
	}
	dir := path.Dir(path.Dir(filepath.ToSlash(file)))
	e := &example{layout: path.Base(path.Dir(dir)) + "/" + path.Base(dir), files: map[string]string{}}
	for _, line := range strings.Split(strings.TrimSpace(string(a.Comment)), "\n") {
		key, rest, _ := strings.Cut(line, ": ")
		switch key {
		case "From":
			e.from = rest
		case "Says":
			what, reason, ok := strings.Cut(rest, ": ")
			if !ok || reason == "" {
				t.Fatalf("%s: %q gives no reason", file, line)
			}
			e.says = append(e.says, what)
		case "Slip":
			e.slips = append(e.slips, readSlip(t, rest))
		default:
			t.Fatalf("%s: %q is no From, Says or Slip", file, line)
		}
	}
	for _, f := range a.Files {
		e.files[f.Name] = string(f.Data)
	}
	return e
}

// readSlip reads "what is done -> what is told".
func readSlip(t *testing.T, line string) slip {
	t.Helper()
	do, want, ok := strings.Cut(line, " -> ")
	if !ok {
		t.Fatalf("%q does not say what is told", line)
	}
	return slip{line, strings.SplitN(do, " ", 3), want}
}

// TestLivingExamples holds each layout against trees that its scaffold did not make:
// they are known, nothing is said but what stands beside them, everything in them is
// explained, and slips in them are told.
func TestLivingExamples(t *testing.T) {
	t.Parallel()
	eachExample(t, func(t *testing.T, e *example, root string) {
		r := e.right(t, root)
		for _, s := range e.slips {
			e.slip(t, root, s, r)
		}
		if e.from == "" {
			t.Error("it does not say what it was taken from")
		}
	})
}

// eachExample tests something of every living example, laid out at root.
func eachExample(t *testing.T, test func(t *testing.T, e *example, root string)) {
	files, err := filepath.Glob(examples)
	if err != nil {
		t.Fatal(err)
	}
	for _, file := range files {
		e := readExample(t, file)
		t.Run(e.layout+"/"+strings.TrimSuffix(filepath.Base(file), ".txtar"), func(t *testing.T) {
			t.Parallel()
			test(t, e, treetest.Make(t, e.files))
		})
	}
}

// right holds that the example itself is in order.
func (e *example) right(t *testing.T, root string) map[string]bool {
	t.Helper()
	r, err := app.Check(context.Background(), root, app.Options{})
	if err != nil {
		t.Fatal(err)
	}
	if p := r.Projects[0]; p.Layout.Name != e.layout {
		nearest := ""
		if p.Nearest != nil {
			nearest = fmt.Sprint(" ", *p.Nearest)
		}
		t.Errorf("it is known as %s at %s%s (%s)", p.Layout.Name, p.At, nearest, p.Framework)
	}
	known := map[string]bool{}
	var said []string
	for _, p := range r.Projects {
		for _, f := range p.Findings {
			known[string(f.Kind)+" "+f.Path+" "+f.Message] = true
			what := fmt.Sprintf("%s %s %s", f.Level, f.Kind, f.Path)
			if slices.Contains(e.says, what) {
				said = append(said, what)
			} else if f.Level < finding.Note {
				t.Errorf("%s: %s %v", what, f.Message, f.Places())
			}
		}
	}
	for at := range e.files {
		for ; at != "."; at = path.Dir(at) {
			if a := explain.Path(r.Workspace, at); !a.Described && !a.Usual && a.Part == "" || a.Role == "" {
				t.Errorf("%s is not explained", at)
			}
		}
	}
	for _, what := range e.says {
		if !slices.Contains(said, what) {
			t.Errorf("%s is not said any more", what)
		}
	}
	return known
}

// make makes a slip in the tree.
func (s *slip) make(t *testing.T, root string) {
	t.Helper()
	at := func(p string) string { return filepath.Join(root, filepath.FromSlash(p)) }
	do := func(err error) {
		if err != nil {
			t.Fatalf("%s: %v", s.line, err)
		}
	}
	switch verb, on := s.do[0], s.do[1]; verb {
	case "move":
		do(os.MkdirAll(filepath.Dir(at(s.do[2])), 0o755))
		do(os.Rename(at(on), at(s.do[2])))
	case "drop":
		do(os.RemoveAll(at(on)))
	case "add":
		treetest.Add(t, root, map[string]string{on: strings.ReplaceAll(s.do[2], `\n`, "\n") + "\n"})
	case "edit":
		parts := strings.Split(s.do[2], s.do[2][:1])
		text, err := os.ReadFile(at(on))
		do(err)
		changed := strings.Replace(string(text), strings.ReplaceAll(parts[1], `\n`, "\n"), strings.ReplaceAll(parts[2], `\n`, "\n"), 1)
		if changed == string(text) {
			t.Fatalf("%s: there is no %q", s.line, parts[1])
		}
		do(os.WriteFile(at(on), []byte(changed), 0o644))
	default:
		t.Fatalf("%s: %s is no slip", s.line, verb)
	}
}

// slip makes one slip, looks whether it is told, and takes it back.
func (e *example) slip(t *testing.T, root string, s slip, known map[string]bool) {
	t.Helper()
	s.make(t, root)
	r, err := app.Check(context.Background(), root, app.Options{})
	if err != nil {
		t.Fatalf("%s: %v", s.line, err)
	}
	kind, where, _ := strings.Cut(s.want, " ")
	told := false
	var said []string
	for _, p := range r.Projects {
		for _, f := range p.Findings {
			if known[string(f.Kind)+" "+f.Path+" "+f.Message] {
				continue
			}
			said = append(said, fmt.Sprintf("%s %s %s: %s %v", f.Level, f.Kind, f.Path, f.Message, f.Places()))
			told = told || slices.Contains(strings.Split(kind, "|"), string(f.Kind)) && (strings.Contains(f.Path+" "+f.Message, where) || slices.ContainsFunc(append(f.Also, f.Places()...), func(p string) bool { return strings.Contains(p, where) }))
		}
	}
	if !told {
		t.Errorf("%s: not told; it says %s of %s", s.line, strings.Join(said, "; "), r.Projects[0].Layout.Name)
	}
	treetest.Restore(t, root, e.files)
}
