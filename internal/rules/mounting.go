package rules

import (
	"strings"

	"dicaxon/internal/edit"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
)

// mounting gives the edits that wire a unit as others of its kind are wired in the same
// file: each line that names another unit, and no third one, is written once more for
// this one, behind the last of its like. It gives none where no other is wired there.
func (w *wiring) mounting(unit file, at string) []edit.Edit {
	name := w.unitName(unit)
	if n := w.node(at); name == "" || n == nil || n.Folder != nil {
		return nil
	}
	var others []string
	for _, other := range w.files("files") {
		if o := w.unitName(other); o != "" && o != name && !noUnit(other.path) {
			others = append(others, o)
		}
	}
	var all []edit.Edit
	for _, line := range names.Repeated(string(w.textOf(at)), string(refs.Code(at, w.textOf(at))), others, name) {
		all = append(all, w.edit(at, refs.Span{Start: int32(line.At), End: int32(line.At)}, line.Text))
	}
	return all
}

// unitName gives the captured name that tells a unit from the others.
func (w *wiring) unitName(unit file) string {
	for env := unit.env; env != nil; env = env.Next {
		if _, settled := w.env.Get(env.Name); !settled && env.Value != "" {
			return strings.TrimSpace(env.Value)
		}
	}
	return ""
}
