package rules

import (
	"bytes"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/edit"
	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
)

var className = &Rule{
	Name: "class-name", Kind: finding.Misdeclared, Level: finding.Error,
	Doc: "A file declares the class that its loader looks for by the file's name: PHP, Java and Ruby; one of C# or Kotlin the type that others of its namespace use by that name, or nearly has.",
	Example: `- rule: class-name
  files: "app/**/*.rb"
  roots: ["app/models/", "app/controllers/"]`,
	Options: []Option{
		{"files", Paths, true, "the files", false},
		{"roots", Paths, false, "folders from which a Ruby constant is spelt; the longest holds", false},
		{"under", Text, false, "the constant that stands before those of the roots, with captured names put in", false},
		{"except", Paths, false, "files that declare something else", false},
		{"without", Regexps, false, "parts of a file's name that are none of the constant's", false},
		{"near-only", Flag, false, "true where it is told only if the file declares one constant, of nearly that name", false},
	},
	Run: runClassName,
}

// publicType is a type that Java lets only a file of its name declare.
var publicType = lazy.New(`(?m)^public\s+(?:(?:abstract|final|sealed|non-sealed|strictfp|static)\s+)*(?:class|@?interface|enum|record)\s+(\w+)`)

// packageType is a type that only its package sees.
var packageType = lazy.New(`(?m)^(?:(?:abstract|final|sealed)\s+)*(?:class|interface|enum|record)\s+(\w+)`)

func runClassName(c *Call) {
	var ruby []constant
	for _, f := range c.files("files") {
		if c.fits("except", f.path) || c.homeOf(f.path) != f.path || c.lends(f.path) {
			continue
		}
		stem := names.BeforeDot(path.Base(f.path))
		switch path.Ext(f.path) {
		case ".java":
			c.javaType(f.path, stem)
		case ".php":
			if said := c.refsOf(f.path); said.Package() != nil {
				if all := said.Of(refs.Type); len(all) == 1 && all[0].Name != stem {
					c.misnames(f.path, all[0].Line, all[0].Column, all[0].Name, stem)
				}
			}
		case ".rb":
			if k := c.constantAt(f); k.said != "" {
				ruby = append(ruby, k)
			}
		case ".cs", ".kt":
			c.typeOf(f, stem)
		}
	}
	told := c.foldersCalled(ruby)
	for i := range ruby {
		if k := &ruby[i]; k.other && !told[k.at] {
			c.constantOf(k)
		}
	}
}

// javaType tells of the one public type of a Java file that has another name than the file. Where
// nobody outside sees it the compiler takes any name: then a slip is told, as a warning.
func (c *Call) javaType(at, stem string) {
	code := c.Graph.Code(at)
	all := publicType.FindAll(code)
	inside := len(all) == 0
	if inside {
		all = packageType.FindAll(code)
	}
	if len(all) != 1 {
		return
	}
	said := string(code[all[0][2]:all[0][3]])
	if said == stem || inside && names.Near(said, stem) != names.Typing {
		return
	}
	line, column := refs.Place(code, refs.Span{Start: int32(all[0][2])})
	c.misnames(at, line, column, said, stem)
	if inside {
		c.findings[len(c.findings)-1].Level = finding.Warning
	}
}

// givesMore is a file of Kotlin that gives something beside its types.
var givesMore = lazy.New(`(?m)^(?:(?:public|internal|private|inline|suspend|const|lateinit|operator|infix|tailrec|external)\s+)*(?:fun|val|var|typealias)\b`)

