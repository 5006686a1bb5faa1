// Package manifest reads a project's dependencies from the files in which the
// tools of its language keep them.
package manifest

import (
	"encoding/json"
	"path"
	"slices"
	"strings"

	"github.com/pelletier/go-toml/v2"
	"golang.org/x/mod/modfile"

	"dicaxon/internal/lazy"
	"dicaxon/internal/safe"
)

// A Dependency is what a project needs: its name in small letters, and the versions
// that the manifest takes, as written there; "" where it says nothing of them.
type Dependency struct{ Name, Version string }

// A reader gives the dependencies in one manifest's text. What it cannot
// understand it leaves out.
type reader func(text []byte) []Dependency

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

// Dependencies gives those in the text of the manifest called name, in the order of
// their names.
func Dependencies(name string, text []byte) []Dependency {
	read := readerOf(name)
	if read == nil {
		return nil
	}
	plain, _ := safe.WithoutMark(text)
	all := read(plain)
	for i := range all {
		all[i].Name = strings.ToLower(all[i].Name)
	}
	slices.SortStableFunc(all, func(a, b Dependency) int { return strings.Compare(a.Name, b.Name) })
	return slices.Compact(all)
}

// Needs gives the names of the dependencies in the text of the manifest called
// name, in small letters, each once.
func Needs(name string, text []byte) []string {
	var all []string
	for _, d := range Dependencies(name, text) {
		all = append(all, d.Name)
	}
	return slices.Compact(all)
}

// requirement is a name with its versions at the start of a requirement, by PEP 508.
var requirement = lazy.New(`^\s*([A-Za-z0-9](?:[A-Za-z0-9._-]*[A-Za-z0-9])?)\s*(?:\[[^\]]*\])?\s*([^;#\n]*)`)

func requirements(text []byte) []Dependency {
	var all []Dependency
	for line := range strings.Lines(string(text)) {
		all = append(all, requirementNames([]string{line})...)
	}
	return all
}

func requirementNames(lines []string) []Dependency {
	var all []Dependency
	for _, line := range lines {
		if m := requirement.Get().FindStringSubmatch(line); m != nil {
			all = append(all, Dependency{m[1], strings.TrimSpace(m[2])})
		}
	}
	return all
}

// pyproject reads project.dependencies (PEP 621), dependency groups (PEP 735)
// and the tables of Poetry.
func pyproject(text []byte) []Dependency {
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
	return append(all, listed(file.Tool.Poetry.Dependencies)...)
}

func pipfile(text []byte) []Dependency {
	var file struct {
		Packages map[string]any `toml:"packages"`
		Dev      map[string]any `toml:"dev-packages"`
	}
	if toml.Unmarshal(text, &file) != nil {
		return nil
	}
	return append(listed(file.Packages), listed(file.Dev)...)
}

func packageJSON(text []byte) []Dependency {
	var file struct {
		Dependencies map[string]any `json:"dependencies"`
		Dev          map[string]any `json:"devDependencies"`
		Peer         map[string]any `json:"peerDependencies"`
	}
	if json.Unmarshal(text, &file) != nil {
		return nil
	}
	// What users of a package are to have makes it a part for such projects, not one of them,
	// also where its own tests need it.
	return append(listed(file.Dependencies), slices.DeleteFunc(listed(file.Dev), func(d Dependency) bool { return file.Peer[d.Name] != nil })...)
}

func goMod(text []byte) []Dependency {
	file, err := modfile.ParseLax("go.mod", text, nil)
	if err != nil {
		return nil
	}
	var all []Dependency
	for _, r := range file.Require {
		if !r.Indirect {
			all = append(all, Dependency{r.Mod.Path, r.Mod.Version})
		}
	}
	return all
}

// listed gives the dependencies of a table by name, whose values are versions or tables
// that hold one.
func listed(table map[string]any) []Dependency {
	var all []Dependency
	for name, value := range table {
		if more, ok := value.(map[string]any); ok {
			value = more["version"]
		}
		version, _ := value.(string)
		all = append(all, Dependency{name, version})
	}
	return all
}
