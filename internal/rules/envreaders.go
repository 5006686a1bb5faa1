package rules

import (
	"bytes"
	"regexp"

	"dicaxon/internal/lazy"
)

// readers find functions of a file's own that take one text, by how its language writes them.
var readers = map[string]*lazy.Regexp{
	".js": lazy.New(`\bconst\s+(\w+)\s*=\s*\(?\s*(\w+)(?:\s*:\s*string)?\s*\)?\s*(?::\s*\w+\s*)?=>|\bfunction\s+(\w+)\s*\(\s*(\w+)(?:\s*:\s*string)?\s*\)`),
	".py": lazy.New(`(?m)^def[ \t]+(\w+)\(\s*(\w+)(?:\s*:\s*str)?\s*\)`),
}

// reach is how far behind its name such a function says what it does.
const reach = 300

// ownReaders finds the calls of functions of a file's own that do nothing but ask the environment for the key that
// they are given.
func ownReaders(ending string, code []byte) (all []*regexp.Regexp) {
	kind, asks := ending, [][]byte{[]byte("os.environ["), []byte("os.environ.get("), []byte("os.getenv("), []byte("environ[")}
	if kin(ending, ".ts") {
		kind, asks = ".js", [][]byte{[]byte("process.env[")}
	}
	if readers[kind] == nil || !bytes.Contains(code, []byte("env")) {
		return nil
	}
	for _, m := range readers[kind].Get().FindAllSubmatchIndex(code, -1) {
		k := 2
		if m[k] < 0 {
			k = 6
		}
		body := code[m[1]:min(len(code), m[1]+reach)]
		for _, ask := range asks {
			i := bytes.Index(body, append(bytes.Clone(ask), code[m[k+2]:m[k+3]]...))
			if end := i + len(ask) + m[k+3] - m[k+2]; i >= 0 && end < len(body) && (body[end] == ']' || body[end] == ')') {
				all = append(all, regexp.MustCompile(`\b`+regexp.QuoteMeta(string(code[m[k]:m[k+1]]))+`\(\s*["']([A-Z][A-Z0-9_]+)["']\s*\)`))
				break
			}
		}
	}
	return all
}
