package refs

import (
	"strings"
	"testing"
)

// BenchmarkLongLine reads a file of one line, as bundlers write them.
func BenchmarkLongLine(b *testing.B) {
	text := []byte(strings.Repeat("a.import(b);c.export=d;", 50_000))
	for b.Loop() {
		Read("a.js", text)
	}
}

// TestReadOnce holds that what a text says does not hang on where it lies, and
// does hang on its ending.
func TestReadOnce(t *testing.T) {
	text := []byte("import x from './a'\n")
	first := readOnce("one/pier.js", text)
	if again := readOnce("two/pier.js", text); again != first || len(first.Refs) != 1 {
		t.Errorf("%+v and %+v", first, again)
	}
	if other := readOnce("one/pier.txt", text); other == first || len(other.Refs) != 0 {
		t.Errorf("another ending: %+v", other)
	}
	if other := readOnce("one/pier.js", []byte("import x from './b'\n")); other == first {
		t.Error("another text says the same")
	}
}
