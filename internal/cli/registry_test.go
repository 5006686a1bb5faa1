//go:build registries

package cli_test

import (
	"os"
	"path/filepath"
	"testing"
)

// The proofs in this file fetch what a starter depends on, so they need the
// registries of npm and of Go modules; the other tests need no network.

// npmProofs are the commands that build and test what a starter makes.
var npmProofs = map[string][]string{
	"node/service":          {"test", "run build"},
	"react/roles":           {"test", "run build"},
	"react/features":        {"test", "run build"},
	"vite/react":            {"test", "run build"},
	"nextjs/app":            {"run build"},
	"express/layers":        {"test"},
	"nest/modules":          {"run build", "test", "run test:e2e"},
	"javascript/workspaces": {"test"},
	"docs/site":             {"run build"},
	"fastify/plugins":       {"test"},
	"sveltekit/app":         {"run build", "run check"},
	"nuxt/app":              {"run build"},
	"astro/site":            {"run build"},
	"typescript/library":    {"run build", "test"},
	"vue/app":               {"test", "run build"},
	"angular/app":           {"test", "run build"},
	"backbone/mvc":          {"run libraries", "test"},
	"react-native/roles":    {"test", "run types"},
}

func TestRegistryNpmScaffoldsBuildAndTest(t *testing.T) {
	for layout, commands := range npmProofs {
		t.Run(layout, func(t *testing.T) {
			installed := ""
			for _, answers := range [][]string{nil, scaffolds[layout]} {
				root := scaffolded(t, layout, answers...)
				packages := filepath.Join(root, "node_modules")
				if installed == "" {
					command(t, root, "npm", "install", "--no-audit", "--no-fund", "--loglevel=error")
					installed = packages
				} else if err := os.Rename(installed, packages); err != nil {
					t.Fatal(err)
				}
				for _, c := range commands {
					command(t, root, "sh", "-c", "CI=1 npm "+c)
				}
				if all := found(t, root); len(all) > 0 {
					t.Errorf("after the build: %v", all)
				}
			}
		})
	}
}

func TestRegistryGinScaffoldBuildsVetsAndTests(t *testing.T) {
	for _, answers := range [][]string{nil, scaffolds["gin/mvc"]} {
		root := scaffolded(t, "gin/mvc", answers...)
		command(t, root, "go", "mod", "tidy")
		command(t, root, "go", "vet", "./...")
		command(t, root, "go", "test", "./...")
	}
}

// TestRegistryScaffoldsParse reads the files of starters whose toolchain is
// not to be had with the grammars of their languages. The largest of these are too much
// for the optimising compiler of newer versions of Node.js, so that it is left out.
func TestRegistryScaffoldsParse(t *testing.T) {
	tools := t.TempDir()
	copyFile(t, "testdata/parse.mjs", filepath.Join(tools, "parse.mjs"))
	command(t, tools, "npm", "install", "--no-audit", "--no-fund", "--loglevel=error", "web-tree-sitter@0.25.10", "tree-sitter-wasms@0.1.13")
	for _, layout := range []string{"dotnet/controllers", "dotnet/endpoints", "dotnet/layers", "flutter/features", "flutter/screens", "java/gradle", "kotlin/gradle", "spring/service", "swift/modules", "swift/package", "swift/xcode"} {
		for _, answers := range [][]string{nil, scaffolds[layout]} {
			root := scaffolded(t, layout, answers...)
			command(t, tools, "node", append([]string{"--liftoff-only", "parse.mjs"}, filesIn(t, root)...)...)
			for _, path := range filesIn(t, root) {
				switch filepath.Ext(path) {
				case ".xml", ".csproj", ".slnx":
					wellFormedXML(t, path)
				case ".yaml":
					wellFormedYAML(t, path)
				}
			}
		}
	}
}

// TestRegistryHelmScaffoldRenders lets Helm's own engine render the chart.
func TestRegistryHelmScaffoldRenders(t *testing.T) {
	tool := goTool(t, "helm", "helm.sh/helm/v3@v3.19.0")
	for _, answers := range [][]string{nil, scaffolds["helm/chart"]} {
		command(t, tool, "go", "run", ".", scaffolded(t, "helm/chart", answers...))
	}
}

// TestRegistryTerraformScaffoldParses lets the parser of Terraform read it.
func TestRegistryTerraformScaffoldParses(t *testing.T) {
	tool := goTool(t, "hcl", "github.com/hashicorp/hcl/v2@v2.24.0")
	roots := []string{scaffolded(t, "terraform/module"), scaffolded(t, "terraform/module", scaffolds["terraform/module"]...),
		scaffolded(t, "terraform/environments"), scaffolded(t, "terraform/environments", scaffolds["terraform/environments"]...)}
	for _, root := range roots {
		var files []string
		for _, path := range filesIn(t, root) {
			if ending := filepath.Ext(path); ending == ".tf" || ending == ".hcl" {
				files = append(files, path)
			}
		}
		command(t, tool, "go", append([]string{"run", "."}, files...)...)
	}
}

// goTool makes a module of the program in testdata/name, which needs another.
func goTool(t *testing.T, name, needs string) string {
	t.Helper()
	dir := t.TempDir()
	copyFile(t, filepath.Join("testdata", name, "main.go"), filepath.Join(dir, "main.go"))
	command(t, dir, "go", "mod", "init", "proof")
	command(t, dir, "go", "get", needs)
	command(t, dir, "go", "mod", "tidy")
	return dir
}

func copyFile(t *testing.T, from, to string) {
	t.Helper()
	text, err := os.ReadFile(from)
	if err == nil {
		err = os.WriteFile(to, text, 0o644)
	}
	if err != nil {
		t.Fatal(err)
	}
}

func filesIn(t *testing.T, root string) []string {
	t.Helper()
	var all []string
	filepath.WalkDir(root, func(path string, d os.DirEntry, err error) error {
		if err == nil && !d.IsDir() {
			all = append(all, path)
		}
		return err
	})
	return all
}
