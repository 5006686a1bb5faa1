// Package rust reads the module tree of Rust crates, The Rust Reference, items/
// modules, and looks modules up as the compiler does.
package rust

import (
	"bytes"
	"path"
	"slices"
	"strings"
	"unicode"

	"dicaxon/internal/lazy"
	"dicaxon/internal/refs/lang"
)

// Language is Rust.
var Language = lang.Language{Endings: []string{".rs"}, Read: read, Resolve: resolve, Patterns: &patterns}

var patterns = lang.Patterns{
	Lexis: lang.Lexis{Line: []string{"//"}, Block: [][2]string{{"/*", "*/"}}, Nested: true, Strings: []lang.Quote{
		{Open: `r##"`, Close: `"##`, Lines: true}, {Open: `r#"`, Close: `"#`, Lines: true}, {Open: `'\"`, Close: "'"}, {Open: `'"`, Close: "'"}, {Open: `"`, Close: `"`, Escape: true, Lines: true}}},
	Statements: []lang.Statement{
		lang.Says(lang.Import, "mod", lang.AtStart+`(?:pub(?:\([^)]*\))?[ \t]+)?(?P<what>mod)[ \t]+(?P<name>\w+)[ \t]*;`),
		lang.Says(lang.Path, "include", `\b(?P<what>include|include_str|include_bytes)!\s*\(\s*`+lang.StringText+`\s*\)`),
		lang.Says(lang.Import, "use", lang.AtStart+`(?:pub(?:\([^)]*\))?[ \t]+)?use[ \t]+(?:::)?(?P<name>[a-z_]\w*::\w+(?:::\w+)*)`),
		lang.Says(lang.Import, "use", lang.AtStart+`(?:pub(?:\([^)]*\))?[ \t]+)?use[ \t]+(?:::)?(?P<name>[a-z_]\w*)::\{`),
		lang.Says(lang.Type, "struct enum trait union", `^[ \t]*(?:pub(?:\([^)]*\))?[ \t]+)?(?:unsafe[ \t]+)?(?:struct|enum|trait|union)[ \t]+(?P<name>\w+)`),
	},
}

func read(text []byte) lang.File {
	f := patterns.ReadTypes(text)
	kept := f.Refs[:0]
	for _, r := range f.Refs {
		if r.Kind == lang.Import && r.Value == "mod" {
			start := bytes.LastIndexByte(text[:r.Span.Start], '\n') + 1
			r.Guarded = attributed(text[max(0, start-200):start]) || indented(text, r.Span) // of a module in the file
		}
		if r.Kind == lang.Import && r.Value == "" {
			r.Guarded = (relative(r.Name) || !strings.Contains(r.Name, "::")) && indented(text, r.Span) // of a module that stands in the file
			if !r.Guarded {
				f.Uses.Members = append(f.Uses.Members, taken(text, r)...)
			}
		}
		kept = append(kept, r)
	}
	f.Refs = kept
	f.Words, f.Open = lang.VocabularyOf(text), open.Match(text)
	return f
}

// attributed says whether one of the attributes at the end of a text names the file of what comes
// next, or leaves it out.
func attributed(text []byte) bool {
	for {
		text = bytes.TrimSpace(text)
		line := text[bytes.LastIndexByte(text, '\n')+1:]
		attribute := bytes.TrimSpace(line)
		if !bytes.HasPrefix(attribute, []byte("#[")) {
			return false
		}
		if bytes.Contains(attribute, []byte("path")) || bytes.Contains(attribute, []byte("cfg")) {
			return true
		}
		text = text[:len(text)-len(line)]
	}
}

// open is a module that may give what its text does not say: all that another gives, and what a
// macro makes.
var open = lazy.New(`(?m:^(?:pub(?:\([^)]*\))? )?use [^;]*\*|^(?:\w+::)*\w+!\s*[\w({\[]|^\s*#!?\[(?:[\w:]*_macro|path))`)

func indented(text []byte, span lang.Span) bool {
	start := bytes.LastIndexByte(text[:span.Start], '\n') + 1
	return text[start] == ' ' || text[start] == '\t'
}

// leaf is one name in braces, and what it is called here.
var leaf = lazy.New(`^\s*(\w+)(?:\s+as\s+\w+)?\s*$`)

// taken lists what a use takes of the module that its path leads to: its last name, or those
// in braces behind it.
func taken(text []byte, r lang.Ref) (all []lang.Member) {
	of, end := r.Span, int(r.Span.End)
	rest, braces := bytes.CutPrefix(text[end:], []byte("::{"))
	if !braces {
		i := strings.LastIndexByte(r.Name, ':') + 1
		return []lang.Member{{Of: of, Name: r.Name[i:], Span: lang.At(end-len(r.Name)+i, end)}}
	}
	closing := bytes.IndexAny(rest, "};")
	if closing < 0 || bytes.IndexByte(rest[:closing], '{') >= 0 {
		return nil
	}
	at := end + len("::{")
	for _, part := range bytes.SplitAfter(rest[:closing], []byte(",")) {
		if m := leaf.Get().FindSubmatchIndex(bytes.TrimSuffix(part, []byte(","))); m != nil && string(part[m[2]:m[3]]) != "self" {
			all = append(all, lang.Member{Of: of, Name: string(part[m[2]:m[3]]), Span: lang.At(at+m[2], at+m[3])})
		}
		at += len(part)
	}
	return all
}

