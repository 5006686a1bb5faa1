package names

import (
	"fmt"
	"strings"
	"unicode"

	"golang.org/x/text/unicode/norm"
)

// longest is how many bytes a name has at most on the file systems that people use.
const longest = 255

// devices are names that Windows keeps for itself, with any ending (Microsoft, "Naming
// Files, Paths, and Namespaces").
var devices = []string{"con", "prn", "aux", "nul", "conin$", "conout$"}

// Unportable says why some system cannot hold a name, as the end of a sentence, "" where
// all can.
func Unportable(name string) string {
	stem, _, _ := strings.Cut(strings.ToLower(name), ".")
	stem = strings.TrimRight(stem, " ")
	switch {
	case len(name) > longest:
		return fmt.Sprintf("is too long: %d bytes, of %d at most", len(name), longest)
	case strings.ContainsFunc(name, func(r rune) bool { return r == unicode.ReplacementChar || !unicode.IsPrint(r) }):
		return "holds a character that nobody sees"
	case strings.ContainsAny(name, `<>:"|?*\`):
		return `holds one of <>:"|?*\, which no name on Windows may`
	case strings.HasSuffix(name, ".") || strings.HasSuffix(name, " "):
		return "ends in a dot or a space, which Windows drops"
	}
	for _, device := range devices {
		if stem == device {
			return "is a device on Windows"
		}
	}
	if n := len(stem); n == 4 && (stem[:3] == "com" || stem[:3] == "lpt") && '0' <= stem[3] && stem[3] <= '9' {
		return "is a device on Windows"
	}
	return ""
}

// Folded gives what stands for a path on a disk that is blind to case and to the form of
// composed characters: two paths with the same one are one there.
func Folded(path string) string { return strings.ToLower(norm.NFC.String(path)) }
