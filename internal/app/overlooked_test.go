package app_test

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"dicaxon/internal/treetest"
)

// TestOverlooked makes slips in living examples that say nothing of themselves, one for each line of
// the list, and holds that they are told.
func TestOverlooked(t *testing.T) {
	list, err := os.ReadFile("testdata/overlooked.txt")
	if err != nil {
		t.Fatal(err)
	}
	slips := map[string][]slip{}
	for line := range strings.Lines(string(list)) {
		if line = strings.TrimSuffix(line, "\n"); line != "" && line[0] != '#' {
			name, rest, _ := strings.Cut(line, " ")
			slips[name] = append(slips[name], readSlip(t, rest))
		}
	}
	for name, all := range slips {
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			layout, example := filepath.Split(name)
			e := readExample(t, filepath.Join(filepath.FromSlash("../catalogue/layouts"), layout, "examples", example+".txtar"))
			root := treetest.Make(t, e.files)
			known := e.right(t, root)
			for _, s := range all {
				e.slip(t, root, s, known)
			}
		})
	}
}
