package rules

import (
	"regexp"
	"slices"
	"strings"
	"text/template"
	"text/template/parse"

	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
	"dicaxon/internal/tree"
)

var own = &Rule{
	Name: "own", Kind: finding.Leftover, Level: finding.Note,
	Doc: "A file that people must make their own no longer has the text of its starter.",
	Example: `- rule: own
  files: README.md`,
	Options: []Option{
		{"files", Paths, true, "the files"},
		{"beyond", Count, false, "only once the project holds more files than this: a new one may keep them"},
	},
	Run: func(c *Call) {
		if c.Match.Files <= c.count("beyond") {
			return
		}
		for _, f := range c.files("files") {
			e := c.entryOf(f.path)
			if e == nil || e.Starter == "" {
				continue
			}
			form, err := formOf(e)
			if err == nil && form.Match(c.textOf(f.path)) {
				c.report(f.path, 0, 0, nil, "it still has the text that scaffold gave it")
			}
		}
	},
}

// entryOf gives the entry that describes a file, or nil.
func (c *Call) entryOf(at string) *layout.Entry {
	in := c.Top
	for {
		name, rest, more := strings.Cut(at, "/")
		i := slices.IndexFunc(in.Nodes, func(n tree.Node) bool { return n.Name == name })
		if i < 0 {
			return nil
		}
		if !more {
			return c.Match.Place(in, i).Entry
		}
		if in = in.Nodes[i].Folder; in == nil {
			return nil
		}
		at = rest
	}
}

// formOf turns a starter into an expression that fits every text that it can
// give, whatever the answers were: what is filled in stands for anything.
func formOf(e *layout.Entry) (*regexp.Regexp, error) {
	text, err := e.StarterText()
	if err != nil {
		return nil, err
	}
	left, right := e.Marks()
	any := func(...any) string { return "" }
	functions := template.FuncMap{}
	for _, name := range []string{"snake", "kebab", "camel", "pascal", "lower", "upper", "title", "plural", "singular", "base", "join"} {
		functions[name] = any
	}
	t, err := template.New("").Delims(left, right).Funcs(functions).Parse(text)
	if err != nil {
		return nil, err
	}
	var b strings.Builder
	b.WriteString(`\A`)
	if t.Tree != nil {
		for _, n := range t.Tree.Root.Nodes {
			if plain, ok := n.(*parse.TextNode); ok {
				b.WriteString(regexp.QuoteMeta(string(plain.Text)))
			} else if _, ok := n.(*parse.ActionNode); ok {
				b.WriteString(`[^\n]*`)
			} else {
				b.WriteString(`(?s:.*)`)
			}
		}
	}
	return regexp.Compile(b.String() + `\s*\z`)
}

var defaults = &Rule{
	Name: "default-values", Kind: finding.Leftover, Level: finding.Warning,
	Doc: "Settings no longer have the values that the framework's own starter gave them.",
	Example: `- rule: default-values
  files: package.json
  keys: name
  values: [vite-project, my-app]`,
	Options: []Option{
		{"files", Paths, true, "the settings"},
		{"keys", Texts, true, "the keys; \"*\" stands for one"},
		{"values", Texts, true, "the values that nobody chose"},
	},
	Run: func(c *Call) {
		for _, f := range c.files("files") {
			for _, k := range c.refsOf(f.path).Of(refs.Key) {
				if slices.ContainsFunc(c.texts("keys"), func(key string) bool { return keyFits(key, k.Name) }) && slices.Contains(c.texts("values"), k.Value) {
					c.atRef(f.path, k, nil, "%s is still %q, which the framework's starter wrote", k.Name, k.Value)
				}
			}
		}
	},
}

var text = &Rule{
	Name: "text", Kind: finding.Substandard, Level: finding.Warning,
	Doc: "A house rule on text: what files must say, and what they must not.",
	Example: `- rule: text
  files: "dags/**/*.py"
  must: ['tags=']
  says: A job has tags.`,
	Options: []Option{
		{"files", Paths, true, "the files"},
		{"except", Paths, false, "files that it does not hold for"},
		{"where", Regexps, false, "only files with this text"},
		{"must", Regexps, false, "what each must have"},
		{"must-not", Regexps, false, "what none may have"},
	},
	Run: runText,
}

