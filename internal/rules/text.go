package rules

import (
	"bytes"
	"cmp"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/refs/lang"
	"dicaxon/internal/safe"
)

var text = &Rule{
	Name: "text", Kind: finding.Substandard, Level: finding.Warning,
	Doc: "A house rule on text: what files must say, and what they must not.",
	Example: `- rule: text
  files: "dags/**/*.py"
  must: ['tags=']
  says: A job has tags.`,
	Options: []Option{
		{"files", Paths, true, "the files", false},
		{"except", Paths, false, "files that it does not hold for", false},
		{"where", Regexps, false, "only files with this text", false},
		{"unless", Regexps, false, "only files without this text", false},
		{"given-in", Paths, false, "it holds only where one of these files says what is given", false},
		{"given", Regexps, false, "what such files say, each in one of them", false},
		{"given-not", Regexps, false, "what none of them says", false},
		{"must", Regexps, false, "what each must have", false},
		{"what", Text, false, "what that, or what it may not have, is called, where the expression is not for people", false},
		{"must-not", Regexps, false, "what none may have", false},
		inParts,
	},
	Run: runText,
}

func runText(c *Call) {
	if !c.isGiven() {
		return
	}
	for _, f := range c.files("files") {
		if c.fits("except", f.path) {
			continue
		}
		code := c.Graph.Code(f.path)
		if !c.concerns(code) {
			continue
		}
		for i, re := range c.regexps["must"] {
			if !re.Match(code) {
				c.report(f.path, 0, 0, nil, "it lacks %s", cmp.Or(c.text("what"), readable(c.texts("must")[i])))
			}
		}
		for _, re := range c.regexps["must-not"] {
			if found := re.Get().FindIndex(code); found != nil {
				said := safe.Redacted(strings.Join(strings.Fields(string(code[found[0]:found[1]])), " "))
				if c.regexps["must"] == nil {
					said = cmp.Or(c.text("what"), said)
				}
				c.report(f.path, lineOf(code, found), 0, nil, "it has %s", said[:min(len(said), 60)])
			}
		}
	}
}

// isGiven says whether the files that say what is given say what the rule asks for, and nothing that it does not.
func (c *Call) isGiven() bool {
	said := func(re *lazy.Regexp) bool {
		return slices.ContainsFunc(c.files("given-in"), func(f file) bool { return re.Match(c.textOf(f.path)) })
	}
	for _, re := range c.regexps["given"] {
		if !said(re) {
			return false
		}
	}
	return !slices.ContainsFunc(c.regexps["given-not"], said)
}

// readable gives a regular expression without what only machines need.
func readable(expression string) string {
	return strings.NewReplacer(`)\s*\(`, "(", "(?:", "", "|", " or ", `\b`, "", `\s*`, " ", `\(`, "(", `\)`, ")", `\.`, ".").Replace(expression)
}

// withoutAside gives a text without the parts that the rule leaves out: the option aside.
func (c *Call) withoutAside(text []byte) []byte {
	all := c.regexps["aside"]
	if len(all) == 0 {
		return text
	}
	text = bytes.Clone(text)
	for _, re := range all {
		for _, m := range re.Get().FindAllIndex(text, -1) {
			lang.Blank(text[m[0]:m[1]])
		}
	}
	return text
}
