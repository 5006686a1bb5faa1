package scaffold

import (
	"errors"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"dicaxon/internal/catalogue"
	"dicaxon/internal/layout"
	"dicaxon/internal/treetest"
)

// made is a layout with one of everything that scaffold knows.
const made = `dicaxon: 1
layout: gannet/made
title: T
starter-marks: ["[[", "]]"]
asks:
  project: {question: Q, default: ferry, shape: snake}
  area: {question: Q, default: home, shape: snake, several: true}
  motto: {question: Q, default: any text at all}
first-steps: ["cd [[.project]]", "see [[join .areas \", \"]]"]
tree:
  notes.txt: {role: R., starter: notes}
  none.txt: {need: must, role: No starter.}
  made/: {need: must, role: Made by a program., made-by: x}
  banned/: {need: must-not, role: R.}
  kept/: {need: should, role: R.}
  left/: {role: R.}
  a | b/: {role: R.}
  <project>/: {need: must, role: R., tree: {<area>/: {unit: area, role: R., tree: {<area>.txt: {role: R., starter: area}}}, deep/: {role: R., tree: {in/: {need: must, role: R.}}}}}
  tests/: {role: R., tree: {test_<area>: {role: R., starter: area}}}
`

func theLayout(t *testing.T) *layout.Layout {
	t.Helper()
	dir := treetest.Make(t, map[string]string{
		layout.FileName:       strings.Replace(made, "  a | b/: {role: R.}\n", "", 1),
		"starters/notes.tmpl": "[[.project]] [[.motto]] [[range .areas]]<[[pascal .]] [[plural .]]>[[end]] {{.kept}}\n",
		"starters/area.tmpl":  "[[.area]] of [[.project]]\n",
	})
	l, err := layout.Resolve(catalogue.Catalogue{Dir: dir}, ".")
	if err != nil {
		t.Fatal(err)
	}
	return l
}

func TestMake(t *testing.T) {
	p, err := Make(theLayout(t), map[string]string{"area": "tide, berth_plan"})
	if err != nil {
		t.Fatal(err)
	}
	var paths []string
	texts := map[string]string{}
	for _, item := range p.Items {
		paths = append(paths, item.Path)
		texts[item.Path] = string(item.Text)
	}
	want := []string{"notes.txt", "kept/", "kept/.gitkeep", "ferry/", "ferry/tide/", "ferry/tide/tide.txt", "ferry/berth_plan/",
		"ferry/berth_plan/berth_plan.txt", "tests/", "tests/test_tide", "tests/test_berth_plan"}
	if !slices.Equal(paths, want) {
		t.Errorf("got  %q\nwant %q", paths, want)
	}
	if got := texts["notes.txt"]; got != "ferry any text at all <Tide tides><BerthPlan berth_plans> {{.kept}}\n" {
		t.Errorf("%q", got)
	}
	if got := texts["ferry/tide/tide.txt"]; got != "tide of ferry\n" {
		t.Errorf("%q", got)
	}
	if !slices.Equal(p.FirstSteps, []string{"cd ferry", "see tide, berth_plan"}) {
		t.Errorf("%q", p.FirstSteps)
	}
}

func TestMakeRefuses(t *testing.T) {
	for _, c := range []struct{ key, answer, says string }{
		{"area", "a,a", `area names "a" twice`}, {"area", "A", "snake case"}, {"area", "", ""}, {"area", "a,,b", "area is empty"},
		{"project", "tests", "has that name for another purpose"}, {"project", "../x", "snake case"}, {"project", "a/b", "snake case"},
		{"area", "deep", "has that name for another purpose"}, {"moto", "x", `did you mean "motto"?`}, {"motto", "a\nb", "control character"},
	} {
		_, err := Make(theLayout(t), map[string]string{c.key: c.answer})
		if c.says == "" {
			continue
		}
		if err == nil || !strings.Contains(err.Error(), c.says) {
			t.Errorf("%s=%q: got %v, want %q", c.key, c.answer, err, c.says)
		}
	}
}

func TestWrite(t *testing.T) {
	p, err := Make(theLayout(t), nil)
	if err != nil {
		t.Fatal(err)
	}
	dir := t.TempDir()
	for _, at := range []string{"new", "deep/er/new", "empty"} {
		if at == "empty" {
			os.Mkdir(filepath.Join(dir, at), 0o755)
		}
		if err := p.Write(t.Context(), filepath.Join(dir, at), false); err != nil {
			t.Fatal(err)
		}
		if text, err := os.ReadFile(filepath.Join(dir, at, "ferry/home/home.txt")); err != nil || string(text) != "home of ferry\n" {
			t.Errorf("%s: %q %v", at, text, err)
		}
		if err := p.Write(t.Context(), filepath.Join(dir, at), false); !errors.Is(err, ErrNotEmpty) {
			t.Errorf("%s a second time: %v", at, err)
		}
	}
	// A file in the way of a folder: nothing is left of what was begun.
	treetest.Add(t, dir, map[string]string{"file": "x"})
	if err := p.Write(t.Context(), filepath.Join(dir, "file", "new"), false); err == nil {
		t.Error("a file is no folder")
	}
	left, _ := os.ReadDir(dir)
	if len(left) != 4 {
		t.Errorf("left behind: %v", left)
	}
	if text, _ := os.ReadFile(filepath.Join(dir, "file")); string(text) != "x" {
		t.Error("a file was written over")
	}
}

func TestTree(t *testing.T) {
	p, err := Make(theLayout(t), nil)
	if err != nil {
		t.Fatal(err)
	}
	lines := p.Tree()
	if len(lines) != 4 || lines[0].Name != "kept/" || lines[3].Name != "notes.txt" || lines[0].Below[0].Name != marker {
		t.Errorf("%+v", lines)
	}
}

// TestStartersShowWhatTheyAre holds every built-in starter to the text by which
// its entry is recognised.
func TestStartersShowWhatTheyAre(t *testing.T) {
	for _, name := range (catalogue.Catalogue{}).Names() {
		l, err := catalogue.Catalogue{}.Layout(name)
		if err != nil {
			t.Fatal(err)
		}
		p, err := Make(l, nil)
		if l.Base {
			continue
		}
		if err != nil {
			t.Errorf("%s: %v", name, err)
			continue
		}
		for _, item := range p.Items {
			if e := item.Entry; e.Shows != nil && !item.Marker && !e.Shows.Match(item.Text) {
				t.Errorf("%s: the starter of %s does not show %s", name, item.Path, e.Shows)
			}
		}
	}
}
