package changes

import (
	"fmt"
	"slices"

	"dicaxon/internal/edit"
)

// Then gives one plan that does what two do one after the other: the first, which makes and edits files and
// moves none, and next, which was made by what the first leaves. The text of a file that the first edits is that
// before both. Its Seen is that of the first and of what next alone edits.
func (p *Plan) Then(next *Plan, text func(at string) ([]byte, error)) (*Plan, error) {
	if len(p.Moves)+len(p.Drops) > 0 {
		return nil, fmt.Errorf("a plan that moves files is not put before another")
	}
	both := &Plan{Makes: slices.Concat(p.Makes, next.Makes), Edits: slices.Clone(p.Edits), Seen: map[string]string{}}
	made := map[string]int{}
	for k := range p.Makes {
		made[p.Makes[k].Path] = k
		both.Makes[k].Path = next.After(p.Makes[k].Path)
	}
	for _, m := range next.Moves {
		if _, is := made[m.From]; !is {
			both.Moves = append(both.Moves, m)
		}
	}
	for _, at := range next.Drops {
		if _, is := made[at]; !is {
			both.Drops = append(both.Drops, at)
		}
	}
	first := edit.ByFile(p.Edits)
	for at, edits := range edit.ByFile(next.Edits) {
		k, is := made[at]
		switch {
		case is:
			now, err := edit.Apply([]byte(p.Makes[k].Text), edits)
			if err != nil {
				return nil, err
			}
			both.Makes[k].Text = string(now)
		case first[at] == nil:
			both.Edits = append(both.Edits, edits...)
			both.Seen[at] = next.Seen[at]
		default:
			before, err := text(at)
			if err != nil {
				return nil, err
			}
			all, err := edit.Then(before, first[at], edits)
			if err != nil {
				return nil, err
			}
			both.Edits = slices.DeleteFunc(both.Edits, func(e edit.Edit) bool { return e.Path == at })
			both.Edits = append(both.Edits, all...)
		}
	}
	for at := range first {
		before, err := text(at)
		if err != nil {
			return nil, err
		}
		both.Seen[at] = Digest(before)
	}
	both.Makes = slices.DeleteFunc(both.Makes, func(m Make) bool { return slices.Contains(next.Drops, m.Path) })
	both.Edits = edit.InOrder(both.Edits)
	return both, nil
}
