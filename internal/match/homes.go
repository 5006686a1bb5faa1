package match

import (
	"path"
	"slices"
	"strings"
	"unicode"

	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/names"
	"dicaxon/internal/tree"
)

// The costs of an explanation: the lower, the likelier. They are weighed
// against each other, so only their order and distances mean something.
const (
	costToldSo   = 0.3 // the layout says: not here, there
	costSlip     = 0.5 // a slip of the pen in the right folder
	costPerSlip  = 0.1 // more for every less likely kind of slip
	costText     = 0.6 // its text shows what it is
	costExact    = 0.8 // the very name that an entry has elsewhere
	costUnit     = 0.5 // it names a unit that there is
	costPattern  = 1.2 // a pattern with more given than an ending
	costContents = 1.4 // a folder whose contents fit an entry of another name
	costEnding   = 2.0 // nothing but the ending fits
	costPerStep  = 0.1 // for every folder on the way
	costMake     = 0.8 // the ending is all there is, and a folder would have to be made
	costLeave    = 1.0 // it leaves the unit that it stands in
	costRename   = 0.3 // it would have to be renamed as well
	gainWanted   = 0.3 // the place is waiting for something
	gainMention  = 0.2 // of several units, its text names this one
	gainOnTheWay = 0.1 // a folder on the way to the place is wanted
	gainContents = 0.3 // times the share of a folder's contents that fit
	costGiveUp   = 3.0 // no explanation: the thing is extra
	gainBeside   = 0.5 // the ending is all there is, and the place is next to it
	sameCost     = 0.05
	sameEnding   = 0.5 // the same where the ending is all there is
)

// An option is one explanation of a stray.
type option struct {
	kind   finding.Kind
	home   string // full path, a folder's ends in "/"
	entry  *layout.Entry
	cost   float64
	slip   names.Slip
	gaps   []int // what it would fill
	wanted bool  // it fills a gap itself, and not only a folder around it
	weak   bool  // nothing but the ending speaks for it
}

// options lists what might explain the stray.
func (r *reconciler) options(s *stray) []option {
	var all []option
	if s.to != nil {
		for _, t := range r.walk(s, s.to.Home, s.node().Name) {
			all = r.offer(all, s, t, costToldSo)
		}
		if len(all) > 0 {
			return all
		}
	}
	all = r.slips(all, s)
	all = r.recognised(all, s)
	return r.elsewhere(all, s)
}

// recognised finds gaps that the text of a file shows it to be, whatever it is
// called, in the same unit.
func (r *reconciler) recognised(all []option, s *stray) []option {
	n := s.node()
	if n.Folder != nil {
		return all
	}
	for i := range r.gaps {
		g := &r.gaps[i]
		name, complete := g.entry.Name(g.env)
		if g.entry.Shows == nil || !complete || name == n.Name || path.Ext(name) != path.Ext(n.Name) || !agree(g.env, r.around(s)) {
			continue
		}
		text, err := r.in.Repository.Text(s.path())
		if err != nil || !g.entry.Shows.Match(text) {
			continue
		}
		o := option{kind: finding.Misplaced, entry: g.entry, home: g.folder.Path() + name, slip: names.Apart,
			cost: costText + costRename + costPerStep*float64(steps(s.folder.Path(), g.folder.Path()))}
		if g.folder == s.folder {
			o.kind = finding.Misnamed
		}
		all = append(all, r.waiting(o))
	}
	return all
}

// around gives the names captured around a stray.
func (r *reconciler) around(s *stray) *layout.Env {
	f := s.folder
	for r.at(f).place.State != Placed {
		f = f.Parent
	}
	return r.at(f).env
}

