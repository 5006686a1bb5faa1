package output

import (
	"fmt"
	"strings"

	"dicaxon/internal/identify"
	"dicaxon/internal/tree"
)

// Identify writes which layouts projects follow.
func (p *Page) Identify(found []identify.Root) {
	for i, project := range found {
		if i > 0 {
			p.printf("\n")
		}
		at := tree.Printable(project.At)
		if at != "." {
			at += "/"
		}
		if project.Best == nil {
			p.printf("%s  none I know\n", p.in(location, at))
			if project.Framework != "" {
				p.fact("note", "this is "+project.Framework+", for which there is no layout here in this form")
			}
		} else {
			p.printf("%s  %s\n", p.in(location, at), p.in(strong, project.Best.Layout))
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

// Recorded says that the layouts of projects were written down.
func (p *Page) Recorded(at string, n int) {
	p.printf("%s recorded in %s; `dicaxon check` follows it from now on.\n", count(n, "project"), tree.Printable(at))
}
