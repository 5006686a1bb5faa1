package rules

import (
	"cmp"
	"fmt"
	"iter"
	"maps"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/edit"
	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/manifest"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
	"dicaxon/internal/refs/lang/golang"
	"dicaxon/internal/refs/lang/jvm"
	"dicaxon/internal/refs/lang/python"
)

var asElsewhere = &Rule{
	Name: "as-elsewhere", Kind: finding.Dangling, Level: finding.Warning, Always: true,
	Doc: "What one file imports of others under a mistyped name, other files call rightly: a module on the way, or what is taken of it.",
	Example: `- rule: as-elsewhere
  except: "tools/**"`,
	Options: []Option{{"except", Paths, false, "files whose imports may have names of their own", true}},
	Run:     runAsElsewhere,
}

// A way is one name on the way that imports of a language go: behind the others, it may be the
// last.
type way struct {
	files int    // in how many files it is gone
	last  string // the one that was met last
	ref   refs.Ref
	at    int // where the name begins in that of the reference; what is taken stands behind its end
}

// separators stand between the names of a module, by the ending of the file that imports it.
var separators = map[string]string{
	".py": ".", ".java": ".", ".kt": ".", ".kts": ".", ".cs": ".", ".go": "/", ".php": `\`, ".rs": "::", ".rb": "/", ".dart": "/",
	".js": "/", ".jsx": "/", ".mjs": "/", ".cjs": "/", ".ts": "/", ".tsx": "/", ".vue": "/", ".svelte": "/", ".swift": ".",
}

// isName is a name that somebody types.
var isName = lazy.New(`^[A-Za-z][\w-]{3,}$`)

func runAsElsewhere(c *Call) {
	if c.Files > mostTurned {
		return
	}
	c.Graph.Broken() // reads all files side by side, each once
	all := c.ways()
	for _, parent := range slices.Sorted(maps.Keys(all)) {
		in := all[parent]
		alike := byFirst(maps.Keys(in))
		for _, name := range slices.Sorted(maps.Keys(in)) {
			w := in[name]
			if w.files != 1 || !isName.Get().MatchString(name) {
				continue
			}
			meant := only(alike[name[0]], func(other string) bool {
				return names.MistypedWord(name, other) && (in[other].files != 1 || c.isOwn(in[other]))
			})
			if meant != "" && !c.inManifests(name) {
				c.tellElsewhere(w, name, meant, in[meant])
			}
		}
	}
}

// byFirst puts names together by their first letter, which nobody mistypes.
func byFirst(all iter.Seq[string]) map[byte][]string {
	by := map[byte][]string{}
	for name := range all {
		if name != "" {
			by[name[0]] = append(by[name[0]], name)
		}
	}
	return by
}

// standards are the modules that come with a language, by the ending of its files.
var standards = map[string]func() map[string]bool{".go": golang.Standard, ".py": python.Standard, ".java": jvm.Standard}

// isOwn says whether a name on the way is one of the project's own.
func (c *Call) isOwn(w *way) bool {
	return w.ref.Kind == refs.Package || len(c.Graph.Resolve(w.last, w.ref)) > 0
}

// besidePython says whether an import of Python names one module beside the file, where Python 2
// looked first.
func (c *Call) besidePython(at string, r refs.Ref) bool {
	return path.Ext(at) == ".py" && !strings.Contains(r.Name, ".") && c.node(path.Join(path.Dir(at), r.Name+".py")) != nil
}

// ways lists the names on the ways of all imports and packages, by what stands before them.
func (c *Call) ways() map[string]map[string]*way {
	all, used := map[string]map[string]*way{}, map[string]bool{}
	c.Graph.Look().Each(func(at string) {
		ending := path.Ext(at)
		separator, ok := separators[ending]
		if !ok || c.lends(at) || c.fits("except", at) || c.Graph.Noted(at).Broken != "" {
			return
		}
		if kin(ending, ".java") {
			ending = ".java"
		}
		used[ending] = true
		for _, r := range c.Graph.Noted(at).Refs {
			if r.Kind != refs.Import && r.Kind != refs.Package || r.Relative > 0 || strings.HasPrefix(r.Name, ".") || r.Name == "" || path.Ext(at) == ".rb" && r.Value == "" || c.besidePython(at, r) {
				continue // a constant of Ruby may come from anywhere
			}
			parts := strings.Split(r.Name, separator)
			if path.Ext(at) == ".php" && len(parts) == 1 {
				continue // a function of PHP itself
			}
			if takesNames(at) && r.Kind == refs.Import && isName.Get().MatchString(r.Value) {
				parts = append(parts, r.Value)
			}
			add(all, separator, parts, at, r)
		}
	})
	for _, ending := range slices.Sorted(maps.Keys(standards)) {
		if !used[ending] {
			continue
		}
		for name := range standards[ending]() {
			add(all, separators[ending], strings.Split(name, separators[ending]), "", refs.Ref{})
		}
	}
	return all
}

// add adds the names of one way, which a file goes, or everybody may go where that is "".
func add(all map[string]map[string]*way, separator string, parts []string, at string, r refs.Ref) {
	above, begin := separator, 0
	for _, part := range parts {
		if all[above] == nil {
			all[above] = map[string]*way{}
		}
		w := all[above][part]
		if w == nil {
			w = &way{ref: r, at: begin}
			all[above][part] = w
		}
		if w.last != at || at == "" {
			w.files++
			w.last = cmp.Or(at, w.last)
		}
		if at == "" {
			w.files++ // as good as many
		}
		above += part + separator
		begin += len(part) + len(separator)
	}
}

// inManifests says whether a manifest of the project has a name as a word.
func (c *Call) inManifests(name string) (found bool) {
	c.Graph.Look().Each(func(at string) {
		lists := manifest.Is(path.Base(at)) || path.Base(path.Dir(at)) == "requirements"
		found = found || lists && lang.HasWord(c.textOf(at), name)
	})
	return found
}

// tellElsewhere tells of the one import that has a name that all others write otherwise.
func (c *Call) tellElsewhere(w *way, name, meant string, right *way) {
	at := w.last
	e := refs.Edge{From: at, Ref: w.ref, Answer: c.Graph.Answer(at, w.ref)}
	if w.ref.Guarded || w.ref.Kind != refs.Import || len(e.To) > 0 && e.Within == "" {
		return
	}
	if e.Own {
		if likely, _, _ := c.likely(&e); !e.Only || len(likely) > 0 {
			return // that is told as leading nowhere
		}
	}
	span := w.ref.ValueSpan
	if w.at < len(w.ref.Name) {
		span = w.ref.Span
		if string(span.In(c.textOf(at))) == w.ref.Name {
			span = refs.Span{Start: span.Start + int32(w.at), End: span.Start + int32(w.at+len(name))}
		}
	}
	message := "it imports " + name + ", where others have " + meant
	if what := whatOf(at, w.ref); what != name {
		message = fmt.Sprintf("it imports %s, with %s where others have %s", what, name, meant)
	}
	f := c.atName(at, span, right.last, "%s", message)
	f.About = name
	if string(span.In(c.textOf(at))) == name {
		f.Fix = []edit.Edit{c.edit(at, span, meant)}
	}
}

// takesNames says whether what an import takes of a module stands in its value.
func takesNames(at string) bool { return path.Ext(at) == ".py" || kin(path.Ext(at), ".js") }

// whatOf says what a reference imports, with what it takes of it.
func whatOf(at string, r refs.Ref) string {
	if takesNames(at) && isName.Get().MatchString(r.Value) {
		return r.Value + " of " + r.Name
	}
	return r.Name
}
