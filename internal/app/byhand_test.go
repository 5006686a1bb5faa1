package app_test

import (
	"cmp"
	"hash/fnv"
	"maps"
	"path"
	"slices"
	"strings"
	"sync"
	"testing"

	"dicaxon/internal/app"
	"dicaxon/internal/finding"
	"dicaxon/internal/refs"
	"dicaxon/internal/treetest"
)

// A handSlip is what people do to files in the same way whatever the framework: what is moved, or
// copied, and to where.
type handSlip struct {
	kind, from, to string
	copies         bool
}

// handSlips gives one of each kind for an example, of what its own name chooses.
func (e *example) handSlips() (all []handSlip) {
	files := slices.Sorted(maps.Keys(e.files))
	var code, nested, folders []string
	for _, f := range files {
		dir := path.Dir(f)
		if refs.IsCode(f) && !strings.HasSuffix(f, ".md") {
			code = append(code, f)
			if dir != "." {
				nested = append(nested, f)
			}
		}
		if dir != "." && !slices.Contains(folders, dir) {
			folders = append(folders, dir)
		}
	}
	add := func(kind, from, to string, copies bool) {
		if _, taken := e.files[to]; from != "" && from != to && !taken && !slices.ContainsFunc(files, func(f string) bool { return strings.HasPrefix(f, to+"/") }) {
			all = append(all, handSlip{kind, from, to, copies})
		}
	}
	of := e.pick("copy", code)
	add("a copy beside the original", of, strings.TrimSuffix(of, path.Ext(of))+" copy"+path.Ext(of), true)
	of = e.pick("name", code)
	stem, ending, _ := strings.Cut(path.Base(of), ".")
	add("a file that is mistyped", of, path.Join(path.Dir(of), swapped(stem)+"."+ending), false)
	of = e.pick("up", nested)
	add("a file one level up", of, path.Join(path.Dir(path.Dir(of)), path.Base(of)), false)
	of = e.pick("folder", folders)
	add("a folder that is mistyped", of, path.Join(path.Dir(of), swapped(path.Base(of))), false)
	of = e.pick("case", folders)
	add("a folder in another case", of, path.Join(path.Dir(of), anotherCase(path.Base(of))), false)
	for _, manifest := range []string{"package.json", "composer.json", "pyproject.toml", "requirements.txt", "Cargo.toml", "pubspec.yaml", "dbt_project.yml"} {
		if _, there := e.files[manifest]; there {
			add("a manifest that is mistyped", manifest, swapped(strings.TrimSuffix(manifest, path.Ext(manifest)))+path.Ext(manifest), false)
		}
	}
	return all
}

// pick gives one of several, another for each example and purpose, and always the same.
func (e *example) pick(purpose string, of []string) string {
	if len(of) == 0 {
		return ""
	}
	h := fnv.New32a()
	h.Write([]byte(purpose + e.layout + e.from))
	return of[h.Sum32()%uint32(len(of))]
}

// swapped gives a name with the letters in its middle in the other order, or two that differ behind them.
func swapped(name string) string {
	for i := len(name) / 2; i+1 < len(name); i++ {
		if name[i] != name[i+1] {
			return name[:i] + string(name[i+1]) + string(name[i]) + name[i+2:]
		}
	}
	return name + "x"
}

func anotherCase(name string) string {
	if first := strings.ToLower(name[:1]); first != name[:1] {
		return first + name[1:]
	}
	return strings.ToUpper(name[:1]) + name[1:]
}

// leastTold is how many of each kind are told at least as an error or a warning, of what it has to do
// with: of a name that nobody looks up, and of which no layout says more than an ending, none can be.
var leastTold = map[string]float64{
	"a copy beside the original": 0.9, "a file that is mistyped": 0.68, "a file one level up": 0.65,
	"a folder that is mistyped": 0.78, "a folder in another case": 0.78, "a manifest that is mistyped": 0.97,
}

// A tallyOf counts, for each kind of slip, how many are made and told.
type tallyOf struct {
	sync.Mutex
	made, told map[string]int
}

func (n *tallyOf) count(kind string, told bool) {
	n.Lock()
	defer n.Unlock()
	n.made[kind]++
	if told {
		n.told[kind]++
	}
}

// inEachExample makes slips in every living example, and holds how many of each kind are told.
func inEachExample(t *testing.T, enough int, least map[string]float64, slips func(t *testing.T, e *example, root string, known map[string]bool, n *tallyOf)) {
	n := &tallyOf{made: map[string]int{}, told: map[string]int{}}
	t.Run("examples", func(t *testing.T) {
		eachExample(t, func(t *testing.T, e *example, root string) { slips(t, e, root, e.right(t, root), n) })
	})
	for _, kind := range slices.Sorted(maps.Keys(least)) {
		got := float64(n.told[kind]) / float64(max(n.made[kind], 1))
		t.Logf("%-28s %d of %d told, %.2f", kind, n.told[kind], n.made[kind], got)
		if n.made[kind] < enough || got < least[kind] {
			t.Errorf("%s: %d made, %.2f told, not %.2f", kind, n.made[kind], got, least[kind])
		}
	}
}

// TestSlipsByHand does to each living example what people do by hand, and counts what is told.
func TestSlipsByHand(t *testing.T) {
	t.Parallel()
	inEachExample(t, 50, leastTold, func(t *testing.T, e *example, root string, known map[string]bool, n *tallyOf) {
		for _, h := range e.handSlips() {
			n.count(h.kind, e.toldByHand(t, root, h, known))
		}
	})
}

// toldByHand makes a slip, says whether an error or a warning tells of it, and takes it back.
func (e *example) toldByHand(t *testing.T, root string, h handSlip, known map[string]bool) bool {
	t.Helper()
	s := slip{line: h.kind + ": " + h.from + " to " + h.to, do: []string{"move", h.from, h.to}}
	if h.copies {
		s.do = []string{"add", h.to, strings.TrimSuffix(e.files[h.from], "\n")}
	}
	s.make(t, root)
	defer treetest.Restore(t, root, e.files)
	r, err := app.Check(t.Context(), root, app.Options{})
	if err != nil {
		t.Fatal(err)
	}
	about := func(f *finding.Finding) bool {
		text := cmp.Or(f.Home, f.Path) + " " + f.Path + " " + f.Message + " " + strings.Join(f.Also, " ")
		base := func(at string) string { name, _, _ := strings.Cut(path.Base(at), "."); return name }
		return strings.Contains(text, base(h.from)) || strings.Contains(text, base(h.to))
	}
	for _, p := range r.Projects {
		for i := range p.Findings {
			f := &p.Findings[i]
			if f.Level != finding.Note && !known[string(f.Kind)+" "+f.Path+" "+f.Message] && about(f) {
				return true
			}
		}
	}
	return false
}
