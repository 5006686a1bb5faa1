package names

import (
	"slices"
	"strings"
	"testing"
)

func TestShapes(t *testing.T) {
	for _, c := range []struct {
		shape   Shape
		fits    []string
		refuses []string
	}{
		{Snake, []string{"tide", "tide_table", "t2_x"}, []string{"", "Tide", "tide-table", "_tide", "tide_", "a__b", "2x", "__init__"}},
		{Kebab, []string{"tide", "tide-table"}, []string{"tide_table", "-x", "a--b", "Tide"}},
		{Camel, []string{"tide", "tideTable"}, []string{"TideTable", "tide_table", "2x"}},
		{Pascal, []string{"Tide", "TideTable"}, []string{"tide", "Tide_Table"}},
		{Lower, []string{"tide", "tide2"}, []string{"Tide", "tide_table"}},
		{Upper, []string{"TIDE", "TIDE_TABLE"}, []string{"Tide", "tide", "_T"}},
		{"", []string{"any thing"}, []string{""}},
	} {
		for _, name := range c.fits {
			if !c.shape.Fits(name) {
				t.Errorf("%q is %s", name, c.shape)
			}
		}
		for _, name := range c.refuses {
			if c.shape.Fits(name) {
				t.Errorf("%q is not %s", name, c.shape)
			}
		}
	}
}

func TestTo(t *testing.T) {
	for _, name := range []string{"tide_table", "tide-table", "tideTable", "TideTable", "TIDE_TABLE", "tide table"} {
		for shape, want := range map[Shape]string{Snake: "tide_table", Kebab: "tide-table", Camel: "tideTable", Pascal: "TideTable", Lower: "tidetable", Upper: "TIDE_TABLE"} {
			if got := To(shape, name); got != want {
				t.Errorf("%q to %s: %q, want %q", name, shape, got, want)
			}
		}
	}
	if got := Words("HTTPServer2Go"); !slices.Equal(got, []string{"http", "server2", "go"}) {
		t.Errorf("words %q", got)
	}
	if got := Title("berth_plans"); got != "Berth plans" {
		t.Errorf("title %q", got)
	}
}

func TestPlurals(t *testing.T) {
	for one, many := range map[string]string{
		"berth": "berths", "crew": "crews", "manifest": "manifests", "tide": "tides", "entry": "entries", "day": "days",
		"box": "boxes", "class": "classes", "batch": "batches", "person": "people", "child": "children", "status": "statuses",
		"analysis": "analyses", "series": "series", "tide_table": "tide_tables", "crew-member": "crew-members", "index": "indexes",
	} {
		if got := Plural(one); got != many {
			t.Errorf("plural of %q: %q, want %q", one, got, many)
		}
		if got := Singular(many); got != one {
			t.Errorf("singular of %q: %q, want %q", many, got, one)
		}
		if got := Plural(many); got != many {
			t.Errorf("plural of the plural %q: %q", many, got)
		}
		if got := Singular(one); got != one {
			t.Errorf("singular of the singular %q: %q", one, got)
		}
	}
}

func TestNear(t *testing.T) {
	for _, c := range []struct {
		got, want string
		slip      Slip
	}{
		{"templates", "templates", None},
		{"Templates", "templates", Case}, {"README.MD", "README.md", Case},
		{"tide-table", "tide_table", Separator}, {"tideTable.py", "tide_table.py", Separator}, {"tem_plates", "templates", Separator}, {"init.py", "__init__.py", Separator}, {"tests", "__tests__", Separator}, {"__tests__", "tests", Apart}, {"@types", "types", Apart},
		{"template", "templates", Number}, {"test_berth.py", "test_berths.py", Number}, {"mart", "marts", Number}, {"entry.go", "entries.go", Number},
		{"compose.yml", "compose.yaml", Ending}, {"list.htm", "list.html", Ending}, {"views.pyt", "views.py", Ending},
		{"tempaltes", "templates", Typing}, {"tmplates", "templates", Typing}, {"templatess", "templates", Typing}, {"veiws.py", "views.py", Typing}, {"signed-inn", "signed-in", Typing}, {"step-ii", "step-i", Apart}, {"test_aa", "test_a", Apart}, {"berth-in", "berth-on", Apart},
		{"", "templates", Apart}, {"templates", "", Apart},
		{"static", "templates", Apart}, {"src", "srv", Apart}, {"app", "api", Apart},
		{"forms.py", "models.py", Apart}, {"cmd", "cms", Apart}, {"test_a.py", "test_b.py", Apart}, {"a.go", "b.go", Apart},
	} {
		if slip := Near(c.got, c.want); slip != c.slip {
			t.Errorf("%q for %q: %s, want %s", c.got, c.want, slip, c.slip)
		}
	}
}

