package rules

import (
	"bytes"
	"fmt"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/refs"
)

var size = &Rule{
	Name: "size", Kind: finding.Crowded, Level: finding.Warning,
	Doc: "No file holds too many lines or types, and no folder too many loose files.",
	Example: `- rule: size
  files: "models/*.go"
  types: 1`,
	Options: []Option{
		{"files", Paths, true, "the files"},
		{"lines", Count, false, "how many lines one may have"},
		{"types", Count, false, "how many types one may declare"},
		{"matches", Count, false, "how often a text may stand in one: goes with \"of\""},
		{"of", Regexps, false, "the text that is counted, such as a route"},
		{"loose", Count, false, "how many of them may lie in one folder"},
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

var oneWay = &Rule{
	Name: "one-way", Kind: finding.Crowded, Level: finding.Warning,
	Doc: "Of several ways to arrange a thing one is used.",
	Example: `- rule: one-way
  ways: ["src/**/*.test.js", "tests/**/*.test.js"]
  says: Tests stand beside what they test or in a tree of their own.`,
	Options: []Option{{"ways", Paths, true, "the ways, each as what it looks like"}},
	Run: func(c *Call) {
		var most, least []file
		for _, way := range c.paths["ways"] {
			found := c.find([]*layout.PathPattern{way}, c.env)
			switch {
			case len(found) > len(most):
				if len(most) > 0 {
					least = most
				}
				most = found
			case len(found) > 0:
				least = found
			}
		}
		if len(most) == 0 || len(least) == 0 {
			return
		}
		c.report(least[0].path, 0, 0, &finding.Place{Path: most[0].path}, "%s arranged this way, %s the other; use one way", are(len(least)), are(len(most)))
	},
}

func are(n int) string {
	if n == 1 {
		return "1 file is"
	}
	return fmt.Sprintf("%d files are", n)
}

var paired = &Rule{
	Name: "paired", Kind: finding.Unpaired, Level: finding.Warning,
	Doc: "Every file has its counterpart, such as a test or a marker.",
	Example: `- rule: paired
  each: "src/<module>.js"
  with: ["src/<module>.test.js", "tests/<module>.test.js"]
  except: ["src/index.js", "src/*.test.js"]`,
	Options: []Option{
		{"each", Paths, true, "the files"},
		{"with", Paths, false, "the counterparts, of which one must be there"},
		{"named-in", Paths, false, "files of which one must name it, such as the handlers of a template"},
		{"except", Paths, false, "files that need none"},
	},
	Run: func(c *Call) {
		var namers []string
		for _, f := range c.files("each") {
			if rankOf(c.paths["except"], f.path, c.env) >= 0 || len(c.find(c.paths["with"], f.env)) > 0 {
				continue
			}
			if in := c.paths["named-in"]; in != nil {
				if namers == nil {
					namers = c.codeOf(c.find(in, c.env))
				}
				if !slices.ContainsFunc(namers, func(code string) bool { return mentions(code, path.Base(f.path)) }) {
					c.report(f.path, 0, 0, nil, "nothing names it")
				}
				continue
			}
			var wanted []string
			for _, w := range c.paths["with"] {
				wanted = append(wanted, layout.FillText(w.Text, f.env))
			}
			c.report(f.path, 0, 0, &finding.Place{Path: wanted[0]}, "it has no %s", strings.Join(wanted, " or "))
		}
	},
}

// codeOf gives the texts of files without their comments.
func (c *Call) codeOf(files []file) []string {
	var all []string
	for _, f := range files {
		all = append(all, string(refs.Code(f.path, c.textOf(f.path))))
	}
	return all
}
