package rules

import (
	"regexp"
	"testing"
)

// TestOfPattern reads patterns of paths as runners of tests do.
func TestOfPattern(t *testing.T) {
	for pattern, all := range map[string]map[string]bool{
		"test/**/*.test.js":      {"test/a.test.js": true, "test/b/c/a.test.js": true, "tests/a.test.js": false, "test/a.spec.js": false},
		"test/*.js":              {"test/a.js": true, "test/b/a.js": false},
		"src/**":                 {"src/a/b.js": true, "src/": true, "a.js": false},
		"**/*.{test,spec}.[jt]s": {"a.test.ts": true, "b/a.spec.js": true, "b/a.test.cs": false},
		"test/?.js":              {"test/a.js": true, "test/ab.js": false, "test//.js": false},
	} {
		re := regexp.MustCompile("^" + ofPattern(pattern) + "$")
		for at, want := range all {
			if re.MatchString(at) != want {
				t.Errorf("%s and %s: %v", pattern, at, !want)
			}
		}
	}
}
