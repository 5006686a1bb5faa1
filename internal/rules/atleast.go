package rules

import (
	"path"
	"strconv"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/refs"
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
		for _, f := range c.files("files") {
			code := c.Graph.Code(f.path)
			if c.lends(f.path) || anyFits(c.regexps["unless"], code) {
				continue
			}
			for _, ask := range c.texts("asks") {
				name, _, expression := cutPlace(ask)
				at := c.nearestUp(path.Dir(f.path), name)
				m := lazy.New(expression).Get().FindSubmatch(c.textOf(at))
				if at == "" || m == nil {
					continue
				}
				for _, re := range c.regexps["by"] {
					for _, found := range re.FindAll(code) {
						if version := string(code[found[2]:found[3]]); older(version, string(m[1])) {
							line, column := refs.Place(code, refs.Span{Start: int32(found[2]), End: int32(found[3])})
							c.report(f.path, line, column, &finding.Place{Path: at}, "it takes version %s, and %s asks for %s or later", version, at, m[1])
						}
					}
				}
				break
			}
		}
	},
}

// nearestUp gives the file of a name in a folder or the nearest one around it, "" where there is none.
func (c *Call) nearestUp(dir, name string) string {
	for {
		if at := path.Join(dir, name); c.node(at) != nil && !c.isFolder(at) {
			return at
		}
		if dir == "." {
			return ""
		}
		dir = path.Dir(dir)
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
