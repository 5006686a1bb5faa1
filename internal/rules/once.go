package rules

import (
	"bytes"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/refs"
)

var once = &Rule{
	Name: "once", Kind: finding.Disagrees, Level: finding.Error,
	Doc: "A name is given once: an address, an endpoint, the number of a job. Of two, one is never reached.",
	Example: `- rule: once
  files: "<project>/**/*.py"
  by: '@app\.route\(\s*["'']([^"'']+)["'']\s*\)'
  what: address`,
	Options: []Option{
		{"files", Paths, true, "the files", true},
		{"by", Finders, true, "finds a name: its groups joined", false},
		{"what", Text, true, "what is named", false},
		{"within", Flag, false, "true where a name need be the only one in its file alone", false},
	},
	Run: func(c *Call) {
		first := map[string]finding.Place{}
		for _, f := range c.files("files") {
			if c.lends(f.path) || inSample(f.path) {
				continue
			}
			code := undocumented(f.path, c.Graph.Code(f.path))
			for _, re := range c.regexps["by"] {
				for _, m := range re.FindAll(code) {
					var parts []string
					for k := 2; k < len(m); k += 2 {
						if m[k] >= 0 {
							parts = append(parts, string(code[m[k]:m[k+1]]))
						}
					}
					line, column := refs.Place(code, refs.Span{Start: int32(max(m[2], m[0]))})
					name := strings.Join(parts, " ")
					key := name
					if c.flag("within") {
						key = f.path + "\x00" + name
					}
					at, known := first[key]
					if !known {
						first[key] = finding.Place{Path: f.path, Line: line}
						continue
					}
					if slices.Contains(parts, "") {
						continue
					}
					c.report(f.path, line, column, &at, "the %s %s is given twice, in %s, too; one of them is never reached", c.text("what"), name, at.Path).About = name
				}
			}
		}
	},
}

// docs are the long texts of Python: what they hold is shown, not run.
var docs = lazy.New(`(?s)"""(?:[^"]|"[^"]|""[^"])*"""|'''.*?'''`)

// undocumented gives code with the long texts in it blank.
func undocumented(at string, code []byte) []byte {
	if path.Ext(at) != ".py" {
		return code
	}
	return docs.Get().ReplaceAllFunc(code, func(text []byte) []byte {
		return bytes.Map(func(r rune) rune {
			if r == '\n' {
				return r
			}
			return ' '
		}, bytes.ToValidUTF8(text, nil))
	})
}
