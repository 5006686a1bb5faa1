// Package script reads JavaScript and TypeScript, also in components, and looks
// their imports up: ECMAScript 2024, clauses 16.2.2 and 13.3.10, and require with
// a literal.
package script

import (
	"bytes"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/lazy"
	"dicaxon/internal/refs/lang"
)

// Language is JavaScript and TypeScript.
var Language = lang.Language{
	Endings: ofScripts, Names: []string{"www"},
	Read: read, Resolve: resolve, Patterns: &patterns,
}

var ofScripts = []string{".js", ".mjs", ".cjs", ".jsx", ".ts", ".mts", ".cts", ".tsx"}

// Component is a file that holds markup, script and style.
var Component = lang.Language{Endings: []string{".vue", ".svelte"}, Read: readComponent, Resolve: resolve, Patterns: &patterns}

// Page is a component whose script stands before its markup, between two lines of
// hyphens.
var Page = lang.Language{Endings: []string{".astro"}, Read: readPage, Resolve: resolve, Patterns: &patterns}

var patterns = lang.Patterns{
	Lexis: lang.Lexis{Line: []string{"//"}, Block: [][2]string{{"/*", "*/"}}, Regexps: true, Strings: []lang.Quote{
		{Open: `"`, Close: `"`, Escape: true}, {Open: "'", Close: "'", Escape: true}, {Open: "`", Close: "`", Escape: true, Lines: true, Inner: "${"}}},
	Statements: []lang.Statement{
		lang.Says(lang.Import, "import", `(?:^|[;}])[ \t]*import\s*(?:type\s+)?(?:(?P<what>[\w$*\s{},]+?)\s*from\s*)?`+lang.StringText),
		lang.Says(lang.Import, "export", `(?:^|[;}])[ \t]*export\s+(?:type\s+)?(?P<what>\*(?:\s+as\s+[\w$]+)?|\{[\w$\s,]*\})\s*from\s*`+lang.StringText),
		lang.Says(lang.Import, "require import", `(?:^|[^\w$.])(?:require|import)\s*\(\s*`+lang.StringText+`\s*[,)]`),
		lang.Says(lang.Import, "require.resolve", `\brequire\.resolve\s*\(\s*`+lang.StringText+`\s*\)`),
		lang.Says(lang.Import, "jest. vi.", `\b(?:jest|vi)\.(?:mock|doMock|unmock|requireActual|importActual)\s*\(\s*`+lang.StringText+`\s*[,)]`),
		lang.SaysAt(lang.Import, listed, `[\s,\[]\s*`+lang.StringText),
		lang.Says(lang.Import, "URL", `\bURL\s*\(\s*`+lang.StringText+`\s*,\s*import\.meta\.url`),
	},
}

func read(text []byte) lang.File {
	f, code := readCode(text)
	f.Uses = uses(text, code, f.Refs)
	f.Uses.Gives, f.Uses.Holds = handsOut(code), holdsOut(code)
	return f
}

// readCode reads code, and gives it with its comments gone and its texts hidden.
func readCode(text []byte) (lang.File, []byte) {
	f, code := patterns.ReadCode(text)
	all := f.Refs
	f.Refs = nil
	nothing := givesNothing(code)
	f.Words, f.Open = lang.VocabularyOf(withoutKept(text, code, nothing)), opens(text) && !nothing
	tries, own := lang.BlocksOf(code, "try"), givesRequire(code) || anyLoader.Match(code)
	for _, r := range all {
		before := lang.TrimEnd(text[:max(0, r.Span.Start-1)])
		if r.Value == "" && !goesOn(text[min(len(text), int(r.Span.End)+1):]) {
			r.ValueSpan, r.Value = unpacked(before)
		}
		r.Listed = len(before) > 0 && (before[len(before)-1] == '[' || before[len(before)-1] == ',')
		if len(before) > 0 && before[len(before)-1] == '(' {
			after := bytes.TrimLeft(code[min(len(code), int(r.Span.End)+1):], " \t\r\n")
			r.Guarded = own || tries.Around(int(r.Span.Start)) || bytes.HasPrefix(after, []byte(").catch")) || bytes.Contains(after[:min(len(after), 60)], []byte("virtual:"))
		}
		if bytes.HasSuffix(before, []byte("URL(")) && !strings.Contains(path.Base(r.Name), ".") {
			r.Guarded = true // a folder, as settings have it
		}
		clause := text
		if bytes.IndexByte(r.ValueSpan.In(text), '/') >= 0 { // a comment stands in it
			clause = code
		}
		f.Refs = append(f.Refs, taken(clause, r)...)
	}
	return f, code
}

