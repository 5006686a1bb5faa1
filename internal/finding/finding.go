// Package finding holds what a check says: findings, their kinds and levels.
package finding

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"dicaxon/internal/edit"
)

// A Kind says what is wrong. Each is a plain word that never changes meaning.
type Kind string

// The kinds: first those of the tree, then those of what files say.
const (
	Missing   Kind = "missing"   // the layout wants it and it is not there
	Extra     Kind = "extra"     // the layout has no place for it
	Misplaced Kind = "misplaced" // it belongs elsewhere
	Misnamed  Kind = "misnamed"  // it is in the right place under a wrong name
	Unpaired  Kind = "unpaired"  // its counterpart, such as a test, is absent
	Crowded   Kind = "crowded"   // there is more in one place than the layout allows
	Empty     Kind = "empty"     // a folder that version control would lose

	Misdeclared Kind = "misdeclared" // the package or namespace line does not fit the path
	Disagrees   Kind = "disagrees"   // two files, or a file and the tree, tell different stories
	Unwired     Kind = "unwired"     // a unit that nothing mounts or imports
	Dangling    Kind = "dangling"    // a reference to something of the project's own that is not there
	Exposed     Kind = "exposed"     // private or generated, yet committed or public
	Tangled     Kind = "tangled"     // an import across a wall
	Leftover    Kind = "leftover"    // starter text, default names, example folders
	Substandard Kind = "substandard" // text that a house rule asks for is absent, or one that it bans is there
)

// A Level says how grave a finding is: the levels of SARIF 2.1.0.
type Level int

// The levels, the gravest first.
const (
	Error Level = iota
	Warning
	Note
)

var levelWords = []string{"error", "warning", "note"}

func (l Level) String() string { return levelWords[l] }

// MarshalText writes the level as its word.
func (l Level) MarshalText() ([]byte, error) { return []byte(l.String()), nil }

// ParseLevel reads a level's word.
func ParseLevel(word string) (Level, error) {
	if i := slices.Index(levelWords, word); i >= 0 {
		return Level(i), nil
	}
	return 0, fmt.Errorf("%q is no level; the levels are %s", word, strings.Join(levelWords, ", "))
}

// A Finding is one thing that a check says. Paths are relative to the root of
// the check, with "/", and a folder's ends in "/".
type Finding struct {
	Kind    Kind     `json:"kind"`
	Level   Level    `json:"level"`
	Path    string   `json:"path"`
	Line    int      `json:"line"`            // 0 where it is about the whole
	Home    string   `json:"home"`            // where it belongs, "" where that is not clear
	Homes   []string `json:"homes,omitempty"` // several places that fit equally, best first
	Entry   string   `json:"entry"`           // the layout's entry that it is about
	Message string   `json:"message"`         // what is wrong, in one sentence
	Why     string   `json:"why"`             // what the layout says of the place
	Column  int      `json:"column,omitempty"`
	Other   *Place   `json:"other,omitempty"` // the other side of a disagreement
	More    int      `json:"more,omitempty"`  // how many more are like it, for the same cause
	Also    []string `json:"also,omitempty"`  // their paths
	Rule    string   `json:"rule,omitempty"`  // of the layout, where one says so
	Of      string   `json:"-"`               // which rule that is: of one, layouts make several under names of their own
	// Works says that it is against the layout alone: what is there works all the same.
	Works bool `json:"-"`
	// About tells findings of one kind about one place apart, such as a key; the
	// message is for people and may be worded anew.
	About string `json:"-"`
	// Sought lists every path at which something is looked for that is not there.
	Sought []string `json:"-"`
	// Meant is the path that a broken reference was most likely to lead to, "" where several are.
	Meant string `json:"-"`
	// Declared is the path at which what a file declares is looked for, and where nothing is;
	// ByRole says that something else stands there than where the file is now.
	Declared string `json:"-"`
	ByRole   bool   `json:"-"`
	// Back is where the file that was meant would be found as it is named, where nobody names it
	// as it lies; "" otherwise.
	Back string `json:"-"`
	// OfMove says that it ends where the file goes back to where others look for it.
	OfMove bool `json:"-"`
	// Likely says that no more than likelihood speaks for the home.
	Likely bool `json:"-"`
	// IfIdle says that the home is certain where nothing names the file as it lies.
	IfIdle bool `json:"-"`
	// Fix holds the edits that put it right, where they are certain.
	Fix []edit.Edit `json:"-"`
	// Respelt gives the edits by which a file says where it lies, for one that was moved there;
	// nil where there are none. It reads many files, so only who moves something asks.
	Respelt func() []edit.Edit `json:"-"`
	// Unseen lists the paths of the project that an ignore file is to name, where there is none.
	Unseen []string `json:"-"`
	// Holds lists what lies in a folder that the finding is about, once asked for.
	Holds []string `json:"-"`
}

