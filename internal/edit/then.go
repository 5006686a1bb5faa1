package edit

import "slices"

// A part is a stretch of a text that edits have changed, by where it lies before and after them.
type part struct {
	start, end int // before
	from, to   int // after
	firsts     []Edit
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
		all = append(all, part{start: e.Start, end: e.End, from: at, to: at + len(e.Text), firsts: []Edit{e}})
		shift += len(e.Text) - (e.End - e.Start)
	}
	for _, e := range InOrder(then) {
		all = touched(all, e)
	}
	var made []Edit
	for _, p := range all {
		if len(p.thens) == 0 {
			made = append(made, p.firsts...)
			continue
		}
		for i := range p.thens {
			p.thens[i].Start, p.thens[i].End = p.thens[i].Start-p.from, p.thens[i].End-p.from
		}
		now, err := Apply(between[p.from:p.to], p.thens)
		if err != nil {
			return nil, err
		}
		made = append(made, Edit{Path: p.thens[0].Path, Line: lineOf(text, p.start), Start: p.start, End: p.end, Text: string(now)})
	}
	return InOrder(made), nil
}

// touched adds an edit of the text as it is after some parts, with those that it touches in one.
func touched(all []part, e Edit) []part {
	i := slices.IndexFunc(all, func(p part) bool { return e.Start <= p.to })
	if i < 0 {
		i = len(all)
	}
	shift := 0 // from after to before, in front of the edit
	if i > 0 {
		shift = all[i-1].end - all[i-1].to
	}
	one := part{start: e.Start + shift, end: e.End + shift, from: e.Start, to: e.End, thens: []Edit{e}}
	k := i
	for ; k < len(all) && all[k].from <= e.End; k++ {
		p := all[k]
		if p.from < one.from {
			one.start, one.from = p.start, p.from
		}
		if p.from <= e.Start { // what is in front of it is as it was before that part
			one.start = min(one.start, p.start)
		}
		one.end, one.to = p.end, p.to
		if e.End > p.to {
			one.end, one.to = p.end+e.End-p.to, e.End
		}
		one.firsts, one.thens = append(one.firsts, p.firsts...), append(p.thens, one.thens...)
	}
	return slices.Replace(all, i, k, one)
}

// lineOf gives the line of a place in a text, from 1.
func lineOf(text []byte, at int) int {
	line := 1
	for _, c := range text[:at] {
		if c == '\n' {
			line++
		}
	}
	return line
}
