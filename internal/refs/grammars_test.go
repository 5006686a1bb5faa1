//go:build registries

package refs

import (
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
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
	modules := []string{module(t, "github.com/apache/thrift@v0.16.0"), module(t, "github.com/google/flatbuffers@v2.0.8+incompatible")}
	for ending, in := range map[string][]string{".java": {"node_modules"}, ".kt": {"node_modules"}, ".swift": {"node_modules"}, ".cs": modules, ".dart": modules, ".php": modules, ".rs": modules} {
		t.Run(ending, func(t *testing.T) {
			files := corpus(t, ending, in...)
			compareWith(t, parsed(t, files, "node", "--liftoff-only", "imports.mjs"), func(f File) []string {
				var all []string
				for _, r := range f.Of(Import) {
					// What is named in passing, and what a crate takes from itself, imports nothing.
					if ending == ".php" && (r.Value == "full" || r.Value == "text") || ending == ".rs" && r.Value != "mod" {
						continue
					}
					all = append(all, fmt.Sprintf("%d %s", r.Line, r.Name))
				}
				return all
			})
		})
	}
}

// module fetches a module of Go that holds the same library in several languages.
func module(t *testing.T, name string) string {
	t.Helper()
	get := exec.Command("go", "mod", "download", "-json", name)
	get.Dir = t.TempDir() // in no module
	out, err := get.Output()
	if err != nil {
		t.Fatalf("%s: %v\n%s", name, err, out)
	}
	_, dir, found := strings.Cut(string(out), `"Dir": "`)
	dir, _, ended := strings.Cut(dir, `"`)
	if !found || !ended {
		t.Fatalf("%s: %s", name, out)
	}
	return dir
}
