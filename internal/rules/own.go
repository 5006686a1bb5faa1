package rules

import (
	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
)

var own = &Rule{
	Name: "own", Kind: finding.Leftover, Level: finding.Note,
	Doc: "A file that people must make their own no longer has the text of its starter.",
	Example: `- rule: own
  files: README.md`,
	Options: []Option{
		{"files", Paths, true, "the files", false},
		{"beyond", Count, false, "only once the project holds more files than this: a new one may keep them", false},
	},
	Run: func(c *Call) {
		if c.Files <= c.count("beyond") {
			return
		}
		for _, f := range c.files("files") {
			e := c.entryOf(f.path)
			if e == nil || e.Starter == "" {
				continue
			}
			if e.IsStarter(c.textOf(f.path)) {
				c.report(f.path, 0, 0, nil, "it still has the text that scaffold gave it")
			}
		}
	},
}

// entryOf gives the entry that describes a file, or nil.
func (c *Call) entryOf(at string) *layout.Entry { return c.Lookup(at).Entry }
