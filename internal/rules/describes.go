package rules

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/placement"
)

var describes = &Rule{
	Name: "describes", Kind: finding.Misplaced, Level: finding.Note, Arrangement: true,
	Doc: "A file that describes others by their names, and that the layout does not know where it lies, lies with those, where they are all in one folder.",
	Example: `- rule: describes
  files: "models/*.yml"
  keys: models.name
  to: "**/{}.sql"
  as: "_{}__models.yml"`,
	Options: []Option{
		{"files", Paths, true, "the files that describe others", true},
		{"keys", Texts, true, "the keys whose values are the names of others", false},
		{"to", Text, true, "the path of what has a name; \"{}\" is the name, \"**/\" any folder", false},
		{"as", Text, true, "the name of such a file, in which \"{}\" is that of its folder", false},
	},
	Run: func(c *Call) {
		for _, f := range c.files("files") {
			if c.Lookup(f.path).State == placement.Placed || c.homeOf(f.path) != f.path || c.lends(f.path) {
				continue
			}
			folder, several := "", false
			for _, k := range c.keysOf(f.path, "keys") {
				for _, at := range c.standing(places(c.text("to"), k.Value)) {
					in := path.Dir(c.homeOf(at))
					several = several || folder != "" && in != folder
					folder = in
				}
			}
			home := path.Join(folder, strings.ReplaceAll(c.text("as"), "{}", path.Base(folder)))
			if folder == "" || several || folder == path.Dir(f.path) || c.node(home) != nil || c.strays(folder) {
				continue
			}
			told := c.report(f.path, 0, 0, nil, "it belongs in %s/: what it describes is there", folder)
			told.Home = c.Top.Path() + home
		}
	},
}

// strays says whether the layout does not know a folder where it lies.
func (p *project) strays(folder string) bool {
	return slices.ContainsFunc(p.Strays, func(s placement.Stray) bool {
		of := s.Node().Folder
		return of != nil && strings.TrimPrefix(of.Path(), p.Top.Path()) == folder+"/"
	})
}
