// Package reconcile explains what placement left over: strays by the gaps and
// homes that evidence speaks for, so that one cause gives one finding. Where
// nothing but an ending speaks for a home it names none.
package reconcile

import (
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/placement"
	"dicaxon/internal/tree"
)

// A Move is a stray that has one home.
type Move struct {
	From, To string // folders end in "/"
}

// A Result is what Run found out.
type Result struct {
	Findings []finding.Finding
	Moves    []Move
	// Explained holds the strays with a home; Filled weighs the gaps that they
	// would fill, each once.
	Explained []placement.Stray
	Filled    int
}

// A reconciler explains what one project's placement left over.
type reconciler struct {
	*placement.Placement
	result    Result
	index     *layout.Index
	strays    []stray
	taken     []bool         // by gap
	gapAt     map[string]int // gaps by the path that would fill them
	gapFor    map[gapKey]int // gaps by their folder and entry
	gapsIn    map[*tree.Folder][]int
	awaited   map[wantedName]bool // what gaps wait for by name
	reached   map[reachKey][]target
	texts     map[string]*text
	moved     map[string]string // the homes settled, by the path of what has them
	wanting   map[string][]want // references that lead nowhere, by the last name that they look for
	parts     map[*tree.Folder][]*tree.Node
	unitFiles []*layout.Entry              // of files in units; nil until asked for
	kindsOf   map[*layout.Entry][][]string // what entries give of kinds, once asked for
	states    map[string]bool              // the paths that the manifest at the top names
	numbers   map[*tree.Folder][]string    // by the folder around them, folders that are called otherwise in number alone
}

// A wantedName is a name that an entry wants somewhere, with captured names put in.
type wantedName struct {
	entry *layout.Entry
	name  string
}

type gapKey struct {
	folder *tree.Folder
	entry  *layout.Entry
}

// A stray is one that placement left over, or, where it is drawn, one that has a
// place for now which something elsewhere would explain better.
type stray struct {
	placement.Stray
	drawn bool
	other bool  // drawn, since its name belongs to another unit
	loose bool  // drawn, since it is nearly called as what is described and absent beside it
	role  *home // drawn there, since its name and its text say what it is
}

// is says whether two strays are one file or folder.
func (s stray) is(other stray) bool { return s.Folder == other.Folder && s.Index == other.Index }

// Run explains what the placement left over. It pairs what lies in a folder that
// has a home as if it lay there, so the placement knows more afterwards.
func Run(p *placement.Placement) *Result {
	r := &reconciler{
		Placement: p, index: p.Layout.Index(), gapAt: map[string]int{}, gapFor: map[gapKey]int{}, awaited: map[wantedName]bool{}, gapsIn: map[*tree.Folder][]int{},
		reached: map[reachKey][]target{}, texts: map[string]*text{}, moved: map[string]string{},
		parts: map[*tree.Folder][]*tree.Node{}, kindsOf: map[*layout.Entry][][]string{}, numbers: map[*tree.Folder][]string{},
	}
	r.run()
	r.throughout()
	finding.Sort(r.result.Findings)
	return &r.result
}

// mostLooked is how many strays a first look tries to explain: a layout that
// leaves so much over is wrong.
const mostLooked = 100

func (r *reconciler) run() {
	r.Gaps = slices.DeleteFunc(r.Gaps, func(g placement.Gap) bool { return !r.stands(g.Folder) })
	r.prepare(0)
	for _, s := range r.Strays {
		if s := (stray{Stray: s}); r.MostFolders > 0 || !r.stated(&s) {
			r.strays = append(r.strays, s)
		}
	}
	if r.MostFolders > 0 {
		r.strays = r.strays[:min(len(r.strays), mostLooked)]
	} else {
		r.draw()
		r.kinds()
		roles := r.byRole()
		// What is astray for two reasons is told once: what is sure of its role goes before what drew it,
		// and what its name alone says behind that.
		r.strays = slices.DeleteFunc(r.strays, func(s stray) bool {
			return s.drawn && slices.ContainsFunc(roles, func(role stray) bool { return s.is(role) && role.role.evidence > Kind })
		})
		r.strays = append(r.strays, slices.DeleteFunc(roles, func(s stray) bool { return slices.ContainsFunc(r.strays, s.is) })...)
		r.strays = r.loose(r.strays, r.Top)
	}
	var rest, files []stray
	// Folders first: what lies in one that only has the wrong name is judged as
	// at its home, and tells of units that files astray elsewhere belong to.
	for seen := 0; seen < len(r.strays); {
		folders, loose := split(r.strays[seen:])
		seen = len(r.strays)
		files = append(files, loose...)
		rest = append(rest, r.settle(folders)...)
	}
	rest = append(rest, r.settle(files)...)
	r.unexplained(rest)
	for i := range r.Gaps {
		if !r.taken[i] && r.stands(r.Gaps[i].Folder) {
			r.say(r.missing(&r.Gaps[i]))
		}
	}
	for _, f := range r.Said {
		if f.Kind != finding.Empty || !r.emptied(f) {
			r.say(f)
		}
	}
}

