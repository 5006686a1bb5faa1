package python

import (
	"bytes"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/lazy"
	"dicaxon/internal/names"
	"dicaxon/internal/refs/lang"
	"dicaxon/internal/refs/lang/pip"
)

// resolve looks a module up as the usual settings of the search path have it: from
// the project, from src/, from the file's own folder and from those around it.
func resolve(l *lang.Look, from string, ref lang.Ref) lang.Answer {
	module := strings.ReplaceAll(ref.Name, ".", "/")
	if strings.Contains(ref.Name, "/") {
		return lang.Answer{} // a module has no such name
	}
	if ref.Relative > 0 {
		dir := path.Dir(from)
		for range ref.Relative - 1 {
			if dir == "." {
				return lang.Answer{} // beyond the project
			}
			dir = path.Dir(dir)
		}
		answer := modules(l, from, path.Join(dir, module), ref.Value)
		answer.Own, answer.Fails = !openAround(l, path.Join(dir, module)), true
		return answer
	}
	first, _, _ := strings.Cut(module, "/")
	if Standard()[first] && l.IsFile("__init__.py") {
		return lang.Answer{} // the project is itself a part of a package, whose modules are none of the library
	}
	for i, root := range roots(l, from, first) {
		if i > 1 && Standard()[first] {
			break
		}
		if answer := modules(l, from, path.Join(root, module), ref.Value); len(answer.To) > 0 {
			if i > 1 {
				answer.How = lang.Convention
			}
			// A package without a marker may be of others, too, which share it, unless it
			// lies in one that has its own.
			ours := l.IsFile(answer.To[0]) || l.IsFile(path.Join(path.Dir(answer.To[0]), "__init__.py"))
			answer.Own, answer.Fails = ours && !Standard()[first] && !openAround(l, path.Join(root, module)), true
			return answer
		}
	}
	return own(l, from, module)
}

// roots lists the folders from which a module may be looked for: the project,
// src/, those around the file that are no packages, from which it may be started, and
// those of the packages that one repository holds, as far as they have a module of that
// first name.
func roots(l *lang.Look, from, first string) []string {
	all := []string{"", "src"}
	for dir := path.Dir(from); dir != "." && dir != "/"; dir = path.Dir(dir) {
		if dir != "src" && !l.IsFile(path.Join(dir, "__init__.py")) {
			all = append(all, dir)
		}
	}
	all = append(all, ofScheduler(l)...)
	for _, root := range membersWith(l, first) {
		if !slices.Contains(all, root) {
			all = append(all, root)
		}
	}
	return all
}

// ofScheduler gives the folders that a scheduler of jobs puts on the search path, nil where there is none.
func ofScheduler(l *lang.Look) []string {
	if !l.IsFolder("dags") {
		return nil
	}
	return []string{"dags", "plugins"}
}

// membersWith lists those members that have a module of that name: of hundreds in one
// repository, few do.
func membersWith(l *lang.Look, first string) []string {
	return lang.Once(l, "python members with "+first, func() (all []string) {
		for _, root := range members(l) {
			if at := path.Join(root, first); l.IsFolder(at) || module(l, at) != nil {
				all = append(all, root)
			}
		}
		return all
	})
}

// members lists the folders below the project in which the code of packages with
// metadata of their own begins.
func members(l *lang.Look) []string {
	return lang.Once(l, "python members", func() (all []string) {
		for _, at := range l.Called("pyproject") {
			dir := path.Dir(at)
			if path.Base(at) != "pyproject.toml" || dir == "." {
				continue
			}
			if src := path.Join(dir, "src"); l.IsFolder(src) {
				dir = src
			}
			all = append(all, dir)
		}
		return all
	})
}

// membersNear lists those members that have a package of nearly that name.
func membersNear(l *lang.Look, first string) []string {
	return lang.Once(l, "python members near "+first, func() (all []string) {
		for _, root := range members(l) {
			if slices.ContainsFunc(l.Names(root), func(name string) bool {
				return names.Near(first, name) != names.Apart && l.IsFile(path.Join(root, name, "__init__.py"))
			}) {
				all = append(all, root)
			}
		}
		return all
	})
}

