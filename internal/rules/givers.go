package rules

import (
	"bytes"
	"maps"
	"path"
	"regexp"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
)

// givers are those who give names, found once something is in doubt.
type givers struct {
	*Call
	own            map[string][]string // by name, the modules of the project that others take it from
	others         map[string][]string // the packages
	where          map[string]string   // a file that takes it from there
	types, foreign map[string][]string // see typesOf and typesOfOthers
	global         map[string]bool     // see givenToAll
	declared       map[string]bool     // see ambientNames
	unbound        map[string][]string // by kind and name, the files; see usingUnbound
	sharp          map[string][]string // see members
	extending      map[string][]string // see extensions
	crates         map[[2]string]bool  // whether a manifest knows a crate by a name
	seenFrom       string              // the file of which visibleIn was asked last
	seen           map[string]bool     // and what it gave
	made           bool                // whether a program makes types of what the project holds
}

// mostUnbound is how many names of one file may be in doubt: of a file with more, something that
// nobody here knows gives them.
const mostUnbound = 100

// tellUnbound tells of names that a script or a module of Python uses and binds nowhere, where
// somebody is known to give them.
func (g *givers) tellUnbound(at string, said *refs.File) {
	unbound := firsts(said.Uses.Unbound)
	wired := func(f finding.Finding) bool { // how to wire what it uses is said there
		return f.Kind == finding.Unwired && f.Other != nil && f.Other.Path == g.Top.Path()+at
	}
	if len(unbound) == 0 || len(unbound) > mostUnbound || slices.ContainsFunc(g.findings, wired) || g.hands(at, said) || g.takenAsText(at) {
		return
	}
	g.gather()
	var wrong []string // what imports take that is not given
	for _, r := range said.Of(refs.Import) {
		if g.Graph.Answer(at, r).Within != "" {
			wrong = append(wrong, r.Value)
		}
	}
	known := append(g.localNames(at, said), g.givenBy(at)...)
	for _, u := range unbound {
		if kin(path.Ext(at), ".ts") && (g.ambientNames()[u.Name] || g.usedByAll(u.Name)) {
			continue
		}
		if slices.ContainsFunc(wrong, func(name string) bool { return name != u.Name && names.Near(name, u.Name) != names.Apart }) || g.tellGiven(at, said, u) {
			continue
		}
		near := nearOne(u.Name, known)
		if near == "" {
			near = g.turned(at, u)
		}
		if near == "" && path.Ext(at) == ".py" {
			near = only(known, func(one string) bool { return lastLetter(u.Name, one) || lastLetter(one, u.Name) })
		}
		switch {
		case near == u.Name:
		case near != "" && (names.Near(u.Name, near) != names.Case || names.Mistyped(u.Name, near)):
			f := g.atName(at, u.Span, "", "it uses %s, which nothing in it gives; did it mean %s?", u.Name, near)
			for _, one := range said.Uses.Unbound {
				if one.Name == u.Name {
					f.Fix = append(f.Fix, g.edit(at, one.Span, near))
				}
			}
		case path.Ext(at) == ".py" && said.Of(refs.Import) != nil && !injects(at) && !g.soElsewhere(at, u.Name):
			g.atName(at, u.Span, "", "it uses %s, which nothing in it gives", u.Name)
		}
	}
}

// lastLetter says whether a name is another one that lost its last letter, which makes a word of it that
// is not near by itself.
func lastLetter(name, whole string) bool {
	return len(name) >= surelyMistyped && len(whole) == len(name)+1 && strings.HasPrefix(whole, name)
}

// turned gives the name that a file says several times and that has two letters in another order than
// one that it says; that one itself where the other is said no more often and nobody can tell which is
// bound.
func (g *givers) turned(at string, u lang.Quoted) string {
	code := g.Graph.Code(at)
	times := timesSaid(code)
	other := only(slices.Collect(maps.Keys(times)), func(word string) bool { return names.Transposed(u.Name, word) })
	if other == "" && times[u.Name] == 1 {
		return only(slices.Collect(maps.Keys(times)), func(word string) bool { return times[word] > 1 && names.MistypedHere(u.Name, word) })
	}
	if end := int(u.Span.End); other != "" && times[other] == 1 && (end == len(code) || code[end] != '.' && code[end] != '(') && !importsName(code, other) {
		return u.Name
	}
	return other
}

