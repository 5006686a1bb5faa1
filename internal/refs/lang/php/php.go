// Package php reads PHP, by the manual's pages on namespaces and include with a
// literal path, and looks classes up by the autoload tables of composer.json.
package php

import (
	"bytes"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/lazy"
	"dicaxon/internal/refs/lang"
)

// Language is PHP.
var Language = lang.Language{Endings: []string{".php"}, Read: read, Resolve: resolve, Patterns: &patterns}

var patterns = lang.Patterns{
	Lexis: lang.Lexis{Line: []string{"//", "#"}, Block: [][2]string{{"/*", "*/"}}, Heredoc: true, Strings: []lang.Quote{
		{Open: `"`, Close: `"`, Escape: true, Lines: true}, {Open: "'", Close: "'", Escape: true, Lines: true}}},
	Statements: []lang.Statement{
		lang.Says(lang.Import, "use", `(?:^|;)[ \t]*use\s+(?P<what>function\s+|const\s+)?(?P<name>[^;(){}]*(?:\{[^}]*\})?)\s*;`),
		// A name from the top, with at least two parts.
		lang.Says(lang.Import, `\`, `(?:^|[^\w\\$>:])\\(?P<name>[A-Za-z_]\w*(?:\\[A-Za-z_]\w*)+)`),
		lang.Says(lang.Path, "require include", `\b(?:require|include)(?:_once)?[\s(]+(?P<what>__DIR__)\s*\.\s*`+lang.StringText),
		lang.Says(lang.Path, "require include", `\b(?:require|include)(?:_once)?[\s(]+`+lang.StringText),
		lang.Says(lang.Path, "__DIR__", `\b(?P<what>__DIR__)\s*\.\s*`+lang.StringText),
		lang.Says(lang.Type, "class interface trait enum", `^[ \t]*(?:(?:abstract|final|readonly)[ \t]+)*(?:class|interface|trait|enum)[ \t]+(?P<name>\w+)`),
	},
}

func read(source []byte) lang.File {
	inside := bytes.Clone(source)
	for from := 0; from < len(inside); {
		open := bytes.Index(inside[from:], []byte("<?"))
		if open < 0 {
			lang.Blank(inside[from:])
			break
		}
		lang.Blank(inside[from : from+open])
		end := bytes.Index(inside[from+open:], []byte("?>"))
		if end < 0 {
			break
		}
		from += open + end + 2
	}
	f, code := patterns.ReadCode(inside)
	conditions := lang.BlocksOf(code, "if", "else", "elseif", "try")
	var all []lang.Ref
	var traits []lang.Quoted
	nested := nestingOf(code)
	for _, r := range once(f.Refs) {
		switch {
		case r.Kind == lang.Path:
			r.Guarded = conditions.Around(int(r.Span.Start)) || asked.Match(code[max(0, int(r.Span.Start)-80):r.Span.Start]) || writes(inside, code, r)
		case r.Kind == lang.Import && inside[r.Span.Start-1] == '\\':
			r.Value = "full"
		case r.Kind == lang.Import:
			taken := used(code, r)
			for i := range taken {
				if t := &taken[i]; !strings.Contains(t.Name, `\`) && nested.inClass(int(t.Span.Start)) {
					t.Value = "trait" // a type that is used, not imported
					traits = append(traits, lang.Quoted{Name: t.Name, Span: t.Span})
				}
			}
			all = append(all, taken...)
			continue
		}
		all = append(all, r)
	}
	f.Refs = append(append(namespaces(code), all...), named(inside, code)...)
	if f.Package() == nil {
		f.Refs = append(f.Refs, unspaced(code)...)
	}
	if !blocks.Match(code) { // else it is in doubt which names are of which namespace
		f.Uses.Unbound = append(lang.TypesUsed(code), traits...)
	}
	return f
}

// asked is a function that says whether something is there.
var asked = lazy.New(`\b(?:file_exists|is_file|is_dir|is_readable|glob|realpath)\s*\([^;]*$`)

// used gives a reference for each name that a use statement has, those of a group
// with what stands before it.
func used(code []byte, r lang.Ref) []lang.Ref {
	list, prefix := r.Span, ""
	if open := bytes.IndexByte(list.In(code), '{'); open >= 0 {
		prefix = strings.TrimLeft(string(bytes.TrimSpace(list.In(code)[:open])), `\`)
		list = lang.At(int(list.Start)+open+1, int(list.Start)+bytes.LastIndexByte(list.In(code), '}'))
	}
	var all []lang.Ref
	for _, part := range lang.Split(code, list, ",") {
		name := lang.FirstWord(code, part)
		if code[name.Start] == '\\' {
			name.Start++
		}
		if written := string(name.In(code)); wordy(written) {
			all = append(all, lang.Ref{Kind: lang.Import, Name: prefix + written, Value: r.Value, Span: name})
		}
	}
	return all
}

// named finds the full names of classes in strings: those of at least two parts,
// each with a capital letter.
func named(inside, code []byte) []lang.Ref {
	var all []lang.Ref
	for from := 0; ; {
		i := bytes.IndexByte(inside[from:], '\\')
		if i < 0 {
			return all
		}
		i += from
		from = i + 1
		if code[i] != 0 {
			continue // no string
		}
		start, end := i, i
		part := func(k int) bool {
			return k >= 0 && k < len(inside) && code[k] == 0 && (inside[k] == '\\' || lang.WordByte(inside[k]))
		}
		for part(start - 1) {
			start--
		}
		for part(end) {
			end++
		}
		from = max(from, end)
		for start < end && inside[start] == '\\' {
			start++
		}
		name := strings.ReplaceAll(string(inside[start:end]), `\\`, `\`)
		whole := code[start-1] != 0 || start > 1 && inside[start-1] == '\\'
		if ends := bytes.TrimPrefix(inside[end:], []byte("::class")); whole && len(ends) > 0 && (ends[0] == '\'' || ends[0] == '"' || ends[0] == '@') && capital(name) {
			all = append(all, lang.Ref{Kind: lang.Import, Name: name, Value: "text", Span: lang.At(start, end), Quote: ends[0]})
		}
	}
}

// capital says whether a name has several parts that begin with a capital letter
// each.
func capital(name string) bool {
	parts := strings.Split(name, `\`)
	for _, part := range parts {
		if part == "" || part[0] < 'A' || part[0] > 'Z' {
			return false
		}
	}
	return len(parts) > 1
}

// unspaced finds full names without the sign before them, which count where no
// namespace is around: what stands before a double colon.
func unspaced(code []byte) []lang.Ref {
	var all []lang.Ref
	for from := 0; ; {
		i := bytes.Index(code[from:], []byte("::"))
		if i < 0 {
			return all
		}
		end := from + i
		from = end + 2
		start := end
		for start > 0 && (code[start-1] == '\\' || lang.WordByte(code[start-1])) {
			start--
		}
		if name := string(code[start:end]); capital(name) {
			all = append(all, lang.Ref{Kind: lang.Import, Name: name, Value: "full", Span: lang.At(start, end)})
		}
	}
}

// once leaves out what a second pattern found again at the same place.
func once(all []lang.Ref) []lang.Ref {
	seen := map[lang.Span]bool{}
	kept := all[:0]
	for _, r := range all {
		if r.Kind != lang.Path || !seen[r.Span] {
			kept = append(kept, r)
		}
		seen[r.Span] = true
	}
	return kept
}

func wordy(name string) bool {
	return name != "" && strings.IndexFunc(name, func(c rune) bool { return c != '\\' && c < 0x80 && !lang.WordByte(byte(c)) }) < 0
}

// A table is a beginning of names and the folder that holds their classes (PSR-4).
type table struct{ prefix, folder string }

func tablesFor(l *lang.Look, from string) []table {
	folder, manifest := l.Nearest(from, "composer.json")
	if manifest == "" {
		return nil
	}
	return lang.Once(l, "php tables "+manifest, func() []table {
		var all []table
		for _, k := range l.Of(manifest).Of(lang.Key) {
			for _, key := range []string{"autoload.psr-4.", "autoload-dev.psr-4."} {
				if space, ok := strings.CutPrefix(k.Name, key); ok && k.ValueSpan.Len() > 0 {
					all = append(all, table{space, path.Join(folder, k.Value)})
				}
			}
		}
		return all
	})
}

// elsewhere says whether a file, which lies where a class is looked for, declares another
// namespace than the class's.
func elsewhere(l *lang.Look, at, class string) bool {
	said := l.Of(at).Of(lang.Package)
	return len(said) == 1 && !strings.EqualFold(said[0].Name, strings.TrimSuffix(class[:strings.LastIndexByte(class, '\\')+1], `\`))
}

// ofApplications begins the names of what an application holds itself, in Laravel and Symfony: no
// package has it.
const ofApplications = `App\`

// resolve looks a class up in the autoload tables, the longest beginning first,
// and a path from the file's folder.
func resolve(l *lang.Look, from string, ref lang.Ref) lang.Answer {
	if ref.Kind == lang.Path {
		return included(l, from, ref)
	}
	answer := lang.Answer{Fails: true}
	name := ref.Name
	longest, prefix := -1, ""
	for _, t := range tablesFor(l, from) {
		rest, ok := strings.CutPrefix(name, t.prefix)
		if !ok || t.prefix == "" || !strings.HasSuffix(t.prefix, `\`) {
			continue
		}
		at := path.Join(t.folder, strings.ReplaceAll(rest, `\`, "/"))
		if found := l.First(at + ".php"); found != nil {
			answer.To = found
			if elsewhere(l, found[0], name) && !loads(l, from, found[0]) {
				answer.Own, answer.Within, answer.Sought = true, found[0], []string{found[0] + "#" + name, found[0]}
			}
			return answer
		}
		if l.IsFolder(at) { // a namespace
			answer.To, answer.How = []string{at}, lang.Convention
			return answer
		}
		if len(t.prefix) > longest && l.IsFolder(t.folder) {
			longest, prefix = len(t.prefix), t.prefix
			answer.Sought = []string{at + ".php"}
		}
	}
	if longest < 0 || ref.Value == "function" || ref.Value == "const" {
		return lang.Answer{}
	}
	// Several classes may lie in one file, and some files are loaded whole.
	if at := declares(l, name); at != "" {
		if loadsWhole(l, from) || len(l.Of(at).Of(lang.Type)) > 1 {
			return lang.Answer{To: []string{at}, How: lang.Likely}
		}
		return lang.Answer{Own: true, Fails: true, Sought: append(answer.Sought, at)}
	}
	// Packages of the same vendor have names below the same beginning.
	answer.Own = !required(l, from, name) && !made(l, name[strings.LastIndexByte(name, '\\')+1:])
	answer.Only = ref.Value == "text"
	answer.Near = prefix != ofApplications && !l.IsFolder(path.Dir(answer.Sought[0])) && !underAnother(l, from, name)
	return answer
}

// loadsWhole says whether composer.json has files loaded otherwise than by their
// names.
func loadsWhole(l *lang.Look, from string) bool { return loads(l, from, "") }

// loads says whether composer.json has a file loaded so, or "" for any.
func loads(l *lang.Look, from, at string) bool {
	folder, manifest := l.Nearest(from, "composer.json")
	for _, k := range l.Of(manifest).Of(lang.Key) {
		if !strings.HasPrefix(k.Name, "autoload") {
			continue
		}
		if strings.Contains(k.Name, "classmap") || strings.Contains(k.Name, "psr-0") || strings.Contains(k.Name, "files") && (at == "" || path.Join(folder, k.Value) == at) {
			return true
		}
	}
	return false
}

// underAnother says whether the project has a class of the last part of a name under
// another namespace, so that this one was meant: not where the file itself declares it, as
// one that wraps another's does, nor where the vendor of the name has packages of its own.
func underAnother(l *lang.Look, from, name string) bool {
	last := name[strings.LastIndexByte(name, '\\'):]
	for _, t := range l.Of(from).Of(lang.Type) {
		if `\`+t.Name == last {
			return false
		}
	}
	vendor, _, _ := strings.Cut(name, `\`)
	_, manifest := l.Nearest(from, "composer.json")
	for _, k := range l.Of(manifest).Of(lang.Key) {
		if of, ok := strings.CutPrefix(k.Name, "require."); ok && strings.HasPrefix(strings.ToLower(of), strings.ToLower(vendor)+"/") {
			return false
		}
	}
	return isClass(l, last[1:])
}

// isClass says whether some class of the project has a last part, under any namespace.
func isClass(l *lang.Look, last string) bool {
	for name := range classes(l) {
		if strings.HasSuffix(name, `\`+last) {
			return true
		}
	}
	return false
}

// declaring are the words before what a text declares.
var declaring = []string{"class", "interface", "trait", "enum", "function", "const"}

// made says whether some text of the project declares the last part of a name: one
// that writes code, or loads it otherwise.
func made(l *lang.Look, last string) bool {
	if isClass(l, last) {
		return false // it is under another name
	}
	found := false
	l.Each(func(at string) {
		if !found && path.Ext(at) == ".php" {
			text := l.TextOf(at)
			for _, i := range lang.Words(text, last) {
				before := strings.Fields(string(text[max(0, i-20):i]))
				found = found || len(before) > 0 && slices.Contains(declaring, strings.Trim(before[len(before)-1], "'\"({;"))
			}
		}
	})
	return found
}

// required says whether composer.json asks for a package of that name: the names
// of Vendor\Some\Thing may be those of vendor/some.
func required(l *lang.Look, from, name string) bool {
	plain := func(s string) string {
		return strings.NewReplacer("-", "", "_", "", "/", `\`).Replace(strings.ToLower(s))
	}
	_, manifest := l.Nearest(from, "composer.json")
	for _, k := range l.Of(manifest).Of(lang.Key) {
		for _, key := range []string{"require.", "require-dev."} {
			if at, ok := strings.CutPrefix(k.Name, key); ok && strings.HasPrefix(plain(name)+`\`, plain(at)+`\`) {
				return true
			}
		}
	}
	return false
}

// declares gives the file that declares a class under its namespace, or "".
func declares(l *lang.Look, name string) string { return classes(l)[name] }

// classes gives every class of the project by its full name.
func classes(l *lang.Look) map[string]string {
	return lang.Once(l, "php classes", func() map[string]string {
		all := map[string]string{}
		l.Each(func(at string) {
			if path.Ext(at) != ".php" {
				return
			}
			f := l.Of(at)
			space := ""
			if p := f.Package(); p != nil {
				space = p.Name + `\`
			}
			for _, t := range f.Of(lang.Type) {
				all[space+t.Name] = at
			}
		})
		return all
	})
}

// testOf is where tests lie, and loaded what stands before the path of a file that is loaded.
var (
	testOf = lazy.New(`(?:^|/)[Tt]ests?/`)
	loaded = lazy.New(`\b(?:require|include)(?:_once)?[\s(]+__DIR__\s*\.\s*["']$`)
)

// included looks up a path that is written from the file's own folder.
func included(l *lang.Look, from string, ref lang.Ref) lang.Answer {
	if ref.Value != "__DIR__" || strings.ContainsAny(ref.Name, "$*{") || !strings.HasSuffix(ref.Name, ".php") {
		return l.Relative(from, strings.TrimPrefix(ref.Name, "/"))
	}
	answer := l.Relative(from, strings.TrimPrefix(ref.Name, "/"))
	if text := l.TextOf(from); testOf.MatchString(from) && !loaded.Match(text[:min(int(ref.Span.Start), len(text))]) {
		return answer // a test may hand over a path where nothing is
	}
	answer.Own, answer.Fails = !strings.HasPrefix(answer.Sought[0], ".."), true
	return answer
}
