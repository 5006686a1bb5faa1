package rules

import (
	"strconv"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
)

var atLeast = &Rule{
	Name: "at-least", Kind: finding.Disagrees, Level: finding.Warning,
	Doc: "A version that one file takes is no older than another asks for, such as that of a container image.",
	Example: `- rule: at-least
  files: "**/Dockerfile"
  by: '(?im)^FROM\s+golang:(\d+\.\d+)'
  asks: 'go.mod~(?m)^go (\d+\.\d+)'`,
	Options: []Option{
		{"files", Paths, true, "the files that take a version", true},
		{"by", Finders, true, "finds it: its first group", false},
		{"asks", Texts, true, "where the oldest one that will do stands, as file~regular expression with a group, in the folder of the file or the nearest one around it", false},
		{"unless", Regexps, false, "what such a file says where another version is taken after all", false},
	},
	Check: checkPlace("asks"),
	Run: func(c *Call) {
		asks := c.findersAt("asks")
		for _, f := range c.files("files") {
			if code := c.Graph.Code(f.path); !c.lends(f.path) && !anyFits(c.regexps["unless"], code) {
				c.tellOlder(f.path, code, asks)
			}
		}
	},
}

// tellOlder tells of the versions in a text that are older than the one that the first of some files asks for.
func (c *Call) tellOlder(at string, code []byte, asks []finderAt) {
	for _, ask := range asks {
		_, by := c.Graph.Look().Nearest(at, ask.file)
		asked := ask.finds.Get().FindSubmatch(c.textOf(by))
		if by == "" || asked == nil {
			continue
		}
		for _, re := range c.regexps["by"] {
			for _, m := range re.FindAll(code) {
				if version := string(code[m[2]:m[3]]); older(version, string(asked[1])) {
					line, column := refs.Place(code, lang.At(m[2], m[3]))
					c.report(at, line, column, &finding.Place{Path: by}, "it takes version %s, and %s asks for %s or later", version, by, asked[1])
				}
			}
		}
		return
	}
}

// older says whether a version is older than another, as far as both are written.
func older(version, than string) bool {
	a, b := strings.Split(version, "."), strings.Split(than, ".")
	for i := range min(len(a), len(b)) {
		x, _ := strconv.Atoi(a[i])
		y, _ := strconv.Atoi(b[i])
		if x != y {
			return x < y
		}
	}
	return false
}
