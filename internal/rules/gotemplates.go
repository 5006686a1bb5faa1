package rules

import (
	"regexp"
	"strconv"
	"text/template/parse"

	"dicaxon/internal/finding"
)

var goTemplates = &Rule{
	Name: "go-templates", Kind: finding.Disagrees, Level: finding.Error,
	Doc: "A template of Go can be read: each block has its end, and each action is closed. Functions are not looked at, since programs bring their own.",
	Example: `- rule: go-templates
  files: "templates/**/*.yaml"`,
	Options: []Option{
		{"files", Paths, true, "the templates", true},
		{"unless-in", Paths, false, "files that say how templates are read", true},
		{"unless", Regexps, false, "what such files say where templates are read in a way of the project's own, as with other marks", false},
	},
	Run: func(c *Call) {
		if c.saidOtherwise() {
			return
		}
		for _, f := range c.files("files") {
			if c.lends(f.path) || f.node.Folder != nil {
				continue
			}
			if line, why := unreadable(f.path, string(c.textOf(f.path))); why != "" {
				c.report(f.path, line, 0, nil, "it cannot be read as a template: %s", why)
			}
		}
	},
}

// whereInTemplate finds the line in what Go says of a template, and what is wrong there.
var whereInTemplate = regexp.MustCompile(`^template: [^\n]*?:(\d+):(?:\d+:)? (.+)$`)

// unreadable says in which line a text is no template of Go (text/template/parse), and why; "" where it is one.
func unreadable(name, text string) (line int, why string) {
	t := parse.New(name)
	t.Mode = parse.SkipFuncCheck
	_, err := t.Parse(text, "", "", map[string]*parse.Tree{})
	if err == nil {
		return 0, ""
	}
	if m := whereInTemplate.FindStringSubmatch(err.Error()); m != nil {
		line, _ = strconv.Atoi(m[1])
		return line, m[2]
	}
	return 0, err.Error()
}
