package reconcile_test

import (
	"fmt"
	"io/fs"
	"slices"
	"strings"
	"testing"
	"testing/fstest"

	"dicaxon/internal/catalogue"
	"dicaxon/internal/layout"
	"dicaxon/internal/placement"
	"dicaxon/internal/reconcile"
	"dicaxon/internal/tree"
	"dicaxon/internal/treetest"
)

// one is a Source of a single layout.
type one string

func (o one) Open(string) (fs.FS, string, error) {
	return fstest.MapFS{layout.FileName: {Data: []byte("dicaxon: 1\nlayout: t/t\ntitle: T\n" + string(o))}}, "t", nil
}
func (o one) Names() []string { return nil }

// small is a layout with one of everything that the matcher knows.
const small = `tree:
  main: {need: must, role: R.}
  doc | docs.txt: {need: should, role: R.}
  <pkg>/:
    need: must
    role: R.
    tree:
      init: {need: must, role: R.}
      pages/ | views/: {need: should, role: R., not-here: {what: Styles, goes-to: <pkg>/style/, like: "*.css"}, tree: {frame.html: {need: should, role: R.}, "**/*.html": {role: R.}}}
      style/: {role: R.}
      <area:snake>/: {unit: area, need: should, role: R., tree: {init: {need: must, role: R.}, code: {need: must, role: R., shows: "route"}, pages/: {role: R., tree: {"*.html": {role: R.}}}}}
  checks/: {need: should, role: R., tree: {check_<area>: {need: should, role: R.}, "*.dat": {role: R., at-most: 2}}}
  bad/: {need: must-not, role: R.}
  shared/: {role: R., tree: {<area>/: {role: R., tree: {y: {role: R.}, z: {role: R.}}}}}
  gen/: {role: R., made-by: a program, git: ignored}
  strict/: {role: R., others: must-not, tree: {a: {role: R.}}}
`

var whole = []string{"main", "doc", "app/init", "app/pages/frame.html", "app/berths/init", "app/berths/code", "app/crews/init", "app/crews/code", "checks/check_berths", "checks/check_crews"}

func run(t *testing.T, layoutText string, files map[string]string) []string {
	t.Helper()
	return runAs(t, placement.Input{}, layoutText, files)
}

// A laid is what is told of files without a text, but for what is missing.
type laid struct {
	what  string
	as    placement.Input
	files string
	want  string
}

// tellEach runs a layout over cases of files beside some that are always there.
func tellEach(t *testing.T, layoutText, always string, cases []laid) {
	t.Helper()
	for _, c := range cases {
		files := map[string]string{}
		for name := range strings.FieldsSeq(always + " " + c.files) {
			files[name] = ""
		}
		got := slices.DeleteFunc(runAs(t, c.as, layoutText, files), func(line string) bool { return strings.Contains(line, " missing ") })
		if strings.Join(got, ", ") != c.want {
			t.Errorf("%s: %q, not %q", c.what, got, c.want)
		}
	}
}

// runAs is run for somebody who asked for it in that way.
func runAs(t *testing.T, in placement.Input, layoutText string, files map[string]string) []string {
	t.Helper()
	l, err := layout.Resolve(one(layoutText), "t/t")
	if err != nil {
		t.Fatal(err)
	}
	places, err := catalogue.Catalogue{}.Commonplace()
	if err != nil {
		t.Fatal(err)
	}
	r, err := tree.Read(treetest.Make(t, files), tree.Options{})
	if err != nil {
		t.Fatal(err)
	}
	var all []string
	in.Repository, in.Top, in.Layout, in.Commonplace = r, r.Top, l, places
	for _, f := range reconcile.Run(placement.Pair(in)).Findings {
		line := fmt.Sprintf("%s %s %s", f.Level, f.Kind, f.Path)
		if f.Home != "" {
			line += " -> " + f.Home
		}
		if len(f.Homes) > 0 {
			line += " -> " + strings.Join(f.Homes, " or ")
		}
		all = append(all, line)
	}
	return all
}

