package realign

import (
	"bytes"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
)

// uses edits the qualified uses of a module that `import a.b` names as a whole.
func (f *follower) uses(at string, text []byte, t turn) {
	old := t.edge.Ref.Name
	end := int(t.edge.Ref.Span.End)
	if rest := bytes.TrimLeft(text[end:end+lang.LineLength(text[end:])], " \t"); bytes.HasPrefix(rest, []byte("as ")) || !strings.Contains(old, ".") && t.to.Name == old {
		return // it has a name of its own
	}
	code := refs.Code(at, text)
	for _, i := range dotted(code, old) {
		if i != int(t.edge.Ref.Span.Start) && i+len(old) < len(code) && code[i+len(old)] == '.' {
			line, _ := refs.Place(text, lang.At(i, i+1))
			f.edit(at, line, i, i+len(old), t.to.Name)
		}
	}
}

// dotted gives where a dotted name stands whole: nothing of a name is before it, and no
// more of its last part behind.
func dotted(code []byte, name string) []int {
	var all []int
	for i := range lang.Every(code, name) {
		end := i + len(name)
		if i > 0 && (lang.WordByte(code[i-1]) || code[i-1] == '.' || code[i-1] == '-') || end < len(code) && (lang.WordByte(code[end]) || code[end] == '-') {
			continue
		}
		all = append(all, i)
	}
	return all
}

// take writes what is taken out of a module under its new name, with the old one for the
// rest of the file.
func (f *follower) take(at string, text []byte, t turn) {
	span := t.edge.Ref.ValueSpan
	as := " as " + t.edge.Ref.Value
	if rest := text[span.End:min(len(text), int(span.End)+4)]; string(rest) == " as " || path.Base(at) != "__init__.py" && len(lang.Words(refs.Code(at, text), t.edge.Ref.Value)) == 1 {
		as = "" // it has a name already, or none is needed
	}
	f.edit(at, t.edge.Ref.Line, int(span.Start), int(span.End), t.take+as)
}

// part writes one import statement of several names as several, where the names are no
// longer in one module.
func (f *follower) part(at string, text []byte, turns []turn) {
	if path.Ext(at) != ".py" {
		f.remark(at, turns[0].edge.Ref.Line, "what this statement imports no longer lies in one place; it has to be taken apart by hand")
		return
	}
	start := bytes.LastIndexByte(text[:turns[0].edge.Ref.Span.Start], '\n') + 1
	indent := text[start : start+len(text[start:])-len(bytes.TrimLeft(text[start:], " \t"))]
	end, remark := statementEnd(text, start)
	if !bytes.HasPrefix(bytes.TrimLeft(text[start:], " \t"), []byte("from")) || bytes.Contains(text[start:end], []byte("#")) {
		f.remark(at, turns[0].edge.Ref.Line, "what this statement imports no longer lies in one module; it has to be taken apart by hand")
		return
	}
	items := map[string][]string{}
	var modules []string
	for _, t := range turns {
		module := strings.Repeat(".", t.to.Relative) + t.to.Name
		if !slices.Contains(modules, module) {
			modules = append(modules, module)
		}
		span := t.edge.Ref.ValueSpan
		rest := text[span.End:end]
		if i := bytes.IndexAny(rest, ",)\n"); i >= 0 {
			rest = rest[:i]
		}
		item := t.edge.Ref.Value + strings.TrimRight(string(rest), " \t\r")
		if t.take != "" {
			item = t.take + strings.TrimRight(string(rest), " \t\r")
			if !strings.Contains(item, " as ") {
				item += " as " + t.edge.Ref.Value
			}
		}
		items[module] = append(items[module], item)
	}
	var b strings.Builder
	for i, module := range modules {
		if i > 0 {
			b.WriteString(remark + "\n" + string(indent)) // what it tells other programs, it tells them of each line
		}
		b.WriteString("from " + module + " import " + strings.Join(items[module], ", "))
	}
	f.edit(at, turns[0].edge.Ref.Line, start+len(indent), end, b.String())
}

// statementEnd gives where a statement that begins at an offset ends: with its line, or
// with the bracket that it opens. Of one without, it gives the remark behind it.
func statementEnd(text []byte, start int) (end int, remark string) {
	line := start + lang.LineLength(text[start:])
	end = line
	if hash := bytes.IndexByte(text[start:line], '#'); hash >= 0 {
		end = start + hash
	}
	if open := bytes.IndexByte(text[start:end], '('); open >= 0 {
		if closed := bytes.IndexByte(text[start:], ')'); closed >= 0 {
			return start + closed + 1, ""
		}
	}
	for end > start && (text[end-1] == '\r' || text[end-1] == ' ' || text[end-1] == '\t') {
		end--
	}
	return end, strings.TrimRight(string(text[end:line]), "\r")
}
