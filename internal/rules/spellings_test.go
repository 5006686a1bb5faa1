package rules

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"dicaxon/internal/catalogue"
	"dicaxon/internal/layout"
	"dicaxon/internal/placement"
	"dicaxon/internal/scaffoldtest"
	"dicaxon/internal/tree"
	"dicaxon/internal/treetest"
)

// TestRulesSpeakOfEntries renames, in the scaffold of each layout, each folder and
// file that has other accepted spellings to each of them: every path of every
// rule finds as much as before.
func TestRulesSpeakOfEntries(t *testing.T) {
	renamed := 0
	for name, answers := range treetest.Answers {
		l, plan := scaffoldtest.Plan(t, name, answers)
		root := scaffoldtest.Write(t, plan)
		before := counts(t, l, root)
		for _, item := range plan.Items {
			at := strings.TrimSuffix(item.Path, "/")
			for _, s := range item.Entry.Spellings {
				other := filepath.Join(filepath.Dir(at), s.Exact)
				if s.Exact == "" || other == at || filepath.Ext(other) != filepath.Ext(at) || item.Entry.Spellings[0].Exact != filepath.Base(at) {
					continue
				}
				if _, err := os.Lstat(filepath.Join(root, other)); err == nil {
					continue
				}
				rename(t, root, at, other)
				for option, n := range counts(t, l, root) {
					if n != before[option] {
						t.Errorf("%s: %s finds %d instead of %d once %s is %s", name, option, n, before[option], at, other)
					}
				}
				rename(t, root, other, at)
				renamed++
			}
		}
	}
	if renamed < 100 {
		t.Errorf("only %d spellings were tried", renamed)
	}
}

func rename(t *testing.T, root, from, to string) {
	t.Helper()
	if err := os.Rename(filepath.Join(root, from), filepath.Join(root, to)); err != nil {
		t.Fatal(err)
	}
}

// counts gives how many files each path option of each rule finds in a project.
func counts(t *testing.T, l *layout.Layout, root string) map[string]int {
	t.Helper()
	r, err := tree.Read(root, tree.Options{})
	if err != nil {
		t.Fatal(err)
	}
	common, err := catalogue.Catalogue{}.Commonplace()
	if err != nil {
		t.Fatal(err)
	}
	calls, err := Compile(l, common)
	if err != nil {
		t.Fatal(err)
	}
	p := &project{Placement: placement.Pair(placement.Input{Repository: r, Top: r.Top, Layout: l, Commonplace: common})}
	_, p.env = p.Folder(p.Top)
	all := map[string]int{}
	for _, c := range calls {
		c.project = p
		for option := range c.paths {
			all[c.asked.Called()+" "+option] = len(c.files(option))
		}
	}
	return all
}

// TestPathsReachEntries refuses a path that stands for nothing in the layout.
func TestPathsReachEntries(t *testing.T) {
	for path, reaches := range map[string]bool{
		"src/features/<feature>/index.js": true, "src/modules/<feature>/index.js": true, "src/featurs/<feature>/": false,
		"src/**/*.jsx": true, "package.json": true, ".gitignore": true, "lib/**": false, "src/features/<feature>/components/*.vue": false,
	} {
		dir := treetest.Make(t, map[string]string{layout.FileName: "dicaxon: 1\nlayout: t/t\ntitle: T\nbuilds-on: [react/features]\nrules:\n  - {rule: text, files: '" + path + "', must: x}\n"})
		l, err := layout.Resolve(catalogue.Catalogue{Dir: dir}, ".")
		if err != nil {
			t.Fatal(err)
		}
		common, _ := catalogue.Catalogue{}.Commonplace()
		_, err = Compile(l, common)
		if (err == nil) != reaches || err != nil && !strings.Contains(err.Error(), "reaches no entry") {
			t.Errorf("%s: %v", path, err)
		}
	}
}
