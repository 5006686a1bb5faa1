package jvm

import (
	"slices"
	"strings"
	"testing"

	"dicaxon/internal/refs/lang"
)

// onePackage is a project of files of one package, by their names.
type onePackage map[string]string

func (p onePackage) Each(do func(string)) {
	var all []string
	for at := range p {
		all = append(all, at)
	}
	slices.Sort(all)
	for _, at := range all {
		do(at)
	}
}
func (p onePackage) IsFile(at string) bool { _, there := p[at]; return there }
func (p onePackage) IsFolder(at string) bool {
	for f := range p {
		if strings.HasPrefix(f, at+"/") {
			return true
		}
	}
	return false
}
func (p onePackage) Names(string) []string          { return nil }
func (p onePackage) Text(at string) ([]byte, error) { return []byte(p[at]), nil }

// look makes a Look whose files are read by their own language.
func look(p onePackage) *lang.Look {
	return lang.NewLook(p, func(at string) *lang.File {
		read := Java.Read
		if strings.HasSuffix(at, ".kt") {
			read = Kotlin.Read
		}
		f := read([]byte(p[at]))
		return &f
	})
}

// TestDeclaredIn holds which names a line of Kotlin may declare at the top of a file.
func TestDeclaredIn(t *testing.T) {
	for line, want := range map[string]string{
		"fun tide() = 1": "tide",
		"private fun <T> List<T>.ebb(x: Int): Quay": "T List T ebb",
		"val (a, b) = pair()":                       "",
		"typealias Berths = List<Berth>":            "Berths",
		"const val HIGH: Int = 3":                   "HIGH",
		"return fun_tide":                           "",
		"data class Crew(val name: String)":         "Crew name",
		"x = object : Tide {":                       "",
	} {
		var got []string
		declaredIn([]byte(line), func(name string) { got = append(got, name) })
		if strings.Join(got, " ") != want {
			t.Errorf("%s: %q, not %q", line, got, want)
		}
	}
}

// TestImportsOfPackages asks where imports of types and functions lead that no file is called after.
func TestImportsOfPackages(t *testing.T) {
	l := look(onePackage{
		"src/main/kotlin/example/gannet/tides/Table.kt": "package example.gannet.tides\n\nclass Table\n\nfun highWater() = 1\n",
		"src/main/kotlin/example/gannet/tides/More.kt":  "package example.gannet.tides\n\nval lowWater = 2\n",
		"src/main/java/example/gannet/quays/Quay.java":  "package example.gannet.quays;\n\npublic class Quay {}\n\nclass Rail {}\n",
		"src/main/kotlin/example/gannet/Main.kt":        "package example.gannet\n\nimport example.gannet.tides.highWater\n\nfun main() { highWater() }\n",
	})
	for name, want := range map[string]string{
		"example.gannet.tides.Table":     "src/main/kotlin/example/gannet/tides/Table.kt",
		"example.gannet.tides.highWater": "src/main/kotlin/example/gannet/tides/Table.kt",
		"example.gannet.tides.lowWater":  "src/main/kotlin/example/gannet/tides/More.kt",
		"example.gannet.quays.Rail":      "src/main/java/example/gannet/quays/Quay.java",
		"example.gannet.tides.midWater":  "", // declared by none
		"example.gannet.tidse.Table":     "", // of a package that is a slip away
		"java.util.List":                 "",
	} {
		answer := resolve(l, "", lang.Ref{Kind: lang.Import, Name: name})
		if got := strings.Join(answer.To, " "); got != want {
			t.Errorf("%s leads to %q, not %q", name, got, want)
		}
		if own := strings.HasPrefix(name, "example."); want == "" && answer.Own != own {
			t.Errorf("%s is the project's own: %v", name, answer.Own)
		}
	}
	if a := resolve(l, "", lang.Ref{Kind: lang.Import, Name: "example.gannett.tides.Table"}); a.Meant != "src/main/kotlin/example/gannet/tides/Table.kt" {
		t.Errorf("a slip in a package means %q", a.Meant)
	}
}
