package app_test

import (
	"cmp"
	"fmt"
	"io/fs"
	"maps"
	"math/rand/v2"
	"os"
	"path"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"testing"

	"dicaxon/internal/app"
	"dicaxon/internal/changes"
	"dicaxon/internal/finding"
	"dicaxon/internal/manifest"
	"dicaxon/internal/placement"
	"dicaxon/internal/scaffoldtest"
	"dicaxon/internal/treetest"
)

// texts gives every file of a tree with its text, and the folders that are empty.
func texts(t *testing.T, root string) map[string]string {
	t.Helper()
	all := map[string]string{}
	err := filepath.WalkDir(root, func(at string, e fs.DirEntry, err error) error {
		if err != nil || e.IsDir() {
			return err
		}
		rel, _ := filepath.Rel(root, at)
		text, err := os.ReadFile(at)
		all[filepath.ToSlash(rel)] = string(text)
		return err
	})
	if err != nil {
		t.Fatal(err)
	}
	return all
}

// difference tells how two trees differ, "" where they do not.
func difference(a, b map[string]string) string {
	var all []string
	for _, at := range slices.Sorted(maps.Keys(a)) {
		if text, there := b[at]; !there {
			all = append(all, "- "+at)
		} else if text != a[at] {
			all = append(all, "~ "+at)
		}
	}
	for _, at := range slices.Sorted(maps.Keys(b)) {
		if _, there := a[at]; !there {
			all = append(all, "+ "+at)
		}
	}
	return strings.Join(all, "\n")
}

// inOrder gives answers with their names in order, as they are found again in a project.
func inOrder(answers map[string]string) map[string]string {
	all := map[string]string{}
	for key, value := range answers {
		parts := strings.Split(value, ",")
		slices.Sort(parts)
		all[key] = strings.Join(parts, ",")
	}
	return all
}

var realigning = changes.Why{Command: "dicaxon realign", Summary: "a trial"}

// trials gives how many are asked for by TRIALS, or otherwise.
func trials(otherwise int) int {
	if set, err := strconv.Atoi(os.Getenv("TRIALS")); err == nil {
		return set
	}
	return otherwise
}

// TestRoundTrip changes scaffolded projects at random and lets realign put them right: what
// it writes gives the project back to the byte, or else it leaves what was done and says
// so; and undo gives back what was there before, to the byte.
func TestRoundTrip(t *testing.T) {
	t.Parallel()
	rounds := map[int]int{1: 12, 3: 4}
	if set := trials(0); set > 0 { // of each layout
		rounds = map[int]int{1: set, 3: set / 3}
	}
	if testing.Short() {
		rounds = map[int]int{1: 8, 3: 2}
	}
	least := map[int]float64{1: 0.97, 3: 0.9}
	for _, k := range []int{1, 3} {
		whole, left, other, wrong := 0, 0, 0, 0
		for _, name := range slices.Sorted(maps.Keys(treetest.Answers)) {
			l, plan := scaffoldtest.Plan(t, name, inOrder(treetest.Answers[name]))
			for seed := range rounds[k] {
				root := filepath.Join(t.TempDir(), cmp.Or(treetest.Answers[name]["project"], "new"))
				if err := plan.Write(t.Context(), root, false); err != nil {
					t.Fatal(err)
				}
				original := texts(t, root)
				c := &changer{t: t, layout: l, root: root, rand: rand.New(rand.NewPCG(uint64(seed), uint64(100+k)))}
				for tries := 0; len(c.expected) < k && tries < 2000; tries++ {
					kinds := []func() bool{c.deleteNeeded, c.moveFile, c.moveFolder, c.misspell, c.liftFile}
					kinds[c.rand.IntN(len(kinds))]()
				}
				changed := texts(t, root)
				r, err := app.Realign(t.Context(), root, app.RealignOptions{Options: app.Options{Layout: name}, Least: finding.Note})
				if err != nil {
					t.Fatalf("%s, seed %d, did %v: %v", name, seed, c.did, err)
				}
				if !r.Empty() {
					if _, err := r.Plan.Plan.Write(t.Context(), root, realigning); err != nil {
						t.Fatalf("%s, seed %d, did %v: %v", name, seed, c.did, err)
					}
				}
				now := texts(t, root)
				switch d := difference(original, now); {
				case d == "":
					whole++
				case explained(d, difference(original, changed)):
					left++
				case consistent(t, root, name, original, now):
					other++ // put right in another way that holds
				default:
					wrong++
					if os.Getenv("PROOF") == "show" {
						t.Logf("%s, seed %d: did %v\nnow:\n%s\nchanged:\n%s\nplan %v %v", name, seed, c.did, d, difference(original, changed), r.Moves, r.Makes)
					}
				}
				if !r.Empty() {
					if _, err := changes.Undo(t.Context(), root, false); err != nil {
						t.Fatalf("%s, seed %d: %v", name, seed, err)
					}
					if d := difference(changed, texts(t, root)); d != "" {
						t.Errorf("%s, seed %d: undone, it differs:\n%s", name, seed, d)
					}
				}
				os.RemoveAll(root)
			}
		}
		all := whole + left + other + wrong
		t.Logf("%d at a time: %d trials, %d whole, %d left as they are, %d put right otherwise, %d wrong; right %.3f", k, all, whole, left, other, wrong, share(whole+left+other, all))
		if share(whole+left+other, all) < least[k] {
			t.Errorf("%d at a time: below %.2f", k, least[k])
		}
	}
}

