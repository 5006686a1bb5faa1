package layout

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/names"
)

// shortestRole is how many letters a folder's name has at least that says what files are: a file
// whose last word is "io" or "db" is often of something else.
const shortestRole = 3

// SaysKind says whether a file's name says that it is of the kind that a folder is for: its last
// words are those of one of the folder's names, as in CrewsController.cs and Controllers/, in
// crew_service.rb and services/, in berth.model.ts and models/.
func (e *Entry) SaysKind(file string) bool {
	if !e.Folder || e.Parent == nil {
		return false
	}
	for _, stem := range []string{strings.TrimSuffix(file, path.Ext(file)), names.BeforeDot(file)} {
		said := names.Words(stem)
		for i := range e.Spellings {
			kind := names.Words(names.Singular(e.Spellings[i].Exact))
			n := len(said) - len(kind)
			if len(kind) > 0 && n > 0 && len(e.Spellings[i].Exact) >= shortestRole && slices.Equal(said[n:], kind) {
				return true
			}
		}
	}
	return false
}

// Called says whether a folder of that name is the entry's, in the singular or the plural, whatever
// its case.
func (e *Entry) Called(name string) bool {
	return e.Folder && slices.ContainsFunc(e.Spellings, func(p Pattern) bool {
		return p.Exact != "" && names.Same(names.Singular(p.Exact), names.Singular(name))
	})
}

// Chain lists the folders in which an entry lies, from the one below the top to its own.
func (e *Entry) Chain() []*Entry {
	var chain []*Entry
	for up := e.Parent; up != nil && up.Parent != nil; up = up.Parent {
		chain = append(chain, up)
	}
	slices.Reverse(chain)
	return chain
}

// SaysMore says whether the entry gives words of a file's name beside its ending, as "*Controller.cs"
// does of CrewsController.cs and "use*.ts" of useTides.ts, and not of user.ts.
func (e *Entry) SaysMore(file string, env *Env) bool {
	said := names.Words(file)
	for i := range e.Spellings {
		p := &e.Spellings[i]
		if _, fits := p.Match(file, env); fits && slices.ContainsFunc(p.parts, func(q part) bool {
			words := names.Words(strings.TrimSuffix(q.text, p.Ending))
			return q.kind == fixed && len(strings.Join(words, "")) >= shortestRole && !slices.ContainsFunc(words, func(w string) bool { return !slices.Contains(said, w) })
		}) {
			return true
		}
	}
	return false
}
