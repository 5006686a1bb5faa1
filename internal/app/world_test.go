package app_test

import (
	"context"
	"fmt"
	"maps"
	"math/rand/v2"
	"os"
	"path"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"dicaxon/internal/app"
	"dicaxon/internal/finding"
	"dicaxon/internal/manifest"
	"dicaxon/internal/names"
	"dicaxon/internal/scaffoldtest"
	"dicaxon/internal/treetest"
)

// TestProofInTheWorldsWay makes the slips that people make, one at a time, in what
// layouts want: a folder or a file misspelt, a file one level too high, a file
// dropped where a pattern for anything takes it. Each is one finding, with the
// place where the thing was as its home.
func TestProofInTheWorldsWay(t *testing.T) {
	t.Parallel()
	rounds := 60
	if testing.Short() {
		rounds = 20
	}
	var all tally
	for _, name := range slices.Sorted(maps.Keys(treetest.Answers)) {
		of := slipsIn(t, name, rounds)
		p, r, h := of.rates()
		t.Logf("%-22s precision %.3f  recall %.3f  right home %.3f  (%d slips)", name, p, r, h, of.done)
		all.add(of)
	}
	p, r, h := all.rates()
	t.Logf("%-22s precision %.3f  recall %.3f  right home %.3f  (%d slips)", "all", p, r, h, all.done)
	if min(p, r, h) < 0.97 || all.done < 40*rounds {
		t.Error("below 0.97, or too few slips")
	}
}

func slipsIn(t *testing.T, name string, rounds int) tally {
	t.Helper()
	l, plan := scaffoldtest.Plan(t, name, treetest.Answers[name])
	var sum tally
	base := t.TempDir()
	for seed := range rounds {
		root := filepath.Join(base, fmt.Sprint(seed))
		if err := plan.Write(t.Context(), root, false); err != nil {
			t.Fatal(err)
		}
		c := &changer{t: t, layout: l, root: root, rand: rand.New(rand.NewPCG(uint64(seed), 7))}
		slips := []func() bool{c.misspellAny, c.lift, c.drop}
		for tries := 0; len(c.expected) == 0 && tries < 200; tries++ {
			slips[c.rand.IntN(len(slips))]()
		}
		if len(c.expected) == 0 {
			continue // the layout wants next to nothing
		}
		r, err := app.Check(context.Background(), root, app.Options{Layout: name})
		if err != nil {
			t.Fatal(err)
		}
		of := compare(c.expected, r.Projects[0].Findings)
		if (of.both < max(of.done, of.found) || of.rightHomes < of.homes) && os.Getenv("PROOF") == "show" {
			t.Logf("%s, seed %d: did %v\n%s", name, seed, c.did, show(c.expected, r.Projects[0].Findings))
		}
		sum.add(of)
		os.RemoveAll(root)
	}
	return sum
}

// wanted picks something that the layout wants under one name: a file, or either.
func (c *changer) wanted(folders bool) (path string, ok bool) {
	all := c.paths(false)
	if folders {
		all = append(all, c.paths(true)...)
	}
	path = c.pick(all)
	e, env := c.entryOf(path)
	if e == nil || !e.Need.Wanted() || e.Unit != "" || c.alone(path) {
		return path, false
	}
	// Something that several places want is where the nearest of them is.
	_, name := split(path)
	n := 0
	for _, other := range c.layout.Entries[1:] {
		if _, _, fits := other.Match(name, nil); fits && other.Spellings[0].Exact != "" && !other.Need.Banned() {
			n++
		}
	}
	called, complete := e.Name(env)
	return path, complete && n == 1 && (called == name || e.Spellings[0].Exact != "")
}

// misspellAny writes a name in one of the ways in which people do.
func (c *changer) misspellAny() bool {
	path, ok := c.wanted(true)
	if !ok {
		return false
	}
	folder, name := split(path)
	stem := names.Stem(name)
	ending := strings.TrimPrefix(name, stem)
	if len(stem) < 4 || stem[0] == '.' {
		return false // too short to be anything but another name
	}
	i := 1 + c.rand.IntN(len(stem)-2)
	wrong := []string{
		names.Plural(stem), names.Singular(stem), strings.ToUpper(stem[:1]) + stem[1:], strings.ToLower(stem),
		stem[:i] + stem[i:i+1] + stem[i:], stem[:i] + stem[i+1:], strings.NewReplacer("_", "-", "-", "_").Replace(stem), strings.NewReplacer("_", "", "-", "").Replace(stem),
	}[c.rand.IntN(8)] + ending
	isFolder := strings.HasSuffix(path, "/")
	if wrong == name || strings.EqualFold(wrong, name) && strings.EqualFold(name, "readme.md") || c.spelling(folder, wrong, isFolder) {
		return false
	}
	if isFolder {
		return c.rename(path, folder+wrong) && c.expect(finding.Misnamed, folder+wrong+"/", path)
	}
	return c.rename(path, folder+wrong) && c.expect(finding.Misnamed, folder+wrong, path)
}

// spelling says whether the layout has the name for something else there.
func (c *changer) spelling(folder, name string, isFolder bool) bool {
	e := c.layout.Root
	if folder != "" {
		if e, _ = c.entryOf(folder); e == nil {
			return true
		}
	}
	for _, child := range e.Entries {
		if _, _, ok := child.Match(name, nil); ok && child.Folder == isFolder && child.Spellings[0].Exact != "" {
			return true
		}
	}
	return false
}

// lift puts a file one level too high.
func (c *changer) lift() bool {
	path, ok := c.wanted(false)
	folder, name := split(path)
	up, _ := split(folder)
	if !ok || folder == "" || anyDepth[name] || name == "index.md" || c.spelling(up, name, false) {
		return false
	}
	return c.rename(path, up+name) && c.expect(finding.Misplaced, up+name, path)
}

// inPart says whether a folder lies in one with a manifest of its own.
func (c *changer) inPart(folder string) bool {
	for ; folder != "" && folder != "./"; folder = path.Dir(strings.TrimSuffix(folder, "/")) + "/" {
		all, _ := os.ReadDir(filepath.Join(c.root, folder))
		if slices.ContainsFunc(all, func(e os.DirEntry) bool { return manifest.Is(e.Name()) }) {
			return true
		}
	}
	return false
}

// drop puts a file into a folder where a pattern for anything takes it.
func (c *changer) drop() bool {
	path, ok := c.wanted(false)
	to := c.pick(c.paths(true))
	folder, name := split(path)
	if !ok || to == folder || c.spelling(to, name, false) || !c.allowed(to, name, false) && !anyDepth[name] {
		return false
	}
	switch name {
	case "__init__.py", "index.js", "index.ts", "index.html", "index.md", "mod.rs", "doc.go":
		return false // it stands for the folder that it is in, whichever that is
	}
	if anyDepth[name] && c.inPart(to) {
		return false // a part with a manifest of its own may have its own readme
	}
	if low := strings.ToLower(to); strings.Contains(low, "test") || strings.Contains(low, "spec/") {
		return false // tests hold what they like
	}
	return c.rename(path, to+name) && c.expect(finding.Misplaced, to+name, path)
}
