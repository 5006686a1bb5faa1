package tree

import (
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"dicaxon/internal/names"
)

// TestSpelled stands in for a disk that is blind to case and to the form of composed
// characters: it has something under any spelling of a name.
func TestSpelled(t *testing.T) {
	rep := FromRecord("/nowhere", []Recorded{{Path: "README.md"}, {Path: "Berths/Views.py"}, {Path: "Berths/views.py"}, {Path: "cafe\u0301/a.py"}}, nil, nil)
	blind := func(path string) bool {
		for _, f := range rep.Folders {
			for _, n := range f.Nodes {
				if names.Folded(f.Path()+n.Name) == names.Folded(path) {
					return true
				}
			}
		}
		return false
	}
	for asked, want := range map[string]string{
		"readme.MD": "README.md", "README.md": "README.md", "berths/VIEWS.py": "Berths/Views.py", "Berths/views.py": "Berths/views.py", "berths/views.py": "Berths/views.py",
		"BERTHS/": "Berths/", "caf\u00e9/A.py": "cafe\u0301/a.py", "crews": "crews", "": "",
	} {
		if got := rep.Spelled(asked, blind); got != want {
			t.Errorf("%q: %q, not %q", asked, got, want)
		}
	}
	// On any other disk a name is what it is.
	if got := rep.Spelled("readme.MD", func(string) bool { return false }); got != "readme.MD" {
		t.Error(got)
	}
}

func TestLend(t *testing.T) {
	dir := t.TempDir()
	for _, at := range []string{"app/a.py", "z.py"} {
		if err := os.MkdirAll(filepath.Dir(filepath.Join(dir, at)), 0o755); err != nil {
			t.Fatal(err)
		}
		if err := os.WriteFile(filepath.Join(dir, at), []byte("disk"), 0o644); err != nil {
			t.Fatal(err)
		}
	}
	rep, err := Read(dir, Options{})
	if err != nil {
		t.Fatal(err)
	}
	rep.Lend([]Recorded{{Path: "app/a.py"}, {Path: "app/b/c.py"}, {Path: "m.py"}, {Path: "app/b.py"}}, nil, func(path string) ([]byte, error) { return []byte("git " + path), nil })
	for at, want := range map[string]string{"app/a.py": "disk", "z.py": "disk", "app/b/c.py": "git app/b/c.py", "m.py": "git m.py", "app/b.py": "git app/b.py"} {
		if text, err := rep.Text(at); string(text) != want || err != nil {
			t.Errorf("%s: %q %v", at, text, err)
		}
	}
	if rep.Files != 5 || len(rep.Folders) != 3 || rep.Top.At("app/b/c.py") == nil || len(rep.Troubles) != 0 {
		t.Errorf("%d files in %d folders, %v", rep.Files, len(rep.Folders), rep.Troubles)
	}
}

// TestGitOf goes by the variables that git sets for hooks, and for no other repository.
func TestGitOf(t *testing.T) {
	dir := t.TempDir()
	if resolved, err := filepath.EvalSymlinks(dir); err == nil {
		dir = resolved
	}
	for _, name := range []string{"ours", "theirs", "bare"} {
		if out, err := exec.Command("git", "init", "--quiet", filepath.Join(dir, name)).CombinedOutput(); err != nil {
			t.Fatalf("%s", out)
		}
	}
	if err := os.Rename(filepath.Join(dir, "bare", ".git"), filepath.Join(dir, "bare.git")); err != nil {
		t.Fatal(err)
	}
	t.Chdir(filepath.Join(dir, "ours"))
	t.Setenv("GIT_INDEX_FILE", ".git/next-index-1.lock")
	t.Setenv("GIT_OBJECT_DIRECTORY", filepath.Join(dir, "more"))
	if g := GitOf("."); g.Index != filepath.Join(dir, "ours/.git/next-index-1.lock") || g.Objects[0] != filepath.Join(dir, "more") || len(g.Objects) != 2 {
		t.Errorf("%+v", g)
	}
	if g := GitOf(filepath.Join(dir, "theirs")); g.Index != filepath.Join(dir, "theirs/.git/index") || len(g.Objects) != 1 {
		t.Errorf("another repository: %+v", g)
	}
	t.Setenv("GIT_DIR", filepath.Join(dir, "bare.git"))
	t.Setenv("GIT_WORK_TREE", filepath.Join(dir, "bare"))
	if g := GitOf(filepath.Join(dir, "bare")); g.Top != filepath.Join(dir, "bare") || g.Work != filepath.Join(dir, "bare.git") {
		t.Errorf("a repository beside its work tree: %+v", g)
	}
	if g := GitOf(filepath.Join(dir, "theirs")); !strings.HasSuffix(g.Work, "theirs/.git") {
		t.Errorf("a nearer one: %+v", g)
	}
	t.Setenv("GIT_DIR", filepath.Join(dir, "nowhere"))
	if g := GitOf(filepath.Join(dir, "bare")); g.Top != "" {
		t.Errorf("no repository: %+v", g)
	}
}
