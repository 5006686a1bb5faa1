package rules

import (
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/match"
	"dicaxon/internal/tree"
)

var ignored = &Rule{
	Name: "ignored", Kind: finding.Exposed, Level: finding.Error, Always: true,
	Doc: "What version control should not see is named by an ignore file: settings of one machine, what programs make. What a program makes gives a warning.",
	Example: `- rule: ignored
  level: warning`,
	Run: func(c *Call) { c.exposed(c.Top) },
}

// exposed goes through the folders that version control sees.
func (c *Call) exposed(in *tree.Folder) {
	for i := range in.Nodes {
		n := &in.Nodes[i]
		if n.Kind == tree.Link || n.Ignored && !c.Tracks(in.Path()+n.Name, n.Folder != nil) {
			continue
		}
		place := c.Match.Place(in, i)
		if place.State == match.Apart {
			continue
		}
		e := place.Entry
		if e == nil {
			e = c.commonplace(in, n)
		}
		if e == nil || e.Git != "ignored" || n.Folder != nil && n.Folder.Empty() || kept(n) {
			if n.Folder != nil && !n.Folder.Unread {
				c.exposed(n.Folder)
			}
			continue
		}
		name := n.Name
		if n.Folder != nil {
			name += "/"
		}
		f := c.report(strings.TrimPrefix(in.Path()+name, c.Top.Path()), 0, 0, &finding.Place{Path: ".gitignore"}, "no ignore file names it, so it will be committed")
		if n.Ignored {
			f.Message = "git tracks it all the same; `git rm --cached` takes it out and leaves it on the disk"
		}
		f.Entry, f.Why = e.Path(), e.Role
		if e.MadeBy != "" && f.Level == finding.Error {
			f.Level = finding.Warning
		}
	}
}

// commonplace gives what is known of a name that the layout says nothing of.
func (c *Call) commonplace(in *tree.Folder, n *tree.Node) *layout.Entry {
	scope := c.Commonplace.Root.Scope
	if in == c.Top {
		if e := scope.Find(n.Name, n.Folder != nil); e != nil {
			return e
		}
	}
	return scope.Deep.Find(n.Name, n.Folder != nil)
}

// kept says whether a folder holds nothing but what keeps it in version
// control: the rest of it is ignored.
func kept(n *tree.Node) bool {
	if n.Folder == nil || n.Folder.Unread {
		return false
	}
	for i := range n.Folder.Nodes {
		switch in := &n.Folder.Nodes[i]; {
		case in.Ignored, in.Name == ".gitkeep", in.Name == ".keep", in.Name == ".gitignore":
		case in.Folder != nil && kept(in):
		default:
			return false
		}
	}
	return true
}
