package history

import (
	"maps"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"dicaxon/internal/tree"
	"dicaxon/internal/treetest"
)

func git(t testing.TB, dir string, args ...string) string {
	t.Helper()
	cmd := exec.Command("git", append([]string{"-c", "user.name=Crew", "-c", "user.email=crew@gannet.example", "-c", "init.defaultBranch=main", "-c", "protocol.file.allow=always"}, args...)...)
	cmd.Dir = dir
	out, err := cmd.CombinedOutput()
	if err != nil {
		t.Fatalf("git %v: %v\n%s", args, err, out)
	}
	return strings.TrimSpace(string(out))
}

func listed(r *tree.Repository) (all []string) {
	for _, f := range r.Folders {
		for _, n := range f.Nodes {
			if n.Folder == nil {
				all = append(all, f.Path()+n.Name)
			}
		}
	}
	slices.Sort(all)
	return all
}

// TestRevisions compares with git itself, loose and packed.
func TestRevisions(t *testing.T) {
	root := treetest.Make(t, map[string]string{"a.txt": "one\n", "b/c.txt": "x", "b/d e/ä.txt": "y"})
	git(t, root, "init", "--quiet")
	for i, files := range []map[string]string{nil, {"a.txt": "two\n", "new.txt": ""}, {"b/c.txt": "z"}} {
		treetest.Add(t, root, files)
		git(t, root, "add", "--all")
		git(t, root, "commit", "--quiet", "-m", string(rune('a'+i)))
	}
	git(t, root, "tag", "light", "HEAD~1")
	git(t, root, "tag", "-a", "-m", "heavy", "heavy", "HEAD~2")
	git(t, root, "checkout", "--quiet", "-b", "side", "HEAD~1")
	treetest.Add(t, root, map[string]string{"side.txt": ""})
	git(t, root, "add", "--all")
	git(t, root, "commit", "--quiet", "-m", "side")
	git(t, root, "checkout", "--quiet", "main")
	git(t, root, "merge", "--quiet", "-m", "merge", "side")
	hash := git(t, root, "rev-parse", "HEAD~1")
	for _, packed := range []bool{false, true} {
		if packed {
			git(t, root, "gc", "--quiet", "--aggressive")
		}
		h, err := Open(root)
		if err != nil {
			t.Fatal(err)
		}
		for _, revision := range []string{"HEAD", "@", "main", "side", "light", "heavy", "HEAD~2", "HEAD^", "HEAD^2", "HEAD^2~1", "main~1^0", hash, hash[:8], "refs/heads/side"} {
			r, err := h.At(revision, nil)
			if err != nil {
				t.Fatalf("%s: %v", revision, err)
			}
			want := strings.Split(git(t, root, "-c", "core.quotePath=false", "ls-tree", "-r", "--name-only", revision), "\n")
			if got := listed(r); !slices.Equal(got, want) {
				t.Errorf("%s: %q, git has %q", revision, got, want)
			}
			text, err := r.Text("a.txt")
			if err != nil || strings.TrimSpace(string(text)) != git(t, root, "show", revision+":a.txt") {
				t.Errorf("%s: a.txt is %q, %v", revision, text, err)
			}
		}
		for _, revision := range []string{"none", "HEAD~99", "HEAD^3", "00000000", "", "HEAD~99999999999999999999"} {
			if r, err := h.At(revision, nil); revision != "" && err == nil {
				t.Errorf("%q gives %q", revision, listed(r))
			}
		}
	}
}

func TestStagedAndTracked(t *testing.T) {
	root := treetest.Make(t, map[string]string{"a.txt": "one\n", "b/c.txt": "x", "b/.env": "A=1"})
	git(t, root, "init", "--quiet")
	git(t, root, "add", "a.txt", "b/.env")
	treetest.Add(t, root, map[string]string{"a.txt": "two\n"})
	h, err := Open(filepath.Join(root, "b"))
	if err != nil {
		t.Fatal(err)
	}
	if tracked, err := h.Tracked(); err != nil || !tracked[".env"] || tracked["c.txt"] || len(tracked) != 1 {
		t.Errorf("%v %v", tracked, err)
	}
	h, err = Open(root)
	if err != nil {
		t.Fatal(err)
	}
	r, err := h.Staged(nil)
	if err != nil {
		t.Fatal(err)
	}
	if text, err := r.Text("a.txt"); string(text) != "one\n" || err != nil || r.Files != 2 {
		t.Errorf("%q %v %d", text, err, r.Files)
	}
	if _, err := r.Text("b/c.txt"); err == nil {
		t.Error("what is not staged has a text")
	}
	linked := filepath.Join(t.TempDir(), "linked")
	git(t, root, "commit", "--quiet", "-m", "x")
	git(t, root, "worktree", "add", "--quiet", linked)
	h, err = Open(linked)
	if err != nil {
		t.Fatal(err)
	}
	if r, err := h.At("HEAD", nil); err != nil || r.Files != 2 {
		t.Errorf("a linked work tree: %v", err)
	}
	if _, err := Open(t.TempDir()); err == nil {
		t.Error("a folder without git has a history")
	}
}

// TestGone follows files that were renamed, staged or not, changed on the way, and
// deleted, and compares two states.
func TestGone(t *testing.T) {
	root := treetest.Make(t, map[string]string{"a.txt": "one\n", "b.txt": "two\n", "c/d.txt": "three\n", "c/e.txt": "four\n", "keep.txt": "five\n"})
	git(t, root, "init", "--quiet")
	h, err := Open(root)
	if err != nil {
		t.Fatal(err)
	}
	read := func() *tree.Repository {
		r, err := tree.Read(root, tree.Options{})
		if err != nil {
			t.Fatal(err)
		}
		return r
	}
	if got, err := h.Gone(read()); err == nil && len(got) > 0 {
		t.Errorf("before the first commit: %v", got)
	}
	git(t, root, "add", "--all")
	git(t, root, "commit", "--quiet", "-m", "one")
	before := read()
	then, err := h.At("HEAD", nil)
	if err != nil {
		t.Fatal(err)
	}
	if got, err := h.Gone(before); err != nil || len(got) > 0 {
		t.Errorf("nothing is gone: %v %v", got, err)
	}
	git(t, root, "mv", "a.txt", "moved.txt")                   // with its text
	git(t, root, "rm", "--quiet", "b.txt")                     // for good
	git(t, root, "mv", "c", "f")                               // a folder
	treetest.Add(t, root, map[string]string{"f/e.txt": "4\n"}) // changed on the way
	want := map[string]string{"a.txt": "moved.txt", "b.txt": "", "c/d.txt": "f/d.txt", "c/e.txt": "f/e.txt"}
	if got, err := h.Gone(read()); err != nil || !maps.Equal(got, want) {
		t.Errorf("staged: %v %v", got, err)
	}
	if got := GoneBetween(then, read()); !maps.Equal(got, want) {
		t.Errorf("between two states: %v", got)
	}
	git(t, root, "commit", "--quiet", "--all", "-m", "two")
	if got, err := h.Gone(read()); err != nil || len(got) > 0 {
		t.Errorf("once it is committed: %v %v", got, err)
	}
	treetest.Add(t, root, map[string]string{".gitignore": "out/\n", "out/kept.txt": "six\n"})
	git(t, root, "add", "--force", "--all")
	git(t, root, "commit", "--quiet", "-m", "three")
	if got, err := h.Gone(read()); err != nil || len(got) > 0 {
		t.Errorf("in a folder that an ignore file names: %v %v", got, err)
	}
}