// TestFindings changes a tree that conforms, "-path" taking away and any other
// path adding, and names all that is found.
func TestFindings(t *testing.T) {
	for _, c := range []struct{ change, want string }{
		{"", ""},
		{"-main", "error missing main"},
		{"-doc docs.txt", ""},
		{"docs.txt", "warning extra docs.txt"},
		{"-doc doc.txt", "warning misnamed doc.txt -> docs.txt"},
		{"-app/pages/frame.html -app/init views/frame.html", "error missing app/init; warning misplaced views/ -> app/views/"},
		{"app/berths/pages/x.html shared/berths/y shared/crews/z", ""},
		{"shared/berths/y shared/other/z", ""},
		{"stray.xyz", "note extra stray.xyz"},
		{"junk/a junk/b junk/c/d", "note extra junk/"},
		// An ending alone makes no home; a text that shows what it is does.
		{"app/berths/list.html", "note extra app/berths/list.html"},
		{"app/berths/page.htm", "note extra app/berths/page.htm"},
		{"app/top.html", "note extra app/top.html"},
		{"app/pages/deep/er/x.html", ""},
		{"app/pages/deep/er/x.html app/pages/deep/x.bin", "note extra app/pages/deep/x.bin"},
		{"app/pages/x.css", "warning misplaced app/pages/x.css -> app/style/x.css"},
		{"-app/berths/code app/berths/start", "error misnamed app/berths/start -> app/berths/code"},
		{"-app/berths/code app/berths/coda", "error misnamed app/berths/coda -> app/berths/code"},
		{"-app/berths/code code", "error misplaced code -> app/berths/code"},
		{"-app/berths/code -app/crews/code code", "error missing app/berths/code; error missing app/crews/code; warning misplaced code -> app/berths/code or app/crews/code"},
		{"-checks/check_crews checks/check_crew", "warning misnamed checks/check_crew -> checks/check_crews"},
		{"-checks/check_crews", "warning unpaired checks/check_crews"},
		{"app/tides/init", "error missing app/tides/code; warning unpaired checks/check_tides"},
		{"app/tides/", "warning empty app/tides/"},
		{"app/tides/in/", "warning empty app/tides/"},
		{"empty/in/side/", "warning empty empty/"},
		// What a move leaves behind is no folder that has its place.
		{"-app/pages/frame.html app/page/frame.html app/pages/", "warning misnamed app/page/ -> app/pages/"},
		{"app/misc/thing.xyz app/misc/other.xyz", "note extra app/misc/"},
		// What stands beside a folder of nearly its name belongs into that.
		{"app/pagess/x.html app/pagess/deep/y.html", "warning misplaced app/pagess/deep/y.html -> app/pages/deep/y.html; warning misplaced app/pagess/x.html -> app/pages/x.html"},
		{"app/pagess/x.bin", "note extra app/pagess/"},
		{"app/page/x.html", "note extra app/page/"},
		{"bad/x", "error extra bad/"},
		{"strict/b", "error extra strict/b"},
		{"gen/deep/anything", ""},
		{"checks/1.dat checks/2.dat checks/3.dat", "warning crowded checks/"},
		{"README.md app/README.md LICENSE .editorconfig node_modules/x/y", ""},
		{"style/a.bin", "note extra style/"},
		{"-app/berths/init -app/berths/code berths/init berths/code", "warning misplaced berths/ -> app/berths/"},
		// What lies in a folder that has a home is judged as it would be there.
		{"other/code other/zzz", "warning misplaced other/ -> app/other/; error missing other/init; note extra other/zzz"},
	} {
		files := map[string]string{}
		for _, path := range whole {
			files[path] = "text\n"
		}
		for _, path := range strings.Fields(c.change) {
			if gone, ok := strings.CutPrefix(path, "-"); ok {
				delete(files, gone)
			} else {
				files[path] = "text\n"
				if strings.HasSuffix(path, "start") || strings.HasSuffix(path, "code") {
					files[path] = "route\n"
				}
			}
		}
		want := strings.FieldsFunc(c.want, func(r rune) bool { return r == ';' })
		for i := range want {
			want[i] = strings.TrimSpace(want[i])
		}
		if got := run(t, small, files); !slices.Equal(got, want) {
			t.Errorf("%q:\n got  %q\n want %q", c.change, got, want)
		}
	}
}

// TestManyFoldersPairAsFew compares pairing in parallel with what it must give.
func TestManyFoldersPairAsFew(t *testing.T) {
	files := map[string]string{}
	for _, path := range whole {
		files[path] = "x"
	}
	var want []string
	for i := range 300 {
		area := fmt.Sprintf("area_%03d", i)
		files["app/"+area+"/init"], files["app/"+area+"/code"], files["checks/check_"+area] = "x", "x", "x"
		switch i % 50 {
		case 7:
			delete(files, "app/"+area+"/code")
			want = append(want, "error missing app/"+area+"/code")
		case 9:
			files["app/"+area+"/x.html"] = "x"
			want = append(want, "note extra app/"+area+"/x.html")
		case 11:
			delete(files, "checks/check_"+area)
		}
	}
	for i := 11; i < 300; i += 50 {
		want = append(want, fmt.Sprintf("warning unpaired checks/check_area_%03d", i))
	}
	if got := run(t, small, files); !slices.Equal(got, want) {
		t.Errorf("got  %q\nwant %q", got, want)
	}
}

