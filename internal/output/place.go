package output

import (
	"io"
	"strings"

	"dicaxon/internal/place"
	"dicaxon/internal/tree"
)

// placesJSON is the form of what place answers, for programs.
type placesJSON struct {
	Schema  string          `json:"schema"`
	Answers []*place.Answer `json:"answers"`
}

// PlacesJSON writes where things belong for programs.
func PlacesJSON(out io.Writer, all []*place.Answer) error {
	for _, a := range all {
		if a.Places == nil {
			a.Places = []place.Place{}
		}
	}
	return JSON(out, placesJSON{"dicaxon.place/1", all})
}

// Place writes where something belongs, for people.
func (p *Page) Place(a *place.Answer) {
	asked := tree.Printable(a.Asked)
	switch {
	case len(a.Places) == 0:
		p.printf("%s  %s\n", p.in(strong, asked), "nothing says where that belongs")
		return
	case a.Home:
		p.printf("%s  %s\n", p.in(location, asked), p.in(fine, "is where it belongs"))
		p.reason("", a.Places[0].Role)
		return
	}
	p.printf("%s\n", p.in(strong, asked))
	for _, one := range a.Places {
		made := ""
		if !one.Exists && !strings.Contains(one.Path, "<") {
			made = p.in(faint, "  (a new folder)")
		}
		p.printf("  %s %s%s\n", p.arrow(), p.in(location, tree.Printable(one.Path)), made)
		p.reason(one.Why, one.Role)
	}
	if a.Unit != "" {
		p.printf("    ")
		if len(a.Units) == 0 {
			p.wrap(4, plain, "There is no "+a.Unit+" yet: `dicaxon add "+a.Unit+" NAME` makes one.")
			return
		}
		p.wrap(4, plain, "Which "+a.Unit+"? "+tree.Printable(strings.Join(a.Units, ", "))+"; or a new one: `dicaxon add "+a.Unit+" NAME`.")
	}
}

// reason writes why, and what the place is for.
func (p *Page) reason(why, role string) {
	if why != "" {
		p.printf("    ")
		p.wrap(4, plain, tree.Printable(why)+".")
	}
	if role != "" {
		p.printf("    ")
		p.wrap(4, faint, tree.Printable(role))
	}
}
