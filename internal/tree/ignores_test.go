package tree

import (
	"os"
	"path/filepath"
	"testing"
)

// TestIgnores asks of what is there and of what is not, on the disk and in a
// repository that was recorded, and compares with what was listed.
func TestIgnores(t *testing.T) {
	files := map[string]string{
		".gitignore": "dist/\n*.log\n/top.txt\n!keep.log\ngen/*.ts\n", "src/.gitignore": "local.*\n", "src/a.js": "", "dist/a.js": "", "src/deep/b.js": "",
	}
	root := t.TempDir()
	var recorded []Recorded
	for at, text := range files {
		full := filepath.Join(root, at)
		if err := os.MkdirAll(filepath.Dir(full), 0o755); err != nil {
			t.Fatal(err)
		}
		if err := os.WriteFile(full, []byte(text), 0o644); err != nil {
			t.Fatal(err)
		}
		if at != "dist/a.js" {
			recorded = append(recorded, Recorded{Path: at})
		}
	}
	disk, err := Read(root, Options{})
	if err != nil {
		t.Fatal(err)
	}
	then := FromRecord(root, recorded, nil, func(path string) ([]byte, error) { return []byte(files[path]), nil })
	for at, want := range map[string]bool{
		"dist/a.js": true, "dist": true, "src/dist/x": true, "dist/never/there.js": true, "src/a.js": false, "a.log": true, "keep.log": false, "src/deep/no.log": true,
		"top.txt": true, "src/top.txt": false, "src/local.js": true, "local.js": false, "src/deep/local.yml": true, "gen/x.ts": true, "gen/deep/x.ts": false, "nowhere/x.js": false,
	} {
		for what, r := range map[string]*Repository{"on the disk": disk, "recorded": then} {
			if what == "recorded" && at == "dist" {
				continue // whether it is a folder nobody knows
			}
			if got := r.Ignores(at); got != want {
				t.Errorf("%s, %s: %v", at, what, got)
			}
		}
	}
}
