// Package jvm reads Kotlin and Java, the Java Language Specification, 7.4.1 and
// 7.5, and looks types up by their packages.
package jvm

import (
	"bytes"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/names"
	"dicaxon/internal/refs/lang"
)

// Kotlin is Kotlin, Java is Java.
var (
	Kotlin = lang.Language{Endings: []string{".kt", ".kts"}, Read: readKotlin, Resolve: resolve, Patterns: &kotlin}
	Java   = lang.Language{Endings: []string{".java"}, Read: java.ReadTypes, Resolve: resolve, Patterns: &java}
)

var (
	double = lang.Quote{Open: `"`, Close: `"`, Escape: true}
	single = lang.Quote{Open: "'", Close: "'", Escape: true}
	block  = [][2]string{{"/*", "*/"}}
	line   = []string{"//"}
)

var kotlin = lang.Patterns{
	Lexis: lang.Lexis{Line: line, Block: block, Nested: true, Strings: []lang.Quote{{Open: `"""`, Close: `"""`, Lines: true}, double, single}},
	Statements: []lang.Statement{
		lang.Says(lang.Package, "package", `^[ \t]*package[ \t]+(?P<name>[\w.`+"`"+`]+)`),
		lang.Says(lang.Import, "import", `^[ \t]*import[ \t]+(?P<name>[\w`+"`"+`]+(?:\.[\w`+"`"+`]+)*(?:\.\*)?)`),
		lang.Says(lang.Type, "class interface object", `^[ \t]*(?:(?:public|private|internal|protected|abstract|open|sealed|data|enum|value|annotation|inner|fun|expect|actual)[ \t]+)*(?:class|interface|object)[ \t]+(?P<name>\w+)`),
	},
}

func readKotlin(text []byte) lang.File {
	f := kotlin.ReadTypes(text)
	for i := range f.Refs {
		f.Refs[i].Name = strings.ReplaceAll(f.Refs[i].Name, "`", "")
	}
	return f
}

var java = lang.Patterns{
	Lexis: lang.Lexis{Line: line, Block: block, Strings: []lang.Quote{{Open: `"""`, Close: `"""`, Escape: true, Lines: true}, double, single}},
	Statements: []lang.Statement{
		lang.Says(lang.Package, "package", lang.AtStart+`package\s+(?P<name>[\w.]+)\s*;`),
		lang.Says(lang.Import, "import", lang.AtStart+`import\s+(?:static\s+)?(?P<name>[\w.]+(?:\.\*)?)\s*;`),
		lang.Says(lang.Type, "class interface enum record", `^[ \t]*(?:(?:public|protected|private|abstract|static|final|sealed|non-sealed|strictfp)\s+)*(?:class|@?interface|enum|record)\s+(?P<name>\w+)`),
	},
}

// resolve finds a type by its package and name, under whichever source root.
func resolve(l *lang.Look, _ string, ref lang.Ref) lang.Answer {
	name := strings.ReplaceAll(strings.TrimSuffix(ref.Name, ".*"), ".", "/")
	var found []string
	// A nested type and a function lie in the file of what they stand in.
	for n := name; len(found) == 0 && strings.Contains(n, "/"); n = path.Dir(n) {
		for _, f := range l.Called(path.Base(n)) {
			if ending := path.Ext(f); (ending == ".java" || ending == ".kt") && lang.EndsIn(strings.TrimSuffix(f, ending), n) {
				found = append(found, f)
			}
		}
	}
	if len(found) > 0 {
		if word := path.Base(name); path.Base(found[0]) == word+".kt" && !slices.ContainsFunc(found, func(f string) bool {
			types := l.Of(f).Of(lang.Type) // which are remembered; a text is read only where they lack the name
			return len(types) == 0 || slices.ContainsFunc(types, func(t lang.Ref) bool { return t.Name == word }) || lang.HasWord(l.TextOf(f), word)
		}) {
			return lang.Answer{Own: true, Fails: true, To: found, Within: found[0], Sought: []string{found[0] + "#" + word}} // a file of Kotlin is called as it likes
		}
		return lang.Answer{To: found}
	}
	if found = l.FoldersEnding(name); len(found) > 0 {
		return lang.Answer{To: found, How: lang.Likely}
	}
	return own(l, ref)
}

// ownRoot says whether a name begins as all packages of the project do, by so many names at
// least, and others do not begin so.
func ownRoot(l *lang.Look, parts []string, least int) bool {
	root := rootOf(l)
	return len(root) >= least && len(parts) > len(root) && slices.Equal(parts[:len(root)], root) && !sharesRoot(l, root)
}

