package rules

import (
	"path"
	"strings"

	"dicaxon/internal/finding"
)

var shadowed = &Rule{
	Name: "shadowed", Kind: finding.Disagrees, Level: finding.Warning, Always: true,
	Doc: "No module of Python stands beside a package of its name, which is imported in its place.",
	Example: `- rule: shadowed
  level: error`,
	Run: func(c *Call) {
		for _, f := range c.everything() {
			stem, ok := strings.CutSuffix(f.path, ".py")
			if !ok || c.lends(f.path) {
				continue
			}
			if marker := path.Join(stem, "__init__.py"); c.node(marker) != nil {
				c.report(f.path, 0, 0, &finding.Place{Path: marker}, "the package %s/ beside it is imported in its place", path.Base(stem))
			}
		}
	},
}
