package rules

import (
	"bytes"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/lazy"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
)

// ofSharp are types that the namespaces give which a project of .NET imports without a word, and
// that people call their own types, too (.NET, "Implicit using directives").
var ofSharp = lang.SetOf(`Action Activator Array Attribute Buffer Char Comparison Console Convert Converter DateTime Delegate Directory
	Endpoint Enum Environment Event EventArgs Exception File Func Group Guid Half Host Index Lazy List Lock Math Match Monitor Nullable Object
	Page Parallel Path Predicate Progress Queue Random Range Record Request Response Result Results Route Set Stack Stream String Task Thread
	Timer Tuple Type Uri Version Volatile`)

// importsAlone finds that a project of .NET asks for namespaces without a word.
var importsAlone = lazy.New(`<ImplicitUsings>\s*(?:enable|true)\b`)

// withoutWord are the namespaces that a project of .NET imports without a word where it asks for that, one of the web
// among them (.NET, "Implicit using directives").
var withoutWord = strings.Fields(`System System.IO System.Linq System.Net.Http System.Net.Http.Json System.Threading System.Threading.Tasks
	System.Collections.Generic Microsoft.AspNetCore.Builder Microsoft.AspNetCore.Hosting Microsoft.AspNetCore.Http Microsoft.AspNetCore.Routing
	Microsoft.Extensions.Configuration Microsoft.Extensions.DependencyInjection Microsoft.Extensions.Hosting Microsoft.Extensions.Logging`)

// visibleIn gives the namespaces whose types a file of C# sees: its own with those around it, what it
// imports, and what all files of its project import (C# specification, "Using directives").
func (g *givers) visibleIn(at string, said *refs.File) map[string]bool {
	if g.seenFrom == at {
		return g.seen
	}
	seen := map[string]bool{}
	g.seenFrom, g.seen = at, seen
	for _, p := range said.Of(refs.Package) {
		for name := p.Name; name != ""; name = keyAbove(name) {
			seen[name] = true
		}
	}
	for _, r := range said.Of(refs.Import) {
		seen[r.Name] = true
	}
	for name := range g.givenToAll() {
		seen[name] = true
	}
	return seen
}

// givenToAll gives the namespaces that some file imports for all others, in code or in a project file.
func (g *givers) givenToAll() map[string]bool {
	if g.global != nil {
		return g.global
	}
	g.global = map[string]bool{}
	g.Graph.Look().Each(func(at string) {
		switch ending := path.Ext(at); {
		case ending == ".cs" && bytes.Contains(g.textOf(at), []byte("global using")):
			for _, r := range g.refsOf(at).Of(refs.Import) {
				g.global[r.Name] = true
			}
		case ending == ".csproj" || ending == ".props" || ending == ".targets":
			if importsAlone.Match(g.textOf(at)) {
				for _, name := range withoutWord {
					g.global[name] = true
				}
			}
			for _, r := range g.refsOf(at).Of(refs.Key) {
				if strings.HasSuffix(r.Name, "ItemGroup.Using.@Include") {
					g.global[r.Value] = true
				}
			}
		}
	})
	return g.global
}

// seesInSharp says whether a file of C# sees a type of another, or may: where its name may mean
// something else, too, it does.
func (g *givers) seesInSharp(at string, said *refs.File, to, name string) bool {
	spaces := g.refsOf(to).Of(refs.Package)
	extends := bytes.Contains(g.Graph.Code(to), []byte("."+name)) // what it is made of has its name
	if len(spaces) != 1 || extends || ofSharp()[name] || taken(said, name) || !g.standsAsType(g.Graph.Code(at), name) {
		return true
	}
	return g.visible(at, said, spaces[0].Name)
}

// visible says whether a file of C# sees a namespace, whose name may be cut short in one around it.
func (g *givers) visible(at string, said *refs.File, there string) bool {
	for seen := range g.visibleIn(at, said) {
		if seen == there || strings.HasSuffix(there, "."+seen) && !strings.Contains(seen, firstPart(there, ".")) {
			return true
		}
	}
	return false
}

// Where only a type can stand: made or asked for by name, as a base, as an argument of a type, and
// before the name of what is of it.
var (
	madeBefore   = lazy.New(`(?:\bnew\s|\b(?:typeof|is|as)[ (]\s*)\s*$`)
	baseBefore   = lazy.New(`\b(?:class|record|interface|struct)\s[^{;]*[:,]\s*$`)
	amongBefore  = lazy.New(`\w<(?:[\w.<>?\[\]]+,\s*)*$`)
	amongBehind  = lazy.New(`^[?\[\]]*(?:,\s*[\w.<>?\[\]]+)*>`)
	memberBefore = lazy.New(`(?:^|[({,;}\]]|\b(?:public|private|protected|internal|readonly|static|required|this|virtual|override|async|sealed|in|out|ref|params))\s*$`)
	namedBehind  = lazy.New(`^[?\[\]]*\s+[A-Za-z_]\w*`)
	askBehind    = lazy.New(`^\s+(?:is|as|in|and|or|when|switch|with)\b`)
)

