package cli_test

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"dicaxon/internal/treetest"
)

// TestSavedPlan writes a plan that was saved, unless something that it touches has changed.
func TestSavedPlan(t *testing.T) {
	dir := filepath.Join(unpack(t), "ferry")
	o := run(t, dir, "realign", "--format", "json")
	plan := filepath.Join(t.TempDir(), "plan.json")
	if err := os.WriteFile(plan, []byte(o.out), 0o644); err != nil {
		t.Fatal(err)
	}
	if o := run(t, dir, "realign", "--plan", plan); o.status != 0 || !strings.Contains(o.out, "5 moves, 2 new files, 4 edits") || !strings.Contains(o.out, "Nothing was written") {
		t.Errorf("status %d: %s%s", o.status, o.out, o.err)
	}
	at := filepath.Join(dir, "ferry/__init__.py")
	text, err := os.ReadFile(at)
	if err != nil {
		t.Fatal(err)
	}
	treetest.Add(t, dir, map[string]string{"ferry/__init__.py": string(text) + "# mine\n"})
	if o := run(t, dir, "realign", "--plan", plan, "--write"); o.status != 2 || !strings.Contains(o.err, "ferry/__init__.py was changed meanwhile") {
		t.Errorf("status %d: %s%s", o.status, o.out, o.err)
	}
	treetest.Add(t, dir, map[string]string{"ferry/__init__.py": string(text)})
	if o := run(t, dir, "realign", "--plan", plan, "--write"); o.status != 0 || !strings.Contains(o.out, "Done: 5 moves") {
		t.Fatalf("status %d: %s%s", o.status, o.out, o.err)
	}
	if _, err := os.Stat(filepath.Join(dir, "ferry/berths/views.py")); err != nil {
		t.Error(err)
	}
	if o := run(t, dir, "undo"); o.status != 0 {
		t.Errorf("status %d: %s", o.status, o.err)
	}
	if _, err := os.Stat(filepath.Join(dir, "ferry/berths/view.py")); err != nil {
		t.Error(err)
	}
}

// TestPatchApplies lets git say that a plan's patch can be applied.
func TestPatchApplies(t *testing.T) {
	dir := filepath.Join(unpack(t), "ferry")
	o := run(t, dir, "realign", "--format", "patch")
	patch := filepath.Join(t.TempDir(), "plan.patch")
	if err := os.WriteFile(patch, []byte(o.out), 0o644); err != nil || o.status != 0 {
		t.Fatal(err, o.err)
	}
	command(t, dir, "git", "init", "--quiet")
	command(t, dir, "git", "apply", patch)
	if o := run(t, dir, "realign"); !strings.Contains(o.out, "Nothing here can be put right") {
		t.Errorf("after the patch: %s%s", o.out, o.err)
	}
}
