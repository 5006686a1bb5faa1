package lang

import (
	"regexp"
	"strings"
)

// Matches gives what a statement finds from word to word.
var Matches = (*Statement).matches

// Everywhere gives the pattern of a statement to be tried at every place, nil for
// one that is anyhow.
func Everywhere(s *Statement) *regexp.Regexp {
	if len(s.words) == 0 {
		return nil
	}
	return regexp.MustCompile("(?m)" + strings.TrimSuffix(strings.TrimPrefix(s.pattern.Get().String(), `(?m)\A(?:`), ")"))
}