// slips finds what the name is a slip for in its own folder.
func (r *reconciler) slips(all []option, s *stray) []option {
	here, n := r.at(s.folder), s.node()
	if here.place.State != Placed {
		return all
	}
	for _, c := range here.place.Entry.Entries {
		if c.Folder != (n.Folder != nil) || c.Deep || c.Need.Banned() || c.MadeBy != "" {
			continue
		}
		name, complete := c.Name(here.env)
		slip := names.Apart
		if complete {
			slip = names.Near(n.Name, name)
		} else if n.Folder == nil {
			name, slip = otherEnding(n.Name, c, here.env)
		}
		o := option{kind: finding.Misnamed, entry: c, slip: slip, cost: costSlip + costPerSlip*float64(slip)}
		if n.Folder != nil {
			t := r.fitOf(n.Folder, c, here.env)
			o.cost -= gainContents * t.share()
			switch {
			case slip == names.Apart && complete && c.Need.Wanted() && t.share() >= 0.8:
				o.cost = costContents
			case slip >= names.Typing && !t.open && t.nodes > 0 && t.fits == 0:
				continue
			}
		}
		if slip == names.Apart && o.cost != costContents || stands(s.folder, c, here.env) {
			continue
		}
		o.home = pathIn(s.folder, name, c.Folder)
		all = append(all, r.waiting(o))
	}
	return r.counterparts(all, s)
}

// counterparts finds slips for what stands once for each unit, such as
// test_berth.py where the area is called berths.
func (r *reconciler) counterparts(all []option, s *stray) []option {
	n := s.node()
	for _, i := range r.gapsIn[s.folder] {
		g := &r.gaps[i]
		if _, settled := g.entry.Name(r.at(s.folder).env); settled || g.entry.Folder != (n.Folder != nil) {
			continue
		}
		name, complete := g.entry.Name(g.env)
		if slip := names.Near(n.Name, name); complete && slip < names.Apart {
			o := option{kind: finding.Misnamed, entry: g.entry, slip: slip, cost: costSlip + costPerSlip*float64(slip), home: pathIn(s.folder, name, g.entry.Folder)}
			all = append(all, r.waiting(o))
		}
	}
	return all
}

// otherEnding says whether name fits the entry's pattern but for an ending
// that means the same, such as .htm for .html.
func otherEnding(name string, c *layout.Entry, env *layout.Env) (string, names.Slip) {
	for _, other := range names.OtherEndings(name) {
		if _, _, ok := c.Match(other, env); ok && !c.CatchAll() {
			return other, names.Ending
		}
	}
	return "", names.Apart
}

// elsewhere finds the entries of other folders that the name fits.
func (r *reconciler) elsewhere(all []option, s *stray) []option {
	n := s.node()
	banned := s.tentative != nil && s.tentative.Need.Banned()
	r.index.All(n.Name, n.Folder != nil, func(h *layout.Entry) {
		if h.Need.Banned() || h.MadeBy != "" || h.Parent == r.at(s.folder).place.Entry && r.at(s.folder).place.State == Placed && !h.Deep {
			return
		}
		cost, ok := r.evidence(s, h)
		if !ok || banned && cost == costEnding {
			return
		}
		targets := r.walk(s, h, n.Name)
		for _, t := range targets {
			t.named = len(targets) > 1 && n.Folder == nil && r.mentions(s, t.env)
			if n.Folder == nil || r.suits(n.Folder, h, t.env) {
				all = r.offer(all, s, t, cost)
			}
		}
	})
	return all
}

// evidence weighs how much speaks for the entry but the place.
func (r *reconciler) evidence(s *stray, h *layout.Entry) (cost float64, ok bool) {
	n := s.node()
	switch {
	case r.namesUnit(n.Name, h):
		return costUnit, true
	case h.Shows != nil && n.Folder == nil:
		if text, err := r.in.Repository.Text(s.path()); err == nil && h.Shows.Match(text) {
			return costText, true
		}
		// The very name says enough; a pattern whose text does not fit says nothing.
		return costExact, h.Spellings[0].Exact != ""
	case h.Spellings[0].Exact != "":
		return costExact, true
	case h.CatchAll():
		return costPattern, n.Folder != nil
	case h.OnlyEnding():
		return costEnding, true
	}
	return costPattern, true
}

