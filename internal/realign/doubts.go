package realign

import (
	"bytes"
	"fmt"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/lazy"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
	"dicaxon/internal/rules"
)

// doubts looks for texts of programs that may name what moves and that nothing follows: the
// name of a folder, or of a file with its ending, as a whole string or as a part of a path.
// Who wrote "template" may mean the folder beside it; only a run could say so.
func (f *follower) doubts() {
	for _, m := range f.plan.Moves {
		from := strings.TrimSuffix(m.From, "/")
		base := path.Base(from)
		around := path.Dir(from)
		if len(base) < 3 || !strings.HasSuffix(m.From, "/") && path.Ext(base) == "" {
			continue
		}
		stem := ""
		if path.Ext(base) == ".py" && !refs.IsIndex(base) { // programs name modules without it
			stem = strings.TrimSuffix(base, ".py")
		}
		f.tree.Each(func(at string) {
			if !refs.IsCode(at) || path.Ext(at) == ".md" || !near(around, at) {
				return
			}
			text, err := f.tree.Text(at)
			if err != nil {
				return
			}
			for _, name := range []string{base, stem} {
				if name != "" && bytes.Contains(text, []byte(name)) && f.doubt(at, text, name, m.From, name == stem) {
					return
				}
			}
		})
	}
}

// doubt remarks on a text that names something, as a part of a path or, where that is asked,
// as a whole string alone.
func (f *follower) doubt(at string, text []byte, name, moves string, alone bool) bool {
	code := refs.Code(at, text)
	for _, i := range lang.Words(code, name) {
		end := i + len(name)
		if !inString(code, i, end) || f.held(at, i) || f.covered(at, i) || f.another(at, code, i, end, moves) || alone && (code[i-1] == '/' || code[end] == '/') {
			continue
		}
		line, _ := refs.Place(text, lang.At(i, i+1))
		if !f.doubtedAround(at, line, name, moves) {
			f.remarks = append(f.remarks, Remark{Path: at, Line: line, Says: mayMean(name, moves), About: moves, Bare: alone && !loads(code[max(0, i-60):i])})
		}
		return true
	}
	return false
}

func mayMean(name, moves string) string {
	return fmt.Sprintf("a text names %q, which may mean %s", name, moves)
}

// doubtedAround says whether a text is doubted for that name already, since it may mean the same or a folder around it.
func (f *follower) doubtedAround(at string, line int, name, moves string) bool {
	return slices.ContainsFunc(f.remarks, func(o Remark) bool {
		return o.Path == at && o.Line == line && o.Says == mayMean(name, o.About) && (o.About == moves || inside(moves, o.About))
	})
}

var loading = lazy.New(`(?i)(import|modul|load|spec|run|exec|patch|plugin|includ|regist)\w*\(\s*[\w=]*["']$`)

// loads says whether what stands before a text is a call that loads modules by their names.
func loads(before []byte) bool { return loading.Match(before) }

// another says whether a name is the part of a path that leads to something else than what moves.
func (f *follower) another(at string, code []byte, from, to int, moves string) bool {
	ofPath := func(c byte) bool { return lang.WordByte(c) || c == '/' || c == '.' || c == '-' }
	for from > 0 && ofPath(code[from-1]) {
		from--
	}
	for to < len(code) && ofPath(code[to]) {
		to++
	}
	named := string(code[from:to])
	if !strings.Contains(named, "/") {
		return false
	}
	leads := func(to string) bool { return f.tree.IsFile(to) || f.tree.IsFolder(to) }
	there, beside := path.Clean(strings.TrimPrefix(named, "/")), path.Join(path.Dir(at), named)
	moves = strings.TrimSuffix(moves, "/")
	within := func(to string) bool { return to == moves || strings.HasPrefix(to, moves+"/") }
	return (leads(there) || leads(beside)) && !(leads(there) && within(there)) && !(leads(beside) && within(beside))
}

// near says whether a file lies in a folder or above it, where a bare name may mean what
// lies in it.
func near(folder, at string) bool {
	in := path.Dir(at)
	return folder == "." || in == "." || in == folder || strings.HasPrefix(in, folder+"/") || strings.HasPrefix(folder, in+"/")
}

// inString says whether a name is a whole string, or a part of a path that is one.
func inString(code []byte, from, to int) bool {
	if from == 0 || to >= len(code) {
		return false
	}
	quote := func(c byte) bool { return c == '"' || c == '\'' || c == '`' }
	before, after := code[from-1], code[to]
	return quote(before) && (quote(after) || after == '/') || before == '/' && quote(after) || before == '/' && after == '/' && !bytes.Contains(code[max(0, from-60):from], []byte("://"))
}

// covered says whether a reference that the graph knows stands at an offset: where it leads
// is known, and so whether it follows.
func (f *follower) covered(at string, i int) bool {
	if slices.ContainsFunc(f.names, func(n rules.Named) bool { return n.From == at && int(n.Span.Start) <= i && i < int(n.Span.End) }) {
		return true
	}
	return slices.ContainsFunc(f.graph.From(at), func(e refs.Edge) bool {
		return int(e.Ref.Span.Start) <= i && i < int(e.Ref.Span.End)
	})
}
