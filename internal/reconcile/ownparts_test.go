package reconcile_test

import (
	"testing"

	"dicaxon/internal/placement"
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
	as := placement.Input{}
	tellEach(t, packages, "setup.py tides/init.py", []laid{
		{"tests of the package", as, "tides/tests/test_a.py tides/tests/deep/test_b.py", ""},
		{"tests of a part of it", as, "tides/moon/tests/test_a.py tides/moon/a.py", ""},
		{"beside the folder for tests", as, "tides/tests/test_a.py tests/test_b.py", ""},
		{"a test among the code", as, "tides/test_a.py tests/test_b.py", "warning misplaced tides/test_a.py -> tests/test_a.py"},
		{"a module with the name of another that has marks", as, "tides/main.py", ""},
		{"two folders of one place that are called otherwise", as, "src/a.js lib/b.js", ""},
	})
}
