package web

import (
	"path"
	"strings"

	"dicaxon/internal/refs/lang"
)

// CSS is a style sheet, plain or in one of the languages that compile to one.
var CSS = lang.Language{Endings: []string{".css", ".scss"}, Read: css.Read, Resolve: resolveStyle, Patterns: &css}

var css = lang.Patterns{
	Lexis: lang.Lexis{Block: [][2]string{{"/*", "*/"}}, Strings: []lang.Quote{{Open: `"`, Close: `"`, Escape: true}, {Open: "'", Close: "'", Escape: true}}},
	Statements: []lang.Statement{
		lang.Says(lang.Import, "@import @use @forward", `@(?:import|use|forward)\s+(?:url\(\s*)?`+lang.StringText),
		lang.Says(lang.Link, "url(", `\burl\(\s*`+lang.StringText),
		lang.Says(lang.Link, "url(", `\burl\(\s*(?P<name>[^\s"')]+)\s*\)`),
	},
}

// resolveStyle looks up what a style sheet loads. An import without an ending may
// be a partial; what comes from a compiled sheet is read from elsewhere.
func resolveStyle(l *lang.Look, from string, ref lang.Ref) lang.Answer {
	if ref.Kind == lang.Link {
		answer := resolve(l, from, ref)
		answer.Own = answer.Own && path.Ext(from) == ".css"
		return answer // a server may give the sheet another address
	}
	name := ref.Name
	if strings.ContainsAny(name, ":~$#{}?*") || strings.HasPrefix(name, "/") {
		return lang.Answer{}
	}
	at := path.Join(path.Dir(from), name)
	dir, base := path.Split(at)
	answer := lang.Answer{Sought: []string{at}, Fails: path.Ext(from) != ".css", Own: strings.HasPrefix(name, ".") && !strings.HasPrefix(at, "..")}
	for _, ending := range []string{"", ".scss", ".css", ".sass", ".less"} {
		answer.Sought = append(answer.Sought, at+ending, path.Join(dir, "_"+base+ending), path.Join(at, "_index"+ending), path.Join(at, "index"+ending))
	}
	if answer.To = l.First(answer.Sought...); answer.To == nil && !answer.Own && answer.Fails {
		// It may be looked for in other folders, too: only a near name is told.
		answer.Own, answer.Near = true, true
		answer.Sought = append([]string{path.Join(dir, "_"+strings.TrimPrefix(base, "_")+".scss")}, answer.Sought...)
	}
	return answer
}
