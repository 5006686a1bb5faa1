// Package ruby reads Ruby, and looks up required files and the constants that
// autoloading finds by their paths.
package ruby

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/names"
	"dicaxon/internal/refs/lang"
)

// Language is Ruby.
var Language = lang.Language{Endings: []string{".rb", ".rake", ".gemspec", ".ru"}, Names: []string{"Rakefile", "Gemfile"}, Read: read, Resolve: resolve, Patterns: &patterns}

var patterns = lang.Patterns{
	Lexis: lang.Lexis{Line: []string{"#"}, Block: [][2]string{{"\n=begin", "\n=end"}}, Heredoc: true, Regexps: true, Strings: []lang.Quote{
		{Open: `"`, Close: `"`, Escape: true, Lines: true, Inner: "#{"}, {Open: "'", Close: "'", Escape: true, Lines: true}}},
	Statements: []lang.Statement{
		lang.Says(lang.Import, "require load", `(?:^|[^\w.:@$])(?P<what>require|require_relative|load)[ \t(]+`+lang.StringText),
		lang.Says(lang.Import, "autoload", lang.AtStart+`autoload[ \t(]+:(?P<what>\w+)[ \t]*,[ \t]*`+lang.StringText),
		lang.Says(lang.Type, "class module", `^[ \t]*(?:class|module)[ \t]+(?P<name>[A-Z][\w:]*)`),
		// Constants that autoloading finds by their path.
		lang.SaysAt(lang.Import, capitals, `(?:^|[^\w:.])(?P<name>[A-Z]\w*[a-z]\w*(?:::[A-Z]\w*)*)`),
	},
}

// capitals gives where a word begins with a capital letter and is no part of a longer name.
func capitals(code []byte) (all []int) {
	for i, c := range code {
		if 'A' <= c && c <= 'Z' && (i == 0 || !lang.WordByte(code[i-1]) && code[i-1] != ':' && code[i-1] != '.') {
			all = append(all, i)
		}
	}
	return all
}

func read(text []byte) lang.File {
	f := patterns.Read(text)
	// A constant that is declared is none that is used.
	declared := map[lang.Span]bool{}
	for _, r := range f.Refs {
		if r.Kind == lang.Type {
			declared[r.Span] = true
		}
	}
	var code []byte
	kept := f.Refs[:0]
	for _, r := range f.Refs {
		if strings.Contains(r.Name, "#{") || r.Kind == lang.Import && r.Value == "" && declared[r.Span] {
			continue // only a run could say what that is
		}
		if r.Kind == lang.Import && r.Value != "" {
			if code == nil {
				code, _ = patterns.Lexis.Scrub(text)
			}
			r.Guarded = rescued(code, int(r.Span.Start), r.Value == "require")
		}
		kept = append(kept, r)
	}
	f.Refs = kept
	return f
}

// rescued says whether a statement is prepared to fail, or runs only under a
// condition; what is late is read only when something is used.
func rescued(code []byte, offset int, late bool) bool {
	start := offset
	for start > 0 && code[start-1] != '\n' {
		start--
	}
	end := offset + lang.LineLength(code[offset:])
	line := string(code[start:end])
	if strings.Contains(line, " if ") || strings.Contains(line, " unless ") || strings.Contains(line, "rescue") {
		return true
	}
	// An indented require within begin … rescue.
	if strings.TrimLeft(line, " \t") == line {
		return false
	}
	before := code[max(0, start-300):start]
	return late && lang.HasWord(before, "def") || lang.HasWord(before, "begin") && lang.HasWord(code[end:min(len(code), end+600)], "rescue") || lang.HasWord(before, "if") || lang.HasWord(before, "unless") || lang.HasWord(before, "when")
}

func resolve(l *lang.Look, from string, ref lang.Ref) lang.Answer {
	switch {
	case ref.Value == "require_relative":
		at := path.Join(path.Dir(from), ref.Name)
		answer := lang.Answer{To: l.First(at+".rb", at), Own: !strings.HasPrefix(at, ".."), Fails: true, Sought: []string{at + ".rb"}}
		if answer.To == nil {
			answer.To = l.Stemmed(at) // an extension in another language
		}
		return answer
	case ref.Value != "":
		return required(l, ref)
	}
	return constant(l, ref.Name)
}

