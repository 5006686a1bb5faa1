package script

import (
	"cmp"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/lazy"
	"dicaxon/internal/names"
	"dicaxon/internal/refs/lang"
)

// What a module exports is told by its text, in the older way by an object that is
// written out or name by name; or it hands on what is elsewhere.
var (
	exportsAll  = lazy.New(`export\s*\*|exports\s*[.\[=]|export\s*=`)
	exportsSome = lazy.New(`\bmodule\.exports\s*=\s*\{|\bexports\.\w+\s*=`)
	exportsAny  = lazy.New(`\.\.\.|\bexports\s*[,)\[]|\bObject\.|\bexports\s*=\s*[^{\s=]|__|\bfor\s*\(|\.forEach\b`)
)

// endings are tried in this order where an import leaves the ending out: of a module and the
// declaration of its types beside it, the module is what runs.
var endings = []string{".ts", ".tsx", ".mts", ".cts", ".js", ".jsx", ".mjs", ".cjs", ".d.ts", ".vue", ".svelte", ".json"}

// compiled says of what sources a named file may be made: TypeScript names what
// will be compiled.
var compiled = map[string][]string{
	".js": {".ts", ".tsx", ".jsx", ".d.ts"}, ".jsx": {".tsx"}, ".mjs": {".mts", ".d.mts"}, ".cjs": {".cts", ".d.cts"},
	// A declaration names the source that it was made of.
	".ts": {".d.ts", ".d.cts"}, ".mts": {".d.mts"}, ".cts": {".d.cts"}, ".tsx": {".d.ts"}, ".css": {".scss", ".sass", ".less", ".styl"},
}

func resolve(l *lang.Look, from string, ref lang.Ref) lang.Answer {
	name := ref.Name
	plugin, module, through := strings.Cut(name, "!")
	if i := strings.LastIndexByte(name, '!'); i >= 0 {
		name = name[i+1:] // a loader stands before
	}
	if i := strings.IndexAny(name, "?#"); i > 0 {
		name = name[:i] // how a bundler is to take it
	}
	answer := lang.Answer{Fails: !strings.HasSuffix(from, ".d.ts")} // which nothing runs
	var starts []string
	switch {
	case name == "" || strings.ContainsAny(name, ":*") || strings.HasPrefix(path.Base(name), "$") && name[0] == '.' || strings.HasSuffix(name, ".ngfactory"), ofEmber(l, name): // such as ./$types, which is made
		return answer
	case isRelative(name):
		starts, answer.Own = []string{path.Join(path.Dir(from), name)}, true
		if at := inApp(l, from, starts[0]); at != "" {
			starts, answer.Near = append(starts, at), true
		}
	case name[0] == '/':
		starts = []string{name[1:], "public" + name}
	default:
		set := false // by settings, not by a custom alone
		for _, a := range aliasesFor(l, from) {
			rest, ok := strings.CutPrefix(name, a.prefix)
			if !ok || a.whole && rest != "" {
				continue
			}
			rooted := a.prefix == "" && l.IsFolder(path.Join(a.folder, firstPart(name)))
			if a.prefix == "" && !rooted && file(l, path.Join(a.folder, name)) == nil {
				continue // a package
			}
			starts = append(starts, path.Join(a.folder, rest))
			if a.prefix != "" && (l.IsFolder(a.folder) || !a.only && !strings.HasPrefix(a.folder, "..") && !strings.Contains(a.folder, "node_modules")) || rooted {
				answer.Own, answer.Only = true, answer.Only || a.only || a.prefix == ""
				set = set || !a.only && a.prefix != ""
			}
		}
		answer.Only = answer.Only && !set
		if folder, rest, ok := member(l, name); ok {
			return inMember(l, folder, strings.Trim(rest, "/"))
		}
		if at := nearMember(l, from, name); at != "" {
			return lang.Answer{Fails: true, Own: true, Only: true, Near: true, Sought: []string{at}}
		}
		if at := cmp.Or(nearAlias(l, from, name), lostAlias(l, from, name)); at != "" && !answer.Own && !asked(l, from, name) {
			return lang.Answer{Fails: true, Own: true, Only: true, Near: true, Sought: []string{name}, Meant: at}
		}
		if len(starts) == 0 && ungiven(l, from, name) {
			return lang.Answer{Fails: true, Own: true, Sought: []string{name}}
		}
		if at, own := forLoader(l, from, name); len(at) > 0 && !answer.Own {
			// A plug-in of the loader may add an ending of its own.
			starts, answer.Own = append(starts, at...), ref.Listed && (!through || plugin == "text" && module == name)
			answer.Near = ref.Listed && !own // others have names, too
		}
	}
	for _, start := range starts {
		if strings.HasPrefix(start, "..") {
			return lang.Answer{} // beyond the project
		}
		if to := file(l, start); to != nil {
			answer.To = to
			if ref.Value != "" && isScript(to[0]) && !given(l, from, to[0], ref.Value) {
				answer.Within, answer.Sought = to[0], []string{to[0] + "#" + ref.Value}
			}
			return answer
		}
		answer.Sought = append(answer.Sought, tries(start)...)
	}
	if answer.Only && asked(l, from, name) {
		return lang.Answer{} // of a package
	}
	return answer
}

