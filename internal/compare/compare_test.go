package compare

import (
	"context"
	"slices"
	"testing"

	"dicaxon/internal/app"
	"dicaxon/internal/catalogue"
	"dicaxon/internal/layout"
	"dicaxon/internal/treetest"
)

func resolve(t *testing.T, tree string) *layout.Layout {
	t.Helper()
	dir := treetest.Make(t, map[string]string{layout.FileName: "dicaxon: 1\nlayout: t/t\ntitle: T\ntree:\n" + tree})
	l, err := layout.Resolve(catalogue.Catalogue{Dir: dir}, ".")
	if err != nil {
		t.Fatal(err)
	}
	return l
}

func TestTwo(t *testing.T) {
	a := resolve(t, `  same: {role: Same.}
  pages/: {role: Pages., tree: {base.html: {role: Frame.}, "*.html": {role: One page.}}}
  forms.py: {role: Forms of all.}
  old/: {role: Named otherwise.}
  shared/: {role: Shared by all.}
  routes/: {need: must, role: Only here., tree: {a.py: {role: Hidden by its folder.}}}
`)
	b := resolve(t, `  same: {role: Said otherwise.}
  <area>/: {unit: area, role: A unit., tree: {views.py: {need: must, role: Makes the unit.}, forms.py: {role: Forms of one.}, may.py: {role: Not told.}}}
  web/: {role: Web., tree: {pages/: {role: Pages., tree: {base.html: {role: Frame.}, "*.html": {role: One page.}}}}}
  new/: {role: Named otherwise.}
  shared/: {need: should-not, role: Nothing is shared.}
`)
	c := Two(a, b)
	pairs := func(all []Pair) (lines []string) {
		for _, p := range all {
			lines = append(lines, p.A+" "+p.B)
		}
		return lines
	}
	lone := func(all []Lone) (lines []string) {
		for _, l := range all {
			lines = append(lines, l.Path)
		}
		return lines
	}
	if len(c.Refused) != 1 || c.Refused[0] != (Refusal{"shared/", "t/t", "Shared by all.", "Nothing is shared."}) {
		t.Errorf("refused: %+v", c.Refused)
	}
	for _, x := range []struct {
		what      string
		got, want []string
	}{
		{"moved", pairs(c.Moved), []string{"pages/ web/pages/", "forms.py <area>/forms.py"}},
		{"renamed", pairs(c.Renamed), []string{"old/ new/"}},
		{"only a", lone(c.OnlyA), []string{"routes/"}},
		{"only b", lone(c.OnlyB), []string{"<area>/", "<area>/views.py", "web/"}},
	} {
		if !slices.Equal(x.got, x.want) {
			t.Errorf("%s: got %q, want %q", x.what, x.got, x.want)
		}
	}
	if c.Same != 1 {
		t.Errorf("%d the same", c.Same)
	}
}

func TestALayoutAndItself(t *testing.T) {
	for _, name := range (catalogue.Catalogue{}).Names() {
		l, err := catalogue.Catalogue{}.Layout(name)
		if err != nil {
			t.Fatal(err)
		}
		if c := Two(l, l); len(c.Moved)+len(c.Renamed)+len(c.OnlyA)+len(c.OnlyB) > 0 || c.Same != len(l.Entries)-1 {
			t.Errorf("%s differs from itself: %+v", name, c)
		}
	}
}

func TestRepository(t *testing.T) {
	root := treetest.Paths(t, "go.mod", "cmd/ferry/main.go", "confg/config.go", "internal/handler/handler.go", "stray.xyz", "empty/")
	r, err := app.Check(context.Background(), root, app.Options{Layout: "go/service"})
	if err != nil {
		t.Fatal(err)
	}
	d := Repository(r)
	if d.Files != 5 || len(d.Unclear) == 0 || len(d.Missing) == 0 || len(d.Further) == 0 || d.Placed <= 0 || d.Placed >= 100 || d.Present <= 0 || d.Present >= 100 {
		t.Errorf("%+v", d)
	}
}
