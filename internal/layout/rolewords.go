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

// Kinds gives the words of each kind of files that a folder says in one of its names.
func (e *Entry) Kinds() (all [][]string) {
	if !e.Folder || e.Parent == nil {
		return nil
	}
	for i := range e.Spellings {
		if name := e.Spellings[i].Exact; len(name) >= shortestRole {
			if kind := names.Words(names.Singular(name)); len(kind) > 0 {
				all = append(all, kind)
			}
		}
	}
	return all
}

// Said gives the words of a file's name, without its last ending and without any.
func Said(file string) [2][]string {
	return [2][]string{names.Words(strings.TrimSuffix(file, path.Ext(file))), names.Words(names.BeforeDot(file))}
}

// OfKinds says whether the words of a file's name end in those of a kind, behind others.
func OfKinds(said [2][]string, kinds [][]string) bool {
	return slices.ContainsFunc(kinds, func(kind []string) bool {
		return slices.ContainsFunc(said[:], func(words []string) bool {
			n := len(words) - len(kind)
			return n > 0 && slices.Equal(words[n:], kind)
		})
	})
}

// SaysKind says whether a file's name says that it is of the kind that a folder is for: its last
// words are those of one of the folder's names, as in CrewsController.cs and Controllers/, in
// crew_service.rb and services/, in berth.model.ts and models/.
func (e *Entry) SaysKind(file string) bool { return OfKinds(Said(file), e.Kinds()) }

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
	var said []string // once they are asked for
	for i := range e.Spellings {
		p := &e.Spellings[i]
		if _, fits := p.Match(file, env); fits && slices.ContainsFunc(p.parts, func(q part) bool {
			text := strings.TrimSuffix(q.text, p.Ending)
			if q.kind != fixed || len(text) < shortestRole {
				return false
			}
			if said == nil {
				said = names.Words(file)
			}
			words := names.Words(text)
			return len(strings.Join(words, "")) >= shortestRole && !slices.ContainsFunc(words, func(w string) bool { return !slices.Contains(said, w) })
		}) {
			return true
		}
	}
	return false
}
