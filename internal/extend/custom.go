package extend

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/changes"
	"dicaxon/internal/edit"
	"dicaxon/internal/layout"
	"dicaxon/internal/placement"
	"dicaxon/internal/realign"
	"dicaxon/internal/refs"
	"dicaxon/internal/scaffold"
)

// customary says whether the units that are there have what an item is, so that this one
// has it, too: what must be always; of the rest, what at least half of them have.
func (a *adder) customary(item scaffold.Item, unit *layout.Entry) bool {
	if !unit.Folder || item.Entry.Need == layout.Must {
		return true
	}
	have, of := 0, 0
	for _, u := range a.Units[a.o.Unit] {
		if u.Entry != unit || u.Folder == nil || u.Folder.Empty() {
			continue
		}
		of++
		if a.holds(u, item.Entry) {
			have++
		}
	}
	return of == 0 || have*2 >= of
}

// holds says whether a unit has something of an entry.
func (a *adder) holds(u placement.Unit, e *layout.Entry) bool {
	var chain []*layout.Entry
	for up := e; up != nil && up != u.Entry; up = up.Parent {
		chain = append([]*layout.Entry{up}, chain...)
	}
	in := u.Folder
	for i, c := range chain {
		if in == nil {
			return false
		}
		found := -1
		for k := range in.Nodes {
			if place := a.Place(in, k); place.State == placement.Placed && place.Entry == c {
				found = k
			}
		}
		if found < 0 {
			return false
		}
		if i == len(chain)-1 {
			return true
		}
		in = in.Nodes[found].Folder
	}
	return true
}

// spelled gives the path of an item in the spelling that most units use for it.
func (a *adder) spelled(at string, e, unit *layout.Entry, s placement.Spot) string {
	if !unit.Folder || len(e.Spellings) < 2 && len(unit.Spellings) < 2 {
		return at
	}
	used := map[int]int{}
	best := 0
	for _, u := range a.Units[a.o.Unit] {
		if u.Folder == nil || u.Entry != unit {
			continue
		}
		in := u.Folder
		for i := range in.Nodes {
			if place := a.Place(in, i); place.State == placement.Placed && place.Entry == e {
				for k := range e.Spellings {
					if _, ok := e.Spellings[k].Match(in.Nodes[i].Name, u.Env); ok {
						used[k]++
						break
					}
				}
			}
		}
	}
	for k := range e.Spellings {
		if used[k] > used[best] {
			best = k
		}
	}
	name, whole := e.Spellings[best].Fill(s.Env.Bind(a.o.Unit, a.value))
	if best == 0 || !whole {
		return at
	}
	if e.Folder {
		return path.Dir(strings.TrimSuffix(at, "/")) + "/" + name + "/"
	}
	return path.Join(path.Dir(at), name)
}

// counterparts plans what stands elsewhere once for each unit, such as its test.
func (a *adder) counterparts(entries []*layout.Entry) error {
	for _, e := range a.project.Layout.Entries {
		if e.Parent == nil || e.Need.Banned() || e.Unit == a.o.Unit || e.MadeBy != "" || !captures(e, a.o.Unit) || slices.ContainsFunc(entries, func(u *layout.Entry) bool { return below(e, u) }) || capturedAbove(e, a.o.Unit) {
			continue
		}
		for _, s := range a.Spots(e) {
			if s.Open || !a.within(s.Env) && len(a.around) > 0 {
				continue
			}
			if a.siblings(e, s) == 0 && (e.Need != layout.Must || s.Folder == nil) && len(a.Units[a.o.Unit]) > 0 {
				continue
			}
			if s.Folder == nil && !e.Need.Wanted() {
				continue
			}
			if err := a.make(e, s); err != nil {
				return err
			}
			break
		}
	}
	return nil
}

func captures(e *layout.Entry, unit string) bool {
	return slices.Contains(e.Spellings[0].Captures(), unit)
}

func capturedAbove(e *layout.Entry, unit string) bool {
	for up := e.Parent; up != nil && up.Parent != nil; up = up.Parent {
		if captures(up, unit) {
			return true
		}
	}
	return false
}

func below(e, above *layout.Entry) bool {
	for ; e != nil; e = e.Parent {
		if e == above {
			return true
		}
	}
	return false
}

// asSpelt lets the new files name each other as they are spelt here, where that is otherwise
// than in the starters.
func (a *adder) asSpelt() {
	if len(a.spelt) == 0 {
		return
	}
	p := &changes.Plan{Moves: a.spelt}
	back := p.Back()
	made := realign.Texts{}
	for _, m := range a.group.Makes {
		made[back.After(m.Path)] = []byte(m.Text)
	}
	edits, _ := realign.Follow(refs.NewGraph(made), made, nil, p)
	byFile := edit.ByFile(edits)
	for i := range a.group.Makes {
		m := &a.group.Makes[i]
		if text, err := edit.Apply([]byte(m.Text), byFile[back.After(m.Path)]); err == nil {
			m.Text = string(text)
		}
	}
}
