// Package dotnet reads C#, ECMA-334, 14, and looks namespaces up by what the
// files of the project declare.
package dotnet

import (
	"path"
	"strings"

	"dicaxon/internal/refs/lang"
)

// Language is C#.
var Language = lang.Language{Endings: []string{".cs"}, Read: patterns.ReadTypes, Resolve: resolve, Patterns: &patterns}

var patterns = lang.Patterns{
	Lexis: lang.Lexis{Line: []string{"//", "#region", "#endregion"}, Block: [][2]string{{"/*", "*/"}}, Strings: []lang.Quote{
		{Open: `"""`, Close: `"""`, Escape: true, Lines: true}, {Open: `@"`, Close: `"`, Lines: true}, {Open: `$@"`, Close: `"`, Lines: true},
		{Open: `"`, Close: `"`, Escape: true}, {Open: "'", Close: "'", Escape: true}}},
	Statements: []lang.Statement{
		lang.Says(lang.Package, "namespace", `^[ \t]*namespace\s+(?P<name>[\w.]+)\s*[;{]`),
		lang.Says(lang.Import, "using", lang.AtStart+`(?:global\s+)?using\s+(?:static\s+)?(?:(?P<what>\w+)\s*=\s*)?(?:global::)?(?P<name>[\w.]+)\s*;`),
		lang.Says(lang.Type, "class interface struct enum record", `^[ \t]*(?:(?:public|internal|private|protected|abstract|static|sealed|partial|readonly|ref|file)[ \t]+)*(?:class|interface|struct|enum|record(?:[ \t]+(?:class|struct))?)[ \t]+(?P<name>\w+)`),
		lang.Says(lang.Type, "delegate", `^[ \t]*(?:(?:public|internal|private|protected|unsafe)[ \t]+)*delegate[ \t]+[\w.<>?\[\], ]+?[ \t](?P<name>\w+)[ \t]*(?:<[^()\n]*>)?\(`),
	},
}

// resolve takes namespaces to follow folders, below the folder of the project,
// and else finds them where a file declares them.
func resolve(l *lang.Look, _ string, ref lang.Ref) lang.Answer {
	known := lang.Once(l, "dotnet spaces", func() [2]any {
		all, around := map[string][]string{}, map[string]string{}
		l.Each(func(at string) {
			if path.Ext(at) != ".cs" {
				return
			}
			f := l.Of(at)
			for _, p := range namespaces(f) {
				all[p.Name] = append(all[p.Name], at)
				for _, t := range f.Of(lang.Type) {
					all[p.Name+"."+t.Name] = append(all[p.Name+"."+t.Name], at)
				}
				// A namespace is in each of those around it, whose folders lie around its own.
				dir, follows := path.Dir(at), true
				for name := p.Name; strings.Contains(name, "."); {
					cut := strings.LastIndexByte(name, '.')
					follows = follows && path.Base(dir) == name[cut+1:]
					name, dir = name[:cut], path.Dir(dir)
					if all[name] == nil {
						all[name] = []string{}
					}
					if follows && around[name] == "" {
						around[name] = dir
					}
				}
			}
		})
		return [2]any{all, around}
	})
	spaces, around := known[0].(map[string][]string), known[1].(map[string]string)
	if found := l.FoldersEnding(strings.ReplaceAll(ref.Name, ".", "/")); len(found) > 0 {
		return lang.Answer{To: found, How: lang.Convention}
	}
	if found, known := spaces[ref.Name]; known {
		if dir := around[ref.Name]; len(found) == 0 && dir != "" { // others lie in it
			found = []string{dir}
		}
		return lang.Answer{To: found, How: lang.Convention}
	}
	if cut := strings.LastIndexByte(ref.Name, '.'); cut > 0 && len(spaces[ref.Name[:cut]]) > 0 && !has(l, spaces[ref.Name[:cut]], ref.Name[:cut]) {
		return lang.Answer{To: spaces[ref.Name[:cut]], How: lang.Convention} // a type within a type
	}
	if !roots(l)[firstOf(ref.Name)] || generated(l) {
		return lang.Answer{}
	}
	// The nearest namespace around it that is there says where it was looked for.
	for name := ref.Name; strings.Contains(name, "."); {
		below := name[strings.LastIndexByte(name, '.')+1:]
		name = name[:strings.LastIndexByte(name, '.')]
		if files := spaces[name]; len(files) > 0 {
			return lang.Answer{Own: true, Fails: true, Sought: []string{path.Join(path.Dir(files[0]), below)}}
		}
		if dir := around[name]; dir != "" {
			return lang.Answer{Own: true, Fails: true, Sought: []string{path.Join(dir, below)}}
		}
	}
	return lang.Answer{Own: true, Fails: true, Only: true, Sought: []string{strings.ReplaceAll(ref.Name, ".", "/")}}
}

// has says whether one of the files says a namespace of a name, which is no type then.
func has(l *lang.Look, files []string, name string) bool {
	for _, at := range files {
		for _, p := range namespaces(l.Of(at)) {
			if p.Name == name {
				return true
			}
		}
	}
	return false
}

// namespaces gives the namespaces of a file, each by its whole name where one stands in another.
func namespaces(f *lang.File) []lang.Ref {
	all := f.Of(lang.Package)
	said := len(all)
	for i := range said {
		for j := i + 1; j < said; j++ {
			within := all[j]
			within.Name = all[i].Name + "." + within.Name
			all = append(all, within)
		}
	}
	return all
}

func firstOf(name string) string {
	first, _, _ := strings.Cut(name, ".")
	return first
}

// roots gives the first names of the project's own namespaces: those of its
// project files.
func roots(l *lang.Look) map[string]bool {
	return lang.Once(l, "dotnet roots", func() map[string]bool {
		all := map[string]bool{}
		l.Each(func(at string) {
			if path.Ext(at) == ".csproj" {
				all[firstOf(path.Base(at))] = true
				if k := l.Of(at).Get("Project.PropertyGroup.RootNamespace"); k != nil {
					all[firstOf(k.Value)] = true
				}
			}
		})
		delete(all, "Microsoft")
		delete(all, "System")
		return all
	})
}

// generated says whether namespaces come from files of another kind.
func generated(l *lang.Look) bool {
	return lang.Once(l, "dotnet generated", func() bool {
		found := false
		l.Each(func(at string) { found = found || path.Ext(at) == ".proto" || path.Ext(at) == ".xaml" })
		return found
	})
}
