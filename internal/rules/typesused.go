package rules

import (
	"bytes"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/edit"
	"dicaxon/internal/finding"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
	"dicaxon/internal/refs/lang/php"
)

// ofJava are types that Java gives to every file (java.lang); ofKotlin those that Kotlin gives
// besides (kotlin, kotlin.collections and others).
var (
	ofJava = lang.SetOf(`ArithmeticException ArrayIndexOutOfBoundsException ArrayStoreException ClassCastException ClassNotFoundException
	CloneNotSupportedException ClassFormatError Compiler EnumConstantNotPresentException ExceptionInInitializerError IllegalAccessException
	IllegalMonitorStateException IllegalThreadStateException InheritableThreadLocal InstantiationException InternalError LinkageError
	NegativeArraySizeException NoClassDefFoundError NoSuchFieldError NoSuchFieldException NoSuchMethodError NoSuchMethodException
	OutOfMemoryError ProcessHandle ReflectiveOperationException RuntimePermission SecurityException SecurityManager StackOverflowError
	StackTraceElement StackWalker StrictMath StringIndexOutOfBoundsException ThreadDeath ThreadGroup TypeNotPresentException
	UnsatisfiedLinkError VerifyError VirtualMachineError AbstractMethodError Appendable AssertionError AutoCloseable Boolean Byte Character CharSequence Class
	ClassLoader Cloneable Comparable Deprecated Double Enum Error Exception Float FunctionalInterface IllegalArgumentException
	IllegalStateException IndexOutOfBoundsException Integer InterruptedException Iterable Long Math Module NullPointerException Number
	NumberFormatException Object Override Package Process ProcessBuilder Readable Record Runnable Runtime RuntimeException SafeVarargs Short
	String StringBuffer StringBuilder SuppressWarnings System Thread ThreadLocal Throwable UnsupportedOperationException Void`)
	ofKotlin = lang.SetOf(`Annotation Any Array ArrayList Char Collection Comparator Function HashMap HashSet Int Iterator Lazy
	LinkedHashMap LinkedHashSet List ListIterator Map Metadata MutableCollection MutableIterator MutableList MutableMap MutableSet
	NoSuchElementException NotImplementedError Nothing Pair Random Range Regex Result Sequence Set Suppress Synchronized Throws Triple UInt ULong Unit
	Volatile JvmField JvmInline JvmName JvmOverloads JvmStatic ByteArray IntArray LongArray DoubleArray FloatArray BooleanArray CharArray ShortArray`)
)

// typesAreMade says whether a program makes types of what the project holds, which nobody sees in it.
func (c *Call) typesAreMade() bool {
	return slices.ContainsFunc([]string{".proto", ".thrift", ".avsc", ".xsd", ".g4", ".aidl"}, func(ending string) bool { return len(c.endings()[ending]) > 0 })
}

// tellTypes tells of types of the project that a file of the JVM, of PHP, of C# or of Dart uses, does not
// import and does not see otherwise: one file alone declares them. What leads nowhere may be what
// gives them.
func (g *givers) tellTypes(at string, said *refs.File) {
	if g.made || !importsTypes(at) || slices.ContainsFunc(g.Graph.From(at), func(e refs.Edge) bool { return e.Broken() }) {
		return
	}
	g.tellExtensions(at, said)
	for _, u := range said.Uses.Unbound {
		if oftenNested()[u.Name] || path.Ext(at) == ".php" && said.Package() == nil && php.BuiltIn(u.Name) || g.tellOthersType(at, said, u) {
			continue
		}
		to := only(g.typesOf()[u.Name], func(f string) bool { return kin(path.Ext(f), path.Ext(at)) })
		if to == "" && g.tellAbsentType(at, said, u) {
			continue
		}
		if to == "" || to == at || names.BeforeDot(path.Base(to)) != u.Name && path.Ext(to) != ".dart" || isTest(to) && !isTest(at) || g.sees(at, said, to, u.Name) {
			continue
		}
		g.atName(at, u.Span, to, "it uses %s and does not import it; %s gives that", u.Name, g.Top.Path()+to).Fix = g.importingType(at, said, to, u.Name)
	}
}

