package report

import (
	"fmt"

	"github.com/rivo/uniseg"

	"dicaxon/internal/catalogue"
	"dicaxon/internal/explain"
	"dicaxon/internal/layout"
)

// Layouts lists layouts, by family.
func (p *Page) Layouts(index []catalogue.Summary) {
	column := 0
	for _, s := range index {
		column = max(column, uniseg.StringWidth(s.Name)+2)
	}
	family := ""
	for i, s := range index {
		if f := layout.Family(s.Name); f != family {
			if i > 0 {
				p.printf("\n")
			}
			family = f
		}
		p.headed(column, s.Name, plain, s.Title)
		p.pair(0, column, "", faint, "suits: "+s.Suits)
	}
	p.printf("\n")
	p.wrap(0, faint, "`dicaxon layouts LAYOUT` shows one; `dicaxon scaffold LAYOUT DIR` starts a project with it.")
}

// Numbered lists layouts with numbers to choose from.
func (p *Page) Numbered(index []catalogue.Summary) {
	column := 0
	for _, s := range index {
		column = max(column, 5+uniseg.StringWidth(s.Name)+2)
	}
	for i, s := range index {
		p.headed(column, fmt.Sprintf("%3d  %s", i+1, s.Name), plain, s.Suits)
	}
}

// Layout shows one layout with its roles.
func (p *Page) Layout(l *layout.Layout, lines []explain.Line) {
	if l.Suits != "" {
		p.pair(0, factColumn, "suits", plain, l.Suits)
	}
	if l.Describes != "" {
		p.pair(0, factColumn, "describes", plain, l.Describes)
	}
	for i, base := range l.BuildsOn {
		p.pair(0, factColumn, first(i, "builds on"), plain, base)
	}
	for i, ask := range l.Asks {
		p.pair(0, factColumn, first(i, "asks"), plain, ask.Name+": "+ask.Question+" ("+ask.Default+")")
	}
	p.printf("\n")
	p.DrawTree("./", l.Name+": "+l.Title, lines)
}
