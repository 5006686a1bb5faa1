package rules

import (
	"bytes"
	"maps"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/edit"
	"dicaxon/internal/finding"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
	"dicaxon/internal/refs/lang/python"
)

var undeclared = &Rule{
	Name: "undeclared", Kind: finding.Disagrees, Level: finding.Warning, Always: true,
	Doc: "What code imports from others is among what the manifest asks for. Where a package of the same owner, or what runs the tests, may bring it, it is a note, and it is silent where another dependency may.",
	Example: `- rule: undeclared
  except: "tools/**"`,
	Options: []Option{{"except", Paths, false, "files whose imports nobody follows", true}},
	Run:     runUndeclared,
}

// lists says by the ending of a file which rule its imports from others follow: it
// gives what is not declared, and by which manifest, or ""; not sure, where it may come
// from elsewhere unless it is a slip away from what is.
var lists = map[string]func(c *Call, e *refs.Edge) (name, manifest string, sure bool){
	".go": undeclaredGo, ".py": undeclaredPython, ".dart": undeclaredDart, ".rs": undeclaredRust,
	".js": undeclaredScript, ".jsx": undeclaredScript, ".mjs": undeclaredScript, ".cjs": undeclaredScript, ".ts": undeclaredScript, ".tsx": undeclaredScript, ".vue": undeclaredScript, ".svelte": undeclaredScript,
}

// behindTests gives the path of a file of Dart below the folder of tests of its package, whose
// imports the manifest lists too; that of others as it is.
func behindTests(at string) string {
	if path.Ext(at) == ".dart" {
		at = strings.TrimPrefix(strings.TrimPrefix(at, "integration_test/"), "test/")
	}
	return at
}

// foundByBundler says whether a script imports what a file of the project is called: its bundler, or the
// runner of its tests, may look for modules in folders of its own.
func (c *Call) foundByBundler(e *refs.Edge) bool {
	if !kin(path.Ext(e.From), ".ts") || strings.HasPrefix(e.Ref.Name, "@") {
		return false
	}
	stem := names.BeforeDot(path.Base(e.Ref.Name))
	return slices.ContainsFunc(c.Graph.Look().Called(stem), func(at string) bool {
		return at != e.From && (refs.IsCode(at) || kin(path.Ext(at), path.Ext(e.Ref.Name)))
	})
}

func runUndeclared(c *Call) {
	told, own := map[string]int{}, map[string][]ownName{}
	for _, e := range c.Graph.Outside() {
		list := lists[path.Ext(e.From)]
		if list == nil || e.Ref.Kind != refs.Import || e.Ref.Guarded || e.Ref.Listed || c.fits("except", e.From) {
			continue
		}
		if e.Near {
			if _, _, near := c.likely(&e); near {
				continue // that is told as leading nowhere
			}
		}
		name, manifest, sure := list(c, &e)
		if name == "" || manifest == "" || c.lends(e.From) || c.foundByBundler(&e) {
			continue
		}
		asked, meant := c.misspelt(name, manifest), ""
		near := c.nearlyAsked(name, manifest)
		locked := c.locked(near, name, manifest)
		tries := c.forTests(&e, name, manifest)
		switch unsure := !tries && (!sure || inSample(behindTests(e.From)) && !(isTest(path.Base(e.From)) && c.lockLacks(name, manifest))); {
		case locked:
			asked, meant = nil, near
		case asked == nil && unsure && near == "":
			continue // who knows where it comes from
		case asked == nil && unsure:
			meant = near
		}
		if meant := c.nearOwn(&e, manifest); meant != "" {
			own[manifest] = append(own[manifest], ownName{e, meant})
			continue
		}
		key := manifest + "\x00" + name
		if c.toldOf(told, key, e.From) {
			continue
		}
		message := "it imports " + name + ", which " + manifest + " does not ask for"
		if near := c.nearModule(name, e.From); near != "" {
			message += ", and there is no module of that name; did it mean " + near + "?"
		}
		if asked != nil {
			message += "; it asks for " + string(asked.Span.In(c.textOf(manifest))) + ", which nothing imports"
		}
		if meant != "" {
			message += "; did it mean " + meant + "?"
		}
		f := c.atRef(e.From, e.Ref, &finding.Place{Path: manifest}, "%s", message)
		if path.Ext(e.From) == ".rs" && c.node(path.Join(path.Dir(manifest), "Cargo.lock")) == nil {
			f.Level = finding.Note // the library of a package may have another name
		}
		if path.Base(manifest) == "package.json" && asked == nil && !locked && (tries || c.byOwner(name, manifest)) {
			f.Level = finding.Note
		}
		if f.About = name; asked != nil {
			f.Fix = []edit.Edit{c.edit(manifest, asked.Span, name)}
		} else if span := e.Ref.Edit(); locked && strings.HasPrefix(string(span.In(c.textOf(e.From))), name) {
			span.End = span.Start + int32(len(name))
			f.Fix = []edit.Edit{c.edit(e.From, span, meant)}
		}
		told[key] = len(c.findings)
	}
	for _, manifest := range slices.Sorted(maps.Keys(own)) {
		c.tellOwn(manifest, own[manifest])
	}
}

