package tree

import (
	"fmt"
	"io/fs"
	"testing"

	"github.com/charlievieth/fastwalk"

	"dicaxon/internal/treetest"
)

func BenchmarkRead(b *testing.B) {
	for _, n := range []int{10_000, 100_000, 1_000_000} {
		root := treetest.Kept(b, n)
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
