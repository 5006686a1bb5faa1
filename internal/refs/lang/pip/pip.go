// Package pip reads lists of requirements as pip does, PEP 508.
package pip

import (
	"path"
	"strings"

	"dicaxon/internal/lazy"
	"dicaxon/internal/refs/lang"
)

// IsList says whether a file of that path is a list of requirements, by the names that
// people give them: requirements.txt, dev-requirements.in, requirements/base.txt.
func IsList(name string) bool {
	ending := path.Ext(name)
	if ending != ".txt" && ending != ".in" {
		return false // asked of every file: most end here
	}
	stem := strings.TrimSuffix(path.Base(name), ending)
	return strings.HasPrefix(stem, "requirements") || strings.HasSuffix(stem, "requirements") || path.Base(path.Dir(name)) == "requirements"
}

// Language is a list of requirements: the value is the constraint, and a further
// list that is included is a Path.
var Language = lang.Language{Read: read, Resolve: resolve}

var requirement = lazy.New(`^\s*([A-Za-z0-9](?:[A-Za-z0-9._-]*[A-Za-z0-9])?)\s*(?:\[[^\]]*\])?\s*([^;#]*)`)

func read(text []byte) lang.File {
	var f lang.File
	for start := 0; start < len(text); {
		end := start + lang.LineLength(text[start:])
		line := string(text[start:end])
		trimmed := strings.TrimSpace(line)
		for _, option := range []string{"-r ", "--requirement ", "-c ", "--constraint ", "-r", "-c"} {
			if rest, ok := strings.CutPrefix(trimmed, option); ok && !strings.HasPrefix(rest, "-") {
				rest, _, _ = strings.Cut(strings.TrimSpace(rest), " ")
				if i := strings.Index(line, rest); rest != "" && i >= 0 {
					f.Refs = append(f.Refs, lang.Ref{Kind: lang.Path, Name: rest, Span: lang.At(start+i, start+i+len(rest))})
				}
				break
			}
		}
		if m := requirement.Get().FindStringSubmatchIndex(line); m != nil {
			r := lang.Ref{Kind: lang.Import, Name: line[m[2]:m[3]], Value: strings.TrimSpace(line[m[4]:m[5]]), Span: lang.At(start+m[2], start+m[3])}
			r.ValueSpan = lang.At(start+m[4], start+m[4]+len(strings.TrimRight(line[m[4]:m[5]], " \t\r")))
			f.Refs = append(f.Refs, r)
		}
		start = end + 1
	}
	return f
}

func resolve(l *lang.Look, from string, ref lang.Ref) lang.Answer {
	if ref.Kind != lang.Path || strings.Contains(ref.Name, "://") || strings.Contains(ref.Name, "$") {
		return lang.Answer{}
	}
	answer := l.Relative(from, ref.Name)
	answer.Own, answer.Fails = !strings.HasPrefix(answer.Sought[0], ".."), true
	return answer
}
