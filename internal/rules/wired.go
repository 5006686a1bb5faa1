package rules

import (
	"path"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
)

var wired = &Rule{
	Name: "wired", Kind: finding.Unwired, Level: finding.Error,
	Doc: "Every unit is mounted or imported where the layout says.",
	Example: `- rule: wired
  each: "<project>/<area>/views.py"
  by: "<project>/__init__.py"
  line: "application.register_blueprint(<area>.blueprint)"
  or: ["<project>.<area>", "import <area>"]`,
	Options: []Option{
		{"each", Paths, true, "what must be wired", false},
		{"by", Paths, true, "the files of which one must do it", false},
		{"line", Text, false, "the line that does it", false},
		{"or", Texts, false, "other texts that show that it is done", false},
		{"imports", Flag, false, "true where an import of it is enough", false},
		{"where", Regexps, false, "only what has this text", false},
	},
	Run: runWired,
}

func runWired(c *Call) {
	wiring, coming := c.files("by"), c.coming("by")
	wiring = append(wiring, coming...)
	read := map[string]*wirer{}
	for _, unit := range c.files("each") {
		if where := c.regexps["where"]; where != nil && !where[0].Match(refs.Code(unit.path, c.textOf(unit.path))) {
			continue
		}
		by := wiring
		// The file that wires may itself lie in the unit around.
		if bound := c.find(c.paths["by"], unit.env); len(bound) > 0 {
			by = append(bound, coming...)
		}
		if len(by) == 0 || c.isWired(unit, by, read) {
			continue
		}
		line := fill(c.text("line"), unit.env, c.env)
		message := "nothing in " + by[0].path + " mounts it"
		if c.flag("imports") {
			message = "nothing in " + by[0].path + " imports it"
		}
		if line != "" {
			message += "; it should say " + line
		}
		c.report(unit.path, 0, 0, &finding.Place{Path: c.firstBy(unit, by)}, "%s", message)
	}
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
	first := c.pathOf(&c.paths["by"][0], unit.env, c.env)
	if strings.ContainsAny(first, "*?<") {
		return by[0].path
	}
	return first
}

// A wirer is a file that wires units, read once for all of them.
type wirer struct {
	code    string          // squeezed
	imports map[string]bool // files and folders that it imports
}

func (c *Call) wirerOf(at string, read map[string]*wirer) *wirer {
	w := read[at]
	if w != nil {
		return w
	}
	w = &wirer{code: squeezed(string(refs.Code(at, c.textOf(at)))), imports: map[string]bool{}}
	read[at] = w
	if !c.flag("imports") {
		return w
	}
	for _, r := range c.refsOf(at).Refs {
		for _, to := range c.targets(c.homeOf(at), r) {
			w.imports[to] = true
			// The package that the wiring file stands for is not a unit.
			if in := packageOfFile(to); !strings.HasPrefix(at, in+"/") {
				w.imports[in] = true
			}
		}
	}
	return w
}

func (c *Call) isWired(unit file, by []file, read map[string]*wirer) bool {
	marks := append([]string{c.text("line")}, c.texts("or")...)
	for _, b := range by {
		if b.path == unit.path {
			continue
		}
		w := c.wirerOf(b.path, read)
		// An import of the folder that is the unit counts, one of a folder that
		// holds several does not.
		at := unit.path
		for range c.depthOf(unit) {
			if w.imports[at] {
				return true
			}
			at = path.Dir(at)
		}
		for _, mark := range marks {
			if mark = squeezed(fill(mark, unit.env, c.env)); mark != "" && mentions(w.code, mark) {
				return true
			}
		}
	}
	return false
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

// packageOfFile gives the folder that a file stands for: a marker or an index
// stands for all that is beside it.
func packageOfFile(at string) string {
	if name := path.Base(at); name == "__init__.py" || strings.HasPrefix(name, "index.") {
		return path.Dir(at)
	}
	return at
}

// squeezed takes out the spaces that mean nothing, so that a line is found
// however it is set.
func squeezed(text string) string {
	var b strings.Builder
	space := false
	last := byte(0)
	for i := 0; i < len(text); i++ {
		c := text[i]
		if c == ' ' || c == '\t' || c == '\n' || c == '\r' || c == '\\' && i+1 < len(text) && text[i+1] == '\n' {
			space = true
			continue
		}
		if space && wordByte(last) && wordByte(c) {
			b.WriteByte(' ')
		}
		b.WriteByte(c)
		last, space = c, false
	}
	return b.String()
}

// mentions says whether the code has the text as whole words.
func mentions(code, text string) bool { return names.HasWords(code, text) }

func wordByte(c byte) bool {
	return c == '_' || '0' <= c && c <= '9' || 'a' <= c && c <= 'z' || 'A' <= c && c <= 'Z'
}
