package rules

import (
	"slices"
	"strings"

	"dicaxon/internal/layout"
	"dicaxon/internal/refs"
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

// keysOf lists the settings of a file with a value whose names fit one of the patterns of an
// option. Where it has none, nothing is read.
func (c *Call) keysOf(at, option string) (all []refs.Ref) {
	patterns := c.texts(option)
	if patterns == nil {
		return nil
	}
	for _, r := range c.refsOf(at).Of(refs.Key) {
		if r.Value != "" && slices.ContainsFunc(patterns, func(key string) bool { return keyFits(key, r.Name) }) {
			all = append(all, r)
		}
	}
	return all
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
