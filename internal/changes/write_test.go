package changes

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"maps"
	"math/rand/v2"
	"os"
	"path"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"dicaxon/internal/edit"
	"dicaxon/internal/safe"
	"dicaxon/internal/treetest"
)

// ferry makes a small tree with a state folder of its own, files of several modes and of
// an old time.
func ferry(t *testing.T) string {
	t.Helper()
	t.Setenv("XDG_STATE_HOME", t.TempDir())
	dir := treetest.Make(t, map[string]string{
		"app/berths/card.html": "card\n", "app/berths/views.py": "from app.berths import card\n", "app/berths/__pycache__/x.pyc": "x",
		"app/crews.py": "crews = 1\n", "tools/run.sh": "#!/bin/sh\n", "empty/.gitkeep": "", "notes.md": "notes\n",
	})
	old := time.Date(2026, 3, 1, 12, 0, 0, 12345, time.UTC)
	for at := range picture(t, dir) {
		if !strings.HasSuffix(at, "/") {
			if err := os.Chtimes(filepath.Join(dir, at), old, old); err != nil {
				t.Fatal(err)
			}
		}
	}
	if err := os.Chmod(filepath.Join(dir, "tools/run.sh"), 0o750); err != nil {
		t.Fatal(err)
	}
	return dir
}

// picture tells everything of a tree: texts, modes, and the times of files.
func picture(t *testing.T, dir string) map[string]string {
	t.Helper()
	all := map[string]string{}
	err := filepath.WalkDir(dir, func(at string, e fs.DirEntry, err error) error {
		if err != nil || at == dir {
			return err
		}
		rel, _ := filepath.Rel(dir, at)
		if rel = filepath.ToSlash(rel); rel == ".git" {
			return fs.SkipDir
		}
		info, err := e.Info()
		if err != nil {
			return err
		}
		if e.IsDir() {
			all[rel+"/"] = info.Mode().String()
			return nil
		}
		if e.Type()&fs.ModeSymlink != 0 {
			all[rel], err = os.Readlink(at)
			return err
		}
		text, err := os.ReadFile(at)
		all[rel] = fmt.Sprint(info.Mode(), info.ModTime().UnixNano(), string(text))
		return err
	})
	if err != nil {
		t.Fatal(err)
	}
	return all
}

func same(t *testing.T, what string, got, want map[string]string) {
	t.Helper()
	for at, is := range want {
		if got[at] != is {
			t.Errorf("%s: %s is %q and not %q", what, at, got[at], is)
		}
	}
	for at := range got {
		if _, known := want[at]; !known {
			t.Errorf("%s: %s is there", what, at)
		}
	}
}

func seen(t *testing.T, dir string, paths ...string) map[string]string {
	t.Helper()
	all := map[string]string{}
	for _, at := range paths {
		text, err := os.ReadFile(filepath.Join(dir, at))
		if err != nil {
			t.Fatal(err)
		}
		all[at] = Digest(text)
	}
	return all
}

// regroup is a plan of everything that a plan can hold.
func regroup(t *testing.T, dir string) *Plan {
	return &Plan{
		Moves: []Move{{"app/berths/", "ferry/areas/berths/"}, {"app/berths/card.html", "ferry/pages/card.html"}, {"app/crews.py", "app/berths/crews.py"[:3] + "/crew.py"}, {"notes.md", "empty/notes.md"}},
		Edits: []edit.Edit{{Path: "app/berths/views.py", Start: 5, End: 8, Text: "ferry.areas"}, {Path: "tools/run.sh", Start: 10, End: 10, Text: "true\n"}},
		Makes: []Make{{Path: "ferry/__init__.py"}, {Path: "ferry/areas/berths/static/", Text: ""}, {Path: "bin/go", Text: "x\n", Executable: true}},
		Drops: []string{"empty/.gitkeep"},
		Seen:  seen(t, dir, "app/berths/views.py", "tools/run.sh"),
	}
}

var why = Why{Command: "dicaxon realign", Summary: "regroup"}

