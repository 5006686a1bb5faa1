// Package treetest makes trees on disk for tests and benchmarks.
package treetest

import (
	"fmt"
	"io/fs"
	"maps"
	"os"
	"path"
	"path/filepath"
	"strings"
	"testing"
)

// Make writes the paths below a new temporary folder and gives that folder. A
// path ending in "/" is a folder; the value of any other is its text.
func Make(t testing.TB, files map[string]string) string {
	t.Helper()
	root := t.TempDir()
	Add(t, root, files)
	return root
}

// Add writes the paths below root.
func Add(t testing.TB, root string, files map[string]string) {
	t.Helper()
	for path, text := range files {
		full := filepath.Join(root, filepath.FromSlash(path))
		if strings.HasSuffix(path, "/") {
			must(t, os.MkdirAll(full, 0o755))
			continue
		}
		must(t, os.MkdirAll(filepath.Dir(full), 0o755))
		must(t, os.WriteFile(full, []byte(text), 0o644))
	}
}

// Restore makes the tree at root what Make makes of files, and writes only what differs: of
// what a test writes, making files takes the most time.
func Restore(t testing.TB, root string, files map[string]string) {
	t.Helper()
	lack, folders := maps.Clone(files), map[string]bool{".": true}
	for at := range files {
		for at = path.Dir(at); !folders[at]; at = path.Dir(at) {
			folders[at] = true
		}
	}
	must(t, filepath.WalkDir(root, func(full string, d fs.DirEntry, err error) error {
		if err != nil {
			return err
		}
		at, err := filepath.Rel(root, full)
		at = filepath.ToSlash(at)
		want, is := files[at]
		switch {
		case err != nil || d.IsDir() && folders[at]:
			return err
		case d.IsDir():
			if err := os.RemoveAll(full); err != nil {
				return err
			}
			return fs.SkipDir
		case !is || !d.Type().IsRegular():
			return os.Remove(full)
		}
		text, err := os.ReadFile(full)
		if string(text) == want {
			delete(lack, at)
		}
		return err
	}))
	Add(t, root, lack)
}

// Paths makes a tree of the paths given, each file with a line of text.
func Paths(t testing.TB, paths ...string) string {
	t.Helper()
	files := map[string]string{}
	for _, p := range paths {
		files[p] = "text\n"
	}
	return Make(t, files)
}

// Large writes a Flask project of about n empty files below root: one area
// for each hundred files, which conforms to the layout flask/areas. It is for
// benchmarks.
func Large(t testing.TB, root string, n int) {
	t.Helper()
	write := func(path string) {
		file, err := os.Create(filepath.Join(root, path))
		must(t, err)
		must(t, file.Close())
	}
	folder := func(path string) { must(t, os.MkdirAll(filepath.Join(root, path), 0o755)) }
	folder("app/templates")
	folder("app/static")
	folder("tests")
	for _, path := range []string{"run.py", "README.md", ".gitignore", "requirements.txt", "config.py",
		"app/__init__.py", "app/templates/base.html", "app/static/style.css", "tests/__init__.py", "tests/conftest.py"} {
		write(path)
	}
	must(t, os.WriteFile(filepath.Join(root, "requirements.txt"), []byte("flask\n"), 0o644))
	must(t, os.WriteFile(filepath.Join(root, ".gitignore"), []byte("__pycache__/\n*.pyc\n.venv/\n.env\ninstance/\n/dist/\n"), 0o644))
	var mounts strings.Builder
	for area := range (n + 99) / 100 {
		fmt.Fprintf(&mounts, "from app import area_%05d\n", area)
		at := fmt.Sprintf("app/area_%05d/", area)
		folder(at + "templates/pages")
		folder(at + "static")
		write(at + "__init__.py")
		write(at + "views.py")
		for i := range 49 {
			write(fmt.Sprintf("%stemplates/pages/page_%02d.html", at, i))
		}
		for i := range 48 {
			write(fmt.Sprintf("%sstatic/picture_%02d.png", at, i))
		}
		write(fmt.Sprintf("tests/test_area_%05d.py", area))
	}
	must(t, os.WriteFile(filepath.Join(root, "app/__init__.py"), []byte(mounts.String()), 0o644))
}

// Kept gives a tree as Large makes it, made once and kept for the next run in
// the system's temporary folder: a million files take a while to write.
func Kept(t testing.TB, n int) string {
	t.Helper()
	root := filepath.Join(os.TempDir(), fmt.Sprintf("dicaxon-mounted-%d", n))
	if _, err := os.Stat(filepath.Join(root, "done")); err != nil {
		must(t, os.RemoveAll(root))
		Large(t, filepath.Join(root, "tree"), n)
		Add(t, root, map[string]string{"done": ""})
	}
	return filepath.Join(root, "tree")
}

func must(t testing.TB, err error) {
	t.Helper()
	if err != nil {
		t.Fatal(err)
	}
}