// own says of a module that is nowhere whether it must be the project's: its
// package is, and the rest of the name fails.
func own(l *lang.Look, from, module string) lang.Answer {
	first, rest, deeper := strings.Cut(module, "/")
	if l.IsFile("__init__.py") || Standard()[first] || !deeper && l.IsFile(path.Join(path.Dir(from), first+".py")) {
		return lang.Answer{} // Python 2 looked beside the file first
	}
	if deeper {
		for i, root := range roots(l, from, first) {
			at := path.Join(root, first)
			// The deepest package on the way that is there must be a real one.
			for parts := strings.Split(rest, "/"); len(parts) > 1 && l.IsFile(path.Join(at, parts[0], "__init__.py")); parts = parts[1:] {
				at = path.Join(at, parts[0])
			}
			if marker := path.Join(root, first, "__init__.py"); l.IsFile(marker) && !open(l, marker) && !open(l, path.Join(at, "__init__.py")) {
				return lang.Answer{Own: true, Fails: true, Only: i > 1 && !slices.Contains(ofScheduler(l), root), Sought: sought(path.Join(root, module))}
			}
		}
	}
	if deeper && !declared(l, first) {
		here := roots(l, from, first)[:2]
		for _, root := range here { // a module is no package
			if at := path.Join(root, first); l.IsFile(at+".py") && !l.IsFolder(at) {
				return lang.Answer{Own: true, Fails: true, Sought: sought(path.Join(root, module))}
			}
		}
		// The very folder that it would lie in holds code, without a marker.
		for _, root := range here {
			if dir := path.Join(root, path.Dir(module)); !l.IsFile(path.Join(root, first, "__init__.py")) && holdsCode(l, dir) {
				return lang.Answer{Own: true, Fails: true, Elsewhere: true, Sought: sought(path.Join(root, module))}
			}
		}
	}
	if root := ownRoot(l, first); root != "" {
		return lang.Answer{Own: true, Fails: true, Sought: sought(path.Join(root, module))}
	}
	// A module elsewhere has the same end of its name, and nobody else can be meant.
	answer := lang.Answer{Fails: true, Only: true, Sought: sought(module)}
	if l.IsFolder("src") {
		answer.Sought = append(answer.Sought, sought("src/"+module)...)
	}
	elsewhere := slices.ContainsFunc(l.Called(path.Base(module)), func(f string) bool {
		return f != from && lang.EndsIn(strings.TrimSuffix(f, ".py"), module) && (deeper || strings.Count(f, "/") == 1)
	})
	answer.Own = elsewhere && !declared(l, first) && (deeper || lists(l))
	if !answer.Own && len(first) > 2 && (!requires(l)[squeezed(first)] || ownNames(l)[squeezed(first)]) {
		// A package of the project has nearly that name.
		answer.Own, answer.Near = true, true
		for _, root := range membersNear(l, first) {
			answer.Sought = append(answer.Sought, sought(path.Join(root, module))...)
		}
	}
	return answer
}

// ownRoot gives the folder src/ of the project, or of a part of it, that is called as a module which
// is not in there, though another package is; "" where there is none.
func ownRoot(l *lang.Look, first string) string {
	return lang.Once(l, "python own root of "+first, func() string {
		for _, at := range l.Called("pyproject") {
			root := path.Join(path.Dir(at), "src")
			m := ownName.Get().FindSubmatch(l.TextOf(at))
			if m == nil || squeezed(string(m[1])) != squeezed(first) || !l.IsFolder(root) || module(l, path.Join(root, first)) != nil {
				continue
			}
			some, near := false, false // one of nearly that name is it, and what is wrong is its own name
			for _, name := range l.Names(root) {
				some = some || l.IsFile(path.Join(root, name, "__init__.py"))
				near = near || names.Near(name, first) != names.Apart
			}
			if some && !near {
				return root
			}
		}
		return ""
	})
}

// holdsCode says whether a folder holds modules of Python.
func holdsCode(l *lang.Look, dir string) bool {
	return l.IsFolder(dir) && slices.ContainsFunc(l.Names(dir), func(name string) bool { return strings.HasSuffix(name, ".py") })
}

// ownNames gives the names by which the project's manifests call itself: nothing else is installed
// under them.
func ownNames(l *lang.Look) map[string]bool {
	return lang.Once(l, "python own names", func() map[string]bool {
		all := map[string]bool{}
		for _, stem := range []string{"pyproject", "setup"} {
			for _, at := range l.Called(stem) {
				for _, m := range ownName.Get().FindAllSubmatch(l.TextOf(at), -1) {
					all[squeezed(string(m[1]))] = true
				}
			}
		}
		return all
	})
}

// ownName finds the name of the project in its metadata, as pyproject.toml, setup.cfg and setup.py
// have it.
var ownName = lazy.New(`(?m)^\s*name\s*=\s*["']?([\w.-]+)`)

// lists says whether the project lists what it requires.
func lists(l *lang.Look) bool {
	return len(l.Called("pyproject")) > 0 || len(l.Called("setup")) > 0 || len(l.Called("requirements")) > 0 || len(l.Called("Pipfile")) > 0
}

// sought lists the paths at which a module may lie.
func sought(at string) []string { return []string{at + ".py", at, at + "/__init__.py"} }

// modules finds a module, and what is taken out of it where that is a module.
func modules(l *lang.Look, from, at, value string) lang.Answer {
	answer := lang.Answer{To: module(l, at), Sought: sought(at)}
	if value == "" || value == "*" {
		return answer
	}
	below := path.Join(at, value)
	if found := module(l, below); found != nil {
		answer.To = append(answer.To, found...)
		return answer
	}
	if len(answer.To) == 0 {
		return answer
	}
	home := answer.To[0]
	if l.IsFile(home) && strings.HasSuffix(home, ".py") && (!gives(l, home, value) || home == from && !binds(l.TextOf(home), value) && !open(l, home)) {
		answer.Within = home
		answer.Sought = sought(below)
	} else if at != "." && l.IsFolder(home) { // a package without a marker holds modules only
		answer.Sought, answer.Within = append(sought(below), path.Join(at, "__init__.py")), home
	}
	if answer.Within != "" && compiled(l, value) {
		answer.Within, answer.Sought = "", sought(at)
	}
	return answer
}

