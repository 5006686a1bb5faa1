package workspace

import (
	"slices"
	"strings"
	"time"

	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/names"
	"dicaxon/internal/source"
)

// A Waiver is an exception: findings that are not told, with the reason.
type Waiver struct {
	Paths  []*layout.PathPattern
	Kinds  []string // kinds or names of rules; none for all
	Reason string
	Until  time.Time // the last day; zero for ever
	Line   int       // in dicaxon.yaml
}

func readLevels(n *source.Node) (map[string]string, error) {
	if n == nil {
		return nil, nil
	}
	if n.Kind != source.Mapping {
		return nil, n.Errorf("levels is written as kinds or rules with levels, not as %s", n.Kind)
	}
	all := map[string]string{}
	for _, pair := range n.Pairs {
		level, err := pair.Value.String("a level")
		if err != nil {
			return nil, err
		}
		if !slices.Contains(layout.RuleLevels, level) {
			return nil, pair.Value.Errorf("%q is no level; the levels are %s", level, strings.Join(layout.RuleLevels, ", "))
		}
		all[pair.Key.Text] = level
	}
	return all, nil
}

func readWaivers(n *source.Node) ([]Waiver, error) {
	if n == nil {
		return nil, nil
	}
	if n.Kind != source.Sequence {
		return nil, n.Errorf("waivers is a list, not %s", n.Kind)
	}
	var all []Waiver
	for _, item := range n.Items {
		if err := keysOf(item, "a waiver", "paths", "kinds", "reason", "until"); err != nil {
			return nil, err
		}
		w, err := readWaiver(item)
		if err != nil {
			return nil, err
		}
		all = append(all, w)
	}
	return all, nil
}

func readWaiver(n *source.Node) (w Waiver, err error) {
	w.Line = n.Line
	paths := n.Get("paths")
	if paths == nil {
		return w, n.Errorf(`a waiver says for which "paths" it holds`)
	}
	texts, err := paths.Strings("paths")
	if err != nil {
		return w, err
	}
	for _, text := range texts {
		p, err := layout.ParsePath(text)
		if err != nil {
			return w, paths.Errorf("%v", err)
		}
		w.Paths = append(w.Paths, p)
	}
	if kinds := n.Get("kinds"); kinds != nil {
		if w.Kinds, err = kinds.Strings("kinds"); err != nil {
			return w, err
		}
		for _, k := range w.Kinds {
			if meant := names.Closest(k, finding.KindWords()); meant != "" && finding.Meant(k) == nil {
				return w, kinds.Errorf("%q is no kind of finding; did you mean %q?", k, meant)
			}
		}
	}
	if reason := n.Get("reason"); reason != nil {
		if w.Reason, err = reason.String("reason"); err != nil {
			return w, err
		}
	}
	if until := n.Get("until"); until != nil {
		if w.Until, err = time.Parse(time.DateOnly, until.Text); err != nil {
			return w, until.Errorf("until is a day, such as 2027-03-31")
		}
	}
	return w, nil
}

// Over says whether the waiver's last day is before the day given.
func (w *Waiver) Over(today time.Time) bool {
	return !w.Until.IsZero() && today.After(w.Until.AddDate(0, 0, 1))
}

// Holds says whether the waiver of a folder's dicaxon.yaml is about the finding.
func (w *Waiver) Holds(folder string, f *finding.Finding) bool {
	at, within := strings.CutPrefix(f.Path, folder)
	if !within {
		return false
	}
	if len(w.Kinds) > 0 && !f.Is(w.Kinds) {
		return false
	}
	for _, p := range w.Paths {
		if _, ok := p.Match(at, nil); ok {
			return true
		}
	}
	return false
}