func TestWriteAndUndo(t *testing.T) {
	dir := ferry(t)
	before := picture(t, dir)
	record, err := regroup(t, dir).Write(t.Context(), dir, why)
	if err != nil {
		t.Fatal(err)
	}
	after := picture(t, dir)
	var there []string
	for at := range after {
		if !strings.HasSuffix(at, "/") {
			there = append(there, at)
		}
	}
	slices.Sort(there)
	if got, want := strings.Join(there, " "), "app/crew.py bin/go empty/notes.md ferry/__init__.py ferry/areas/berths/__pycache__/x.pyc ferry/areas/berths/views.py ferry/pages/card.html tools/run.sh"; got != want {
		t.Errorf("there is %s", got)
	}
	if text, _ := os.ReadFile(filepath.Join(dir, "ferry/areas/berths/views.py")); string(text) != "from ferry.areas.berths import card\n" {
		t.Errorf("views: %q", text)
	}
	if info, _ := os.Stat(filepath.Join(dir, "tools/run.sh")); info.Mode().Perm() != 0o750 {
		t.Errorf("the mode became %v", info.Mode())
	}
	if info, _ := os.Stat(filepath.Join(dir, "bin/go")); info.Mode().Perm()&0o100 == 0 {
		t.Error("it cannot be run")
	}
	all, err := Records(dir)
	if err != nil || len(all) != 1 || all[0].Command != why.Command || all[0].at != record.at {
		t.Errorf("%v %v", all, err)
	}
	if _, err := Undo(t.Context(), dir, false); err != nil {
		t.Fatal(err)
	}
	same(t, "undone", picture(t, dir), before)
	if _, err := Undo(t.Context(), dir, false); !errors.Is(err, ErrNothing) {
		t.Error(err)
	}
}

// TestIntoAnEmptyFolder moves a folder to where an empty one stands, and takes that back.
func TestIntoAnEmptyFolder(t *testing.T) {
	dir := ferry(t)
	for _, at := range []string{"left/in/side/", "taken/"} {
		if err := os.MkdirAll(filepath.Join(dir, at), 0o750); err != nil {
			t.Fatal(err)
		}
	}
	if err := os.WriteFile(filepath.Join(dir, "taken/x"), nil, 0o600); err != nil {
		t.Fatal(err)
	}
	before := picture(t, dir)
	for to, fits := range map[string]bool{"left/": true, "taken/": false} {
		p := &Plan{Moves: []Move{{From: "app/", To: to}}}
		if _, err := p.Write(t.Context(), dir, why); (err == nil) != fits {
			t.Errorf("%s: %v", to, err)
		}
		if _, err := os.Stat(filepath.Join(dir, to, "crews.py")); (err == nil) != fits {
			t.Errorf("%s: %v", to, err)
		}
		if !fits {
			continue
		}
		if _, err := Undo(t.Context(), dir, false); err != nil {
			t.Fatal(err)
		}
		same(t, "undone", picture(t, dir), before)
	}
}

// TestWithinWhatMoves renames a folder, and something in it where it lies then.
func TestWithinWhatMoves(t *testing.T) {
	dir := ferry(t)
	before := picture(t, dir)
	p := &Plan{Moves: []Move{{"app/", "ferry/"}, {"app/berths/", "ferry/piers/"}, {"app/berths/views.py", "ferry/piers/pages.py"}}}
	if _, err := p.Write(t.Context(), dir, why); err != nil {
		t.Fatal(err)
	}
	for at, there := range map[string]bool{"ferry/piers/pages.py": true, "ferry/crews.py": true, "ferry/berths": false, "app": false} {
		if _, err := os.Stat(filepath.Join(dir, at)); (err == nil) != there {
			t.Errorf("%s: %v", at, err)
		}
	}
	if _, err := Undo(t.Context(), dir, false); err != nil {
		t.Fatal(err)
	}
	same(t, "undone", picture(t, dir), before)
}