// tellAbsentType tells of a type that a file of PHP uses and does not import, where its own namespace,
// which nobody but the project can fill, has none of that name: an unqualified name of a class is
// looked for nowhere else (PHP Manual, "Name resolution rules").
func (g *givers) tellAbsentType(at string, said *refs.File, u lang.Quoted) bool {
	if path.Ext(at) != ".php" {
		return false
	}
	here := said.Of(refs.Package)
	constant := strings.Contains(u.Name, "_") && strings.ToUpper(u.Name[:3]) == u.Name[:3]
	extension := len(g.anywhere()["config.m4"]) > 0 // of PHP, which has types of its own
	if len(here) != 1 || constant || extension || len(g.typesOf()[u.Name]) > 0 || namesType(said, `\`, u.Name) || taken(said, u.Name) {
		return false
	}
	if isTest(at) && bytes.HasPrefix(g.textOf(at)[min(int(u.Span.End), len(g.textOf(at))):], []byte("::class")) {
		return false // a test may speak of a class that is not there
	}
	a := g.Graph.Answer(at, refs.Ref{Kind: refs.Import, Name: here[0].Name + `\` + u.Name})
	if !a.Own || len(a.To) > 0 {
		return false
	}
	sought := make([]string, len(a.Sought))
	for i := range sought {
		sought[i] = g.Top.Path() + a.Sought[i]
	}
	for i := range g.findings { // what else looks for it says the same
		if f := &g.findings[i]; f.Kind == finding.Dangling && slices.ContainsFunc(f.Sought, func(at string) bool { return slices.Contains(sought, at) }) {
			f.AlsoAt(g.Top.Path() + at)
			return true
		}
	}
	f := g.atName(at, u.Span, "", "it uses %s, which it does not import and %s does not have", u.Name, here[0].Name)
	if near := nearOne(u.Name, g.typesSeen(said, here[0].Name)); near != "" {
		f.Message += "; did it mean " + near + "?"
		f.Fix = []edit.Edit{g.edit(at, u.Span, near)}
	}
	f.Sought = append(f.Sought, sought...)
	return true
}

// typesSeen lists the types that a file of PHP imports, and those of its namespace.
func (g *givers) typesSeen(said *refs.File, here string) (all []string) {
	for _, r := range said.Of(refs.Import) {
		all = append(all, r.Name[strings.LastIndexByte(r.Name, '\\')+1:])
	}
	for name, files := range g.typesOf() {
		if slices.ContainsFunc(files, func(at string) bool { p := g.refsOf(at).Package(); return p != nil && p.Name == here }) {
			all = append(all, name)
		}
	}
	return all
}

// typesOf lists the files that declare types, by their names.
func (g *givers) typesOf() map[string][]string {
	if g.types == nil {
		g.types = map[string][]string{}
		g.Graph.Look().Each(func(at string) {
			if !hasTypes(at) || g.lends(at) {
				return
			}
			for _, t := range g.refsOf(at).Of(refs.Type) {
				g.types[t.Name] = append(g.types[t.Name], at)
			}
		})
	}
	return g.types
}

// sees says whether a file sees a type of another without a further import.
func (g *givers) sees(at string, said *refs.File, to, name string) bool {
	if path.Ext(at) == ".dart" {
		return g.seesInDart(at, said, to)
	}
	if path.Ext(at) == ".cs" {
		return g.seesInSharp(at, said, to, name)
	}
	separator := separatorIn(at)
	here, there := said.Package(), g.refsOf(to).Package()
	if len(said.Of(refs.Package)) > 1 {
		return true // each part of the file has imports of its own
	}
	if there == nil || here != nil && here.Name == there.Name || isGiven(at, name) {
		return true
	}
	if separator == `\` && here == nil && !strings.HasPrefix(to, "app/") && !strings.HasPrefix(to, "src/") {
		return true
	}
	return namesType(said, separator, name)
}

// namesType says whether an import of a file names a type, or all of a package.
func namesType(said *refs.File, separator, name string) bool {
	return slices.ContainsFunc(said.Of(refs.Import), func(r refs.Ref) bool {
		last := r.Name[strings.LastIndex(r.Name, separator)+1:]
		return r.Value != "trait" && (last == "*" || last == name)
	})
}

// isGiven says whether a language gives a type to every file.
func isGiven(at, name string) bool {
	ending := path.Ext(at)
	return kin(ending, ".java") && ofJava()[name] || ending == ".kt" && ofKotlin()[name]
}

// tellOthersType tells of a type of others that a file of the JVM uses and does not import, where
// other files all import it from one package, and the project has none of that name.
func (g *givers) tellOthersType(at string, said *refs.File, u lang.Quoted) bool {
	if !kin(path.Ext(at), ".java") || len(g.typesOf()[u.Name]) > 0 || isGiven(at, u.Name) || namesType(said, ".", u.Name) {
		return false
	}
	from := sole(g.typesOfOthers()[u.Name])
	if from == "" || isNested(from) || strings.HasPrefix(from, "java.lang.") || strings.HasPrefix(from, "kotlin.") || g.ofOwnRoot(said, from) {
		return false
	}
	g.atName(at, u.Span, "", "it uses %s and does not import it; others have it as %s", u.Name, from).Fix = g.afterImports(at, said, "import "+from)
	return true
}

// oftenNested are names of types that lie in others, and that who extends those sees.
var oftenNested = lang.SetOf("Builder Companion Config Context Entry Factory Item Key Kind Level Listener Mode Node Options Result State Status Type Value")

// isNested says whether the whole name of a type goes over another type.
func isNested(name string) bool {
	parts := strings.Split(name, ".")
	return slices.ContainsFunc(parts[:len(parts)-1], func(part string) bool { return part != "" && part[0] >= 'A' && part[0] <= 'Z' })
}

// ofOwnRoot says whether a name begins as the package of a file does: a type of the same makers may
// be inherited, or made.
func (g *givers) ofOwnRoot(said *refs.File, name string) bool {
	here := said.Package()
	if here == nil {
		return false
	}
	a, b := strings.Split(here.Name, "."), strings.Split(name, ".")
	n := min(2, len(a))
	return len(b) >= n && slices.Equal(a[:n], b[:n])
}

// typesOfOthers lists the whole names by which files of the JVM import what is not the project's.
func (g *givers) typesOfOthers() map[string][]string {
	if g.foreign == nil {
		g.foreign = map[string][]string{}
		g.Graph.Look().Each(func(at string) {
			if !kin(path.Ext(at), ".java") || g.lends(at) {
				return
			}
			for _, r := range g.refsOf(at).Of(refs.Import) {
				last := r.Name[strings.LastIndexByte(r.Name, '.')+1:]
				g.foreign[last] = append(g.foreign[last], r.Name)
			}
		})
	}
	return g.foreign
}

// seesInDart says whether a library imports another, over the exports of those that it imports.
func (g *givers) seesInDart(at string, said *refs.File, to string) bool {
	_, mine := g.Graph.Look().Nearest(at, "pubspec.yaml")
	if _, its := g.Graph.Look().Nearest(to, "pubspec.yaml"); mine != its || mine == "" {
		return true // another package, whose exports are not followed, or none
	}
	seen, next := map[string]bool{}, []string{at}
	for first := true; len(next) > 0; first = false {
		var further []string
		for _, one := range next {
			for _, e := range g.Graph.From(one) {
				if e.Ref.Value == "part of" || e.Ref.Value == "part" { // they share what they see
					return true
				}
				if !first && e.Ref.Value != "export" {
					continue
				}
				for _, f := range e.To {
					if !seen[f] {
						seen[f] = true
						further = append(further, f)
					}
				}
			}
		}
		next = further
	}
	return seen[to] || said.Of(refs.Import) == nil
}

// importingType gives the edit that imports a type below the last import of a file.
func (g *givers) importingType(at string, said *refs.File, to, name string) []edit.Edit {
	there := g.refsOf(to).Package()
	switch path.Ext(at) {
	case ".kt", ".java":
		return g.afterImports(at, said, "import "+there.Name+"."+name)
	case ".php":
		return g.afterImports(at, said, "use "+there.Name+`\`+name)
	case ".cs":
		if said.Of(refs.Import) == nil {
			return []edit.Edit{g.edit(at, refs.Span{}, "using "+there.Name+";"+strings.Repeat(newline(said), 2))}
		}
		return g.afterImports(at, said, "using "+there.Name)
	}
	return nil
}
