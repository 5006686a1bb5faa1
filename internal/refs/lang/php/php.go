// Package php reads PHP, by the manual's pages on namespaces and include with a
// literal path, and looks classes up by the autoload tables of composer.json.
package php

import (
	"bytes"
	"path"
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
		lang.Says(lang.Package, "", `(?:^|[;{]|<\?php\b)\s*namespace\s+(?P<name>[\w\\]+)\s*[;{]`),
		lang.Says(lang.Path, "require include", `\b(?:require|include)(?:_once)?[\s(]+(?P<what>__DIR__)\s*\.\s*`+lang.StringText),
		lang.Says(lang.Path, "require include", `\b(?:require|include)(?:_once)?[\s(]+`+lang.StringText),
		lang.Says(lang.Path, "__DIR__", `\b(?P<what>__DIR__)\s*\.\s*`+lang.StringText),
		lang.Says(lang.Type, "class interface trait enum", `^[ \t]*(?:(?:abstract|final|readonly)[ \t]+)*(?:class|interface|trait|enum)[ \t]+(?P<name>\w+)`),
	},
}

var (
	use = lazy.New(`(?m)(?:^|;)[ \t]*use\s+(function\s+|const\s+)?([^;(){}]*(?:\{[^}]*\})?)\s*;`)
	// full is a name from the top, with at least two parts.
	full = lazy.New(`(?:^|[^\w\\$>:])\\([A-Za-z_]\w*(?:\\[A-Za-z_]\w*)+)`)
	// plain is such a name without the sign before it, where no namespace is around.
	plain = lazy.New(`(?:^|[^\w\\$>:'"])([A-Z]\w*(?:\\[A-Za-z_]\w*)+)::`)
	// text is such a name in a string.
	text = lazy.New(`['"]\\{0,2}([A-Z]\w*(?:\\{1,2}[A-Z]\w*)+)(?:::class)?['"@]`)
)

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
	f := patterns.Read(inside)
	code, _ := patterns.Lexis.Scrub(inside)
	f.Refs = once(f.Refs)
	for i := range f.Refs {
		if r := &f.Refs[i]; r.Kind == lang.Path {
			r.Guarded = lang.InBlock(code, int(r.Span.Start), "if", "else", "elseif", "try") || lang.HasWord(code[max(0, int(r.Span.Start)-80):r.Span.Start], "file_exists")
		}
	}
	for _, m := range use.Get().FindAllSubmatchIndex(code, -1) {
		value := ""
		if m[2] >= 0 {
			value = strings.TrimSpace(string(code[m[2]:m[3]]))
		}
		list, prefix := lang.At(m[4], m[5]), ""
		if open := bytes.IndexByte(list.In(code), '{'); open >= 0 {
			prefix = strings.TrimLeft(string(bytes.TrimSpace(code[m[4]:m[4]+open])), `\`)
			list = lang.At(m[4]+open+1, m[4]+bytes.LastIndexByte(list.In(code), '}'))
		}
		for _, part := range lang.Split(code, list, ",") {
			name := lang.FirstWord(code, part)
			if code[name.Start] == '\\' {
				name.Start++
			}
			if written := string(name.In(code)); wordy(written) {
				f.Refs = append(f.Refs, lang.Ref{Kind: lang.Import, Name: prefix + written, Value: value, Span: name})
			}
		}
	}
	for _, m := range full.Get().FindAllSubmatchIndex(code, -1) {
		f.Refs = append(f.Refs, lang.Ref{Kind: lang.Import, Name: string(code[m[2]:m[3]]), Value: "full", Span: lang.At(m[2], m[3])})
	}
	if f.Package() == nil {
		for _, m := range plain.Get().FindAllSubmatchIndex(code, -1) {
			f.Refs = append(f.Refs, lang.Ref{Kind: lang.Import, Name: string(code[m[2]:m[3]]), Value: "full", Span: lang.At(m[2], m[3])})
		}
	}
	for _, m := range text.Get().FindAllSubmatchIndex(inside, -1) {
		if code[m[2]] == 0 && m[0] >= 0 && code[m[0]] != ' ' { // within a string, and no comment
			f.Refs = append(f.Refs, lang.Ref{Kind: lang.Import, Name: strings.ReplaceAll(string(inside[m[2]:m[3]]), `\\`, `\`), Value: "text", Span: lang.At(m[2], m[3]), Quote: inside[m[0]]})
		}
	}
	return f
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

// resolve looks a class up in the autoload tables, the longest beginning first,
// and a path from the file's folder.
func resolve(l *lang.Look, from string, ref lang.Ref) lang.Answer {
	if ref.Kind == lang.Path {
		return included(l, from, ref)
	}
	answer := lang.Answer{Fails: true}
	name := ref.Name
	longest := -1
	for _, t := range tablesFor(l, from) {
		rest, ok := strings.CutPrefix(name, t.prefix)
		if !ok || t.prefix == "" || !strings.HasSuffix(t.prefix, `\`) {
			continue
		}
		at := path.Join(t.folder, strings.ReplaceAll(rest, `\`, "/"))
		if found := l.First(at + ".php"); found != nil {
			answer.To = found
			return answer
		}
		if l.IsFolder(at) { // a namespace
			answer.To, answer.How = []string{at}, lang.Convention
			return answer
		}
		if len(t.prefix) > longest && l.IsFolder(t.folder) {
			longest = len(t.prefix)
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
	answer.Near = !l.IsFolder(path.Dir(answer.Sought[0]))
	return answer
}

// loadsWhole says whether composer.json has files loaded otherwise than by their
// names.
func loadsWhole(l *lang.Look, from string) bool {
	_, manifest := l.Nearest(from, "composer.json")
	for _, k := range l.Of(manifest).Of(lang.Key) {
		if strings.HasPrefix(k.Name, "autoload") && (strings.Contains(k.Name, "classmap") || strings.Contains(k.Name, "files") || strings.Contains(k.Name, "psr-0")) {
			return true
		}
	}
	return false
}

// made says whether some text of the project declares the last part of a name: one
// that writes code, or loads it otherwise.
func made(l *lang.Look, last string) bool {
	found := false
	for name := range classes(l) {
		if strings.HasSuffix(name, `\`+last) {
			return false // it is under another name
		}
	}
	l.Each(func(at string) {
		if !found && path.Ext(at) == ".php" {
			text := l.TextOf(at)
			for _, i := range lang.Words(text, last) {
				before := strings.Fields(string(text[max(0, i-20):i]))
				found = found || len(before) > 0 && strings.Contains("class interface trait enum function const", before[len(before)-1])
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

// included looks up a path that is written from the file's own folder.
func included(l *lang.Look, from string, ref lang.Ref) lang.Answer {
	if ref.Value != "__DIR__" || strings.ContainsAny(ref.Name, "$*{") || !strings.HasSuffix(ref.Name, ".php") {
		return l.Relative(from, strings.TrimPrefix(ref.Name, "/"))
	}
	answer := l.Relative(from, strings.TrimPrefix(ref.Name, "/"))
	answer.Own, answer.Fails = !strings.HasPrefix(answer.Sought[0], ".."), true
	return answer
}
