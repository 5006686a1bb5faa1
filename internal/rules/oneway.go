package rules

import (
	"fmt"
	"path"

	"dicaxon/internal/finding"
)

var oneWay = &Rule{
	Name: "one-way", Kind: finding.Crowded, Level: finding.Warning,
	Doc: "Of several ways to arrange a thing one is used.",
	Example: `- rule: one-way
  ways: ["src/**/*.test.js", "tests/**/*.test.js"]
  says: Tests stand beside what they test or in a tree of their own.`,
	Options: []Option{{"ways", Paths, true, "the ways, each as what it looks like", false}},
	Run: func(c *Call) {
		var most, least []file
		for _, way := range c.paths["ways"] {
			found := c.find([]place{way}, c.env)
			if s := way.Segments(); len(s) == 1 && found == nil && c.node(s[0].Exact) != nil { // what a program made
				found = []file{{path: s[0].Exact}}
			}
			switch {
			case len(found) > len(most):
				if len(most) > 0 {
					least = most
				}
				most = found
			case len(found) > 0:
				least = found
			}
		}
		if len(most) == 0 || len(least) == 0 {
			return
		}
		if len(most) == 1 && len(least) == 1 && path.Dir(most[0].path) == path.Dir(least[0].path) {
			c.report(least[0].path, 0, 0, &finding.Place{Path: most[0].path}, "%s is here too, and is for the same; keep one", path.Base(most[0].path))
			return
		}
		c.report(least[0].path, 0, 0, &finding.Place{Path: most[0].path}, "%s arranged this way, %s the other; use one way", are(len(least)), are(len(most)))
	},
}

func are(n int) string {
	if n == 1 {
		return "1 file is"
	}
	return fmt.Sprintf("%d files are", n)
}
