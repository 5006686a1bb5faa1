package layout

import (
	"slices"
	"strings"
)

// A Scope finds the entry for a name among the entries of one folder. Its cost
// does not grow with their number: exact names are looked up, patterns by the
// ending they give, and only patterns without one are tried in turn.
type Scope struct {
	exact    [2]map[string]*Entry // of files, of folders
	byEnding map[string][]candidate
	open     []candidate
	singles  []*Entry // entries that stand once under a captured name
	Deep     *Scope   // entries that hold at any depth below, or nil
}

type candidate struct {
	entry   *Entry
	pattern *Pattern
	rank    int
}

func newScope(entries []*Entry) *Scope {
	s := &Scope{byEnding: map[string][]candidate{}}
	for _, e := range entries {
		for i := range e.Spellings {
			s.add(e, &e.Spellings[i])
		}
	}
	byRank := func(a, b candidate) int { return b.rank - a.rank }
	for _, list := range s.byEnding {
		slices.SortStableFunc(list, byRank)
	}
	slices.SortStableFunc(s.open, byRank)
	return s
}

func kind(folder bool) int {
	if folder {
		return 1
	}
	return 0
}

func (s *Scope) add(e *Entry, p *Pattern) {
	k := kind(e.Folder)
	c := candidate{e, p, p.rank()}
	switch {
	case p.Exact != "":
		if s.exact[k] == nil {
			s.exact[k] = map[string]*Entry{}
		}
		if _, taken := s.exact[k][p.Exact]; !taken {
			s.exact[k][p.Exact] = e
		}
	case p.Ending != "":
		s.byEnding[p.Ending] = append(s.byEnding[p.Ending], c)
	default:
		s.open = append(s.open, c)
	}
}

// Exact gives the entry that has name as one of its spellings, or nil.
func (s *Scope) Exact(name string, folder bool) *Entry { return s.exact[kind(folder)][name] }

// Settled gives the entry that stands once under the name that env has for it,
// or nil: such a name is as good as an exact one.
func (s *Scope) Settled(name string, folder bool, env *Env) *Entry {
	for _, e := range s.singles {
		if settled, complete := e.Name(env); complete && settled == name && e.Folder == folder {
			return e
		}
	}
	return nil
}

// Find gives the entry of an exact name, else of the most special pattern, or
// nil.
func (s *Scope) Find(name string, folder bool) *Entry {
	if e := s.Exact(name, folder); e != nil {
		return e
	}
	e, _ := s.Pattern(name, folder, nil)
	return e
}

// Pattern gives the most special entry whose pattern fits name, with what it
// captured, or nil.
func (s *Scope) Pattern(name string, folder bool, env *Env) (*Entry, *Env) {
	var best *Entry
	var bound *Env
	rank := 0
	try := func(list []candidate) {
		for _, c := range list {
			if best != nil && c.rank <= rank {
				return
			}
			if c.entry.Folder != folder {
				continue
			}
			if got, ok := c.pattern.Match(name, env); ok {
				best, bound, rank = c.entry, got, c.rank
				return
			}
		}
	}
	if dot := strings.LastIndexByte(name, '.'); dot >= 0 && len(s.byEnding) > 0 {
		try(s.byEnding[name[dot:]])
	}
	try(s.open)
	return best, bound
}

// Document gives the entry of a document at the root under another case, ending or
// separator than it is written with: changelog.rst and Change_Log.md are
// CHANGELOG.md. Documents are what is written in capital letters throughout.
func (l *Layout) Document(name string) *Entry {
	if stem, ok := documentStem(name); ok {
		return l.documents[strings.ToLower(stem)]
	}
	return nil
}

// documentStem gives the letters of a name whose ending is one of texts for
// people, or none.
func documentStem(name string) (string, bool) {
	stem := name
	if i := strings.LastIndexByte(name, '.'); i > 0 {
		switch strings.ToLower(name[i:]) {
		case ".md", ".txt", ".rst", ".adoc", ".asciidoc", ".markdown", ".mdown", ".org", ".rdoc", ".html", ".textile", ".pod":
			stem = name[:i]
		default:
			return "", false
		}
	}
	return withoutSeparators.Replace(stem), stem != "" && stem[0] != '.'
}

var withoutSeparators = strings.NewReplacer("-", "", "_", "", " ", "")

// listDocuments notes the documents among the entries at the root.
func (l *Layout) listDocuments() {
	l.documents = map[string]*Entry{}
	for _, e := range l.Root.Entries {
		for i := range e.Spellings {
			stem, ok := documentStem(e.Spellings[i].Exact)
			if !e.Folder && ok && stem != "" && strings.ToUpper(stem) == stem && l.documents[strings.ToLower(stem)] == nil {
				l.documents[strings.ToLower(stem)] = e
			}
		}
	}
}

// An Index finds every entry of a layout that a name fits, wherever it stands.
type Index struct {
	exact    map[string][]*Entry
	patterns *Scope
}

// Index makes the index of the layout.
func (l *Layout) Index() *Index { return NewIndex(l.Entries[1:]) }

// NewIndex makes the index of some entries.
func NewIndex(entries []*Entry) *Index {
	x := &Index{exact: map[string][]*Entry{}, patterns: newScope(entries)}
	for _, e := range entries {
		for i := range e.Spellings {
			if name := e.Spellings[i].Exact; name != "" {
				x.exact[name] = append(x.exact[name], e)
			}
		}
	}
	return x
}

// Exactly calls yield with every file's entry that has name as a spelling.
func (x *Index) Exactly(name string, yield func(*Entry)) {
	for _, e := range x.exact[name] {
		if !e.Folder {
			yield(e)
		}
	}
}

// All calls yield with every entry that fits name, exact ones first.
func (x *Index) All(name string, folder bool, yield func(*Entry)) {
	for _, e := range x.exact[name] {
		if e.Folder == folder {
			yield(e)
		}
	}
	var lists [2][]candidate
	if dot := strings.LastIndexByte(name, '.'); dot >= 0 {
		lists[0] = x.patterns.byEnding[name[dot:]]
	}
	lists[1] = x.patterns.open
	for _, list := range lists {
		for _, c := range list {
			if c.entry.Folder != folder {
				continue
			}
			if _, ok := c.pattern.Match(name, nil); ok {
				yield(c.entry)
			}
		}
	}
}
