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
	root := rootOf(packagesOf(l))
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
		in := homes[strings.Join(parts[:n], ".")]
		if in == nil || n == 1 && len(parts) > 2 {
			continue
		}
		for _, at := range in.files {
			if declares(l, at, parts[n]) {
				return lang.Answer{To: []string{at}, How: lang.Convention}
			}
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
	if at := nearHome(l, homes, parts); at != "" {
		return lang.Answer{Own: true, Fails: true, Only: true, Near: true, Sought: []string{strings.Join(parts, "/") + path.Ext(at)}, Meant: at}
	}
	if made(parts[len(parts)-1]) || !ownRoot(l, parts, 2) {
		return lang.Answer{}
	}
	return lang.Answer{Own: true, Fails: true, Only: true, Sought: []string{strings.Join(parts, "/") + ".java", strings.Join(parts, "/") + ".kt"}}
}

// nearHome gives the one file of the project that declares the type of a name in a package of
// which one part is a slip away; "" where there is none.
func nearHome(l *lang.Look, homes map[string]*home, parts []string) (found string) {
	in, last := parts[:len(parts)-1], parts[len(parts)-1]
	for name, h := range homes {
		other := strings.Split(name, ".")
		if len(other) != len(in) || len(in) == 0 {
			continue
		}
		differ := 0
		for i := range in {
			if in[i] != other[i] {
				differ++
				if names.Near(in[i], other[i]) == names.Apart {
					differ = 2
				}
			}
		}
		if differ != 1 {
			continue
		}
		for _, at := range h.files {
			if declares(l, at, last) {
				if found != "" {
					return ""
				}
				found = at
			}
		}
	}
	return found
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

// declares says whether a file declares a name: a type, or what else Kotlin has at
// the top of a file.
func declares(l *lang.Look, at, name string) bool {
	if slices.ContainsFunc(l.Of(at).Of(lang.Type), func(t lang.Ref) bool { return t.Name == name }) {
		return true
	}
	if path.Ext(at) == ".java" {
		return false
	}
	text := l.TextOf(at)
	for _, i := range lang.Words(text, name) {
		line := string(text[bytes.LastIndexByte(text[:i], '\n')+1 : i])
		for _, word := range []string{"fun", "val", "var", "typealias", "class", "object", "interface", "def", "type", "trait"} {
			// Nothing but generics and what it extends stands between.
			if at := lang.Words([]byte(line), word); len(at) > 0 && !strings.ContainsAny(line[at[len(at)-1]:], "()=:{") {
				return true
			}
		}
	}
	return false
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
func rootOf(homes map[string]*home) []string {
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
