package layout

import (
	"io/fs"
	"path"
	"strings"
	"text/template"

	"dicaxon/internal/names"
)

// StarterFolder holds the starters of a layout, beside its file; StarterEnding
// is put behind their names, so that no other tool takes them for the real
// thing.
const (
	StarterFolder = "starters"
	StarterEnding = ".tmpl"
)

// StarterFunctions are what starters may call.
var StarterFunctions = template.FuncMap{
	"snake":    func(s string) string { return names.To(names.Snake, s) },
	"kebab":    func(s string) string { return names.To(names.Kebab, s) },
	"camel":    func(s string) string { return names.To(names.Camel, s) },
	"pascal":   func(s string) string { return names.To(names.Pascal, s) },
	"lower":    func(s string) string { return names.To(names.Lower, s) },
	"upper":    func(s string) string { return names.To(names.Upper, s) },
	"title":    names.Title,
	"plural":   names.Plural,
	"singular": names.Singular,
	"base":     path.Base,
	"join":     strings.Join,
}

// StarterText gives the text of the entry's starter, not yet rendered.
func (e *Entry) StarterText() (string, error) {
	text, err := fs.ReadFile(e.starters, e.starterName())
	return string(text), err
}

// Marks gives what stands around the actions in the entry's starter.
func (e *Entry) Marks() (left, right string) {
	return e.marks[0], e.marks[1]
}
