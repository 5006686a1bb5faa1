package check

import (
	"fmt"
	"path/filepath"
	"runtime/debug"
	"testing"

	"dicaxon/internal/catalogue"
	"dicaxon/internal/match"
	"dicaxon/internal/treetest"
)

// BenchmarkCheck measures whole checks and the matching alone; the bare
// parallel walk to compare with is BenchmarkRead in internal/tree.
func BenchmarkCheck(b *testing.B) {
	defer debug.SetGCPercent(debug.SetGCPercent(400)) // as the program has it
	for _, n := range []int{10_000, 100_000, 1_000_000} {
		root := treetest.Kept(b, n)
		b.Run(fmt.Sprintf("check/%d", n), func(b *testing.B) {
			b.ReportAllocs()
			for b.Loop() {
				r, err := Run(root, Options{})
				if err != nil || r.Totals.AtLeast(2) {
					b.Fatal(err, r.Totals)
				}
			}
		})
		b.Run(fmt.Sprintf("match/%d", n), func(b *testing.B) {
			r, projects, err := Projects(root, Options{})
			if err != nil {
				b.Fatal(err)
			}
			places, _ := catalogue.Catalogue{}.Commonplace()
			b.ReportAllocs()
			for b.Loop() {
				match.Run(match.Input{Repository: r, Top: r.Top, Layout: projects[0].Layout, Commonplace: places})
			}
		})
	}
}

// BenchmarkSmall checks a repository of a hundred files.
func BenchmarkSmall(b *testing.B) {
	root := filepath.Join(b.TempDir(), "tree")
	treetest.Large(b, root, 100)
	for b.Loop() {
		if _, err := Run(root, Options{}); err != nil {
			b.Fatal(err)
		}
	}
}
