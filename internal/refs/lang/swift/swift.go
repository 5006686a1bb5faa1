// Package swift reads Swift and looks modules up in the package.
package swift

import (
	"strings"

	"dicaxon/internal/refs/lang"
)

// Language is Swift.
var Language = lang.Language{Endings: []string{".swift"}, Read: patterns.ReadTypes, Resolve: resolve, Patterns: &patterns}

var patterns = lang.Patterns{
	Lexis: lang.Lexis{Line: []string{"//"}, Block: [][2]string{{"/*", "*/"}}, Nested: true, Strings: []lang.Quote{
		{Open: `"""`, Close: `"""`, Escape: true, Lines: true}, {Open: `"`, Close: `"`, Escape: true}}},
	Statements: []lang.Statement{
		lang.Says(lang.Import, "import", `^[ \t]*(?:@(?P<what>[\w()]+)[ \t]+)*(?:public[ \t]+|internal[ \t]+|private[ \t]+)?import[ \t]+(?:(?:struct|class|enum|protocol|func|var|let|typealias)[ \t]+)?(?P<name>[\w.]+)`),
		lang.Says(lang.Type, "struct class enum protocol actor", `^[ \t]*(?:(?:public|internal|private|fileprivate|open|final|indirect)[ \t]+)*(?:struct|class|enum|protocol|actor)[ \t]+(?P<name>\w+)`),
	},
}

// resolve finds a module of the package. What a test imports to look inside is
// the project's own: nobody else's is built for that.
func resolve(l *lang.Look, from string, ref lang.Ref) lang.Answer {
	module, _, _ := strings.Cut(ref.Name, ".")
	answer := lang.Answer{To: l.There("Sources/"+module, module), Fails: true, Sought: []string{"Sources/" + module}}
	_, manifest := l.Nearest(from, "Package.swift")
	if len(answer.To) == 0 && manifest != "" {
		answer.Own = !strings.Contains(string(l.TextOf(manifest)), `"`+module+`"`)
		// Frameworks of the system are named nowhere: only what is nearly a module of the package is one.
		answer.Near = ref.Value != "testable"
		answer.Only = answer.Near
	}
	return answer
}