// helpers are what tests load first, by the names that the generators of their runners give.
var helpers = map[string]bool{"test_helper": true, "spec_helper": true, "rails_helper": true}

// required finds what is loaded from lib/: a name below a folder there that no
// file has is the project's own.
func required(l *lang.Look, ref lang.Ref) lang.Answer {
	answer := lang.Answer{To: l.First("lib/"+ref.Name+".rb", "lib/"+ref.Name, ref.Name+".rb", ref.Name, "spec/"+ref.Name+".rb", "test/"+ref.Name+".rb"), Fails: true}
	if answer.To != nil {
		return answer
	}
	if strings.ContainsAny(ref.Name, "$ ") {
		return lang.Answer{}
	}
	first, _, deeper := strings.Cut(ref.Name, "/")
	if ref.Value == "load" {
		own := deeper && first != "." && first != ".." && l.IsFolder(path.Dir(ref.Name)) && path.Ext(ref.Name) != ""
		return lang.Answer{Own: own, Fails: true, Sought: []string{ref.Name}}
	}
	if helpers[ref.Name] && len(l.Called(ref.Name)) == 0 { // which is everybody's own
		in, _, _ := strings.Cut(ref.Name, "_")
		if in != "test" {
			in = "spec"
		}
		return lang.Answer{Own: l.IsFolder(in), Fails: true, Sought: []string{in + "/" + ref.Name + ".rb"}}
	}
	answer.Sought = []string{"lib/" + strings.TrimSuffix(ref.Name, ".rb") + ".rb"}
	// The extensions of a package are built where they are installed.
	answer.Own = deeper && path.Ext(ref.Name) != ".so" && !strings.Contains(ref.Name, "/ext/") && l.IsFile("lib/"+first+".rb") && l.IsFolder("lib/"+first) && !l.IsFolder("ext")
	if at := nearHelper(l, ref.Name); at != "" && !answer.Own {
		return lang.Answer{Own: true, Fails: true, Only: true, Near: true, Sought: []string{path.Join(path.Dir(at), ref.Name+".rb")}, Meant: at}
	}
	return answer
}

// nearHelper gives the file right in spec/ or test/, from where tests load too, that a name is a slip
// of the fingers away from; "" where none is.
func nearHelper(l *lang.Look, name string) string {
	for _, at := range lang.Once(l, "ruby helpers", func() (all []string) {
		l.Each(func(at string) {
			if dir := path.Dir(at); (dir == "spec" || dir == "test") && path.Ext(at) == ".rb" {
				all = append(all, at)
			}
		})
		return all
	}) {
		if names.Mistyped(name, names.Stem(path.Base(at))) {
			return at
		}
	}
	return ""
}

// constant finds the file that autoloading reads for a constant: by the whole of
// its name, or by what it stands in.
func constant(l *lang.Look, name string) lang.Answer {
	var parts []string
	for _, part := range strings.Split(name, "::") {
		parts = append(parts, names.To(names.Snake, part))
	}
	for n := len(parts); n > 0; n-- {
		tail := strings.Join(parts[:n], "/") + ".rb"
		var found []string
		for _, f := range l.Called(parts[n-1]) {
			root, below, _ := strings.Cut(f, "/")
			_, inPart, _ := strings.Cut(below, "/") // app/models/ and its like are roots, and so are their concerns
			inPart = strings.TrimPrefix(inPart, "concerns/")
			if (root == "lib" || root == "slices") && below == tail || inPart == tail && !slices.Contains(unloaded, root) {
				found = append(found, f)
			}
		}
		if len(found) > 0 {
			return lang.Answer{To: found}
		}
	}
	return missing(l, name, parts)
}

// unloaded are folders from which nothing is loaded by its name.
var unloaded = []string{"spec", "test", "features", "db", "config"}

