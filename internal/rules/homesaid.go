package rules

import (
	"path"
	"regexp"

	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
)

var homeSaid = &Rule{
	Name: "home-said", Kind: finding.Misplaced, Level: finding.Note, Arrangement: true,
	Doc: "A file whose text says of what it is lies where the layout has what is of that, where the project was asked to be of the layout, or has such a place already.",
	Example: `- rule: home-said
  files: "models/staging/stg_<table>.sql"
  text: 'source\("(?P<source>\w+)", *"(?P<table>\w+)"\)'
  to: "models/staging/<source>/stg_<source>__<table>.sql"
  several: source`,
	Options: []Option{
		{"files", Paths, true, "the files", false},
		{"text", Finders, true, "finds of what a file is: its groups are called as the names in the path", false},
		{"to", Text, true, "the path of what is of that", false},
		{"several", Text, true, "the name of which the files say more than one, where they do not all belong together", false},
	},
	Run: runHomeSaid,
}

// A homed is a file with what its text says.
type homed struct {
	at  string
	env *layout.Env
}

func runHomeSaid(c *Call) {
	var all []homed
	of := map[string]bool{}
	for _, f := range c.files("files") {
		if c.homeOf(f.path) != f.path || c.lends(f.path) {
			continue
		}
		if env := c.saidOne(f); env != nil {
			name, _ := env.Get(c.text("several"))
			of[name] = true
			all = append(all, homed{f.path, env})
		}
	}
	homes := map[string]int{}
	for _, s := range all {
		homes[fill(c.text("to"), s.env)]++
	}
	for _, s := range all {
		to := fill(c.text("to"), s.env)
		begun := c.isFolder(path.Dir(to))
		if homes[to] > 1 || to == s.at || c.node(to) != nil || !begun && (!c.Named || len(of) < 2) {
			continue
		}
		name, _ := s.env.Get(c.text("several"))
		told := c.report(s.at, 0, 0, nil, "it belongs in %s/: its text says that it is of %s", path.Dir(to), name)
		told.Home = c.Top.Path() + to
	}
}

// saidOne gives what a text says of the names in a path, nil where it says nothing, or two things.
func (c *Call) saidOne(f file) *layout.Env {
	code := c.textOf(f.path)
	var found *layout.Env
	for _, re := range c.regexps["text"] {
		for _, m := range re.Get().FindAllSubmatch(code, -1) {
			env := boundBy(re.Get(), m, f.env)
			switch {
			case found == nil:
				found = env
			case fill(c.text("to"), env) != fill(c.text("to"), found):
				return nil
			}
		}
	}
	return found
}

// boundBy binds the names of the groups of an expression to what they found.
func boundBy(re *regexp.Regexp, m [][]byte, env *layout.Env) *layout.Env {
	for i, name := range re.SubexpNames() {
		if name != "" && m[i] != nil {
			env = env.Bind(name, string(m[i]))
		}
	}
	return env
}
