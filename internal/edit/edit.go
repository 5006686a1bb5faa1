// Package edit changes texts by spans: what is edited is exactly the characters that a
// reference is written with, and every other byte stays as it is.
package edit

import (
	"cmp"
	"errors"
	"fmt"
	"slices"
)

// An Edit puts a text in the place of the bytes from Start to End of a file. One with
// Start equal to End inserts.
type Edit struct {
	Path  string `json:"path"` // below the root, with "/"
	Line  int    `json:"line"` // for people: where it begins, from 1
	Start int    `json:"start"`
	End   int    `json:"end"`
	Text  string `json:"text"`
}

// ErrOverlap is wrapped by the error for edits of one text that are in each other's way.
var ErrOverlap = errors.New("is to be edited twice in one place")

// Apply carries out edits of one text, in any order. Those that are the same are one;
// others that overlap, or reach beyond the text, are an error.
func Apply(text []byte, edits []Edit) ([]byte, error) {
	edits = InOrder(edits)
	var made []byte
	last := 0
	for i, e := range edits {
		switch {
		case e.Start < 0 || e.End < e.Start || e.End > len(text):
			return nil, fmt.Errorf("%s: byte %d to %d: the text has %d", e.Path, e.Start, e.End, len(text))
		case i > 0 && e.Start < last:
			return nil, fmt.Errorf("%s:%d %w", e.Path, e.Line, ErrOverlap)
		}
		made = append(append(made, text[last:e.Start]...), e.Text...)
		last = e.End
	}
	return append(made, text[last:]...), nil
}

// InOrder gives edits in the order of their files and places, each once.
func InOrder(edits []Edit) []Edit {
	edits = slices.Clone(edits)
	slices.SortStableFunc(edits, func(a, b Edit) int {
		return cmp.Or(cmp.Compare(a.Path, b.Path), a.Start-b.Start, a.End-b.End)
	})
	return slices.CompactFunc(edits, func(a, b Edit) bool {
		a.Line, b.Line = 0, 0
		return a == b
	})
}

// ByFile gives the edits of each file.
func ByFile(edits []Edit) map[string][]Edit {
	all := map[string][]Edit{}
	for _, e := range edits {
		all[e.Path] = append(all[e.Path], e)
	}
	return all
}