// Places lists where it belongs, or where it might, the best first.
func (f *Finding) Places() []string {
	if f.Home != "" {
		return []string{f.Home}
	}
	return f.Homes
}

// A Place is a line of a file; Line is 0 for the whole.
type Place struct {
	Path string `json:"path"`
	Line int    `json:"line"`
}

// Sort puts findings in the order of their paths.
func Sort(all []Finding) {
	slices.SortStableFunc(all, func(a, b Finding) int {
		return cmp.Or(strings.Compare(a.Path, b.Path), a.Line-b.Line, a.Column-b.Column, strings.Compare(string(a.Kind), string(b.Kind)), strings.Compare(a.Entry, b.Entry))
	})
}

// Is says whether the finding's kind or its rule is among the words.
func (f *Finding) Is(words []string) bool {
	return slices.ContainsFunc(words, func(word string) bool {
		return word == string(f.Kind) || word != "" && (word == f.Rule || word == f.Of)
	})
}

// Totals counts findings by level.
type Totals struct {
	Error   int `json:"error"`
	Warning int `json:"warning"`
	Note    int `json:"note"`
}

// Add counts one finding.
func (t *Totals) Add(l Level) {
	switch l {
	case Error:
		t.Error++
	case Warning:
		t.Warning++
	case Note:
		t.Note++
	}
}

// AtLeast says whether there is a finding at the level or above.
func (t Totals) AtLeast(l Level) bool {
	return t.Error > 0 || l >= Warning && t.Warning > 0 || l >= Note && t.Note > 0
}

// mostAlike is how many findings that say the same are told one by one.
const mostAlike = 3

// AlsoAt adds where the same is found again: each place once, and not the one that is told.
func (f *Finding) AlsoAt(places ...string) {
	for _, at := range places {
		if at != f.Path && !slices.Contains(f.Also, at) {
			f.Also = append(f.Also, at)
		}
	}
	f.More = len(f.Also)
}

// Fold puts findings that say the same of several things in one folder into one:
// the first of them, with the paths of the others. What has a home of its own is
// told by itself.
func Fold(all []Finding) []Finding {
	first, alike := map[string]int{}, map[string][]int{}
	for i := range all {
		if f := &all[i]; f.Line == 0 && f.Rule == "" && (f.Kind == Extra || f.Kind == Unpaired || f.Kind == Empty) {
			key := f.sameness()
			if _, known := first[key]; !known {
				first[key] = i
			}
			alike[key] = append(alike[key], i)
		}
	}
	drop := sameAbsence(all)
	for key, i := range first {
		if len(alike[key]) <= mostAlike {
			continue
		}
		for _, k := range alike[key][1:] {
			all[i].Also = append(all[i].Also, all[k].Path)
			drop[k] = true
		}
		all[i].More = len(alike[key]) - 1
	}
	var left []Finding
	for i := range all {
		if !drop[i] {
			left = append(left, all[i])
		}
	}
	return left
}

// sameAbsence puts references to one thing that is not there into the gravest of
// them, and returns the others.
func sameAbsence(all []Finding) map[int]bool {
	drop, first := map[int]bool{}, map[string]int{}
	for i := range all {
		f := &all[i]
		if f.Kind != Dangling || f.About == "" {
			continue
		}
		k, known := first[f.About]
		switch {
		case !known:
			first[f.About] = i
			continue
		case f.Level < all[k].Level:
			first[f.About], k, i = i, i, k
			f = &all[i]
		}
		drop[i] = true
		into := &all[k]
		into.AlsoAt(append([]string{f.Path}, f.Also...)...)
		into.Fix = append(into.Fix, f.Fix...)
	}
	return drop
}

// sameness is what findings that are folded into one have in common: what is
// said, of what kind of thing, and of which folder.
func (f *Finding) sameness() string {
	home := f.Home
	if home != "" {
		home = folderOf(home)
	}
	said := ""
	if f.Kind == Extra {
		said = f.Message
	}
	return strings.Join([]string{string(f.Kind), f.Level.String(), folderOf(f.Path), home, f.Entry, strings.Join(f.Homes, " "), said}, "\x00")
}

// folderOf gives the folder that a path lies in.
func folderOf(path string) string {
	return path[:strings.LastIndexByte(strings.TrimSuffix(path, "/"), '/')+1]
}
