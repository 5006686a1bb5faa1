package refs

import (
	"bytes"
	"regexp"
	"strings"
)

var pythonLexis = lexis{line: []string{"#"}, strings: []quote{
	triple, {open: "'''", close: "'''", escape: true, lines: true}, double, single,
}}

var (
	fromImport = regexp.MustCompile(`(?m)(?:^|;)[ \t]*from[ \t]+(\.*)[ \t]*([\p{L}_][\p{L}\p{N}_.]*)?[ \t]*import[ \t]*(\([^)]*\)|[^\n;]+)`)
	plain      = regexp.MustCompile(`(?m)(?:^|;)[ \t]*import[ \t]+([\p{L}_][\p{L}\p{N}_., \t]*)`)
	pyType     = regexp.MustCompile(`(?m)^class[ \t]+(\w+)`)
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
	for _, m := range fromImport.FindAllSubmatchIndex(code, -1) {
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
	for _, m := range plain.FindAllSubmatchIndex(code, -1) {
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
	for _, m := range pyType.FindAllSubmatchIndex(code, -1) {
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
