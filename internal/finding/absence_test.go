package finding

import (
	"slices"
	"strings"
	"testing"
)

// TestOneAbsence tells references to one thing that is not there once, the gravest
// of them, with where the others are.
func TestOneAbsence(t *testing.T) {
	all := []Finding{
		{Kind: Dangling, Level: Warning, Path: "a.yml", Line: 1, Rule: "names", About: "tides"},
		{Kind: Dangling, Level: Error, Path: "b.sql", Line: 2, Rule: "dangling", About: "tides", Also: []string{"c.sql"}},
		{Kind: Dangling, Level: Error, Path: "d.sql", Line: 3, Rule: "dangling", About: "berths"},
		{Kind: Dangling, Level: Error, Path: "e.sql", Line: 3, Rule: "dangling"},
		{Kind: Dangling, Level: Error, Path: "f.sql", Line: 3, Rule: "dangling"},
		{Kind: Disagrees, Level: Error, Path: "g.sql", Line: 3, Rule: "once", About: "tides"},
	}
	got := Fold(slices.Clone(all))
	if len(got) != 5 || got[0].Path != "b.sql" || got[0].More != 2 || !slices.Equal(got[0].Also, []string{"c.sql", "a.yml"}) {
		t.Errorf("%+v", got)
	}
}

// TestDanglingEndsWith what comes to where it looks, and with nothing else.
func TestDanglingEndsWith(t *testing.T) {
	looks := Finding{Kind: Dangling, Path: "a.js", Line: 1, Rule: "dangling", Sought: []string{"src/tides", "src/tides.js", "src/tides/index.js"}}
	for _, c := range []struct {
		cause Finding
		ends  bool
	}{
		{Finding{Kind: Misplaced, Path: "tides.js", Home: "src/tides.js"}, true},
		{Finding{Kind: Misplaced, Path: "tide/", Home: "src/tides/"}, true},
		{Finding{Kind: Misnamed, Path: "source/", Home: "src/"}, true},
		{Finding{Kind: Missing, Path: "src/tides.js"}, true},
		{Finding{Kind: Missing, Path: "src/tides/other.js"}, true},
		{Finding{Kind: Misplaced, Path: "tides.js", Homes: []string{"src/tides.js", "lib/tides.js"}}, false},
		{Finding{Kind: Misplaced, Path: "tides.js", Home: "lib/tides.js"}, false},
		{Finding{Kind: Extra, Path: "src/tides.js"}, false},
		{Finding{Kind: Misplaced, Path: "a.js", Home: "src/a.js"}, false},
		{Finding{Kind: Misnamed, Path: "source/", Home: "src/", Rule: "package-line"}, true},
	} {
		told, ended := Split([]Finding{c.cause, looks})
		if (len(ended) == 1) != c.ends || len(told)+len(ended) != 2 {
			t.Errorf("%+v: told %d, ended %d", c.cause, len(told), len(ended))
		}
	}
}

// TestWiredUnderAWrongName leaves out that nothing wires a unit where the line that should do
// it only names it wrongly.
func TestWiredUnderAWrongName(t *testing.T) {
	unit := Finding{Kind: Unwired, Path: "app/views/crews.py", Rule: "wired", Other: &Place{Path: "app/main.py"}}
	line := Finding{Kind: Dangling, Path: "app/main.py", Line: 3, Rule: "dangling", Sought: []string{"app/views/crew_views.py", "app/views/crew_views/__init__.py"}}
	meant := Finding{Kind: Dangling, Path: "app/main.py", Line: 3, Rule: "dangling", Sought: []string{"lib/crews.py"}, Meant: "app/views/crews.py"}
	second := line
	second.Line, second.Sought = 4, []string{"app/views/gone.py"}
	folder := Finding{Kind: Dangling, Path: "app/settings.py", Line: 3, Rule: "apps", Sought: []string{"app/view"}, Meant: "app/views"}
	exact := meant
	exact.Path = "app/routes/crews.py"
	far := folder
	far.Path = "tests/settings.py"
	elsewhere := line
	elsewhere.Path = "app/other.py"
	for name, c := range map[string]struct {
		with []Finding
		ends bool
	}{"one line in its folder": {[]Finding{line}, true}, "what was meant": {[]Finding{meant}, true}, "two lines": {[]Finding{line, second}, false}, "another file": {[]Finding{elsewhere}, false}, "none": {nil, false}, "what another file meant": {[]Finding{exact}, true}, "its folder was meant beside": {[]Finding{folder}, true}, "its folder was meant far away": {[]Finding{far}, false}} {
		if _, ended := Split(append([]Finding{unit}, c.with...)); (len(ended) == 1) != c.ends {
			t.Errorf("%s: %+v", name, ended)
		}
	}
}

// TestWhatADeclarationSays is where a file belongs, if something looks for it there.
func TestWhatADeclarationSays(t *testing.T) {
	file := Finding{Kind: Misdeclared, Path: "slices/a/tides/list.rb", Rule: "class-name", Declared: "slices/a/actions/tides/list.rb", ByRole: true}
	route := Finding{Kind: Dangling, Path: "routes.rb", Line: 1, Rule: "names", Sought: []string{"slices/*/actions/tides/list.rb"}}
	told, ended := Split([]Finding{file, route})
	if len(told) != 1 || len(ended) != 1 || told[0].Kind != Misplaced || told[0].Home != file.Declared {
		t.Errorf("told %+v, ended %+v", told, ended)
	}
	file.ByRole = false
	if told, _ = Split([]Finding{file, route}); told[0].Kind != Misdeclared || told[0].Home != file.Declared {
		t.Errorf("of the same role: %+v", told)
	}
	if told, ended = Split([]Finding{file}); len(told) != 1 || told[0].Home != "" {
		t.Errorf("nobody looks for it: %+v %+v", told, ended)
	}
}

