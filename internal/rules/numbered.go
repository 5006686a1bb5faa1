package rules

import (
	"cmp"
	"path"
	"slices"
	"strconv"

	"dicaxon/internal/finding"
)

var numbered = &Rule{
	Name: "numbered", Kind: finding.Disagrees, Level: finding.Warning,
	Doc: "Numbers in names are each there once and leave none out.",
	Example: `- rule: numbered
  files: "docs/<number>-<topic>.md"
  by: number`,
	Options: []Option{
		{"files", Paths, true, "the files, or the folders", false},
		{"by", Text, true, "the captured name that is the number", false},
		{"from", Count, false, "the first number, 1 if left out", false},
		{"gaps", Flag, false, "true where numbers may be left out", false},
	},
	Run: runNumbered,
}

// A number is one of those in the names of one folder.
type number struct {
	value int
	at    string
}

func runNumbered(c *Call) {
	in := map[string][]number{}
	var folders []string
	for _, f := range c.files("files") {
		written, ok := f.env.Get(c.text("by"))
		value, err := strconv.Atoi(written)
		if !ok || err != nil {
			continue
		}
		dir := path.Dir(path.Clean(f.path))
		if in[dir] == nil {
			folders = append(folders, dir)
		}
		at := f.path
		if f.node.Folder != nil {
			at += "/"
		}
		in[dir] = append(in[dir], number{value, at})
	}
	for _, dir := range folders {
		c.inOrder(in[dir])
	}
}

// inOrder goes through the numbers of one folder.
func (c *Call) inOrder(all []number) {
	slices.SortStableFunc(all, func(a, b number) int { return cmp.Or(a.value-b.value, cmp.Compare(a.at, b.at)) })
	next := max(c.count("from"), 1)
	for i, n := range all {
		switch {
		case i > 0 && n.value == all[i-1].value:
			c.report(n.at, 0, 0, &finding.Place{Path: all[i-1].at}, "%s has number %d, too", path.Base(all[i-1].at), n.value)
		case n.value > next && !c.flag("gaps"):
			c.report(n.at, 0, 0, nil, "%d follows where %d should; nothing has that number", n.value, next)
		}
		next = max(next, n.value+1)
	}
}
