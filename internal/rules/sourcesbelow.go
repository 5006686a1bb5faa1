package rules

import (
	"path"
	"slices"
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
			below := func(root string) bool { return strings.Contains("/"+f.path, "/"+root+"/") }
			if said == nil || c.lends(f.path) || c.homeOf(f.path) != f.path || slices.ContainsFunc(c.texts("roots"), below) {
				continue
			}
			for _, root := range c.texts("roots") {
				from, to, sources := sourcesAt(f.path, root, said.Name)
				if home, in := c.amongSources(f.path, root, said.Name); home != "" {
					c.report(f.path, 0, 0, nil, "its package begins in %s/, where the build looks for sources", in).Home = c.Top.Path() + home
					break
				}
				if from != "" && !told[from] && c.node(to) == nil && c.builds(strings.TrimSuffix(sources, root), to == sources) {
					told[from] = true
					c.report(from+"/", 0, 0, nil, "its files say packages that begin here, and the sources are in %s/", sources).Home = c.Top.Path() + to + "/"
					break
				}
			}
		}
	},
}

// amongSources gives where a file lies that stands right below the first name of a root, in the folders of its package,
// while those are in the root, too; "" where it stands elsewhere.
func (c *Call) amongSources(at, root, space string) (home, sources string) {
	first, _, _ := strings.Cut(root, "/")
	spelt := strings.ReplaceAll(space, ".", "/")
	above, ok := strings.CutSuffix(path.Dir(at), path.Join(first, spelt))
	sources = above + root
	home = path.Join(sources, spelt, path.Base(at))
	if !ok || above != "" && !strings.HasSuffix(above, "/") || c.node(path.Join(sources, spelt)) == nil || c.node(home) != nil {
		return "", ""
	}
	return home, sources
}

// builds says whether a folder has a build of its own, where it is asked for: another tool may compile
// what lies below it.
func (c *Call) builds(dir string, asked bool) bool {
	return !asked || slices.ContainsFunc([]string{"pom.xml", "build.gradle", "build.gradle.kts"}, func(name string) bool { return c.node(dir+name) != nil })
}

// sourcesAt gives the folder of sources that a file lies in, where that belongs, and the root that it
// should be in, where its package begins in a folder that lacks a name of the way to that, "" where
// it does not.
func sourcesAt(at, root, space string) (from, to, sources string) {
	way, spelt := strings.Split(root, "/"), strings.ReplaceAll(space, ".", "/")
	for i := range way {
		short := strings.Join(slices.Concat(way[:i], way[i+1:]), "/")
		above, ok := strings.CutSuffix(path.Dir(at), path.Join(short, spelt))
		if !ok || above != "" && !strings.HasSuffix(above, "/") {
			continue
		}
		if i < len(way)-1 {
			return above + short, above + root, above + root
		}
		if first, _, _ := strings.Cut(space, "."); first != way[len(way)-1] {
			return above + path.Join(short, first), above + path.Join(root, first), above + root
		}
	}
	return "", "", ""
}