// typeOf tells of the one type of a C# or Kotlin file that has another name than the file, where others of
// its namespace use the name of the file and none of them declares it.
func (c *Call) typeOf(f file, stem string) {
	said := c.refsOf(f.path)
	all, space := said.Of(refs.Type), said.Package()
	if len(all) != 1 || space == nil || all[0].Name == stem || bytes.Contains(c.textOf(f.path), []byte("partial ")) || givesMore.Match(c.Graph.Code(f.path)) {
		return
	}
	used := false
	for _, o := range c.files("files") {
		other := c.refsOf(o.path)
		if o.path == f.path || other.Package() == nil || other.Package().Name != space.Name {
			continue
		}
		if slices.ContainsFunc(other.Of(refs.Type), func(t refs.Ref) bool { return t.Name == stem }) {
			return
		}
		used = used || usesType(c.Graph.Code(o.path), stem)
	}
	switch {
	case used && !c.flag("near-only"):
		told := c.report(f.path, all[0].Line, all[0].Column, nil, "it declares %s, but its name says %s, and so do those that use it", all[0].Name, stem)
		told.Fix = c.wordsAs(f.path, all[0].Name, stem)
	case names.Near(all[0].Name, stem) < names.Apart:
		told := c.report(f.path, all[0].Line, all[0].Column, nil, "it declares %s, and is called %s", all[0].Name, stem)
		told.Kind, told.Level = finding.Misnamed, max(told.Level, finding.Warning)
		told.Home = path.Join(path.Dir(told.Path), all[0].Name+path.Ext(f.path))
	case !used && c.aloneInThat(f, all[0].Name):
		told := c.report(f.path, all[0].Line, all[0].Column, nil, "it declares %s, and every other file is called after its type", all[0].Name)
		told.Kind, told.Level = finding.Misnamed, finding.Note
		told.Home = path.Join(path.Dir(told.Path), all[0].Name+path.Ext(f.path))
	}
}

// leastCalled is how many files are called after their one type where that is plainly the way of the project.
const leastCalled = 8

// aloneInThat says whether a file of C# or Kotlin is the only one of the project that is not called after its one type, and may
// be called so.
func (c *Call) aloneInThat(f file, name string) bool {
	after := 0
	for _, o := range c.files("files") {
		all := c.refsOf(o.path).Of(refs.Type)
		switch {
		case path.Ext(o.path) != path.Ext(f.path) || len(all) != 1 || o.path == f.path || c.lends(o.path):
		case all[0].Name != names.BeforeDot(path.Base(o.path)):
			return false
		default:
			after++
		}
	}
	return after >= leastCalled && c.node(path.Join(path.Dir(f.path), name+path.Ext(f.path))) == nil && path.Base(f.path) == names.BeforeDot(path.Base(f.path))+path.Ext(f.path)
}

// usesType says whether code uses a word as a type: not as the name of what is called or of what
// something else holds.
func usesType(code []byte, word string) bool {
	return slices.ContainsFunc(lang.Words(code, word), func(i int) bool {
		before, after := bytes.TrimRight(code[:i], " \t"), bytes.TrimLeft(code[i+len(word):], " \t")
		called := bytes.HasPrefix(after, []byte("(")) && !bytes.HasSuffix(before, []byte("new"))
		return !called && !bytes.HasSuffix(before, []byte(".")) && !bytes.HasPrefix(after, []byte(";"))
	})
}

func (c *Call) misnames(at string, line, column int, said, wanted string) {
	f := c.report(at, line, column, nil, "it declares %s, but its name says %s, by which it is loaded", said, wanted)
	if !c.saidElsewhere(at, said) {
		f.Fix = c.wordsAs(at, said, wanted)
	}
}

// saidElsewhere says whether another file of the language says a word.
func (c *Call) saidElsewhere(at, word string) bool {
	return slices.ContainsFunc(c.everything(), func(f file) bool {
		return f.path != at && path.Ext(f.path) == path.Ext(at) && lang.HasWord(c.Graph.Code(f.path), word)
	})
}

// wordsAs gives the edits by which a file says one word for another, wherever it does.
func (c *Call) wordsAs(at, said, wanted string) (all []edit.Edit) {
	for _, i := range lang.Words(c.Graph.Code(at), said) {
		all = append(all, c.edit(at, refs.Span{Start: int32(i), End: int32(i + len(said))}, wanted))
	}
	return all
}

