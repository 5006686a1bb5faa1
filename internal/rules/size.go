package rules

import (
	"bytes"
	"path"

	"dicaxon/internal/finding"
	"dicaxon/internal/refs"
)

var size = &Rule{
	Name: "size", Kind: finding.Crowded, Level: finding.Warning,
	Doc: "No file holds too many lines or types, and no folder too many loose files.",
	Example: `- rule: size
  files: "models/*.go"
  types: 1`,
	Options: []Option{
		{"files", Paths, true, "the files", false},
		{"lines", Count, false, "how many lines one may have", false},
		{"types", Count, false, "how many types one may declare", false},
		{"matches", Count, false, "how often a text may stand in one: goes with \"of\"", false},
		{"of", Regexps, false, "the text that is counted, such as a route", false},
		{"loose", Count, false, "how many of them may lie in one folder", false},
	},
	Run: runSize,
}

func runSize(c *Call) {
	loose := map[string]int{}
	var folders []string
	for _, f := range c.files("files") {
		dir := path.Dir(f.path)
		if loose[dir]++; loose[dir] == 1 {
			folders = append(folders, dir)
		}
		if most := c.count("lines"); most > 0 {
			if n := bytes.Count(c.textOf(f.path), []byte("\n")); n > most {
				c.report(f.path, most+1, 0, nil, "%d lines, where at most %d are asked for", n, most)
			}
		}
		if most := c.count("types"); most > 0 {
			if types := c.refsOf(f.path).Of(refs.Type); len(types) > most {
				c.atRef(f.path, types[most], nil, "%d types, where at most %d are asked for", len(types), most)
			}
		}
		if most := c.count("matches"); most > 0 && c.regexps["of"] != nil {
			code := refs.Code(f.path, c.textOf(f.path))
			if found := c.regexps["of"][0].FindAllIndex(code, -1); len(found) > most {
				c.report(f.path, lineOf(code, found[most]), 0, nil, "%d of them, where at most %d are asked for", len(found), most)
			}
		}
	}
	for _, dir := range folders {
		if most := c.count("loose"); most > 0 && loose[dir] > most {
			at := dir + "/"
			if dir == "." {
				at = ""
			}
			c.report(at, 0, 0, nil, "%d files lie loose in it, where at most %d are asked for; give those that belong together a folder", loose[dir], most)
		}
	}
}
