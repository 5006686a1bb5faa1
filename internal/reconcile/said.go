package reconcile

import (
	"fmt"
	"path"
	"slices"
	"strings"
	"unicode"

	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/names"
	"dicaxon/internal/placement"
	"dicaxon/internal/refs"
)

// A text is what is known of a stray's text, once it is asked for.
type text struct {
	words map[string]bool
	says  []string // the names of its package or namespace line, from the outermost
}

// mostRead bounds how many strays are read for what they say of themselves, and
// how many files for what they say of them.
const (
	mostRead  = 2000
	mostFiles = 20000
)

func (r *reconciler) textOf(s *stray) *text {
	at := s.Path()
	t := r.texts[at]
	if t == nil {
		t = &text{}
		r.texts[at] = t
		if len(r.texts) <= mostRead && refs.Reads(at) {
			if p := r.Graph.Of(strings.TrimPrefix(at, r.Top.Path())).Package(); p != nil {
				t.says = strings.FieldsFunc(p.Name, separates)
			}
		}
	}
	return t
}

// stated says whether the manifest at the top names the stray where it lies, as
// the entry file of a package is: whatever else the layout says, it is at home.
func (r *reconciler) stated(s *stray) bool {
	if r.states == nil {
		r.states = map[string]bool{}
		for _, n := range r.manifestsIn(r.Top) {
			for _, ref := range r.Graph.Of(n.Name).Refs {
				for _, word := range strings.Fields(ref.Value) {
					if at := path.Clean(word); strings.ContainsAny(at, "./") || ref.Kind == refs.Key {
						r.states[at] = true
					}
				}
			}
		}
	}
	return r.states[strings.TrimSuffix(strings.TrimPrefix(s.Path(), r.Top.Path()), "/")]
}

func separates(c rune) bool { return c == '.' || c == '\\' || c == '/' || c == ':' }

// speaks says whether anything is said of where the stray belongs: by its own
// package line, or by a reference to it.
func (r *reconciler) speaks(s *stray) bool {
	return s.Node().Folder == nil && r.MostFolders == 0 && (len(r.textOf(s).says) > 0 || len(r.wants()[names.BeforeDot(s.Node().Name)]) > 0)
}

// saidOf raises the evidence of a home that the stray's own package line, or a
// reference elsewhere, names.
func (r *reconciler) saidOf(s *stray, h *home) {
	if r.MostFolders > 0 {
		return
	}
	folder := strings.TrimPrefix(parentPath(h.path), r.Top.Path())
	if says := r.textOf(s).says; len(says) > 0 && h.evidence < Declared && !r.agreed(s) {
		here := strings.TrimPrefix(s.Folder.Path(), r.Top.Path())
		if n := tail(says, folder); n > tail(says, here) && (n == len(says) || n > 1) && says[len(says)-1] != "main" {
			h.evidence, h.says = Declared, fmt.Sprintf("it says that it is in %s", says[len(says)-1])
			if len(says) > 1 {
				h.says = "its package line says so"
			}
		}
	}
	for _, w := range r.wants()[names.BeforeDot(s.Node().Name)] {
		at := strings.TrimPrefix(h.path, r.Top.Path())
		if w.from == strings.TrimPrefix(s.Path(), r.Top.Path()) || h.evidence == Referenced {
			continue
		}
		if r.leads(w, at) && !r.leads(w, strings.TrimPrefix(s.Path(), r.Top.Path())) && r.gives(s, w.ref) {
			h.evidence, h.says = Referenced, fmt.Sprintf("%s:%d looks for it there", r.Top.Path()+w.from, w.ref.Line)
		}
	}
}

// agreed says whether another file beside the stray is of the same package: then
// the package line speaks for where both lie.
func (r *reconciler) agreed(s *stray) bool {
	says := r.textOf(s).says
	for i := range s.Folder.Nodes {
		n := &s.Folder.Nodes[i]
		if i == s.Index || n.Folder != nil || n.Ignored || path.Ext(n.Name) != path.Ext(s.Node().Name) {
			continue
		}
		if slices.Equal(says, r.textOf(&stray{Stray: placement.Stray{Folder: s.Folder, Index: i}}).says) {
			return true
		}
	}
	return false
}

// folderSays raises the evidence of a folder's home where all the files in it say
// that they are there.
func (r *reconciler) folderSays(s *stray, h *home) {
	f := s.Node().Folder
	if r.MostFolders > 0 || f == nil || f.Unread || h.evidence >= Declared {
		return
	}
	home, here := strings.TrimPrefix(h.path, r.Top.Path()), strings.TrimPrefix(f.Path(), r.Top.Path())
	told := 0
	for i := range f.Nodes {
		n := &f.Nodes[i]
		if n.Folder != nil || n.Ignored || !refs.IsCode(n.Name) {
			continue
		}
		says := r.textOf(&stray{Stray: placement.Stray{Folder: f, Index: i}}).says
		if k := tail(says, home); len(says) == 0 || k <= tail(says, here) || k < min(len(says), 2) {
			return
		}
		told++
	}
	if told > 0 {
		h.evidence, h.says = Declared, "the package lines of its files say so"
	}
}

