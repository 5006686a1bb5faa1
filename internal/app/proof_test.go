package app_test

import (
	"context"
	"fmt"
	"maps"
	"math/rand/v2"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"dicaxon/internal/app"
	"dicaxon/internal/catalogue"
	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/manifest"
	"dicaxon/internal/scaffoldtest"
	"dicaxon/internal/treetest"
)

// A tally compares what check found with what was done.
type tally struct {
	done, found, both int // expected findings, findings, and those that are both
	homes, rightHomes int // expected findings with a home, and those found with it
}

func (t *tally) add(o tally) {
	t.done += o.done
	t.found += o.found
	t.both += o.both
	t.homes += o.homes
	t.rightHomes += o.rightHomes
}

func share(a, b int) float64 {
	if b == 0 {
		return 1
	}
	return float64(a) / float64(b)
}

func (t tally) rates() (precision, recall, home float64) {
	return share(t.both, t.found), share(t.both, t.done), share(t.rightHomes, t.homes)
}

// TestProof changes scaffolded projects at random and compares the findings
// with the changes.
func TestProof(t *testing.T) {
	t.Parallel()
	rounds := map[int]int{1: 150, 2: 40, 5: 20}
	if testing.Short() {
		rounds = map[int]int{1: 60, 2: 20, 5: 10}
	}
	least := map[int]float64{1: 0.98, 2: 0.965, 5: 0.95}
	changes := 0
	for _, name := range (catalogue.Catalogue{}).Names() {
		if l, err := (catalogue.Catalogue{}).Layout(name); err != nil || !l.Base && treetest.Answers[name] == nil {
			t.Errorf("%s has no answers to be proved with, or cannot be read: %v", name, err)
		}
	}
	for _, k := range []int{1, 2, 5} {
		var all tally
		for _, name := range slices.Sorted(maps.Keys(treetest.Answers)) {
			if o := os.Getenv("ONLY"); o != "" && !strings.Contains(o, name) {
				continue
			}
			of := prove(t, name, treetest.Answers[name], k, rounds[k])
			p, r, h := of.rates()
			t.Logf("%d at a time, %-14s precision %.3f  recall %.3f  right home %.3f  (%d changes)", k, name, p, r, h, of.done)
			all.add(of)
		}
		p, r, h := all.rates()
		t.Logf("%d at a time, all           precision %.3f  recall %.3f  right home %.3f  (%d changes)", k, p, r, h, all.done)
		if min(p, r, h) < least[k] {
			t.Errorf("%d at a time: below %.3f", k, least[k])
		}
		changes += all.done
	}
	t.Logf("%d changes in all", changes)
	if !testing.Short() && changes < 5000 {
		t.Errorf("%d changes are too few to show anything", changes)
	}
}

func prove(t *testing.T, name string, answers map[string]string, k, rounds int) tally {
	t.Helper()
	l, plan := scaffoldtest.Plan(t, name, answers)
	var sum tally
	base := t.TempDir()
	for seed := range rounds {
		root := filepath.Join(base, fmt.Sprint(seed))
		if err := plan.Write(t.Context(), root, false); err != nil {
			t.Fatal(err)
		}
		c := &changer{t: t, layout: l, root: root, rand: rand.New(rand.NewPCG(uint64(seed), uint64(k)))}
		for len(c.expected) < k {
			c.change()
		}
		r, err := app.Check(context.Background(), root, app.Options{Layout: name})
		if err != nil {
			t.Fatal(err)
		}
		of := compare(c.expected, r.Projects[0].Findings)
		if of.both < max(of.done, of.found) || of.rightHomes < of.homes {
			if os.Getenv("PROOF") == "show" {
				t.Logf("%s, seed %d: did %v\n%s", name, seed, c.did, show(c.expected, r.Projects[0].Findings))
			}
		}
		sum.add(of)
		os.RemoveAll(root)
	}
	return sum
}

// TestIdentifyAfterChanges asks which layout a scaffold follows after five
// random changes that leave its manifest. Of scaffolds with less than ten files too little is left to
// ask for much: their numbers are only shown.
func TestIdentifyAfterChanges(t *testing.T) {
	t.Parallel()
	rounds := 30
	if testing.Short() {
		rounds = 5
	}
	right, all := 0, 0
	for name, answers := range treetest.Answers {
		l, plan := scaffoldtest.Plan(t, name, answers)
		here := 0
		for seed := range rounds {
			root := scaffoldtest.Write(t, plan)
			c := &changer{t: t, layout: l, root: root, rand: rand.New(rand.NewPCG(uint64(seed), 99)), keep: deciding(l)}
			for len(c.expected) < 5 {
				c.change()
			}
			r, err := app.Check(context.Background(), root, app.Options{})
			if err == nil && len(r.Projects) == 1 && r.Projects[0].Layout.Name == name {
				here++
			} else if os.Getenv("PROOF") == "show" {
				got := "none"
				if err == nil {
					got = r.Projects[0].Layout.Name
				}
				t.Logf("%s, seed %d: %s %v, %v", name, seed, got, err, c.did)
			}
		}
		t.Logf("%-18s %d of %d", name, here, rounds)
		files := 0
		for _, item := range plan.Items {
			if !strings.HasSuffix(item.Path, "/") {
				files++
			}
		}
		if files >= 10 {
			right, all = right+here, all+rounds
		}
	}
	t.Logf("of those with ten files or more: %d of %d", right, all)
	if share(right, all) < 0.95 {
		t.Error("fewer than 95 % are known for what they are")
	}
}

