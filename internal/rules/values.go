package rules

import (
	"slices"
	"strings"

	"dicaxon/internal/layout"
)

// fill puts captured names into a text, those of a file before those of the
// project.
func fill(text string, envs ...*layout.Env) string {
	for _, env := range envs {
		text = layout.FillText(text, env)
	}
	return text
}

// keyed says whether the name of a setting fits one of the rule's patterns of keys.
func (c *Call) keyed(name string) bool {
	return slices.ContainsFunc(c.texts("keys"), func(key string) bool { return keyFits(key, name) })
}

// keyFits says whether the name of a setting fits a pattern of keys, in which
// "*" stands for one key, and "**" at the end for all below.
func keyFits(pattern, name string) bool {
	if above, ok := strings.CutSuffix(pattern, ".**"); ok {
		return strings.HasPrefix(name, above+".")
	}
	p, n := strings.Split(pattern, "."), strings.Split(name, ".")
	if len(p) != len(n) {
		return false
	}
	for i := range p {
		if p[i] != "*" && p[i] != n[i] {
			return false
		}
	}
	return true
}
