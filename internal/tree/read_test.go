package tree

import (
	"errors"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"testing"

	"dicaxon/internal/treetest"
)

func TestRead(t *testing.T) {
	isolate(t, "")
	root := treetest.Make(t, map[string]string{"b/c/d.txt": "text", "a.txt": "", "b/empty/": "", ".git/HEAD": "x", "ig/x": "", ".gitignore": "ig/\n*.tmp\n", "z.tmp": ""})
	os.Symlink("b", filepath.Join(root, "link"))
	os.Symlink("/", filepath.Join(root, "b", "away"))
	r, err := Read(root, Options{Watch: func(name string) bool { return name == "d.txt" }})
	if err != nil {
		t.Fatal(err)
	}
	var got []string
	for i, f := range r.Folders {
		if int(f.ID) != i {
			t.Errorf("folder %s has the number %d, not %d", f.Path(), f.ID, i)
		}
		for _, n := range f.Nodes {
			line := f.Path() + n.Name
			if n.Ignored {
				line += " ignored"
			}
			if n.Kind == Link {
				line += " link"
			}
			got = append(got, line)
		}
	}
	want := []string{".gitignore", "a.txt", "b", "ig ignored", "link link", "z.tmp ignored", "b/away link", "b/c", "b/empty", "b/c/d.txt"}
	if !slices.Equal(got, want) {
		t.Errorf("got  %q\nwant %q", got, want)
	}
	if r.Files != 5 || len(r.Troubles) != 0 {
		t.Errorf("%d files, %v", r.Files, r.Troubles)
	}
	if len(r.Watched) != 1 || r.Watched[0].Path() != "b/c/" {
		t.Errorf("watched %v", r.Watched)
	}
	if !r.Top.At("b/empty").Folder.Empty() || r.Top.At("b").Folder.Empty() || r.Top.At("b/no") != nil || r.Top.At("a.txt/x") != nil {
		t.Error("At or Empty is wrong")
	}
}

func TestReadRefuses(t *testing.T) {
	root := treetest.Paths(t, "file")
	if _, err := Read(filepath.Join(root, "none"), Options{}); !errors.Is(err, fs.ErrNotExist) {
		t.Error(err)
	}
	if _, err := Read(filepath.Join(root, "file"), Options{}); err == nil {
		t.Error("a file is no repository")
	}
}

// TestVanished reads while a folder is taken away: it is told, and the rest is
// there.
func TestVanished(t *testing.T) {
	root := treetest.Paths(t, "a/x", "b/x", "c/x")
	r := &reader{repository: &Repository{Root: root, Top: &Folder{}}}
	r.start(root)
	os.RemoveAll(filepath.Join(root, "b"))
	found := (&worker{reader: r}).read(&Folder{Name: "b", Parent: r.repository.Top})
	r.run()
	if len(found) != 0 || len(r.repository.Troubles) != 1 || r.repository.Troubles[0].Path != "b/" || len(r.repository.Top.Nodes) != 2 {
		t.Errorf("%v %v %v", found, r.repository.Troubles, r.repository.Top.Nodes)
	}
}

// TestStamp holds that a seal keeps what files were like, and that others are asked of the disk.
func TestStamp(t *testing.T) {
	isolate(t, "")
	root := treetest.Make(t, map[string]string{"a/pier.txt": "pier", ".gitignore": "log\n", "log": "x", "tide": ""})
	os.Symlink("tide", filepath.Join(root, "link"))
	r, err := Read(root, Options{})
	if err != nil {
		t.Fatal(err)
	}
	r.Seal()
	os.WriteFile(filepath.Join(root, "a/pier.txt"), []byte("a longer pier"), 0o600)
	os.WriteFile(filepath.Join(root, "log"), []byte("xxx"), 0o600)
	for at, want := range map[string]int64{"a/pier.txt": 4, "log": 3, "tide": 0, "link": -1, "a": -1, "gone/x": -1, "a/gone": -1, "tide/x": -1} {
		if size, changed, _, _, ok := r.Stamp(at); ok != (want >= 0) || ok && (size != want || changed == 0) {
			t.Errorf("%s: %d, %v", at, size, ok)
		}
	}
}

func TestText(t *testing.T) {
	root := treetest.Make(t, map[string]string{"in/a": "hello"})
	outside := treetest.Make(t, map[string]string{"secret": "x"})
	os.Symlink(filepath.Join(outside, "secret"), filepath.Join(root, "out"))
	os.Symlink("in/a", filepath.Join(root, "near"))
	r := &Repository{Root: root}
	if text, err := r.Text("in/a"); err != nil || string(text) != "hello" {
		t.Errorf("%q %v", text, err)
	}
	if text, err := r.Text("near"); err != nil || string(text) != "hello" {
		t.Errorf("a link within the root: %q %v", text, err)
	}
	if text, err := r.Text("out"); err == nil {
		t.Errorf("a link out of the root was followed: %q", text)
	}
	if _, err := r.Text("in"); err == nil {
		t.Error("a folder has no text")
	}
}

func TestPrintable(t *testing.T) {
	for name, want := range map[string]string{"plain": "plain", "ünï": "ünï", "a\xffb": `a\xffb`, "\x1b[31m": `\x1b[31m`, "a\nb": `a\x0ab`, "\u202e": `\xe2\x80\xae`} {
		if got := Printable(name); got != want {
			t.Errorf("%q: %q, want %q", name, got, want)
		}
	}
}
