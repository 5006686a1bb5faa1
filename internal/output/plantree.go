package output

import (
	"fmt"
	"slices"
	"strings"

	"dicaxon/internal/app"
	"dicaxon/internal/edit"
	"dicaxon/internal/explain"
	"dicaxon/internal/tree"
)

// PlanTree draws what a plan changes as two trees: what goes away from where it is, and what
// is new, comes or is edited.
func (p *Page) PlanTree(r *app.Realignment) {
	before, after := map[string]string{}, map[string]string{}
	for _, m := range r.Moves {
		before[m.From], after[m.To] = "goes to "+tree.Printable(m.To), "comes from "+tree.Printable(m.From)
	}
	for _, m := range r.Makes {
		after[m.Path] = "new"
	}
	for _, at := range r.Drops {
		before[at] = "goes: it only kept the folder"
	}
	for at, edits := range edit.ByFile(r.Edits) {
		to := r.Plan.Plan.After(at)
		var lines []string
		for _, e := range edits {
			if line := fmt.Sprint(e.Line); !slices.Contains(lines, line) {
				lines = append(lines, line)
			}
		}
		said := "edited in line " + lines[0]
		if len(lines) > 1 {
			said = "edited in lines " + strings.Join(lines, ", ")
		}
		if after[to] != "" {
			said = after[to] + "; " + said
		}
		after[to] = said
	}
	if len(before) > 0 {
		p.DrawTree("before", "what leaves its place", branchesOf(before))
		p.printf("\n")
	}
	if len(after) > 0 {
		p.DrawTree("after", "what is new, comes, or is edited", branchesOf(after))
	}
}

// branchesOf gives paths with what is said of them as a tree.
func branchesOf(said map[string]string) []explain.Line {
	var paths []string
	for at := range said {
		paths = append(paths, at)
	}
	slices.Sort(paths)
	var top []explain.Line
	for _, at := range paths {
		level := &top
		rest := at
		for rest != "" {
			name, more, folder := strings.Cut(rest, "/")
			if folder {
				name += "/"
			}
			shown := tree.Printable(name)
			i := slices.IndexFunc(*level, func(l explain.Line) bool { return l.Name == shown })
			if i < 0 {
				*level = append(*level, explain.Line{Name: shown})
				i = len(*level) - 1
			}
			if more == "" {
				(*level)[i].Role = said[at]
			}
			level, rest = &(*level)[i].Below, more
		}
	}
	return top
}
