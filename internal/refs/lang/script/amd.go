package script

import (
	"bytes"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/lazy"
	"dicaxon/internal/refs/lang"
)

// listed gives where the texts begin in the lists of modules that a define or a require asks for:
// the asynchronous module definition (AMD API, "dependencies"). A module that asks whether there is
// such a loader is loaded otherwise where there is none.
func listed(code []byte) []int {
	var all []int
	if bytes.Contains(code, []byte("define.amd")) {
		return nil
	}
	for _, call := range calls {
		for from := 0; ; {
			i := bytes.Index(code[from:], []byte(call))
			if i < 0 {
				break
			}
			start := from + i
			from = start + len(call)
			if start > 0 && (lang.WordByte(code[start-1]) || code[start-1] == '.') {
				continue
			}
			all = append(all, inList(code, from)...)
		}
	}
	slices.Sort(all)
	return all
}

var calls = []string{"define", "require", "requirejs"}

// listHead is what stands between the name of the call and its list: the module may have a name.
var listHead = lazy.New(`\A\s*\(\s*(?:["']\x00+["']\s*,\s*)?\[[^\]()]*\]`)

// inList gives where the texts of a call's list begin, none where it has no list.
func inList(code []byte, from int) []int {
	head := listHead.Get().Find(code[from:])
	if head == nil {
		return nil
	}
	var all []int
	list := bytes.IndexByte(head, '[') + 1
	for _, item := range bytes.SplitAfter(head[list:len(head)-1], []byte(",")) {
		if one := bytes.TrimRight(bytes.TrimSpace(item), ", \t\r\n"); alone.Match(one) { // and not put together of several
			all = append(all, from+list+bytes.IndexByte(item, one[0]))
		}
		list += len(item)
	}
	return all
}

var alone = lazy.New(`\A["']\x00+["']\z`)

// A loader is what the settings of an asynchronous loader say: the folder that names of modules
// begin in, and what stands for other beginnings.
type loader struct {
	base  string
	paths []alias
}

// begins are the usual names, without an ending, of the script that such a loader is set up in.
var begins = []string{"main", "config", "app", "application", "common", "index", "bootstrap", "boot", "init", "start", "require-config", "requirejs-config", "require", "require_config"}

var (
	loaderSet  = lazy.New(`\brequire(?:js)?\.config\s*\(|\b(?:var|const|let|window\.)\s*require\s*=\s*\{`)
	loaderBase = lazy.New(`\bbaseUrl\s*["']?\s*:\s*["']([^"']*)["']`)
	loaderPath = lazy.New(`\bpaths\s*["']?\s*:\s*\{([^}]*)\}`)
	onePath    = lazy.New(`["']?([\w./-]+)["']?\s*:\s*["']([\w./-]+)["']`)
)

// loaders finds the settings of asynchronous loaders in a project.
func loaders(l *lang.Look) []loader {
	return lang.Once(l, "script loaders", func() (all []loader) {
		for _, stem := range begins {
			for _, at := range l.Called(stem) {
				if path.Ext(at) != ".js" || strings.Contains(at, "node_modules/") {
					continue
				}
				if words := l.Of(at).Words; !words.Has("require") && !words.Has("requirejs") {
					continue // that is remembered, and its text need not be read
				}
				if text := l.TextOf(at); loaderSet.Match(text) {
					all = append(all, loaderIn(l, at, text))
				}
			}
		}
		return all
	})
}

// loaderIn reads the settings in one script: names begin in its folder, or in the one that it gives,
// which is seen from the page that loads it.
func loaderIn(l *lang.Look, at string, text []byte) loader {
	one := loader{base: path.Dir(at)}
	if m := loaderBase.Get().FindSubmatch(text); m != nil {
		if base := path.Join(pageAround(l, at), string(m[1])); base == "." || l.IsFolder(base) {
			one.base = base
		}
	}
	for _, block := range loaderPath.Get().FindAllSubmatch(text, -1) {
		for _, m := range onePath.Get().FindAllSubmatch(block[1], -1) {
			one.paths = append(one.paths, alias{prefix: string(m[1]), folder: path.Join(one.base, string(m[2]))})
		}
	}
	return one
}

// pageAround gives the nearest folder around a file that has a page.
func pageAround(l *lang.Look, at string) string {
	dir := path.Dir(at)
	for dir != "." && dir != "/" && !slices.ContainsFunc(l.Names(dir), func(name string) bool { return strings.HasPrefix(path.Ext(name), ".htm") }) {
		dir = path.Dir(dir)
	}
	return dir
}

// forLoader gives where an asynchronous loader looks for a module that a file asks for, and whether
// nobody else can be meant: the name begins with a folder beside which the file lies.
func forLoader(l *lang.Look, from, name string) (starts []string, own bool) {
	all := loaders(l)
	for _, one := range all {
		within := one.base == "." || strings.HasPrefix(from, one.base+"/")
		if !within && len(all) > 1 {
			continue
		}
		at := path.Join(one.base, name)
		for _, a := range one.paths {
			if rest, ok := strings.CutPrefix(name, a.prefix); ok && (rest == "" || rest[0] == '/') {
				at = path.Join(a.folder, rest)
			}
		}
		starts = append(starts, at)
		own = own || within && strings.Contains(name, "/") && l.IsFolder(path.Join(one.base, firstPart(name)))
	}
	return starts, own
}
