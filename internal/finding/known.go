package finding

import (
	"strings"

	"dicaxon/internal/lazy"
)

// Known findings are those that were there before: accepted ones, or those of
// an earlier revision. They are known again when lines move or a folder is
// renamed.

var numbers = lazy.New(`\d+`)

// Key gives what stays of a finding when lines move: its kind, rule, path and
// message without numbers.
func (f *Finding) Key() string {
	return strings.Join([]string{string(f.Kind), f.Rule, f.Path, f.Entry, numbers.Get().ReplaceAllString(f.Message, "#")}, "\x00")
}

// likeness is Key without the folder, for what moved with it.
func (f *Finding) likeness() string {
	name := strings.TrimSuffix(f.Path, "/")
	name = name[strings.LastIndexByte(name, '/')+1:]
	return strings.Join([]string{string(f.Kind), f.Rule, name}, "\x00")
}

// New splits findings into those that are not among the known ones and those
// that are, and gives how many of the known are gone. A finding that is not
// there under its path is taken for a known one that is there no longer, where
// kind, rule and name are the same and only one of each has them.
func New(all, known []Finding) (fresh, again []Finding, gone int) {
	left := map[string]int{}
	for i := range known {
		left[known[i].Key()]++
	}
	var open []Finding
	for i := range all {
		key := all[i].Key()
		if left[key] > 0 {
			left[key]--
			again = append(again, all[i])
		} else {
			open = append(open, all[i])
		}
	}
	alike, rest := map[string]int{}, map[string]int{}
	for i := range known {
		if key := known[i].Key(); left[key] > 0 {
			left[key]--
			alike[known[i].likeness()]++
			gone++
		}
	}
	for i := range open {
		rest[open[i].likeness()]++
	}
	for i := range open {
		like := open[i].likeness()
		if alike[like] == 1 && rest[like] == 1 {
			again = append(again, open[i])
			gone--
		} else {
			fresh = append(fresh, open[i])
		}
	}
	return fresh, again, gone
}
