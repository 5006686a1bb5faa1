package rules

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
)

var oneLast = &Rule{
	Name: "one-last", Kind: finding.Disagrees, Level: finding.Warning,
	Doc: "Of the steps in a folder, each of which names those before it, one is the last: of two, nobody knows which is the state to come to.",
	Example: `- rule: one-last
  files: "**/migrations/*.py"
  inside: '(?s)\bdependencies\s*=\s*\[.*?\]'
  by: '\(\s*["''](?P<of>\w+)["'']\s*,\s*["''](?P<name>\w+)["'']\s*,?\s*\)'`,
	Options: []Option{
		{"files", Paths, true, "the steps", false},
		{"inside", Regexps, false, "the part of a step that names those before it", false},
		{"by", Finders, true, "finds one of those: the group called name, and in the group called of the folder around the steps", false},
		{"unless", Regexps, false, "what a step has that stands for several", false},
	},
	Run: func(c *Call) {
		all := slices.DeleteFunc(c.files("files"), func(f file) bool { return strings.HasPrefix(path.Base(f.path), "__") })
		for _, steps := range together(all, func(f file) string { return path.Dir(f.path) }) {
			c.tellLast(steps)
		}
	},
}

// tellLast tells of the second of two steps behind which there is none.
func (c *Call) tellLast(steps []file) {
	folder := path.Base(path.Dir(path.Dir(steps[0].path)))
	before := map[string]bool{}
	for _, f := range steps {
		if anyFits(c.regexps["unless"], c.textOf(f.path)) || c.lends(f.path) {
			return
		}
		for _, s := range c.spokenIn(f, c.Graph.Code(f.path), 0) {
			if of, name, ok := strings.Cut(s.name, "."); ok && of == folder {
				before[name] = true
			}
		}
	}
	last := slices.DeleteFunc(slices.Clone(steps), func(f file) bool {
		return before[strings.TrimSuffix(path.Base(f.path), path.Ext(f.path))]
	})
	if len(last) == 2 && len(before) > 0 {
		c.report(last[1].path, 0, 0, &finding.Place{Path: last[0].path}, "no step comes behind it, and none behind %s", last[0].path)
	}
}
