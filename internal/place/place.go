// Package place says where something belongs: from a name that is not there yet, from a
// file with what it says and who uses it, or from words.
package place

import (
	"cmp"
	"fmt"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/names"
	"dicaxon/internal/placement"
	"dicaxon/internal/tree"
	"dicaxon/internal/workspace"
)

// An Answer says where something belongs, the best place first. There are at most three.
type Answer struct {
	Asked  string  `json:"asked"`
	There  bool    `json:"there"`  // it is a file or folder of the repository
	Home   bool    `json:"home"`   // it lies where it belongs, which is the one place
	Places []Place `json:"places"` // paths of the repository
	// Unit is set where a new unit is needed, or may be: what it is called in the layout.
	Unit  string   `json:"unit,omitempty"`
	Units []string `json:"units,omitempty"` // those that there are
}

// A Place is one place, with the reason.
type Place struct {
	Path   string `json:"path"`
	Entry  string `json:"entry,omitempty"`
	Layout string `json:"layout,omitempty"`
	Role   string `json:"role,omitempty"`
	Why    string `json:"why"`
	Exists bool   `json:"exists"` // the folder is there
}

// mostPlaces is how many places are named.
const mostPlaces = 3

// A candidate is a place with what speaks for it.
type candidate struct {
	Place
	score int
	unit  string // the entry that it lies in is one of a unit
	tied  bool   // something says of which one
	makes int    // how many folders would have to be made
	open  bool
}

// A placer looks for places in one project.
type placer struct {
	project *workspace.Project
	asked   string
	name    string // the last name of it
	hints   []string
	text    []byte
}

// Existing says where a file or folder of a repository that was checked belongs.
func Existing(w *workspace.Workspace, at string) Answer {
	plain := strings.TrimSuffix(at, "/")
	p := w.ProjectOf(plain)
	a := Answer{Asked: at, There: true}
	n := w.Repository.Top.At(plain)
	if n != nil && n.Folder != nil {
		at = plain + "/"
	}
	for _, f := range p.Findings {
		if f.Path != at || len(f.Places()) == 0 || f.Kind != finding.Misplaced && f.Kind != finding.Misnamed {
			continue
		}
		for _, home := range f.Places() {
			a.Places = append(a.Places, Place{Path: home, Entry: f.Entry, Layout: layoutOf(p), Role: f.Why, Why: f.Message, Exists: standing(w, home)})
		}
		return a
	}
	below := strings.TrimPrefix(at, p.Folder.Path())
	found := p.Placement.Lookup(below)
	if e := found.Entry; found.Known && e != nil && (found.State == placement.Placed || found.State == placement.Common) && !e.Need.Banned() && !e.CatchAll() {
		a.Home = true
		a.Places = []Place{{Path: at, Entry: e.Path(), Layout: e.Layout, Role: e.Role, Why: "it is where it belongs", Exists: true}}
		return a
	}
	pl := placer{project: p, asked: at, name: path.Base(plain), hints: names.Words(path.Dir(plain))}
	if n != nil && n.Folder == nil {
		pl.text, _ = w.Repository.Text(plain)
	}
	pl.answer(&a, pl.byName(n != nil && n.Folder != nil))
	a.Places = slices.DeleteFunc(a.Places, func(p Place) bool { return p.Path == at })
	return a
}

// Named says where something of a name would go, in the project that a folder lies in.
func Named(w *workspace.Workspace, in, name string) Answer {
	a := Answer{Asked: name}
	p := w.ProjectOf(in)
	plain := strings.TrimSuffix(name, "/")
	pl := placer{project: p, asked: name, name: path.Base(plain)}
	if dir := path.Dir(plain); dir != "." {
		pl.hints = names.Words(dir)
	}
	pl.answer(&a, pl.byName(strings.HasSuffix(name, "/")))
	return a
}

func layoutOf(p *workspace.Project) string {
	if p.Known() {
		return p.Layout.Name
	}
	return ""
}

func standing(w *workspace.Workspace, at string) bool {
	return w.Repository.Top.At(path.Dir(strings.TrimSuffix(at, "/"))) != nil || !strings.Contains(strings.TrimSuffix(at, "/"), "/")
}

// What speaks for a place.
const (
	ofExact  = 100 // the layout has that very name there
	ofUnit   = 60  // it is called after a unit
	ofHint   = 40  // the folder that was asked for names it
	ofShown  = 30  // its text shows it
	ofName   = 25  // the name fits by more than its ending
	ofFellow = 15  // files like it lie there
	ofEnding = 5
)

// little is how many bytes of a text say nothing yet of what it is.
const little = 200

