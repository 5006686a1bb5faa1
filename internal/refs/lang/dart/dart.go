// Package dart reads the directives of Dart libraries and looks them up in their
// package.
package dart

import (
	"path"
	"strings"

	"dicaxon/internal/refs/lang"
)

// Language is Dart.
var Language = lang.Language{Endings: []string{".dart"}, Read: patterns.ReadTypes, Resolve: resolve, Patterns: &patterns}

var patterns = lang.Patterns{
	Lexis: lang.Lexis{Line: []string{"//"}, Block: [][2]string{{"/*", "*/"}}, Nested: true, Strings: []lang.Quote{
		{Open: `"""`, Close: `"""`, Escape: true, Lines: true}, {Open: "'''", Close: "'''", Escape: true, Lines: true},
		{Open: `"`, Close: `"`, Escape: true}, {Open: "'", Close: "'", Escape: true}}},
	Statements: []lang.Statement{
		lang.Says(lang.Import, "import export part", lang.AtStart+`(?P<what>import|export|part)\s+`+lang.StringText),
		lang.Says(lang.Import, "part", lang.AtStart+`(?P<what>part of)\s+`+lang.StringText),
		lang.Says(lang.Package, "library", lang.AtStart+`library\s+(?P<name>[\w.]+)\s*;`),
		lang.Says(lang.Type, "class enum mixin extension", `^(?:(?:abstract|base|final|interface|sealed|mixin)[ \t]+)*(?:class|enum|mixin|extension type)[ \t]+(?P<name>\w+)`),
	},
}

func resolve(l *lang.Look, from string, ref lang.Ref) lang.Answer {
	answer := lang.Answer{Fails: true}
	folder, manifest := l.Nearest(from, "pubspec.yaml")
	at := path.Join(path.Dir(from), ref.Name)
	if rest, ok := strings.CutPrefix(ref.Name, "package:"); ok {
		own, below, _ := strings.Cut(rest, "/")
		if manifest == "" {
			return lang.Answer{}
		}
		if k := l.Of(manifest).Get("name"); k == nil || k.Value != own {
			return lang.Answer{}
		}
		at = path.Join(folder, "lib", below)
	} else if strings.Contains(ref.Name, ":") || strings.Contains(ref.Name, "$") {
		return lang.Answer{}
	}
	answer.To, answer.Sought = l.First(at), []string{at}
	answer.Own = !strings.HasPrefix(at, "..")
	// What a generator writes has two endings, and may not be there yet; where it is there
	// under nearly the name, that of another library is asked for.
	if strings.Count(path.Base(at), ".") > 1 || strings.Contains(at, "gen_l10n") || strings.Contains(at, "generated") {
		own, _, _ := strings.Cut(path.Base(at), ".")
		answer.Own = answer.Own && strings.TrimSuffix(path.Base(from), ".dart") != own
		answer.Near = true
	}
	return answer
}
