package scaffold

import (
	"strings"

	"dicaxon/internal/explain"
)

// Tree gives the plan as an annotated tree.
func (p *Plan) Tree() []explain.Line {
	root := &explain.Line{}
	at := map[string]*node{"": {line: root}}
	for _, item := range p.Items {
		path := strings.TrimSuffix(item.Path, "/")
		cut := strings.LastIndexByte(path, '/') + 1
		line := explain.Line{Name: item.Path[cut:], Role: item.Entry.Role}
		if item.Marker {
			line.Role = "Empty marker: it makes git keep the folder."
		}
		if item.Entry.Executable {
			line.Role += " It may be run."
		}
		parent := at[path[:cut]]
		n := &node{line: &line}
		parent.below = append(parent.below, n)
		at[path+"/"] = n
	}
	return at[""].lines()
}

type node struct {
	line  *explain.Line
	below []*node
}

// lines gives what is below the node, folders first.
func (n *node) lines() []explain.Line {
	var folders, files []explain.Line
	for _, b := range n.below {
		line := *b.line
		line.Below = b.lines()
		if strings.HasSuffix(line.Name, "/") {
			folders = append(folders, line)
		} else {
			files = append(files, line)
		}
	}
	return append(folders, files...)
}
