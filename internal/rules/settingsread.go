package rules

import (
	"strings"

	"github.com/tailscale/hujson"

	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
)

var settingsRead = &Rule{
	Name: "settings-read", Kind: finding.Substandard, Level: finding.Error,
	Doc: "Settings are read to their end by the programs that ask for them: JSON, TOML, YAML and XML without a mistake. A text that a template makes is passed over.",
	Example: `- rule: settings-read
  files: ["**/package.json", compose.yaml]`,
	Options: []Option{
		{"files", Paths, true, "the settings", true},
		{"plain", Flag, false, "true where JSON has neither remarks nor commas behind the last of its values", false},
		{"unless", Regexps, false, "texts that a template makes", false},
	},
	Run: func(c *Call) {
		for _, f := range c.files("files") {
			text := c.textOf(f.path)
			if f.node.Folder != nil || len(text) == 0 || c.lends(f.path) || !refs.Parses(f.path) || anyFits(c.regexps["unless"], text) {
				continue
			}
			switch read := c.Graph.Of(f.path); {
			case strings.Contains(read.Broken, `"<<"`): // two that are merged, which some programs take
			case read.Broken != "":
				c.report(f.path, read.BrokenLine, 0, nil, breaksOff, read.Broken)
			case c.flag("plain"):
				c.tellNotPlain(f.path, text)
			}
		}
	},
}

// breaksOff says of a file that it cannot be read to its end.
const breaksOff = "it cannot be read beyond here: %s"

// tellNotPlain tells of the first remark or the first comma too many of JSON (RFC 8259).
func (c *Call) tellNotPlain(at string, text []byte) {
	value, err := hujson.Parse(text)
	if err != nil || value.IsStandard() {
		return
	}
	line := 0
	if m := afterLast.Get().FindIndex(text); m != nil {
		line, _ = refs.Place(text, lang.At(m[0], m[0]+1))
	}
	c.report(at, line, 0, nil, "it has a comma behind the last of its values, or a remark, which plain JSON has not")
}

// afterLast finds a comma behind the last value of a list or an object, or a remark in a line of its own.
var afterLast = lazy.New(`,\s*[}\]]|(?m:^\s*(?://|/\*))`)