// BenchmarkCatalogueAndEntries matches the same tree against layouts of ten
// and of a thousand entries: one path costs the same.
func BenchmarkEntries(b *testing.B) {
	root := b.TempDir()
	treetest.Large(b, root, 10_000)
	r, err := tree.Read(root, tree.Options{})
	if err != nil {
		b.Fatal(err)
	}
	for _, n := range []int{10, 1000} {
		var text strings.Builder
		text.WriteString("tree:\n  \"**/*.html\": {role: R.}\n  \"**/*.png\": {role: R.}\n  \"**/*.py\": {role: R.}\n")
		for i := range n - 3 {
			switch i % 3 {
			case 0:
				fmt.Fprintf(&text, "  \"**/exact_%d\": {role: R.}\n", i)
			case 1:
				fmt.Fprintf(&text, "  \"**/*.end%d\": {role: R.}\n", i)
			case 2:
				fmt.Fprintf(&text, "  folder_%d/: {role: R.}\n", i)
			}
		}
		l, err := layout.Resolve(one(text.String()), "t/t")
		if err != nil {
			b.Fatal(err)
		}
		b.Run(fmt.Sprint(n), func(b *testing.B) {
			for b.Loop() {
				reconcile.Run(placement.Pair(placement.Input{Repository: r, Top: r.Top, Layout: l}))
			}
		})
	}
}

// TestEqualPlaces holds that up to three places that fit equally are told, and of
// four none is.
func TestEqualPlaces(t *testing.T) {
	folders, files := "", map[string]string{"moon_page.html": ""}
	for _, name := range []string{"a", "b", "c", "d"} {
		folders += "  " + name + "/: {need: may, role: R., tree: {\"*_page.html\": {role: R.}}}\n"
		files[name+"/first_page.html"] = ""
		want := "warning misplaced moon_page.html -> "
		switch name {
		case "a":
			want += "a/moon_page.html"
		case "b":
			want += "a/moon_page.html or b/moon_page.html"
		case "c":
			want += "a/moon_page.html or b/moon_page.html or c/moon_page.html"
		case "d":
			want = "note extra moon_page.html"
		}
		if got := run(t, "tree:\n"+folders, files); !slices.Equal(got, []string{want}) {
			t.Errorf("%s: %q, not %q", name, got, want)
		}
	}
}

// TestOnePlaceForOne holds that of two that could fill one place only one is sent
// there.
func TestOnePlaceForOne(t *testing.T) {
	tree := "tree:\n  a/: {need: must, role: R., tree: {frame.html: {need: must, role: R.}, b.txt: {role: R.}}}\n  c/: {role: R., tree: {d.txt: {role: R.}}}\n"
	got := run(t, tree, map[string]string{"frame.html": "", "c/frame.html": "", "c/d.txt": "", "a/b.txt": ""})
	sent := 0
	for _, line := range got {
		if strings.HasSuffix(line, "-> a/frame.html") {
			sent++
		}
	}
	if sent != 1 || len(got) != 2 {
		t.Errorf("%d are sent: %q", sent, got)
	}
}

// TestOwnWay holds that what all units do alike is the project's own way, and what one
// of them does is not.
func TestOwnWay(t *testing.T) {
	tree := "tree:\n  m/: {role: R., tree: {<unit>/: {unit: unit, role: R., tree: {raw/: {need: must, role: R., tree: {\"r_*.sql\": {role: R.}}}, done/: {need: must, role: R., tree: {\"d_*.sql\": {role: R., shows: made}}}}}}}\n"
	if got := run(t, tree, map[string]string{"m/a/raw/r_x.sql": "", "m/a/d_x.sql": "made", "m/b/raw/r_y.sql": "", "m/b/d_y.sql": "made"}); len(got) > 0 {
		t.Errorf("none has the folder: %q", got)
	}
	if got := run(t, tree, map[string]string{"m/a/raw/r_x.sql": "", "m/a/d_x.sql": "made", "m/b/raw/r_y.sql": "", "m/b/done/d_y.sql": "made"}); len(got) != 1 || !strings.HasSuffix(got[0], "-> m/a/done/d_x.sql") {
		t.Errorf("one has it: %q", got)
	}
}

// BenchmarkStrays explains folders full of files that belong elsewhere; the time
// should grow with their number and not with its square.
func BenchmarkStrays(b *testing.B) {
	l, err := layout.Resolve(one("tree:\n  tables/: {need: must, role: R., tree: {\"*.csv\": {role: R.}}}\n  pages/: {need: must, role: R., tree: {\"*_page.html\": {role: R.}}}\n"), "t/t")
	if err != nil {
		b.Fatal(err)
	}
	for _, n := range []int{5_000, 20_000} {
		files := map[string]string{"pages/first_page.html": ""}
		for i := range n {
			files[fmt.Sprintf("tables/%d_page.html", i)] = ""
		}
		r, err := tree.Read(treetest.Make(b, files), tree.Options{})
		if err != nil {
			b.Fatal(err)
		}
		b.Run(fmt.Sprint(n), func(b *testing.B) {
			for b.Loop() {
				found := reconcile.Run(placement.Pair(placement.Input{Repository: r, Top: r.Top, Layout: l})).Findings
				if len(found) < n {
					b.Fatal(len(found))
				}
			}
		})
	}
}
