// Package dbt reads the SQL templates of dbt, and looks their models and sources
// up.
package dbt

import (
	"maps"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/lazy"
	"dicaxon/internal/refs/lang"
)

// Language is a SQL template: Jinja's comments are no code, but what stands in a
// comment of SQL is still filled in.
var Language = lang.Language{Endings: []string{".sql"}, Read: read, Resolve: resolve, Lexis: &template}

var template = lang.Lexis{Block: [][2]string{{"{#", "#}"}}}

var (
	sourceCall = lazy.New(`\bsource\(\s*["']([^"']+)["']\s*,\s*["']([^"']+)["']\s*\)`)
	refCall    = lazy.New(`\bref\(\s*["']([^"']+)["'](?:\s*,\s*["']([^"']+)["'])?([^)]*)`)
)

// read gives the source and ref calls: of a source the name is "source.table".
func read(text []byte) lang.File {
	code, broken := template.Scrub(text)
	var f lang.File
	if broken >= 0 {
		f.Broken = "a comment does not end"
		f.BrokenLine, _ = lang.LinesOf(text).At(broken)
	}
	for _, m := range sourceCall.FindAll(code) {
		f.Refs = append(f.Refs, lang.Ref{Kind: lang.Source, Name: string(code[m[2]:m[3]]) + "." + string(code[m[4]:m[5]]), Span: lang.At(m[4], m[5]), Value: string(code[m[2]:m[3]]), ValueSpan: lang.At(m[2], m[3]), Quote: code[m[4]-1]})
	}
	for _, m := range refCall.FindAll(code) {
		r := lang.Ref{Kind: lang.Model, Name: string(code[m[2]:m[3]]), Span: lang.At(m[2], m[3]), Quote: code[m[2]-1]}
		if m[4] >= 0 { // ref('package', 'model')
			r.Value, r.ValueSpan = r.Name, r.Span
			r.Name, r.Span = string(code[m[4]:m[5]]), lang.At(m[4], m[5])
		}
		r.Guarded = strings.Contains(string(code[m[6]:m[7]]), "v")
		f.Refs = append(f.Refs, r)
	}
	return f
}

// resolve finds the template, seed or snapshot that a ref call names, and the
// declaration of a source.
func resolve(l *lang.Look, from string, ref lang.Ref) lang.Answer {
	if strings.ContainsAny(ref.Name, "{}") {
		return lang.Answer{}
	}
	_, project := l.Nearest(from, "dbt_project.yml")
	answer := lang.Answer{Own: project != "", Fails: true}
	_, packages := l.Nearest(from, "packages.yml", "dependencies.yml")
	answer.Elsewhere = packages != ""
	if ref.Kind == lang.Source {
		answer.To = declared(l).sources[ref.Name]
		answer.Elsewhere = answer.Elsewhere && !declared(l).names[ref.Value]
		answer.Sought = []string{ref.Name}
		return answer
	}
	for _, f := range l.Called(ref.Name) {
		if ending := path.Ext(f); (ending == ".sql" || ending == ".csv" || ending == ".py") && searched(l, f) {
			answer.To = append(answer.To, f)
		}
	}
	answer.Sought = []string{path.Join(path.Dir(from), ref.Name+".sql")}
	if len(answer.To) == 0 && (ref.Value != "" || slices.Contains(declared(l).snapshots, ref.Name) || made(l, ref.Name)) {
		return lang.Answer{}
	}
	return answer
}

// searched says whether a file lies where the project's settings have models, seeds
// and snapshots looked for.
func searched(l *lang.Look, at string) bool {
	folder, settings := l.Nearest(at, "dbt_project.yml")
	if settings == "" {
		return true
	}
	roots := lang.Once(l, "dbt roots "+settings, func() []string {
		var all []string
		f := l.Of(settings)
		for _, kind := range [][]string{{"model-paths", "source-paths", "models"}, {"seed-paths", "data-paths", "seeds"}, {"snapshot-paths", "snapshots"}, {"test-paths", "tests"}, {"analysis-paths", "analyses"}} {
			found := false
			for _, k := range f.Of(lang.Key) {
				if at := path.Join(folder, k.Value); slices.Contains(kind[:len(kind)-1], k.Name) && k.Value != "" && l.IsFolder(at) {
					all, found = append(all, at), true
				}
			}
			// Of a path that is not there the settings are told, and not each model that lies where it was.
			if !found {
				all = append(all, path.Join(folder, kind[len(kind)-1]))
			}
		}
		return all
	})
	return slices.ContainsFunc(roots, func(root string) bool { return strings.HasPrefix(at, root+"/") })
}

// A declaration is what the settings of the project declare.
type declaration struct {
	sources   map[string][]string // "source.table" to where it is declared
	names     map[string]bool     // of the sources
	snapshots []string
}

func declared(l *lang.Look) declaration {
	return lang.Once(l, "dbt declared", func() declaration {
		d := declaration{sources: map[string][]string{}, names: map[string]bool{}}
		l.Each(func(at string) {
			if ending := path.Ext(at); ending != ".yml" && ending != ".yaml" {
				return
			}
			source := ""
			for _, k := range l.Of(at).Of(lang.Key) {
				switch k.Name {
				case "sources.name":
					source = k.Value
					d.names[source] = true
				case "sources.tables.name":
					d.sources[source+"."+k.Value] = []string{at}
				case "snapshots.name", "unit_tests.model":
					d.snapshots = append(d.snapshots, k.Value)
				}
			}
		})
		return d
	})
}

// Sources lists the tables outside that the project declares, as "source.table".
func Sources(l *lang.Look) []string { return slices.Sorted(maps.Keys(declared(l).sources)) }

// made says whether the name is one that a template of the project gives: a
// snapshot block, or an alias.
func made(l *lang.Look, name string) bool {
	found := false
	l.Each(func(at string) {
		if path.Ext(at) == ".sql" && !found {
			text := l.TextOf(at)
			found = lang.HasWord(text, "snapshot "+name) || lang.HasWord(text, "alias='"+name) || lang.HasWord(text, `alias="`+name)
		}
	})
	return found
}
