package refs

import (
	"bytes"
	"path"
)

// lexes says how the languages write comments, by the endings of their files.
var lexes = map[string]*lexis{}

func init() {
	for lex, endings := range map[*lexis][]string{
		&script.lexis: {".js", ".mjs", ".cjs", ".jsx", ".ts", ".mts", ".cts", ".tsx", ".vue", ".svelte"}, &pythonLexis: {".py"},
		&kotlin.lexis: {".kt", ".kts"}, &java.lexis: {".java", ".go"}, &php.lexis: {".php"}, &ruby.lexis: {".rb", ".rake"},
		&dart.lexis: {".dart"}, &csharp.lexis: {".cs"}, &swift.lexis: {".swift"}, &css.lexis: {".css", ".scss"}, &template: {".sql"},
	} {
		for _, ending := range endings {
			lexes[ending] = lex
		}
	}
}

// Code gives the text of the file called name with its comments blank, where
// the language is known; offsets and lines stay.
func Code(name string, text []byte) []byte {
	lex := lexes[path.Ext(name)]
	if lex == nil {
		return text
	}
	code, _ := lex.scrub(text)
	shown := bytes.Clone(text)
	for i, c := range code {
		if c == ' ' {
			shown[i] = ' '
		}
	}
	return shown
}
