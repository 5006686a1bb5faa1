package rules

import (
	"path"
	"strings"

	"dicaxon/internal/finding"
)

var sourcesBelow = &Rule{
	Name: "sources-below", Kind: finding.Misplaced, Level: finding.Warning,
	Doc: "Folders that spell a package begin in the folder of the sources, and not beside it.",
	Example: `- rule: sources-below
  files: "**/*.java"
  roots: [src/main/java, src/test/java]`,
	Options: []Option{
		{"files", Paths, true, "the files with a package line", true},
		{"roots", Texts, true, "the ends of the paths of folders of sources", false},
	},
	Run: func(c *Call) {
		told := map[string]bool{}
		for _, f := range c.files("files") {
			said := c.refsOf(f.path).Package()
			if said == nil || c.lends(f.path) || c.homeOf(f.path) != f.path {
				continue
			}
			for _, root := range c.texts("roots") {
				spelt := path.Join(path.Dir(root), strings.ReplaceAll(said.Name, ".", "/"))
				above, ok := strings.CutSuffix(path.Dir(f.path), spelt)
				if !ok || above != "" && !strings.HasSuffix(above, "/") {
					continue
				}
				first, _, _ := strings.Cut(said.Name, ".")
				from, to := above+path.Join(path.Dir(root), first), above+path.Join(root, first)
				if !told[from] && first != path.Base(root) && c.node(to) == nil {
					told[from] = true
					c.report(from+"/", 0, 0, nil, "its files say packages that begin here, and the sources are in %s/", above+root).Home = c.Top.Path() + to + "/"
				}
				break
			}
		}
	},
}