// consistent says whether a project that is not what it was is one in which a check finds
// nothing that a colleague would say, and from which no file is gone.
func consistent(t *testing.T, root, layout string, original, now map[string]string) bool {
	t.Helper()
	r, err := app.Check(t.Context(), root, app.Options{Layout: layout})
	if err != nil {
		t.Fatal(err)
	}
	return r.Totals.Error+r.Totals.Warning == 0 && len(now) >= len(original)
}

// explained says whether what differs from the original after realign is part of what
// differed before it: nothing else was touched.
func explained(now, before string) bool {
	was := strings.Split(before, "\n")
	for line := range strings.SplitSeq(now, "\n") {
		if !slices.Contains(was, line) {
			return false
		}
	}
	return true
}

// TestThereAndBack moves files and folders of scaffolded projects to where nobody looks for
// them, with their references, and back: no reference is lost on the way, and the project
// is what it was, to the byte.
func TestThereAndBack(t *testing.T) {
	t.Parallel()
	rounds := 6
	if testing.Short() {
		rounds = 3
	}
	same, trials, lost, remarked, refused := 0, 0, 0, 0, 0
	for _, name := range slices.Sorted(maps.Keys(treetest.Answers)) {
		_, plan := scaffoldtest.Plan(t, name, treetest.Answers[name])
		for seed := range rounds {
			root := scaffoldtest.Write(t, plan)
			original := texts(t, root)
			random := rand.New(rand.NewPCG(uint64(seed), 11))
			paths := slices.Sorted(maps.Keys(original))
			from := paths[random.IntN(len(paths))]
			if !strings.Contains(from, "/") || strings.HasPrefix(path.Base(from), ".") || placement.IsMarker(path.Base(from)) || manifest.Is(path.Base(from)) || strings.HasPrefix(from, ".") {
				continue
			}
			to := path.Join(path.Dir(from), fmt.Sprintf("zone%d", random.IntN(3)), path.Base(from))
			if random.IntN(3) == 0 {
				from = path.Dir(from)
				to = path.Join(path.Dir(from), "zone", path.Base(from))
			}
			for i, m := range []changes.Move{{From: from, To: to}, {From: to, To: from}} {
				r, err := app.Realign(t.Context(), root, app.RealignOptions{Options: app.Options{Layout: name}, Least: finding.Warning, Moves: []changes.Move{m}})
				if err != nil {
					t.Fatalf("%s, seed %d, %v: %v", name, seed, m, err)
				}
				if len(r.Left) > 0 && len(r.Groups) == 0 { // the language does not allow it
					refused++
					break
				}
				before := dangling(t, root, name)
				if _, err := r.Plan.Plan.Write(t.Context(), root, realigning); err != nil {
					t.Fatalf("%s, seed %d, %v: %v", name, seed, m, err)
				}
				if i > 0 {
					continue
				}
				if n := dangling(t, root, name) - before; n > 0 && len(r.Remarks) == 0 {
					lost++
					if os.Getenv("PROOF") == "show" {
						t.Logf("%s, seed %d, %v: %d references lead nowhere, and nothing is said", name, seed, m, n)
					}
				}
				if len(r.Remarks) > 0 {
					remarked++
				}
			}
			trials++
			if d := difference(original, texts(t, root)); d == "" {
				same++
			} else if os.Getenv("PROOF") == "show" {
				t.Logf("%s, seed %d, %s to %s and back:\n%s", name, seed, from, to, d)
			}
			os.RemoveAll(root)
		}
	}
	t.Logf("%d trials: %d the same to the byte, %d lost a reference unsaid, %d with something left to people, %d not done", trials, same, lost, remarked, refused)
	if share(same, trials) < 0.9 || lost > trials/50 || refused > trials/20 {
		t.Error("too few come back")
	}
}

// dangling counts the references that a check says lead nowhere.
func dangling(t *testing.T, root, layout string) int {
	t.Helper()
	r, err := app.Check(t.Context(), root, app.Options{Layout: layout})
	if err != nil {
		t.Fatal(err)
	}
	n := 0
	for _, f := range r.Projects[0].Findings {
		if f.Kind == finding.Dangling {
			n += 1 + f.More
		}
	}
	return n
}
