package rules

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
)

var order = &Rule{
	Name: "order", Kind: finding.Disagrees, Level: finding.Error,
	Doc: "A page loads its scripts in an order in which each finds what it needs while it is loaded.",
	Example: `- rule: order
  files: index.html
  links: ["js/libs/**/*.js", "js/models/*.js", "js/app.js"]`,
	Options: []Option{
		{"files", Paths, true, "the pages", false},
		{"links", Paths, true, "what is loaded, in the order in which it should be where nobody can tell what a script defines", false},
		{"globals", Texts, false, "names that libraries give to all scripts, each as \"NAME = library\", by what their files are called without versions", false},
	},
	Run: func(c *Call) {
		for _, f := range c.files("files") {
			var all []*script
			for _, r := range c.refsOf(f.path).Of(refs.Link) {
				at := path.Join(path.Dir(f.path), r.Name)
				if lib := c.library(r); lib != nil {
					all = append(all, lib)
					continue
				}
				if r.Value != "script" || c.node(at) == nil {
					continue
				}
				if s := c.script(at, r); s != nil {
					all = append(all, s)
				}
			}
			tellOrder(c, f, all)
		}
	},
}

// A script is one that a page loads.
type script struct {
	ref     refs.Ref
	rank    int      // where it should stand, -1 where nothing says
	defines []string // names that others may use
	needs   map[string]bool
}

// library gives the script of a library that gives names to all others, wherever it lies; nil for another.
func (c *Call) library(r refs.Ref) *script {
	called := strings.ToLower(strings.TrimSuffix(path.Base(strings.SplitN(r.Name, "?", 2)[0]), ".js"))
	called = ofRelease.Get().ReplaceAllString(called, "")
	var s *script
	for _, one := range c.texts("globals") {
		if name, library, _ := strings.Cut(one, "="); r.Value == "script" && strings.TrimSpace(library) == called {
			if s == nil {
				s = &script{ref: r, rank: -1, needs: map[string]bool{}}
			}
			s.defines = append(s.defines, strings.TrimSpace(name))
		}
	}
	return s
}

// ofRelease is the end of the name of a library's file that says which release it is, and of which form.
var ofRelease = lazy.New(`(?:[.-](?:min|slim|umd|debug|v?\d\w*))+$`)

// givings are ways in which a script without modules gives others a name.
var givings = []*lazy.Regexp{
	lazy.New(`(?m)^(?:var|let|const|function|class)\s+([A-Za-z_$][\w$]*)`),
	lazy.New(`(?:window|root|global|globalThis|self)\.([A-Za-z_$][\w$.]*)\s*=[^=]`),
	lazy.New(`(?m)^\s*([A-Z][\w$]*(?:\.[A-Za-z_$][\w$]*)+)\s*=[^=]`),
	lazy.New(`(?m)^\s*([a-z_$][\w$]*(?:\.[A-Za-z_$][\w$]*)*\.[A-Z][\w$]*)\s*=[^=]`), // a class below a name of the application
}

// script reads what a script of a page defines, and what it uses while it is loaded.
// Of a library only its rank is known; one that has none is nil.
func (c *Call) script(at string, r refs.Ref) *script {
	s := &script{ref: r, rank: c.rank(c.paths["links"], at), needs: map[string]bool{}}
	switch e := c.Lookup(at).Entry; {
	case s.rank < 0 && (e == nil || e.MadeBy != ""):
		return nil
	case e != nil && e.MadeBy != "":
		return s
	}
	code := string(c.Graph.Code(at))
	for _, d := range givings {
		for _, m := range d.Get().FindAllStringSubmatchIndex(code, -1) {
			name := code[m[2]:m[3]]
			line, _, _ := strings.Cut(code[m[3]:], "\n")
			if strings.Contains(line, "||") || slices.Contains(s.defines, name) {
				continue // made where nobody made it before
			}
			s.defines = append(s.defines, name)
		}
	}
	now := whileLoaded(code)
	for _, word := range strings.FieldsFunc(now, func(r rune) bool { return r != '.' && r != '_' && r != '$' && !names.WordRune(r) }) {
		for end := len(word); end > 0; end = strings.LastIndexByte(word[:end], '.') { // what is before a dot, too
			s.needs[strings.TrimPrefix(word[:end], "window.")] = true
		}
	}
	return s
}