func runText(c *Call) {
	for _, f := range c.files("files") {
		if rankOf(c.paths["except"], f.path, c.env) >= 0 {
			continue
		}
		code := refs.Code(f.path, c.textOf(f.path))
		if where := c.regexps["where"]; where != nil && !where[0].Match(code) {
			continue
		}
		for i, re := range c.regexps["must"] {
			if !re.Match(code) {
				c.report(f.path, 0, 0, nil, "it lacks %s", readable(c.texts("must")[i]))
			}
		}
		for _, re := range c.regexps["must-not"] {
			if found := re.FindIndex(code); found != nil {
				said := strings.Join(strings.Fields(string(code[found[0]:found[1]])), " ")
				c.report(f.path, lineOf(code, found), 0, nil, "it has %s", said[:min(len(said), 60)])
			}
		}
	}
}

// readable gives a regular expression without what only machines need.
func readable(expression string) string {
	return strings.NewReplacer(`\b`, "", `\s*`, " ", `\(`, "(", `\)`, ")", `\.`, ".").Replace(expression)
}

var setKeys = &Rule{
	Name: "set-keys", Kind: finding.Substandard, Level: finding.Warning,
	Doc: "Settings say what the house asks for.",
	Example: `- rule: set-keys
  files: package.json
  keys: [name, engines.node]`,
	Options: []Option{
		{"files", Paths, true, "the settings"},
		{"keys", Texts, true, "the keys that must be there; \"*\" stands for one"},
	},
	Run: func(c *Call) {
		for _, f := range c.files("files") {
			said := c.refsOf(f.path)
			for _, key := range c.texts("keys") {
				if !slices.ContainsFunc(said.Of(refs.Key), func(k refs.Ref) bool { return keyFits(key, k.Name) }) {
					c.report(f.path, 0, 0, nil, "it does not set %s", key)
				}
			}
		}
	},
}

var pinned = &Rule{
	Name: "pinned", Kind: finding.Substandard, Level: finding.Warning,
	Doc: "Every requirement of a list has an exact version.",
	Example: `- rule: pinned
  files: requirements.txt`,
	Options: []Option{{"files", Paths, true, "the requirement lists"}},
	Run: func(c *Call) {
		for _, f := range c.files("files") {
			for _, r := range c.refsOf(f.path).Of(refs.Import) {
				if !strings.HasPrefix(r.Value, "==") && !strings.HasPrefix(r.Value, "@") {
					c.atRef(f.path, r, nil, "%s has no exact version", r.Name)
				}
			}
		}
	},
}

var declared = &Rule{
	Name: "declared", Kind: finding.Substandard, Level: finding.Error,
	Doc: "A module that settings name, by a value or as a plug-in, is among the dependencies.",
	Example: `- rule: declared
  files: tsconfig.json
  keys: compilerOptions.types
  in: package.json
  below: [dependencies, devDependencies]`,
	Options: []Option{
		{"files", Paths, true, "the settings that name modules"},
		{"keys", Texts, true, "the keys whose values are modules"},
		{"in", Text, true, "the manifest"},
		{"below", Texts, false, "the keys of the manifest below which dependencies stand"},
		{"known", Texts, false, "modules that need not be declared"},
	},
	Run: runDeclared,
}

func runDeclared(c *Call) {
	manifest := c.text("in")
	if n := c.node(manifest); n == nil || n.Folder != nil {
		return
	}
	var known []string
	for _, r := range c.refsOf(manifest).Refs {
		if r.Kind == refs.Import {
			known = append(known, r.Name)
		}
		for _, above := range c.texts("below") {
			if name, ok := strings.CutPrefix(r.Name, above+"."); ok && r.Kind == refs.Key {
				known = append(known, name)
			}
		}
	}
	for _, f := range c.files("files") {
		for _, k := range c.refsOf(f.path).Of(refs.Key) {
			if k.Value == "" || !slices.ContainsFunc(c.texts("keys"), func(key string) bool { return keyFits(key, k.Name) }) {
				continue
			}
			name := packageOf(k.Value)
			if strings.HasPrefix(name, ".") || slices.Contains(c.texts("known"), name) || slices.ContainsFunc(known, func(d string) bool {
				return names.Same(d, name) || d == "@types/"+name
			}) {
				continue
			}
			c.atRef(f.path, k, &finding.Place{Path: manifest}, "it names %s, which %s does not have", name, manifest)
		}
	}
}

// packageOf gives the package in the name of a module: "@a/b/c" is of "@a/b".
func packageOf(module string) string {
	parts := strings.Split(module, "/")
	if strings.HasPrefix(module, "@") && len(parts) > 1 {
		return parts[0] + "/" + parts[1]
	}
	return parts[0]
}
