package tree

import (
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"testing"

	"github.com/charlievieth/fastwalk"

	"dicaxon/internal/treetest"
)

// largeTree gives a tree of about n files, made once and kept for the next
// run: a million files take a minute to write.
func largeTree(b *testing.B, n int) string {
	root := filepath.Join(os.TempDir(), fmt.Sprintf("dicaxon-large-%d", n))
	if _, err := os.Stat(root + "/done"); err != nil {
		os.RemoveAll(root)
		treetest.Large(b, root+"/tree", n)
		treetest.Add(b, root, map[string]string{"done": ""})
	}
	return root + "/tree"
}

func BenchmarkRead(b *testing.B) {
	for _, n := range []int{10_000, 100_000, 1_000_000} {
		root := largeTree(b, n)
		b.Run(fmt.Sprintf("walk/%d", n), func(b *testing.B) {
			for b.Loop() {
				if err := fastwalk.Walk(nil, root, func(string, fs.DirEntry, error) error { return nil }); err != nil {
					b.Fatal(err)
				}
			}
		})
		b.Run(fmt.Sprintf("read/%d", n), func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				if _, err := Read(root, Options{}); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}
