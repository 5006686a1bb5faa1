package manifest

import (
	"encoding/json"
	"encoding/xml"

	"github.com/goccy/go-yaml"
	"github.com/pelletier/go-toml/v2"

	"dicaxon/internal/lazy"
)

// cargo reads the tables of Cargo's manifest format, the workspace's too.
func cargo(text []byte) []Dependency {
	type tables struct {
		Dependencies map[string]any `toml:"dependencies"`
		Dev          map[string]any `toml:"dev-dependencies"`
		Build        map[string]any `toml:"build-dependencies"`
	}
	var file struct {
		tables
		Workspace tables `toml:"workspace"`
	}
	if toml.Unmarshal(text, &file) != nil {
		return nil
	}
	var all []Dependency
	for _, t := range []tables{file.tables, file.Workspace} {
		all = append(all, listed(t.Dependencies)...)
		all = append(all, listed(t.Dev)...)
		all = append(all, listed(t.Build)...)
	}
	return all
}

func composer(text []byte) []Dependency {
	var file struct {
		Require map[string]any `json:"require"`
		Dev     map[string]any `json:"require-dev"`
	}
	if json.Unmarshal(text, &file) != nil {
		return nil
	}
	return append(listed(file.Require), listed(file.Dev)...)
}

// pom gives group:artifact of the parent, the dependencies and the plugins.
func pom(text []byte) []Dependency {
	type artifact struct {
		Group   string `xml:"groupId"`
		Name    string `xml:"artifactId"`
		Version string `xml:"version"`
	}
	var file struct {
		Parent       artifact   `xml:"parent"`
		Dependencies []artifact `xml:"dependencies>dependency"`
		Plugins      []artifact `xml:"build>plugins>plugin"`
	}
	if xml.Unmarshal(text, &file) != nil {
		return nil
	}
	var all []Dependency
	for _, a := range append(append(file.Dependencies, file.Plugins...), file.Parent) {
		if a.Group != "" && a.Name != "" {
			all = append(all, Dependency{a.Group + ":" + a.Name, a.Version})
		}
	}
	return all
}

func pubspec(text []byte) []Dependency {
	var file struct {
		Dependencies map[string]any `yaml:"dependencies"`
		Dev          map[string]any `yaml:"dev_dependencies"`
	}
	if yaml.Unmarshal(text, &file) != nil {
		return nil
	}
	return append(listed(file.Dependencies), listed(file.Dev)...)
}

// csproj gives the kits and packages that an MSBuild project names.
func csproj(text []byte) []Dependency {
	var file struct {
		SDK      string `xml:"Sdk,attr"`
		Packages []struct {
			Name    string `xml:"Include,attr"`
			Version string `xml:"Version,attr"`
		} `xml:"ItemGroup>PackageReference"`
	}
	if xml.Unmarshal(text, &file) != nil {
		return nil
	}
	var all []Dependency
	if file.SDK != "" {
		all = append(all, Dependency{Name: file.SDK})
	}
	for _, p := range file.Packages {
		all = append(all, Dependency{p.Name, p.Version})
	}
	return all
}

// The manifests that are programs are read by the lines that name a
// dependency; what a program computes stays unknown.
var (
	gemLine      = lazy.New(`(?m)^\s*gem[\s(]+["']([\w.-]+)["'](?:\s*,\s*["']([^"']*)["'])?`)
	gradleLine   = lazy.New(`(?m)^\s*\w+[\s(]+(?:platform\()?["']([\w.-]+:[\w.-]+)(?::([^"']*))?["']`)
	gradlePlugin = lazy.New(`(?m)^\s*id[\s(]+["']([\w.-]+)["']\)?(?:\s+version[\s(]+["']([^"']*)["'])?`)
	kotlinPlugin = lazy.New(`(?m)^\s*kotlin\(["'](\w+)["']\)\s+version\s+["']([^"']*)["']`)
	swiftPackage = lazy.New(`\.package\([^)]*?(?:url|path):\s*"[^"]*?([\w.-]+?)(?:\.git)?"`)
)

func gemfile(text []byte) []Dependency { return captured(gemLine, text) }

func gradle(text []byte) []Dependency {
	all := append(captured(gradleLine, text), captured(gradlePlugin, text)...)
	for _, kind := range captured(kotlinPlugin, text) {
		all = append(all, Dependency{"org.jetbrains.kotlin." + kind.Name, kind.Version})
	}
	return all
}

func swift(text []byte) []Dependency { return captured(swiftPackage, text) }

// captured gives the groups of each match: the name and, where there is a second, the
// versions.
func captured(pattern *lazy.Regexp, text []byte) []Dependency {
	var all []Dependency
	for _, m := range pattern.Get().FindAllSubmatch(text, -1) {
		d := Dependency{Name: string(m[1])}
		if len(m) > 2 {
			d.Version = string(m[2])
		}
		all = append(all, d)
	}
	return all
}
