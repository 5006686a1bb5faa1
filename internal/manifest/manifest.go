// Package manifest reads the names of a project's dependencies from the files
// in which the tools of its language keep them.
package manifest

import (
	"encoding/json"
	"path"
	"slices"
	"strings"

	"github.com/pelletier/go-toml/v2"
	"golang.org/x/mod/modfile"

	"dicaxon/internal/lazy"
)

// A reader gives the names of the dependencies in one manifest's text. What it
// cannot understand it leaves out.
type reader func(text []byte) []string

// readers lists the manifests by the pattern of their names, as path.Match
// has it.
var readers = []struct {
	name string
	read reader
}{
	{"requirements*.txt", requirements},
	{"pyproject.toml", pyproject},
	{"Pipfile", pipfile},
	{"package.json", packageJSON},
	{"go.mod", goMod},
	{"Cargo.toml", cargo},
	{"composer.json", composer},
	{"Gemfile", gemfile},
	{"pom.xml", pom},
	{"build.gradle", gradle},
	{"build.gradle.kts", gradle},
	{"pubspec.yaml", pubspec},
	{"*.csproj", csproj},
	{"Package.swift", swift},
}

// Is says whether a file of that name is a manifest.
func Is(name string) bool { return readerOf(name) != nil }

// Names lists the patterns of the manifests' names, as path.Match has them.
func Names() []string {
	var all []string
	for _, r := range readers {
		all = append(all, r.name)
	}
	return all
}

func readerOf(name string) reader {
	for _, r := range readers {
		if ok, _ := path.Match(r.name, name); ok {
			return r.read
		}
	}
	return nil
}

// Needs gives the names of the dependencies in the text of the manifest called
// name, in small letters, each once.
func Needs(name string, text []byte) []string {
	read := readerOf(name)
	if read == nil {
		return nil
	}
	all := read(text)
	for i := range all {
		all[i] = strings.ToLower(all[i])
	}
	slices.Sort(all)
	return slices.Compact(all)
}

// requirement is the name at the start of a requirement, by PEP 508.
var requirement = lazy.New(`^\s*([A-Za-z0-9](?:[A-Za-z0-9._-]*[A-Za-z0-9])?)`)

func requirements(text []byte) []string {
	var all []string
	for line := range strings.Lines(string(text)) {
		all = append(all, requirementNames([]string{line})...)
	}
	return all
}

func requirementNames(lines []string) []string {
	var all []string
	for _, line := range lines {
		if m := requirement.Get().FindStringSubmatch(line); m != nil {
			all = append(all, m[1])
		}
	}
	return all
}

// pyproject reads project.dependencies (PEP 621), dependency groups (PEP 735)
// and the tables of Poetry.
func pyproject(text []byte) []string {
	var file struct {
		Project struct {
			Dependencies []string            `toml:"dependencies"`
			Optional     map[string][]string `toml:"optional-dependencies"`
		} `toml:"project"`
		Groups map[string][]any `toml:"dependency-groups"`
		Tool   struct {
			Poetry struct {
				Dependencies map[string]any `toml:"dependencies"`
			} `toml:"poetry"`
		} `toml:"tool"`
	}
	if toml.Unmarshal(text, &file) != nil {
		return nil
	}
	all := requirementNames(file.Project.Dependencies)
	for _, list := range file.Project.Optional {
		all = append(all, requirementNames(list)...)
	}
	for _, group := range file.Groups {
		for _, one := range group {
			if line, ok := one.(string); ok {
				all = append(all, requirementNames([]string{line})...)
			}
		}
	}
	for name := range file.Tool.Poetry.Dependencies {
		all = append(all, name)
	}
	return all
}

func pipfile(text []byte) []string {
	var file struct {
		Packages map[string]any `toml:"packages"`
		Dev      map[string]any `toml:"dev-packages"`
	}
	if toml.Unmarshal(text, &file) != nil {
		return nil
	}
	return append(keys(file.Packages), keys(file.Dev)...)
}

func packageJSON(text []byte) []string {
	var file struct {
		Dependencies map[string]any `json:"dependencies"`
		Dev          map[string]any `json:"devDependencies"`
		Peer         map[string]any `json:"peerDependencies"`
	}
	if json.Unmarshal(text, &file) != nil {
		return nil
	}
	return append(append(keys(file.Dependencies), keys(file.Dev)...), keys(file.Peer)...)
}

func goMod(text []byte) []string {
	file, err := modfile.ParseLax("go.mod", text, nil)
	if err != nil {
		return nil
	}
	var all []string
	for _, r := range file.Require {
		if !r.Indirect {
			all = append(all, r.Mod.Path)
		}
	}
	return all
}

func keys(table map[string]any) []string {
	var all []string
	for name := range table {
		all = append(all, name)
	}
	return all
}
