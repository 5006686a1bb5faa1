// Package python reads the imports of Python modules, The Python Language
// Reference, 7.11, and looks modules up.
package python

import (
	"bytes"
	"strings"

	"dicaxon/internal/lazy"
	"dicaxon/internal/refs/lang"
)

// Language is Python.
var Language = lang.Language{Endings: []string{".py", ".pyi"}, Read: read, Resolve: resolve, Lexis: &lexis}

var lexis = lang.Lexis{Line: []string{"#"}, Strings: []lang.Quote{
	{Open: `"""`, Close: `"""`, Escape: true, Lines: true}, {Open: "'''", Close: "'''", Escape: true, Lines: true},
	{Open: `"`, Close: `"`, Escape: true}, {Open: "'", Close: "'", Escape: true},
}}

var (
	fromImport = lazy.New(`\A;?[ \t]*from[ \t]+(\.*)[ \t]*([\p{L}_][\p{L}\p{N}_.]*)?[ \t]*import[ \t]*(\([^)]*\)|[^\n;]+)`)
	plain      = lazy.New(`\A;?[ \t]*import[ \t]+([\p{L}_][\p{L}\p{N}_., \t]*)`)
	class      = lazy.New(`\Aclass[ \t]+(\w+)`)
)

func read(text []byte) lang.File {
	code, broken := lexis.Scrub(text)
	// A backslash at the end of a line goes on with the statement.
	for i := 0; i+1 < len(code); i++ {
		if code[i] == '\\' && (code[i+1] == '\n' || code[i+1] == '\r' && i+2 < len(code) && code[i+2] == '\n') {
			for code[i] = ' '; code[i+1] != '\n'; i++ {
				code[i+1] = ' '
			}
			code[i+1] = ' '
		}
	}
	f := lang.File{Words: lang.VocabularyOf(text), Open: isDynamic(text)}
	if broken >= 0 {
		f.Broken = "a string does not end"
		f.BrokenLine, _ = lang.LinesOf(text).At(broken)
	}
	for _, m := range statementsOf(code, "from", fromImport) {
		if m[3] == m[2] && m[4] < 0 {
			continue
		}
		r := lang.Ref{Kind: lang.Import, Relative: m[3] - m[2], Span: lang.At(m[2], m[3])}
		if m[4] >= 0 {
			r.Name, r.Span = string(code[m[4]:m[5]]), lang.At(m[4], m[5])
		}
		r.Guarded = guarded(code, m[2])
		list := lang.At(m[6], m[7])
		if bytes.HasPrefix(list.In(code), []byte("(")) {
			list = lang.At(m[6]+1, m[7]-1)
		}
		for _, part := range lang.Split(code, list, ",") {
			one := r
			one.ValueSpan = lang.FirstWord(code, part)
			one.Value = string(one.ValueSpan.In(code))
			f.Refs = append(f.Refs, one)
		}
	}
	for _, m := range statementsOf(code, "import", plain) {
		for _, part := range lang.Split(code, lang.At(m[2], m[3]), ",") {
			name := lang.FirstWord(code, part)
			f.Refs = append(f.Refs, lang.Ref{Kind: lang.Import, Name: string(name.In(code)), Span: name, Guarded: guarded(code, m[2])})
		}
	}
	for _, m := range statementsOf(code, "class", class) {
		f.Refs = append(f.Refs, lang.Ref{Kind: lang.Type, Name: string(code[m[2]:m[3]]), Span: lang.At(m[2], m[3])})
	}
	f.Uses = uses(text, code, f.Refs)
	if broken < 0 && !f.Open {
		f.Uses.Gives = namesGiven(code)
	}
	return f
}

// statementsOf gives what an expression finds in the code, looking only where
// its word stands: that is where the time goes in a file without it.
func statementsOf(code []byte, word string, re *lazy.Regexp) [][]int {
	var all [][]int
	for from := 0; ; {
		i := bytes.Index(code[from:], []byte(word))
		if i < 0 {
			return all
		}
		i += from
		from = i + len(word)
		// A statement begins its line, or stands behind a semicolon.
		start := i
		for start > 0 && (code[start-1] == ' ' || code[start-1] == '\t') {
			start--
		}
		if start > 0 && code[start-1] == ';' {
			start--
		} else if start > 0 && code[start-1] != '\n' {
			continue
		}
		end := len(code)
		if length := bytes.IndexAny(code[i:], "\n;"); length >= 0 {
			end = i + length
		}
		if open := bytes.IndexByte(code[i:end], '('); open >= 0 {
			if closed := bytes.IndexByte(code[i:], ')'); closed > 0 {
				end = max(end, i+closed+1)
			}
		}
		if m := re.Get().FindSubmatchIndex(code[start:end]); m != nil {
			for k := range m {
				if m[k] >= 0 {
					m[k] += start
				}
			}
			all = append(all, m)
		}
	}
}

// mostBefore is how far above a statement, in bytes, what it stands below is looked for.
const mostBefore = 20_000

// guarded says whether a statement runs only under a condition, or where it may
// fail: below a try, an if, or what goes with them. Nobody knows of what is very long.
func guarded(code []byte, offset int) bool {
	start := bytes.LastIndexByte(code[:offset], '\n') + 1
	depth := indent(code[start:])
	for start > 0 && depth > 0 {
		if offset-start > mostBefore {
			return true
		}
		end := start - 1
		start = bytes.LastIndexByte(code[:end], '\n') + 1
		line := code[start:end]
		if d := indent(line); d < depth && len(bytes.TrimSpace(line)) > 0 {
			depth = d
			word, _, _ := strings.Cut(strings.TrimRight(string(bytes.TrimSpace(line)), ":"), " ")
			switch word {
			case "try", "except", "else", "finally", "if", "elif":
				return true
			case "with": // contextlib.suppress
				if bytes.Contains(line, []byte("suppress")) || bytes.Contains(line, []byte("raises")) {
					return true
				}
			}
		}
	}
	return false
}

// indent counts how far a line stands in.
func indent(line []byte) int {
	n := 0
	for n < len(line) && (line[n] == ' ' || line[n] == '\t') {
		n++
	}
	return n
}
