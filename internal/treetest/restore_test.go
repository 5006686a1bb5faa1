package treetest

import (
	"io/fs"
	"os"
	"path/filepath"
	"testing"
)

// TestRestore makes a tree what it was, whatever was done to it, and leaves alone what is as it was.
func TestRestore(t *testing.T) {
	files := map[string]string{"a.txt": "one\n", "b/c.txt": "two\n", "b/d/e.txt": "three\n", "empty/": ""}
	for what, do := range map[string]func(root string){
		"nothing":        func(string) {},
		"another text":   func(root string) { Add(t, root, map[string]string{"a.txt": "two\n"}) },
		"a file more":    func(root string) { Add(t, root, map[string]string{"b/x.txt": "", "y/z.txt": ""}) },
		"a file less":    func(root string) { must(t, os.Remove(filepath.Join(root, "b/c.txt"))) },
		"a folder less":  func(root string) { must(t, os.RemoveAll(filepath.Join(root, "b"))) },
		"a folder moved": func(root string) { must(t, os.Rename(filepath.Join(root, "b"), filepath.Join(root, "B"))) },
		"a folder for a file": func(root string) {
			must(t, os.Remove(filepath.Join(root, "a.txt")))
			Add(t, root, map[string]string{"a.txt/": ""})
		},
		"a file for a folder": func(root string) {
			must(t, os.RemoveAll(filepath.Join(root, "b")))
			Add(t, root, map[string]string{"b": "x"})
		},
		"an empty folder gone": func(root string) { must(t, os.Remove(filepath.Join(root, "empty"))) },
		"a link for a file": func(root string) {
			must(t, os.Remove(filepath.Join(root, "a.txt")))
			must(t, os.Symlink("b/c.txt", filepath.Join(root, "a.txt")))
		},
	} {
		t.Run(what, func(t *testing.T) {
			root := Make(t, files)
			before, err := os.Stat(filepath.Join(root, "b/d/e.txt"))
			must(t, err)
			do(root)
			Restore(t, root, files)
			if got := read(t, root); len(got) != len(files) {
				t.Errorf("%v", got)
			}
			for at, want := range files {
				if got, is := read(t, root)[at]; !is || got != want {
					t.Errorf("%s: %q", at, got)
				}
			}
			if after, err := os.Stat(filepath.Join(root, "b/d/e.txt")); what == "another text" && (err != nil || !os.SameFile(before, after)) {
				t.Errorf("what was the same is made anew: %v", err)
			}
		})
	}
}

// read gives the texts of a tree, with its empty folders.
func read(t *testing.T, root string) map[string]string {
	t.Helper()
	all := map[string]string{}
	must(t, filepath.WalkDir(root, func(full string, d fs.DirEntry, err error) error {
		if err != nil || full == root {
			return err
		}
		at, _ := filepath.Rel(root, full)
		if d.IsDir() {
			if inside, _ := os.ReadDir(full); len(inside) == 0 {
				all[filepath.ToSlash(at)+"/"] = ""
			}
			return nil
		}
		text, err := os.ReadFile(full)
		all[filepath.ToSlash(at)] = string(text)
		return err
	}))
	return all
}
