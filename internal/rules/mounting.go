package rules

import (
	"bytes"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/edit"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
)

// mounting gives the edits that wire a unit as others of its kind are wired in the same
// file: each line that names another unit, and no third one, is written once more for
// this one, behind the last of its like. It gives none where no other is wired there.
func (w *wiring) mounting(unit file, at string) []edit.Edit {
	n := w.node(at)
	if n == nil || n.Folder != nil {
		return nil
	}
	if path.Ext(at) == ".html" {
		return w.loaded(unit, at)
	}
	for _, called := range []func(file) string{w.offeredAlone, w.ownStem} {
		if all := w.repeated(unit, at, called); len(all) > 0 {
			return all
		}
	}
	if len(w.unitNames(unit)) > 1 {
		return w.byAllNames(unit, at)
	}
	return w.repeated(unit, at, w.unitName)
}

// loaded gives the edit by which a page loads a script behind the last one of its folder, or of
// all, as it loads that.
func (w *wiring) loaded(unit file, at string) []edit.Edit {
	text := string(w.textOf(at))
	best, end, line := "", 0, ""
	for _, other := range w.files("files") {
		i := strings.LastIndex(text, other.path+`"`)
		beside := path.Dir(other.path) == path.Dir(unit.path)
		if i < 0 || best != "" && path.Dir(best) == path.Dir(unit.path) && !beside || i < end && (best == "" || !beside || path.Dir(best) == path.Dir(other.path)) {
			continue
		}
		start, stop := strings.LastIndexByte(text[:i], '\n')+1, i+strings.IndexByte(text[i:]+"\n", '\n')
		if strings.Count(text[start:stop], "<script") == 1 {
			best, end, line = other.path, stop, text[start:stop]
		}
	}
	if best == "" || end >= len(text) {
		return nil
	}
	return []edit.Edit{w.edit(at, refs.Span{Start: int32(end + 1), End: int32(end + 1)}, strings.Replace(line, best, unit.path, 1)+"\n")}
}

// repeated gives those edits where units are known in that file by what called gives.
func (w *wiring) repeated(unit file, at string, called func(file) string) (all []edit.Edit) {
	name := called(unit)
	var others []string
	for _, other := range w.files("files") {
		if o := called(other); o != "" && o != name && !noUnit(other.path) {
			others = append(others, o)
		}
	}
	if name == "" || len(others) == 0 {
		return nil
	}
	for _, line := range names.Repeated(string(w.textOf(at)), string(w.Graph.Code(at)), others, name) {
		all = append(all, w.edit(at, refs.Span{Start: int32(line.At), End: int32(line.At)}, line.Text))
	}
	return all
}

// offeredAlone gives what a unit calls what it offers, where the layout goes by that.
func (w *wiring) offeredAlone(unit file) string {
	if !slices.ContainsFunc(w.texts("or"), func(mark string) bool { return strings.Contains(mark, "<offers>") }) {
		return ""
	}
	return w.offered(unit)
}

// ownStem gives the name of a unit's file without its ending, where no other is called so and
// it says more than the unit's name.
func (w *wiring) ownStem(unit file) string {
	stem := names.BeforeDot(path.Base(unit.path))
	if w.called[path.Base(unit.path)] > 1 || w.isFolder(unit.path) || stem == w.unitName(unit) {
		return ""
	}
	return stem
}

// byAllNames gives the edit by which a line that has all the names of another unit is written once
// more with those of this one, behind the last such line.
func (w *wiring) byAllNames(unit file, at string) []edit.Edit {
	text, own := w.textOf(at), w.unitNames(unit)
	code := refs.Code(at, text)
	imports := map[int]bool{} // which mount nothing
	for _, r := range w.refsOf(at).Of(refs.Import) {
		imports[bytes.LastIndexByte(code[:r.Span.Start], '\n')+1] = true
	}
	var line string
	end := 0
	for _, other := range w.files("files") {
		theirs := w.unitNames(other)
		if other.path == unit.path || len(theirs) != len(own) {
			continue
		}
		for start := 0; start < len(code); {
			stop := start + lang.LineLength(code[start:])
			one := string(text[start:stop])
			for i := range theirs {
				if !lang.HasWord([]byte(one), theirs[i]) {
					one = ""
					break
				}
				one = replaced(one, theirs[i], own[i])
			}
			if one != "" && !imports[start] && stop > end && stop < len(text) {
				line, end = one, stop
			}
			start = stop + 1
		}
	}
	if line == "" {
		return nil
	}
	return []edit.Edit{w.edit(at, refs.Span{Start: int32(end + 1), End: int32(end + 1)}, line+"\n")}
}

// replaced writes one word for another wherever a text has it.
func replaced(text, word, by string) string {
	for _, i := range slices.Backward(lang.Words([]byte(text), word)) {
		text = text[:i] + by + text[i+len(word):]
	}
	return text
}

// unitNames gives all captured names that tell a unit from the others, the outermost first.
func (w *wiring) unitNames(unit file) (all []string) {
	for env := unit.env; env != nil; env = env.Next {
		if _, settled := w.env.Get(env.Name); !settled && env.Value != "" {
			all = append([]string{env.Value}, all...)
		}
	}
	return all
}

// unitName gives the captured name that tells a unit from the others.
func (w *wiring) unitName(unit file) string {
	if all := w.unitNames(unit); len(all) > 0 {
		return strings.TrimSpace(all[len(all)-1])
	}
	return ""
}
