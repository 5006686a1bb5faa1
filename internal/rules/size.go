package rules

import (
	"bytes"
	"fmt"
	"path"
	"strconv"

	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/lazy"
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
		{"bytes", Text, false, "how large one may be, such as 500 kB or 2 MB", false},
		{"lines", Count, false, "how many lines one may have", false},
		{"types", Count, false, "how many types one may declare", false},
		{"matches", Count, false, "how often a text may stand in one: goes with \"of\"", false},
		{"of", Regexps, false, "the text that is counted, such as a route", false},
		{"loose", Count, false, "how many of them may lie in one folder", false},
	},
	Check: func(_ *layout.Layout, option, value string) error {
		if option == "bytes" && sizeOf(value) == 0 {
			return fmt.Errorf("%q is no size; write one as 500 kB or 2 MB", value)
		}
		return nil
	},
	Run: runSize,
}

// sizeOf reads a size such as "500 kB", in bytes; a kB is 1,000 of them. It is 0 where
// that is no size.
func sizeOf(text string) int {
	m := sizeForm.Get().FindStringSubmatch(text)
	if m == nil {
		return 0
	}
	n, _ := strconv.Atoi(m[1])
	return n * map[string]int{"": 1, "k": 1_000, "M": 1_000_000, "G": 1_000_000_000}[m[2]]
}

var sizeForm = lazy.New(`^(\d{1,9}) ?([kMG]?)B?$`)

func (c *Call) tooLarge(at string) {
	most := sizeOf(c.text("bytes"))
	if most == 0 {
		return
	}
	n, _, _, _, known := c.Repository.Stamp(c.Top.Path() + at)
	if !known {
		n = int64(len(c.textOf(at)))
	}
	if n > int64(most) {
		c.report(at, 0, 0, nil, "%d bytes, where at most %s are asked for", n, c.text("bytes"))
	}
}

func runSize(c *Call) {
	loose := map[string]int{}
	var folders []string
	for _, f := range c.files("files") {
		dir := path.Dir(f.path)
		if loose[dir]++; loose[dir] == 1 {
			folders = append(folders, dir)
		}
		c.tooLarge(f.path)
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
			code := c.Graph.Code(f.path)
			if found := c.regexps["of"][0].Get().FindAllIndex(code, -1); len(found) > most {
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
