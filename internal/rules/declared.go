package rules

import (
	"fmt"
	"slices"
	"strings"

	"dicaxon/internal/edit"
	"dicaxon/internal/finding"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
)

var declared = &Rule{
	Name: "declared", Kind: finding.Substandard, Level: finding.Error,
	Doc: "A module that settings name, by a value or as a plug-in, is among the dependencies.",
	Example: `- rule: declared
  files: tsconfig.json
  keys: compilerOptions.types
  in: package.json
  below: [dependencies, devDependencies]`,
	Options: []Option{
		{"files", Paths, true, "the settings that name modules", false},
		{"keys", Texts, false, "the keys whose values are modules", false},
		{"by", Finders, false, "finds a module in settings that are code: its first group", false},
		{"in", Text, true, "the manifest", false},
		{"below", Texts, false, "the keys of the manifest below which dependencies stand", false},
		{"prefixes", Texts, false, "beginnings that may be left out of a module's name, also behind its scope", false},
		{"known", Texts, false, "modules that need not be declared", false},
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
		for _, k := range append(c.keysOf(f.path, "keys"), c.modulesIn(f.path)...) {
			name := packageOf(k.Value)
			if strings.HasPrefix(name, ".") || slices.Contains(c.texts("known"), name) || slices.ContainsFunc(known, func(d string) bool {
				return names.Same(d, name) || d == "@types/"+name || slices.ContainsFunc(c.texts("prefixes"), func(p string) bool { return d == lengthened(name, p) })
			}) {
				continue
			}
			message := fmt.Sprintf("it names %s, which %s does not have", name, manifest)
			near := nearOne(name, known)
			if near != "" {
				message += "; did it mean " + near + "?"
			}
			told := c.atRef(f.path, k, &finding.Place{Path: manifest}, "%s", message)
			if near != "" && name == k.Value {
				told.Fix = []edit.Edit{c.edit(f.path, k.ValueSpan, near)}
			}
		}
	}
}

// modulesIn gives the modules that settings name that are code, as keys would.
func (c *Call) modulesIn(at string) (all []refs.Ref) {
	code := c.Graph.Code(at)
	for _, re := range c.regexps["by"] {
		for _, m := range re.FindAll(code) {
			if slices.ContainsFunc(all, func(r refs.Ref) bool { return r.Span == lang.At(m[2], m[3]) }) {
				continue
			}
			line, column := refs.Place(code, lang.At(m[2], m[3]))
			all = append(all, refs.Ref{Kind: refs.Key, Value: string(code[m[2]:m[3]]), Span: lang.At(m[2], m[3]), ValueSpan: lang.At(m[2], m[3]), Line: line, Column: column})
		}
	}
	return all
}

// nearOne gives the one name that is a slip away, "" where none is, or several are.
func nearOne(name string, known []string) string {
	return only(known, func(one string) bool { return one != name && names.Near(name, one) != names.Apart })
}

// lengthened puts a beginning that was left out before the name of a module: "env"
// is of "babel-preset-env", and "@babel/env" of "@babel/preset-env".
func lengthened(name, prefix string) string {
	scope, rest, scoped := strings.Cut(name, "/")
	if !scoped {
		return prefix + name
	}
	if i := strings.IndexByte(prefix, '-'); i >= 0 {
		prefix = prefix[i+1:]
	}
	return scope + "/" + prefix + rest
}

// packageOf gives the package in the name of a module: "@a/b/c" is of "@a/b".
func packageOf(module string) string {
	parts := strings.Split(module, "/")
	if strings.HasPrefix(module, "@") && len(parts) > 1 {
		return parts[0] + "/" + parts[1]
	}
	return parts[0]
}