// byName weighs the entries that a name fits, in each place that they have.
func (pl *placer) byName(folder bool) []candidate {
	var all []candidate
	p := pl.project.Placement
	p.Layout.Index().All(pl.name, folder, func(e *layout.Entry) {
		if e.Need.Banned() || e.MadeBy != "" || e.CatchAll() && len(e.Entries) == 0 && e.Others == layout.May {
			return
		}
		for _, s := range p.Spots(e) {
			if _, _, fits := e.Match(pl.name, s.Env); fits {
				all = append(all, pl.weigh(e, s))
			}
		}
	})
	_, test := names.Testee(pl.name)
	own := func(c candidate) bool { return test == placement.ForTests(c.Path) }
	if slices.ContainsFunc(all, own) { // tests to the tests, and nothing else
		all = slices.DeleteFunc(all, func(c candidate) bool { return !own(c) })
	}
	all = append(all, pl.told(folder)...)
	if e := p.CommonName(pl.name, p.Top, folder); e != nil && !e.OnlyEnding() {
		all = append(all, candidate{Place: Place{Path: p.Top.Path() + pl.name, Entry: e.Path(), Layout: e.Layout, Role: e.Role, Why: "it stands at the top of any repository", Exists: true}, score: ofName + 1})
	}
	return append(all, pl.fellows()...)
}

// told gives where the layout says that things of such a name belong, where it says so of a
// folder that people put them into.
func (pl *placer) told(folder bool) []candidate {
	var all []candidate
	p := pl.project.Placement
	for _, e := range p.Layout.Entries {
		for _, n := range e.NotHere {
			if n.Like == nil || n.Home == nil || folder {
				continue
			}
			if _, fits := n.Like.Match(pl.name, nil); !fits {
				continue
			}
			spots := p.Spots(n.Home)
			for _, s := range spots {
				c := pl.weigh(n.Home, s)
				c.score, c.Why = ofName, names.Uncapital(n.What)+" belong there"
				if n.Home.Folder {
					name, whole := n.Home.Name(s.Env)
					c.open = c.open || !whole
					c.Path = p.Top.Path() + s.Path + name + "/" + pl.name
					c.Exists = s.Folder != nil && s.Folder.Find(name) != nil
				}
				all = append(all, c)
			}
		}
	}
	return all
}

// weigh says how much speaks for an entry in one place.
func (pl *placer) weigh(e *layout.Entry, s placement.Spot) candidate {
	p := pl.project.Placement
	c := candidate{open: s.Open, Place: Place{Path: p.Top.Path() + s.Path + pl.name, Entry: e.Path(), Layout: e.Layout, Role: e.Role, Exists: s.Folder != nil}}
	for up := e.Parent; up != nil; up = up.Parent {
		if up.Unit != "" {
			c.unit = up.Unit
		}
	}
	switch bound, _, _ := e.Match(pl.name, s.Env); {
	case e.Spellings[0].Exact == pl.name || exactly(e, pl.name):
		c.score, c.Why = ofExact, "the layout has that name there"
	case pl.unitIn(e, bound) != "":
		c.score, c.Why, c.tied = ofExact-10, pl.unitIn(e, bound), true
	case e.OnlyEnding():
		c.score, c.Why = ofEnding, "files with that ending go there"
	default:
		c.score, c.Why = ofName, "names like that go there"
	}
	if e.Shows != nil && len(pl.text) > 0 {
		switch {
		case e.ShownIn(pl.text):
			c.score, c.Why = c.score+ofShown, "its text shows that it is one of those"
		case len(pl.text) > little:
			c.score -= ofShown
		default:
			c.score--
		}
	}
	pl.around(&c, s)
	if s.Folder != nil {
		c.score += min(pl.alike(s.Folder), 3)
		if s.Folder.Find(pl.name) != nil {
			c.score -= ofExact // there is one
		}
	}
	c.makes = s.Makes
	c.score -= 2 * s.Makes
	if s.Makes > 0 && c.score < ofName && (c.unit == "" || s.Makes > 1) {
		c.score = -1 // for an ending alone nobody makes a folder
	}
	return c
}

func exactly(e *layout.Entry, name string) bool {
	return slices.ContainsFunc(e.Spellings, func(s layout.Pattern) bool { return s.Exact == name })
}

// unitIn says that a name is called after a unit that there is, "" where it is not.
func (pl *placer) unitIn(e *layout.Entry, bound *layout.Env) string {
	for _, captured := range e.Spellings[0].Captures() {
		value, _ := bound.Get(captured)
		for _, u := range pl.project.Placement.Units[captured] {
			if known, _ := u.Env.Get(captured); names.Same(known, value) {
				return fmt.Sprintf("it is called after the %s %s", captured, known)
			}
		}
	}
	return ""
}

