package rules

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/names"
)

var neighbours = &Rule{
	Name: "neighbours", Kind: finding.Misnamed, Level: finding.Note,
	Doc: "A file in a folder that is called after a role has that role in its name, and the same signs before it, where all the others beside it have: berthController.js in controllers/.",
	Example: `- rule: neighbours
  files: "**/controllers/*.js"
  except: "**/index.js"`,
	Options: []Option{
		{"files", Paths, true, "the files", false},
		{"except", Paths, false, "files that may be called otherwise", true},
	},
	Run: func(c *Call) {
		all := slices.DeleteFunc(c.files("files"), func(f file) bool {
			return c.fits("except", f.path) || c.lends(f.path) || isTest(f.path) || inSample(f.path) || f.node.Ignored
		})
		for _, beside := range together(all, func(f file) string { return path.Dir(f.path) + "/*" + path.Ext(f.path) }) {
			c.tellApart(beside)
		}
	},
}

// leastBeside is how many files beside one are called alike where that is no chance.
const leastBeside = 2

// tellApart tells of the one file that is not called as all the others in its folder.
func (c *Call) tellApart(all []file) {
	folder := strings.ToLower(path.Base(path.Dir(all[0].path)))
	role := names.Singular(folder)
	if role == folder { // which is no role of several
		return
	}
	alike := map[string]int{}
	for _, f := range all {
		alike[howCalled(path.Base(f.path), role)]++
	}
	for how, times := range alike {
		if how == "" || times < leastBeside || times != len(all)-1 {
			continue
		}
		for _, f := range all {
			if howCalled(path.Base(f.path), role) != how {
				c.tellNeighbour(f.path, role, how)
			}
		}
	}
}

// tellNeighbour tells of a file, with what it would be called as its neighbours are.
func (c *Call) tellNeighbour(at, role, how string) {
	base := path.Base(at)
	stem := strings.TrimSuffix(base, path.Ext(base))
	if i := len(stem) - len(role); i > 0 && strings.EqualFold(stem[i:], role) {
		stem = strings.TrimRight(stem[:i], ".-_")
	}
	written := role
	if how[len(how)-1] == 'A' {
		written = names.To("pascal", role)
	}
	home := path.Join(path.Dir(at), stem+how[:len(how)-1]+written+path.Ext(base))
	if c.node(home) != nil || c.homeOf(at) != at {
		return
	}
	f := c.report(at, 0, 0, nil, "called as the others here, it would be %s", path.Base(home))
	f.Home = c.Top.Path() + home
}

// howCalled gives the sign before the role that a name ends with, and "A" where that begins with a capital, "a" where
// it does not; "" where the name does not end with it.
func howCalled(base, role string) string {
	stem := strings.TrimSuffix(base, path.Ext(base))
	i := len(stem) - len(role)
	if i <= 0 || !strings.EqualFold(stem[i:], role) {
		return ""
	}
	sign := ""
	if strings.IndexByte(".-_", stem[i-1]) >= 0 {
		sign = stem[i-1 : i]
	}
	if stem[i] != role[0] {
		return sign + "A"
	}
	return sign + "a"
}
