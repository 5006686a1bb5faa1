package edit

import (
	"bytes"
	"slices"
)

// A part is a stretch of a text that edits have changed, by where it lies before and after them.
type part struct {
	start, end int  // before
	from, to   int  // after
	own        Edit // where no other touched it
	thens      []Edit
}

// Then gives the edits of one text that do in one step what first does and then, which are edits of what first
// makes, do after it. Those of then that touch one of first become one with it; text is that before both.
func Then(text []byte, first, then []Edit) ([]Edit, error) {
	between, err := Apply(text, first)
	if err != nil {
		return nil, err
	}
	if _, err := Apply(between, then); err != nil {
		return nil, err
	}
	var all []part
	shift := 0
	for _, e := range InOrder(first) {
		at := e.Start + shift
		all = append(all, part{start: e.Start, end: e.End, from: at, to: at + len(e.Text), own: e})
		shift += len(e.Text) - (e.End - e.Start)
	}
	for _, e := range InOrder(then) {
		all = touched(all, e)
	}
	var made []Edit
	for _, p := range all {
		if len(p.thens) == 0 {
			made = append(made, p.own)
			continue
		}
		for i := range p.thens {
			p.thens[i].Start, p.thens[i].End = p.thens[i].Start-p.from, p.thens[i].End-p.from
		}
		now, err := Apply(between[p.from:p.to], p.thens)
		if err != nil {
			return nil, err
		}
		made = append(made, Edit{Path: p.thens[0].Path, Line: 1 + bytes.Count(text[:p.start], []byte{'\n'}), Start: p.start, End: p.end, Text: string(now)})
	}
	return InOrder(made), nil
}

// touched adds an edit of the text as it is after some parts, with those that it touches in one.
func touched(all []part, e Edit) []part {
	i := 0
	for i < len(all) && all[i].to < e.Start {
		i++
	}
	k := i
	for k < len(all) && all[k].from <= e.End {
		k++
	}
	before := func(at, parts int) int { // where it lies before those parts, which are in front of it
		if parts == 0 {
			return at
		}
		return at + all[parts-1].end - all[parts-1].to
	}
	one := part{start: before(e.Start, i), end: before(e.End, k), from: e.Start, to: e.End}
	if i < k && all[i].from < e.Start {
		one.start, one.from = all[i].start, all[i].from
	}
	if i < k && all[k-1].to > e.End {
		one.end, one.to = all[k-1].end, all[k-1].to
	}
	for _, p := range all[i:k] {
		one.thens = append(one.thens, p.thens...)
	}
	one.thens = append(one.thens, e)
	return slices.Replace(all, i, k, one)
}
