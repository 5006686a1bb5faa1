package reconcile

import (
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/names"
	"dicaxon/internal/placement"
	"dicaxon/internal/tree"
)

// homes lists the places where a stray may belong, each with what speaks for it.
// Nothing but an ending speaks for none.
func (r *reconciler) homes(s *stray) []home {
	if s.To != nil {
		// What waits for it by its text says more than what is said of its name further up.
		if waits := slices.DeleteFunc(r.shown(nil, s), func(h home) bool { return !h.wanted }); len(waits) > 0 && r.Place(s.Folder, s.Index).State == placement.Unplaced {
			return waits
		}
		if all := r.told(s); len(all) > 0 {
			// What the file says of itself holds more than what is said of its name.
			said := slices.DeleteFunc(r.elsewhere(nil, s), func(h home) bool { return h.evidence < Declared })
			return append(all, said...)
		}
	}
	if s.role != nil {
		return []home{*s.role}
	}
	if s.loose {
		return r.slips(nil, s)
	}
	var all []home
	if !s.drawn {
		all = r.slips(all, s)
		all = r.shown(all, s)
		all = r.lookedFor(all, s)
		all = r.begun(all, s)
	}
	switch part := r.partOf(s); {
	case part == nil || r.foreign(s):
		all = r.elsewhere(all, s)
	case r.described(part):
		found := r.elsewhere(nil, s)
		all = append(all, slices.DeleteFunc(found, func(h home) bool { return !strings.HasPrefix(h.path, part.Path()) })...)
	}
	all = r.regrouped(all, s)
	return slices.DeleteFunc(all, func(h home) bool { return h.evidence <= EndingOnly })
}

// foreign says whether a file is none of the part that it lies in: a part has a readme of
// its own, but nothing that a single other place waits for.
func (r *reconciler) foreign(s *stray) bool {
	n := s.Node()
	if s.drawn && r.Place(s.Folder, s.Index).State == placement.Placed {
		return true
	}
	return n.Folder == nil && r.lacking(n.Name) == 1 && r.CommonName(n.Name, s.Folder, false) == nil && r.alone(n.Name)
}

// around gives the names captured around a stray.
func (r *reconciler) around(s *stray) *layout.Env {
	_, env := r.Folder(r.placedAround(s))
	return env
}

// placedAround gives the nearest folder around a stray that has a place.
func (r *reconciler) placedAround(s *stray) *tree.Folder {
	for f := s.Folder; ; f = f.Parent {
		if place, _ := r.Folder(f); place.State == placement.Placed || f == r.Top {
			return f
		}
	}
}

// slips finds what the name is a slip for in its own folder: whichever accepted
// spelling is nearest.
func (r *reconciler) slips(all []home, s *stray) []home {
	here, env := r.Folder(s.Folder)
	n := s.Node()
	if here.State != placement.Placed {
		return all
	}
	for _, c := range here.Entry.Entries {
		if c.Folder != (n.Folder != nil) || c.Deep || c.Need.Banned() || c.MadeBy != "" || placement.Stands(s.Folder, c, env) && !standsEmpty(s.Folder, c, env) {
			continue
		}
		name, slip := nearest(n.Name, c, env)
		if slip == names.Apart && n.Folder != nil && c.Need.Wanted() {
			name, slip = r.shortSlip(n, c, env)
		}
		if slip == names.Apart && n.Folder == nil {
			name, slip = otherEnding(n.Name, c, env)
		}
		if called, settled := c.Name(env); settled && slip == names.Apart && c.Former(n.Name) {
			all = append(all, r.waiting(home{kind: finding.Misnamed, entry: c, env: env, slip: slip, evidence: Near, says: "here it is not called " + n.Name, path: pathIn(s.Folder, called, c.Folder)}))
			continue
		}
		if slip == names.Apart {
			continue
		}
		if n.Folder != nil && slip == names.Typing && c.Need == layout.May && anotherWord(n.Name, name) {
			continue // such as models/ where modules/ may stand
		}
		if n.Folder != nil && slip >= names.Number {
			if t := r.FitOf(n.Folder, c, env); !t.Open && t.Nodes > 0 && t.Fits == 0 {
				continue
			}
		}
		all = append(all, r.waiting(home{kind: finding.Misnamed, entry: c, env: env, slip: slip, evidence: Near, path: pathIn(s.Folder, name, c.Folder)}))
	}
	return r.counterparts(all, s)
}