// askedNearly lists the dependencies of a manifest that have nearly the name of what is imported
// and not asked for.
func (c *Call) askedNearly(name, manifest string) (all []refs.Ref) {
	text := c.textOf(manifest)
	for _, k := range c.refsOf(manifest).Of(refs.Key) {
		list, asked, _ := strings.Cut(k.Name, ".")
		if strings.HasSuffix(strings.ToLower(list), "dependencies") && asked != name && string(k.Span.In(text)) == asked && names.Near(asked, name) < names.Apart {
			all = append(all, k)
		}
	}
	return all
}

// locks are the lists of what a manager of packages installed, beside its manifest: those of scripts, and all.
var (
	locksOfScripts = []string{"package-lock.json", "pnpm-lock.yaml", "yarn.lock", "bun.lock"}
	locks          = append(slices.Clip(locksOfScripts), "pubspec.lock")
)

// lockLacks says whether there is a lock of scripts beside a manifest, and it does not have a package: nothing brings it.
func (c *Call) lockLacks(name, manifest string) bool {
	lacks := false
	for _, lock := range locksOfScripts {
		if text := c.textOf(path.Join(path.Dir(manifest), lock)); len(text) > 0 {
			if hasPackage(text, name) {
				return false
			}
			lacks = true
		}
	}
	return lacks
}

// locked says whether a lock beside a manifest has a package that it asks for, and none of the
// name of an import: then it is the import that is wrong.
func (c *Call) locked(asked, imported, manifest string) bool {
	return asked != "" && slices.ContainsFunc(locks, func(lock string) bool {
		text := c.textOf(path.Join(path.Dir(manifest), lock))
		return hasPackage(text, asked) && !hasPackage(text, imported)
	})
}

// hasPackage says whether a lock speaks of a package, and not of one whose name goes on.
func hasPackage(lock []byte, name string) bool {
	goesOn := func(b byte) bool { return lang.WordByte(b) || b == '-' || b == '.' }
	for at := 0; ; {
		i := bytes.Index(lock[at:], []byte(name))
		if i < 0 {
			return false
		}
		from, to := at+i, at+i+len(name)
		if (from == 0 || !goesOn(lock[from-1])) && (to == len(lock) || !goesOn(lock[to])) {
			return true
		}
		at = to
	}
}

// misspelt gives the one such dependency where nothing imports it; nil where there is none.
func (c *Call) misspelt(name, manifest string) *refs.Ref {
	all := c.askedNearly(name, manifest)
	if len(all) != 1 {
		return nil
	}
	_, asked, _ := strings.Cut(all[0].Name, ".")
	if slices.ContainsFunc(c.Graph.Outside(), func(e refs.Edge) bool { return packageOf(strings.TrimPrefix(e.Ref.Name, "package:")) == asked }) {
		return nil
	}
	return &all[0]
}

