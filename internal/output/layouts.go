package output

import (
	"fmt"

	"github.com/rivo/uniseg"

	"dicaxon/internal/catalogue"
	"dicaxon/internal/explain"
	"dicaxon/internal/layout"
	"dicaxon/internal/rules"
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
	if l.Suits != "" || l.Describes != "" || len(l.BuildsOn)+len(l.Asks) > 0 {
		p.printf("\n")
	}
	p.DrawTree("./", l.Name+": "+l.Title, lines)
	if all := agreements(l); len(all) > 0 {
		p.printf("\n%s\n", p.in(strong, agreementsTitle))
		for _, a := range all {
			p.pair(2, 24, a[0], faint, a[1])
		}
	}
}

// agreementsTitle stands above the rules of a layout.
const agreementsTitle = "Agreements beyond names"

// agreements gives the rules that a layout asks for: what each is called, and
// what it asks in the layout's own words, or else in general.
func agreements(l *layout.Layout) [][2]string {
	var all [][2]string
	for i := range l.Rules {
		r := &l.Rules[i]
		said := r.Says
		if rule := rules.Find(r.Rule); said == "" && rule != nil {
			said = rule.Doc
		}
		if r.Level != "off" {
			all = append(all, [2]string{r.Called(), said})
		}
	}
	return all
}
