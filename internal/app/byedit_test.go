package app_test

import (
	"maps"
	"path"
	"regexp"
	"slices"
	"strings"
	"testing"

	"dicaxon/internal/app"
	"dicaxon/internal/finding"
	"dicaxon/internal/refs"
	"dicaxon/internal/treetest"
)

// An editSlip is what people mistype where they edit a text in the same way whatever the framework: a
// word in a line, of which two letters change places.
type editSlip struct{ kind, at, line, word string }

// written are the letters of one word.
var written = regexp.MustCompile(`[A-Za-z]{5,}`)

// ofSettings are files that say how a project is built and started.
var ofSettings = regexp.MustCompile(`^(?:Dockerfile|Makefile|Procfile|package\.json|tsconfig\.json|pyproject\.toml|Cargo\.toml|compose\.yaml|docker-compose\.ya?ml|[\w-]+\.(?:gradle|gradle\.kts|yml|ini|cfg))$`)

// editSlips gives one of each kind for an example, of what its own name chooses.
func (e *example) editSlips() (all []editSlip) {
	named := map[string]bool{}
	for f := range e.files {
		for _, word := range written.FindAllString(f, -1) {
			named[word] = true
		}
	}
	found := map[string][]editSlip{}
	add := func(kind, at, line, word string) {
		if named[word] || kind == "a key of settings" {
			found[kind] = append(found[kind], editSlip{kind, at, line, word})
		}
	}
	for _, f := range slices.Sorted(maps.Keys(e.files)) {
		imports := map[int]bool{}
		if refs.IsCode(f) && path.Ext(f) != ".md" {
			read := refs.Read(f, []byte(e.files[f]))
			for _, r := range read.Of(refs.Import) {
				imports[r.Line] = true
			}
		}
		for i, line := range strings.Split(e.files[f], "\n") {
			text := strings.TrimSpace(line)
			words := written.FindAllString(line, -1)
			switch {
			case len(words) == 0 || strings.HasPrefix(text, "#") || strings.HasPrefix(text, "//") || strings.HasPrefix(text, "*"):
			case imports[i+1]:
				add("a name in an import", f, line, words[len(words)-1])
			case ofSettings.MatchString(path.Base(f)):
				add("a word of settings", f, line, words[len(words)-1])
				if knownKey.MatchString(text) {
					add("a key of settings", f, line, words[0])
				}
			case slices.Contains([]string{".html", ".erb", ".twig", ".vue", ".svelte", ".astro"}, path.Ext(f)) && inMarkup.MatchString(text):
				m := inMarkup.FindStringSubmatch(text)
				add("a word in markup", f, line, m[1])
			}
		}
	}
	for _, kind := range slices.Sorted(maps.Keys(leastEdits)) {
		if of := found[kind]; len(of) > 0 {
			var lines []string
			for i := range of {
				lines = append(lines, of[i].at+"\n"+of[i].line)
			}
			all = append(all, of[slices.Index(lines, e.pick(kind, lines))])
		}
	}
	return all
}

var (
	knownKey = regexp.MustCompile(`^"?(?:scripts|dependencies|devDependencies|compilerOptions|services|build|image|environment|volumes|steps|requires-python|testpaths)"?\s*[:=]`)
	inMarkup = regexp.MustCompile(`(?:<|\{%|\{\{)[^<>]*["'=/ ]([a-z]{5,})[^a-z<>]*(?:>|%\}|\}\})`)
)

// leastEdits is how many of each kind are told at least.
var leastEdits = map[string]float64{"a name in an import": 0.93, "a word of settings": 0.94, "a key of settings": 0.98, "a word in markup": 0.9}

// TestSlipsOfEdits mistypes a word in each living example where people edit by hand, and counts what is
// told of it.
func TestSlipsOfEdits(t *testing.T) {
	t.Parallel()
	inEachExample(t, 20, leastEdits, func(t *testing.T, e *example, root string, known map[string]bool, n *tallyOf) {
		for _, s := range e.editSlips() {
			is := e.toldOfEdit(t, root, s, known)
			n.count(s.kind, is)
			if !is {
				t.Logf("silent: %s in %s: %s", s.word, s.at, s.line)
			}
		}
	})
}

// toldOfEdit makes a slip, says whether something new is told of its file or word, and takes it back.
func (e *example) toldOfEdit(t *testing.T, root string, s editSlip, known map[string]bool) bool {
	t.Helper()
	at := strings.LastIndex(s.line, s.word)
	if s.kind == "a key of settings" {
		at = strings.Index(s.line, s.word)
	}
	wrong := s.line[:at] + swapped(s.word) + s.line[at+len(s.word):]
	one := slip{line: s.kind + ": " + s.line, do: []string{"edit", s.at, "\x01" + s.line + "\x01" + wrong}}
	one.make(t, root)
	defer treetest.Restore(t, root, e.files)
	r, err := app.Check(t.Context(), root, app.Options{})
	if err != nil {
		t.Fatal(err)
	}
	for _, p := range r.Projects {
		for i := range p.Findings {
			f := &p.Findings[i]
			text := f.Path + " " + f.Message + " " + strings.Join(f.Also, " ")
			about := strings.Contains(text, s.at) || strings.Contains(text, s.word) || strings.Contains(text, swapped(s.word))
			if about && f.Level != finding.Note && !known[string(f.Kind)+" "+f.Path+" "+f.Message] {
				return true
			}
		}
	}
	return false
}