func TestClosest(t *testing.T) {
	known := []string{"flask/areas", "flask/package", "go/service"}
	for got, want := range map[string]string{"flask/area": "flask/areas", "flask/aeras": "flask/areas", "go/sevice": "go/service", "rails": "", "output": "outputs"} {
		if meant := Closest(got, append(known, "outputLogs", "outputs")); meant != want {
			t.Errorf("%q: %q, want %q", got, meant, want)
		}
	}
}

func FuzzNear(f *testing.F) {
	f.Add("templates", "tempaltes")
	f.Fuzz(func(t *testing.T, a, b string) {
		if len(a)+len(b) > 200 {
			return
		}
		if (Near(a, b) == None) != (a == b) {
			t.Errorf("%q and %q", a, b)
		}
		if Distance(a, b) != Distance(b, a) {
			t.Errorf("the distance of %q and %q depends on the order", a, b)
		}
		Plural(Singular(a))
	})
}

func TestSame(t *testing.T) {
	for _, c := range []struct {
		a, b string
		want bool
	}{
		{"berth_plans", "BerthPlans", true}, {"berthplans", "berth-plans", true}, {"tides", "tide", false},
		{"tide", "tides", false}, {"", "tides", false}, {"", "", true}, {"_tides", "tides", false},
	} {
		if got := Same(c.a, c.b); got != c.want {
			t.Errorf("%q and %q: %v", c.a, c.b, got)
		}
	}
	if n := SamePrefix("BerthPlansTest", "berth_plans"); n != 10 {
		t.Errorf("the prefix is %d long", n)
	}
}

// TestMistyped tells slips of the fingers from other words.
func TestMistyped(t *testing.T) {
	for pair, want := range map[string]bool{
		"confetst.py conftest.py": true, "confest.py conftest.py": true, "paeg.tsx page.tsx": true, "__mani__.py __main__.py": true,
		"databbase.py database.py": true, "migraitons migrations": true, "composibles composables": true, "companents components": true,
		"ledgers lodgers": false, "composers composurs": true, "stationary stationery": true, "nuxt.config.ts next.config.ts": false, "app-composibles app-composables": true, "abandoned ibandoned": false,
		"modes.py models.py": false, "pages.tsx page.tsx": false, "apge.tsx page.tsx": false, "service.go services.go": false,
		"page.ts page.tsx": false, "from.py form.html": false, "test1.py test2.py": false, "a_b.py ab_.py": false, "forms.py forms.py": false,
	} {
		got, meant, _ := strings.Cut(pair, " ")
		if Mistyped(got, meant) != want {
			t.Errorf("%s: %v", pair, !want)
		}
	}
}

func TestMistypedWord(t *testing.T) {
	for pair, want := range map[string]bool{
		"BerthtSore BerthStore": true, "Talbe Table": true, "Adress Address": true, "Repositry Repository": true,
		"MSG_ENUM_FLAG MSG_NUM_FLAG": false, "OptionsParser OptionParser": false, "TidesTable TideTable": false, "Tables Table": false,
		"RowCount RowCounts": false, "SharedoMdule SharedModule": true, "Table Table": false,
	} {
		got, meant, _ := strings.Cut(pair, " ")
		if MistypedWord(got, meant) != want {
			t.Errorf("%s: %v", pair, !want)
		}
	}
	if Near("SailingSservice", "SailingsService") == Apart || Near("tide", "tied") != Typing || Near("abc", "acb") != Apart {
		t.Error("two letters in another order are a slip of a name of four letters and more")
	}
}