// missing says of a constant without a file whether it must be the project's: what
// it stands in is a folder of an autoloaded root, and nothing declares it.
func missing(l *lang.Look, name string, parts []string) lang.Answer {
	if !l.IsFile("config/application.rb") && !l.IsFile("config/app.rb") {
		return lang.Answer{}
	}
	declared := lang.Once(l, "ruby declared", func() map[string]bool {
		all := map[string]bool{}
		l.Each(func(at string) {
			if path.Ext(at) == ".rb" || path.Ext(at) == ".rake" {
				for _, t := range l.Of(at).Of(lang.Type) {
					for _, part := range strings.Split(t.Name, "::") {
						all[part] = true
					}
				}
				for _, r := range l.Of(at).Of(lang.Import) {
					if r.Value != "" && r.Value != "require" && r.Value != "require_relative" && r.Value != "load" {
						all[r.Value] = true // autoload
					}
				}
			}
		})
		return all
	})
	last := name
	if i := strings.LastIndex(name, "::"); i >= 0 {
		last = name[i+2:]
	}
	if len(parts) == 1 && !declared[last] {
		return slipped(l, name, parts[0])
	}
	if len(parts) < 2 || declared[last] || strings.ToUpper(last) == last {
		return lang.Answer{}
	}
	for _, root := range []string{"app/models", "app/controllers", "app/services", "app/jobs", "app", "lib"} {
		if at := path.Join(root, strings.Join(parts[:len(parts)-1], "/")); l.IsFolder(at) {
			return lang.Answer{Own: true, Fails: true, Only: true, Sought: []string{path.Join(root, strings.Join(parts, "/")) + ".rb"}}
		}
	}
	return lang.Answer{}
}

// core are constants that Ruby has without a word, and those of its own library (Ruby's documentation, "Core
// classes and modules").
var core = lang.SetOf(`Array BasicObject BigDecimal Base64 Benchmark Binding Bundler CSV Class Comparable Complex Data Date DateTime Digest Dir
	ENV ERB Encoding Enumerable Enumerator Errno Etc Exception Fiber File FileTest FileUtils Find Float Forwardable GC Gem Hash IO Integer JSON
	Kernel Logger Marshal MatchData Math Method Minitest Module Monitor Mutex Net Numeric Object ObjectSpace Observer OpenSSL OpenStruct PP
	Pathname Proc Process Queue Ractor Rake Random Range Rational Regexp Ripper Set Shellwords Signal Singleton Socket String StringIO Struct
	Symbol Tempfile Thread ThreadGroup Time Timeout TracePoint URI UnboundMethod Warning YAML Zlib`)

// slipped answers for a constant of one name that nothing declares: it is the project's where one
// is a slip away that autoloading finds by its file. Of two that differ by no more than their
// number, as a setting and a library's settings do, the other must be named by nobody, and this
// one once.
func slipped(l *lang.Look, name, stem string) lang.Answer {
	if core()[name] {
		return lang.Answer{}
	}
	found := ""
	for _, at := range loaded(l) {
		other := names.BeforeDot(path.Base(at))
		slip := names.Near(stem, other)
		if slip == names.Apart || slip == names.Typing && names.Distance(stem, other) > 1 || slip == names.Number && (named(l)[name] > 1 || named(l)[names.To(names.Pascal, other)] > 0) {
			continue
		}
		if found != "" {
			return lang.Answer{}
		}
		found = at
	}
	if found == "" {
		return lang.Answer{}
	}
	return lang.Answer{Own: true, Fails: true, Only: true, Near: true, Sought: []string{path.Join(path.Dir(found), stem+".rb")}}
}

// loaded lists the files below app/ that autoloading finds by one name.
func loaded(l *lang.Look) []string {
	return lang.Once(l, "ruby loaded", func() (all []string) {
		l.Each(func(at string) {
			_, below, _ := strings.Cut(strings.TrimPrefix(at, "app/"), "/")
			if path.Ext(at) == ".rb" && strings.HasPrefix(at, "app/") && (below != "" && !strings.Contains(below, "/") || strings.HasPrefix(below, "concerns/") && strings.Count(below, "/") == 1) {
				all = append(all, at)
			}
		})
		return all
	})
}

// named counts how many files name a constant of one name.
func named(l *lang.Look) map[string]int {
	return lang.Once(l, "ruby named", func() map[string]int {
		all := map[string]int{}
		l.Each(func(at string) {
			if path.Ext(at) != ".rb" {
				return
			}
			seen := map[string]bool{}
			for _, r := range l.Of(at).Of(lang.Import) {
				if r.Value == "" && !seen[r.Name] {
					seen[r.Name] = true
					all[r.Name]++
				}
			}
		})
		return all
	})
}