// TestWhatIsUnknownIsToldOnce leaves out what is wrong with a whole file that has no
// place, and tells what stands in one of its lines.
func TestWhatIsUnknownIsToldOnce(t *testing.T) {
	extra := Finding{Kind: Extra, Path: "app.py"}
	for line, ends := range map[int]bool{0: true, 3: false} {
		told, ended := Split([]Finding{extra, {Kind: Disagrees, Path: "app.py", Line: line, Rule: "shadowed"}})
		if (len(ended) == 1) != ends || told[0].Kind != Extra {
			t.Errorf("line %d: %+v", line, told)
		}
	}
}

// TestWhatGoesBack gives a file the home that others look for it at, and tells it once.
func TestWhatGoesBack(t *testing.T) {
	page := Finding{Kind: Misplaced, Path: "a/list.html", Home: "a/templates/list.html"}
	looks := Finding{Kind: Dangling, Path: "a/views.py", Line: 9, Rule: "names", Meant: "a/list.html", Back: "a/templates/crews/list.html", Sought: []string{"a/templates/crews/list.html"}}
	told, ended := Split([]Finding{page, looks, {Kind: Unwired, Path: "a/list.html", Rule: "wired"}})
	if len(told) != 1 || len(ended) != 2 || told[0].Home != looks.Back {
		t.Errorf("told %+v, ended %+v", told, ended)
	}
	elsewhere := looks
	elsewhere.Back = "b/list.html"
	if told, _ = Split([]Finding{page, elsewhere}); told[0].Home != page.Home {
		t.Errorf("outside of its home: %+v", told)
	}
}

// TestTheDeeperHome tells of two homes the one that lies in the other.
func TestTheDeeperHome(t *testing.T) {
	told, _ := Split([]Finding{{Kind: Misplaced, Path: "x.go", Home: "a/x.go"}, {Kind: Misplaced, Path: "x.go", Home: "a/b/x.go"}})
	if len(told) != 1 || told[0].Home != "a/b/x.go" {
		t.Errorf("%+v", told)
	}
	if told, _ = Split([]Finding{{Kind: Misplaced, Path: "x.go", Home: "a/x.go"}, {Kind: Misdeclared, Path: "x.go", Home: "a/x.go", Rule: "package-line"}}); len(told) != 1 || told[0].Rule != "" {
		t.Errorf("one home, said twice: %+v", told)
	}
	empty := Finding{Kind: Empty, Path: "a/b/"}
	if told, _ = Split([]Finding{empty, {Kind: Misdeclared, Path: "x.go", Home: "a/b/x.go", Rule: "package-line"}}); len(told) != 1 {
		t.Errorf("an empty folder that is filled: %+v", told)
	}
}

// TestFolderDeclaresItsOwn keeps what is said of a file below a folder whose own files say
// another package: putting those right does not put right the file.
func TestFolderDeclaresItsOwn(t *testing.T) {
	folder := Finding{Kind: Misdeclared, Level: Error, Path: "src/", Rule: "package-line", Also: []string{"src/a.php", "src/b.php"}}
	below := Finding{Kind: Misdeclared, Level: Error, Path: "src/x/c.php", Line: 2, Rule: "package-line", Other: &Place{Path: "src/x/"}}
	if got := Join([]Finding{folder, below}); len(got) != 2 {
		t.Errorf("%+v", got)
	}
}

// TestCopiesEndWhatIsSaidOfThem holds that of a copy nothing is said but that it is one, but for what
// breaks, and that code which lost its project file says less than the file that is missing.
func TestCopiesEndWhatIsSaidOfThem(t *testing.T) {
	beside := &Place{Path: "areas/berths.py"}
	for what, c := range map[string]struct {
		all  []Finding
		left []string
	}{
		"a copy that nothing wires": {[]Finding{
			{Kind: Leftover, Rule: "copies", Path: "areas/berths copy.py", Other: beside},
			{Kind: Unwired, Rule: "wired", Path: "areas/berths copy.py"},
			{Kind: Misdeclared, Rule: "package-line", Path: "areas/berths copy.py", Line: 1},
			{Kind: Disagrees, Rule: "once", Path: "areas/berths copy.py", Line: 3},
			{Kind: Unwired, Rule: "wired", Path: "areas/tides.py"},
		}, []string{"leftover areas/berths copy.py", "disagrees areas/berths copy.py", "unwired areas/tides.py"}},
		"the text of a starter is no copy": {[]Finding{
			{Kind: Leftover, Rule: "own", Path: "README.md"},
			{Kind: Unpaired, Rule: "paired", Path: "README.md"},
		}, []string{"leftover README.md", "unpaired README.md"}},
		"code whose project file is missing": {[]Finding{
			{Kind: Missing, Path: "src/Quay/Quay.csproj"},
			{Kind: Unwired, Rule: "built-by", Path: "src/Quay/Tide.cs", Sought: []string{"src/Quay/Quay.csproj", "src/src.csproj"}},
			{Kind: Unwired, Rule: "built-by", Path: "src/Astray.cs", Sought: []string{"src/src.csproj"}},
		}, []string{"missing src/Quay/Quay.csproj", "unwired src/Astray.cs"}},
	} {
		left := Join(c.all)
		var got []string
		for _, f := range left {
			got = append(got, string(f.Kind)+" "+f.Path)
		}
		if strings.Join(got, ", ") != strings.Join(c.left, ", ") {
			t.Errorf("%s: %q", what, got)
		}
	}
}
