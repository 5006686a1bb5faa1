package identify

import (
	"path"
	"strings"
)

// A nameSet answers fast whether a name is one of a few: a million names are
// asked about, and nearly all of them are none.
type nameSet struct {
	exact    map[string]bool
	patterns []string
	endings  [256]bool   // the last bytes of patterns that begin with "*"
	lengths  [256]uint64 // by first byte, a bit for each length; the last bit stands for the rest
}

const longest = 63

func (s *nameSet) add(name string) {
	if name == "" {
		return
	}
	if strings.ContainsAny(name, "*?[") {
		s.patterns = append(s.patterns, name)
		if name[0] == '*' {
			s.endings[name[len(name)-1]] = true
		}
		s.lengths[name[0]] = ^uint64(0)
		return
	}
	if s.exact == nil {
		s.exact = map[string]bool{}
	}
	s.exact[name] = true
	s.lengths[name[0]] |= 1 << min(len(name), longest)
}

func (s *nameSet) has(name string) bool {
	if name == "" || s.lengths[name[0]]>>min(len(name), longest)&1 == 0 && !s.endings[name[len(name)-1]] {
		return false
	}
	if s.exact[name] {
		return true
	}
	for _, p := range s.patterns {
		if p[0] != name[0] && p[0] != '*' {
			continue
		}
		if ok, _ := path.Match(p, name); ok {
			return true
		}
	}
	return false
}
