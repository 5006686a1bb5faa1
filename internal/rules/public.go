package rules

import (
	"strings"

	"dicaxon/internal/finding"
)

var public = &Rule{
	Name: "public", Kind: finding.Exposed, Level: finding.Error,
	Doc: "A folder that everybody can fetch holds no private code.",
	Example: `- rule: public
  files: "public/**"
  shows: ['process\.env\.\w*SECRET']`,
	Options: []Option{
		{"files", Paths, true, "the files that everybody can fetch", false},
		{"names", Paths, false, "those of them that are private by their name", false},
		{"shows", Regexps, false, "what only private code has", false},
	},
	Run: func(c *Call) {
		for _, f := range c.files("files") {
			if c.fits("names", f.path) {
				c.report(f.path, 0, 0, nil, "everybody can fetch it")
				continue
			}
			text := c.textOf(f.path)
			for _, re := range c.regexps["shows"] {
				if line := lineOf(text, re.Get().FindIndex(text)); line > 0 {
					c.report(f.path, line, 0, nil, "everybody can fetch it, and it has %s", strings.TrimPrefix(re.String(), "(?m)"))
					break
				}
			}
		}
	},
}
