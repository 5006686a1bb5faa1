package rules

import (
	"path"
	"regexp"
	"slices"
	"strings"

	"dicaxon/internal/edit"
	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
)

var imported = &Rule{
	Name: "imported", Kind: finding.Dangling, Level: finding.Warning, Always: true,
	Doc: "A name that a file of JavaScript, TypeScript, Python or Go uses is bound there, and a type of the project that one of Java, Kotlin, PHP or Dart uses is seen, what it takes of a module of the project is not a slip away from what that gives, and a module that is imported is used by somebody who imports it, other than its tests.",
	Example: `- rule: imported
  except: "scripts/**"`,
	Options: []Option{{"except", Paths, false, "files in which names may come from anywhere", true}},
	Run:     runImported,
}

func runImported(c *Call) {
	from, first := &givers{Call: c}, len(c.findings)
	defer func() { // what is astray, or declares itself wrongly, is seen again once that is put right
		for i := first; i < len(c.findings); i++ {
			if f := &c.findings[i]; f.Kind == finding.Dangling {
				f.OfMove, f.Sought = true, []string{f.Path}
				if f.Other != nil {
					f.Sought = append(f.Sought, strings.TrimSuffix(f.Other.Path, "/"))
				}
			}
		}
	}()
	c.Graph.Look().Each(func(at string) {
		if !refs.IsCode(at) || strings.HasSuffix(at, ".d.ts") || c.lends(at) || c.fits("except", at) {
			return
		}
		said := c.Graph.Noted(at)
		if said.Broken != "" {
			return
		}
		if path.Ext(at) == ".go" {
			c.tellGoUses(at, said)
			return
		}
		for _, m := range said.Uses.Members {
			c.tellMember(at, said, m)
		}
		if ending := path.Ext(at); kin(ending, ".java") || ending == ".php" || ending == ".dart" {
			from.tellTypes(at, said)
			return
		}
		told := map[string]bool{}
		for _, u := range said.Uses.Unbound {
			if !told[u.Name] {
				told[u.Name] = true
				from.tell(at, said, u)
			}
		}
		for _, span := range said.Uses.Idle {
			c.tellIdle(at, said, span)
		}
	})
}

// importOf gives the import that stands at a span and the one module of the project that it leads
// to, "" where there is none.
func (c *Call) importOf(at string, said *refs.File, span refs.Span) (refs.Ref, string) {
	i := slices.IndexFunc(said.Refs, func(r refs.Ref) bool {
		return r.Kind == refs.Import && (r.Span == span || r.Value != "" && r.ValueSpan == span)
	})
	if i < 0 {
		return refs.Ref{}, ""
	}
	r := said.Refs[i]
	a := c.Graph.Answer(at, r)
	if path.Ext(at) == ".py" && r.Value != "" { // a package, and the module that is taken out of it
		if len(a.To) != 2 {
			return r, ""
		}
		a.To = a.To[1:]
	}
	if a.Within == "" && len(a.To) == 1 && a.To[0] != at && kin(path.Ext(a.To[0]), path.Ext(at)) {
		return r, a.To[0]
	}
	return r, ""
}

// takes finds what a module, or a class in it, gives a name to, however deep.
var takes = lazy.New(`(?m)exports\.(\w+)\s*=|\b(?:(?:static|function\*?|class|const|let|var|def|async|get)\s+)+(\w+)|^\s*(\w+)\s*[(:,=]`)

// tellMember tells of a name that is taken of what a module is known by, where the module does not
// say it at all and gives one that is a slip away. What it inherits is not known.
func (c *Call) tellMember(at string, said *refs.File, m lang.Member) {
	ref, to := c.importOf(at, said, m.Of)
	if path.Ext(at) == ".py" && ref.Value != "" && names.BeforeDot(path.Base(to)) != ref.Value {
		return // of a class
	}
	if to == "" || c.refsOf(to).Words.Has(m.Name) || len(m.Name) < 4 {
		return
	}
	text := c.Graph.Code(to)
	if inherits.Match(text) {
		return
	}
	var given []string
	for _, g := range takes.Get().FindAllSubmatch(text, -1) {
		given = append(given, string(g[1])+string(g[2])+string(g[3]))
	}
	near := nearOne(m.Name, given)
	sure := !c.refsOf(to).Open && ref.Value != "default" && path.Base(to) != "__init__.py" && !slices.Contains(ofAny, m.Name)
	if near == "" && !sure || near != "" && names.Near(m.Name, near) == names.Case && strings.ToUpper(near) == near {
		return
	}
	line, column := refs.Place(c.textOf(at), m.Span)
	f := c.report(at, line, column, &finding.Place{Path: to}, "it takes %s of %s, which has no such name", m.Name, cmpName(strings.Repeat(".", ref.Relative)+ref.Name, to))
	if near != "" {
		f.Message += "; did it mean " + near + "?"
		f.Fix = []edit.Edit{c.edit(at, m.Span, near)}
	}
}

// ofAny are names that every module has.
var ofAny = []string{"default", "hasOwnProperty", "toString", "valueOf", "constructor", "then", "__esModule"}

