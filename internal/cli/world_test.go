//go:build registries

package cli_test

import (
	"encoding/json"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/goccy/go-yaml"
)

// A foreign is a package that others published, with what is right for it.
type foreign struct {
	From    string   `yaml:"from"` // go or npm: the client that fetches it
	Package string   `yaml:"package"`
	Version string   `yaml:"version"`
	Below   string   `yaml:"below"`  // the folder in it that is the project
	Right   []string `yaml:"right"`  // the layouts that it follows, "none" for none
	Always  bool     `yaml:"always"` // it is among those that the pipeline proves
	// Told are the errors and warnings, each with the verdict of one who read it:
	// useful, arguable, noisy or false. Notes is how many notes are put up with.
	Told  map[string]string `yaml:"told"`
	Notes int               `yaml:"notes"`
}

// TestWorld checks packages that others published. What nobody has judged yet
// fails it, and so does a verdict on what is said no more. WORLD=always proves
// those of the pipeline alone, any other WORLD those whose names hold it.
func TestWorld(t *testing.T) {
	text, err := os.ReadFile("testdata/world.yaml")
	if err != nil {
		t.Fatal(err)
	}
	var all []foreign
	if err := yaml.UnmarshalWithOptions(text, &all, yaml.Strict()); err != nil {
		t.Fatal(err)
	}
	only, verdicts, right, seen := os.Getenv("WORLD"), map[string]int{}, 0, 0
	for _, f := range all {
		if only == "always" && !f.Always || only != "" && only != "always" && !strings.Contains(f.Package, only) {
			continue
		}
		seen++
		t.Run(f.Package+"@"+f.Version+"/"+f.Below, func(t *testing.T) {
			layout, told, notes := judged(t, fetched(t, f))
			if slices.Contains(f.Right, layout) {
				right++
			} else {
				t.Errorf("it is taken for %s, but follows %v", layout, f.Right)
			}
			for _, line := range told {
				verdict := f.Told[line]
				if verdict == "" {
					t.Errorf("read it and judge it: %s", line)
				}
				verdicts[verdict]++
			}
			for line := range f.Told {
				if !slices.Contains(told, line) {
					t.Errorf("said no more: %s", line)
				}
			}
			if len(notes) > f.Notes {
				t.Errorf("%d notes, not %d:\n%s", len(notes), f.Notes, strings.Join(notes, "\n"))
			}
			verdicts["note"] += len(notes)
		})
	}
	t.Logf("%d packages, %d known rightly; verdicts %v", seen, right, verdicts)
}

// fetched gives a folder with the package's files, and git around them.
func fetched(t *testing.T, f foreign) string {
	t.Helper()
	dir := t.TempDir()
	root := filepath.Join(dir, "package")
	switch f.From {
	case "go":
		out, err := exec.Command("go", "mod", "download", "-json", f.Package+"@"+f.Version).Output()
		var m struct{ Dir, Error string }
		if json.Unmarshal(out, &m) != nil || m.Dir == "" {
			t.Fatalf("go mod download: %v %s", err, m.Error)
		}
		command(t, dir, "cp", "-r", m.Dir, root)
		command(t, dir, "chmod", "-R", "u+w", root)
	case "npm":
		command(t, dir, "npm", "pack", "--silent", f.Package+"@"+f.Version)
		command(t, dir, "sh", "-c", "tar xzf *.tgz && mv */ package 2>/dev/null || true")
	default:
		t.Fatalf("nothing fetches %q", f.From)
	}
	root = filepath.Join(root, f.Below)
	command(t, root, "sh", "-c", "git init -q && git add -Af . && git -c user.name=Crew -c user.email=crew@gannet.example commit -qm package")
	return root
}

// judged gives what the program says of a repository.
func judged(t *testing.T, root string) (layout string, told, notes []string) {
	t.Helper()
	o := run(t, root, "check", "--format", "json")
	var r struct {
		Projects []struct {
			At, Layout string
			Findings   []struct{ Level, Kind, Path, Home string }
		}
	}
	if err := json.Unmarshal([]byte(o.out), &r); err != nil || o.status > 2 {
		t.Fatalf("exit status %d: %v\n%s", o.status, err, o.out)
	}
	layout = "none"
	for _, p := range r.Projects {
		if p.At == "." && p.Layout != "" {
			layout = p.Layout
		}
		for _, f := range p.Findings {
			line := strings.TrimSuffix(fmt.Sprintf("%s %s %s -> %s", f.Level, f.Kind, f.Path, f.Home), " -> ")
			if f.Level == "note" {
				notes = append(notes, line)
			} else {
				told = append(told, line)
			}
		}
	}
	return layout, told, notes
}
