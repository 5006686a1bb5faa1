package rules

import (
	"testing"

	"dicaxon/internal/refs"
)

// TestWhatWasMeant reads the whole sentence that people get for a reference that
// leads nowhere: what it names, and what was likely meant, as it would be written.
func TestWhatWasMeant(t *testing.T) {
	for _, c := range []struct {
		what  string
		files map[string]string
		want  string
	}{
		{"a slip in the place", files{"a.js": "import './tabel.js'\n", "table.js": ""}, "it imports ./tabel.js, which is not there; did it mean ./table.js?"},
		{"a slip in a folder on the way", files{"src/a.js": "import '../tide/table'\n", "tides/table.js": ""}, "it imports ../tide/table, which is not there; did it mean ../tides/table?"},
		{"the same name elsewhere", files{"src/a.js": "import './table'\n", "src/tides/table.ts": ""}, "it imports ./table, which is not there; did it mean ./tides/table?"},
		{"the one that has more of the way", files{"src/a.js": "import './tides/table.js'\n", "attic/tides/table.js": "", "other/table.js": ""}, "it imports ./tides/table.js, which is not there; did it mean ../attic/tides/table.js?"},
		{"nothing where too many have the name", files{"src/a.js": "import './table.js'\n", "b/table.js": "", "c/table.js": "", "d/table.js": "", "e/table.js": ""}, "it imports ./table.js, which is not there"},
		{"nothing of another kind", files{"src/a.js": "import './table'\n", "b/table.py": ""}, "it imports ./table, which is not there"},
		{"a marker is no name", files{"a.js": "import './tides/index.js'\n", "b/index.js": ""}, "it imports ./tides/index.js, which is not there"},
		{"a name that a module does not give", files{"ferry/__init__.py": "", "ferry/a.py": "from .tides import tabel\n", "ferry/tides.py": "table = 1\n"}, "it imports tabel from .tides, which has no such name; did it mean table?"},
		{"a module that a package does not have", files{"ferry/__init__.py": "", "ferry/a.py": "from . import view\n", "ferry/views.py": ""}, "it imports view from ferry/__init__.py, which has no such name; did it mean views?"},
		{"a model", files{"dbt_project.yml": "name: x\n", "models/a.sql": "{{ ref('stg_tide') }}\n", "models/stg_tides.sql": ""}, "it reads stg_tide, which is not there; did it mean models/stg_tides.sql?"},
		{"a link", files{"docs/a.md": "[x](tide.md)\n", "docs/tides.md": ""}, "it links to tide.md, which is not there; did it mean tides.md?"},
		{"a heading", files{"a.md": "[x](docs/b.md#tide-tables)\n", "docs/b.md": "## The Tides' table\n## Tides: `tables`\n"}, "it links to #tide-tables, a heading that docs/b.md does not have; did it mean tides-tables?"},
		{"a picture", files{"a.md": "![x](img/boat.png)\n", "img/boats.png": ""}, "it loads img/boat.png, which is not there; did it mean img/boats.png?"},
		{"what an image copies", files{"Dockerfile": "FROM x\nCOPY sources/ /app\n", "source/a": ""}, "it names sources/, which is not there; did it mean source?"},
	} {
		all := foundIn(t, "- {rule: dangling}", c.files)
		if len(all) != 1 || all[0].Message != c.want {
			t.Errorf("%s:\n got %+v\nwant %s", c.what, all, c.want)
		}
	}
}

// TestInCommon counts names at the ends of paths.
func TestInCommon(t *testing.T) {
	for _, c := range []struct {
		a, b string
		want int
	}{{"a/b/c.js", "x/b/c.ts", 2}, {"c.js", "c.js", 1}, {"a/c.js", "a/d.js", 0}, {"a/b", "a/b", 2}} {
		if got := inCommon(c.a, c.b); got != c.want {
			t.Errorf("%s and %s: %d", c.a, c.b, got)
		}
	}
	if !kin(".ts", ".jsx") || kin(".py", ".js") || !kin(".kt", ".java") || !kin(".sql", ".sql") {
		t.Error("kinds of files that import each other")
	}
}

// TestOldNamesAreWhole finds paths that stand by themselves in a text.
func TestOldNamesAreWhole(t *testing.T) {
	for text, want := range map[string]int{
		"see plans/a.csv": 4, "plans/a.csv": 0, "./plans/a.csv": 2, "'plans/a.csv'": 1, "(plans/a.csv)": 1,
		"myplans/a.csv": -1, "x/plans/a.csv": -1, "plans/a.csvx": -1, "plans/a.csv-old": -1, "../plans/a.csv": -1, "plans/a.csv/x": -1, "plans/a.csvs plans/a.csv": 13,
	} {
		if got := wholePath([]byte(text), []byte("plans/a.csv")); got != want {
			t.Errorf("%q: %d, not %d", text, got, want)
		}
	}
}

// TestWrittenFromItsFile writes paths as references of a file would have them.
func TestWrittenFromItsFile(t *testing.T) {
	call := &Call{project: &project{byEnding: map[string][]standing{}}}
	for _, c := range []struct{ from, name, at, want string }{
		{"src/a.ts", "./x.guard", "src/b/x.guard.ts", "./b/x.guard"}, {"src/a.js", "./x", "src/tides/b.js", "./tides/b"}, {"src/a.js", "./x.js", "b.js", "../b.js"}, {"src/deep/a.js", "../x", "src/b.ts", "../b"}, {"a.js", "./x", "b.js", "./b"}, {"src/a.py", "ferry.x", "src/ferry/y.py", "src/ferry/y.py"},
	} {
		e := refs.Edge{From: c.from, Ref: refs.Ref{Kind: refs.Import, Name: c.name}}
		if got := call.asWritten(&e, c.at); got != c.want {
			t.Errorf("%s in %s: %s, not %s", c.at, c.from, got, c.want)
		}
	}
}
