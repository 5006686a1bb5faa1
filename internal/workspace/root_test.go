package workspace

import (
	"path/filepath"
	"testing"

	"dicaxon/internal/treetest"
)

func TestRoot(t *testing.T) {
	dir := treetest.Make(t, map[string]string{
		"home/.git/HEAD": "", "home/dicaxon.yaml": "", "home/package.json": "", "home/notes/a.md": "", "home/ferry/go.mod": "", "home/ferry/berths/a.go": "",
		"home/line/.git/HEAD": "", "home/line/crews/package.json": "{}", "home/group/dicaxon.yaml": "", "home/group/tides/pyproject.toml": "",
	})
	t.Setenv("HOME", filepath.Join(dir, "home"))
	for at, want := range map[string]string{
		"home":              "home",       // who stands in it means it
		"home/notes":        "home/notes", // what lies at home says nothing of what is below
		"home/ferry/berths": "home/ferry",
		"home/line/crews":   "home/line",
		"home/group/tides":  "home/group",
		"home/none/at/all":  "home",
	} {
		if got := Root(filepath.Join(dir, at), ""); got != filepath.Join(dir, want) {
			t.Errorf("%s: %s, not %s", at, got, want)
		}
	}
}
