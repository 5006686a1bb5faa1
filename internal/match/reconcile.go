package match

import (
	"cmp"
	"fmt"
	"slices"

	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/names"
	"dicaxon/internal/tree"
)

// A reconciler explains what pairing left over: strays by gaps and homes.
type reconciler struct {
	*pairer
	index  *layout.Index
	gapAt  map[string]int // gaps by the path that would fill them
	gapFor map[gapKey]int // gaps whose name is open
	gapsIn map[*tree.Folder][]int
}

type gapKey struct {
	folder *tree.Folder
	entry  *layout.Entry
}

func (r *reconciler) run() {
	// A first look explains a sample: a layout that leaves so much over is wrong.
	if r.in.MostFolders > 0 && len(r.strays) > mostLooked {
		r.strays = r.strays[:mostLooked]
	}
	r.dropCovered()
	if len(r.strays) > 0 {
		r.prepare()
		r.explain()
	}
	for i := range r.gaps {
		if !r.gaps[i].taken {
			r.report(r.missing(&r.gaps[i]))
		}
	}
}

// mostLooked is how many strays a first look tries to explain.
const mostLooked = 100

func (r *reconciler) report(f finding.Finding) { r.result.Findings = append(r.result.Findings, f) }

// dropCovered forgets gaps in folders that turned out to have no place.
func (r *reconciler) dropCovered() {
	r.gaps = slices.DeleteFunc(r.gaps, func(g gap) bool { return r.at(g.folder).place.State != Placed })
}

func (r *reconciler) prepare() {
	r.index = r.in.Layout.Index()
	r.gapAt, r.gapFor = map[string]int{}, map[gapKey]int{}
	r.gapsIn = map[*tree.Folder][]int{}
	for i, g := range r.gaps {
		r.gapsIn[g.folder] = append(r.gapsIn[g.folder], i)
		for k := range g.entry.Spellings {
			name, complete := g.entry.Spellings[k].Fill(g.env)
			if !complete {
				r.gapFor[gapKey{g.folder, g.entry}] = i
				continue
			}
			r.gapAt[pathIn(g.folder, name, g.entry.Folder)] = i
		}
	}
}

// explain settles all strays together, then what is in folders that stay
// unexplained.
func (r *reconciler) explain() {
	// Folders first: what is in one that only has the wrong name tells of units
	// that its files, astray elsewhere, belong to.
	var folders, loose []stray
	for _, s := range r.strays {
		if s.node().Folder != nil {
			folders = append(folders, s)
		} else {
			loose = append(loose, s)
		}
	}
	rest := r.settle(folders, nil)
	rest = append(rest, r.settle(loose, nil)...)
	apart := map[*tree.Folder]bool{}
	var within []stray
	for i := range rest {
		if f := rest[i].node().Folder; f != nil && r.in.MostFolders == 0 {
			apart[f] = true
			within = r.filesOf(within, f)
		}
	}
	// Of a folder without a place, a file counts as misplaced only where there
	// is no doubt about it; else the folder is one finding.
	files, left := map[*tree.Folder]int{}, map[*tree.Folder]int{}
	for i := range within {
		files[topOf(&within[i], apart)]++
	}
	unexplained := r.settle(within, func(o option) bool { return o.cost <= costPattern && len(o.gaps) > 0 })
	for i := range unexplained {
		left[topOf(&unexplained[i], apart)]++
	}
	for i := range rest {
		if f := rest[i].node().Folder; f == nil || left[f] > 0 || files[f] == 0 {
			r.report(r.extra(&rest[i]))
		}
	}
}

// mostWithin bounds how many files of unexplained folders are looked at.
const mostWithin = 2000

// filesOf lists the files below a folder that has no place.
func (r *reconciler) filesOf(all []stray, f *tree.Folder) []stray {
	for i := range f.Nodes {
		n := &f.Nodes[i]
		switch {
		case n.Ignored || len(all) >= mostWithin || n.Folder == nil && r.commonplace(n, f) != nil:
		case n.Folder != nil:
			all = r.filesOf(all, n.Folder)
		default:
			all = append(all, stray{folder: f, index: i})
		}
	}
	return all
}

// topOf gives the folder without a place that the stray lies in.
func topOf(s *stray, apart map[*tree.Folder]bool) *tree.Folder {
	f := s.folder
	for !apart[f] {
		f = f.Parent
	}
	return f
}

// settle reports the strays that can be explained, by options that pass, and
// gives the others.
func (r *reconciler) settle(strays []stray, pass func(option) bool) (rest []stray) {
	rows := make([][]option, len(strays))
	for i := range strays {
		rows[i] = r.options(&strays[i])
		if pass != nil {
			rows[i] = slices.DeleteFunc(rows[i], func(o option) bool { return !pass(o) })
		}
	}
	chosen := assign(rows)
	used := map[string]int{}
	for i, k := range chosen {
		if k >= 0 {
			used[rows[i][k].home] = i + 1
		}
	}
	for i, k := range chosen {
		if k < 0 {
			rest = append(rest, strays[i])
			continue
		}
		o := rows[i][k]
		equal := equals(rows[i], o, func(home string) bool { return used[home] == 0 })
		if len(equal) > 1 && pass != nil {
			rest = append(rest, strays[i])
			continue
		}
		if len(equal) == 1 {
			for _, g := range o.gaps {
				r.gaps[g].taken = true
				r.result.Found += r.gaps[g].weight()
			}
			f := strays[i].node().Folder
			if e := strays[i].tentative; e == nil || !e.Need.Banned() {
				r.result.Explained++
				if f != nil {
					r.result.Explained += files(f)
				}
			}
			r.learnUnits(f, o.entry)
		}
		r.report(r.moved(&strays[i], o, equal))
	}
	return rest
}