// shortestWord is how many letters a folder's name has at least that is a word of its own with one other
// letter than another: router and routes, content and context.
const shortestWord = 6

// anotherWord says whether a folder's name differs from another as words do, and not as what is mistyped:
// it has other letters, and no more or fewer of them by one.
func anotherWord(got, want string) bool {
	return !names.Mistyped(got, want) && (names.Distance(got, want) > 1 || len(got) == len(want) && len(got) >= shortestWord)
}

// standsEmpty says whether what stands for an entry is a folder without a file: the one that was
// moved away leaves it on the disk.
func standsEmpty(f *tree.Folder, c *layout.Entry, env *layout.Env) bool {
	return c.Folder && !slices.ContainsFunc(c.Spellings, func(p layout.Pattern) bool {
		name, complete := p.Fill(env)
		n := f.Find(name)
		return !complete || n != nil && (n.Folder == nil || !n.Folder.Empty())
	})
}

// shortSlip finds a slip of one letter in a name so short that only the contents
// tell that it is none of its own.
func (r *reconciler) shortSlip(n *tree.Node, c *layout.Entry, env *layout.Env) (string, names.Slip) {
	t := r.FitOf(n.Folder, c, env)
	if t.Open || t.Found == 0 && t.Strong == 0 {
		return "", names.Apart
	}
	for i := range c.Spellings {
		want, complete := c.Spellings[i].Fill(env)
		if complete && len(want) > 2 && n.Name[0] == want[0] && names.Distance(n.Name, want) == 1 {
			return want, names.Typing
		}
	}
	return "", names.Apart
}

// nearest gives the spelling of an entry that a name is most likely a slip for.
func nearest(got string, c *layout.Entry, env *layout.Env) (name string, slip names.Slip) {
	slip = names.Apart
	for i := range c.Spellings {
		if want, complete := c.Spellings[i].Fill(env); complete {
			if s := names.Near(got, want); s < slip {
				name, slip = want, s
			}
		}
	}
	return name, slip
}

// counterparts finds slips for what stands once for each unit, such as
// test_berth.py where the area is called berths.
func (r *reconciler) counterparts(all []home, s *stray) []home {
	n := s.Node()
	_, env := r.Folder(s.Folder)
	for _, i := range r.gapsIn[s.Folder] {
		g := &r.Gaps[i]
		if _, settled := g.Entry.Name(env); settled || g.Entry.Folder != (n.Folder != nil) {
			continue
		}
		name, complete := g.Name()
		if slip := names.Near(n.Name, name); complete && slip < names.Apart {
			all = append(all, r.waiting(home{kind: finding.Misnamed, entry: g.Entry, env: g.Env, slip: slip, evidence: Near, path: pathIn(s.Folder, name, g.Entry.Folder)}))
		}
	}
	return all
}

// otherEnding says whether name fits the entry's pattern but for an ending
// that means the same, such as .htm for .html.
func otherEnding(name string, c *layout.Entry, env *layout.Env) (string, names.Slip) {
	for _, other := range names.OtherEndings(name) {
		if _, _, ok := c.Match(other, env); ok && !c.CatchAll() && !c.OnlyEnding() {
			return other, names.Ending
		}
	}
	return "", names.Apart
}

// elsewhere finds the entries of other folders that the name fits.
func (r *reconciler) elsewhere(all []home, s *stray) []home {
	n := s.Node()
	banned := s.Tentative != nil && s.Tentative.Need.Banned()
	here, _ := r.Folder(s.Folder)
	r.index.All(n.Name, n.Folder != nil, func(e *layout.Entry) {
		if e.Need.Banned() || e.MadeBy != "" || here.State == placement.Placed && e.Parent == here.Entry && !e.Deep && !r.ofOther(s.Folder, n.Name, e) {
			return
		}
		if s.drawn && !s.other && r.Place(s.Folder, s.Index).Entry == e {
			return // it has that place already, if in another unit
		}
		evidence := r.evidence(s, e)
		if evidence == None || banned && evidence == EndingOnly || s.drawn && evidence == EndingOnly {
			return
		}
		if evidence == EndingOnly && !r.speaks(s) {
			return
		}
		targets := r.reach(s, e, n.Name, evidence)
		for _, t := range targets {
			t.named = len(targets) > 1 && n.Folder == nil && r.mentions(s, t.env) || evidence == Kind && ofOwnUnit(e)
			h := r.at(s, t, evidence)
			if h.evidence == Kind {
				h.says = "its name says so"
			}
			if r.plausible(s, &h, t) {
				all = append(all, h)
			}
		}
	})
	return all
}

