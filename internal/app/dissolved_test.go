package app_test

import (
	"path"
	"slices"
	"strings"
	"sync"
	"testing"

	"dicaxon/internal/app"
	"dicaxon/internal/changes"
	"dicaxon/internal/finding"
	"dicaxon/internal/placement"
	"dicaxon/internal/refs"
)

// TestNamedIsCalm holds that a right project is told nothing more where somebody names its layout, but
// for what it could have.
func TestNamedIsCalm(t *testing.T) {
	t.Parallel()
	eachExample(t, func(t *testing.T, e *example, root string) {
		known := map[string]bool{}
		for _, named := range []string{"", e.layout} {
			r, err := app.Check(t.Context(), root, app.Options{Layout: named})
			if err != nil {
				t.Fatal(err)
			}
			for _, p := range r.Projects {
				for _, f := range p.Findings {
					what := string(f.Kind) + " " + f.Path
					if named == "" {
						known[what] = true
					} else if !known[what] && p.At == "." && (f.Level < finding.Note || f.Kind == finding.Misplaced || f.Kind == finding.Misnamed) {
						t.Errorf("%s %s: %s %v", f.Level, what, f.Message, f.Places())
					}
				}
			}
		}
	})
}

// What is to be known of files that stand loose above the folder that they were in, of a hundred: each
// of those that are placed anew goes back, but for few that might lie there as well.
const (
	leastBack  = 22
	mostAstray = 4
)

// TestDissolved takes a folder of code out of each living example, so that its files stand loose above
// it and all that names them follows, and asks a check by the layout where they belong. Many may stand
// where they are then, and of many nothing says what they are.
func TestDissolved(t *testing.T) {
	if testing.Short() {
		t.Skip("it moves files in every living example")
	}
	var lock sync.Mutex
	var back, astray, all int
	t.Run("examples", func(t *testing.T) {
		eachExample(t, func(t *testing.T, e *example, root string) {
			loose := e.dissolve(t, root)
			if len(loose) == 0 {
				return
			}
			r, err := app.Check(t.Context(), root, app.Options{Layout: e.layout})
			if err != nil {
				t.Fatal(err)
			}
			lock.Lock()
			defer lock.Unlock()
			for from, now := range loose {
				all++
				switch homes := homesOf(r, now); {
				case slices.Contains(homes, from):
					back++
				case len(homes) > 0:
					astray++
				}
			}
		})
	})
	t.Logf("%d files stand loose; %d are told to go back, %d to go elsewhere", all, back, astray)
	if back*100 < all*leastBack || astray*100 > all*mostAstray {
		t.Errorf("of %d files %d are told to go back, and %d to go elsewhere", all, back, astray)
	}
}

// dissolve moves the code of one folder of an example to the folder above, and says where each file
// was and where it is. Which folder, its own purpose decides.
func (e *example) dissolve(t *testing.T, root string) map[string]string {
	t.Helper()
	in := map[string][]string{}
	for at := range e.files {
		if dir := path.Dir(at); dir != "." && !placement.ForTests(dir+"/") && refs.IsCode(at) {
			in[dir] = append(in[dir], at)
		}
	}
	if len(in) == 0 {
		return nil
	}
	var folders []string
	for dir := range in {
		folders = append(folders, dir)
	}
	slices.Sort(folders)
	folder := e.pick("dissolved", folders)
	loose := map[string]string{}
	var moves []changes.Move
	for _, at := range in[folder] {
		now := path.Join(path.Dir(folder), path.Base(at))
		if _, there := e.files[now]; there {
			return nil
		}
		loose[at] = now
		moves = append(moves, changes.Move{From: at, To: now})
	}
	slices.SortFunc(moves, func(a, b changes.Move) int { return strings.Compare(a.From, b.From) })
	plan, err := app.Realign(t.Context(), root, app.RealignOptions{Moves: moves})
	if err != nil || len(plan.Moves) < len(moves) {
		return nil // not every language lets its files move apart
	}
	if _, err := plan.Plan.Plan.Write(t.Context(), root, changes.Why{Command: "realign"}); err != nil {
		t.Fatal(err)
	}
	return loose
}

// homesOf lists where a check says that a file belongs, perhaps with the folder around it.
func homesOf(r *app.Report, at string) (homes []string) {
	for _, p := range r.Projects {
		for _, f := range p.Findings {
			for _, home := range f.Places() {
				if f.Path == at {
					homes = append(homes, home)
				} else if rest, ok := strings.CutPrefix(at, f.Path); ok && strings.HasSuffix(f.Path, "/") {
					homes = append(homes, home+rest)
				}
			}
		}
	}
	return homes
}
