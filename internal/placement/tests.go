package placement

import (
	"slices"
	"strings"
)

// ForTests says whether a path leads through a folder of tests.
func ForTests(path string) bool {
	return slices.ContainsFunc(strings.Split(path, "/"), func(name string) bool {
		switch strings.ToLower(name) {
		case "test", "tests", "__tests__", "spec", "specs", "e2e", "testdata", "fixtures", "cypress", "playwright":
			return true
		}
		return strings.HasSuffix(name, ".Tests") || strings.HasSuffix(name, "Tests") && name != "Tests"
	})
}
