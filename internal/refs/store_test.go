package refs

import (
	"os"
	"path/filepath"
	"reflect"
	"slices"
	"testing"
	"time"
)

// TestStore holds that what a file said is given back as it was, and only for the
// state of the file in which it said so.
func TestStore(t *testing.T) {
	at := filepath.Join(t.TempDir(), "deep", "store")
	stamp := Stamp{Size: 3, Changed: 5, Altered: 7, Inode: 11}
	said := map[string]File{}
	s := OpenStore(at)
	for name, text := range map[string]string{
		"a.py": "from ..ferry import tides as t\nclass Pier: pass\n", "b.js": "\xef\xbb\xbftry { require('./a') } catch {}\r\n", "c.json": `{"a": {"b": ["x", 1]}}`, "d.go": "package x\n\nfunc {", "e.txt": "", "f.php": "<?php use A\\{B, C};",
	} {
		f := Read(name, []byte(text))
		said[name] = f
		s.Put(name, stamp, &f, time.Now())
	}
	if err := s.Save(); err != nil {
		t.Fatal(err)
	}
	again := OpenStore(at)
	for name, want := range said {
		got, ok := again.Get(name, stamp)
		if !ok || got.Broken != want.Broken || got.BrokenLine != want.BrokenLine || got.Mark != want.Mark || got.Returns != want.Returns || !slices.Equal(got.Refs, want.Refs) {
			t.Errorf("%s: %+v, not %+v", name, got, want)
		}
		for _, other := range []Stamp{{4, 5, 7, 11}, {3, 6, 7, 11}, {3, 5, 8, 11}, {3, 5, 7, 12}} {
			if _, ok := again.Get(name, other); ok {
				t.Errorf("%s changed to %+v and is given all the same", name, other)
			}
		}
	}
	if _, ok := again.Get("none.py", stamp); ok {
		t.Error("what nobody put is there")
	}
}

// TestStoreForgets what changed a moment ago, what other readers wrote, and what is
// damaged, and goes on where it cannot write.
func TestStoreForgets(t *testing.T) {
	at := filepath.Join(t.TempDir(), "store")
	now := time.Now()
	f := Read("a.py", []byte("import tides\n"))
	old := Stamp{Changed: now.Add(-time.Hour).UnixNano()}
	s := OpenStore(at)
	s.Put("new.py", Stamp{Changed: now.UnixNano()}, &f, now)
	s.Put("old.py", old, &f, now)
	if err := s.Save(); err != nil {
		t.Fatal(err)
	}
	s = OpenStore(at)
	if _, ok := s.Get("new.py", Stamp{Changed: now.UnixNano()}); ok {
		t.Error("what changed a moment ago is remembered")
	}
	if _, ok := s.Get("old.py", old); !ok {
		t.Error("what changed long ago is forgotten")
	}
	data, err := os.ReadFile(at)
	if err != nil {
		t.Fatal(err)
	}
	for cut := range len(data) {
		if err := os.WriteFile(at, data[:cut], 0o600); err != nil {
			t.Fatal(err)
		}
		if got, ok := OpenStore(at).Get("old.py", old); ok && !reflect.DeepEqual(got.Refs, f.Refs) {
			t.Errorf("cut at %d: %+v", cut, got)
		}
	}
	other := slices.Clone(data)
	other[3] ^= 1 // the version
	if err := os.WriteFile(at, other, 0o600); err != nil {
		t.Fatal(err)
	}
	if _, ok := OpenStore(at).Get("old.py", old); ok {
		t.Error("what other readers wrote counts")
	}
	if err := OpenStore(filepath.Join(at, "no", "folder")).Save(); err != nil {
		t.Errorf("nothing new, and yet: %v", err)
	}
	s = OpenStore(filepath.Join(at, "no", "folder"))
	s.Put("old.py", old, &f, now)
	if s.Save() == nil {
		t.Error("a file was made below a file")
	}
}

func FuzzUnpack(f *testing.F) {
	one := Read("a.py", []byte("from .ferry import tides\n"))
	f.Add(pack(&one))
	f.Add([]byte{0, 0, 0, 255, 255, 3})
	f.Fuzz(func(t *testing.T, data []byte) {
		if got, err := unpack(data); err == nil && len(got.Refs) > len(data) {
			t.Errorf("%d references in %d bytes", len(got.Refs), len(data))
		}
	})
}