// TestBelow writes a plan of a folder from further up.
func TestBelow(t *testing.T) {
	dir := ferry(t)
	before := picture(t, dir)
	p := &Plan{Moves: []Move{{"berths/", "piers/"}}, Makes: []Make{{Path: "x.py"}}, Edits: []edit.Edit{{Path: "crews.py", Start: 0, End: 1, Text: "k"}}, Seen: seen(t, filepath.Join(dir, "app"), "crews.py")}
	if _, err := p.Below("app/").Write(t.Context(), dir, why); err != nil {
		t.Fatal(err)
	}
	for _, at := range []string{"app/piers/views.py", "app/x.py"} {
		if _, err := os.Stat(filepath.Join(dir, at)); err != nil {
			t.Error(err)
		}
	}
	if _, err := Undo(t.Context(), dir, false); err != nil {
		t.Fatal(err)
	}
	same(t, "undone", picture(t, dir), before)
}

// TestUndoTwice takes back two commands, the last first.
func TestUndoTwice(t *testing.T) {
	dir := ferry(t)
	before := picture(t, dir)
	for i := range 2 {
		p := &Plan{Makes: []Make{{Path: fmt.Sprintf("new/%d.txt", i), Text: "x"}}}
		if _, err := p.Write(t.Context(), dir, why); err != nil {
			t.Fatal(err)
		}
	}
	for range 2 {
		if _, err := Undo(t.Context(), dir, false); err != nil {
			t.Fatal(err)
		}
	}
	same(t, "undone", picture(t, dir), before)
}

func TestUndoRefuses(t *testing.T) {
	dir := ferry(t)
	if _, err := regroup(t, dir).Write(t.Context(), dir, why); err != nil {
		t.Fatal(err)
	}
	add := func(at, text string) {
		t.Helper()
		file, err := os.OpenFile(filepath.Join(dir, at), os.O_APPEND|os.O_WRONLY, 0)
		if err != nil {
			t.Fatal(err)
		}
		if _, err := file.WriteString(text); err != nil {
			t.Fatal(err)
		}
		file.Close()
	}
	add("ferry/areas/berths/views.py", "# mine\n")
	add("app/crew.py", "# mine too\n")
	before := picture(t, dir)
	_, err := Undo(t.Context(), dir, false)
	edited := new(EditedError)
	if !errors.As(err, &edited) || strings.Join(edited.Files, " ") != "app/crew.py ferry/areas/berths/views.py" {
		t.Fatalf("%v", err)
	}
	same(t, "refused", picture(t, dir), before)
	if _, err := Undo(t.Context(), dir, true); err != nil {
		t.Fatal(err)
	}
	for at, want := range map[string]string{"app/berths/views.py": "from ferry.areas.berths import card\n# mine\n", "app/crews.py": "crews = 1\n# mine too\n", "notes.md": "notes\n"} {
		if got, err := os.ReadFile(filepath.Join(dir, at)); string(got) != want {
			t.Errorf("%s: %q %v", at, got, err)
		}
	}
}

