package refs

import (
	"bytes"
	"strings"

	"dicaxon/internal/lazy"
)

var pythonLexis = lexis{line: []string{"#"}, strings: []quote{
	triple, {open: "'''", close: "'''", escape: true, lines: true}, double, single,
}}

var (
	fromImport = lazy.New(`(?m)(?:^|;)[ \t]*from[ \t]+(\.*)[ \t]*([\p{L}_][\p{L}\p{N}_.]*)?[ \t]*import[ \t]*(\([^)]*\)|[^\n;]+)`)
	plain      = lazy.New(`(?m)(?:^|;)[ \t]*import[ \t]+([\p{L}_][\p{L}\p{N}_., \t]*)`)
	pyType     = lazy.New(`(?m)^class[ \t]+(\w+)`)
)

// readPython reads the imports of a module: The Python Language Reference, 7.11.
func readPython(text []byte) File {
	code, broken := pythonLexis.scrub(text)
	// A backslash at the end of a line goes on with the statement.
	code = bytes.ReplaceAll(code, []byte("\\\n"), []byte("  "))
	at := linesOf(text)
	var f File
	if broken >= 0 {
		f.Broken = "a string does not end"
		f.BrokenLine, _ = at.at(broken)
	}
	for _, m := range statementsOf(code, "from", fromImport) {
		r := Ref{Kind: Import, Relative: m[3] - m[2]}
		r.Line, r.Column = at.at(m[2])
		if m[4] >= 0 {
			r.Name = string(code[m[4]:m[5]])
		}
		if r.Relative == 0 && r.Name == "" {
			continue
		}
		r.Value = strings.Join(importedNames(string(code[m[6]:m[7]])), ",")
		f.Refs = append(f.Refs, r)
	}
	for _, m := range statementsOf(code, "import", plain) {
		offset := m[2]
		for _, part := range strings.Split(string(code[m[2]:m[3]]), ",") {
			if name, _, _ := strings.Cut(strings.TrimSpace(part), " "); name != "" {
				r := Ref{Kind: Import, Name: name}
				r.Line, r.Column = at.at(offset + len(part) - len(strings.TrimLeft(part, " \t")))
				f.Refs = append(f.Refs, r)
			}
			offset += len(part) + 1
		}
	}
	for _, m := range statementsOf(code, "class", pyType) {
		r := Ref{Kind: Type, Name: string(code[m[2]:m[3]])}
		r.Line, r.Column = at.at(m[2])
		f.Refs = append(f.Refs, r)
	}
	return f
}

// importedNames gives the names of "a, b as c", without what they are called
// here.
func importedNames(list string) []string {
	var all []string
	for _, part := range strings.Split(strings.Trim(list, "()"), ",") {
		if fields := strings.Fields(part); len(fields) > 0 {
			all = append(all, fields[0])
		}
	}
	return all
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
		end := i + lineLength(code[i:])
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
