package rules

import (
	"bytes"
	"maps"
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
	"dicaxon/internal/refs/lang/python"
	"dicaxon/internal/refs/lang/rust"
	scripts "dicaxon/internal/refs/lang/script"
)

var imported = &Rule{
	Name: "imported", Kind: finding.Dangling, Level: finding.Warning, Always: true,
	Doc: "What a file uses, it binds or imports: names in JavaScript, TypeScript, Python and Go, packages in Go, of which one below internal/ is imported from around it alone, types in Java, Kotlin, PHP and Dart; a type of C#, Swift and Rust too is told that nothing declares and that is nearly one of the project. What it takes of a module, that module gives. A module that is imported is used by one of those who import it, not only by its tests.",
	Example: `- rule: imported
  except: "scripts/**"`,
	Options: []Option{{"except", Paths, false, "files in which names may come from anywhere", true}},
	Run:     runImported,
}

func runImported(c *Call) {
	g := &givers{Call: c, made: c.typesAreMade(), crates: map[[2]string]bool{}}
	packages := map[string]bool{}
	c.Graph.Look().Each(func(at string) {
		if !refs.IsCode(at) || strings.HasSuffix(at, ".d.ts") || c.lends(at) || c.fits("except", at) {
			return
		}
		said := c.Graph.Noted(at)
		switch ending := path.Ext(at); {
		case said.Broken != "":
		case ending == ".go":
			c.tellGoMembers(at, said)
			c.tellGoPackages(at, said)
			c.tellGoStandard(at, said)
			c.tellInternal(at, said)
			if folder := path.Dir(at); !packages[folder] {
				packages[folder] = true
				c.tellGoNames(folder)
			}
		case hasTypes(at):
			c.tellMembers(at, said)
			g.tellTypes(at, said)
			if ending == ".rs" {
				g.tellRustPaths(at)
			}
		default:
			c.tellMembers(at, said)
			g.tellUnbound(at, said)
			c.tellBindings(at, said)
			c.tellOffered(at, said)
		}
	})
	g.tellNearTypes()
	g.tellRenamedTypes()
	g.tellGoneTypes()
	g.tellLostTypes()
}

// atName reports about a name in a file, and the file or folder that has to do with it, "" for none:
// what is astray, or declares itself wrongly, is seen again once that is put right.
func (c *Call) atName(at string, span refs.Span, other, format string, args ...any) *finding.Finding {
	line, column := refs.Place(c.textOf(at), span)
	var place *finding.Place
	if other != "" {
		place = &finding.Place{Path: other}
	}
	f := c.report(at, line, column, place, format, args...)
	f.OfMove, f.Sought = true, []string{f.Path}
	if place != nil {
		f.Sought = append(f.Sought, strings.TrimSuffix(f.Other.Path, "/"))
	}
	return f
}

// notGiven reports that a module or package does not give what is taken of it, and what is likely
// meant, "" where nobody knows: one finding for all who take it.
func (c *Call) notGiven(at string, m lang.Member, other, module, near string) {
	f := c.atName(at, m.Span, other, "it takes %s of %s, which has no such name", m.Name, module)
	f.About = other + " " + m.Name
	if near != "" {
		f.Message += "; did it mean " + near + "?"
		f.Fix = []edit.Edit{c.edit(at, m.Span, near)}
	}
}

// tellMembers tells of what a file takes of modules that do not give it.
func (c *Call) tellMembers(at string, said *refs.File) {
	for _, m := range said.Uses.Members {
		c.tellMember(at, said, m)
	}
	if kin(path.Ext(at), ".ts") {
		c.tellNothing(at, said)
		c.tellReturned(at, said)
	}
}

var (
	// handsOver is how a script hands something to who requires it, in whatever way: also as a global, or by itself.
	handsOver = lazy.New(`\bexports?\b|\bmodule\b|\bdefine\s*\(|\bglobalThis\b|\bglobal\.|\bwindow\b|\bthis\.|\b_interop`)
	// keeps is a script that has something to give: one that has nothing was left of types by a compiler.
	// What it requires itself is none of it.
	keeps = lazy.New(`(?m)^(?:async\s+)?(?:function|class)\b|^(?:const|let|var)\s+[\w$]+\s*=\s*(?:[^r\s]|r[^e])`)
	// requiredAs is what stands before a module that is given a name.
	requiredAs = lazy.New(`\b(?:const|let|var)\s+(?:\w+|\{[^}]*\})\s*=\s*require\s*\(\s*$`)
)