// ownRequire finds what a file itself gives the name by which Node.js loads modules.
var ownRequire = lazy.New(`\b(?:const|let|var)\s+require\s*=\s*([\w.]*)|\bfunction\s+(require)\s*\(`)

// anyLoader finds a text that asks which loader of modules there is: it loads what it needs by that one alone.
var anyLoader = lazy.New(`\bdefine\.amd\b`)

// givesRequire says whether code gives a file a way of its own to load modules, other than the one
// that createRequire of Node.js gives.
func givesRequire(code []byte) bool {
	m := ownRequire.Get().FindSubmatch(code)
	return m != nil && !bytes.HasSuffix(m[1], []byte("createRequire"))
}

// goesOn says whether more is done with what a call loads before it is taken apart: the
// names are then those of a part of it, or of what it returns.
func goesOn(after []byte) bool {
	rest, closed := bytes.CutPrefix(bytes.TrimLeft(after, " \t\r\n"), []byte(")"))
	rest = bytes.TrimLeft(rest, " \t\r\n")
	return closed && len(rest) > 0 && bytes.IndexByte([]byte(".([?"), rest[0]) >= 0
}

// unpacked gives the names that a call which loads a module is taken apart into, as in
// const { a } = require('./b'), by what stands before its argument.
func unpacked(before []byte) (lang.Span, string) {
	before, ok := beforeCall(before)
	if !ok || !bytes.HasSuffix(before, []byte("}")) {
		return lang.Span{}, ""
	}
	open := bytes.LastIndexByte(before, '{')
	if open < 0 || bytes.Count(before[open:], []byte("}")) > 1 || bytes.ContainsAny(before[open:], "=./\"'") {
		return lang.Span{}, ""
	}
	return lang.At(open, len(before)), string(before[open:])
}

// beforeCall gives what stands before the sign that gives a name to what a call loads, by what
// stands before its argument.
func beforeCall(before []byte) ([]byte, bool) {
	for _, ends := range [][]string{{"("}, {"require", "await import", "import"}, {"="}} {
		i := slices.IndexFunc(ends, func(end string) bool { return bytes.HasSuffix(before, []byte(end)) })
		if i < 0 {
			return nil, false
		}
		before = lang.TrimEnd(before[:len(before)-len(ends[i])])
	}
	return before, true
}

// opens says whether a module may give names that do not stand in its text.
func opens(text []byte) bool {
	if bytes.Contains(text, []byte("export ")) && !bytes.Contains(text, []byte("module.exports")) {
		return exportsAll.Match(text)
	}
	return !exportsSome.Match(text) || exportsAny.Match(text)
}