// ofEmber says whether a name is of what the build of Ember makes: the settings of the environment.
func ofEmber(l *lang.Look, name string) bool {
	return strings.HasSuffix(name, "/config/environment") && byEmber(l)
}

// inApp gives where a test of Ember finds what it names from its own folder: tests lie in a folder of the application
// there, whose own is app/, to which others add. "" for others.
func inApp(l *lang.Look, from, at string) string {
	if !byEmber(l) {
		return ""
	}
	root, _, tests := strings.Cut("/"+from, "/tests/")
	root = strings.TrimPrefix(root+"/", "/")
	rest, within := strings.CutPrefix(at, root)
	if !tests || !within || strings.HasPrefix(rest, "tests/") {
		return ""
	}
	return path.Join(root, "app", rest)
}

// isRelative says whether a name is looked for from the file: .prisma is a package.
func isRelative(name string) bool {
	return name == "." || name == ".." || strings.HasPrefix(name, "./") || strings.HasPrefix(name, "../")
}

// byEmber says whether the build of Ember puts the project together.
func byEmber(l *lang.Look) bool {
	return len(l.Called("ember-cli-build")) > 0 || len(l.Called("ember-cli-update")) > 0
}

// given says whether a module, or what declares its types, or is the same for another platform,
// gives a name that another takes of it.
func given(l *lang.Look, from, at, name string) bool {
	if name == "default" {
		if byEmber(l) { // whose loader gives the whole module where there is no default
			return true
		}
		f := l.Of(at)
		return f.Open || f.Words.Has("default") || !f.Words.Has("export") || f.Words.Has("module") || f.Words.Has("exports")
	}
	if name == "*" || strings.Contains(name, "$") || gives(l, at, name) {
		return true
	}
	own := names.Stem(path.Base(at)) + "."
	return slices.ContainsFunc(l.Stemmed(path.Join(path.Dir(at), names.BeforeDot(own))), func(f string) bool {
		_, test := names.Testee(path.Base(f)) // a test beside it gives nothing
		return !test && f != from && strings.HasPrefix(path.Base(f), own) && isScript(f) && gives(l, f, name)
	})
}

func gives(l *lang.Look, at, name string) bool {
	f := l.Of(at)
	return f.Open || f.Words.Has(name) && f.Uses.Gives.Has(name) || strings.HasSuffix(at, ".d.ts") // which exports whatever it declares
}

func isScript(at string) bool { return slices.Contains(ofScripts, path.Ext(at)) }

func firstPart(name string) string {
	first, _, _ := strings.Cut(name, "/")
	return first
}

// tries lists the paths at which a module may lie.
func tries(start string) []string {
	all := []string{start}
	for _, ending := range endings {
		all = append(all, start+ending)
	}
	ending := path.Ext(start)
	for _, source := range compiled[ending] {
		all = append(all, strings.TrimSuffix(start, ending)+source)
	}
	for _, ending := range endings {
		all = append(all, path.Join(start, "index"+ending))
	}
	return all
}

// file finds a module where one may lie; nil where there is none.
func file(l *lang.Look, start string) []string {
	if start == "." {
		start = ""
	}
	if l.IsFile(start) {
		return []string{start}
	}
	for _, ending := range endings {
		if at := start + ending; l.IsFile(at) {
			return []string{at}
		}
	}
	if found := l.First(tries(start)...); found != nil {
		return found
	}
	// A platform, a kind of module or a loader may stand in the name.
	for _, found := range l.Stemmed(start) {
		if start != "" && !besides.MatchString(path.Base(found)[len(path.Base(start)):]) {
			return []string{found}
		}
	}
	if l.IsFolder(start) && l.IsFile(path.Join(start, "package.json")) || len(l.Stemmed(path.Join(start, "index"))) > 0 {
		return []string{path.Clean(start)}
	}
	return nil
}

// besides ends the names of files that stand beside a module and are none that an
// import of it means: its tests, examples, style and page.
var besides = lazy.New(`^\.(?:spec|test|stories|story|cy|e2e|bench|mock)\b|^\.(?:module\.)?(?:css|scss|sass|less|html|md|mdx|snap)$`)

