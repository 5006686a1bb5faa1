package placement_test

import (
	"testing"

	"dicaxon/internal/catalogue"
	"dicaxon/internal/placement"
	"dicaxon/internal/tree"
	"dicaxon/internal/treetest"
)

var ferry = map[string]string{
	"requirements.txt": "flask\n", "run.py": "", "notes.xyz": "", "PIERS.md": "", "Readme.md": "", "app/__init__.py": "", "app/templates/base.html": "", "app/tides/__init__.py": "", "app/tides/views.py": "",
	"app/tides/templates/tides/list.html": "", "app/crews/__init__.py": "", "app/crews/views.py": "", "app/crews/odd/x": "", "tests/test_tides.py": "", "own/go.mod": "", ".gitignore": "secret.txt\n", "secret.txt": "",
}

func placed(t *testing.T, files map[string]string, without string) *placement.Placement {
	t.Helper()
	all := map[string]string{}
	for path, text := range files {
		if path != without {
			all[path] = text
		}
	}
	r, err := tree.Read(treetest.Make(t, all), tree.Options{})
	if err != nil {
		t.Fatal(err)
	}
	l, err := catalogue.Catalogue{}.Layout("flask/areas")
	if err != nil {
		t.Fatal(err)
	}
	places, err := catalogue.Catalogue{}.Commonplace()
	if err != nil {
		t.Fatal(err)
	}
	apart := map[*tree.Folder]bool{}
	if n := r.Top.Find("own"); n != nil {
		apart[n.Folder] = true
	}
	return placement.Pair(placement.Input{Repository: r, Top: r.Top, Layout: l, Commonplace: places, Apart: apart})
}

// TestLookup asks what describes a path, there and not there: the answers are the
// same, but for whether it is there.
func TestLookup(t *testing.T) {
	for path, want := range map[string]struct {
		state placement.State
		entry string
	}{
		"run.py":                              {placement.Placed, "run.py"},
		"app/tides/views.py":                  {placement.Placed, "<project>/<area>/views.py"},
		"app/tides/templates/tides/list.html": {placement.Placed, "<project>/<area>/templates/<area>/*.html"},
		"tests/test_tides.py":                 {placement.Placed, "tests/test_<area>.py"},
		"Readme.md":                           {placement.Placed, "README.md"},
		"notes.xyz":                           {placement.Unplaced, ""},
		"PIERS.md":                            {placement.Unplaced, ""},
		"app/crews/odd":                       {placement.Unplaced, ""},
		"secret.txt":                          {placement.Hidden, ""},
		"own":                                 {placement.Apart, ""},
		"own/go.mod":                          {placement.Below, ""},
	} {
		p := placed(t, ferry, "")
		a := p.Lookup(path)
		got := ""
		if a.Entry != nil && a.State == placement.Placed {
			got = a.Entry.Path()
		}
		if a.State != want.state || got != want.entry || !a.There {
			t.Errorf("%s: state %d, entry %q, there %v", path, a.State, got, a.There)
		}
		if want.state != placement.Placed {
			continue
		}
		gone := placed(t, ferry, path).Lookup(path)
		if gone.There || gone.Entry != a.Entry || gone.Folder != a.Folder {
			t.Errorf("%s, not there: %+v, there: %+v", path, gone, a)
		}
	}
	deep := "tests/none/of/test_these.py"
	if a := placed(t, ferry, "").Lookup(deep); a.There || a.Entry == nil || a.State != placement.Placed {
		t.Errorf("%s, below folders that are not there: %+v", deep, a)
	}
	if a := placed(t, ferry, "").Lookup("nowhere/at/all"); a.There || a.Known || a.Around != "" {
		t.Errorf("a path into nothing: %+v", a)
	}
}

// TestPresence holds that what is there counts as there, whoever it belongs to,
// and that an empty folder does not.
func TestPresence(t *testing.T) {
	p := placed(t, ferry, "app/templates/base.html")
	missing := map[string]bool{}
	for i := range p.Gaps {
		name, _ := p.Gaps[i].Name()
		missing[p.Gaps[i].Folder.Path()+name] = true
	}
	if missing["README.md"] || missing["run.py"] || !missing["app/templates"] {
		t.Errorf("missing: %v", missing)
	}
}

// TestCalled gives entries the names that their folders have.
func TestCalled(t *testing.T) {
	p := placed(t, ferry, "")
	a := p.Lookup("app/tides/templates/tides/list.html")
	if got := p.Called(a.Entry, a.Env); got != "app/tides/templates/tides/*.html" {
		t.Errorf("called %q", got)
	}
	if got := p.Called(a.Entry, nil); got != "<project>/<area>/templates/<area>/*.html" {
		t.Errorf("without names: %q", got)
	}
}

// TestWantedInSomeProjects asks that what only some projects want is wanted in those alone.
func TestWantedInSomeProjects(t *testing.T) {
	for _, wrapped := range []bool{false, true} {
		files := map[string]string{"build.gradle.kts": "plugins { java }\n", "settings.gradle.kts": "", "src/main/java/g/tides/quays/Main.java": "void main("}
		if wrapped {
			files["gradle/wrapper/gradle-wrapper.properties"] = ""
		}
		r, err := tree.Read(treetest.Make(t, files), tree.Options{})
		if err != nil {
			t.Fatal(err)
		}
		l, err := catalogue.Catalogue{}.Layout("java/gradle")
		if err != nil {
			t.Fatal(err)
		}
		p, wanted := placement.Pair(placement.Input{Repository: r, Top: r.Top, Layout: placement.For(r, r.Top, l)}), false
		for i := range p.Gaps {
			name, _ := p.Gaps[i].Name()
			wanted = wanted || name == "gradlew"
		}
		if wanted != wrapped {
			t.Errorf("with the script that reads it: %v; wanted: %v", wrapped, wanted)
		}
	}
}