// learnUnits registers the units that files make in a folder which belongs
// elsewhere or should have another name.
func (r *reconciler) learnUnits(f *tree.Folder, e *layout.Entry) {
	if f == nil {
		return
	}
	for i := range f.Nodes {
		n := &f.Nodes[i]
		if c, bound := e.Scope.Pattern(n.Name, false, nil); n.Folder == nil && c != nil && c.Unit != "" {
			r.units[c.Unit] = append(r.units[c.Unit], unit{bound, f})
		}
	}
}

// equals lists the homes as good as that of the chosen option, best first.
func equals(row []option, chosen option, free func(string) bool) []string {
	same := sameCost
	if chosen.weak {
		same = sameEnding
	}
	near := slices.DeleteFunc(slices.Clone(row), func(o option) bool {
		return o.cost > chosen.cost+same || o.home != chosen.home && !free(o.home)
	})
	slices.SortStableFunc(near, func(a, b option) int { return cmp.Compare(a.cost, b.cost) })
	var homes []string
	for _, o := range near {
		if !slices.Contains(homes, o.home) {
			homes = append(homes, o.home)
		}
	}
	return homes
}

func (r *reconciler) moved(s *stray, o option, homes []string) finding.Finding {
	f := finding.Finding{Kind: o.kind, Level: finding.Error, Path: s.path(), Home: o.home, Entry: o.entry.Path(), Why: o.entry.Role}
	switch {
	case len(homes) > 1:
		f.Kind, f.Level = finding.Misplaced, finding.Warning
		f.Home, f.Homes = "", homes[:min(len(homes), mostHomes)]
		f.Message = fmt.Sprintf("it does not belong here; %d places fit equally well", len(homes))
	case o.kind == finding.Misnamed:
		if o.entry.Need != layout.Must {
			f.Level = finding.Warning
		}
		f.Message = fmt.Sprintf("the name should be %s", lastName(o.home))
		if o.slip < names.Apart {
			f.Message += fmt.Sprintf(" (%s)", o.slip)
		}
	case s.to != nil:
		f.Message = fmt.Sprintf("%s: not here, but in %s", s.to.What, parentPath(o.home))
	default:
		f.Message = fmt.Sprintf("belongs in %s", parentPath(o.home))
	}
	return f
}

// mostHomes bounds how many equal places a finding lists.
const mostHomes = 5

func (r *reconciler) extra(s *stray) finding.Finding {
	f := finding.Finding{Kind: finding.Extra, Level: finding.Warning, Path: s.path()}
	here := r.at(s.folder).place
	f.Message = fmt.Sprintf("%s has no place for it in %s", r.in.Layout.Name, orTop(s.folder.Path()))
	if here.State == Placed {
		f.Entry, f.Why = here.Entry.Path(), here.Entry.Role
		if here.Entry.Others == layout.MustNot {
			f.Level = finding.Error
		}
	}
	e := s.tentative
	switch {
	case e == nil:
	case e.Need.Banned():
		f.Entry, f.Why = e.Path(), e.Role
		f.Message = fmt.Sprintf("%s says it %s be here", r.in.Layout.Name, map[layout.Need]string{layout.ShouldNot: "should not", layout.MustNot: "must not"}[e.Need])
		if e.Need == layout.MustNot {
			f.Level = finding.Error
		}
	case e.Unit != "":
		f.Message = fmt.Sprintf("%s has no place for it in %s, and its contents are not those of %s", r.in.Layout.Name, orTop(s.folder.Path()), e.Label())
	case e.Spellings[0].Exact != "":
		f.Entry, f.Why = e.Path(), e.Role
		f.Message = fmt.Sprintf("a second spelling of %s, which is here too", e.Label())
	}
	return f
}

func (r *reconciler) missing(g *gap) finding.Finding {
	f := finding.Finding{Kind: finding.Missing, Level: finding.Warning, Entry: g.entry.Path(), Why: g.entry.Role}
	if g.entry.Need == layout.Must {
		f.Level = finding.Error
	}
	name, complete := g.entry.Name(g.env)
	f.Path = pathIn(g.folder, name, g.entry.Folder)
	f.Message = fmt.Sprintf("it %s be here", g.entry.Need)
	if unit := r.forUnit(g.entry, r.at(g.folder).env); unit != "" {
		value, _ := g.env.Get(unit)
		f.Kind, f.Message = finding.Unpaired, fmt.Sprintf("%s %q has none", unit, value)
	} else if !complete {
		f.Message = fmt.Sprintf("%s %s have at least %d like it", orTop(g.folder.Path()), g.entry.Need, g.entry.AtLeast)
	}
	return f
}

// orTop names the project's own folder, which has no path.
func orTop(path string) string { return cmp.Or(path, "the project's folder") }