// TestNothingIsChanged holds every cause for which a plan must not be written.
func TestNothingIsChanged(t *testing.T) {
	outside := t.TempDir()
	for name, c := range map[string]struct {
		prepare func(dir string, p *Plan)
		want    error
	}{
		"the target is taken":       {func(dir string, p *Plan) { p.Moves[2].To = "tools/run.sh" }, ErrTaken},
		"a new file is there":       {func(dir string, p *Plan) { p.Makes[0].Path = "tools/run.sh" }, ErrTaken},
		"a file changed meanwhile":  {func(dir string, p *Plan) { os.WriteFile(filepath.Join(dir, "tools/run.sh"), []byte("x"), 0o644) }, ErrChanged},
		"a file is gone":            {func(dir string, p *Plan) { os.Remove(filepath.Join(dir, "notes.md")) }, ErrChanged},
		"out of the root":           {func(dir string, p *Plan) { p.Moves[3].To = "../notes.md" }, ErrOutside},
		"an absolute path":          {func(dir string, p *Plan) { p.Makes[0].Path = "/tmp/x" }, ErrOutside},
		"into git's own":            {func(dir string, p *Plan) { p.Makes[0].Path = ".git/hooks/pre-commit" }, ErrOutside},
		"into git's own, disguised": {func(dir string, p *Plan) { p.Makes[0].Path = "a/.GIT/config" }, ErrOutside},
		"a folder into itself":      {func(dir string, p *Plan) { p.Moves[0].To = "app/berths/berths/" }, nil},
		"edits that overlap": {func(dir string, p *Plan) {
			p.Edits = append(p.Edits, edit.Edit{Path: "tools/run.sh", Start: 9, End: 11}, edit.Edit{Path: "tools/run.sh", Start: 8, End: 10})
		}, nil},
		"a marker that holds a text": {func(dir string, p *Plan) { os.WriteFile(filepath.Join(dir, "empty/.gitkeep"), []byte("x"), 0o644) }, ErrChanged},
		"through a link out of it": {func(dir string, p *Plan) {
			os.Symlink(outside, filepath.Join(dir, "out"))
			p.Makes[0].Path = "out/x.py"
		}, nil},
		"two that wait for each other": {func(dir string, p *Plan) {
			p.Moves = []Move{{"notes.md", "tools/run.sh"}, {"tools/run.sh", "notes.md"}}
		}, ErrTaken},
		"an edit of a link": {func(dir string, p *Plan) {
			os.Symlink("tools/run.sh", filepath.Join(dir, "link.sh"))
			p.Edits[1].Path, p.Seen["link.sh"] = "link.sh", p.Seen["tools/run.sh"]
		}, safe.ErrIrregular},
	} {
		t.Run(name, func(t *testing.T) {
			dir := ferry(t)
			p := regroup(t, dir)
			c.prepare(dir, p)
			before := picture(t, dir)
			_, err := p.Write(t.Context(), dir, why)
			if err == nil || c.want != nil && !errors.Is(err, c.want) {
				t.Errorf("%v", err)
			}
			same(t, "refused", picture(t, dir), before)
			if there, _ := os.ReadDir(outside); len(there) > 0 {
				t.Error("something was written outside")
			}
			if all, _ := recordsOf(dir); len(all) > 0 {
				t.Error("a record is left")
			}
		})
	}
}

// TestManyPlans carries out plans made at random and takes them back, to the byte.
func TestManyPlans(t *testing.T) {
	for seed := range uint64(300) {
		r := rand.New(rand.NewPCG(seed, 7))
		dir := ferry(t)
		before := picture(t, dir)
		all := slices.Sorted(maps.Keys(before))
		p := &Plan{Seen: map[string]string{}}
		for range 1 + r.IntN(4) {
			from := all[r.IntN(len(all))]
			to := fmt.Sprintf("n%d/%s", r.IntN(3), path.Base(from))
			if strings.HasSuffix(from, "/") {
				to += "/"
			}
			p.Moves = append(p.Moves, Move{from, to})
		}
		for _, at := range []string{"app/crews.py", "notes.md"} {
			p.Edits = append(p.Edits, edit.Edit{Path: at, Start: 1, End: 2, Text: "ZZ"})
			maps.Copy(p.Seen, seen(t, dir, at))
		}
		if _, err := p.Write(t.Context(), dir, why); err != nil {
			same(t, fmt.Sprint("refused ", seed), picture(t, dir), before)
			continue
		}
		if _, err := Undo(t.Context(), dir, false); err != nil {
			t.Fatalf("seed %d: %v", seed, err)
		}
		same(t, fmt.Sprint("seed ", seed), picture(t, dir), before)
	}
}

func TestSecondWriterIsTold(t *testing.T) {
	dir := ferry(t)
	root, _ := whole(dir)
	stage, err := hold(t.Context(), root, "dicaxon add area tides")
	if err != nil {
		t.Fatal(err)
	}
	defer stage.Close()
	ctx, cancel := context.WithTimeout(t.Context(), 2*patience)
	defer cancel()
	if _, err := regroup(t, dir).Write(ctx, dir, why); err == nil || !strings.Contains(err.Error(), "dicaxon add area tides") {
		t.Errorf("%v", err)
	}
}
