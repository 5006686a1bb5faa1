package memory

import (
	"errors"
	"os"
	"path/filepath"
	"testing"
	"time"
)

// TestMemory holds that what was written comes back whole or not at all.
func TestMemory(t *testing.T) {
	t.Setenv("XDG_CACHE_HOME", t.TempDir())
	at, err := Path("found", "/ferry")
	if err != nil {
		t.Fatal(err)
	}
	if other, _ := Path("found", "/ferry2"); other == at {
		t.Error("two repositories share a file")
	}
	if _, err := Read(at); !errors.Is(err, os.ErrNotExist) {
		t.Errorf("nothing written, and yet %v", err)
	}
	old := filepath.Join(filepath.Dir(at), "old")
	for _, text := range []string{"", "tides and berths"} {
		if err := Write(at, []byte(text)); err != nil {
			t.Fatal(err)
		}
		if got, err := Read(at); err != nil || string(got) != text {
			t.Errorf("%q, %v; not %q", got, err, text)
		}
		if err := os.WriteFile(old, nil, 0o600); err != nil {
			t.Fatal(err)
		}
		long := time.Now().Add(-2 * kept)
		if err := os.Chtimes(old, long, long); err != nil {
			t.Fatal(err)
		}
	}
	data, err := os.ReadFile(at)
	if err != nil {
		t.Fatal(err)
	}
	for i := range data {
		damaged := append([]byte(nil), data...)
		damaged[i] ^= 4
		for _, text := range [][]byte{damaged, data[:i]} {
			if err := os.WriteFile(at, text, 0o600); err != nil {
				t.Fatal(err)
			}
			if got, err := Read(at); !errors.Is(err, ErrForeign) {
				t.Fatalf("damaged at %d: %q, %v", i, got, err)
			}
		}
	}
	if err := Write(at, nil); err != nil {
		t.Fatal(err)
	}
	left, err := os.ReadDir(filepath.Dir(at))
	if err != nil || len(left) != 1 {
		t.Errorf("%v, %v: only what is fresh should be left", left, err)
	}
	if info, err := left[0].Info(); err != nil || info.Mode().Perm() != 0o600 {
		t.Errorf("others may read it: %v, %v", info.Mode(), err)
	}
	if Write(filepath.Join(at, "below", "a-file"), nil) == nil {
		t.Error("a file was made below a file")
	}
}
