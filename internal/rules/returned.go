package rules

import (
	"path"
	"regexp"
	"slices"
	"strings"

	"dicaxon/internal/lazy"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
	scripts "dicaxon/internal/refs/lang/script"
)

var (
	// calls finds that what a function of use… returns is given a name, or taken apart; it is one by its name (React,
	// "Reusing Logic with Custom Hooks"; Vue, "Composables"; Pinia, "Defining a Store").
	calls = lazy.New(`\b(?:const|let)\s+(\{[^{}]*\}|[\w$]+)\s*=\s*(?:storeToRefs\(\s*)?(use[A-Z]\w*)\(`)
	// takesApart finds that what has a name is taken apart.
	takesApart = lazy.New(`\b(?:const|let)\s+(\{[^{}]*\})\s*=\s*(?:storeToRefs\(\s*)?([\w$]+)\)?\s*(?:;|\n)`)
	partTaken  = lazy.New(`[{,]\s*([\w$]+)\s*[,:=}]`)
)

// tellReturned tells of what a script takes of the object that a function of the project returns, where that is not in it.
func (c *Call) tellReturned(at string, said *refs.File) {
	code := c.Graph.Code(at)
	for _, m := range calls.Get().FindAllSubmatchIndex(code, -1) {
		what, name := string(code[m[2]:m[3]]), string(code[m[4]:m[5]])
		to, module := c.importedAs(at, said, name)
		if !kin(path.Ext(to), ".ts") || strings.HasSuffix(to, ".d.ts") {
			continue
		}
		has := scripts.ReturnsOf(c.Graph.Code(to), name)
		if len(has) == 0 {
			continue
		}
		tell := func(start, end int) {
			if taken := string(code[start:end]); !has.Has(taken) && taken[0] != '$' && !c.putInto(name, taken) {
				c.notGiven(at, lang.Member{Name: taken, Span: lang.At(start, end)}, to, name+" in "+module, nearOne(taken, c.namesIn(to, has)))
			}
		}
		if what[0] == '{' {
			tellParts(code, m[2], m[3], tell)
			continue
		}
		c.tellOfNamed(code, what, tell)
	}
}

// importedAs gives the one module of the project out of which a file takes something under its own name or as its
// default, and how the file calls it; "" where there is none.
func (c *Call) importedAs(at string, said *refs.File, name string) (to, module string) {
	for _, r := range said.Of(refs.Import) {
		if r.Value != name && (r.Value != "default" || string(r.ValueSpan.In(c.textOf(at))) != name) {
			continue
		}
		if a := c.Graph.Answer(at, r); a.Within == "" && len(a.To) == 1 {
			return a.To[0], r.Name
		}
	}
	return "", ""
}

// tellParts tells of each name that an object is taken apart into, between two places of a text.
func tellParts(code []byte, from, to int, tell func(start, end int)) {
	for at := from; at < to; {
		m := partTaken.Get().FindSubmatchIndex(code[at:to])
		if m == nil {
			return
		}
		tell(at+m[2], at+m[3])
		at += m[3]
	}
}

// tellOfNamed tells of the members of what has a name in a script, where the name is given once.
func (c *Call) tellOfNamed(code []byte, name string, tell func(start, end int)) {
	is := regexp.QuoteMeta(name)
	bound := regexp.MustCompile(`\b(?:const|let|var|function|class)\s+` + is + `\b|\(\s*` + is + `\s*(?::[^)]*)?\)\s*(?::[^=]*)?=>|\b` + is + `\s*=>|\bfunction\b[^({]*\([^)]*\b` + is + `\b|[,(]\s*` + is + `\s*:|\b` + is + `\s*=[^=>]|[,(]\s*` + is + `\s*,[^()]*\)\s*=>|\{[^{}=;]*\b` + is + `\b[^{}=;]*\}\s*(?:\)\s*=>|:|=[^=>])`)
	if len(bound.FindAll(code, 2)) > 1 {
		return
	}
	member := regexp.MustCompile(`(?:^|[^.\w$/"'-])` + is + `\s*\.\s*([A-Za-z_]\w*)`)
	for _, m := range member.FindAllSubmatchIndex(code, -1) {
		if !setOrAsked.Match(code[m[3]:]) {
			tell(m[2], m[3])
		}
	}
	for _, m := range takesApart.Get().FindAllSubmatchIndex(code, -1) {
		if string(code[m[4]:m[5]]) == name {
			tellParts(code, m[2], m[3], tell)
		}
	}
}

// namesIn gives the names in a module that are in what it returns.
func (c *Call) namesIn(at string, has lang.Vocabulary) (all []string) {
	lang.EachWord(c.Graph.Code(at), func(_ int, word []byte) {
		if name := string(word); has.Has(name) && !slices.Contains(all, name) {
			all = append(all, name)
		}
	})
	return all
}
