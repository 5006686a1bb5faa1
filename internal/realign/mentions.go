package realign

import (
	"bytes"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/edit"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
)

// mentions lets follow what is named as a text: whole paths in settings, container and
// start files, and whole names of modules in strings and settings. Elsewhere, and where no
// more than the end of a path is named, it is a remark.
func (f *follower) mentions() {
	type naming struct {
		old, new string
		module   bool
	}
	var all []naming
	note := func(old, new string, module bool) {
		if old != new && !slices.Contains(all, naming{old, new, module}) {
			all = append(all, naming{old, new, module})
		}
	}
	for _, m := range f.plan.Moves {
		from, to := strings.TrimSuffix(m.From, "/"), strings.TrimSuffix(m.To, "/")
		switch {
		case strings.Contains(from, "/") || path.Ext(from) != "":
			note(from, to, false)
		case strings.HasSuffix(m.From, "/"): // a word alone may mean anything
			note(m.From, m.To, false)
		}
		if path.Ext(from) == ".py" || f.holdsPython(from) {
			for _, root := range []string{"", "src/"} {
				old, ok := strings.CutPrefix(from, root)
				new, also := strings.CutPrefix(to, root)
				if ok && also {
					old, new = strings.ReplaceAll(moduleStem(old), "/", "."), strings.ReplaceAll(moduleStem(new), "/", ".")
					if strings.Contains(old, ".") {
						note(old, new, true)
					}
				}
			}
		}
	}
	if len(all) == 0 {
		return
	}
	// The longest first: a file that goes elsewhere than its folder is none of the folder.
	slices.SortStableFunc(all, func(a, b naming) int { return len(b.old) - len(a.old) })
	f.tree.Each(func(at string) {
		paths := namesPaths(at)
		if !paths && path.Ext(at) != ".py" {
			return
		}
		text, err := f.tree.Text(at)
		if err != nil || bytes.IndexByte(text[:min(len(text), 8000)], 0) >= 0 {
			return
		}
		for _, n := range all {
			if !bytes.Contains(text, []byte(n.old)) {
				continue
			}
			if n.module {
				f.moduleNamed(at, text, n.old, n.new)
			} else if paths {
				f.pathNamed(at, text, n.old, n.new)
			}
		}
	})
}

// moduleStem gives the path of a module without what stands for its package.
func moduleStem(at string) string {
	return strings.TrimSuffix(strings.TrimSuffix(at, ".py"), "/__init__")
}

func (f *follower) holdsPython(at string) bool {
	return f.tree.IsFolder(at) && slices.ContainsFunc(f.tree.Names(at), func(name string) bool { return path.Ext(name) == ".py" })
}

// namesPaths says whether whole paths from the top are what a file means by them: settings
// and lists, not code, and no prose.
func namesPaths(at string) bool {
	switch base := path.Base(at); {
	case base == "Procfile", base == "Makefile", base == "CODEOWNERS", base == "MANIFEST.in", strings.HasPrefix(base, "Dockerfile"), strings.HasSuffix(base, ".Dockerfile"), strings.HasPrefix(base, ".env"), base == ".flaskenv", base == "justfile", strings.HasSuffix(base, "ignore"):
		return true
	}
	switch path.Ext(at) {
	case ".json", ".yaml", ".yml", ".toml", ".cfg", ".ini", ".service", ".xml", ".sln", ".csproj", ".properties", ".neon", ".sh", ".mk":
		return true
	}
	return false
}

// moduleNamed edits the name of a module in a string of code or in settings.
func (f *follower) moduleNamed(at string, text []byte, old, new string) {
	code := path.Ext(at) == ".py"
	for _, i := range dotted(text, old) {
		if code && !quoted(text, i) || f.held(at, i) {
			continue
		}
		line, _ := refs.Place(text, lang.At(i, i+1))
		f.edit(at, line, i, i+len(old), new)
	}
}

// quoted says whether an offset lies in a string of one line that begins with the name.
func quoted(text []byte, i int) bool { return i > 0 && (text[i-1] == '"' || text[i-1] == '\'') }

// held says whether an edit covers an offset already.
func (f *follower) held(at string, i int) bool {
	return slices.ContainsFunc(f.edits, func(e edit.Edit) bool { return e.Path == at && e.Start <= i && i < max(e.End, e.Start+1) })
}

// pathNamed edits a whole path from the top, or from the folder of the file that names it.
func (f *follower) pathNamed(at string, text []byte, old, new string) {
	for i := range lang.Every(text, old) {
		end, before := i+len(old), bytes.TrimSuffix(text[:i], []byte("./"))
		if n := len(before); n > 0 && partOfPath(before[n-1]) && !(before[n-1] == '/' && path.Ext(at) == "" && (n < 2 || !partOfPath(before[n-2]))) {
			continue
		}
		if end < len(text) && !strings.HasSuffix(old, "/") && partOfPath(text[end]) && text[end] != '/' && !(text[end] == '.' && (end+1 == len(text) || !partOfPath(text[end+1]))) {
			continue
		}
		if path.Dir(at) != "." && f.tree.IsFile(path.Join(path.Dir(at), old)) || f.held(at, i) {
			continue
		}
		line, _ := refs.Place(text, lang.At(i, i+1))
		f.edit(at, line, i, end, new)
	}
}

func partOfPath(c byte) bool { return lang.WordByte(c) || c == '/' || c == '.' || c == '-' || c == '@' }