// tail counts the names at the end of a package that are those at the end of a
// folder's path; the dots in a folder's name separate as slashes do.
func tail(says []string, folder string) int {
	parts := strings.FieldsFunc(folder, separates)
	n := 0
	for n < len(says) && n < len(parts) && names.Same(says[len(says)-1-n], parts[len(parts)-1-n]) {
		n++
	}
	return n
}

// A want is a reference by whose last name a stray may be meant.
type want struct {
	from string
	ref  refs.Ref
}

// wants lists the references of the project's files by the names that they end
// in, read only where there are strays to explain by them.
func (r *reconciler) wants() map[string][]want {
	if r.wanting != nil {
		return r.wanting
	}
	r.wanting = map[string][]want{}
	stems := map[string]bool{}
	for i := range r.strays {
		if n := r.strays[i].Node(); n.Folder == nil {
			stems[names.BeforeDot(n.Name)] = true
		}
	}
	if len(stems) == 0 || len(stems) > mostRead || r.Files > mostFiles {
		return r.wanting
	}
	var files []string
	placement.Files{Placement: r.Placement}.Each(func(at string) {
		if refs.IsCode(at) {
			files = append(files, at)
		}
	})
	r.Graph.Ahead(files)
	for _, at := range files {
		for _, ref := range r.Graph.Of(at).Refs {
			if ref.Kind != refs.Import && ref.Kind != refs.Link {
				continue
			}
			for _, name := range append(strings.Split(ref.Value, ","), ref.Name) {
				if last := strings.FieldsFunc(strings.TrimSuffix(name, path.Ext(name)), separates); len(last) > 0 && stems[last[len(last)-1]] {
					r.wanting[last[len(last)-1]] = append(r.wanting[last[len(last)-1]], want{at, ref})
					continue
				}
				if last := strings.FieldsFunc(name, separates); len(last) > 0 && stems[last[len(last)-1]] {
					r.wanting[last[len(last)-1]] = append(r.wanting[last[len(last)-1]], want{at, ref})
				}
			}
		}
	}
	return r.wanting
}

// lookedFor finds the described places at which references that lead nowhere look for a file
// of the stray's name.
func (r *reconciler) lookedFor(all []home, s *stray) []home {
	n := s.Node()
	if n.Folder != nil || r.MostFolders > 0 {
		return all
	}
	for _, w := range r.wants()[names.BeforeDot(n.Name)] {
		a := r.Graph.Answer(w.from, w.ref)
		if len(a.To) > 0 || !a.Own || r.Top.Path()+w.from == s.Path() || !r.gives(s, w.ref) {
			continue
		}
		for _, at := range a.Sought {
			to := r.Lookup(at)
			if path.Base(at) != n.Name || to.There || to.State != placement.Placed || to.Entry.Need.Banned() || to.Entry.MadeBy != "" {
				continue
			}
			h := home{kind: finding.Misplaced, entry: to.Entry, env: to.Env, path: r.Top.Path() + at, slip: names.Apart, evidence: Referenced,
				says: fmt.Sprintf("%s:%d looks for it there", r.Top.Path()+w.from, w.ref.Line), steps: steps(s.Folder.Path(), parentPath(r.Top.Path()+at))}
			if !slices.ContainsFunc(all, func(o home) bool { return o.path == h.path && o.evidence == Referenced }) {
				all = append(all, r.waiting(h))
			}
		}
	}
	return all
}

// gives says whether a stray may be what a script imports: its text says the name that is taken out
// of it.
func (r *reconciler) gives(s *stray, ref refs.Ref) bool {
	if ref.Value == "" || ref.Value == "default" || ref.Value == "*" || strings.Contains(ref.Value, ",") {
		return true
	}
	switch path.Ext(s.Node().Name) {
	case ".js", ".jsx", ".mjs", ".ts", ".tsx", ".mts":
		return r.words(s)[ref.Value]
	}
	return true
}

// leads says whether a reference would lead to a path, were the file there.
func (r *reconciler) leads(w want, at string) bool {
	return r.Graph.Leads(w.from, w.ref, at)
}

// mentions says whether the text of a stray names a unit that the place lies in
// and the stray does not: in "from ferry.berths import", the unit is berths.
func (r *reconciler) mentions(s *stray, env *layout.Env) bool {
	around := r.around(s)
	for ; env != nil; env = env.Next {
		if _, here := around.Get(env.Name); here || len(r.Units[env.Name]) == 0 {
			continue
		}
		if r.words(s)[env.Value] {
			return true
		}
	}
	return false
}

// words gives the words of a stray's text: runs of letters, digits, "_" and "-".
func (r *reconciler) words(s *stray) map[string]bool {
	t := r.textOf(s)
	if t.words == nil {
		t.words = map[string]bool{}
		text, _ := r.Repository.Text(s.Path())
		for _, word := range strings.FieldsFunc(string(text), func(c rune) bool {
			return c != '_' && c != '-' && !unicode.IsLetter(c) && !unicode.IsDigit(c)
		}) {
			t.words[word] = true
		}
	}
	return t.words
}
