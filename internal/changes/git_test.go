package changes

import (
	"errors"
	"strings"
	"testing"

	"dicaxon/internal/safe"
	"dicaxon/internal/treetest"
)

// TestGitGoesAlong moves tracked files: git shows renames, and undo gives the index back.
func TestGitGoesAlong(t *testing.T) {
	dir := ferry(t)
	do := func(args ...string) string {
		t.Helper()
		out, err := safe.Git(t.Context(), dir, []string{"GIT_AUTHOR_NAME=a", "GIT_AUTHOR_EMAIL=a@b", "GIT_COMMITTER_NAME=a", "GIT_COMMITTER_EMAIL=a@b"}, args...).CombinedOutput()
		if err != nil {
			t.Fatalf("%v: %s", err, out)
		}
		return string(out)
	}
	treetest.Add(t, dir, map[string]string{".gitignore": "__pycache__/\n"})
	do("init", "-q")
	do("add", "-A")
	do("commit", "-qm", "x")
	index := do("ls-files", "--stage")
	treetest.Add(t, dir, map[string]string{"untracked.txt": "mine\n", "app/crews.py": "crews = 2\n"})
	p := regroup(t, dir)
	_, err := p.Write(t.Context(), dir, why)
	dirty := new(DirtyError)
	if !errors.As(err, &dirty) || strings.Join(dirty.Files, " ") != "app/crews.py" {
		t.Fatalf("%v", err)
	}
	do("checkout", "-q", "app/crews.py")
	before := picture(t, dir)
	if _, err := p.Write(t.Context(), dir, why); err != nil {
		t.Fatal(err)
	}
	said := do("status", "--short")
	for _, want := range []string{"R  app/crews.py -> app/crew.py", "RM app/berths/views.py -> ferry/areas/berths/views.py", "R  notes.md -> empty/notes.md", " M tools/run.sh", "?? untracked.txt", "?? bin/"} {
		if !strings.Contains(said, want) {
			t.Errorf("git does not say %q:\n%s", want, said)
		}
	}
	if _, err := Undo(t.Context(), dir, false); err != nil {
		t.Fatal(err)
	}
	same(t, "undone", picture(t, dir), before)
	if got := do("ls-files", "--stage"); got != index {
		t.Errorf("the index is now\n%s", got)
	}
}
