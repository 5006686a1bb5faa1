package rules

import (
	"path"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
)

var sources = &Rule{
	Name: "sources", Kind: finding.Disagrees, Level: finding.Error, Arrangement: true,
	Doc: "Sources of SQL templates are tables that the project does not build itself, and each folder of staging models has a source.",
	Example: `- rule: sources
  files: "models/sources/*.yml"
  models: "models/**/*.sql"
  folders: "models/staging/<source>/"
  source-key: sources.name
  schema-key: sources.schema
  table-key: sources.tables.name`,
	Options: []Option{
		{"files", Paths, true, "the files that declare sources", false},
		{"models", Paths, true, "the models", false},
		{"source-key", Text, true, "the key that names a source", false},
		{"schema-key", Text, false, "the key that names the schema of a source, where it is another", false},
		{"table-key", Text, true, "the key that names a table of the source", false},
		{"folders", Paths, false, "folders that are called as a source is", false},
		{"declared-in", Text, false, "the file that should declare the source of such a folder", false},
	},
	Run: runSources,
}

// A table is one that a source declares, in a schema that is called as the
// source is where nothing else is said.
type table struct {
	source, schema string
	file           string
	ref            refs.Ref
}

func runSources(c *Call) {
	declared := map[string]finding.Place{}
	var known []string
	var tables []table
	for _, f := range c.files("files") {
		source, schema := "", ""
		for _, k := range c.refsOf(f.path).Of(refs.Key) {
			switch k.Name {
			case c.text("source-key"):
				source, schema = k.Value, k.Value
				declared[source] = finding.Place{Path: f.path, Line: k.Line}
				known = append(known, source)
			case c.text("schema-key"):
				schema = k.Value
				for i := range tables { // said after the tables, it holds for them too
					if tables[i].source == source && tables[i].file == f.path {
						tables[i].schema = schema
					}
				}
			case c.text("table-key"):
				tables = append(tables, table{source, schema, f.path, k})
			}
		}
	}
	models := tablesOf(c.files("models"))
	for _, t := range tables {
		if built, ok := models[t.schema+"."+t.ref.Value]; ok {
			c.atRef(t.file, t.ref, &finding.Place{Path: built}, "the source %s names %s, which a model builds; read it by ref", t.source, t.ref.Value)
		}
	}
	for _, f := range c.files("folders") {
		source := path.Base(f.path)
		if _, ok := declared[source]; ok || len(declared) == 0 || c.leftEmpty(f.path) {
			continue
		}
		message := "no source is called " + source
		if near := names.Closest(source, known); near != "" {
			at := declared[near]
			if in := fill(c.text("declared-in"), f.env, c.env); in != "" && c.node(in) == nil {
				at = finding.Place{Path: in}
			}
			c.report(f.path+"/", 0, 0, &at, "%s; is %s meant?", message, near)
			continue
		}
		c.report(f.path+"/", 0, 0, &finding.Place{Path: fill(c.text("declared-in"), f.env, c.env)}, "%s", message)
	}
}

// tablesOf gives models by the tables that they build: each in the schema that its
// folder below models/ names.
func tablesOf(models []file) map[string]string {
	tables := map[string]string{}
	for _, m := range models {
		if parts := strings.Split(m.path, "/"); len(parts) > 2 {
			tables[parts[1]+"."+strings.TrimSuffix(parts[len(parts)-1], path.Ext(m.path))] = m.path
		}
	}
	return tables
}
