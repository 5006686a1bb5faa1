package rules

import (
	"cmp"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/edit"
	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/lazy"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
)

var wired = &Rule{
	Name: "wired", Kind: finding.Unwired, Level: finding.Error,
	Doc: "Every unit is mounted or imported where the layout says.",
	Example: `- rule: wired
  files: "<project>/<area>/views.py"
  by: "<project>/__init__.py"
  line: "application.register_blueprint(<area>.blueprint)"
  or: ["<project>.<area>", "import <area>"]`,
	Options: []Option{
		{"files", Paths, true, "what must be wired", false},
		{"by", Paths, true, "the files of which one must do it", false},
		{"line", Text, false, "the line that does it", false},
		{"or", Texts, false, "other texts that show that it is done; `<self>` is the name of the file without its ending, `<offers>` what it offers", false},
		{"imports", Flag, false, "true where an import of it is enough, of whose names one is used", false},
		{"where", Regexps, false, "only what has this text", false},
		{"unless", Regexps, false, "not what has this text", false},
		{"creates", Regexps, false, "text of the file that creates the application, whatever its name; the first group is what it calls it, `<creates>` in the line", false},
		{"offers", Regexps, false, "text by which a unit offers something to mount; the first group is what it calls it, `<offers>` in the line", false},
		{"mounts", Regexps, false, "calls that mount; the first group is what is mounted: then an import is not enough for what a unit offers", false},
		{"aside", Regexps, false, "parts of such a text in which nothing is mounted", false},
		{"at-once", Regexps, false, "text of such a file which shows that all are wired at once", false},
		{"except", Paths, false, "what needs no wiring", true},
		{"near-only", Flag, false, "true where it is told only if one of the files says nearly its name", false},
	},
	Run: runWired,
}

func runWired(c *Call) {
	w := &wiring{Call: c, read: map[string]*wirer{}, called: map[string]int{}}
	by, coming := c.files("by"), c.coming("by")
	by = append(by, coming...)
	units := c.files("files")
	for _, unit := range units {
		w.called[path.Base(unit.path)]++
	}
	for _, unit := range units {
		if noUnit(unit.path) && !c.isFolder(unit.path) || !c.saysSo(unit.path) || c.standsForAll(unit) || c.fits("except", unit.path) {
			continue
		}
		all := by
		// The file that wires may itself lie in the unit around.
		if bound := c.find(c.paths["by"], unit.env); len(bound) > 0 {
			all = append(bound, coming...)
		}
		// What wires the others is none of them, and no test of what nothing wires.
		if all = slices.DeleteFunc(slices.Clone(all), func(b file) bool { return b.path == unit.path || noUnit(b.path) }); len(all) > 0 {
			w.check(unit, all)
		}
	}
}

// standsForAll says whether a file stands for the folder of units that it lies in, and is none.
func (c *Call) standsForAll(unit file) bool {
	segments := unit.pattern.Segments()
	return len(segments) > 1 && refs.IsIndex(path.Base(unit.path)) && c.depthOf(unit) == 1 && segments[len(segments)-1] != nil && segments[len(segments)-1].Exact == "" &&
		segments[len(segments)-2] != nil && len(segments[len(segments)-2].Captures()) == 0
}

// noUnit says whether a file is a test, or declares types alone.
func noUnit(at string) bool {
	_, test := names.Testee(path.Base(at))
	return test || strings.HasSuffix(at, ".d.ts")
}

// A wiring is what a pass of the rule has read.
type wiring struct {
	*Call
	read   map[string]*wirer
	called map[string]int // how many units have a file's name
}

