package app

import (
	"context"
	"fmt"
	"path/filepath"
	"runtime"
	"runtime/debug"
	"testing"

	"golang.org/x/sync/errgroup"

	"dicaxon/internal/changes"
	"dicaxon/internal/finding"
	"dicaxon/internal/placement"
	"dicaxon/internal/tree"
	"dicaxon/internal/treetest"
	"dicaxon/internal/workspace"
)

// BenchmarkCheck measures the bare parallel walk, whole checks, and the matching
// alone.
func BenchmarkCheck(b *testing.B) {
	defer debug.SetGCPercent(debug.SetGCPercent(400)) // as the program has it
	for _, n := range []int{10_000, 100_000, 1_000_000} {
		root := treetest.Kept(b, n)
		besideWalk(b, root, n, func(r *Report) bool { return !r.Totals.AtLeast(2) })
		b.Run(fmt.Sprintf("pair/%d", n), func(b *testing.B) {
			w, err := workspace.Open(context.Background(), root, workspace.Options{})
			if err != nil {
				b.Fatal(err)
			}
			b.ReportAllocs()
			for b.Loop() {
				placement.Pair(placement.Input{Repository: w.Repository, Top: w.Repository.Top, Layout: w.Projects[0].Layout, Commonplace: w.Commonplace})
			}
		})
	}
}

// besideWalk measures the bare parallel walk of a tree of n files, and beside it a
// check with nothing remembered, with what files say, and with what was found. What
// counts is their ratio in one run.
func besideWalk(b *testing.B, root string, n int, right func(*Report) bool) {
	b.Run(fmt.Sprintf("walk/%d", n), func(b *testing.B) {
		for b.Loop() {
			if _, err := tree.Read(root, tree.Options{}); err != nil {
				b.Fatal(err)
			}
		}
	})
	// No check can be faster than this that knows nothing yet of what files say.
	b.Run(fmt.Sprintf("walk-and-read/%d", n), func(b *testing.B) {
		for b.Loop() {
			r, err := tree.Read(root, tree.Options{})
			if err != nil {
				b.Fatal(err)
			}
			var readers errgroup.Group
			readers.SetLimit(runtime.GOMAXPROCS(0))
			readAll(&readers, r, r.Top)
			readers.Wait()
		}
	})
	for _, c := range []struct {
		name string
		Options
	}{{"cold", Options{}}, {"warm", Options{Remember: true}}, {"unchanged", Options{Remember: true, Findings: true}}} {
		b.Run(fmt.Sprintf("%s/%d", c.name, n), func(b *testing.B) {
			b.Setenv("XDG_CACHE_HOME", b.TempDir())
			check := func() {
				r, err := Check(context.Background(), root, c.Options)
				if err != nil || !right(r) {
					b.Fatal(err)
				}
			}
			check() // so that there is something to remember
			b.ReportAllocs()
			for b.Loop() {
				check()
			}
		})
	}
}

// readAll reads the texts of all files below a folder, a folder at a time.
func readAll(readers *errgroup.Group, r *tree.Repository, in *tree.Folder) {
	readers.Go(func() error {
		for k := range in.Nodes {
			if in.Nodes[k].Folder == nil {
				r.Text(in.Path() + in.Nodes[k].Name)
			}
		}
		return nil
	})
	for k := range in.Nodes {
		if below := in.Nodes[k].Folder; below != nil {
			readAll(readers, r, below)
		}
	}
}

// BenchmarkSmall checks a repository of a hundred files.
func BenchmarkSmall(b *testing.B) {
	root := filepath.Join(b.TempDir(), "tree")
	treetest.Large(b, root, 100)
	for b.Loop() {
		if _, err := Check(context.Background(), root, Options{}); err != nil {
			b.Fatal(err)
		}
	}
}

// BenchmarkPlan measures the plan for one folder that moves, beside a check of the same
// project that knows nothing.
func BenchmarkPlan(b *testing.B) {
	root := treetest.Kept(b, 10_000)
	b.Run("Check", func(b *testing.B) {
		for b.Loop() {
			if _, err := Check(b.Context(), root, Options{}); err != nil {
				b.Fatal(err)
			}
		}
	})
	b.Run("Plan", func(b *testing.B) {
		for b.Loop() {
			r, err := Realign(b.Context(), root, RealignOptions{Least: finding.Warning, Moves: []changes.Move{{From: "app/area_00003", To: "app/zone/area_00003"}}})
			if err != nil || len(r.Moves) != 1 {
				b.Fatal(r, err)
			}
		}
	})
}
