package rules

import (
	"cmp"
	"path"
	"strconv"
	"strings"

	"dicaxon/internal/edit"
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
		{"asks", Texts, true, "where the oldest one that will do stands, as file~regular expression with a group, in the folder of the file or the nearest one around it, or, behind \"**/\", wherever all that have one have the same", false},
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
	var taken []refs.Span
	for _, re := range c.regexps["by"] {
		for _, m := range re.FindAll(code) {
			taken = append(taken, lang.At(m[2], m[3]))
		}
	}
	for _, ask := range asks {
		if len(taken) == 0 { // and nobody need look who asks
			return
		}
		by, asked := c.versionAsked(at, ask)
		if asked == "" {
			continue
		}
		for _, span := range taken {
			if version := string(span.In(code)); older(version, asked) {
				line, column := refs.Place(code, span)
				f := c.report(at, line, column, &finding.Place{Path: by}, "it takes version %s, and %s asks for %s or later", version, by, asked)
				f.Fix = []edit.Edit{c.edit(at, span, asFar(asked, version))}
			}
		}
		return
	}
}

// versionAsked gives the version that a file asks for, and which file that is: of one that may lie anywhere the
// first, where no other asks for another.
func (c *Call) versionAsked(from string, ask finderAt) (by, version string) {
	says := func(at string) string {
		if m := ask.finds.Get().FindSubmatch(c.textOf(at)); m != nil {
			return string(m[1])
		}
		return ""
	}
	pattern, anywhere := strings.CutPrefix(ask.file, "**/")
	if !anywhere {
		if _, by = c.Graph.Look().Nearest(from, pattern); by == "" {
			return "", ""
		}
		return by, says(by)
	}
	agree := true
	c.Graph.Look().Each(func(at string) {
		if fits, _ := path.Match(pattern, path.Base(at)); !fits {
			return
		}
		if said := says(at); said != "" {
			agree = agree && (version == "" || version == said)
			by, version = cmp.Or(by, at), cmp.Or(version, said)
		}
	})
	if !agree {
		return "", ""
	}
	return by, version
}

// asFar gives a version with as many parts as another has.
func asFar(version, as string) string {
	parts := strings.Split(version, ".")
	return strings.Join(parts[:min(len(parts), strings.Count(as, ".")+1)], ".")
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