// check reports a unit that none of the files wires, nor another that creates the
// application.
func (w *wiring) check(unit file, by []file) {
	if w.allAtOnce(by) {
		return
	}
	offered := w.offered(unit)
	importer := ""
	for _, b := range by {
		imports, done := w.wires(b.path, unit, offered)
		if done {
			return
		}
		if imports && importer == "" {
			importer = b.path
		}
	}
	if w.regexps["creates"] != nil {
		for _, at := range w.creators(unit) {
			imports, done := w.wires(at, unit, offered)
			if done {
				return
			}
			if imports && importer == "" {
				importer = at
			}
		}
	}
	if w.handedOn(unit, by, offered) {
		return
	}
	at := cmp.Or(importer, by[0].path)
	if w.flag("near-only") {
		w.tellNear(unit, by)
		return
	}
	where := at
	if before, _, many := strings.Cut(w.paths["by"][0].Text, "*"); many && importer == "" && len(by) > 1 && !strings.Contains(before, "<") {
		where = cmp.Or(before, "any of the code") // whichever of them
	}
	message, folder := "nothing in "+where+" mounts it", ""
	if w.isFolder(unit.path) && w.text("line") == "" {
		folder = "/"
	}
	switch {
	case folder != "" || importer == "" && w.text("line") == "" && !w.flag("imports"):
		message = "nothing in " + where + " names it"
	case importer != "":
		message = at + " imports it and does not mount it"
	case w.flag("imports"):
		message = "nothing in " + where + " imports it"
	}
	wiredIn := cmp.Or(importer, w.firstBy(unit, by))
	fix := w.mounting(unit, wiredIn)
	if line := w.line(unit, at, offered); line != "" {
		message += "; it should say " + cmp.Or(lastLine(fix), line)
	}
	w.report(unit.path+folder, 0, 0, &finding.Place{Path: wiredIn}, "%s", message).Fix = fix
}

// handedOn says whether another that lies where units do mounts a unit, such as a list of routes, or imports it where
// that is enough, such as what several begin with; and one of the files leads to that, directly or through others.
func (w *wiring) handedOn(unit file, by []file, offered string) bool {
	helps := w.regexps["mounts"] == nil // it is there for the others
	if !w.flag("imports") || !helps && w.regexps["creates"] == nil {
		return false
	}
	for _, e := range w.Graph.To(unit.path) {
		if noUnit(e.From) || e.From == unit.path || !w.fits("files", e.From) || slices.ContainsFunc(by, func(b file) bool { return b.path == e.From }) {
			continue
		}
		if _, done := w.wires(e.From, unit, offered); (done || helps) && w.ledTo(e.From, by) {
			return true
		}
	}
	return false
}

// ledTo says whether imports lead from one of some files to another.
func (w *wiring) ledTo(at string, by []file) bool {
	met, all := map[string]bool{at: true}, []string{at}
	for len(all) > 0 {
		at, all = all[0], all[1:]
		if slices.ContainsFunc(by, func(b file) bool { return b.path == at }) {
			return true
		}
		for _, e := range w.Graph.To(at) {
			if !met[e.From] && !noUnit(e.From) {
				met[e.From] = true
				all = append(all, e.From)
			}
		}
	}
	return false
}

// allAtOnce says whether one of the files wires whatever there is.
func (w *wiring) allAtOnce(by []file) bool {
	return w.regexps["at-once"] != nil && slices.ContainsFunc(by, func(b file) bool { return anyFits(w.regexps["at-once"], w.Graph.Code(b.path)) })
}

// tellNear tells of a unit that is called nearly as one of the files says.
func (w *wiring) tellNear(unit file, by []file) {
	base := path.Base(unit.path)
	name := names.BeforeDot(base)
	for _, b := range by {
		for _, word := range names.Identifiers(w.wirerOf(b.path).text) {
			meant := path.Join(path.Dir(unit.path), word+strings.TrimPrefix(base, name))
			if word == name || names.Near(word, name) == names.Apart || w.node(meant) != nil {
				continue
			}
			f := w.report(unit.path, 0, 0, &finding.Place{Path: b.path}, "nothing names %s; %s names %s", name, b.path, word)
			f.Kind, f.Home = finding.Misnamed, w.Top.Path()+meant
			return
		}
	}
}