func (r *reconciler) say(f finding.Finding) { r.result.Findings = append(r.result.Findings, f) }

// stands says whether a folder has a place of its own.
func (r *reconciler) stands(f *tree.Folder) bool {
	place, _ := r.Folder(f)
	return place.State == placement.Placed
}

func split(all []stray) (folders, files []stray) {
	for _, s := range all {
		if s.Node().Folder != nil {
			folders = append(folders, s)
		} else {
			files = append(files, s)
		}
	}
	return folders, files
}

// prepare indexes the gaps from one on.
func (r *reconciler) prepare(from int) {
	r.taken = append(r.taken, make([]bool, len(r.Gaps)-from)...)
	for i := from; i < len(r.Gaps); i++ {
		g := &r.Gaps[i]
		r.gapsIn[g.Folder] = append(r.gapsIn[g.Folder], i)
		r.gapFor[gapKey{g.Folder, g.Entry}] = i
		for k := range g.Entry.Spellings {
			if name, complete := g.Entry.Spellings[k].Fill(g.Env); complete {
				r.gapAt[pathIn(g.Folder, name, g.Entry.Folder)] = i
				if len(g.Entry.Spellings[k].Captures()) > 0 && !g.Entry.Folder && !g.Entry.Deep {
					r.awaited[wantedName{g.Entry, name}] = true
				}
			}
		}
	}
}

// settle gives each stray the home that most speaks for, the surest first, and
// returns those that have none.
func (r *reconciler) settle(strays []stray) (rest []stray) {
	type claim struct {
		stray int
		home  *home
	}
	rows := make([][]home, len(strays))
	var claims []claim
	for i := range strays {
		rows[i] = r.homes(&strays[i])
		for k := range rows[i] {
			claims = append(claims, claim{i, &rows[i][k]})
		}
	}
	slices.SortStableFunc(claims, func(a, b claim) int { return better(a.home, b.home) })
	chosen, used, one := make([]*home, len(strays)), map[string]bool{}, map[onlyPlace]bool{}
	for _, c := range claims {
		place := onlyPlace{parentPath(c.home.path), c.home.entry}
		// Of names that mean the same a folder has one.
		if chosen[c.stray] == nil && !used[c.home.path] && !one[place] {
			chosen[c.stray], used[c.home.path] = c.home, true
			one[place] = c.home.entry != nil && c.home.entry.Parent != nil && c.home.entry.Spellings[0].Exact != "" && !c.home.entry.Folder
		}
	}
	own := r.ownWays(strays, chosen)
	for i := range strays {
		if own[i] {
			r.result.Explained = append(r.result.Explained, strays[i].Stray)
			continue
		}
		if chosen[i] == nil || !r.accept(&strays[i], chosen[i], rows[i], used) {
			rest = append(rest, strays[i])
		}
	}
	return rest
}

// An onlyPlace is an entry of one name in a folder.
type onlyPlace struct {
	in    string
	entry *layout.Entry
}

// mostEqual is how many places that fit equally well are told; of more, none is.
const mostEqual = 3

// accept says where a stray belongs. It says no where too many places are as
// good as the chosen one.
func (r *reconciler) accept(s *stray, h *home, row []home, used map[string]bool) bool {
	equal := []string{h.path}
	for i := range row {
		o := &row[i]
		if alike(o, h) && !slices.Contains(equal, o.path) && !used[o.path] {
			equal = append(equal, o.path)
		}
	}
	if len(equal) > mostEqual || s.drawn && len(equal) > 1 && h.evidence != Kind {
		return false
	}
	if len(equal) == 1 {
		r.carry(s, h)
	}
	r.say(r.astray(s, h, equal))
	return true
}

// alike says whether two homes of one stray are equally good.
func alike(a, b *home) bool {
	return a.evidence == b.evidence && a.slip == b.slip && a.wanted == b.wanted && a.leaves == b.leaves && a.named == b.named && len(a.gaps) == len(b.gaps) && a.steps == b.steps
}