// members gives the folders of the packages of the project by their names.
func members(l *lang.Look) map[string]string {
	return lang.Once(l, "script members", func() map[string]string {
		all := map[string]string{}
		for _, at := range l.Called("package") {
			if path.Base(at) == "package.json" {
				if k := l.Of(at).Get("name"); k != nil && k.Value != "" {
					all[k.Value] = path.Dir(at)
				}
			}
		}
		return all
	})
}

// nearMember gives the folder at which a package of the project would lie that an import
// names, where there is one of nearly that name under the same owner, and the manifest
// around the file asks for none that is called so.
func nearMember(l *lang.Look, from, name string) string {
	scope, rest, scoped := strings.Cut(name, "/")
	if !scoped || scope[0] != '@' {
		return ""
	}
	last, _, _ := strings.Cut(rest, "/")
	own := lang.Once(l, "script members of "+scope, func() map[string]string {
		all := map[string]string{}
		for other, folder := range members(l) {
			if below, same := strings.CutPrefix(other, scope+"/"); same {
				all[below] = folder
			}
		}
		return all
	})
	near := lang.NearPackage(l, "script "+scope, last, own, func(folder string) string { return folder })
	if near == "" {
		return ""
	}
	if asked(l, from, name) {
		return ""
	}
	return path.Join(path.Dir(near), last)
}

// asked says whether the manifest around a file asks for the package of an import.
func asked(l *lang.Look, from, name string) bool {
	parts := strings.SplitN(name, "/", 3)
	if parts[0] != "" && parts[0][0] == '@' && len(parts) > 1 {
		parts[0] += "/" + parts[1]
	}
	_, manifest := l.Nearest(from, "package.json")
	return manifest != "" && slices.ContainsFunc(l.Of(manifest).Of(lang.Key), func(k lang.Ref) bool {
		return strings.HasSuffix(k.Name, "ependencies."+parts[0])
	})
}

// nearAlias gives the module that an import names by nearly the beginning that settings give
// to a folder; "" where there is none.
func nearAlias(l *lang.Look, from, name string) string {
	first, rest, below := strings.Cut(name, "/")
	if !below && name[0] != '#' || len(first) < 4 {
		return ""
	}
	for _, a := range aliasesFor(l, from) {
		if a.whole && !below && a.prefix[:1] == first[:1] && names.Near(first, a.prefix) != names.Apart {
			return a.folder
		}
		prefix, ok := strings.CutSuffix(a.prefix, "/")
		if !ok || a.only || prefix == first || !strings.HasPrefix(prefix, first[:1]) || names.Near(first, prefix) == names.Apart {
			continue
		}
		if to := file(l, path.Join(a.folder, rest)); to != nil {
			return to[0]
		}
	}
	return ""
}

// member finds the folder of a package of the project by its name.
func member(l *lang.Look, name string) (folder, rest string, ok bool) {
	members := members(l)
	for at := name; ; {
		if folder, ok := members[at]; ok {
			return folder, strings.TrimPrefix(name, at), true
		}
		i := strings.LastIndexByte(at, '/')
		if i < 0 {
			return "", "", false
		}
		at = at[:i]
	}
}

// inMember finds what an import takes out of a package of the project. What its list of exports
// does not name nobody can import; what it does name may be compiled.
func inMember(l *lang.Look, folder, rest string) lang.Answer {
	answer := lang.Answer{Fails: true, How: lang.Convention}
	listed, dirs := false, []string{folder}
	for _, k := range l.Of(path.Join(folder, "package.json")).Of(lang.Key) {
		below, ok := strings.CutPrefix(k.Name, "exports.")
		if !ok && k.Name != "exports" {
			continue
		}
		listed = true
		if dir := path.Dir(path.Join(folder, k.Value)); k.Value != "" && !slices.Contains(dirs, dir) {
			dirs = append(dirs, dir)
		}
		// A condition may stand behind the name, as in "card.import".
		before, _, pattern := strings.Cut(strings.TrimPrefix(below, "./"), "*")
		if pattern && strings.HasPrefix(rest, before) || before == rest || strings.HasPrefix(before, rest+".") {
			answer.To = []string{folder}
			return answer
		}
	}
	if to := file(l, path.Join(folder, rest)); rest == "" || to != nil && !listed {
		answer.To = append(to, folder)[:1]
		return answer
	}
	// Settings of tests and bundlers may stand for such a name, too: only a near one is told.
	answer.Own, answer.Only, answer.Near = true, true, true
	for _, dir := range dirs {
		answer.Sought = append(answer.Sought, tries(path.Join(dir, rest))...)
	}
	return answer
}
