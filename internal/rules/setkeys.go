package rules

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/refs"
)

var setKeys = &Rule{
	Name: "set-keys", Kind: finding.Substandard, Level: finding.Warning,
	Doc: "Settings, or the front matter of a text, say what the house asks for, in the form that it asks for.",
	Example: `- rule: set-keys
  files: package.json
  keys: [name, engines.node]`,
	Options: []Option{
		{"files", Paths, true, "the settings", false},
		{"keys", Texts, false, "the keys that must be there; \"*\" stands for one", false},
		{"shaped", Texts, false, "keys with the shapes of their values, such as \"published: date\": a shape of names, number, yes-no, or one of the layout's own", false},
	},
	Check: func(l *layout.Layout, option, value string) error {
		if _, shape, ok := strings.Cut(value, ":"); option == "shaped" && (!ok || !isShape(l, strings.TrimSpace(shape))) {
			return fmt.Errorf("%q is no key with a shape, such as \"published: date\"; the shapes are those of names, number, yes-no, and the layout's own", value)
		}
		return nil
	},
	Run: func(c *Call) {
		for _, f := range c.files("files") {
			said := c.refsOf(f.path)
			for _, key := range c.texts("keys") {
				if !slices.ContainsFunc(said.Of(refs.Key), func(k refs.Ref) bool { return keyFits(key, k.Name) }) && !c.mistypedKey(f.path, key) {
					c.report(f.path, 0, 0, nil, "it does not set %s", key)
				}
			}
			for _, one := range c.texts("shaped") {
				c.misshapen(f.path, said, one)
			}
		}
	},
}

// misshapen tells of values that do not have the shape of their key.
func (c *Call) misshapen(at string, said *refs.File, asked string) {
	key, shape, _ := strings.Cut(asked, ":")
	shape = strings.TrimSpace(shape)
	for _, k := range said.Of(refs.Key) {
		if !keyFits(key, k.Name) || k.Value == "" || c.hasShape(k.Value, shape) {
			continue
		}
		c.atRef(at, k, nil, "%s is %q, which is no %s", k.Name, k.Value, shape)
	}
}

func (c *Call) hasShape(value, shape string) bool {
	switch shape {
	case "number":
		_, err := strconv.ParseFloat(value, 64)
		return err == nil
	case "yes-no":
		return value == "true" || value == "false"
	}
	is, _ := c.Layout.Shape(shape)
	return is.Fits(value)
}

func isShape(l *layout.Layout, shape string) bool {
	is, ok := l.Shape(shape)
	return shape == "number" || shape == "yes-no" || ok && is != ""
}
