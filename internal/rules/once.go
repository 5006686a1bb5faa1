package rules

import (
	"bytes"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/names"
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
		{"except", Paths, false, "files that may have names of others", true},
		{"by", Finders, false, "finds a name: its groups joined, of which that called name is told; if left out, the names are those of the files, without their endings", false},
		{"by-path", Regexps, false, "finds the name in the path of a file, below the project: its groups joined", false},
		{"what", Text, true, "what is named", false},
		{"inside", Regexps, false, "names are looked for in such parts of a text alone, each by itself where within is true", false},
		{"within", Flag, false, "true where a name need be the only one in its file alone", false},
		{"in-folder", Flag, false, "true where a name need be the only one in the files of its folder alone", false},
		inParts,
	},
	Run: func(c *Call) {
		first := map[string]finding.Place{}
		for _, f := range c.files("files") {
			if c.lends(f.path) && !f.meant() || inSample(f.path) || c.fits("except", f.path) {
				continue
			}
			if c.regexps["by"] == nil {
				c.calledTwice(f.path, first)
				continue
			}
			code := undocumented(f.path, c.Graph.Code(f.path))
			for _, re := range c.regexps["by"] {
				for _, part := range partsOf(code, c.regexps["inside"]) {
					if c.flag("within") {
						first = map[string]finding.Place{}
					}
					scope := ""
					if c.flag("in-folder") {
						scope = path.Dir(f.path)
					}
					c.twice(f.path, code[:part[1]], part[0], re, scope, first)
				}
			}
		}
	},
}

// twice tells of names that were met before in their scope, and notes the others. They are found from
// a place of a text on.
func (c *Call) twice(at string, code []byte, from int, re *lazy.Regexp, scope string, first map[string]finding.Place) {
	shown := re.Get().SubexpIndex("name")
	for _, m := range re.FindAll(code[from:]) {
		var parts []string
		for k := 2; k < len(m); k += 2 {
			if m[k] >= 0 {
				parts = append(parts, string(code[from+m[k]:from+m[k+1]]))
			}
		}
		line, column := refs.Place(code, refs.Span{Start: int32(from + max(m[2], m[0]))})
		name := strings.Join(parts, " ")
		key := scope + "\x00" + name
		if shown > 0 {
			name = string(code[from+m[2*shown] : from+m[2*shown+1]])
		}
		before, known := first[key]
		lost := "; one of them is never reached"
		if c.asked.Says != "" {
			lost = ""
		}
		switch {
		case !known:
			first[key] = finding.Place{Path: at, Line: line}
		case slices.Contains(parts, ""):
		case c.flag("within"):
			c.report(at, line, column, nil, "the %s %s is given twice, on line %d too", c.text("what"), name, before.Line).About = name
		default:
			c.report(at, line, column, &before, "the %s %s is given twice, in %s, too%s", c.text("what"), name, before.Path, lost).About = name
		}
	}
}

// calledTwice tells of a file that is called as one before, and notes the others.
func (c *Call) calledTwice(at string, first map[string]finding.Place) {
	name := names.BeforeDot(path.Base(at))
	for _, re := range c.regexps["by-path"] {
		m := re.Get().FindStringSubmatch(at)
		if m == nil {
			return
		}
		name = strings.Join(m[1:], " ")
	}
	before, known := first[name]
	if !known {
		first[name] = finding.Place{Path: at}
		return
	}
	c.report(at, 0, 0, &before, "the %s %s is here twice, as %s, too", c.text("what"), name, c.Top.Path()+before.Path).About = name
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
