package rules

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
)

var ending = &Rule{
	Name: "ending", Kind: finding.Misdeclared, Level: finding.Error,
	Doc: "A file whose text is of one language has that language's ending.",
	Example: `- rule: ending
  files: "src/**/*"
  shows: '^(fun|class|object|package) '
  ending: .kt`,
	Options: []Option{
		{"files", Paths, true, "the files", false},
		{"shows", Regexps, true, "what the text of the language looks like", false},
		{"ending", Text, true, "the ending that it should have", false},
		{"unless-in", Paths, false, "settings that say in which endings the language stands", true},
		{"unless", Regexps, false, "what such settings say where it stands in others, too", false},
		{"doubted", Texts, false, "endings that are doubted beside those which promise nothing", false},
	},
	Run: func(c *Call) {
		if c.saidOtherwise() {
			return
		}
		want := c.text("ending")
		for _, f := range c.files("files") {
			// Only an ending that promises nothing is doubted.
			if e := path.Ext(f.path); e != "" && e != ".txt" && e != ".text" && !slices.Contains(c.texts("doubted"), e) {
				continue
			}
			text := c.textOf(f.path)
			if line := lineOf(text, c.regexps["shows"][0].Get().FindIndex(text)); line > 0 {
				home := strings.TrimSuffix(f.path, path.Ext(f.path)) + want
				c.report(f.path, line, 0, nil, "its text is that of a %s file", want).Home = c.Top.Path() + home
			}
		}
	},
}

// lineOf gives the line of what was found in a text, 0 where nothing was.
func lineOf(text []byte, found []int) int {
	if found == nil {
		return 0
	}
	return 1 + strings.Count(string(text[:found[0]]), "\n")
}
