package refs

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/names"
)

// A Tree is what a Resolver asks about a project. Paths are below it, with "/"
// and without one at their end.
type Tree interface {
	IsFile(path string) bool
	IsFolder(path string) bool
	// Each gives the path of every file.
	Each(yield func(path string))
	Text(path string) ([]byte, error)
}

// A Resolver finds the files of a project that references name, as the rules of
// each language have it. It reads only the few settings that say how names are
// looked up, and lists the files only for languages whose names are no paths.
type Resolver struct {
	tree    Tree
	byBase  map[string][]string // files by their last name without ending, made when it is asked for
	folders map[string]bool     // made with it
	self    map[string]string   // what settings say, each read once: see setting
	aliases []alias             // of TypeScript and PHP, read once
	aliased bool
}

// An alias is a beginning of a name and the folder that stands for it.
type alias struct{ prefix, folder string }

// NewResolver makes a Resolver for a project.
func NewResolver(t Tree) *Resolver { return &Resolver{tree: t, self: map[string]string{}} }

// called gives the files of that name, whatever their ending.
func (r *Resolver) called(stem string) []string {
	r.list()
	return r.byBase[stem]
}

// list goes through the files once, for names that are no paths.
func (r *Resolver) list() {
	if r.byBase != nil {
		return
	}
	r.byBase, r.folders = map[string][]string{}, map[string]bool{}
	r.tree.Each(func(f string) {
		if !Reads(f) && path.Ext(f) != ".csv" {
			return
		}
		stem, _, _ := strings.Cut(path.Base(f), ".")
		r.byBase[stem] = append(r.byBase[stem], f)
		for dir := path.Dir(f); dir != "." && !r.folders[dir]; dir = path.Dir(dir) {
			r.folders[dir] = true
		}
	})
}

// Resolve gives the files and folders of the project that a reference in the
// file from names; none where it leads outside or nowhere. A folder has no
// slash at its end.
func (r *Resolver) Resolve(from string, ref Ref) []string {
	if ref.Kind == Package || ref.Kind == Key || ref.Kind == Type || ref.Kind == Source {
		return nil
	}
	if find := finders[path.Ext(from)]; find != nil && ref.Kind != Path {
		return find(r, from, ref)
	}
	return r.relative(from, ref.Name)
}

var finders map[string]func(*Resolver, string, Ref) []string

func init() {
	finders = map[string]func(*Resolver, string, Ref) []string{
		".py": (*Resolver).python, ".go": (*Resolver).golang, ".sql": (*Resolver).model,
		".kt": (*Resolver).jvm, ".kts": (*Resolver).jvm, ".java": (*Resolver).jvm,
		".php": (*Resolver).php, ".rb": (*Resolver).ruby, ".dart": (*Resolver).dart, ".cs": (*Resolver).csharp, ".swift": (*Resolver).swift,
		".html": (*Resolver).document, ".htm": (*Resolver).document, ".css": (*Resolver).document, ".scss": (*Resolver).document,
	}
	for _, ending := range scriptEndings {
		finders[ending] = (*Resolver).script
	}
}

// scriptEndings are tried in this order where an import leaves the ending out.
var scriptEndings = []string{".ts", ".tsx", ".mts", ".cts", ".d.ts", ".js", ".jsx", ".mjs", ".cjs", ".vue", ".svelte", ".json"}

// there gives those of the paths that are in the project, each once.
func (r *Resolver) there(paths ...string) []string {
	var all []string
	for _, p := range paths {
		if p = path.Clean(p); p != "." && (r.tree.IsFile(p) || r.tree.IsFolder(p)) && !slices.Contains(all, p) {
			all = append(all, p)
		}
	}
	return all
}

// first gives the first of the paths that is a file of the project.
func (r *Resolver) first(paths ...string) []string {
	for _, p := range paths {
		if p = path.Clean(p); r.tree.IsFile(p) {
			return []string{p}
		}
	}
	return nil
}

func (r *Resolver) relative(from, name string) []string {
	return r.there(path.Join(path.Dir(from), name))
}