// namesUnit says whether the entry captures the name of a unit that there is.
func (r *reconciler) namesUnit(name string, h *layout.Entry) bool {
	bound, _, ok := h.Match(name, nil)
	if !ok {
		return false
	}
	for _, captured := range h.Spellings[0].Captures() {
		value, _ := bound.Get(captured)
		for _, u := range r.units[captured] {
			if known, _ := u.env.Get(captured); names.Same(known, value) {
				return true
			}
		}
	}
	return false
}

// mentions says whether the text of a stray names a unit that the place lies in
// and the stray does not: in "from ferry.berths import", the unit is berths.
func (r *reconciler) mentions(s *stray, env *layout.Env) bool {
	around := r.around(s)
	for ; env != nil; env = env.Next {
		if _, here := around.Get(env.Name); here || len(r.units[env.Name]) == 0 {
			continue
		}
		if s.words == nil {
			text, _ := r.in.Repository.Text(s.path())
			s.words = wordsOf(text)
		}
		if s.words[env.Value] {
			return true
		}
	}
	return false
}

// wordsOf gives the words of a text: runs of letters, digits, "_" and "-".
func wordsOf(text []byte) map[string]bool {
	words := map[string]bool{}
	for _, word := range strings.FieldsFunc(string(text), func(c rune) bool {
		return c != '_' && c != '-' && !unicode.IsLetter(c) && !unicode.IsDigit(c)
	}) {
		words[word] = true
	}
	return words
}

// suits says whether a folder's contents let it be the entry.
func (r *reconciler) suits(f *tree.Folder, h *layout.Entry, env *layout.Env) bool {
	t := r.fitOf(f, h, env)
	if h.CatchAll() {
		return t.certain()
	}
	return t.open || t.nodes == 0 || t.fits > 0
}

// offer adds a move to the options.
func (r *reconciler) offer(all []option, s *stray, t target, cost float64) []option {
	o := option{kind: finding.Misplaced, entry: t.entry, home: t.path + t.name, gaps: t.gaps}
	o.cost = cost + costPerStep*float64(steps(s.folder.Path(), t.path))
	if t.named {
		o.cost -= gainMention
	}
	if n := s.node(); n.Folder != nil {
		o.home += "/"
		o.cost -= gainContents * r.fitOf(n.Folder, t.entry, t.env).share()
	}
	if i, wanted := r.gapFor[gapKey{t.folder, t.entry}]; wanted && t.folder != nil {
		o = o.filling(i)
	}
	// A place that waits for this very name draws it out of any unit.
	_, awaited := r.gapAt[o.home]
	if t.leaves && !awaited && !r.namesUnit(t.name, t.entry) {
		o.cost += costLeave
	}
	if o.weak = cost == costEnding; o.weak {
		o.cost += costMake * float64(t.makes)
		if steps(s.folder.Path(), t.path) == 1 {
			o.cost -= gainBeside
		}
	}
	if o = r.waiting(o); o.cost >= costGiveUp {
		return all
	}
	return append(all, o)
}

// waiting lowers the cost of an option where its place is wanted.
func (r *reconciler) waiting(o option) option {
	if i, wanted := r.gapAt[o.home]; wanted {
		o = o.filling(i)
	}
	switch {
	case o.wanted:
		o.cost -= gainWanted
	case len(o.gaps) > 0:
		o.cost -= gainOnTheWay
	}
	return o
}

// filling notes that the option fills a gap with the stray itself.
func (o option) filling(gap int) option {
	o.wanted = true
	if !slices.Contains(o.gaps, gap) {
		o.gaps = append(o.gaps[:len(o.gaps):len(o.gaps)], gap)
	}
	return o
}

// pathIn gives the path of a name in a folder, with a folder's slash.
func pathIn(f *tree.Folder, name string, isFolder bool) string {
	if isFolder {
		name += "/"
	}
	return f.Path() + name
}

// lastName gives the last name of a path, with a folder's slash.
func lastName(path string) string {
	return path[strings.LastIndexByte(strings.TrimSuffix(path, "/"), '/')+1:]
}

// parentPath gives the folder that a path lies in.
func parentPath(path string) string {
	return orTop(strings.TrimSuffix(path, lastName(path)))
}