// A home is a package of the project.
type home struct{ files []string }

func packagesOf(l *lang.Look) map[string]*home {
	return lang.Once(l, "jvm packages", func() map[string]*home {
		all := map[string]*home{}
		l.Each(func(at string) {
			if ending := path.Ext(at); ending != ".java" && ending != ".kt" && ending != ".scala" && ending != ".groovy" {
				return
			}
			name := strings.ReplaceAll(path.Dir(at), "/", ".")
			switch p := l.Of(at).Package(); {
			case p != nil:
				name = p.Name
			case path.Ext(at) == ".java" || path.Ext(at) == ".kt":
				return // the nameless one, or the description of a module
			}
			if all[name] == nil {
				all[name] = &home{}
			}
			all[name].files = append(all[name].files, at)
		})
		return all
	})
}

// own says of a type that no file is called after whether it must be the
// project's: its package is, and no file of the package has the name.
func own(l *lang.Look, ref lang.Ref) lang.Answer {
	homes := packagesOf(l)
	full := strings.TrimSuffix(ref.Name, ".*")
	parts := strings.Split(full, ".")
	if first := parts[0]; first == "kotlin" || first == "java" || first == "javax" || first == "android" {
		return lang.Answer{} // of the languages, whatever stands for them here
	}
	if in := homes[full]; in != nil && full != ref.Name { // all of a package, whose folders need not spell it
		return lang.Answer{To: in.files, How: lang.Convention}
	}
	for n := len(parts) - 1; n > 0; n-- {
		name := strings.Join(parts[:n], ".")
		in := homes[name]
		if in == nil || n == 1 && len(parts) > 2 {
			continue
		}
		if at := declared(l, name, in)[parts[n]]; len(at) > 0 {
			return lang.Answer{To: at[:1], How: lang.Convention}
		}
		if made(parts[n]) {
			return lang.Answer{}
		}
		at := in.files[0]
		if rest := parts[n:]; len(rest) > 1 && rest[0] == strings.ToLower(rest[0]) {
			// A package below it, which a build may make, or another artefact have.
			foreign := generates(l) || !ownRoot(l, parts, 3) // two may be who makes it
			return lang.Answer{Own: !made(rest[len(rest)-1]), Fails: true, Near: foreign, Only: foreign, Sought: []string{path.Join(path.Dir(at), strings.Join(rest, "/")+path.Ext(at))}}
		}
		return lang.Answer{Own: true, Fails: true, Only: generates(l), Sought: []string{path.Join(path.Dir(at), parts[n]+path.Ext(at))}}
	}
	if at := nearHome(l, parts); at != "" {
		return lang.Answer{Own: true, Fails: true, Only: true, Near: true, Sought: []string{strings.Join(parts, "/") + path.Ext(at)}, Meant: at}
	}
	if made(parts[len(parts)-1]) || !ownRoot(l, parts, 2) {
		return lang.Answer{}
	}
	return lang.Answer{Own: true, Fails: true, Only: true, Sought: []string{strings.Join(parts, "/") + ".java", strings.Join(parts, "/") + ".kt"}}
}

// nearHome gives the one file of the project that declares the type of a name in a package of
// which one part is a slip away; "" where there is none.
func nearHome(l *lang.Look, parts []string) (found string) {
	for _, name := range nearPackages(l, strings.Join(parts[:len(parts)-1], ".")) {
		at := declared(l, name, packagesOf(l)[name])[parts[len(parts)-1]]
		if len(at) > 1 || len(at) == 1 && found != "" {
			return ""
		}
		if len(at) == 1 {
			found = at[0]
		}
	}
	return found
}

// nearPackages gives the packages of the project of which one part is a slip away from that of a name.
func nearPackages(l *lang.Look, name string) []string {
	return lang.Once(l, "jvm packages near "+name, func() (all []string) {
		in := strings.Split(name, ".")
		for known := range packagesOf(l) {
			other := strings.Split(known, ".")
			if len(other) != len(in) {
				continue
			}
			differ := 0
			for i := 0; i < len(in) && differ < 2; i++ {
				if in[i] != other[i] {
					if differ++; differ == 1 && names.Near(in[i], other[i]) == names.Apart {
						differ = 2
					}
				}
			}
			if differ == 1 {
				all = append(all, known)
			}
		}
		return all
	})
}

