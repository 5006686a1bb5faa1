// Package finding holds what a check says: findings, their kinds and levels.
package finding

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
)

// A Kind says what is wrong. Each is a plain word that never changes meaning.
type Kind string

// The kinds that check finds today.
const (
	Missing   Kind = "missing"   // the layout wants it and it is not there
	Extra     Kind = "extra"     // the layout has no place for it
	Misplaced Kind = "misplaced" // it belongs elsewhere
	Misnamed  Kind = "misnamed"  // it is in the right place under a wrong name
	Unpaired  Kind = "unpaired"  // its counterpart, such as a test, is absent
	Crowded   Kind = "crowded"   // there are more of them than the layout allows
	Empty     Kind = "empty"     // a folder that version control would lose
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
}

// Sort puts findings in the order of their paths.
func Sort(all []Finding) {
	slices.SortStableFunc(all, func(a, b Finding) int {
		return cmp.Or(strings.Compare(a.Path, b.Path), strings.Compare(string(a.Kind), string(b.Kind)), strings.Compare(a.Entry, b.Entry))
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