// lastLine gives the one line that the last of some edits writes, "" where that is no line.
func lastLine(all []edit.Edit) string {
	if len(all) == 0 {
		return ""
	}
	text := all[len(all)-1].Text
	line := strings.Trim(text, ", \t\n")
	if strings.Contains(line, "\n") || !strings.HasSuffix(text, "\n") && !strings.Contains(line, "(") { // a name among others
		return ""
	}
	return line
}

// line gives the line that wires a unit, in the words of the project.
func (w *wiring) line(unit file, at, offered string) string {
	app := ""
	if creates := w.regexps["creates"]; creates != nil {
		app = group(creates, []byte(w.Graph.Code(at)))
	}
	var env *layout.Env
	for name, word := range map[string]string{"creates": cmp.Or(app, "app"), "offers": cmp.Or(offered, "blueprint")} {
		env = env.Bind(name, word)
	}
	if line := fill(w.text("line"), unit.env, w.env, env); !strings.Contains(line, "<") {
		return line
	}
	return ""
}

// group gives the first group of the first match of any of the expressions.
func group(all []*lazy.Regexp, text []byte) string {
	for _, one := range all {
		if m := one.Get().FindSubmatch(text); len(m) > 1 {
			return string(m[1])
		}
	}
	return ""
}

// offered gives what a unit calls what it offers to mount: in the file itself, or in
// that which stands for its folder. It is empty where it offers nothing.
func (w *wiring) offered(unit file) string {
	offers := w.regexps["offers"]
	if offers == nil {
		return ""
	}
	for _, at := range []string{unit.path, path.Join(path.Dir(unit.path), "__init__.py")} {
		if at == unit.path || w.depthOf(unit) > 1 {
			if name := group(offers, w.Graph.Code(at)); name != "" {
				return name
			}
		}
	}
	return ""
}

// creators gives the files that import a unit, or what is around it, and create the
// application.
func (w *wiring) creators(unit file) []string {
	around := unit.path
	for range w.depthOf(unit) - 1 {
		around = path.Dir(around)
	}
	var all []string
	for _, e := range w.Graph.To(around) {
		if e.From == unit.path || strings.HasPrefix(e.From, around+"/") || noUnit(e.From) || slices.Contains(all, e.From) {
			continue
		}
		if anyFits(w.regexps["creates"], w.Graph.Code(e.From)) {
			all = append(all, e.From)
		}
	}
	return all
}

// coming gives the files that will fit an option once what is astray lies in its
// place.
func (c *Call) coming(option string) []file {
	var all []file
	for from, to := range c.moves {
		at := strings.TrimPrefix(to, c.Top.Path())
		for i := range c.paths[option] {
			if env, ok := c.matches(&c.paths[option][i], at, c.env); ok {
				all = append(all, file{path: strings.TrimPrefix(from, c.Top.Path()), env: env, pattern: &c.paths[option][i]})
			}
		}
	}
	return all
}

// firstBy gives the file that should wire a unit first of all, there or not:
// where none is, that is the cause.
func (c *Call) firstBy(unit file, by []file) string {
	first := ""
	for i := range c.paths["by"] {
		at := c.pathOf(&c.paths["by"][i], unit.env, c.env)
		switch settled := !strings.ContainsAny(at, "*?<"); {
		case settled && c.node(at) != nil:
			return at
		case settled && i == 0:
			first = at
		}
	}
	return cmp.Or(first, by[0].path)
}

// depthOf gives how many names at the end of a path belong to the unit: those
// from the last one that its pattern captures.
func (c *Call) depthOf(unit file) int {
	segments := unit.pattern.Segments()
	for i := len(segments) - 1; i >= 0; i-- {
		if segments[i] == nil {
			break
		}
		for _, name := range segments[i].Captures() {
			if _, settled := c.env.Get(name); !settled {
				return len(segments) - i
			}
		}
	}
	return 1
}
