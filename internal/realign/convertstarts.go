package realign

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/lazy"
	"dicaxon/internal/placement"
	"dicaxon/internal/refs"
	"dicaxon/internal/tree"
)

// goMain is where a program of Go begins.
var goMain = lazy.New(`(?m)^func main\(\)`)

// programs leaves a program of Go where it is while some of its package stays: the function main and
// what it uses can only be apart where that is a package of its own.
func (c *converter) programs(moving []*item) []*item {
	goes := pathsOf(moving)
	return slices.DeleteFunc(moving, func(i *item) bool {
		if path.Ext(i.node().Name) != ".go" {
			return false
		}
		text, err := c.Repository.Text(i.path())
		return err == nil && goMain.Match(text) && slices.ContainsFunc(i.folder.Nodes, func(n tree.Node) bool {
			return path.Ext(n.Name) == ".go" && !strings.HasSuffix(n.Name, "_test.go") && !goes[i.folder.Path()+n.Name]
		})
	})
}

// pythonMain is where a module of Python begins that is run by itself.
var pythonMain = lazy.New(`(?m)^if __name__ == ["']__main__["']`)

// started leaves a script of Python where it is that people start and nobody imports: it finds the modules
// beside it by where it lies.
func (c *converter) started(moving []*item) []*item {
	return slices.DeleteFunc(moving, func(i *item) bool {
		if path.Ext(i.node().Name) != ".py" || i.unit != "" {
			return false
		}
		text, err := c.Repository.Text(i.path())
		return err == nil && pythonMain.Match(text) && !slices.ContainsFunc(c.project.Placement.Graph.To(c.below(i)), func(e refs.Edge) bool { return path.Ext(e.From) == ".py" && !placement.ForTests(path.Dir(e.From)+"/") })
	})
}

// together names what goes in one step or not at all: the files of one package of Go, which are seen by
// each other without a word, else those of one unit; "" for a file by itself.
func (i *item) together() string {
	if path.Ext(i.node().Name) == ".go" {
		return "\x00" + i.folder.Path()
	}
	return i.unit
}
