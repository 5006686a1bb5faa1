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
	var open fence
	within := false
	for start := 0; start < len(text); {
		end := min(len(text), start+lang.LineLength(text[start:])+1)
		line := text[start:end]
		trimmed := string(bytes.TrimSpace(line))
		begins := bytes.HasPrefix(line, []byte("import ")) || bytes.HasPrefix(line, []byte("export "))
		within = !open.passes(trimmed) && trimmed != "" && (within || begins)
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
