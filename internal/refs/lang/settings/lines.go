package settings

import (
	"strings"

	"dicaxon/internal/lazy"
	"dicaxon/internal/refs/lang"
)

var envLine = lazy.New(`^\s*(?:export\s+)?([A-Za-z_][A-Za-z0-9_.]*)\s*=\s*(.*?)\s*$`)

// readEnv reads an environment file: a key, "=" and a value on each line.
func readEnv(text []byte) lang.File {
	s := settings{text: text, at: lang.LinesOf(text)}
	for start := 0; start < len(text); {
		end := start + lang.LineLength(text[start:])
		line := string(text[start:end])
		if m := envLine.Get().FindStringSubmatchIndex(line); m != nil {
			value := line[m[4]:m[5]]
			from := start + m[4]
			if n := len(value); n >= 2 && (value[0] == '"' || value[0] == '\'') && value[n-1] == value[0] {
				value, from = value[1:n-1], from+1
			} else if before, _, cut := strings.Cut(value, " #"); cut {
				value = strings.TrimSpace(before)
			}
			s.add(lang.At(start+m[2], start+m[3]), line[m[2]:m[3]], value, lang.At(from, from+len(value)))
		}
		start = end + 1
	}
	return s.file
}

var (
	section = lazy.New(`^\[([^\]\n]+)\]\s*$`)
	iniLine = lazy.New(`^([A-Za-z_][\w.%-]*)\s*[=:]\s*(.*?)\s*$`)
	iniItem = lazy.New(`^[ \t]+([^\s#;].*?)\s*$`)
)

// readINI reads sections of keys as Python's configparser has them: a line that is indented goes on
// with the value above it, and is one item of it here.
func readINI(text []byte) lang.File {
	s := settings{text: text, at: lang.LinesOf(text)}
	in, key := "", ""
	for start := 0; start < len(text); {
		end := start + lang.LineLength(text[start:])
		line := string(text[start:end])
		if m := section.Get().FindStringSubmatch(line); m != nil {
			in, key = m[1], ""
		} else if m := iniLine.Get().FindStringSubmatchIndex(line); m != nil {
			key = under(in, line[m[2]:m[3]])
			s.add(lang.At(start+m[2], start+m[3]), key, line[m[4]:m[5]], lang.At(start+m[4], start+m[5]))
		} else if m := iniItem.Get().FindStringSubmatchIndex(line); m != nil && key != "" {
			s.add(lang.Span{}, key, line[m[2]:m[3]], lang.At(start+m[2], start+m[3]))
		}
		start = end + 1
	}
	return s.file
}