// deciding lists the files without which a project is not of the layout: nobody
// works on without them.
func deciding(l *layout.Layout) []string {
	all := manifest.Names()
	for _, s := range l.Signs {
		if (s.Must || s.One) && s.Has != "" {
			all = append(all, s.Has)
		}
	}
	return all
}

// kept says whether a file is one that changes leave alone.
func (c *changer) kept(file string) bool {
	return slices.ContainsFunc(c.keep, func(pattern string) bool {
		ok, _ := filepath.Match(pattern, filepath.Base(file))
		return ok
	})
}

func compare(expected, found []finding.Finding) tally {
	of := tally{done: len(expected), found: len(found)}
	for _, e := range expected {
		if e.Kind == tolerated {
			of.both++ // it counts as found, whatever is said of the thing itself
			said, stale := false, 0
			for _, f := range found {
				// What names it at its old place says so, too.
				if f.Kind == finding.Dangling && f.Path == e.Path || f.Kind == finding.Dangling && slices.ContainsFunc(f.Sought, func(at string) bool {
					return at+"/" == e.Home || strings.HasPrefix(at, strings.TrimSuffix(e.Home, filepath.Ext(e.Home)))
				}) {
					stale++
				}
				within := f.Path == e.Path || strings.HasSuffix(e.Path, "/") && strings.HasPrefix(f.Path, e.Path)
				if within && (f.Kind == finding.Extra || f.Home == e.Home) {
					said = true
				}
			}
			of.found -= stale
			if !said {
				of.found++
			}
			continue
		}
		i := slices.IndexFunc(found, func(f finding.Finding) bool { return f.Kind == e.Kind && f.Path == e.Path })
		if i >= 0 {
			of.both++
		}
		if e.Home != "" {
			of.homes++
			if i >= 0 && found[i].Home == e.Home {
				of.rightHomes++
			}
		}
	}
	return of
}

func show(expected, found []finding.Finding) string {
	var b strings.Builder
	for _, e := range expected {
		fmt.Fprintf(&b, "    expected %s %s -> %s\n", e.Kind, e.Path, e.Home)
	}
	for _, f := range found {
		fmt.Fprintf(&b, "    found    %s %s -> %s %v\n", f.Kind, f.Path, f.Home, f.Homes)
	}
	return b.String()
}

// A changer changes a project and notes which finding that should give.
type changer struct {
	t        *testing.T
	layout   *layout.Layout
	root     string
	rand     *rand.Rand
	touched  []string // paths that a change has been made to
	expected []finding.Finding
	did      []string
	keep     []string // names of files that are left alone
}

// change makes one change, or none where what it picked cannot be changed.
func (c *changer) change() {
	changes := []func() bool{c.deleteNeeded, c.moveFile, c.moveFolder, c.misspell, c.addStray, c.liftFile, c.emptyFolder}
	changes[c.rand.IntN(len(changes))]()
}

func (c *changer) expect(kind finding.Kind, path, home string) bool {
	c.expected = append(c.expected, finding.Finding{Kind: kind, Path: path, Home: home})
	c.touched = append(c.touched, path)
	if home != "" {
		c.touched = append(c.touched, home)
	}
	c.did = append(c.did, fmt.Sprintf("%s %s", kind, path))
	return true
}

// paths lists what is in the project, folders with a slash.
func (c *changer) paths(folders bool) []string {
	var all []string
	filepath.WalkDir(c.root, func(path string, d os.DirEntry, err error) error {
		if err != nil || path == c.root {
			return err
		}
		rel, _ := filepath.Rel(c.root, path)
		if rel = filepath.ToSlash(rel); d.IsDir() == folders {
			if folders {
				rel += "/"
			}
			all = append(all, rel)
		}
		return nil
	})
	return all
}

func (c *changer) pick(all []string) string {
	if len(all) == 0 {
		return ""
	}
	return all[c.rand.IntN(len(all))]
}

// fresh says whether no change was made at, in or around the path.
func (c *changer) fresh(path string) bool {
	return path != "" && !slices.ContainsFunc(c.touched, func(t string) bool {
		return t == path || strings.HasSuffix(t, "/") && strings.HasPrefix(path, t) || strings.HasSuffix(path, "/") && strings.HasPrefix(t, path)
	})
}

func (c *changer) rename(from, to string) bool {
	to = filepath.Join(c.root, to)
	if _, err := os.Lstat(to); err == nil {
		return false
	}
	if err := os.Rename(filepath.Join(c.root, from), to); err != nil {
		c.t.Fatal(err)
	}
	return true
}