// carry notes what a move would bring about.
func (r *reconciler) carry(s *stray, h *home) {
	for _, g := range h.gaps {
		if !r.taken[g] {
			r.taken[g] = true
			r.result.Filled += r.Gaps[g].Weight()
		}
	}
	for i := range r.Gaps { // what is there then may do instead of something else
		if !r.taken[i] && slices.Contains(r.Gaps[i].Entry.Unless, h.entry) {
			r.taken[i] = true
			r.Wanted -= r.Gaps[i].Weight()
		}
	}
	f := s.Node().Folder
	if !s.drawn && (s.Tentative == nil || !s.Tentative.Need.Banned()) {
		r.result.Explained = append(r.result.Explained, s.Stray)
	}
	r.result.Moves = append(r.result.Moves, Move{s.Path(), h.path})
	r.moved[s.Path()] = h.path
	if f != nil && !f.Unread {
		gaps := len(r.Gaps)
		for _, more := range r.Adopt(f, h.entry, h.env) {
			r.strays = append(r.strays, stray{Stray: more})
		}
		r.prepare(gaps)
	}
}

// unexplained tells of the strays without a home. A folder whose files all have
// one is not told itself.
func (r *reconciler) unexplained(rest []stray) {
	for i := range rest {
		s := &rest[i]
		if s.loose && s.Node().Folder != nil && r.MostFolders == 0 {
			r.beside(s)
		}
		if e := r.CommonName(s.Node().Name, s.Folder, s.Node().Folder != nil); s.drawn || s.To == nil && e != nil && e.Anywhere() || r.partners(s) || r.undivided(s) {
			continue
		}
		if f := s.Node().Folder; f != nil && r.MostFolders == 0 && (r.beside(s) || r.scatter(f)) {
			continue
		}
		r.say(r.extra(s))
	}
}

// mostWithin bounds how many files of an unexplained folder are looked at.
const mostWithin = 2000

// scatter looks for what is wanted elsewhere among the files of a folder without
// a place, and says whether that is all it holds. Where somebody named the layout, what a
// text shows is enough, and a part of the files may have a home.
func (r *reconciler) scatter(f *tree.Folder) bool {
	within := r.filesOf(nil, f)
	if len(within) == 0 {
		return false
	}
	least := Exact
	if r.Named {
		least = Shown
	}
	found, others, whole := make([]*home, len(within)), make([][]home, len(within)), true
	for i := range within {
		homes := slices.DeleteFunc(r.homes(&within[i]), func(h home) bool {
			return h.evidence < least && len(h.gaps) == 0 && h.evidence != Kind || h.wanted && r.taken[h.gaps[0]]
		})
		if r.Named { // one place, whichever entry it is there
			slices.SortStableFunc(homes, func(a, b home) int { return better(&a, &b) })
			homes = slices.CompactFunc(homes, func(a, b home) bool { return a.path == b.path })
		}
		if len(homes) == 1 || len(homes) > 1 && homes[0].evidence == Kind && len(homes) <= mostEqual {
			found[i], others[i] = &homes[0], homes[1:]
		}
		whole = whole && found[i] != nil
	}
	for i := range found {
		if !whole && !r.Bring && found[i] != nil && found[i].evidence == Kind {
			found[i] = nil // what a name says is too little to take a folder apart
		}
	}
	if !whole && !r.Named {
		return false
	}
	if whole && r.together(f, within, found, others) {
		return true
	}
	for i, h := range found {
		if h == nil {
			continue
		}
		places := []string{h.path}
		for _, o := range others[i] {
			places = append(places, o.path)
		}
		if len(places) == 1 {
			r.carry(&within[i], h)
		}
		r.say(r.astray(&within[i], h, places))
	}
	return whole
}

// filesOf lists the files below a folder that has no place.
func (r *reconciler) filesOf(all []stray, f *tree.Folder) []stray {
	for i := range f.Nodes {
		n := &f.Nodes[i]
		switch {
		case n.Ignored || len(all) >= mostWithin || n.Folder == nil && r.CommonName(n.Name, f, false) != nil:
		case n.Folder != nil:
			all = r.filesOf(all, n.Folder)
		default:
			all = append(all, stray{Stray: placement.Stray{Folder: f, Index: i}})
		}
	}
	return all
}

// emptied says whether an empty folder is no finding of its own: something that
// has its home in it is told already, or that the folder itself is missing.
func (r *reconciler) emptied(f finding.Finding) bool {
	for _, o := range r.result.Findings {
		if strings.HasPrefix(o.Home, f.Path) || strings.HasPrefix(o.Path, f.Path) || o.Kind != finding.Missing && strings.HasSuffix(o.Path, "/") && strings.HasPrefix(f.Path, o.Path) {
			return true
		}
	}
	return false
}
