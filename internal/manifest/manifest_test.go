package manifest

import (
	"slices"
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
		{"go.mod", "module m\nrequire (\n a.b/c v1.0.0\n a.b/d v1.0.0 // indirect\n)\n", []string{"a.b/c"}},
		{"notes.txt", "flask\n", nil},
	} {
		if got := Needs(c.name, []byte(c.text)); !slices.Equal(got, c.want) {
			t.Errorf("%s %q: got %q, want %q", c.name, c.text, got, c.want)
		}
	}
}

func FuzzNeeds(f *testing.F) {
	f.Add("pyproject.toml", []byte("[project]\ndependencies=['a']\n"))
	f.Add("go.mod", []byte("module m\nrequire a.b/c v1.0.0\n"))
	f.Add("package.json", []byte(`{"dependencies":{"a":"1"}}`))
	f.Fuzz(func(_ *testing.T, name string, text []byte) { Needs(name, text) })
}