// needed says whether a script uses what another defines while it is loaded. Where
// nobody can tell what that one defines, the layout's order says so.
func (s *script) needed(by *script) bool {
	if len(s.defines) == 0 || s.rank >= 0 && len(by.needs) == 0 {
		return s.rank >= 0 && by.rank > s.rank
	}
	return slices.ContainsFunc(s.defines, func(name string) bool { return by.needs[name] && !slices.Contains(by.defines, name) })
}

// tellOrder tells of the scripts that stand out of place: of two that are in the wrong
// order, the one that is so with more of the others.
func tellOrder(c *Call, f file, all []*script) {
	type pair struct{ early, late int }
	var wrong []pair
	for i := range all {
		for k := i + 1; k < len(all); k++ {
			if all[k].needed(all[i]) {
				wrong = append(wrong, pair{i, k})
			}
		}
	}
	for len(wrong) > 0 {
		times := make([]int, len(all))
		for _, p := range wrong {
			times[p.early]++
			times[p.late]++
		}
		worst := wrong[0].late
		for _, p := range wrong {
			for _, i := range []int{p.late, p.early} {
				if times[i] > times[worst] {
					worst = i
				}
			}
		}
		i := slices.IndexFunc(wrong, func(p pair) bool { return p.early == worst || p.late == worst })
		early, late := all[wrong[i].early].ref, all[wrong[i].late].ref
		if worst == wrong[i].late {
			c.atRef(f.path, late, &finding.Place{Path: f.path, Line: early.Line}, "%s is loaded after %s, which needs it", late.Name, early.Name)
		} else {
			c.atRef(f.path, early, &finding.Place{Path: f.path, Line: late.Line}, "%s is loaded before %s, which it needs", early.Name, late.Name)
		}
		wrong = slices.DeleteFunc(wrong, func(p pair) bool { return p.early == worst || p.late == worst })
	}
}

// whileLoaded gives the code that runs while a script is loaded: what stands in
// functions that are called later is left out, what stands in one that is called on
// the spot is not.
func whileLoaded(code string) string {
	var b strings.Builder
	var later []bool // of each open brace: whether it is the body of a function called later
	skip := 0
	for i := range len(code) {
		switch code[i] {
		case '{':
			deferred := isBody(code[:i])
			later = append(later, deferred)
			if deferred {
				skip++
			}
		case '}':
			if n := len(later); n > 0 {
				if later[n-1] {
					skip--
				}
				later = later[:n-1]
			}
		}
		if skip == 0 {
			b.WriteByte(code[i])
		} else if code[i] == '{' {
			b.WriteByte(' ')
		}
	}
	return b.String()
}

// header is what stands before the body of a function, and before that of a block.
var (
	header = lazy.New(`(?:(\(\s*|[!+-]\s*)?(?:async\s+)?\bfunction\b\s*\*?\s*[\w$]*\s*\([^()]*\)|=>|\b([\w$]+)\s*\((?:[^()]|\([^()]*\))*\))\s*$`)
	blocks = []string{"if", "for", "while", "switch", "catch", "with"}
)

// isBody says whether what opens after some code is the body of a function that is
// not called on the spot.
func isBody(before string) bool {
	before = before[max(0, len(before)-200):]
	m := header.Get().FindStringSubmatchIndex(before)
	if m == nil {
		return false
	}
	if m[4] >= 0 {
		return !slices.Contains(blocks, before[m[4]:m[5]])
	}
	if m[2] < 0 {
		return true
	}
	// "(function () {" is called on the spot, "$(function () {" is not.
	ahead := strings.TrimRight(before[:m[2]], " \t\n")
	return before[m[2]] == '(' && ahead != "" && (names.WordRune(rune(ahead[len(ahead)-1])) || ahead[len(ahead)-1] == '$' || ahead[len(ahead)-1] == ')')
}
