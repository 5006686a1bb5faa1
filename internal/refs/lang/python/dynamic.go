package python

import (
	"bytes"
	"slices"
	"strings"

	"dicaxon/internal/refs/lang"
)

// dynamic are names by which a text gives others that it does not hold; of what begins as lazy does, too. They are
// looked for one by one, since an expression for them all takes many times as long.
var dynamic = strings.Fields("__getattr__ globals vars setattr exec eval locals sys.modules meta_path __path__ __import__ import_module extend_path global_enum _convert_ attach")

// isDynamic says whether a text gives names that it does not hold.
func isDynamic(text []byte) bool {
	return slices.ContainsFunc(dynamic, func(name string) bool { return lang.HasWord(text, name) }) ||
		hasBeginning(text, "lazy") || hasBeginning(text, "_lazy") || importsAll(text)
}

// hasBeginning says whether a word of a text begins so.
func hasBeginning(text []byte, beginning string) bool {
	for i := range lang.Every(text, beginning) {
		if i == 0 || !lang.WordByte(text[i-1]) {
			return true
		}
	}
	return false
}

// farthestAll is how far behind the word the sign for all of a module stands.
const farthestAll = 80

// importsAll says whether a text imports all that a module has.
func importsAll(text []byte) bool {
	const word = "import"
	for i := range lang.Every(text, word) {
		at := i + len(word)
		after := bytes.TrimLeft(text[at:min(len(text), at+farthestAll)], " \t\r\n")
		after = bytes.TrimLeft(bytes.TrimPrefix(after, []byte("(")), " \t\r\n")
		if bytes.HasPrefix(after, []byte("*")) {
			return true
		}
	}
	return false
}
