package rules

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/layout"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
)

// A wirer is a file that wires units, read once for all of them.
type wirer struct {
	text    string
	code    string              // squeezed
	imports map[string][]string // files and folders that it imports, with the words of the statements that do
	used    map[string]bool     // those of them with whose names it does something
	words   map[string]bool     // all words of such statements
	mounted []string            // what is mounted
}

func (w *wiring) wirerOf(at string) *wirer {
	if known := w.read[at]; known != nil {
		return known
	}
	code := string(w.Graph.Code(at))
	one := &wirer{text: code, code: squeezed(code), imports: map[string][]string{}, used: map[string]bool{}, words: map[string]bool{}}
	w.read[at] = one
	within := w.withoutAside([]byte(code))
	for _, mounts := range w.regexps["mounts"] {
		for _, m := range mounts.FindAll(within) {
			from, to := m[len(m)-2], m[len(m)-1]
			if from >= 0 && !isKey(code[to:]) {
				one.mounted = append(one.mounted, code[from:to])
			}
		}
	}
	if !w.flag("imports") {
		return one
	}
	said := w.refsOf(at)
	for _, r := range said.Refs {
		to := w.targets(w.homeOf(at), r)
		does := !slices.Contains(said.Uses.Idle, r.Span)
		if len(to) == 0 && r.Kind == refs.Import { // of others
			one.name(r)
		}
		for _, to := range to {
			one.note(to, r, does)
			if strings.HasPrefix(path.Base(to), "index.") { // which hands on what others have
				for _, on := range w.refsOf(to).Refs {
					for _, further := range w.targets(w.homeOf(to), on) {
						one.note(further, r, does)
					}
				}
			}
			// The package that the wiring file stands for is not a unit.
			if in := packageOfFile(to); !strings.HasPrefix(at, in+"/") {
				one.note(in, r, does)
			}
		}
	}
	return one
}

// isKey says whether what stands before a text is a key, whose value comes.
func isKey(rest string) bool {
	rest = strings.TrimLeft(rest, " \t")
	return strings.HasPrefix(rest, ":") && !strings.HasPrefix(rest, "::")
}

// note keeps that a reference imports a path, with the words by which it may be called, and whether anything is done with
// those.
func (w *wirer) note(to string, r refs.Ref, does bool) {
	w.used[to] = w.used[to] || does
	w.imports[to] = append(w.imports[to], w.name(r)...)
}

// name gives the words by which what a reference imports may be called.
func (w *wirer) name(r refs.Ref) []string {
	start, end, ends := int(r.Span.Start), int(r.Span.End), "\n"
	if r.ValueSpan.Len() > 0 { // of several names only its own
		start, end, ends = int(r.ValueSpan.Start), int(r.ValueSpan.End), ",)}\n"
	}
	end = min(end, len(w.text))
	if more := strings.IndexAny(w.text[end:], ends); more > 0 {
		end += more // where it may get another name
	}
	words := names.Identifiers(w.text[min(start, end):end])
	for _, word := range words {
		w.words[word] = true
	}
	return words
}

// wires says whether a file imports a unit, and whether it wires it.
func (w *wiring) wires(at string, unit file, offered string) (imports, done bool) {
	if at == unit.path {
		return false, false
	}
	by := w.wirerOf(at)
	var self *layout.Env
	if name := path.Base(unit.path); w.called[name] == 1 { // one that several have says nothing
		self = self.Bind("self", names.BeforeDot(name))
	}
	if offered != "" {
		self = self.Bind("offers", offered)
	}
	for _, mark := range append([]string{w.text("line")}, w.texts("or")...) {
		if mark = squeezed(fill(mark, unit.env, w.env, self)); mark != "" && mentions(by.code, mark) {
			return true, true
		}
	}
	// An import of the folder that is the unit counts, one of a folder that holds
	// several does not.
	of := unit.path
	var called []string
	used := false
	for range w.depthOf(unit) {
		if words, ok := by.imports[of]; ok {
			imports, called, used = true, append(called, words...), used || by.used[of]
		}
		of = path.Dir(of)
	}
	return imports, used && (offered == "" || w.regexps["mounts"] == nil || by.mounts(called))
}

// mounts says whether something that one of the words stands for is mounted, or
// something that was not imported and may be anything.
func (w *wirer) mounts(called []string) bool {
	for _, what := range w.mounted {
		known := false
		for _, word := range names.Identifiers(what) {
			if slices.Contains(called, word) {
				return true
			}
			known = known || w.words[word]
		}
		if !known {
			return true
		}
	}
	return false
}

// packageOfFile gives the folder that a file stands for: a marker or an index
// stands for all that is beside it.
func packageOfFile(at string) string {
	if name := path.Base(at); name == "__init__.py" || strings.HasPrefix(name, "index.") {
		return path.Dir(at)
	}
	return at
}

// squeezed takes out the spaces that mean nothing, so that a line is found
// however it is set.
func squeezed(text string) string {
	var b strings.Builder
	space := false
	last := byte(0)
	for i := 0; i < len(text); i++ {
		c := text[i]
		if c == ' ' || c == '\t' || c == '\n' || c == '\r' || c == '\\' && i+1 < len(text) && text[i+1] == '\n' {
			space = true
			continue
		}
		if space && wordByte(last) && wordByte(c) {
			b.WriteByte(' ')
		}
		b.WriteByte(c)
		last, space = c, false
	}
	return b.String()
}

// mentions says whether the code has the text as whole words.
func mentions(code, text string) bool { return names.HasWords(code, text) }

func wordByte(c byte) bool {
	return c == '_' || '0' <= c && c <= '9' || 'a' <= c && c <= 'z' || 'A' <= c && c <= 'Z'
}