// around weighs what the name and the hints say of the folders of a place.
func (pl *placer) around(c *candidate, s placement.Spot) {
	words := names.Words(names.BeforeDot(pl.name))
	seen := map[string]bool{}
	for folder := range strings.SplitSeq(strings.Trim(s.Path, "/"), "/") {
		for _, part := range names.Words(folder) {
			switch {
			case part == "" || strings.HasPrefix(folder, "<") || seen[part]:
			case slices.ContainsFunc(pl.hints, func(h string) bool { return names.Singular(h) == names.Singular(part) }):
				c.score += ofHint
				seen[part], c.tied = true, c.tied || pl.isUnit(folder)
				c.Why += fmt.Sprintf(", and %s/ is where you asked for it", folder)
			case slices.ContainsFunc(words, func(w string) bool { return names.Singular(w) == names.Singular(part) }) && pl.isUnit(folder):
				c.score += ofUnit
				seen[part], c.tied = true, true
				c.Why += fmt.Sprintf(", and it names %s", folder)
			}
		}
	}
}

// isUnit says whether a folder is a unit of the project.
func (pl *placer) isUnit(folder string) bool {
	for _, units := range pl.project.Placement.Units {
		if slices.ContainsFunc(units, func(u placement.Unit) bool { return u.Folder != nil && u.Folder.Name == folder }) {
			return true
		}
	}
	return false
}

// alike counts the files of a folder that are called like the one that was asked for.
func (pl *placer) alike(f *tree.Folder) int {
	n := 0
	for i := range f.Nodes {
		if node := &f.Nodes[i]; node.Folder == nil && !node.Ignored && kindred(node.Name, pl.name) {
			n++
		}
	}
	return n
}

// kindred says whether two names are of one kind: the same ending, and the same last word
// or first word of several.
func kindred(a, b string) bool {
	if path.Ext(a) != path.Ext(b) || a == b {
		return false
	}
	as, bs := names.Words(strings.TrimSuffix(a, path.Ext(a))), names.Words(strings.TrimSuffix(b, path.Ext(b)))
	return len(as) > 1 && len(bs) > 1 && (as[len(as)-1] == bs[len(bs)-1] || as[0] == bs[0] && len(as[0]) > 2)
}

// fellows finds the folders in which files of the same kind lie, whatever the layout.
func (pl *placer) fellows() []candidate {
	p := pl.project.Placement
	count := map[*tree.Folder]int{}
	total := 0
	p.Written(p.Top, func(at string, n *tree.Node) {
		if !kindred(n.Name, pl.name) {
			return
		}
		if in := p.Node(path.Dir(at)); in != nil && in.Folder != nil {
			count[in.Folder]++
			total++
		}
	})
	var all []candidate
	for f, n := range count {
		if n < 2 || n*2 < total || f.Find(pl.name) != nil {
			continue
		}
		c := candidate{Place: Place{Path: f.Path() + pl.name, Why: fmt.Sprintf("%d of the %d files like it lie there", n, total), Exists: true}, score: ofFellow + n*10/total}
		if place, _ := p.Folder(f); place.Entry != nil {
			c.Entry, c.Role, c.Layout = place.Entry.Path(), place.Entry.Role, place.Entry.Layout
		}
		all = append(all, c)
	}
	return all
}

// answer takes the best candidates, at most three, and of those that are as good.
func (pl *placer) answer(a *Answer, all []candidate) {
	slices.SortStableFunc(all, func(x, y candidate) int {
		return cmp.Or(y.score-x.score, strings.Compare(x.Path, y.Path))
	})
	seen := map[string]bool{}
	all = slices.DeleteFunc(all, func(c candidate) bool {
		again := seen[c.Path]
		seen[c.Path] = true
		return again || c.score < 0
	})
	if len(all) == 0 {
		return
	}
	best, makes := all[0].score, all[0].makes
	all = slices.DeleteFunc(all, func(c candidate) bool { return c.unit != "" && c.makes > max(makes, 0) && c.unit == all[0].unit })
	all = slices.DeleteFunc(all, func(c candidate) bool { return c.score < best-ofName && c.score < ofExact || c.score < best-ofUnit })
	if best >= ofExact-10 {
		all = slices.DeleteFunc(all, func(c candidate) bool { return c.score < best })
	}
	told := map[string]bool{}
	for _, c := range all {
		switch {
		case len(a.Places) == mostPlaces:
			return
		case c.unit == "" || c.tied:
			a.Places = append(a.Places, c.Place)
		case !told[c.Entry]:
			// It may be of any unit: which one, only the asker knows.
			told[c.Entry] = true
			pl.anyUnit(a, c, c.unit)
		}
	}
}

// anyUnit answers with the place that it has in each unit.
func (pl *placer) anyUnit(a *Answer, c candidate, unit string) {
	p := pl.project.Placement
	e := p.Layout.Find(c.Entry)
	c.Place.Path = p.Top.Path() + pl.name
	if e != nil {
		_, env := p.Folder(p.Top)
		c.Place.Path = p.Top.Path() + p.Called(e.Parent, env) + pl.name
		if e.Folder && !strings.HasSuffix(pl.asked, "/") {
			c.Place.Path = p.Top.Path() + p.Called(e, env) + pl.name
		}
	}
	c.Why = fmt.Sprintf("each %s has its own", unit)
	a.Places, a.Unit, a.Units = append(a.Places, c.Place), unit, pl.project.Placement.UnitNames()[unit]
}
