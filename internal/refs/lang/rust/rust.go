// Package rust reads the module tree of Rust crates, The Rust Reference, items/
// modules, and looks modules up as the compiler does.
package rust

import (
	"path"
	"slices"
	"strings"

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
		lang.Says(lang.Type, "struct enum trait union", `^[ \t]*(?:pub(?:\([^)]*\))?[ \t]+)?(?:unsafe[ \t]+)?(?:struct|enum|trait|union)[ \t]+(?P<name>\w+)`),
	},
}

func read(text []byte) lang.File {
	f := patterns.Read(text)
	kept := f.Refs[:0]
	for _, r := range f.Refs {
		if r.Kind == lang.Import && r.Value == "mod" {
			// An attribute before it may name the file, or leave it out.
			start := int(r.Span.Start)
			for start > 0 && text[start-1] != '\n' {
				start--
			}
			above := strings.TrimSpace(string(text[max(0, start-200):start]))
			above = above[strings.LastIndexByte(above, '\n')+1:]
			r.Guarded = strings.HasPrefix(strings.TrimSpace(above), "#[") && (strings.Contains(above, "path") || strings.Contains(above, "cfg"))
			if text[start] == ' ' || text[start] == '\t' {
				r.Guarded = true // in a module that stands in the file
			}
		}
		kept = append(kept, r)
	}
	f.Refs = kept
	return f
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
	for _, k := range l.Of(manifest).Of(lang.Key) {
		if strings.HasSuffix(k.Name, ".path") && path.Join(path.Dir(manifest), k.Value) == at {
			return true
		}
	}
	return false
}

// used finds the module that a path from the root of a crate of the project begins with.
// It leads nowhere where no file has the name and the root does not hold the word.
func used(l *lang.Look, from string, ref lang.Ref) lang.Answer {
	folder, manifest := l.Nearest(from, "Cargo.toml")
	parts := strings.Split(ref.Name, "::")
	if manifest == "" || len(parts) < 2 {
		return lang.Answer{}
	}
	roots := []string{"lib.rs", "main.rs"}
	if parts[0] != "crate" {
		other, ok := crates(l)[parts[0]]
		switch {
		case !ok:
			return nearCrate(l, from, manifest, parts[0])
		case local(l, from, parts[0]):
			return lang.Answer{}
		}
		folder, roots = other, roots[:1]
	} else if !strings.HasPrefix(from, path.Join(folder, "src")+"/") || strings.HasPrefix(from, path.Join(folder, "src/bin")+"/") {
		return lang.Answer{}
	}
	src := path.Join(folder, "src")
	for n := len(parts); n > 1; n-- {
		at := path.Join(src, strings.Join(parts[1:n], "/"))
		if found := l.First(at+".rs", at+"/mod.rs"); found != nil {
			return lang.Answer{To: found}
		}
	}
	made := false // a macro may make modules
	for _, root := range roots {
		text := l.TextOf(path.Join(src, root))
		if lang.HasWord(text, parts[1]) || strings.Contains(string(text), "::*") {
			return lang.Answer{}
		}
		made = made || strings.Contains(string(text), "macro")
	}
	at := path.Join(src, parts[1])
	return lang.Answer{Own: true, Fails: true, Only: true, Near: made, Sought: []string{at + ".rs", at + "/mod.rs"}}
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
