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
	"node/service":       {"test", "run build"},
	"react/roles":        {"test", "run build"},
	"react/features":     {"test", "run build"},
	"vite/react":         {"test", "run build"},
	"nextjs/app":         {"run build"},
	"vue/app":            {"test", "run build"},
	"angular/app":        {"test", "run build"},
	"backbone/mvc":       {"run libraries", "test"},
	"react-native/roles": {"test", "run types"},
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
