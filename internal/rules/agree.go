package rules

import (
	"path"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
)

// fill puts captured names into a text, those of a file before those of the
// project.
func fill(text string, envs ...*layout.Env) string {
	for _, env := range envs {
		text = layout.FillText(text, env)
	}
	return text
}

// keyFits says whether the name of a setting fits a pattern of keys, in which
// "*" stands for one key.
func keyFits(pattern, name string) bool {
	p, n := strings.Split(pattern, "."), strings.Split(name, ".")
	if len(p) != len(n) {
		return false
	}
	for i := range p {
		if p[i] != "*" && p[i] != n[i] {
			return false
		}
	}
	return true
}

var keysNameFolders = &Rule{
	Name: "keys-name-folders", Kind: finding.Disagrees, Level: finding.Error,
	Doc: "The keys below one key of a settings file are the names of folders, at every depth.",
	Example: `- rule: keys-name-folders
  file: dbt_project.yml
  key: "models.<project>"
  folder: models/`,
	Options: []Option{
		{"file", Paths, true, "the settings file"},
		{"key", Text, true, "the key below which folders are named"},
		{"folder", Text, true, "the folder in which they stand"},
		{"both", Flag, false, "true where every folder needs a key, too"},
	},
	Run: runKeysNameFolders,
}

func runKeysNameFolders(c *Call) {
	for _, f := range c.files("file") {
		said := c.refsOf(f.path)
		top := fill(c.text("key"), f.env, c.env)
		if strings.Contains(top, "<") {
			top = soleChild(said, top)
		}
		folder := strings.TrimSuffix(fill(c.text("folder"), f.env, c.env), "/")
		named := map[string]bool{}
		for _, k := range said.Of(refs.Key) {
			below, ok := strings.CutPrefix(k.Name, top+".")
			// A key with a value, or with a plus, is a setting of the folder itself.
			if !ok || k.Value != "" || strings.Contains(below, "+") {
				continue
			}
			at := path.Join(folder, strings.ReplaceAll(below, ".", "/"))
			named[at] = true
			if n := c.node(at); n != nil || c.node(at+".sql") != nil || c.node(path.Dir(at)) == nil {
				continue
			}
			message := "settings for %s, which is not there"
			if near := c.nearest(at); near != "" {
				named[path.Join(path.Dir(at), near)] = true
				c.atRef(f.path, k, &finding.Place{Path: path.Join(path.Dir(at), near) + "/"}, message+"; the folder is called %s", at+"/", near)
				continue
			}
			c.atRef(f.path, k, &finding.Place{Path: path.Dir(at) + "/"}, message, at+"/")
		}
		if n := c.node(folder); c.flag("both") && n != nil && n.Folder != nil {
			for i := range n.Folder.Nodes {
				at := path.Join(folder, n.Folder.Nodes[i].Name)
				if n.Folder.Nodes[i].Folder != nil && c.seen(n.Folder, i) && !named[at] {
					c.report(at+"/", 0, 0, &finding.Place{Path: f.path}, "%s has no settings for it below %s", f.path, top)
				}
			}
		}
	}
}

// soleChild replaces the last, open part of a key by the only key that there
// is: the name of the project, which settings repeat.
func soleChild(said *refs.File, key string) string {
	above := key[:max(strings.LastIndexByte(key, '.'), 0)]
	for _, k := range said.Of(refs.Key) {
		if below, ok := strings.CutPrefix(k.Name, above+"."); ok && !strings.ContainsAny(below, ".+") && k.Value == "" {
			return k.Name
		}
	}
	return key
}

var namesFile = &Rule{
	Name: "names-file", Kind: finding.Disagrees, Level: finding.Error,
	Doc: "What a file names as a path is there: entry points, start scripts, links, what an image copies.",
	Example: `- rule: names-file
  files: package.json
  keys: [main, types, "bin.*"]`,
	Options: []Option{
		{"files", Paths, true, "the files that name paths"},
		{"keys", Texts, false, "the keys whose values are paths; \"*\" stands for one key"},
		{"links", Flag, false, "true for the links, scripts and styles of a page"},
		{"paths", Flag, false, "true for what a container file copies or a list includes"},
		{"from", Text, false, "the folder from which paths are read; that of the file, if left out"},
		{"except", Paths, false, "values that stand for something else"},
		{"near-only", Flag, false, "true where an absent path is wrong only if one of nearly its name is there"},
		{"from-words", Regexps, false, "takes the path out of a longer value: its first group"},
	},
	Run: runNamesFile,
}

func runNamesFile(c *Call) {
	for _, f := range c.files("files") {
		for _, r := range c.refsOf(f.path).Refs {
			name := c.named(r)
			if name == "" || rankOf(c.paths["except"], name, c.env) >= 0 || strings.ContainsAny(name, "*$<>{}?#") || strings.Contains(name, ":") || strings.HasPrefix(name, "//") {
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
				c.atRef(f.path, r, &finding.Place{Path: path.Join(path.Dir(at), near)}, "it names %s, which is not there; did it mean %s?", at, near)
			} else if !c.flag("near-only") {
				c.atRef(f.path, r, &finding.Place{Path: at}, "it names %s, which is not there", at)
			}
		}
	}
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

var sameValue = &Rule{
	Name: "same-value", Kind: finding.Disagrees, Level: finding.Error,
	Doc: "Settings that repeat a name repeat it alike.",
	Example: `- rule: same-value
  values: ["dbt_project.yml#name", "dbt_project.yml#models.*"]`,
	Options: []Option{
		{"values", Texts, true, "file#key, the first being the one that holds; a key ending in \".*\" stands for the names of the keys below"},
		{"ignore-case", Flag, false, "true where case and what separates words do not count"},
	},
	Run: runSameValue,
}

func runSameValue(c *Call) {
	first := ""
	var at finding.Place
	for i, value := range c.texts("values") {
		name, key, _ := strings.Cut(value, "#")
		name = fill(name, c.env)
		if n := c.node(name); n == nil || n.Folder != nil {
			continue
		}
		for _, k := range c.refsOf(name).Of(refs.Key) {
			said := k.Value
			if above, below := strings.CutSuffix(key, ".*"); below {
				child, ok := strings.CutPrefix(k.Name, above+".")
				if !ok || strings.ContainsAny(child, ".+") || k.Value != "" {
					continue
				}
				said = child
			} else if k.Name != key || said == "" {
				continue
			}
			if first == "" && i == 0 {
				first, at = said, finding.Place{Path: name, Line: k.Line}
				continue
			}
			if first != "" && said != first && !(c.flag("ignore-case") && names.Same(said, first)) {
				c.atRef(name, k, &at, "it says %s where %s says %s", said, at.Path, first)
			}
		}
	}
}
