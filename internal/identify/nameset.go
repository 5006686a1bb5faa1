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
	endings  []string    // of patterns that begin with "*" and have no other wildcard
	last     [256]bool   // the last bytes of endings
	lengths  [256]uint64 // by first byte, a bit for each length; the last bit stands for the rest
}

const longest = 63

func (s *nameSet) add(name string) {
	if name == "" {
		return
	}
	if isPattern(name) {
		if ending := endingOf(name); ending != "" {
			s.endings = append(s.endings, ending)
			s.last[ending[len(ending)-1]] = true
			return
		}
		s.patterns = append(s.patterns, name)
		s.lengths[name[0]] = ^uint64(0)
		return
	}
	if s.exact == nil {
		s.exact = map[string]bool{}
	}
	s.exact[name] = true
	s.lengths[name[0]] |= 1 << min(len(name), longest)
}

func isPattern(name string) bool { return strings.ContainsAny(name, "*?[") }

// endingOf gives the ending that a pattern stands for which is "*" and a plain
// text, or "".
func endingOf(pattern string) string {
	if rest, ok := strings.CutPrefix(pattern, "*"); ok && !isPattern(rest) {
		return rest
	}
	return ""
}

func (s *nameSet) has(name string) bool {
	if name == "" {
		return false
	}
	if s.last[name[len(name)-1]] {
		for _, ending := range s.endings {
			if strings.HasSuffix(name, ending) {
				return true
			}
		}
	}
	if s.lengths[name[0]]>>min(len(name), longest)&1 == 0 {
		return false
	}
	if s.exact[name] {
		return true
	}
	for _, p := range s.patterns {
		if p[0] != name[0] {
			continue
		}
		if ok, _ := path.Match(p, name); ok {
			return true
		}
	}
	return false
}
