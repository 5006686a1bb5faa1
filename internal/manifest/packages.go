package manifest

import (
	"encoding/json"
	"encoding/xml"

	"github.com/goccy/go-yaml"
	"github.com/pelletier/go-toml/v2"

	"dicaxon/internal/lazy"
)

// cargo reads the tables of Cargo's manifest format, the workspace's too.
func cargo(text []byte) []string {
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
	var all []string
	for _, t := range []tables{file.tables, file.Workspace} {
		all = append(all, keys(t.Dependencies)...)
		all = append(all, keys(t.Dev)...)
		all = append(all, keys(t.Build)...)
	}
	return all
}

func composer(text []byte) []string {
	var file struct {
		Require map[string]any `json:"require"`
		Dev     map[string]any `json:"require-dev"`
	}
	if json.Unmarshal(text, &file) != nil {
		return nil
	}
	return append(keys(file.Require), keys(file.Dev)...)
}

// pom gives group:artifact of the parent, the dependencies and the plugins.
func pom(text []byte) []string {
	type artifact struct {
		Group string `xml:"groupId"`
		Name  string `xml:"artifactId"`
	}
	var file struct {
		Parent       artifact   `xml:"parent"`
		Dependencies []artifact `xml:"dependencies>dependency"`
		Plugins      []artifact `xml:"build>plugins>plugin"`
	}
	if xml.Unmarshal(text, &file) != nil {
		return nil
	}
	var all []string
	for _, a := range append(append(file.Dependencies, file.Plugins...), file.Parent) {
		if a.Group != "" && a.Name != "" {
			all = append(all, a.Group+":"+a.Name)
		}
	}
	return all
}

func pubspec(text []byte) []string {
	var file struct {
		Dependencies map[string]any `yaml:"dependencies"`
		Dev          map[string]any `yaml:"dev_dependencies"`
	}
	if yaml.Unmarshal(text, &file) != nil {
		return nil
	}
	return append(keys(file.Dependencies), keys(file.Dev)...)
}

// csproj gives the kits and packages that an MSBuild project names.
func csproj(text []byte) []string {
	var file struct {
		SDK      string `xml:"Sdk,attr"`
		Packages []struct {
			Name string `xml:"Include,attr"`
		} `xml:"ItemGroup>PackageReference"`
	}
	if xml.Unmarshal(text, &file) != nil {
		return nil
	}
	var all []string
	if file.SDK != "" {
		all = append(all, file.SDK)
	}
	for _, p := range file.Packages {
		all = append(all, p.Name)
	}
	return all
}

// The manifests that are programs are read by the lines that name a
// dependency; what a program computes stays unknown.
var (
	gemLine      = lazy.New(`(?m)^\s*gem[\s(]+["']([\w.-]+)["']`)
	gradleLine   = lazy.New(`(?m)^\s*\w+[\s(]+(?:platform\()?["']([\w.-]+:[\w.-]+)(?::[^"']*)?["']`)
	gradlePlugin = lazy.New(`(?m)^\s*id[\s(]+["']([\w.-]+)["']`)
	kotlinPlugin = lazy.New(`(?m)^\s*kotlin\(["'](\w+)["']\)\s+version`)
	swiftPackage = lazy.New(`\.package\([^)]*?(?:url|path):\s*"[^"]*?([\w.-]+?)(?:\.git)?"`)
)

func gemfile(text []byte) []string { return captured(gemLine, text) }

func gradle(text []byte) []string {
	all := append(captured(gradleLine, text), captured(gradlePlugin, text)...)
	for _, kind := range captured(kotlinPlugin, text) {
		all = append(all, "org.jetbrains.kotlin."+kind)
	}
	return all
}

func swift(text []byte) []string { return captured(swiftPackage, text) }

// captured gives the first group of each match.
func captured(pattern *lazy.Regexp, text []byte) []string {
	var all []string
	for _, m := range pattern.Get().FindAllSubmatch(text, -1) {
		all = append(all, string(m[1]))
	}
	return all
}
