package finding

import (
	"slices"
	"strings"
)

// Known findings are those that were there before: accepted ones, or those of
// an earlier revision. They are known again when lines move or a folder is
// renamed.

// Key gives what stays of a finding when lines move and messages are worded
// anew: its kind, rule, path and what it is about.
func (f *Finding) Key() string {
	return strings.Join([]string{string(f.Kind), f.Rule, f.Path, f.Entry, f.About}, "\x00")
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
	left, held := map[string]int{}, map[string]map[string]bool{}
	for i := range known {
		key := known[i].Key()
		left[key]++
		if known[i].Holds != nil {
			held[key] = map[string]bool{}
			for _, name := range known[i].Holds {
				held[key][name] = true
			}
		}
	}
	var open []Finding
	for i := range all {
		key := all[i].Key()
		more := held[key] != nil && slices.ContainsFunc(all[i].Holds, func(name string) bool { return !held[key][name] })
		switch {
		case left[key] == 0:
			open = append(open, all[i])
		case more:
			left[key]--
			fresh = append(fresh, all[i])
		default:
			left[key]--
			again = append(again, all[i])
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
