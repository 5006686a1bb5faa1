// Package versions knows which versions of packages and tools the starters ask
// for: one table for all of them, so that no two starters disagree.
package versions

import (
	_ "embed"
	"fmt"
	"strings"
	"sync"
)

//go:embed versions.txt
var text string

// table reads the table once: a name and a version a line, remarks after "#".
var table = sync.OnceValue(func() map[string]string {
	all := map[string]string{}
	for line := range strings.Lines(text) {
		if name, version, ok := strings.Cut(strings.TrimSpace(line), " "); ok && !strings.HasPrefix(name, "#") {
			all[name] = version
		}
	}
	return all
})

// Of gives the version in the table of a name, such as "npm/react".
func Of(name string) (string, error) {
	if v, ok := table()[name]; ok {
		return v, nil
	}
	return "", fmt.Errorf("the table of versions has no %q", name)
}

// Names lists the names in the table.
func Names() []string {
	var all []string
	for name := range table() {
		all = append(all, name)
	}
	return all
}
