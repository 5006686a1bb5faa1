package output

import (
	"io"
	"strings"

	"dicaxon/internal/app"
	"dicaxon/internal/extend"
	"dicaxon/internal/tree"
	"dicaxon/internal/workspace"
)

// unitsJSON is the form of the list of units, for programs.
type unitsJSON struct {
	Schema  string        `json:"schema"`
	Project string        `json:"project"`
	Layout  string        `json:"layout"`
	Units   []extend.Kind `json:"units"`
}

// UnitsJSON writes the kinds of units of a project for programs.
func UnitsJSON(out io.Writer, p *workspace.Project, all []extend.Kind) error {
	if all == nil {
		all = []extend.Kind{}
	}
	return JSON(out, unitsJSON{"dicaxon.units/1", tree.Printable(p.At), p.Layout.Name, all})
}

// Units lists the kinds of units that a project may have more of.
func (p *Page) Units(of *workspace.Project, all []extend.Kind) {
	if len(all) == 0 {
		p.printf("%s has no units to be added.\n", of.Layout.Name)
		return
	}
	column := 0
	for _, k := range all {
		column = max(column, len(k.Unit)+2)
	}
	for _, k := range all {
		p.headed(column, k.Unit, plain, k.Role)
		p.printf("%s", strings.Repeat(" ", column))
		there := "none yet"
		if len(k.There) > 0 {
			there = tree.Printable(strings.Join(k.There, ", "))
		}
		p.wrap(column, faint, there)
	}
	p.printf("\n`dicaxon add %s NAME` adds one.\n", all[0].Unit)
}

// Added writes what a new unit is made of, and where it is wired in.
func (p *Page) Added(r *app.Realignment, written bool) {
	for _, g := range r.Groups {
		verb := "Would add"
		if written {
			verb = "Added"
		}
		p.printf("%s\n", p.in(strong, verb+" "+tree.Printable(g.Says)+": "+Sum(&r.Plan.Plan)))
		p.printf("\n")
		for _, m := range r.Makes {
			p.act("make", tree.Printable(m.Path))
		}
		for _, e := range r.Edits {
			p.act("edit", p.edit(r.Workspace, e))
		}
	}
	p.remarks(r.Remarks)
}
