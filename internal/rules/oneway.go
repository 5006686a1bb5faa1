package rules

import (
	"fmt"

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
		c.report(least[0].path, 0, 0, &finding.Place{Path: most[0].path}, "%s arranged this way, %s the other; use one way", are(len(least)), are(len(most)))
	},
}

func are(n int) string {
	if n == 1 {
		return "1 file is"
	}
	return fmt.Sprintf("%d files are", n)
}