// acronym finds the words that an application's inflector spells in its own way.
var acronym = lazy.New(`acronym\(?\s*["'](\w+)["']`)

// A constant is one that a Ruby file declares, beside the one that its path stands for.
type constant struct {
	at     string   // the file
	said   string   // "" where it declares none that the rule knows
	wanted []string // its parts
	other  bool     // they are not the same
	below  string   // the path below the root from which it is spelt
	types  []refs.Ref
}

// constantAt gives the constant of a file.
func (c *Call) constantAt(f file) constant {
	k := constant{at: f.path}
	for _, root := range c.files("roots") {
		if rest, ok := strings.CutPrefix(f.path, strings.TrimSuffix(root.path, "/")+"/"); ok && (k.below == "" || len(rest) < len(k.below)) {
			k.below = rest
		}
	}
	for _, re := range c.regexps["without"] {
		k.below = re.Get().ReplaceAllString(k.below, "")
	}
	if k.below == "" {
		return k
	}
	if k.said = c.declaredIn(f.path); k.said == "" {
		return k
	}
	switch under := fill(c.text("under"), f.env, c.env); {
	case strings.Contains(under, "<"): // whatever stands first
		first, _, _ := strings.Cut(k.said, "::")
		k.wanted = append(k.wanted, first)
	case under != "":
		k.wanted = append(k.wanted, c.asConstant(under))
	}
	for _, part := range strings.Split(strings.TrimSuffix(k.below, ".rb"), "/") {
		if part != "concerns" {
			k.wanted = append(k.wanted, c.asConstant(part))
		}
	}
	wanted, last := strings.Join(k.wanted, "::"), k.wanted[len(k.wanted)-1]
	if k.said == wanted || strings.HasPrefix(k.said, wanted+"::") {
		return k
	}
	k.types = c.refsOf(f.path).Of(refs.Type)
	beside := !strings.HasSuffix(k.said, last) && slices.ContainsFunc(k.types, func(t refs.Ref) bool { return t.Name == last || strings.HasSuffix(t.Name, "::"+last) })
	k.other = !beside
	return k
}

// constantOf tells of a constant that a Ruby file declares and that is not the one that its path stands for.
func (c *Call) constantOf(k *constant) {
	said, wanted := k.said, strings.Join(k.wanted, "::")
	// The inflector may know words that nobody told of here.
	if strings.EqualFold(said, wanted) && !c.acronymIn(wanted) {
		return
	}
	if c.flag("near-only") && !nearlySaid(k.types, said, wanted) {
		return
	}
	// One word that is spelt otherwise in many files is one cause.
	cause := differing(said, wanted)
	if c.toldOf(c.lost, cause, k.at) {
		return
	}
	by := k.types[min(len(k.types), strings.Count(said, "::")+1)-1]
	told := c.report(k.at, by.Line, by.Column, nil, "it declares %s, but its path says %s, by which it is loaded", said, wanted)
	told.Respelt = func() []edit.Edit { return c.constantRespelt(k.at, said, wanted) }
	c.declaredAt(told, k.at, k.below, said, len(k.wanted)-1-strings.Count(k.below, "/"))
	c.mendConstant(told, k.at, said, wanted)
	if strings.EqualFold(said, wanted) {
		if c.lost == nil {
			c.lost = map[string]int{}
		}
		c.lost[cause] = len(c.findings)
	}
}

// nearlySaid says whether a file declares one constant, and nearly the wanted one.
func nearlySaid(types []refs.Ref, said, wanted string) bool {
	a, b := strings.Split(said, "::"), strings.Split(wanted, "::")
	last := len(a) - 1
	return len(a) == len(b) && len(types) == len(a) && strings.EqualFold(strings.Join(a[:last], "::"), strings.Join(b[:last], "::")) && len(b[last]) >= 4 && names.Near(a[last], b[last]) == names.Typing
}

