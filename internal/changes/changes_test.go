//go:build unix

package changes

import (
	"context"
	"errors"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"dicaxon/internal/safe"
	"dicaxon/internal/treetest"
)

func listing(t *testing.T, dir string) string {
	t.Helper()
	all, err := os.ReadDir(dir)
	if err != nil {
		t.Fatal(err)
	}
	var said []string
	for _, e := range all {
		said = append(said, e.Name())
	}
	return strings.Join(said, " ")
}

func begin(t *testing.T, dir string, files ...string) *Stage {
	t.Helper()
	s, err := Begin(t.Context(), dir)
	if err != nil {
		t.Fatal(err)
	}
	for _, name := range files {
		if err := Create(filepath.Join(s.Dir, name), []byte(name), 0o644); err != nil {
			t.Fatal(err)
		}
	}
	return s
}

func TestStage(t *testing.T) {
	dir := treetest.Make(t, map[string]string{"berths.txt": "old"})
	s := begin(t, dir, "tides.txt", "berths.txt")
	if err := s.Place("tides.txt"); err != nil {
		t.Error(err)
	}
	s.Close()
	if got := listing(t, dir); got != "berths.txt tides.txt" {
		t.Errorf("there is %q", got)
	}
	// All or nothing: one of the names is taken.
	s = begin(t, dir, "crews.txt", "berths.txt")
	if err := s.PlaceAll(); !errors.Is(err, ErrTaken) {
		t.Error(err)
	}
	s.Close()
	if got := listing(t, dir); got != "berths.txt tides.txt" {
		t.Errorf("there is %q", got)
	}
	if err := WriteFile(t.Context(), filepath.Join(dir, "berths.txt"), []byte("new"), 0o644); err != nil {
		t.Error(err)
	}
	if text, _ := os.ReadFile(filepath.Join(dir, "berths.txt")); string(text) != "new" {
		t.Errorf("it holds %q", text)
	}
	if _, err := Begin(t.Context(), filepath.Join(dir, "none")); err == nil {
		t.Error("a stage nowhere")
	}
}

// TestDeadStages finds what runs left that were cut off: before their last step it goes, from
// there on it is finished.
func TestDeadStages(t *testing.T) {
	for name, c := range map[string]struct {
		files map[string]string
		ended string
		left  string
	}{
		"nothing made":          {map[string]string{"x/": ""}, "", "mine.txt"},
		"half made":             {map[string]string{"making/a.txt": "a"}, "", "mine.txt"},
		"a list, nothing moved": {map[string]string{"making/a.txt": "a", "making/b/c.txt": "c", "moving": "a.txt\nb\n"}, "a.txt b", "a.txt b mine.txt"},
		"one moved":             {map[string]string{"making/b/c.txt": "c", "moving": "a.txt\nb\n"}, "a.txt b", "b mine.txt"},
		"a list that lies":      {map[string]string{"making/a.txt": "a", "moving": "../a.txt\n/etc\na.txt\n"}, "a.txt", "a.txt mine.txt"},
	} {
		t.Run(name, func(t *testing.T) {
			dir := treetest.Make(t, map[string]string{"mine.txt": "x"})
			for path, text := range c.files {
				at := filepath.Join(dir, safe.Stage+"1", path)
				if err := os.MkdirAll(filepath.Dir(at), 0o755); err != nil {
					t.Fatal(err)
				}
				if !strings.HasSuffix(path, "/") {
					if err := os.WriteFile(at, []byte(text), 0o644); err != nil {
						t.Fatal(err)
					}
				}
			}
			ended, err := Clear(t.Context(), dir)
			if err != nil || strings.Join(ended, " ") != c.ended || listing(t, dir) != c.left {
				t.Errorf("ended %q, left %q, %v", ended, listing(t, dir), err)
			}
		})
	}
	// Where something came into the place meanwhile, nothing is written over.
	dir := treetest.Make(t, map[string]string{"a.txt": "mine", safe.Stage + "1/making/a.txt": "theirs", safe.Stage + "1/moving": "a.txt\n"})
	if _, err := Clear(t.Context(), dir); !errors.Is(err, ErrTaken) {
		t.Error(err)
	}
	if text, _ := os.ReadFile(filepath.Join(dir, "a.txt")); string(text) != "mine" {
		t.Errorf("it holds %q", text)
	}
}

// TestStuck lets what came into its place not be taken back: the stage stays, and the next run finishes it.
func TestStuck(t *testing.T) {
	dir := t.TempDir()
	s := begin(t, dir, "a.txt", "b.txt")
	stage := filepath.Dir(s.Dir)
	way := filepath.Join(s.Dir, "a.txt")
	if err := errors.Join(s.PlaceAll(), os.Rename(filepath.Join(dir, "b.txt"), filepath.Join(s.Dir, "b.txt")), os.MkdirAll(filepath.Join(way, "x"), 0o755)); err != nil {
		t.Fatal(err)
	}
	if err := s.takeBack([]string{"a.txt"}); err == nil || !strings.Contains(err.Error(), "the next run there finishes it") {
		t.Error(err)
	}
	s.Close()
	if _, err := os.Stat(stage); err != nil {
		t.Fatal(err)
	}
	if err := os.RemoveAll(way); err != nil {
		t.Fatal(err)
	}
	if ended, err := Clear(t.Context(), dir); err != nil || strings.Join(ended, " ") != "a.txt b.txt" || listing(t, dir) != "a.txt b.txt" {
		t.Errorf("ended %q, left %q, %v", ended, listing(t, dir), err)
	}
}

// TestOneAtATime lets a second writer wait, and give up when it is told to.
func TestOneAtATime(t *testing.T) {
	dir := t.TempDir()
	first := begin(t, dir, "a.txt")
	ctx, cancel := context.WithTimeout(t.Context(), 50*time.Millisecond)
	defer cancel()
	if _, err := Begin(ctx, dir); !errors.Is(err, context.DeadlineExceeded) {
		t.Errorf("the second did not wait: %v", err)
	}
	time.AfterFunc(50*time.Millisecond, first.Close)
	second := begin(t, dir)
	second.Close()
	if got := listing(t, dir); got != "" {
		t.Errorf("left behind: %q", got)
	}
}