// python looks a module up from the project and from src/, as the two usual
// settings of the search path have it.
func (r *Resolver) python(from string, ref Ref) []string {
	roots := []string{"", "src"}
	if ref.Relative > 0 {
		dir := path.Dir(from)
		for range ref.Relative - 1 {
			dir = path.Dir(dir)
		}
		roots = []string{dir}
	}
	module := strings.ReplaceAll(ref.Name, ".", "/")
	for _, root := range roots {
		at := path.Join(root, module)
		found := r.module(at)
		// What is imported from a package may be a module of it.
		for _, name := range strings.Split(ref.Value, ",") {
			if name != "" && name != "*" {
				found = append(found, r.module(path.Join(at, name))...)
			}
		}
		if len(found) > 0 {
			return found
		}
	}
	return nil
}

// module gives the file of a module, or the folder of a package without a marker
// file (PEP 420).
func (r *Resolver) module(at string) []string {
	if found := r.first(at+".py", at+"/__init__.py"); found != nil || at == "." || at == "src" {
		return found
	}
	if r.tree.IsFolder(path.Clean(at)) {
		return []string{path.Clean(at)}
	}
	return nil
}

func (r *Resolver) golang(_ string, ref Ref) []string {
	if below, ok := strings.CutPrefix(ref.Name+"/", r.setting("go.mod", "")+"/"); ok && r.self["go.mod"] != "" {
		return r.there(strings.TrimSuffix(below, "/"))
	}
	return nil
}