// importsName says whether a name that code says once stands in the line of an import.
func importsName(code []byte, name string) bool {
	i := bytes.Index(code, []byte(name))
	start := bytes.LastIndexByte(code[:max(i, 0)], '\n') + 1
	return i >= 0 && bytes.Contains(code[start:i], []byte("import "))
}

// firsts gives the first place of each name.
func firsts(all []lang.Quoted) (first []lang.Quoted) {
	met := map[string]bool{}
	for _, q := range all {
		if !met[q.Name] {
			met[q.Name] = true
			first = append(first, q)
		}
	}
	return first
}

// tellGiven tells of a name that modules of the project give, or that others take from one package.
func (g *givers) tellGiven(at string, said *refs.File, u lang.Quoted) bool {
	all := slices.DeleteFunc(slices.Concat(g.own[u.Name], g.modulesOf(at, u.Name)), func(to string) bool {
		return to == at || !kin(path.Ext(to), path.Ext(at)) || isTest(to) && !isTest(at)
	})
	slices.Sort(all)
	all = slices.Compact(all)
	by := g.where[u.Name]
	from := sole(g.others[u.Name])
	if from != "" && slices.ContainsFunc(said.Of(refs.Import), func(r refs.Ref) bool { return strings.HasPrefix(r.Name, packageOf(from)+"/") && r.Value == "" }) {
		return true // a part of that package, loaded for what it does, may give all its names to everybody
	}
	switch {
	case len(all) == 1:
		g.atName(at, u.Span, all[0], "it uses %s and does not import it; %s gives that", u.Name, g.Top.Path()+all[0]).Fix = g.importing(at, said, u.Name, all[0])
	case len(all) > 1 && len(all) <= mostMeant:
		first := all[0]
		for i := range all {
			all[i] = g.Top.Path() + all[i]
		}
		g.atName(at, u.Span, first, "it uses %s and does not import it; %s give that", u.Name, strings.Join(all, " and "))
	case from != "" && kin(path.Ext(by), path.Ext(at)):
		g.atName(at, u.Span, by, "it uses %s and does not import it; %s has it from %s", u.Name, g.Top.Path()+by, from).Fix = g.importingOthers(at, said, u.Name, from)
	default:
		return false
	}
	return true
}

// ambientNames gives the names that declarations of the project may give every script.
func (g *givers) ambientNames() map[string]bool {
	if g.declared == nil {
		g.declared = map[string]bool{}
		g.Graph.Look().Each(func(at string) {
			if strings.HasSuffix(at, ".d.ts") {
				for _, m := range ambientName.Get().FindAllSubmatch(g.Graph.Code(at), -1) {
					g.declared[string(m[1])] = true
				}
			}
		})
	}
	return g.declared
}

// ambientName finds what a declaration of TypeScript gives a name to.
var ambientName = lazy.New(`\b(?:type|interface|class|enum|const|let|var|function|namespace|module)\s+([A-Za-z_$][\w$]*)`)

// usedByAll says whether several more scripts use a name that they bind nowhere: what starts them gives it.
func (g *givers) usedByAll(name string) bool {
	return len(g.usingUnbound(".ts", name)) > mostForgetful
}

// mostForgetful is how many scripts may have forgotten to import the same name.
const mostForgetful = 2

// soElsewhere says whether another module too uses a constant that it binds nowhere: what starts
// them gives it.
func (g *givers) soElsewhere(at, name string) bool {
	return name == strings.ToUpper(name) && slices.ContainsFunc(g.usingUnbound(".py", name), func(other string) bool {
		return other != at && !g.lends(other)
	})
}

// takenAsText says whether a file of another language imports one: it puts the text together with others, and has
// that run.
func (g *givers) takenAsText(at string) bool {
	return g.Files <= mostTurned && slices.ContainsFunc(g.Graph.To(at), func(e refs.Edge) bool {
		return e.Ref.Kind == refs.Import && refs.IsCode(e.From) && !kin(path.Ext(e.From), path.Ext(at))
	})
}

// usingUnbound lists the files of a kind that use a name which they bind nowhere.
func (g *givers) usingUnbound(kind, name string) []string {
	if g.unbound == nil {
		g.unbound = map[string][]string{}
		g.Graph.Look().Each(func(at string) {
			for _, ending := range []string{".ts", ".py"} {
				if kin(path.Ext(at), ending) {
					for _, u := range firsts(g.Graph.Noted(at).Uses.Unbound) {
						g.unbound[ending+u.Name] = append(g.unbound[ending+u.Name], at)
					}
				}
			}
		})
	}
	return g.unbound[kind+name]
}

