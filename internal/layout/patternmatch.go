package layout

import (
	"slices"
	"strings"

	"dicaxon/internal/names"
)

// Match says whether name fits, and gives env with what was captured. A name
// that env holds already fits only with that value, in the shape asked for here.
func (p *Pattern) Match(name string, env *Env) (*Env, bool) {
	if p.Exact != "" {
		return env, p.Exact == name
	}
	if len(name) < p.Fixed || p.Ending != "" && !strings.HasSuffix(name, p.Ending) {
		return env, false
	}
	if p.Ending != "" && len(p.parts) == 2 && p.parts[0].kind == anyRun && p.parts[1].text == p.Ending {
		return env, true
	}
	if p.open < 3 {
		return matchParts(p.parts, name, env, nil)
	}
	// Of several open parts each would be tried with every length of the others.
	return matchParts(p.parts, name, env, &dead{of: make([]bool, (len(p.parts)+1)*(len(name)+1)), width: len(name) + 1})
}

// dead remembers from where in a pattern and a name no way led on, so that none of these
// places is gone on from twice. A pattern that captures one name twice has none: there a
// way depends on what was captured before.
type dead struct {
	of    []bool
	width int
}

func (d *dead) end(parts []part, name string) *bool { return &d.of[len(parts)*d.width+len(name)] }

func matchParts(parts []part, name string, env *Env, d *dead) (*Env, bool) {
	if len(parts) == 0 {
		return env, name == ""
	}
	if d == nil {
		return matchNext(parts, name, env, nil)
	}
	end := d.end(parts, name)
	if *end {
		return env, false
	}
	got, ok := matchNext(parts, name, env, d)
	*end = !ok
	return got, ok
}

func matchNext(parts []part, name string, env *Env, d *dead) (*Env, bool) {
	q, rest := parts[0], parts[1:]
	switch q.kind {
	case fixed:
		if after, ok := strings.CutPrefix(name, q.text); ok {
			return matchParts(rest, after, env, d)
		}
		return env, false
	case anyOne:
		for i := range name {
			if i > 0 {
				return matchParts(rest, name[i:], env, d)
			}
		}
		if name != "" {
			return matchParts(rest, "", env, d)
		}
		return env, false
	case capture:
		if value, bound := env.Get(q.text); bound {
			if n := q.prefix(name, value); n > 0 {
				return matchParts(rest, name[n:], env, d)
			}
			return env, false
		}
	}
	return matchRun(q, rest, name, env, d)
}

// prefix gives how long the beginning of name is that writes a captured value,
// or 0: the value itself or, where the part has a shape, its words in it.
func (q *part) prefix(name, value string) int {
	if strings.HasPrefix(name, value) && q.shape.Fits(value) {
		return len(value)
	}
	if n := names.SamePrefix(name, value); q.shape != "" && n > 0 && q.shape.Fits(name[:n]) {
		return n
	}
	return 0
}

// written gives a captured value in the shape of the part.
func (q *part) written(value string) string {
	if q.shape.Fits(value) {
		return value
	}
	return names.To(q.shape, value)
}

// Rewrites says whether the pattern has a captured name in a shape of its own,
// so that there are several ways to write it.
func (p *Pattern) Rewrites() bool {
	return slices.ContainsFunc(p.parts, func(q part) bool { return q.kind == capture && q.shape != "" })
}

// matchRun tries every length for an open part, the shortest first.
func matchRun(q part, rest []part, name string, env *Env, d *dead) (*Env, bool) {
	first, last := 0, len(name)
	if q.kind == capture {
		first = 1
	}
	if len(rest) == 0 {
		first = last
		if q.kind == capture && name == "" {
			return env, false
		}
	}
	for n := first; n <= last; n++ {
		if len(rest) > 0 && rest[0].kind == fixed && !strings.HasPrefix(name[n:], rest[0].text) {
			continue
		}
		bound := env
		if q.kind == capture {
			if !q.shape.Fits(name[:n]) {
				continue
			}
			bound = env.Bind(q.text, name[:n])
		}
		if got, ok := matchParts(rest, name[n:], bound, d); ok {
			return got, true
		}
	}
	return env, false
}
