package identify

import (
	"testing"

	"dicaxon/internal/catalogue"
	"dicaxon/internal/tree"
	"dicaxon/internal/treetest"
)

// TestLacks asks what a project lacks of those that a layout is for: a dependency that its manifest
// would name, or a file of the language.
func TestLacks(t *testing.T) {
	for _, c := range []struct {
		files        map[string]string
		layout, want string
	}{
		{map[string]string{"requirements.txt": "flask\n", "app.py": "x = 1\n"}, "react/features", "needs react-dom"},
		{map[string]string{"requirements.txt": "flask\n", "app.py": "x = 1\n"}, "flask/areas", ""},
		{map[string]string{"app.py": "x = 1\n"}, "flask/areas", ""},                                     // nothing says what it needs
		{map[string]string{"package.json": `{"dependencies": {"redux": "^5.0.1"}}`}, "react/roles", ""}, // what it is known by beside
		{map[string]string{"package.json": `{"dependencies": {"vue": "^3.5.0"}}`}, "react/roles", "needs react"},
		{map[string]string{"go.mod": "module gannet.example/tides\n"}, "gannet/team", ""},
		{map[string]string{"go.mod": "module gannet.example/tides\n"}, "rust/crate", "has [package] in a file ./Cargo.toml"},
	} {
		r, err := tree.Read(treetest.Make(t, c.files), tree.Options{})
		if err != nil {
			t.Fatal(err)
		}
		if got := Lacks(catalogue.Catalogue{}, r, r.Top, c.layout); got != c.want {
			t.Errorf("%v for %s: %q, not %q", c.files, c.layout, got, c.want)
		}
	}
}