// binds says whether a module gives a name itself, rather than by taking it from
// itself.
func binds(text []byte, name string) bool {
	for _, i := range lang.Words(text, name) {
		start := bytes.LastIndexByte(text[:i], '\n') + 1
		before, after := bytes.TrimSpace(text[start:i]), bytes.TrimLeft(text[i+len(name):], " \t")
		if bytes.HasSuffix(before, []byte("def")) || bytes.HasSuffix(before, []byte("class")) || bytes.HasSuffix(before, []byte(" as")) || bytes.HasSuffix(before, []byte("import")) && bytes.HasPrefix(before, []byte("import")) {
			return true
		}
		if len(before) == 0 && len(after) > 0 && (after[0] == '=' || after[0] == ':') || bytes.HasSuffix(before, []byte("for")) || bytes.HasSuffix(before, []byte("global")) {
			return true
		}
	}
	return false
}

// module gives the file of a module, or the folder of a package without a marker
// file (PEP 420).
func module(l *lang.Look, at string) []string {
	if found := l.First(at+".py", at+"/__init__.py", at+".pyi", at+"/__init__.pyi"); found != nil {
		return found
	}
	if at == "." || at == "src" || at == "" {
		return nil
	}
	// A module may be written in another language.
	if found := l.Stemmed(at); len(found) > 0 && slices.ContainsFunc(found, built) {
		return found[:1]
	}
	if l.IsFolder(path.Clean(at)) {
		return []string{path.Clean(at)}
	}
	return nil
}

// built says whether a file is a module that a compiler makes or made.
func built(at string) bool {
	switch path.Ext(at) {
	case ".so", ".pyd", ".pyx", ".c", ".cc", ".cpp", ".rs", ".pyc", ".pxd", ".in", ".jinja", ".j2", ".tmpl", ".template", ".mako", ".ui", ".proto", ".lark", ".i", ".f90", ".f", ".pyf":
		return true
	}
	return false
}

// open says whether a module may give names that its text does not hold.
func open(l *lang.Look, at string) bool { return l.IsFile(at) && l.Of(at).Open }

// openAround says whether a package on the way to a module may give names that no
// text holds.
func openAround(l *lang.Look, at string) bool {
	for dir := path.Dir(at); dir != "." && dir != "/"; dir = path.Dir(dir) {
		if open(l, path.Join(dir, "__init__.py")) {
			return true
		}
	}
	return false
}

// gives says whether a module may give a name to those who import it: false only
// where it binds it nowhere, and its text holds nothing that could make it.
func gives(l *lang.Look, at, name string) bool {
	f := l.Of(at)
	return strings.HasPrefix(name, "__") || f.Open || f.Words.Has(name) && (f.Uses.Gives.Has(name) || builtins()[name]) || l.IsFile(at+"i") && l.Of(at+"i").Words.Has(name)
}

// declared says whether a module may come from elsewhere: a list of requirements
// names it or anything like it, or files change the search path.
func declared(l *lang.Look, first string) bool {
	known := requires(l)
	if known[squeezed(first)] || Standard()[first] || strings.HasPrefix(first, "_") {
		return true
	}
	for name := range known {
		// What extends a framework is called after it, and is a distribution of its own.
		extends := strings.HasPrefix(strings.ToLower(first), name+"_") && slices.Contains(extended, name)
		if len(first) > 2 && !extends && (strings.Contains(name, squeezed(first)) || len(name) > 3 && strings.Contains(squeezed(first), name)) {
			return true
		}
	}
	return false
}

// extended are frameworks whose extensions are called after them.
var extended = []string{"flask", "django", "pytest", "fastapi"}

// squeezed is a name without what distributions and modules write differently.
func squeezed(name string) string { return separators.Replace(strings.ToLower(name)) }

var separators = strings.NewReplacer("-", "", "_", "", ".", "")

// requires gives the words of the lists of what the project requires.
func requires(l *lang.Look) map[string]bool {
	return lang.Once(l, "python declared", func() map[string]bool {
		all := map[string]bool{}
		for _, stem := range []string{"pyproject", "setup", "Pipfile", "environment", "tox", "poetry"} {
			for _, at := range l.Called(stem) {
				if !slices.Contains([]string{".toml", ".py", ".cfg", ".yml", ".yaml", ".ini", ""}, path.Ext(at)) {
					continue
				}
				for _, word := range bytes.FieldsFunc(l.TextOf(at), func(c rune) bool { return !lang.WordByte(byte(c)) && c != '-' }) {
					all[squeezed(string(word))] = true
				}
			}
		}
		for _, files := range l.Stems() {
			for _, at := range files {
				if !pip.IsList(at) {
					continue
				}
				for _, r := range l.Of(at).Of(lang.Import) {
					all[squeezed(r.Name)] = true
				}
			}
		}
		return all
	})
}
