package report

import (
	"fmt"
	"strings"

	"dicaxon/internal/identify"
	"dicaxon/internal/tree"
)

// Identify writes which layouts projects follow.
func (p *Page) Identify(found []identify.Project) {
	for i, project := range found {
		if i > 0 {
			p.printf("\n")
		}
		at := tree.Printable(project.At)
		if at != "." {
			at += "/"
		}
		if project.Best == nil {
			p.printf("%s  none I know\n", p.in(path, at))
		} else {
			p.printf("%s  %s\n", p.in(path, at), p.in(strong, project.Best.Layout))
			for k, e := range project.Best.Evidence {
				p.fact(first(k, "since"), e)
			}
		}
		for k, c := range project.Others {
			label := first(k, "next")
			if project.Best == nil {
				label = first(k, "nearest")
			}
			p.fact(label, fmt.Sprintf("%s: %s", c.Layout, strings.Join(c.Evidence, "; ")))
		}
		if len(project.Close) > 0 {
			p.fact("note", strings.Join(project.Close, " and ")+" fits nearly as well; `check --layout` or dicaxon.yaml settles it")
		}
	}
}

// first gives the label for the first of several lines.
func first(i int, label string) string {
	if i == 0 {
		return label
	}
	return ""
}