// resolve finds the file of a module beside the one that declares it, or in the
// folder of that one's name.
func resolve(l *lang.Look, from string, ref lang.Ref) lang.Answer {
	switch {
	case ref.Kind == lang.Path:
		answer := l.Relative(from, ref.Name)
		answer.Own, answer.Fails = !strings.HasPrefix(answer.Sought[0], "..") && !strings.Contains(ref.Name, "OUT_DIR"), true
		return answer
	case ref.Value == "mod":
		dir, base := path.Dir(from), path.Base(from)
		if base != "mod.rs" && !isRoot(l, from) {
			dir = path.Join(dir, strings.TrimSuffix(base, ".rs"))
		}
		at := path.Join(dir, ref.Name)
		return lang.Answer{To: l.First(at+".rs", at+"/mod.rs"), Own: true, Fails: true, Sought: []string{at + ".rs", at + "/mod.rs"}}
	}
	return used(l, from, ref)
}

// isRoot says whether a file is the root of a crate, whose modules lie beside it.
func isRoot(l *lang.Look, at string) bool {
	dir, base := path.Split(at)
	dir = path.Clean(dir)
	if base == "lib.rs" || base == "main.rs" || base == "build.rs" {
		return true
	}
	last := path.Base(dir)
	if last == "bin" || last == "tests" || last == "examples" || last == "benches" {
		return true
	}
	_, manifest := l.Nearest(at, "Cargo.toml")
	return manifest != "" && slices.ContainsFunc(rootsElsewhere(l, manifest), func(root string) bool { return path.Join(path.Dir(manifest), root) == at })
}

// used finds the module that a path from the root of a crate of the project begins with.
// It leads nowhere where no file has the name and the root does not hold the word.
func used(l *lang.Look, from string, ref lang.Ref) lang.Answer {
	folder, manifest := l.Nearest(from, "Cargo.toml")
	parts := strings.Split(ref.Name, "::")
	if manifest == "" {
		return lang.Answer{}
	}
	if len(parts) < 2 {
		return whole(l, from, folder, manifest, ref.Name)
	}
	src, roots := sourceOf(l, folder, manifest, from)
	if relative(ref.Name) {
		return fromHere(l, from, src, parts)
	}
	if parts[0] != "crate" {
		other, ok := crates(l)[parts[0]]
		switch {
		case lang.HasWord(l.TextOf(from), "mod "+parts[0]):
			return fromHere(l, from, src, parts)
		case !ok:
			return nearCrate(l, from, manifest, parts[0])
		case local(l, from, parts[0]):
			return lang.Answer{}
		}
		src, roots = path.Join(other, "src"), []string{"lib.rs"}
	} else if !strings.HasPrefix(from, src+"/") || strings.HasPrefix(from, path.Join(src, "bin")+"/") {
		return lang.Answer{}
	}
	if root := l.First(path.Join(src, roots[0])); len(parts) == 2 && root != nil && (unicode.IsUpper(rune(parts[1][0])) || parts[0] != "crate" && l.First(path.Join(src, parts[1]+".rs"), path.Join(src, parts[1], "mod.rs")) == nil) {
		return lang.Answer{To: root} // a type, or a function
	}
	if found := deepest(l, src, parts[1:]); found != nil {
		return *found
	}
	made := false // a macro may make modules
	for _, root := range roots {
		text := l.TextOf(path.Join(src, root))
		if lang.HasWord(text, parts[1]) || strings.Contains(string(text), "::*") {
			return lang.Answer{}
		}
		made = made || strings.Contains(string(text), "macro") || l.Of(path.Join(src, root)).Open
	}
	at := path.Join(src, parts[1])
	return lang.Answer{Own: true, Fails: true, Only: made, Near: made, Sought: []string{at + ".rs", at + "/mod.rs"}}
}

// whole finds the root of the crate of which a use takes several names at once: none for that of the file
// itself, or for the module that it stands in.
func whole(l *lang.Look, from, folder, manifest, name string) lang.Answer {
	switch {
	case slices.Contains([]string{"crate", "self", "super"}, name):
		return lang.Answer{}
	case lang.HasWord(l.TextOf(from), "mod "+name), local(l, from, name):
		src, _ := sourceOf(l, folder, manifest, from)
		return fromHere(l, from, src, []string{name})
	}
	if other, own := crates(l)[name]; own {
		return lang.Answer{To: l.First(path.Join(other, "src/lib.rs"))}
	}
	return nearCrate(l, from, manifest, name)
}

// sourceOf gives the folder around the modules of the crate that a file is of, and what the roots of that are
// called: where the manifest says that one lies elsewhere than in src, there (The Cargo Book, cargo targets).
func sourceOf(l *lang.Look, folder, manifest, from string) (src string, roots []string) {
	src, roots = path.Join(folder, "src"), []string{"lib.rs", "main.rs"}
	for _, root := range rootsElsewhere(l, manifest) {
		at := path.Join(folder, root)
		if dir := path.Dir(at); strings.HasPrefix(from, dir+"/") && len(dir) > len(src) {
			src, roots = dir, []string{path.Base(at)}
		}
	}
	return src, roots
}