// nearlyAsked gives the name of the one such dependency, imported or not.
func (c *Call) nearlyAsked(name, manifest string) (asked string) {
	if all := c.askedNearly(name, manifest); len(all) == 1 {
		_, asked, _ = strings.Cut(all[0].Name, ".")
	}
	return asked
}

// nearModule gives a module of the project that a Python import may have meant.
func (c *Call) nearModule(name, from string) string {
	if path.Ext(from) != ".py" || len(name) < 4 {
		return ""
	}
	var known []string
	for stem, files := range c.Graph.Look().Stems() {
		if slices.ContainsFunc(files, func(f string) bool { return path.Ext(f) == ".py" && path.Dir(f) == path.Dir(from) }) {
			known = append(known, stem)
		}
	}
	slices.Sort(known)
	return names.Closest(name, known)
}

func undeclaredDart(c *Call, e *refs.Edge) (name, manifest string, sure bool) {
	rest, ok := strings.CutPrefix(e.Ref.Name, "package:")
	_, at := c.Graph.Look().Nearest(e.From, "pubspec.yaml")
	if !ok || at == "" {
		return "", "", false
	}
	name, _, _ = strings.Cut(rest, "/")
	f := c.refsOf(at)
	for _, key := range []string{"dependencies.", "dev_dependencies.", "dependency_overrides."} {
		if f.Get(key+name) != nil {
			return "", "", false
		}
	}
	if own := f.Get("name"); own == nil || own.Value == name || f.Get("dependencies") == nil {
		return "", "", false
	}
	return name, at, true
}

func undeclaredPython(c *Call, e *refs.Edge) (name, manifest string, sure bool) {
	first, _, _ := strings.Cut(e.Ref.Name, ".")
	base := path.Base(e.From)
	if e.Ref.Relative > 0 || first == "" || base == "setup.py" || base == "conftest.py" || base == "noxfile.py" || strings.HasPrefix(base, "test") {
		return "", "", false
	}
	look := c.Graph.Look()
	if c.around("pyproject.toml", "setup.py", "setup.cfg", "requirements.txt") {
		return "", "", false // what the project around it has and asks for is there as well
	}
	if !python.Foreign(look, first) || len(look.FoldersEnding(first)) > 0 || len(look.Called(first)) > 0 {
		return "", "", false
	}
	for _, at := range []string{"requirements.in", "requirements.txt", "pyproject.toml", "Pipfile"} {
		if c.node(at) == nil {
			continue
		}
		if at == "pyproject.toml" && !bytes.Contains(c.textOf(at), []byte("dependencies")) {
			continue // settings of tools; what is needed is listed elsewhere
		}
		return first, at, true
	}
	return "", "", false
}

// declaredAs says whether a script imports what a declaration of the project stands for by its name.
func (c *Call) declaredAs(e *refs.Edge) bool {
	return e.Ref.Kind == refs.Import && kin(path.Ext(e.From), ".ts") && !strings.HasPrefix(e.Ref.Name, ".") && c.ambient(e.Ref.Name)
}

// ambient says whether a declaration of the project, or a page's import map,
// stands for a module.
func (c *Call) ambient(name string) bool {
	found := false
	for _, f := range c.everything() {
		switch {
		case found:
		case strings.HasSuffix(f.path, ".d.ts"):
			text := c.textOf(f.path)
			found = bytes.Contains(text, []byte("declare module '"+name)) || bytes.Contains(text, []byte(`declare module "`+name)) || bytes.Contains(text, []byte("declare module '*"))
		case strings.HasSuffix(f.path, ".html"):
			found = bytes.Contains(c.textOf(f.path), []byte("importmap"))
		}
	}
	return found
}
