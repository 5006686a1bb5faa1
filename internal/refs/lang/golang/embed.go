package golang

import (
	"path"
	"slices"
	"strconv"
	"strings"

	"dicaxon/internal/lazy"
	"dicaxon/internal/refs/lang"
)

// embedding is a line that names the files whose text goes into the program, and embedded
// one of their patterns (package embed).
var (
	embedding = lazy.New(`(?m)^//go:embed[ \t]+([^\r\n]+)`)
	embedded  = lazy.New("`[^`]*`" + `|"(?:[^"\\]|\\.)*"|\S+`)
)

// embeds gives the patterns that a file embeds, as paths.
func embeds(text []byte) []lang.Ref {
	var all []lang.Ref
	for _, m := range embedding.FindAll(text) {
		for _, at := range embedded.Get().FindAllIndex(text[m[2]:m[3]], -1) {
			start, name := m[2]+at[0], string(text[m[2]+at[0]:m[2]+at[1]])
			r := lang.Ref{Kind: lang.Path, Name: name, Span: lang.At(start, start+len(name))}
			if plain, err := strconv.Unquote(name); err == nil {
				r.Name, r.Quote, r.Span = plain, name[0], lang.At(start+1, start+len(name)-1)
			}
			all = append(all, r)
		}
	}
	return all
}

// generating is a line by which go generate runs a program of the module (go help generate).
var generating = lazy.New(`(?m)^//go:generate[ \t]+go[ \t]+run[ \t]+(?:-\S+[ \t]+)*(\.{1,2}/[\w./-]*\w)(?:[ \t\r]|$)`)

// generators gives the programs that a file has go generate run, as paths.
func generators(text []byte) []lang.Ref {
	var all []lang.Ref
	for _, m := range generating.FindAll(text) {
		all = append(all, lang.Ref{Kind: lang.Path, Name: string(text[m[2]:m[3]]), Value: lang.Program, Span: lang.At(m[2], m[3])})
	}
	return all
}

// programAt looks such a program up from the folder of the file.
func programAt(l *lang.Look, from string, ref lang.Ref) lang.Answer {
	at := path.Join(path.Dir(from), ref.Name)
	if to := l.There(at); to != nil || strings.HasPrefix(at, "..") {
		return lang.Answer{To: to}
	}
	return lang.Answer{Own: true, Fails: true, Elsewhere: true, Sought: []string{at}}
}

// embeddedAt looks a pattern up below the folder of the file, as package embed does. What
// is absent may be written before the program is built.
func embeddedAt(l *lang.Look, from string, ref lang.Ref) lang.Answer {
	name := strings.TrimPrefix(ref.Name, "all:")
	if strings.HasPrefix(name, "/") || slices.Contains(strings.Split(name, "/"), "..") {
		return lang.Answer{} // no pattern of package embed
	}
	at := path.Join(path.Dir(from), name)
	if strings.ContainsAny(name, `*?[\`) {
		folder := path.Dir(at)
		if strings.ContainsAny(folder, `*?[\`) || slices.ContainsFunc(l.Names(folder), func(n string) bool {
			fits, _ := path.Match(path.Base(name), n)
			return fits
		}) {
			return lang.Answer{To: l.There(folder), How: lang.Likely}
		}
		if !strings.ContainsAny(folder, `*?[\`) && !l.IsFolder(folder) { // the build stops, unless it is written before
			return lang.Answer{Own: true, Fails: true, Elsewhere: true, Near: true, Sought: []string{folder}}
		}
		return lang.Answer{}
	}
	if to := l.There(at); to != nil {
		return lang.Answer{To: to}
	}
	return lang.Answer{Own: true, Fails: true, Elsewhere: true, Sought: []string{at}}
}
