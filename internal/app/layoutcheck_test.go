package app

import (
	"context"
	"strings"
	"testing"

	"dicaxon/internal/catalogue"
	"dicaxon/internal/treetest"
)

const trialLayout = `dicaxon: 1
layout: team/site
title: T
asks: {area: {question: Areas, shape: kebab, default: home, several: true}}
tree:
  index.js: {need: must, role: The start., starter: index.js}
  <area:kebab>/: {unit: area, role: One area., tree: {<area>.js: {need: must, role: The area., starter: area.js}}}
`

// TestLayoutsAreTried: what a layout starts is made in memory, with several answers, and
// checked; each case has the one thing that is said.
func TestLayoutsAreTried(t *testing.T) {
	good := map[string]string{
		"site/layout.yaml":            trialLayout,
		"site/starters/index.js.tmpl": "{{range .areas}}import './{{.}}/{{.}}.js'\n{{end}}",
		"site/starters/area.js.tmpl":  "export const area = '{{.area}}'\n",
	}
	for _, c := range []struct{ file, text, says string }{
		{"", "", ""},
		{"site/starters/area.js.tmpl", "{{.none}}\n", `it starts no project: a starter of team/site does not render: area.js.tmpl:1:2`},
		{"site/starters/area.js.tmpl", "import './nowhere.js'\n", `what it starts does not pass its own check: home/home.js: it imports ./nowhere.js`},
		{"site/starters/index.js.tmpl", "import './{{index .areas 0}}/{{index .areas 0}}.js'\nimport './{{join .areas \"\"}}/x.js'\n", `does not pass its own check: index.js`},
		{"site/layout.yaml", trialLayout + "rules: [{rule: wired, files: 'style.css', by: index.js}]\n", `reaches no entry of the layout`},
	} {
		files := map[string]string{}
		for name, text := range good {
			files[name] = text
		}
		if c.file != "" {
			files[c.file] = c.text
		}
		r, err := CheckLayout(context.Background(), treetest.Make(t, files)+"/site")
		switch {
		case c.says == "" && (err != nil || r.Starters != 2 || r.Tried != 3):
			t.Errorf("a layout in order: %v, %+v", err, r)
		case c.says != "" && (err == nil || !strings.Contains(err.Error(), c.says)):
			t.Errorf("%s: %v", c.text, err)
		}
	}
}

// TestBuiltInLayoutsAreInOrder asks of each what is asked of a team's own.
func TestBuiltInLayoutsAreInOrder(t *testing.T) {
	for _, name := range (catalogue.Catalogue{}).Names() {
		if _, err := CheckLayout(context.Background(), "../catalogue/layouts/"+name); err != nil {
			t.Errorf("%s: %v", name, err)
		}
	}
}
