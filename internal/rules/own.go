package rules

import (
	"regexp"
	"slices"
	"strings"
	"text/template"
	"text/template/parse"

	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/tree"
)

var own = &Rule{
	Name: "own", Kind: finding.Leftover, Level: finding.Note,
	Doc: "A file that people must make their own no longer has the text of its starter.",
	Example: `- rule: own
  files: README.md`,
	Options: []Option{
		{"files", Paths, true, "the files"},
		{"beyond", Count, false, "only once the project holds more files than this: a new one may keep them"},
	},
	Run: func(c *Call) {
		if c.Match.Files <= c.count("beyond") {
			return
		}
		for _, f := range c.files("files") {
			e := c.entryOf(f.path)
			if e == nil || e.Starter == "" {
				continue
			}
			form, err := formOf(e)
			if err == nil && form.Match(c.textOf(f.path)) {
				c.report(f.path, 0, 0, nil, "it still has the text that scaffold gave it")
			}
		}
	},
}

// entryOf gives the entry that describes a file, or nil.
func (c *Call) entryOf(at string) *layout.Entry {
	in := c.Top
	for {
		name, rest, more := strings.Cut(at, "/")
		i := slices.IndexFunc(in.Nodes, func(n tree.Node) bool { return n.Name == name })
		if i < 0 {
			return nil
		}
		if !more {
			return c.Match.Place(in, i).Entry
		}
		if in = in.Nodes[i].Folder; in == nil {
			return nil
		}
		at = rest
	}
}

// formOf turns a starter into an expression that fits every text that it can
// give, whatever the answers were: what is filled in stands for anything.
func formOf(e *layout.Entry) (*regexp.Regexp, error) {
	text, err := e.StarterText()
	if err != nil {
		return nil, err
	}
	left, right := e.Marks()
	t, err := template.New("").Delims(left, right).Funcs(layout.StarterFunctions).Parse(text)
	if err != nil {
		return nil, err
	}
	var b strings.Builder
	b.WriteString(`\A`)
	if t.Tree != nil {
		for _, n := range t.Tree.Root.Nodes {
			if plain, ok := n.(*parse.TextNode); ok {
				b.WriteString(regexp.QuoteMeta(string(plain.Text)))
			} else if _, ok := n.(*parse.ActionNode); ok {
				b.WriteString(`[^\n]*`)
			} else {
				b.WriteString(`(?s:.*)`)
			}
		}
	}
	return regexp.Compile(b.String() + `\s*\z`)
}
