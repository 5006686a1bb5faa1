package history

import (
	"os"
	"path/filepath"
	"testing"

	"dicaxon/internal/treetest"
)

// FuzzIndex reads an index of anything.
func FuzzIndex(f *testing.F) {
	for _, version := range []string{"2", "3", "4"} {
		root := treetest.Make(f, map[string]string{"a.txt": "one\n", "b/c.txt": "x", "b/later": ""})
		for _, args := range [][]string{{"init", "--quiet"}, {"add", "a.txt", "b/c.txt"}, {"add", "--intent-to-add", "b/later"}, {"update-index", "--index-version", version}} {
			git(f, root, args...)
		}
		text, err := os.ReadFile(filepath.Join(root, ".git", "index"))
		if err != nil {
			f.Fatal(err)
		}
		f.Add(text)
	}
	f.Fuzz(func(t *testing.T, text []byte) {
		if s, err := readIndex(text); err == nil && len(s.files) > len(text) {
			t.Errorf("%d files in %d bytes", len(s.files), len(text))
		}
	})
}

// FuzzRevision reads any name of a revision in a small repository.
func FuzzRevision(f *testing.F) {
	root := treetest.Make(f, map[string]string{"a.txt": "one\n"})
	git(f, root, "init", "--quiet")
	git(f, root, "add", "--all")
	git(f, root, "commit", "--quiet", "-m", "x")
	for _, name := range []string{"HEAD~2", "main^{commit}^2", "@{-1}", "refs/heads/main", "deadbeef", "../../x", "HEAD^^^", "a\x00b"} {
		f.Add(name)
	}
	h, err := Open(root)
	if err != nil {
		f.Fatal(err)
	}
	f.Fuzz(func(t *testing.T, name string) {
		if of, err := h.read(name); err == nil && len(of) != 20 {
			t.Errorf("%q gives %q", name, of)
		}
	})
}
