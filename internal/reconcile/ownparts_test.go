package reconcile_test

import (
	"slices"
	"strings"
	"testing"
)

// packages is a layout with a package that has tests of its own, beside a folder for tests.
const packages = `tree:
  main.py: {role: R.}
  setup.py: {need: must, role: R.}
  <package>/:
    need: must
    role: R.
    not-here: [{what: Tests, goes-to: tests/, like: "test_*.py"}]
    tree:
      init.py: {need: must, role: R.}
      __main__.py: {role: R.}
      tests/: {role: R., others: may}
      "**/*.py": {role: R.}
  tests/: {need: should, role: R., tree: {"**/test_*.py": {role: R.}}}
  src/ | lib/: {need: should, role: R., tree: {"**/*.js": {role: R.}}}
`

// TestOwnTests holds that tests which a package has for itself are no tests that went astray, whether
// the folder for tests is there or not, and that the same name elsewhere still is one.
func TestOwnTests(t *testing.T) {
	for _, c := range []struct{ what, files, want string }{
		{"tests of the package", "tides/tests/test_a.py tides/tests/deep/test_b.py", ""},
		{"tests of a part of it", "tides/moon/tests/test_a.py tides/moon/a.py", ""},
		{"beside the folder for tests", "tides/tests/test_a.py tests/test_b.py", ""},
		{"a test among the code", "tides/test_a.py tests/test_b.py", "warning misplaced tides/test_a.py -> tests/test_a.py"},
		{"a module with the name of another that has marks", "tides/main.py", ""},
		{"two folders of one place that are called otherwise", "src/a.js lib/b.js", ""},
	} {
		files := map[string]string{"setup.py": "", "tides/init.py": ""}
		for name := range strings.FieldsSeq(c.files) {
			files[name] = ""
		}
		got := slices.DeleteFunc(run(t, packages, files), func(line string) bool { return strings.Contains(line, " missing ") })
		if strings.Join(got, ", ") != c.want {
			t.Errorf("%s: %q, not %q", c.what, got, c.want)
		}
	}
}