// taken gives a reference for each name that a statement takes out of a module.
func taken(text []byte, r lang.Ref) []lang.Ref {
	if r.Value == "" {
		return []lang.Ref{r}
	}
	var all []lang.Ref
	add := func(s lang.Span, value string) {
		one := r
		one.ValueSpan, one.Value = s, value
		all = append(all, one)
	}
	what := r.ValueSpan
	braces := bytes.IndexByte(what.In(text), '{')
	if braces >= 0 {
		inner := lang.At(int(what.Start)+braces+1, int(what.Start)+bytes.LastIndexByte(what.In(text), '}'))
		if inner.End < inner.Start {
			inner.End = what.End
		}
		for _, part := range lang.Split(text, inner, ",") {
			name := lang.FirstWord(text, part)
			if string(name.In(text)) == "type" && name != part {
				rest := lang.At(int(name.End), int(part.End))
				name = lang.FirstWord(text, lang.Split(text, rest, ",")[0])
			}
			if i := bytes.IndexByte(name.In(text), ':'); i > 0 { // under another name here
				name.End = name.Start + int32(i)
			}
			add(name, string(name.In(text)))
		}
		what.End = what.Start + int32(braces)
	}
	for _, part := range lang.Split(text, what, ",") {
		value := "default"
		if text[part.Start] == '*' {
			value = "*"
		}
		add(part, value)
	}
	if len(all) == 0 { // import {} from
		r.Value = ""
		return []lang.Ref{r}
	}
	return all
}

// readPage reads the script before a page's markup, and those in it.
func readPage(text []byte) lang.File {
	fence := []byte("---")
	first := bytes.Index(text, fence)
	if first < 0 || len(lang.TrimEnd(text[:first])) > 0 {
		return readComponent(text)
	}
	last := bytes.Index(text[first+3:], []byte("\n---"))
	if last < 0 {
		return readComponent(text)
	}
	code := bytes.Clone(text)
	last += first + 3
	lang.Blank(code[first : first+3])
	lang.Blank(code[last : last+4])
	return readScripts(code, last+4)
}

// readComponent reads the scripts of a component.
func readComponent(text []byte) lang.File { return readScripts(bytes.Clone(text), 0) }

// partsIn gives the components that markup names and the script beside it does not say at all.
func partsIn(text, code []byte) (all []lang.Quoted) {
	words := lang.VocabularyOf(code)
	for at := 0; ; {
		i := bytes.IndexByte(text[at:], '<')
		if i < 0 {
			return all
		}
		start := at + i + 1
		at = start
		end := start
		for end < len(text) && lang.WordByte(text[end]) {
			end++
		}
		if end-start < 3 || text[start] < 'A' || text[start] > 'Z' || code[start] == text[start] || end < len(text) && text[end] == '.' {
			continue
		}
		if name := string(text[start:end]); !words.Has(name) && !builtIn()[name] {
			all = append(all, lang.Quoted{Name: name, Span: lang.At(start, end)})
		}
	}
}

// builtIn are components that the frameworks give.
var builtIn = lang.SetOf("Teleport KeepAlive Transition TransitionGroup Suspense Component RouterLink RouterView Fragment Slot DOCTYPE")

// readScripts reads the code before a place, and the scripts behind it; what stands
// around a script becomes blank, so that places stay.
func readScripts(code []byte, from int) lang.File {
	text := bytes.Clone(code)
	for {
		open := bytes.Index(text[from:], []byte("<script"))
		if open < 0 {
			break
		}
		end := bytes.IndexByte(text[from+open:], '>')
		stop := bytes.Index(text[from+open:], []byte("</script"))
		if end < 0 || stop < end {
			break
		}
		lang.Blank(code[from : from+open+end+1])
		from += open + stop
	}
	lang.Blank(code[from:])
	f, scrubbed := readCode(code)
	used := withoutStores(uses(code, scrubbed, f.Refs).Unbound, scrubbed)
	f.Uses = lang.Uses{Unbound: append(used, partsIn(text, code)...)} // the markup uses names, too
	return f
}

// withoutStores leaves out names with a $ before one that the script knows: the value of a store, as Svelte's
// components have it.
func withoutStores(used []lang.Quoted, code []byte) []lang.Quoted {
	var known map[string]bool
	return slices.DeleteFunc(used, func(u lang.Quoted) bool {
		name, is := strings.CutPrefix(u.Name, "$")
		if is && known == nil {
			known = wordsOf(code)
		}
		return is && known[name]
	})
}