// sharesRoot says whether others, too, have packages that begin as all of the project do:
// two types of such packages are imported, and no file of the project is called after them.
func sharesRoot(l *lang.Look, root []string) bool {
	return lang.Once(l, "jvm shares root", func() bool {
		begin, homes, foreign := strings.Join(root, ".")+".", packagesOf(l), map[string]bool{}
		l.Each(func(at string) {
			if ending := path.Ext(at); len(foreign) > 1 || ending != ".java" && ending != ".kt" {
				return
			}
			for _, r := range l.Of(at).Of(lang.Import) {
				i := strings.LastIndexByte(r.Name, '.')
				if !strings.HasPrefix(r.Name, begin) || i < 0 || homes[r.Name[:i]] != nil {
					continue
				}
				last := r.Name[i+1:]
				if last != "*" && last != strings.ToLower(last) && len(l.Called(last)) == 0 && !made(last) {
					foreign[r.Name] = true
				}
			}
		})
		return len(foreign) > 1
	})
}

// declared gives the files of a package by the names that each declares: types, and what else Kotlin
// has at the top of a file.
func declared(l *lang.Look, name string, in *home) map[string][]string {
	return lang.Once(l, "jvm declared in "+name, func() map[string][]string {
		all := map[string][]string{}
		for _, at := range in.files {
			add := func(name string) {
				if known := all[name]; len(known) == 0 || known[len(known)-1] != at {
					all[name] = append(known, at)
				}
			}
			for _, t := range l.Of(at).Of(lang.Type) {
				add(t.Name)
			}
			if path.Ext(at) != ".java" {
				for line := range bytes.Lines(l.TextOf(at)) {
					declaredIn(line, add)
				}
			}
		}
		return all
	})
}

// declaring are words that a declaration begins with.
var declaring = map[string]bool{"fun": true, "val": true, "var": true, "typealias": true, "class": true, "object": true, "interface": true, "def": true, "type": true, "trait": true}

// declaredIn goes through the names that a line may declare: between such a word and the name stand
// generics and what it extends at most.
func declaredIn(line []byte, add func(name string)) {
	after := false
	for i := 0; i < len(line); {
		end := i
		for end < len(line) && lang.WordByte(line[end]) {
			end++
		}
		if end == i {
			after = after && !bytes.ContainsRune([]byte("()=:{"), rune(line[i]))
			i++
			continue
		}
		if after {
			add(string(line[i:end]))
		}
		after = after || declaring[string(line[i:end])]
		i = end
	}
}

// made says whether a type of that name is what a build makes.
func made(name string) bool {
	return name == "R" || name == "BuildConfig" || strings.HasSuffix(name, "Binding") || strings.HasSuffix(name, "_") || strings.HasPrefix(name, "Hilt_") || strings.HasPrefix(name, "Dagger") ||
		strings.HasSuffix(name, "Directions") || strings.HasSuffix(name, "Args") || strings.HasSuffix(name, "Impl") || strings.HasSuffix(name, "Grpc") || strings.HasSuffix(name, "Proto") || strings.HasSuffix(name, "Parser") || strings.HasSuffix(name, "Lexer") || strings.HasPrefix(name, "Q")
}

// generates says whether sources come from elsewhere: from another language, or
// from a program that the build runs.
func generates(l *lang.Look) bool {
	return lang.Once(l, "jvm generates", func() bool {
		found := false
		l.Each(func(at string) {
			switch path.Ext(at) {
			case ".proto", ".g4", ".jj", ".jjt", ".xsd", ".wsdl", ".avsc", ".thrift", ".scala", ".groovy", ".vm", ".ftl", ".aidl", ".graphql", ".jflex", ".flex", ".y", ".mustache":
				found = true
			}
			if base := path.Base(at); base == "pom.xml" || strings.HasPrefix(base, "build.gradle") {
				found = found || bytes.Contains(l.TextOf(at), []byte("generate")) || bytes.Contains(l.TextOf(at), []byte("processor")) || bytes.Contains(l.TextOf(at), []byte("kapt")) || bytes.Contains(l.TextOf(at), []byte("ksp"))
			}
		})
		return found
	})
}

// rootOf gives the names that all packages of the project begin with.
func rootOf(l *lang.Look) []string {
	return lang.Once(l, "jvm root", func() []string { return begun(packagesOf(l)) })
}

// begun gives the names that all packages begin with.
func begun(homes map[string]*home) []string {
	var root []string
	first := true
	for name := range homes {
		parts := strings.Split(name, ".")
		if first {
			root, first = parts, false
			continue
		}
		n := 0
		for n < len(root) && n < len(parts) && root[n] == parts[n] {
			n++
		}
		root = root[:n]
	}
	return root
}