// tellNothing tells of a script that another requires for what it gives, and that gives nothing.
func (c *Call) tellNothing(at string, said *refs.File) {
	text := c.textOf(at)
	for _, r := range said.Of(refs.Import) {
		if r.Quote == 0 || !strings.HasPrefix(r.Name, ".") || int(r.Span.Start) > len(text) || !requiredAs.Match(text[max(0, int(r.Span.Start)-200):r.Span.Start-1]) {
			continue
		}
		_, to := c.importOf(at, said, r.Span)
		if to == "" || inSample(to) || inFolder(to, oneOf("test", "tests", "spec", "specs")) || !slices.Contains([]string{".js", ".cjs", ".jsx"}, path.Ext(to)) || !keeps.Match(c.Graph.Code(to)) || handsOver.Match(c.Graph.Code(to)) {
			continue
		}
		f := c.atRef(at, r, &finding.Place{Path: to}, "it requires %s, which exports nothing", r.Name)
		f.About, f.Sought = to, append(f.Sought, c.Top.Path()+to)
	}
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
var takes = lazy.New(`(?m)exports\.(\w+)\s*=|\b(?:(?:static|function\*?|class|const|let|var|def|async|get|struct|enum|trait|fn|type|mod)\s+)+(\w+)|\bpub use [\w:]*::(\w+);|^\s*(\w+)\s*[(:,=]`)

// toTake lists what a module, or a class in it, gives a name to.
func toTake(text []byte) (all []string) {
	for _, g := range takes.Get().FindAllSubmatch(text, -1) {
		all = append(all, string(bytes.Join(g[1:], nil)))
	}
	return all
}

// tellMember tells of a name that is taken of what a module is known by, where the module does not
// say it at all and gives one that is a slip away. What it inherits is not known.
func (c *Call) tellMember(at string, said *refs.File, m lang.Member) {
	ref, to := c.importOf(at, said, m.Of)
	if kin(path.Ext(at), ".ts") && scripts.IsOne(ref) {
		if to != "" {
			c.tellMemberOf(at, m, to, ref)
		}
		return
	}
	if to == "" && c.tellStyle(at, ref, m) {
		return
	}
	if path.Ext(at) == ".py" && ref.Value != "" && names.BeforeDot(path.Base(to)) != ref.Value {
		if from := c.Graph.Answer(at, ref); from.Within == "" && len(from.To) == 1 && from.To[0] != at && !strings.HasPrefix(m.Name, "__") {
			c.tellMemberOf(at, m, from.To[0], ref)
		}
		return // of a class, or of what the module makes
	}
	if path.Ext(at) == ".rs" && (to == "" || c.refsOf(to).Open || !rust.Gives(to, ref.Name, m.Span.Start >= ref.Span.End)) {
		return // of a module that stands in the file
	}
	if to == "" {
		return
	}
	if ref.Value == "default" && c.tellHeld(at, m, to, ref.Name) {
		return
	}
	given := c.refsOf(to)
	required := ref.Value == "" && kin(path.Ext(to), ".ts") && len(given.Uses.Gives) > 0 && !slices.Contains(ofAny, m.Name) && !setOrAsked.Match(c.Graph.Code(at)[m.Span.End:])
	sayAll := ref.Value == "*" || required || path.Ext(to) == ".py" && path.Base(to) != "__init__.py" && !strings.HasPrefix(m.Name, "__")
	all := sayAll && !given.Open && !given.Uses.Gives.Has(m.Name) && !boundAgain(c.Graph.Code(at), int(m.Span.Start), required) && !(path.Ext(to) == ".py" && c.setSomewhere(m.Name))
	if !all && (given.Words.Has(m.Name) || len(m.Name) < 4) {
		return
	}
	text := c.Graph.Code(to)
	if !all && (inherits.Match(text) || givesMade(text)) {
		return
	}
	near := nearOne(m.Name, toTake(text))
	sure := !given.Open && ref.Value != "default" && path.Base(to) != "__init__.py" && !slices.Contains(ofAny, m.Name)
	if near == "" && !sure || near != "" && names.Near(m.Name, near) == names.Case && strings.ToUpper(near) == near {
		return
	}
	module := strings.TrimSuffix(strings.Repeat(".", ref.Relative)+ref.Name, "::"+m.Name)
	c.notGiven(at, m, to, cmpName(module, to), near)
}

// setOrAsked is what stands behind a member that is set, or of which somebody asks whether it is there.
var setOrAsked = lazy.New(`^\s*(?:=[^=>]|\?\.|\?\?|\|\||\+\+|--)`)

// tellHeld tells of a member of the object that a module exports by default, which that does not hold.
func (c *Call) tellHeld(at string, m lang.Member, to, module string) bool {
	holds := c.refsOf(to).Uses.Holds
	code := c.Graph.Code(at)
	if len(holds) == 0 || holds.Has(m.Name) || slices.Contains(ofAny, m.Name) || holdsMarkup(to) || setOrAsked.Match(code[m.Span.End:]) || boundAgain(code, int(m.Span.Start), false) {
		return false
	}
	c.notGiven(at, m, to, module, nearOne(m.Name, toTake(c.Graph.Code(to))))
	return true
}

// tellMemberOf tells of a member of an object, or an enumeration, that a module gives under a name, where the module does
// not say it at all.
func (c *Call) tellMemberOf(at string, m lang.Member, to string, ref refs.Ref) {
	given := c.refsOf(to)
	if given.Words.Has(m.Name) || given.Open || slices.Contains(ofAny, m.Name) || holdsMarkup(to) {
		return
	}
	if code := c.Graph.Code(at); int(m.Span.End) > len(code) || setOrAsked.Match(code[m.Span.End:]) {
		return
	}
	text := c.Graph.Code(to)
	objectOf, puts := scripts.ObjectOf, c.putInto
	if path.Ext(to) == ".py" {
		objectOf, puts = python.ObjectOf, func(_, name string) bool { return c.setSomewhere(name) }
	}
	has := objectOf(text, ref.Value)
	if len(has) == 0 || has.Has(m.Name) || puts(ref.Value, m.Name) {
		return
	}
	c.notGiven(at, m, to, ref.Value+" in "+cmpName(ref.Name, to), nearOne(m.Name, toTake(text)))
}

// putInto says whether a script may put a name into an object, or hands that to what does.
func (c *Call) putInto(object, name string) bool {
	puts := regexp.MustCompile(`\b` + regexp.QuoteMeta(object) + `(?:\.` + regexp.QuoteMeta(name) + `\s*=[^=>]|\[[^\]]+\]\s*=[^=>])|\b(?:assign|extend|merge|defaults\w*|defineProperty|mixin|setPrototypeOf)\(\s*` + regexp.QuoteMeta(object) + `\b`)
	return c.anySays(object, ".ts", func(at string) bool { return puts.Match(c.Graph.Code(at)) })
}

// anySays says whether a file of a language that has a word says something with it.
func (c *Call) anySays(word, ending string, says func(at string) bool) (found bool) {
	c.Graph.Look().Each(func(at string) {
		found = found || kin(path.Ext(at), ending) && c.Graph.Noted(at).Words.Has(word) && says(at)
	})
	return found
}

// setSomewhere says whether a file of Python may give something else, such as a module, a member of a name.
func (c *Call) setSomewhere(name string) bool {
	set := regexp.MustCompile(`\.` + regexp.QuoteMeta(name) + `\s*(?::[^=\n]*)?=(?:[^=]|$)|["']` + regexp.QuoteMeta(name) + `["']`)
	return c.anySays(name, ".py", func(at string) bool { return set.Match(c.textOf(at)) })
}

// boundAgain says whether the name before a member may be given to something else in the same text, such as what a
// function takes. Where the module itself is given the name by a statement, that one does not count.
func boundAgain(code []byte, member int, once bool) bool {
	before := bytes.TrimRight(code[:member], " \t\r\n.?!")
	name := before[bytes.LastIndexFunc(before, func(r rune) bool { return r > 0x7f || !lang.WordByte(byte(r)) })+1:]
	is := regexp.QuoteMeta(string(name))
	again := regexp.MustCompile(`\b(?:const|let|var|function|class)\s+` + is + `\b|[(,{\[]\s*(?:\.\.\.)?` + is + `\s*[,)}\]=:]|\b` + is + `\s*=>`)
	most := 0
	if once {
		most = 1
	}
	return len(name) == 0 || len(again.FindAll(code, most+1)) > most
}

// ofAny are names that every module has.
var ofAny = []string{"default", "hasOwnProperty", "toString", "valueOf", "__file__", "__name__", "__doc__", "__path__", "__dict__", "constructor", "then", "__esModule"}

// inherits is a module that may give what its text does not say.
var inherits = lazy.New(`\bextends\b|\bObject\.|\bclass\s+\w+\s*\(\s*[\w.]|__getattr__|\bsetattr\b|\bglobals\(\)|\.\.\.|import\s*\*|export\s*\*|\bmixin|\bnew\s+Proxy|\(\s*(?:module\.)?exports\b|\brequire\([^)]*\)\s*\(\s*\w|exports\s*=\s*(?:new\b|\w+\s*\()`)

var (
	// givesOne is a module that exports what it has given a name to, and calledFor what a call has made.
	givesOne  = lazy.New(`(?m)^(?:module\.exports\s*=|export\s+default)\s+([A-Za-z_$][\w$]*)\s*;?\s*$`)
	calledFor = lazy.New(`(?m)\b(?:const|let|var)\s+([A-Za-z_$][\w$]*)\s*=\s*(?:await\s+|new\s+)?[\w$.]+\(`)
)

// givesMade says whether a module exports what a call has made: its members are those of others.
func givesMade(text []byte) bool {
	m := givesOne.Get().FindSubmatch(text)
	return m != nil && slices.ContainsFunc(calledFor.Get().FindAllSubmatch(text, -1), func(made [][]byte) bool { return bytes.Equal(made[1], m[1]) })
}

// tellIdle tells of a module that nobody who imports it does anything with.
func (c *Call) tellIdle(at string, said *refs.File, span refs.Span) {
	ref, to := c.importOf(at, said, span)
	more := slices.ContainsFunc(said.Of(refs.Import), func(r refs.Ref) bool { return r.Span != span })
	if to == "" || !more || isTest(at) || inSample(at) || c.Files > mostTurned || strings.HasSuffix(to, ".d.ts") {
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

// tellBindings tells of imports that a file binds to names which it never says again: nearly said, or
// idle. In markup all imports are looked at, since what it says is not known to the reader.
func (c *Call) tellBindings(at string, said *refs.File) {
	idle, all := said.Uses.Idle, slices.Clone(said.Uses.Idle)
	if holdsMarkup(at) && c.Files <= mostTurned {
		for _, r := range said.Of(refs.Import) {
			if r.Value != "" && !slices.Contains(all, r.Span) {
				all = append(all, r.Span)
			}
		}
	}
	if len(all) == 0 {
		return
	}
	text := c.textOf(at)
	times := timesSaid(text)
	for _, span := range all {
		if !c.tellTurned(at, said, text, times, span) && slices.Contains(idle, span) {
			c.tellIdle(at, said, span)
		}
	}
}

// timesSaid counts the names of a text.
func timesSaid(text []byte) map[string]int {
	times := map[string]int{}
	for _, name := range names.Identifiers(string(text)) {
		times[name]++
	}
	return times
}

// tellTurned tells of a name that an import binds and the file never says again, where it says one whose
// letters stand in another order, as in its markup.
func (c *Call) tellTurned(at string, said *refs.File, text []byte, times map[string]int, of refs.Span) bool {
	start := max(0, bytes.LastIndex(text[:of.Start], []byte("import")))
	for _, name := range names.Identifiers(string(text[start:of.Start])) {
		if len(name) < 5 || times[name] > 1 {
			continue
		}
		meant := only(slices.Collect(maps.Keys(times)), func(word string) bool { return names.Transposed(name, word) })
		if meant == "" || slices.ContainsFunc(said.Uses.Unbound, func(u lang.Quoted) bool { return u.Name == meant }) {
			continue // that is told where it is used
		}
		i := start + bytes.Index(text[start:], []byte(name))
		span := lang.At(i, i+len(name))
		f := c.atName(at, span, "", "it imports %s and says %s; did it mean that?", name, meant)
		f.Fix = []edit.Edit{c.edit(at, span, meant)}
		return true
	}
	return false
}

// gives is a module that has something to offer, and is not there for what it does alone.
var gives = lazy.New(`(?m)^export\b|\bexports\b|^def |^class `)