// mendConstant puts right a constant of which one name is not that of its path, where no other
// file says it; a file whose constant others say, where nobody says the one of its path, was
// moved.
func (c *Call) mendConstant(told *finding.Finding, at, said, wanted string) {
	a, b := strings.Split(said, "::"), strings.Split(wanted, "::")
	if told.Declared != "" {
		left := c.leftEmpty(path.Dir(strings.TrimPrefix(told.Declared, c.Top.Path())))
		if left || c.saidElsewhere(at, said) && !c.saidElsewhere(at, wanted) {
			told.Home = told.Declared
			return
		}
	}
	chain, apart := c.opening(at), -1
	for i := range a {
		switch {
		case len(a) != len(b) || len(chain) != len(a): // a name spelt over several folders
			return
		case a[i] != b[i] && apart >= 0:
			return
		case a[i] != b[i]:
			apart = i
		}
	}
	if apart < 0 || strings.EqualFold(a[apart], b[apart]) || c.saidElsewhere(at, said) || c.saidElsewhere(at, strings.Join(a[:apart+1], "::")) && !c.saidElsewhere(at, wanted) {
		return
	}
	told.Fix = []edit.Edit{c.edit(at, chain[apart].Span, b[apart])}
}

// declaredAt notes where the loader looks for the constant that a file declares, where nothing
// is; the first parts of it stand for the root.
func (c *Call) declaredAt(told *finding.Finding, at, below, said string, first int) {
	parts := strings.Split(said, "::")
	if first < 0 || len(parts) <= first {
		return
	}
	to := strings.TrimSuffix(at, below)
	for _, part := range parts[first:] {
		if slices.Contains(c.acronyms(), part) {
			part = strings.ToLower(part)
		}
		to += names.To(names.Snake, part) + "/"
	}
	if to = strings.TrimSuffix(to, "/") + ".rb"; c.node(to) == nil {
		told.Declared = c.Top.Path() + to
		there := c.Lookup(to).Entry
		told.ByRole = there != nil && there != c.Lookup(at).Entry && strings.Count(to, "/") != strings.Count(at, "/")
	}
}

// differing gives the first parts of two constants that differ.
func differing(said, wanted string) string {
	a, b := strings.Split(said, "::"), strings.Split(wanted, "::")
	for i := range min(len(a), len(b)) {
		if a[i] != b[i] {
			return a[i] + " " + b[i]
		}
	}
	return said + " " + wanted
}

// declaredIn gives the constant that a file opens with: modules around one class.
func (c *Call) declaredIn(at string) string {
	var parts []string
	for _, t := range c.opening(at) {
		parts = append(parts, t.Name)
	}
	return strings.Join(parts, "::")
}

// opening lists what a file opens with: modules, each within the one before, and a class.
func (c *Call) opening(at string) (all []refs.Ref) {
	for _, t := range c.refsOf(at).Of(refs.Type) {
		if n := len(all); n > 0 && t.Column <= all[n-1].Column {
			break
		}
		all = append(all, t)
	}
	return all
}

// asConstant spells a part of a path as a constant, with the acronyms of the
// application.
func (c *Call) asConstant(part string) string {
	known := c.acronyms()
	var all strings.Builder
	for _, word := range strings.Split(part, "_") {
		if i := slices.IndexFunc(known, func(a string) bool { return strings.EqualFold(a, word) }); i >= 0 {
			all.WriteString(known[i])
			continue
		}
		all.WriteString(names.To(names.Pascal, word))
	}
	return all.String()
}

func (c *Call) acronyms() []string {
	var all []string
	for _, at := range []string{"config/initializers/inflections.rb", "config/app.rb", "config/application.rb"} {
		if c.node(at) == nil {
			continue
		}
		for _, m := range acronym.Get().FindAllSubmatch(c.Graph.Code(at), -1) {
			all = append(all, string(m[1]))
		}
	}
	return all
}

func (c *Call) acronymIn(name string) bool {
	return slices.ContainsFunc(c.acronyms(), func(a string) bool { return strings.Contains(name, a) })
}
