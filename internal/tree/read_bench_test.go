package tree

import (
	"fmt"
	"io/fs"
	"os"
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

// BenchmarkDeep reads folders within folders, deeper than the system opens in one
// go; the time should grow with the depth and not with its square.
func BenchmarkDeep(b *testing.B) {
	for _, n := range []int{1_000, 4_000} {
		top := b.TempDir()
		at, err := os.OpenRoot(top)
		for range n {
			if err == nil {
				err = at.Mkdir("d", 0o777)
			}
			var in *os.Root
			if err == nil {
				in, err = at.OpenRoot("d")
			}
			at.Close()
			at = in
		}
		if err != nil {
			b.Fatal(err)
		}
		at.Close()
		b.Run(fmt.Sprint(n), func(b *testing.B) {
			for b.Loop() {
				r, err := Read(top, Options{})
				if err != nil || len(r.Folders) != n+1 || len(r.Troubles) > 0 {
					b.Fatal(err, len(r.Folders), r.Troubles)
				}
			}
		})
	}
}
