package place

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"dicaxon/internal/layout"
	"dicaxon/internal/lazy"
	"dicaxon/internal/names"
	"dicaxon/internal/workspace"
)

// idle are words that say nothing of a place.
var idle = map[string]bool{}

// lacks finds what a role says that something is not.
var lacks = lazy.New(`(?i)\b(?:no|not|never|without)\b[^.,;:]*`)

func init() {
	for _, w := range strings.Fields("a an the that this of for to in on with and or is are be by it its from as at one what where does my our new which who each file files folder code here put go goes belong belongs add") {
		idle[w] = true
	}
}

// Words says where something goes that is described in words, in the project that a folder
// lies in: by the roles of the layout's entries, and by the units that the words name.
func Words(w *workspace.Workspace, in, text string) Answer {
	a := Answer{Asked: text}
	pl := placer{project: w.ProjectOf(in), asked: text}
	asked, shown := stems(text), map[string]string{}
	for _, word := range names.Words(text) {
		shown[stem(names.Singular(word))] = word
	}
	if len(asked) == 0 {
		return a
	}
	p := pl.project.Placement
	rare := map[string]float64{}
	var entries []*layout.Entry
	described := map[*layout.Entry]map[string]bool{}
	for _, e := range p.Layout.Entries {
		if e.Parent == nil || e.Need.Banned() || e.MadeBy != "" || e.Role == "" {
			continue
		}
		entries = append(entries, e)
		described[e] = map[string]bool{}
		for _, stem := range stems(lacks.Get().ReplaceAllString(e.Role, "") + " " + strings.NewReplacer("<", " ", ">", " ", "*", " ", "/", " ", ".", " ").Replace(e.Path())) {
			described[e][stem] = true
		}
		for stem := range described[e] {
			rare[stem]++
		}
	}
	var all []candidate
	for _, e := range entries {
		score, hits := 0.0, []string{}
		for _, one := range asked {
			if described[e][one] {
				score += math.Log(1 + float64(len(entries))/rare[one])
				hits = append(hits, shown[one])
			}
		}
		if score == 0 {
			continue
		}
		// What says little of itself is told by little.
		score /= math.Sqrt(float64(len(described[e])))
		for _, s := range p.Spots(e) {
			c := candidate{open: s.Open, score: int(score * 1000), Place: Place{Path: p.Top.Path() + s.Path, Entry: e.Path(), Layout: e.Layout, Role: e.Role,
				Why: "its role speaks of " + strings.Join(hits, " and "), Exists: s.Folder != nil}}
			if name, whole := e.Name(s.Env); whole {
				c.Path = p.Top.Path() + s.Path + name
				if e.Folder {
					c.Path += "/"
				}
			}
			if c.Path == "" {
				c.Path = "./"
			}
			if s.Folder == nil {
				c.score = c.score * 2 / 3 // what is there already is rather meant
			}
			for up := e; up != nil; up = up.Parent {
				if up.Unit != "" {
					c.unit = up.Unit
				}
			}
			for name := range strings.SplitSeq(strings.Trim(s.Path, "/"), "/") {
				if pl.isUnit(name) && slices.Contains(asked, stem(names.Singular(strings.ToLower(name)))) && !c.tied {
					c.score += 2000
					c.tied, c.Why = true, c.Why+fmt.Sprintf(", and you name %s", name)
				}
			}
			known := len(hits)
			if c.tied {
				known++
			}
			if len(asked) > 2 && known*2 < len(asked) {
				continue // most of what was said says nothing of it
			}
			all = append(all, c)
		}
	}
	slices.SortStableFunc(all, func(x, y candidate) int { return cmp.Or(y.score-x.score, strings.Compare(x.Path, y.Path)) })
	pl.few(&a, all)
	return a
}

// few takes the best candidates: where the best is one of a unit and the words name none of
// those that there are, which unit is the asker's to say.
func (pl *placer) few(a *Answer, all []candidate) {
	if len(all) == 0 {
		return
	}
	best := all[0]
	if best.unit != "" && !best.tied {
		e := pl.project.Layout.Find(best.Entry)
		_, env := pl.project.Placement.Folder(pl.project.Placement.Top)
		best.Path = pl.project.Placement.Top.Path() + pl.project.Placement.Called(e, env)
		a.Unit, a.Units = best.unit, pl.project.Placement.UnitNames()[best.unit]
		a.Places = []Place{best.Place}
		for _, c := range all {
			if c.unit == "" && c.score*10 > best.score*7 && len(a.Places) < mostPlaces {
				a.Places = append(a.Places, c.Place)
			}
		}
		return
	}
	for _, c := range all {
		if c.score*10 < best.score*8 || len(a.Places) == mostPlaces {
			return
		}
		if !slices.ContainsFunc(a.Places, func(p Place) bool { return p.Path == c.Path }) {
			a.Places = append(a.Places, c.Place)
		}
	}
}

// stem gives a word without the endings of its forms: "shared", "sharing" and "share" are
// one.
func stem(word string) string {
	for _, ending := range []string{"ing", "ed"} {
		if cut, ok := strings.CutSuffix(word, ending); ok && len(cut) > 3 {
			word = cut
		}
	}
	return strings.TrimSuffix(word, "e")
}

// stems gives the words of a text that say something, in the singular, each once.
func stems(text string) []string {
	var all []string
	for _, word := range names.Words(text) {
		if word = names.Singular(word); len(word) < 3 || idle[word] {
			continue
		}
		if word = stem(word); !slices.Contains(all, word) {
			all = append(all, word)
		}
	}
	return all
}