// standsAsType says whether a name stands once where only a type can. What has a dot behind it may be
// a member of the same name, unless the name is of several words and nothing here is a member of it.
func (g *givers) standsAsType(code []byte, name string) bool {
	return slices.ContainsFunc(lang.Words(code, name), func(i int) bool {
		line := code[bytes.LastIndexByte(code[:i], '\n')+1 : i]
		behind := code[i+len(name):]
		switch {
		case bytes.HasSuffix(bytes.TrimSpace(line), []byte(".")):
			return false
		case bytes.HasPrefix(behind, []byte(".")):
			return strings.ToLower(name[2:]) != name[2:] && len(g.members(name)) == 0
		}
		return madeBefore.Match(line) || baseBefore.Match(line) || amongBefore.Match(line) && amongBehind.Match(behind) ||
			memberBefore.Match(line) && namedBehind.Match(behind) && !askBehind.Match(behind)
	})
}

// memberOf finds what stands behind a word, as a member or a variable behind its type.
var memberOf = lazy.New(`(\w+|[>?\]])\s+(\w+)\s*(?:<[\w, ]+>\s*)?(?:\{|=>|[;=(,)])`)

// noTypesOf are words that stand before a name that is no member.
var noTypesOf = lang.SetOf("class interface struct record enum namespace new return throw await is as in")

// members lists the files of C# that have a member or a variable of a name.
func (g *givers) members(name string) []string {
	if g.sharp == nil {
		g.sharp = map[string][]string{}
		g.Graph.Look().Each(func(at string) {
			if path.Ext(at) != ".cs" {
				return
			}
			for _, m := range memberOf.Get().FindAllSubmatch(g.Graph.Code(at), -1) {
				if all := g.sharp[string(m[2])]; !noTypesOf()[string(m[1])] && !slices.Contains(all, at) {
					g.sharp[string(m[2])] = append(all, at)
				}
			}
		})
	}
	return g.sharp[name]
}

var (
	extends   = lazy.New(`(?m)^\s*(?:(?:public|internal|static|async|partial)\s+)+[\w<>.?\[\], ]+?\s(\w+)\s*(?:<[^()]*>)?\(\s*this\s`)
	callsName = lazy.New(`\.\s*(\w+)\s*(?:<[^()<>]*>)?\(`)
)

// extensions lists the files that declare an extension method, by its name.
func (g *givers) extensions() map[string][]string {
	if g.extending == nil {
		g.extending = map[string][]string{}
		g.Graph.Look().Each(func(at string) {
			if path.Ext(at) != ".cs" || g.lends(at) || !bytes.Contains(g.textOf(at), []byte("(this ")) {
				return
			}
			for _, m := range extends.Get().FindAllSubmatch(g.Graph.Code(at), -1) {
				if all := g.extending[string(m[1])]; !slices.Contains(all, at) {
					g.extending[string(m[1])] = append(all, at)
				}
			}
		})
	}
	return g.extending
}

// tellExtensions tells of extension methods that a file calls without the namespace that has them,
// where one file alone declares a method of that name. What others have may have it, too, where its
// name is not of several words.
func (g *givers) tellExtensions(at string, said *refs.File) {
	if path.Ext(at) != ".cs" || len(g.extensions()) == 0 {
		return
	}
	code := g.Graph.Code(at)
	for _, m := range callsName.Get().FindAllSubmatchIndex(code, -1) {
		name := string(code[m[2]:m[3]])
		files := g.extensions()[name]
		if len(files) != 1 || files[0] == at || strings.ToLower(name[1:]) == name[1:] || isTest(files[0]) && !isTest(at) {
			continue
		}
		if slices.ContainsFunc(g.members(name), func(f string) bool { return f != files[0] }) {
			continue
		}
		spaces := g.refsOf(files[0]).Of(refs.Package)
		if len(spaces) != 1 || g.visible(at, said, spaces[0].Name) {
			continue
		}
		f := g.atName(at, lang.At(m[2], m[3]), files[0], "it calls %s and does not import its namespace; %s gives that", name, g.Top.Path()+files[0])
		f.Fix = g.importingType(at, said, files[0], name)
		return
	}
}