// injects says whether a file of Python is run by something that gives it names.
func injects(at string) bool {
	base := path.Base(at)
	return isTest(base) || strings.Contains(base, "conf") || strings.Contains(base, "plugin")
}

// localNames lists what a file takes out of modules by name.
func (g *givers) localNames(at string, said *refs.File) (all []string) {
	for _, r := range said.Of(refs.Import) {
		name := r.Value
		if name == "default" {
			name = names.BeforeDot(path.Base(r.Name))
			if own := string(r.ValueSpan.In(g.textOf(at))); isName.Get().MatchString(own) && own != "default" {
				name = own
			}
		}
		if name != "" && name != "*" && !slices.Contains(all, name) {
			all = append(all, name)
		}
	}
	return all
}

// hands says whether a file may be given names that it does not say: all that another gives, or
// what a bundler puts in.
func (g *givers) hands(at string, said *refs.File) bool {
	if slices.ContainsFunc(said.Refs, func(r refs.Ref) bool { return r.Kind == refs.Import && r.Value == "*" && path.Ext(at) == ".py" }) {
		return true
	}
	_, manifest := g.Graph.Look().Nearest(at, "package.json")
	return path.Ext(at) != ".py" && manifest != "" && slices.ContainsFunc(g.refsOf(manifest).Of(refs.Key), func(k refs.Ref) bool {
		return puts.MatchString(k.Name)
	})
}

// puts is a dependency that gives modules names without an import.
var puts = lazy.New(`ependencies\.(?:unplugin-|nuxt$|@nuxt/|sails$|meteor|ember-|@umijs/|umi$|babel-plugin-auto-import|vite-plugin-|@dcloudio/|@tarojs/)`)

// gather notes what every module of the project takes by name, and from where.
func (g *givers) gather() {
	if g.own != nil {
		return
	}
	g.own, g.others, g.where = map[string][]string{}, map[string][]string{}, map[string]string{}
	g.Graph.Look().Each(func(at string) {
		if !refs.IsCode(at) || g.lends(at) {
			return
		}
		for _, e := range g.Graph.From(at) {
			r, name := e.Ref, e.Ref.Value
			if name == "default" || name == "" {
				name = names.BeforeDot(path.Base(r.Name))
			}
			if name == "*" || r.Kind != refs.Import {
				continue
			}
			switch {
			case len(e.To) == 1 && r.Value != "":
				g.own[name] = append(g.own[name], e.To[0])
			case len(e.To) == 0 && r.Value != "" && r.Value != "default" && !strings.HasPrefix(r.Name, "."):
				g.others[name] = append(g.others[name], r.Name)
				g.where[name] = at
			}
		}
	})
}

// modulesOf lists the modules that are called as a name, and give it: a script by its one export;
// and those that define it.
func (g *givers) modulesOf(at, name string) (all []string) {
	form := `export\s+(?:async\s+)?(?:function\*?|class|abstract\s+class|const|let|var|enum|interface|type)`
	if path.Ext(at) == ".py" {
		form = `(?:class|(?:async\s+)?def)`
	}
	defines := regexp.MustCompile(`(?m)^` + form + `\s+` + regexp.QuoteMeta(name) + `\b`)
	g.Graph.Look().Each(func(to string) {
		if kin(path.Ext(to), path.Ext(at)) && to != at && !g.lends(to) && g.Graph.Noted(to).Words.Has(name) && defines.Match(g.Graph.Code(to)) {
			all = append(all, to)
		}
	})
	if path.Ext(at) == ".py" {
		return all
	}
	for _, ending := range []string{".js", ".jsx", ".ts", ".tsx", ".mjs", ".vue", ".svelte"} {
		for _, to := range slices.Concat(g.standing("**/"+name+ending), g.standing("**/"+name+"/index"+ending)) {
			if text := g.textOf(to); to != at && (alone.Match(text) || ending == ".vue" || ending == ".svelte") {
				all = append(all, to)
			}
		}
	}
	return all
}

// alone is a module with one export.
var alone = lazy.New(`(?m)^export default\b|^module\.exports\s*=`)
