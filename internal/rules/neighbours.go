package rules

import (
	"path"
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
		in := map[string][]string{}
		var dirs []string
		for _, f := range c.files("files") {
			if c.fits("except", f.path) || c.lends(f.path) || isTest(f.path) || inSample(f.path) || f.node.Ignored {
				continue
			}
			key := path.Dir(f.path) + "/*" + path.Ext(f.path)
			if in[key] == nil {
				dirs = append(dirs, key)
			}
			in[key] = append(in[key], f.path)
		}
		for _, key := range dirs {
			c.tellApart(in[key])
		}
	},
}

// leastBeside is how many files beside one are called alike where that is no chance.
const leastBeside = 2

// tellApart tells of the one file that is not called as all the others in its folder.
func (c *Call) tellApart(all []string) {
	folder := strings.ToLower(path.Base(path.Dir(all[0])))
	role := names.Singular(folder)
	if role == folder { // which is no role of several
		return
	}
	alike := map[string][]string{}
	for _, at := range all {
		how := howCalled(path.Base(at), role)
		alike[how] = append(alike[how], at)
	}
	if len(alike) != 2 {
		return
	}
	for how, apart := range alike {
		rest := len(all) - len(apart)
		if len(apart) != 1 || rest < leastBeside {
			continue
		}
		for other := range alike {
			if other != how && other != "" {
				c.tellNeighbour(apart[0], role, other)
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
