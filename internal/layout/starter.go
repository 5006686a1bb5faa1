package layout

import (
	"errors"
	"io/fs"
	"path"
	"regexp"
	"slices"
	"strings"
	"text/template"
	nodes "text/template/parse"

	"dicaxon/internal/names"
	"dicaxon/internal/safe"
	"dicaxon/internal/versions"
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
	"starts":   startsWithOne,
	"version":  versions.Of,
}

// startsWithOne says whether a text starts with one of several words.
func startsWithOne(s string, words ...string) bool {
	return slices.ContainsFunc(words, func(w string) bool { return strings.HasPrefix(s, w) })
}

// StarterText gives the text of the entry's starter, not yet rendered.
func (e *Entry) StarterText() (string, error) {
	text, err := fs.ReadFile(e.starters, e.starterName())
	return string(text), err
}

// Marks gives what stands around the actions in the entry's starter.
func (e *Entry) Marks() [2]string { return e.marks }

// IsStarter says whether a text is still what the entry's starter gives, whatever
// the answers were.
func (e *Entry) IsStarter(text []byte) bool {
	form, err := e.form()
	return err == nil && form.Match(text)
}

// mostWork bounds a starter's length times its actions, which is what it may take to say
// whether a text came of it.
const mostWork = 64 << 20

var errTooMuch = errors.New("the starter is too long to be known again")

// form turns a starter into an expression that fits every text that it can
// give, whatever the answers were: what is filled in stands for anything.
func (e *Entry) form() (*regexp.Regexp, error) {
	text, err := e.StarterText()
	if err != nil {
		return nil, err
	}
	t, err := template.New("").Delims(e.marks[0], e.marks[1]).Funcs(StarterFunctions).Parse(text)
	if err != nil {
		return nil, err
	}
	if t.Tree != nil && len(text)*len(t.Root.Nodes) > mostWork {
		return nil, errTooMuch
	}
	var b strings.Builder
	b.WriteString(`\A`)
	if t.Tree != nil {
		for _, n := range t.Tree.Root.Nodes {
			if plain, ok := n.(*nodes.TextNode); ok {
				b.WriteString(regexp.QuoteMeta(string(plain.Text)))
			} else if _, ok := n.(*nodes.ActionNode); ok {
				b.WriteString(`[^\n]*`)
			} else {
				b.WriteString(`(?s:.*)`)
			}
		}
	}
	return regexp.Compile(b.String() + `\s*\z`)
}

// ShownIn says whether a text shows that it is the entry's; a mark of UTF-8 at its start
// is no part of it.
func (e *Entry) ShownIn(text []byte) bool {
	plain, _ := safe.WithoutMark(text)
	return e.Shows.Match(plain) && (e.Lacks == nil || !e.Lacks.Match(plain))
}
