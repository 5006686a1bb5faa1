package layout

import (
	"cmp"
	"fmt"
	"slices"

	"dicaxon/internal/names"
)

// Shadowed gives a complaint for each entry that nothing can ever be paired with,
// because another entry of its folder is there for every name that fits it. It is
// found by trying names, so that one in doubt is not told.
func (l *Layout) Shadowed() []error {
	var all []error
	for _, folder := range l.Entries {
		for _, e := range folder.Entries {
			if e.Layout != l.Name || e.at.node == nil {
				continue
			}
			scope := folder.Scope
			if e.Deep {
				scope = scope.Deep
			}
			if by := scope.shadow(e, folder.sampled()); by != nil {
				all = append(all, e.at.node.Errorf("nothing is ever taken for %q: %q, on line %d of %s, takes every name that fits it", e.Key, by.Key, by.Line, by.File))
			}
		}
	}
	return all
}

// shadow gives the entry that takes every name tried for e, or nil.
func (s *Scope) shadow(e *Entry, env *Env) (by *Entry) {
	for i := range e.Spellings {
		tried := e.Spellings[i].samples(env)
		if tried == nil {
			return nil
		}
		for _, name := range tried {
			took := s.Exact(name, e.Folder)
			if took == nil {
				took, _ = s.Pattern(name, e.Folder, env)
			}
			if took == nil || took == e || by != nil && took != by {
				return nil
			}
			by = took
		}
	}
	return by
}

// sampled gives captured names for what a folder stands in.
func (e *Entry) sampled() *Env {
	var env *Env
	for ; e.Parent != nil; e = e.Parent {
		for _, name := range e.Spellings[0].Captures() {
			env = env.Bind(name, "gannet")
		}
	}
	return env
}

// samples gives some names that the pattern fits; none for a shape that somebody
// made up.
func (p *Pattern) samples(env *Env) []string {
	if p.Exact != "" {
		return []string{p.Exact}
	}
	var all []string
	for _, words := range []string{"sailing", "tide table", "x", "berth plan 2"} {
		name := ""
		for _, q := range p.parts {
			value, bound := env.Get(q.text)
			switch {
			case q.kind == fixed:
				name += q.text
			case q.kind == capture && bound:
				name += q.written(value)
			case q.kind == anyOne:
				name += words[:1]
			case q.shape.Own():
				return nil
			case q.shape == names.Digits:
				name += fmt.Sprint(len(words))
			case q.shape == names.Date:
				name += fmt.Sprintf("2026-11-%02d", len(words))
			default:
				name += names.To(cmp.Or(q.shape, names.Kebab), words)
			}
		}
		if _, ok := p.Match(name, env); ok && !slices.Contains(all, name) {
			all = append(all, name)
		}
	}
	return all
}
