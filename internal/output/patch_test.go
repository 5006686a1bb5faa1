package output

import (
	"bytes"
	"context"
	"os"
	"path/filepath"
	"testing"

	"dicaxon/internal/app"
	"dicaxon/internal/safe"
)

// TestPatch lets git apply what is written: a file that moves and changes, one that only
// moves, one that is new, one without a line end.
func TestPatch(t *testing.T) {
	dir := t.TempDir()
	changes := []app.Changed{
		{From: "berths.py", To: "ferry/berths.py", Old: []byte("a\nb\nc\nd\ne\nf\ng\nh\n"), New: []byte("a\nb\nc\nD\ne\nf\ng\nh\n")},
		{From: "tides.py", To: "ferry/tides.py", Old: []byte("same\n"), New: []byte("same\n")},
		{To: "ferry/__init__.py", New: []byte("new\n")},
		{From: "crew.txt", To: "crew.txt", Old: []byte("one"), New: []byte("two")},
	}
	for _, c := range changes {
		if c.From != "" {
			if err := os.WriteFile(filepath.Join(dir, c.From), c.Old, 0o644); err != nil {
				t.Fatal(err)
			}
		}
	}
	var b bytes.Buffer
	if err := WritePatch(&b, changes); err != nil {
		t.Fatal(err)
	}
	apply := safe.Git(context.Background(), dir, nil, "apply", "-")
	apply.Stdin = bytes.NewReader(b.Bytes())
	if out, err := apply.CombinedOutput(); err != nil {
		t.Fatalf("%v: %s\n%s", err, out, b.String())
	}
	for _, c := range changes {
		if got, err := os.ReadFile(filepath.Join(dir, c.To)); err != nil || !bytes.Equal(got, c.New) {
			t.Errorf("%s: %q %v", c.To, got, err)
		}
		if c.From != c.To && c.From != "" {
			if _, err := os.Stat(filepath.Join(dir, c.From)); err == nil {
				t.Errorf("%s is still there", c.From)
			}
		}
	}
}
