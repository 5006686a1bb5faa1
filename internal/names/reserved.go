package names

import (
	_ "embed"
	"slices"
	"strings"
	"sync"
)

//go:embed reserved.txt
var reservedText string

var reserved = sync.OnceValue(func() map[string][]string {
	all := map[string][]string{}
	for line := range strings.Lines(reservedText) {
		if list, words, found := strings.Cut(line, ":"); found && !strings.HasPrefix(line, "#") {
			all[list] = strings.Fields(words)
		}
	}
	return all
})

// languages are the names of those whose lists are known, as people write them.
var languages = map[string]string{
	"csharp": "C#", "dart": "Dart", "go": "Go", "java": "Java", "javascript": "JavaScript", "kotlin": "Kotlin", "php": "PHP", "python": "Python", "ruby": "Ruby", "rust": "Rust", "swift": "Swift",
}

// IsReserved says whether there is a list of that name, such as keywords/python or modules/go.
func IsReserved(list string) bool { return reserved()[list] != nil }

// Reserved says why a word of a list cannot be used, or "" where it is not in the list.
func Reserved(list, word string) string {
	if !slices.Contains(reserved()[list], word) {
		return ""
	}
	kind, language, _ := strings.Cut(list, "/")
	if kind == "keywords" {
		return "a keyword of " + languages[language]
	}
	return "a module that comes with " + languages[language]
}
