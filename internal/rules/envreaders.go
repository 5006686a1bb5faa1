package rules

import (
	"bytes"
	"regexp"
	"slices"

	"dicaxon/internal/lazy"
)

// readers are how functions of a file's own that take one text are found, by the ending of what they stand in, and what
// stands before the text where such a one asks the environment.
var readers = map[string]struct {
	found *lazy.Regexp
	asks  []string
}{
	".js": {lazy.New(`\bconst\s+(\w+)\s*=\s*\(?\s*(\w+)(?:\s*:\s*string)?\s*\)?\s*(?::\s*\w+\s*)?=>|\bfunction\s+(\w+)\s*\(\s*(\w+)(?:\s*:\s*string)?\s*\)`), []string{"process.env["}},
	".py": {lazy.New(`(?m)^def[ \t]+(\w+)\(\s*(\w+)(?:\s*:\s*str)?\s*\)`), []string{"environ[", "os.environ.get(", "os.getenv("}},
}

// reach is how far behind its name such a function says what it does.
const reach = 300

// ownReaders finds the calls of functions of a file's own that do nothing but ask the environment for the key that
// they are given.
func ownReaders(ending string, code []byte) (all []*regexp.Regexp) {
	if kin(ending, ".ts") {
		ending = ".js"
	}
	by, known := readers[ending]
	if !known || !bytes.Contains(code, []byte("env")) {
		return nil
	}
	for _, m := range by.found.FindAll(code) {
		if m[2] < 0 { // written the other way
			m = append(m[:2], m[6:]...)
		}
		name, text := code[m[2]:m[3]], code[m[4]:m[5]]
		body := code[m[1]:min(len(code), m[1]+reach)]
		if slices.ContainsFunc(by.asks, func(ask string) bool {
			_, behind, asks := bytes.Cut(body, append([]byte(ask), text...))
			return asks && len(behind) > 0 && (behind[0] == ']' || behind[0] == ')')
		}) {
			all = append(all, regexp.MustCompile(`\b`+regexp.QuoteMeta(string(name))+`\(\s*["']([A-Z][A-Z0-9_]+)["']\s*\)`))
		}
	}
	return all
}
