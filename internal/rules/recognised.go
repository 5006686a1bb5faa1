package rules

import (
	"path"

	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
)

var recognised = &Rule{
	Name: "recognised", Kind: finding.Misplaced, Level: finding.Error,
	Doc: "A file whose text shows that it is of another kind than its folder's lies with its own kind.",
	Example: `- rule: recognised
  files: "app/**/*.rb"`,
	Options: []Option{{"files", Paths, true, "the files", false}},
	Run: func(c *Call) {
		index := c.Layout.Index()
		for _, f := range c.files("files") {
			own := c.entryOf(f.path)
			if own == nil || c.homeOf(f.path) != f.path || own.Spellings[0].Exact != "" || own.Shows != nil && own.ShownIn(c.textOf(f.path)) {
				continue
			}
			if home := c.kindOf(index, f, own); home != "" {
				c.report(f.path, 0, 0, nil, "its text is that of what stands in %s", path.Dir(home)+"/").Home = c.Top.Path() + home
			}
		}
	},
}

// kindOf gives where a file belongs by its text, or "" where that is here, or
// not clear.
func (c *Call) kindOf(index *layout.Index, f file, own *layout.Entry) string {
	var home string
	several := false
	index.All(path.Base(f.path), false, func(e *layout.Entry) {
		if e == own || e.Shows == nil || e.Need.Banned() || e.Parent == own.Parent || !e.ShownIn(c.textOf(f.path)) {
			return
		}
		folder, ok := c.folderFor(e.Parent, f)
		if !ok {
			return
		}
		at := path.Join(folder, path.Base(f.path))
		several = several || home != "" && home != at
		home = at
	})
	if several || home == f.path {
		return ""
	}
	return home
}

// folderFor gives the folder of an entry where captured names leave no doubt.
func (c *Call) folderFor(e *layout.Entry, f file) (string, bool) {
	if e.Parent == nil {
		return "", true
	}
	above, ok := c.folderFor(e.Parent, f)
	name, complete := e.Name(f.env)
	if !complete {
		name, complete = e.Name(c.env)
	}
	return path.Join(above, name), ok && complete && !e.Deep
}