// rootsElsewhere gives the files that a manifest names as roots.
func rootsElsewhere(l *lang.Look, manifest string) []string {
	return lang.Once(l, "rust roots of "+manifest, func() (all []string) {
		for _, k := range l.Of(manifest).Of(lang.Key) {
			if strings.HasSuffix(k.Name, ".path") && strings.HasSuffix(k.Value, ".rs") {
				all = append(all, k.Value)
			}
		}
		return all
	})
}

// fromHere finds the module that a path begins with which is read from the module of its own
// file, or from one above that.
func fromHere(l *lang.Look, from, src string, parts []string) lang.Answer {
	here, root := Module(from), isRoot(l, from)
	switch {
	case root:
		here = path.Dir(from)
	case !strings.HasPrefix(from, src+"/") && path.Base(from) != "mod.rs":
		return lang.Answer{} // whose root it is of nobody knows
	}
	for parts[0] == "super" || parts[0] == "self" {
		if parts[0] == "super" {
			here = path.Dir(here)
		}
		if parts = parts[1:]; len(parts) == 0 {
			return lang.Answer{}
		}
	}
	if found := deepest(l, here, parts); found != nil {
		return *found
	}
	module := l.First(here+".rs", here+"/mod.rs")
	switch {
	case root && here == path.Dir(from):
		module = []string{from}
	case here == src:
		module = l.First(src+"/lib.rs", src+"/main.rs")
	}
	if len(module) != 1 || lang.HasWord(l.TextOf(module[0]), parts[0]) || l.Of(module[0]).Open {
		return lang.Answer{}
	}
	at := path.Join(here, parts[0])
	return lang.Answer{Own: true, Fails: true, Only: true, Sought: []string{at + ".rs", at + "/mod.rs"}}
}

// deepest finds the module that a path below a folder leads to, as far as there are files; nil
// where not even the first is one. What is in that module and has no file, its text names.
func deepest(l *lang.Look, below string, parts []string) *lang.Answer {
	for n := len(parts); n > 0; n-- {
		at := path.Join(below, strings.Join(parts[:n], "/"))
		found := l.First(at+".rs", at+"/mod.rs")
		if found == nil {
			continue
		}
		if in := l.Of(found[0]); len(parts)-n > 1 && !in.Open && !in.Words.Has(parts[n]) {
			at = path.Join(at, parts[n])
			return &lang.Answer{Own: true, Fails: true, Only: true, Sought: []string{at + ".rs", at + "/mod.rs"}}
		}
		return &lang.Answer{To: found}
	}
	return nil
}

// crates gives the folders of the libraries of the project by the names that code calls
// them.
func crates(l *lang.Look) map[string]string {
	return lang.Once(l, "rust crates", func() map[string]string {
		all := map[string]string{}
		for _, at := range l.Called("Cargo") {
			f := l.Of(at)
			name, own := f.Get("package.name"), f.Get("lib.name")
			if path.Base(at) != "Cargo.toml" || name == nil || !l.IsFile(path.Join(path.Dir(at), "src/lib.rs")) {
				continue
			}
			if own != nil {
				name = own
			}
			all[inCode(name.Value)] = path.Dir(at)
		}
		return all
	})
}

// inCode is the name of a crate as code has it: a hyphen is an underscore there (The Cargo
// Book, manifest).
func inCode(name string) string { return strings.ReplaceAll(name, "-", "_") }

// local says whether a module beside a file, or one that it declares, has the name of a
// crate, and may be meant.
func local(l *lang.Look, from, name string) bool {
	dir, stem := path.Dir(from), strings.TrimSuffix(path.Base(from), ".rs")
	return l.First(path.Join(dir, name+".rs"), path.Join(dir, name, "mod.rs"), path.Join(dir, stem, name+".rs"), path.Join(dir, stem, name, "mod.rs")) != nil ||
		lang.HasWord(l.TextOf(from), "mod "+name)
}

// nearCrate tells of a crate of nearly the name that a path begins with, where the
// manifest asks for none that is called so.
func nearCrate(l *lang.Look, from, manifest, name string) lang.Answer {
	near := lang.NearPackage(l, "rust", name, crates(l), inCode)
	if near == "" || local(l, from, name) || slices.ContainsFunc(l.Of(manifest).Of(lang.Key), func(k lang.Ref) bool {
		_, asked, listed := strings.Cut(k.Name, "ependencies.")
		asked, _, _ = strings.Cut(asked, ".")
		return listed && inCode(asked) == name
	}) {
		return lang.Answer{}
	}
	if strings.Contains(path.Base(near), "-") {
		name = strings.ReplaceAll(name, "_", "-")
	}
	return lang.Answer{Own: true, Fails: true, Only: true, Near: true, Sought: []string{path.Join(path.Dir(near), name)}}
}
