package app

import (
	"fmt"
	"os"
	"path/filepath"
	"testing"
	"time"

	"dicaxon/internal/treetest"
)

// referring writes a project of so many modules, each of which imports two others,
// all as old as can be remembered.
func referring(b *testing.B, n int) string {
	b.Helper()
	root := b.TempDir()
	files := map[string]string{"package.json": `{"name": "ferry", "dependencies": {"express": "5"}}`, "tsconfig.json": "{}", ".gitignore": "node_modules/\n", "README.md": "Ferry\n", "src/index.ts": "import './p0/f0'\n"}
	const each = 100
	for i := range n {
		files[fmt.Sprintf("src/p%d/f%d.ts", i/each, i%each)] = fmt.Sprintf("import { a } from './f%d'\nimport { b } from '../p%d/f%d'\nexport const a = 1, b = 2\n", (i+1)%min(each, n), i/each, i%each)
	}
	treetest.Add(b, root, files)
	past := time.Now().Add(-time.Hour)
	for at := range files {
		if err := os.Chtimes(filepath.Join(root, filepath.FromSlash(at)), past, past); err != nil {
			b.Fatal(err)
		}
	}
	time.Sleep(2100 * time.Millisecond) // as long as a change is not trusted
	return root
}

// BenchmarkReferences checks a project whose files name each other.
func BenchmarkReferences(b *testing.B) {
	for _, n := range []int{1_000, 20_000} {
		root := referring(b, n)
		besideWalk(b, root, n, func(r *Report) bool { return r.Totals.Error == 0 })
	}
}