// inherits is a module that may give what its text does not say.
var inherits = lazy.New(`\bextends\b|\bObject\.|\bclass\s+\w+\s*\(\s*[\w.]|__getattr__|\bsetattr\b|\bglobals\(\)|\.\.\.|import\s*\*|export\s*\*|\bmixin|\bnew\s+Proxy|\w\s*\(\s*module\.exports|exports\s*=\s*(?:new\b|\w+\s*\()`)

// tellIdle tells of a module that nobody who imports it does anything with.
func (c *Call) tellIdle(at string, said *refs.File, span refs.Span) {
	ref, to := c.importOf(at, said, span)
	more := slices.ContainsFunc(said.Of(refs.Import), func(r refs.Ref) bool { return r.Span != span })
	if to == "" || !more || isTest(at) || c.Files > mostTurned || strings.HasSuffix(to, ".d.ts") {
		return
	}
	told := slices.ContainsFunc(c.findings, func(f finding.Finding) bool { return f.Kind == finding.Unwired && f.Path == c.Top.Path()+to })
	used := told || slices.ContainsFunc(c.Graph.To(to), func(e refs.Edge) bool {
		return !isTest(e.From) && !slices.Contains(c.refsOf(e.From).Uses.Idle, e.Ref.Span)
	})
	if used || c.refsOf(to).Of(refs.Type) == nil && !gives.Match(c.textOf(to)) {
		return
	}
	f := c.atRef(at, ref, &finding.Place{Path: to}, "it imports %s and does nothing with it; nothing else uses that", cmpName(strings.Repeat(".", ref.Relative)+ref.Name, to))
	f.Kind = finding.Unwired
}

// gives is a module that has something to offer, and is not there for what it does alone.
var gives = lazy.New(`(?m)^export\b|\bexports\b|^def |^class `)

// givers are those who give names, found once something is in doubt.
type givers struct {
	*Call
	own            map[string][]string // by name, the modules of the project that others take it from
	others         map[string][]string // the packages
	where          map[string]string   // a file that takes it from there
	types, foreign map[string][]string // see typesOf and typesOfOthers
}

// tell tells of a name that is used and bound nowhere, where somebody is known to give it.
func (g *givers) tell(at string, said *refs.File, u lang.Quoted) {
	told := slices.ContainsFunc(g.findings, func(f finding.Finding) bool { // how to wire it is said there
		return f.Kind == finding.Unwired && f.Other != nil && f.Other.Path == g.Top.Path()+at
	})
	if told || g.hands(at, said) || slices.ContainsFunc(said.Of(refs.Import), func(r refs.Ref) bool { // that import is what is wrong
		return r.Value != u.Name && sameOrNear(r.Value, u.Name) && g.Graph.Answer(at, r).Within != ""
	}) {
		return
	}
	g.gather()
	line, column := refs.Place(g.textOf(at), u.Span)
	all := slices.DeleteFunc(slices.Concat(g.own[u.Name], g.modulesOf(at, u.Name)), func(to string) bool {
		return to == at || !kin(path.Ext(to), path.Ext(at)) || isTest(to) && !isTest(at)
	})
	slices.Sort(all)
	all = slices.Compact(all)
	own := sole(all)
	if len(all) > 1 && len(all) <= mostMeant {
		for i := range all {
			all[i] = g.Top.Path() + all[i]
		}
		g.report(at, line, column, &finding.Place{Path: strings.TrimPrefix(all[0], g.Top.Path())}, "it uses %s and does not import it; %s give that", u.Name, strings.Join(all, " and "))
		return
	}
	if own != "" {
		g.report(at, line, column, &finding.Place{Path: own}, "it uses %s and does not import it; %s gives that", u.Name, g.Top.Path()+own).Fix = g.importing(at, said, u.Name, own)
		return
	}
	by := g.where[u.Name]
	if from := sole(g.others[u.Name]); from != "" && kin(path.Ext(by), path.Ext(at)) {
		f := g.report(at, line, column, &finding.Place{Path: by}, "it uses %s and does not import it; %s has it from %s", u.Name, g.Top.Path()+by, from)
		f.Fix = g.importingOthers(at, said, u.Name, from)
		return
	}
	near := nearOne(u.Name, append(localNames(said), g.givenBy(at)...))
	switch {
	case near != "" && names.Near(u.Name, near) != names.Case:
		f := g.report(at, line, column, nil, "it uses %s, which nothing in it gives; did it mean %s?", u.Name, near)
		for _, one := range said.Uses.Unbound {
			if one.Name == u.Name {
				f.Fix = append(f.Fix, g.edit(at, one.Span, near))
			}
		}
	case path.Ext(at) == ".py" && said.Of(refs.Import) != nil && !g.injects(at):
		g.report(at, line, column, nil, "it uses %s, which nothing in it gives", u.Name)
	}
}

// injects says whether a file of Python is run by something that gives it names.
func (g *givers) injects(at string) bool {
	base := path.Base(at)
	return isTest(base) || strings.Contains(base, "conf") || strings.Contains(base, "plugin")
}

// localNames lists what a file takes out of modules by name.
func localNames(said *refs.File) (all []string) {
	for _, r := range said.Of(refs.Import) {
		name := r.Value
		if name == "default" {
			name = names.BeforeDot(path.Base(r.Name))
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
