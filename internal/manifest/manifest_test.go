package manifest

import (
	"slices"
	"strings"
	"testing"
)

func TestNeeds(t *testing.T) {
	for _, c := range []struct {
		name, text string
		want       []string
	}{
		{"requirements.txt", "# flask is fine\nFlask>=2\n-r other.txt\n  pytest ; python_version>'3'\nflask-login[x]==1\n\n", []string{"flask", "flask-login", "pytest"}},
		{"requirements-dev.txt", "pytest\r\n", []string{"pytest"}},
		{"pyproject.toml", "[project]\ndependencies=['Flask ~= 3']\n[dependency-groups]\ndev=['pytest',{include-group='x'}]\n[tool.poetry.dependencies]\npython='^3'\n", []string{"flask", "pytest", "python"}},
		{"pyproject.toml", "[project\n", nil},
		{"Pipfile", "[packages]\nflask='*'\n[dev-packages]\npytest='*'\n", []string{"flask", "pytest"}},
		{"package.json", `{"dependencies":{"react":"19"},"devDependencies":{"vite":"8"}}`, []string{"react", "vite"}},
		{"package.json", `{"dependencies":[]}`, nil},
		{"package.json", `{"peerDependencies":{"react":"19"},"devDependencies":{"react":"19","vite":"8"}}`, []string{"vite"}},
		{"go.mod", "module m\nrequire (\n a.b/c v1.0.0\n a.b/d v1.0.0 // indirect\n)\n", []string{"a.b/c"}},
		{"Cargo.toml", "[dependencies]\nserde='1'\n[dev-dependencies]\nproptest='1'\n[workspace.dependencies]\ntokio='1'\n", []string{"proptest", "serde", "tokio"}},
		{"composer.json", `{"require":{"php":"^8.3","Laravel/Framework":"^12"},"require-dev":{"phpunit/phpunit":"*"}}`, []string{"laravel/framework", "php", "phpunit/phpunit"}},
		{"Gemfile", "# gem 'none'\ngem \"rails\", \"~> 8.0\"\n  gem 'puma'\n", []string{"puma", "rails"}},
		{"pom.xml", "<project><parent><groupId>g.p</groupId><artifactId>top</artifactId></parent><dependencies><dependency><groupId>g</groupId><artifactId>A</artifactId></dependency></dependencies></project>", []string{"g.p:top", "g:a"}},
		{"build.gradle.kts", "plugins {\n  kotlin(\"jvm\") version \"2.2\"\n  id(\"org.springframework.boot\") version \"4\"\n}\ndependencies {\n  testImplementation(\"org.junit:junit-bom:5\")\n}\n", []string{"org.jetbrains.kotlin.jvm", "org.junit:junit-bom", "org.springframework.boot"}},
		{"build.gradle", "plugins { \n id 'java' }\ndependencies {\n  implementation 'g:a:1'\n  // implementation 'g:none:1'\n}\n", []string{"g:a", "java"}},
		{"pubspec.yaml", "dependencies:\n  flutter:\n    sdk: flutter\ndev_dependencies:\n  flutter_test: {sdk: flutter}\n", []string{"flutter", "flutter_test"}},
		{"Ferry.csproj", `<Project Sdk="Microsoft.NET.Sdk.Web"><ItemGroup><PackageReference Include="Dapper" Version="2"/></ItemGroup></Project>`, []string{"dapper", "microsoft.net.sdk.web"}},
		{"Package.swift", `let package = Package(dependencies: [.package(url: "https://gannet.example/tides.git", from: "1.0.0"), .package(path: "../Berths")])`, []string{"berths", "tides"}},
		{"pom.xml", "<project", nil},
		{"notes.txt", "flask\n", nil},
	} {
		if got := Needs(c.name, []byte(c.text)); !slices.Equal(got, c.want) {
			t.Errorf("%s %q: got %q, want %q", c.name, c.text, got, c.want)
		}
	}
}

// Every pattern that Names gives must lead to a reader, and names that only look
// alike to none.
func TestNames(t *testing.T) {
	for _, name := range Names() {
		if name = strings.ReplaceAll(name, "*", "Ferry"); !Is(name) {
			t.Errorf("%s is listed and has no reader", name)
		}
		if got := Needs(name, nil); len(got) != 0 {
			t.Errorf("an empty %s needs %q", name, got)
		}
	}
	for _, name := range []string{"", "Go.mod", "package.json.bak", "my-requirements.txt", "requirements/base.txt", "csproj"} {
		if Is(name) {
			t.Errorf("%q is taken for a manifest", name)
		}
	}
}

func FuzzNeeds(f *testing.F) {
	f.Add("pyproject.toml", []byte("[project]\ndependencies=['a']\n"))
	f.Add("go.mod", []byte("module m\nrequire a.b/c v1.0.0\n"))
	f.Add("package.json", []byte(`{"dependencies":{"a":"1"}}`))
	f.Fuzz(func(_ *testing.T, name string, text []byte) { Needs(name, text) })
}
