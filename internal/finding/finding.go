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
	Rule    string   `json:"rule,omitempty"`  // of the layout, where one says so
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
	return slices.Contains(words, string(f.Kind)) || f.Rule != "" && slices.Contains(words, f.Rule)
}

// Join puts the findings of rules to those of the tree. What a rule says of
// something that the tree's findings explain already is left out: one cause
// gives one finding.
func Join(tree, rules []Finding) []Finding {
	absent, astray := map[string]bool{}, map[string]bool{}
	for _, f := range tree {
		switch f.Kind {
		case Missing, Unpaired:
			absent[f.Path] = true
		case Misplaced, Misnamed:
			astray[f.Path] = true
			absent[f.Home] = f.Home != ""
		case Extra:
			astray[f.Path] = true
		}
	}
	// Where a rule knows what an unknown file is, that says more.
	known := map[string]bool{}
	for _, f := range rules {
		known[f.Path] = known[f.Path] || f.Home != ""
	}
	all := slices.DeleteFunc(tree, func(f Finding) bool { return f.Kind == Extra && known[f.Path] })
	for _, f := range rules {
		if f.Home != "" || !explains(absent, astray, f) {
			all = append(all, f)
		}
	}
	Sort(all)
	return all
}

// explains says whether what is absent or astray explains what a rule says:
// once that is put right, it may say it no more.
func explains(absent, astray map[string]bool, f Finding) bool {
	switch f.Kind {
	case Tangled:
		return within(astray, f.Path)
	case Disagrees, Misdeclared, Unpaired, Unwired:
		return within(astray, f.Path) || f.Other != nil && (within(absent, f.Other.Path) || within(astray, f.Other.Path))
	case Exposed:
		return f.Rule == "ignored" && astray[f.Path]
	}
	return false
}

// within says whether the path, or a folder around it, is among those given.
func within(paths map[string]bool, path string) bool {
	if paths[path] || paths[path+"/"] {
		return true
	}
	for i := len(path) - 1; i > 0; i-- {
		if path[i] == '/' && paths[path[:i+1]] {
			return true
		}
	}
	return false
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
