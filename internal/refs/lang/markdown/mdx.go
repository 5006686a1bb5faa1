package markdown

import (
	"bytes"

	"dicaxon/internal/refs/lang"
	"dicaxon/internal/refs/lang/script"
)

// MDX is Markdown with statements of JavaScript between its paragraphs: a line that begins with
// "import" or "export", up to the next empty one (its documents, "ESM").
var MDX = lang.Language{Endings: []string{".mdx"}, Read: readMDX, Resolve: resolve}

func readMDX(text []byte) lang.File {
	f := read(text)
	if code := statementsOf(text); code != nil {
		f.Refs = append(f.Refs, script.Language.Read(code).Refs...)
	}
	return f
}

// statementsOf gives a text with all but its statements blanked, nil where it has none.
func statementsOf(text []byte) (code []byte) {
	fenced, within := false, false
	for start := 0; start < len(text); {
		end := min(len(text), start+lang.LineLength(text[start:])+1)
		line := text[start:end]
		if trimmed := bytes.TrimSpace(line); bytes.HasPrefix(trimmed, []byte("```")) || bytes.HasPrefix(trimmed, []byte("~~~")) {
			fenced = !fenced
		} else if len(trimmed) == 0 {
			within = false
		}
		within = !fenced && (within || bytes.HasPrefix(line, []byte("import ")) || bytes.HasPrefix(line, []byte("export ")))
		if within && code == nil {
			code = bytes.Clone(text)
			lang.Blank(code[:start])
		} else if !within && code != nil {
			lang.Blank(code[start:end])
		}
		start = end
	}
	return code
}
