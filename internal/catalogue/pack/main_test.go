package main

import (
	"bytes"
	"os"
	"path/filepath"
	"testing"
)

// TestPackedIsCurrent fails where a layout was changed and not packed again.
func TestPackedIsCurrent(t *testing.T) {
	files, err := Files()
	if err != nil {
		t.Fatal(err)
	}
	for name, want := range files {
		got, err := os.ReadFile(filepath.Join("..", name))
		if err != nil || !bytes.Equal(got, want) {
			t.Errorf("%s is out of date; run: go generate ./internal/catalogue", name)
		}
	}
	there, _ := filepath.Glob("../packed/*")
	if len(there) != len(files)-1 { // all but the index
		t.Errorf("%d files in packed/, want %d", len(there), len(files)-1)
	}
}