// evidence weighs how much speaks for the entry, whichever folder it is in.
func (r *reconciler) evidence(s *stray, e *layout.Entry) Evidence {
	n := s.Node()
	switch exact := e.Spellings[0].Exact != ""; {
	case n.Folder != nil && exact:
		return Exact
	case n.Folder != nil && e.CatchAll():
		return Contents
	case n.Folder != nil:
		return OfUnit
	case exact, r.awaited[wantedName{e, n.Name}]:
		return Exact
	case r.namesUnit(n.Name, e):
		return OfUnit
	case e.Shows != nil:
		// A pattern whose text does not fit says nothing.
		if r.shows(s, e) {
			return Shown
		}
		return None
	case r.Named && kindSaid(n.Name, e) && !isTest(n.Name):
		return Kind
	case e.CatchAll() || e.OnlyEnding():
		return EndingOnly
	}
	return Contents
}

// shows says whether the text of a stray shows it to be of the entry's kind.
func (r *reconciler) shows(s *stray, e *layout.Entry) bool {
	text, err := r.Repository.Text(s.Path())
	return err == nil && e.ShownIn(text)
}

// at makes the home that a target is, with all that speaks for it.
func (r *reconciler) at(s *stray, t target, evidence Evidence) home {
	h := home{kind: finding.Misplaced, entry: t.entry, env: t.env, path: t.path + r.between(s, t) + t.name, gaps: t.gaps, evidence: evidence,
		slip: names.Apart, named: t.named, makes: t.makes, steps: steps(s.Folder.Path(), t.path)}
	if s.Node().Folder != nil {
		h.path += "/"
		r.folderSays(s, &h)
	} else {
		r.saidOf(s, &h)
	}
	if i, open := r.gapFor[gapKey{t.folder, t.entry}]; open && t.folder != nil {
		if _, complete := r.Gaps[i].Name(); !complete {
			h = r.filling(h, i)
		}
	}
	h = r.waiting(h)
	// A place that waits for this very name draws it out of any unit.
	h.leaves = t.leaves && !h.wanted && h.evidence != OfUnit
	return h
}

// between gives the folders that a stray keeps around it: those that the layout says nothing
// of and that its package spells, where the folder it goes to may hold any.
func (r *reconciler) between(s *stray, t target) string {
	n := s.Node()
	if n.Folder != nil || t.entry.Parent == nil || !slices.ContainsFunc(t.entry.Parent.Entries, func(e *layout.Entry) bool {
		_, _, fits := e.Match(n.Name, t.env)
		return e.Deep && fits
	}) {
		return ""
	}
	f := r.placedAround(s)
	if !strings.HasPrefix(t.path, f.Path()) {
		return ""
	}
	below := strings.TrimPrefix(s.Folder.Path(), f.Path())
	if tail(r.textOf(s).says, below) != strings.Count(below, "/") {
		return ""
	}
	return below
}

// waiting notes the gap that a home would fill.
func (r *reconciler) waiting(h home) home {
	if i, wanted := r.gapAt[h.path]; wanted && !r.taken[i] {
		return r.filling(h, i)
	}
	return h
}

// filling notes that the home fills a gap with the stray itself.
func (r *reconciler) filling(h home, gap int) home {
	if r.taken[gap] {
		return h
	}
	h.wanted = true
	h.gaps = append([]int{gap}, slices.DeleteFunc(slices.Clone(h.gaps), func(g int) bool { return g == gap })...)
	return h
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

// parentPath gives the folder that a path lies in, "" for the top.
func parentPath(path string) string { return strings.TrimSuffix(path, lastName(path)) }
