package rules

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/refs"
)

var namesFile = &Rule{
	Name: "names-file", Kind: finding.Disagrees, Level: finding.Error,
	Doc: "What a file names as a path is there: entry points, start scripts, links, what an image copies.",
	Example: `- rule: names-file
  files: package.json
  keys: [main, types, "bin.*"]`,
	Options: []Option{
		{"files", Paths, true, "the files that name paths", false},
		{"keys", Texts, false, "the keys whose values are paths; \"*\" stands for one key", false},
		{"links", Flag, false, "true for the links, scripts and styles of a page", false},
		{"paths", Flag, false, "true for what a container file copies or a list includes", false},
		{"from", Text, false, "the folder from which paths are read; that of the file, if left out", false},
		{"except", Paths, false, "values that stand for something else", true},
		{"near-only", Flag, false, "true where an absent path is wrong only if one of nearly its name is there", false},
		{"from-words", Regexps, false, "takes the path out of a longer value: its first group", false},
	},
	Run: runNamesFile,
}

func runNamesFile(c *Call) {
	for _, f := range c.files("files") {
		for _, r := range c.refsOf(f.path).Refs {
			name := c.named(r)
			if name == "" || r.Kind == refs.Key && c.isDependency(f.path, name) || c.fits("except", name) || strings.ContainsAny(name, "*$<>{}?#") || strings.Contains(name, ":") || strings.HasPrefix(name, "//") {
				continue
			}
			from := path.Dir(f.path)
			if given := c.text("from"); given != "" {
				from = fill(given, f.env, c.env)
			}
			at := path.Join(from, name)
			if strings.HasPrefix(name, "/") {
				if !c.flag("links") {
					continue
				}
				at = path.Join("public", name)
			}
			if strings.HasPrefix(at, "..") || c.stands(at) || c.made(at) {
				continue
			}
			at = path.Clean(at)
			if near := c.nearest(at); near != "" {
				c.atRef(f.path, r, &finding.Place{Path: at}, "it names %s, which is not there; did it mean %s?", at, near)
			} else if !c.flag("near-only") {
				c.atRef(f.path, r, &finding.Place{Path: at}, "it names %s, which is not there", at)
			}
		}
	}
}

// isDependency says whether a value names a module of a dependency rather than a
// file: "main" may be the entry of another package.
func (c *Call) isDependency(manifest, name string) bool {
	module := packageOf(name)
	return !strings.HasPrefix(name, ".") && slices.ContainsFunc(c.refsOf(manifest).Of(refs.Key), func(k refs.Ref) bool {
		below, ok := strings.CutPrefix(k.Name, "dependencies.")
		return ok && below == module
	})
}

// named gives the path that a reference names for the rule, or "".
func (c *Call) named(r refs.Ref) string {
	switch {
	case r.Kind == refs.Link && c.flag("links") && r.Value != "a", r.Kind == refs.Path && c.flag("paths"):
		return r.Name
	case r.Kind != refs.Key:
		return ""
	}
	for _, k := range c.texts("keys") {
		if !keyFits(k, r.Name) {
			continue
		}
		if words := c.regexps["from-words"]; words != nil {
			for _, re := range words {
				if m := re.FindStringSubmatch(r.Value); len(m) > 1 {
					return m[1]
				}
			}
			return ""
		}
		return r.Value
	}
	return ""
}

// stands says whether a path is there, with an ending that may be left out.
func (c *Call) stands(at string) bool {
	for _, tail := range []string{"", ".js", ".ts", ".mjs", "/index.js", "/index.ts"} {
		if c.node(at+tail) != nil {
			return true
		}
	}
	return false
}
