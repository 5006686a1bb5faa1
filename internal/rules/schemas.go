package rules

import (
	"path"
	"slices"

	"dicaxon/internal/finding"
	"dicaxon/internal/names"
	"dicaxon/internal/schemas"
)

var foldersAreSchemas = &Rule{
	Name: "schemas", Kind: finding.Disagrees, Level: finding.Error,
	Doc: "Folders are called as the schemas of the database: those of a list in the repository, or those that `check --schemas` names.",
	Example: `- rule: schemas
  files: "models/<schema>/"
  except: models/sources/
  list: schemas.csv`,
	Options: []Option{
		{"files", Paths, true, "the folders that are called as schemas", false},
		{"except", Paths, false, "folders of them that are none", false},
		{"list", Text, false, "a saved list, CSV or JSON; without it, and without --schemas, nothing is compared", false},
	},
	Run: func(c *Call) {
		known := c.Schemas
		if at := c.text("list"); known == nil && at != "" {
			if n := c.node(at); n != nil && n.Folder == nil {
				list, err := schemas.Parse(at, c.textOf(at))
				if err != nil {
					c.report(at, 0, 0, nil, "%v", err)
					return
				}
				known = list
			}
		}
		if known == nil {
			return
		}
		for _, f := range c.files("files") {
			name := path.Base(f.path)
			if c.fits("except", f.path) || slices.Contains(known, name) {
				continue
			}
			if near := names.Closest(name, known); near != "" {
				c.report(f.path+"/", 0, 0, nil, "the database has no schema %s; is %s meant?", name, near)
				continue
			}
			c.report(f.path+"/", 0, 0, nil, "the database has no schema %s", name)
		}
	},
}