func (r *Resolver) script(from string, ref Ref) []string {
	var starts []string
	switch {
	case strings.HasPrefix(ref.Name, "."):
		starts = []string{path.Join(path.Dir(from), ref.Name)}
	case strings.HasPrefix(ref.Name, "/"):
		starts = []string{ref.Name[1:], "public" + ref.Name}
	default:
		for _, a := range r.allAliases() {
			if rest, ok := strings.CutPrefix(ref.Name, a.prefix); ok && !strings.HasSuffix(a.prefix, `\`) {
				starts = append(starts, path.Join(a.folder, rest))
			}
		}
	}
	for _, start := range starts {
		tries := []string{start}
		for _, ending := range scriptEndings {
			tries = append(tries, start+ending)
		}
		// TypeScript names what will be compiled: ./x.js is x.ts.
		if stem, ok := strings.CutSuffix(start, ".js"); ok {
			tries = append(tries, stem+".ts", stem+".tsx")
		}
		for _, ending := range scriptEndings {
			tries = append(tries, path.Join(start, "index"+ending))
		}
		if found := r.first(tries...); found != nil {
			return found
		}
	}
	return nil
}

// jvm finds a type by its package and name, under whichever source root.
func (r *Resolver) jvm(_ string, ref Ref) []string {
	name := strings.ReplaceAll(strings.TrimSuffix(ref.Name, ".*"), ".", "/")
	var found []string
	// A nested type and a function lie in the file of what they stand in.
	for n := name; len(found) == 0 && strings.Contains(n, "/"); n = path.Dir(n) {
		for _, f := range r.called(path.Base(n)) {
			if ending := path.Ext(f); (ending == ".java" || ending == ".kt") && endsIn(strings.TrimSuffix(f, ending), n) {
				found = append(found, f)
			}
		}
	}
	if len(found) > 0 {
		return found
	}
	return r.foldersEnding(name)
}

// endsIn says whether the path is, or ends in, the names of tail.
func endsIn(p, tail string) bool { return p == tail || strings.HasSuffix(p, "/"+tail) }

func (r *Resolver) foldersEnding(tail string) []string {
	r.list()
	var found []string
	for f := range r.folders {
		if f != "" && endsIn(f, tail) {
			found = append(found, f)
		}
	}
	slices.Sort(found)
	return found
}

// php looks a class up in the autoload table of composer.json (PSR-4).
func (r *Resolver) php(from string, ref Ref) []string {
	for _, a := range r.allAliases() {
		if rest, ok := strings.CutPrefix(ref.Name, a.prefix); ok && strings.HasSuffix(a.prefix, `\`) {
			if found := r.first(path.Join(a.folder, strings.ReplaceAll(rest, `\`, "/")) + ".php"); found != nil {
				return found
			}
		}
	}
	return nil
}

// ruby finds required files, and constants by the path that autoloading gives
// them.
func (r *Resolver) ruby(from string, ref Ref) []string {
	if ref.Value == "require_relative" {
		return r.first(path.Join(path.Dir(from), ref.Name)+".rb", path.Join(path.Dir(from), ref.Name))
	}
	if ref.Value != "" {
		return r.first("lib/"+ref.Name+".rb", ref.Name+".rb")
	}
	var parts []string
	for _, part := range strings.Split(ref.Name, "::") {
		parts = append(parts, names.To(names.Snake, part))
	}
	for n := len(parts); n > 0; n-- {
		tail := strings.Join(parts[:n], "/") + ".rb"
		var found []string
		for _, f := range r.called(parts[n-1]) {
			root, below, _ := strings.Cut(f, "/")
			_, inPart, _ := strings.Cut(below, "/") // app/models/ and its like are roots
			if root == "lib" && below == tail || inPart == tail {
				found = append(found, f)
			}
		}
		if len(found) > 0 {
			return found
		}
	}
	return nil
}

func (r *Resolver) dart(from string, ref Ref) []string {
	if rest, ok := strings.CutPrefix(ref.Name, "package:"); ok {
		own, below, _ := strings.Cut(rest, "/")
		if own != r.setting("pubspec.yaml", "name") {
			return nil
		}
		return r.first("lib/" + below)
	}
	if strings.Contains(ref.Name, ":") {
		return nil
	}
	return r.relative(from, ref.Name)
}

// csharp takes namespaces to follow folders, below the folder of the project.
func (r *Resolver) csharp(_ string, ref Ref) []string {
	return r.foldersEnding(strings.ReplaceAll(ref.Name, ".", "/"))
}

// swift finds a module of the package.
func (r *Resolver) swift(_ string, ref Ref) []string {
	module, _, _ := strings.Cut(ref.Name, ".")
	return r.there("Sources/"+module, module)
}

func (r *Resolver) document(from string, ref Ref) []string {
	name, _, _ := strings.Cut(ref.Name, "?")
	name, _, _ = strings.Cut(name, "#")
	if name == "" || strings.Contains(name, ":") || strings.HasPrefix(name, "//") {
		return nil
	}
	if rest, ok := strings.CutPrefix(name, "/"); ok {
		return r.there(rest, "public/"+rest, "static/"+rest)
	}
	return r.relative(from, name)
}

// model finds the template that a ref call names.
func (r *Resolver) model(_ string, ref Ref) []string {
	var found []string
	for _, f := range r.called(ref.Name) {
		if ending := path.Ext(f); ending == ".sql" || ending == ".csv" || ending == ".py" {
			found = append(found, f)
		}
	}
	return found
}

// setting gives a value of a settings file at the top of the project, or, for
// the key "", the package that it says it is.
func (r *Resolver) setting(file, key string) string {
	if value, known := r.self[file]; known {
		return value
	}
	r.self[file] = ""
	if r.tree.IsFile(file) {
		if text, err := r.tree.Text(file); err == nil {
			f := Read(file, text)
			if p := f.Package(); key == "" && p != nil {
				r.self[file] = p.Name
			} else if k := f.Get(key); k != nil {
				r.self[file] = k.Value
			}
		}
	}
	return r.self[file]
}

// allAliases gives the path aliases of the compiler settings, the usual "@/" for
// src/, and the namespaces of composer.json.
func (r *Resolver) allAliases() []alias {
	if r.aliased {
		return r.aliases
	}
	r.aliased = true
	for _, file := range []string{"tsconfig.json", "tsconfig.app.json", "jsconfig.json", "composer.json"} {
		if !r.tree.IsFile(file) {
			continue
		}
		text, err := r.tree.Text(file)
		if err != nil {
			continue
		}
		f := Read(file, text)
		base := ""
		if k := f.Get("compilerOptions.baseUrl"); k != nil {
			base = k.Value
			r.aliases = append(r.aliases, alias{"", base})
		}
		for _, k := range f.Of(Key) {
			name, isPath := strings.CutPrefix(k.Name, "compilerOptions.paths.")
			if isPath && k.Value != "" {
				r.aliases = append(r.aliases, alias{strings.TrimSuffix(name, "*"), path.Join(base, strings.TrimSuffix(k.Value, "*"))})
			}
			for _, table := range []string{"autoload.psr-4.", "autoload-dev.psr-4."} {
				if space, ok := strings.CutPrefix(k.Name, table); ok && k.Value != "" {
					r.aliases = append(r.aliases, alias{space, k.Value})
				}
			}
		}
	}
	// The longest beginning wins.
	slices.SortStableFunc(r.aliases, func(a, b alias) int { return len(b.prefix) - len(a.prefix) })
	r.aliases = append(r.aliases, alias{"@/", "src"}, alias{"~/", "src"})
	return r.aliases
}
