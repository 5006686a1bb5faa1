//go:build registries

package refs

import (
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"testing"
)

// TestRegistryReadersAgainstGrammars holds the readers of languages whose compiler is
// not at hand against their grammars, over code of published packages.
func TestRegistryReadersAgainstGrammars(t *testing.T) {
	tools := t.TempDir()
	script, err := os.ReadFile("testdata/imports.mjs")
	if err != nil {
		t.Fatal(err)
	}
	if err := os.WriteFile(filepath.Join(tools, "imports.mjs"), script, 0o644); err != nil {
		t.Fatal(err)
	}
	install := exec.Command("npm", "install", "--ignore-scripts", "--legacy-peer-deps", "--no-audit", "--no-fund", "--loglevel=error",
		"web-tree-sitter@0.25.10", "tree-sitter-wasms@0.1.13", "react-native@0.76.0", "expo-modules-core@2.0.0")
	install.Dir = tools
	if out, err := install.CombinedOutput(); err != nil {
		t.Fatalf("%v\n%s", err, out)
	}
	t.Chdir(tools)
	for _, ending := range []string{".java", ".kt", ".swift"} {
		t.Run(ending, func(t *testing.T) {
			files := corpus(t, ending, "node_modules")
			compareWith(t, parsed(t, files, "node", "--liftoff-only", "imports.mjs"), func(f File) []string {
				var all []string
				for _, r := range f.Of(Import) {
					all = append(all, fmt.Sprintf("%d %s", r.Line, r.Name))
				}
				return all
			})
		})
	}
}
