package rules

import (
	"cmp"
	"fmt"
	"path"
	"slices"
	"strings"
	"unicode"

	"dicaxon/internal/edit"
	"dicaxon/internal/finding"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
)

var lookedUp = &Rule{
	Name: "names", Kind: finding.Dangling, Level: finding.Error,
	Doc: "What a framework looks up by a name in a text is there: pages, routes, actions, modules, keys.",
	Example: `- rule: names
  files: "<project>/**/*.py"
  by: 'render_template\(\s*["'']([^"'']+)'
  to: "**/templates/{}"`,
	Options: []Option{
		{"files", Paths, true, "the files that hold the names", true},
		{"by", Finders, false, "finds a name: its first group, or that called name; a second one, or that called of, is put before it with a dot", false},
		{"of", Finders, false, "finds in the path of a file, or else in its text, what is put before its names with a dot where nothing else is: the first group of what it finds first; without it such names are left alone", false},
		{"inside", Regexps, false, "names are looked for in such parts of a text alone", false},
		{"keys", Texts, false, "the keys of settings whose values are names", false},
		{"there", Finders, false, "what such a part says of itself: a name that it finds there too is right, and each other one leads nowhere", false},
		{"among", Finders, false, "only names that it finds in the files that define names, such as those of types of the project", false},
		{"to", Texts, false, "the paths that a name stands for, one of which is to be there: \"{}\" is the name, \"{/}\" has slashes for its dots, \"{_}\" is snake case with slashes for its colons, \"{_/}\" for its dots too, \"{:}\" has slashes for its colons, \"{^}\" is Pascal case with slashes for its dots, \"{.}\" is the name without its ending, \"{/_}\" has an underscore before its last part, \"{-}\" is the singular in snake case, \"{<}\" is what stands before its last dot, \"{>}\" what stands behind it, \"**/\" any folder", false},
		{"block", Text, false, "the path of a file, with the name of its part, whose name has to stand in a block of that part: realign writes one around the line of the name when the file comes there", false},
		{"block-opens", Texts, false, "the line that begins such a block; of two the first where it says the beginning of the path in the line", false},
		{"block-closes", Text, false, "the line that ends it", false},
		{"block-takes", Text, false, "that beginning, which is taken off in the line", false},
		{"block-plain", Regexps, false, "lines from which something may be taken off", false},
		{"own", Texts, false, "the settings whose values, with dots or two colons between them, a name of the project's own begins with, as file#key or file~regular expression; they are taken off, and the names of others are left alone", false},
		{"module", Flag, false, "true where a name is a module, perhaps with what it gives after a colon", false},
		{"goes-on", Flag, false, "true where the name of a module goes on with what it gives, and with what that has", false},
		{"defined", Finders, false, "finds what defines a name: its first group", false},
		{"defined-inside", Regexps, false, "definitions are looked for in such parts of a text alone", false},
		{"defined-keys", Texts, false, "the keys of settings whose values are names that are defined", false},
		{"given-by", Text, false, "the path of the file that may define such names where it is not there yet, so that a command that asks for one makes it", false},
		{"known", Texts, false, "names that are defined without a file: those of the framework or its tool", false},
		{"key-names", Flag, false, "true where the keys of settings in such files are names that are defined, with dots between them", false},
		{"in", Paths, false, "the files that define names; those that hold them, if left out", true},
		{"paths-as", Text, false, "the shape of names that the paths of such files are, below what stands before \"**/\" and without their endings: pascal for a component that a framework finds by itself", false},
		{"beside", Flag, false, "true where only files of the same folder define what one names", false},
		{"loosely", Flag, false, "true where a definition may separate its words otherwise than the name, by marks or by case", false},
		{"owner", Finders, false, "finds the name of a group of definitions in a file: a name with a dot is one of a group that is there", false},
		{"file-is-group", Flag, false, "true where the names that such a file defines are those of its group alone; a file that unless fits may have more", false},
		{"stem-is-group", Flag, false, "true where the names that such a file defines are those of a group that is called as the file", false},
		{"if-any", Flag, false, "true where nothing is told unless some name is defined", false},
		{"groups-there", Flag, false, "true where only a name of a group that is there is wrong", false},
		{"except", Regexps, false, "names that stand for something else", false},
		{"of-others", Regexps, false, "names of what others may bring: an absent thing is wrong only if one of nearly its name is there", false},
		{"near-only", Flag, false, "true where an absent thing is wrong only if one of nearly its name is there", false},
		{"nowhere", Text, false, "what is said of a name that nothing defines, instead of that it is not there", false},
		{"kin-there", Flag, false, "true where an absent thing is wrong, too, if one whose name begins with the same word is there by its path", false},
		{"here-only", Flag, false, "true where what has the very name, but lies elsewhere, is not meant", false},
		{"folder-there", Flag, false, "true where an absent thing is wrong only if one of nearly its name is there, or the folder that it would lie in", false},
		{"where", Paths, false, "only where one of these folders is there", true},
		{"unless-in", Paths, false, "settings that say how names are looked for", true},
		{"unless", Regexps, false, "what such settings say where names are looked for in a way of the project's own", false},
	},
	Check: checkPlace("own"),
	Run:   runNames,
}

func runNames(c *Call) {
	if c.paths["where"] != nil && len(c.files("where")) == 0 {
		return
	}
	if c.saidOtherwise() {
		return
	}
	all := c.among(c.spoken(c.files("files")))
	if len(all) == 0 {
		return
	}
	known := c.definers()
	causes := map[string]int{}
	for _, b := range c.leadNowhere(all, known) {
		if c.toldBefore(b.spoken) {
			continue
		}
		definitions := known(b.file.path)
		fix := c.renamed(all, b.spoken, b.sought, b.meant, definitions)
		if b.instead != "" && b.meant == "" {
			b.meant, fix = b.instead, []edit.Edit{c.edit(b.file.path, b.at, b.instead)}
		}
		cause := causeOf(b.spoken, b.sought, b.meant, definitions)
		if k := causes[cause]; k > 0 && cause != "" {
			c.alsoNamed(&c.findings[k-1], b.spoken, fix)
			continue
		}
		f := c.tellName(b.spoken, b.sought, b.meant)
		if f.Fix = fix; f.Meant != "" {
			if to := c.backFor(b.meant, b.sought[0]); to != "" && !c.ledTo(all, b.meant, definitions) {
				f.Back = c.Top.Path() + to
				f.Sought = append(f.Sought, f.Back)
			}
		}
		causes[cause] = len(c.findings)
	}
}

// A brokenName is a name that leads nowhere, with where it was looked for and what was likely meant.
type brokenName struct {
	spoken
	sought []string
	meant  string
}

// leadNowhere gives the names that lead nowhere and that somebody expects here, each once for a file.
func (c *Call) leadNowhere(all []spoken, known func(at string) *definitions) (broken []brokenName) {
	told, lost, found := map[string]bool{}, map[string]bool{}, map[string]bool{}
	slip := func(b *brokenName) bool {
		return slices.ContainsFunc(b.sought, func(at string) bool { return oneSlipIn(at, b.meant) })
	}
	for _, s := range all {
		if told[s.file.path+"\x00"+s.name] || anyFits(c.regexps["except"], []byte(s.name)) {
			continue
		}
		definitions := known(s.file.path)
		b := brokenName{spoken: s}
		var is bool
		if b.sought, b.meant, is = c.follow(s, definitions); !is {
			found[s.name] = true
			continue
		}
		if b.meant == "" && c.flag("near-only") && len(b.sought) > 0 && !isTest(path.Base(s.file.path)) && !inSample(s.file.path) {
			b.meant = c.unnamedTwin(all, b.sought[0])
		}
		nowhere := b.meant == "" && c.flag("folder-there") && !c.folderThere(b.sought) // and nobody expects it there
		if !nowhere && !slip(&b) && names.BeforeDot(path.Base(b.meant)) != names.BeforeDot(path.Base(s.name)) {
			lost[s.name] = true
		}
		moved := func() bool { // what lies elsewhere, and nobody names it
			return b.meant != "" && path.Base(b.meant) == path.Base(s.name) && !c.ledTo(all, b.meant, definitions) && !c.saidWithout(s.name)
		}
		switch {
		case nowhere || b.meant == "" && c.flag("near-only") && !(c.flag("kin-there") && definitions.hasKin(s.name)):
		case slices.ContainsFunc(b.sought, func(at string) bool { return c.hidden(s.file.path, at) }):
		case c.flag("folder-there") && b.meant != "" && !c.rooted(b.sought, b.meant) && !moved():
		case anyFits(c.regexps["of-others"], []byte(s.name)) && !slip(&b) && !moved():
		default:
			told[s.file.path+"\x00"+s.name] = true
			broken = append(broken, b)
		}
	}
	if len(c.texts("to")) > 0 && len(lost) >= leastLost && len(lost) > len(found) { // something here looks elsewhere
		broken = slices.DeleteFunc(broken, func(b brokenName) bool { return !slip(&b) })
	}
	return broken
}

// leastLost is how many names lead nowhere, with nothing like them anywhere, where nobody here knows where they
// are looked for.
const leastLost = 4

// saidWithout says whether a text of the project says the last part of a path without the folder that
// stands before it there.
func (c *Call) saidWithout(name string) (found bool) {
	base := path.Base(name)
	before := strings.TrimSuffix(name, base)
	c.Graph.Look().Each(func(at string) {
		text := string(c.textOf(at))
		found = found || strings.Count(text, base) > strings.Count(text, before+base)
	})
	return found
}

// oneSlipIn says whether a path ends as another, but for a slip in one name.
func oneSlipIn(at, meant string) bool {
	a, b := strings.Split(strings.Trim(strings.TrimPrefix(at, "**/"), "/"), "/"), strings.Split(strings.TrimSuffix(meant, "/"), "/")
	if len(a) > len(b) {
		return false
	}
	slips := 0
	for i, name := range b[len(b)-len(a):] {
		switch names.Near(a[i], name) {
		case names.None:
		case names.Apart:
			return false
		default:
			slips++
		}
	}
	return slips == 1
}

// rooted says whether what is absent begins with a folder that is somewhere here, where it is not
// but a slip away: else it is of others.
func (c *Call) rooted(sought []string, meant string) bool {
	return slices.ContainsFunc(sought, func(at string) bool {
		parts := strings.Split(strings.TrimPrefix(at, "**/"), "/")
		return len(parts) < 3 || oneSlipIn(at, meant) || len(c.Graph.Look().FoldersEnding(parts[0]+"/"+parts[1])) > 0
	})
}

// folderThere says whether the folder is there in which one of several paths would lie.
func (c *Call) folderThere(sought []string) bool {
	return slices.ContainsFunc(sought, func(at string) bool {
		folder := path.Dir(strings.TrimSuffix(at, "/"))
		return folder != "." && len(c.Graph.Look().FoldersEnding(folder)) > 0
	})
}

// tellName tells of a name that leads nowhere.
func (c *Call) tellName(s spoken, sought []string, meant string) *finding.Finding {
	message := fmt.Sprintf("it names %s, %s", cmp.Or(s.written, s.name), cmp.Or(c.text("nowhere"), "which is not there"))
	if len(sought) > 0 {
		message = fmt.Sprintf("it names %s, and there is no %s", cmp.Or(s.written, s.name), sought[0])
	}
	if meant != "" {
		message += "; did it mean " + s.asWritten(meant, len(sought) == 0) + "?"
	}
	line, column := refs.Place(c.textOf(s.file.path), s.at)
	f := c.report(s.file.path, line, column, nil, "%s", message)
	f.About = s.name
	if giver := c.text("given-by"); giver != "" && c.node(giver) == nil {
		f.Sought = append(f.Sought, c.Top.Path()+giver)
	}
	for _, at := range sought {
		f.Sought = append(f.Sought, c.looked(s.file.path, at)...)
	}
	if len(sought) > 0 {
		f.Other = &finding.Place{Path: f.Sought[0]}
		if meant != "" {
			f.Meant = c.Top.Path() + meant
		}
	}
	return f
}

// causeOf tells names apart by why they lead nowhere: a group that has another name, or a folder
// that has one; "" for none that several may share.
func causeOf(s spoken, sought []string, meant string, known *definitions) string {
	if known != nil {
		owner, last, grouped := cutLast(s.name, '.')
		near, nearLast, _ := cutLast(meant, '.')
		if grouped && near != owner && nearLast == last {
			return owner + " " + near
		}
		return ""
	}
	if len(sought) == 0 || meant == "" || path.Base(meant) != path.Base(sought[0]) {
		return ""
	}
	return path.Dir(sought[0]) + " " + path.Dir(meant)
}

// cutLast cuts a text at the last of a separator.
func cutLast(text string, separator byte) (before, after string, found bool) {
	i := strings.LastIndexByte(text, separator)
	if i < 0 {
		return "", text, false
	}
	return text[:i], text[i+1:], true
}

// follow says where a name leads: broken, if nowhere, with what was looked for and
// what was likely meant.
func (c *Call) follow(s spoken, known *definitions) (sought []string, meant string, broken bool) {
	if c.regexps["there"] != nil && known == nil && len(c.texts("to")) == 0 {
		return nil, "", true
	}
	if known != nil {
		meant, broken = known.lacks(s.name)
		if c.flag("near-only") && meant != "" && names.Near(known.compared(s.name), known.compared(meant)) == names.Apart {
			meant = "" // alike, and yet another name
		}
		if meant != "" && c.calledAfter(s.name, meant) {
			meant = "" // which is there under a name of its own
		}
		if !broken || len(c.texts("to")) == 0 {
			return nil, meant, broken
		}
	}
	if c.flag("module") {
		return c.followModule(s)
	}
	anywhere := map[string]bool{}
	for _, to := range c.texts("to") {
		at := c.standsAt(s, to)
		if strings.HasPrefix(at, "..") {
			return nil, "", false
		}
		if c.reaches(at) {
			return nil, "", false
		}
		tail := strings.TrimPrefix(at, "**/")
		sought = append(sought, tail)
		anywhere[tail] = tail != at
		// What is astray will be there once it lies at its home.
		for _, f := range c.Graph.Look().Called(names.BeforeDot(path.Base(tail))) {
			if home := c.homeOf(f); home != f && (home == tail || strings.HasSuffix(home, "/"+tail)) {
				sought = append(sought, home)
			}
		}
	}
	if len(sought) == 0 {
		return nil, meant, broken
	}
	for _, at := range sought {
		if near := cmp.Or(c.nearPath(strings.TrimSuffix(at, ".*"), s.file.path, true), c.nearUnder(at, s.file.path, anywhere[at]), c.nearBelow(at, anywhere[at])); near != "" {
			return sought, near, true
		}
	}
	if moved := c.sameName(sought[0], sought[0]); len(moved) == 1 && !c.flag("here-only") {
		meant = moved[0]
	}
	if c.flag("near-only") || c.flag("here-only") {
		return sought, meant, true
	}
	inPlace := ""
	if !anywhere[sought[0]] {
		inPlace = c.inItsPlace(sought[0])
	}
	return sought, cmp.Or(meant, c.astray(sought[0]), c.folderElsewhere(sought[0]), inPlace), true
}

// calledAfter says whether one of the files that define names is called after a type that none of them defines,
// and does not say what is nearly that: it has it under another name.
func (c *Call) calledAfter(name, meant string) bool {
	return !strings.Contains(name, ".") && unicode.IsUpper(rune(name[0])) && slices.ContainsFunc(c.Graph.Look().Called(name), func(at string) bool {
		return c.fits("in", at) && !lang.HasWord(c.textOf(at), meant)
	})
}

// ledTo says whether one of the names leads to a file.
func (c *Call) ledTo(all []spoken, at string, known *definitions) bool {
	return known == nil && slices.ContainsFunc(all, func(s spoken) bool {
		return slices.ContainsFunc(c.texts("to"), func(to string) bool {
			return slices.Contains(c.standing(fill(places(to, s.name), s.file.env, c.env)), at)
		})
	})
}

// spelt gives the parts of a name in a shape, as a path.
func spelt(name string, shape names.Shape, separators string) string {
	parts := strings.FieldsFunc(name, func(r rune) bool { return strings.ContainsRune(separators, r) })
	for i := range parts {
		parts[i] = names.To(shape, parts[i])
	}
	return strings.Join(parts, "/")
}

// followModule looks a Python module up, and what is to be in it.
func (c *Call) followModule(s spoken) (sought []string, meant string, broken bool) {
	if c.flag("goes-on") {
		return c.followOn(s)
	}
	name, given, _ := strings.Cut(s.name, ":")
	given, _, _ = strings.Cut(given, "(")
	given, _, _ = strings.Cut(given, ".")
	if i := strings.LastIndexByte(name, '.'); given == "" && i > 0 && i+1 < len(name) && unicode.IsUpper(rune(name[i+1])) {
		name, given = name[:i], name[i+1:] // a class in it
	}
	ref := refs.Ref{Kind: refs.Import, Name: strings.TrimSuffix(name, ".py"), Value: given}
	if strings.Contains(name, "/") || strings.HasSuffix(name, ".py") {
		at := path.Join(path.Dir(s.file.path), name)
		if c.stands(at) || c.node(at+".py") != nil || strings.HasPrefix(name, "/") {
			return nil, "", false
		}
		return []string{at}, c.nearPath(at, s.file.path, true), true
	}
	from := path.Join(path.Dir(s.file.path), "_.py")
	a := c.Graph.Answer(from, ref)
	switch {
	case a.Within != "":
		if near := names.Closest(given, c.givenBy(a.Within)); near != "" {
			return nil, strings.TrimSuffix(s.name, given) + near, true
		}
		return nil, "", true
	case len(a.To) > 0 || name == "":
		return nil, "", false
	}
	at := strings.ReplaceAll(ref.Name, ".", "/")
	near := cmp.Or(c.nearPath(path.Join(path.Dir(s.file.path), at), s.file.path, true), c.nearPath(at+".py", s.file.path, true), c.packageEnding(at, path.Dir(s.file.path)))
	for _, sought := range append([]string{at + ".py"}, a.Sought...) {
		near = cmp.Or(near, c.moduleGiving(sought, given))
	}
	if (!a.Own || a.Near) && near == "" {
		return []string{at + ".py"}, "", !strings.Contains(name, ".") && len(c.Graph.Look().Called(name)) == 0
	}
	return append([]string{at + ".py", path.Join(path.Dir(s.file.path), at) + ".py"}, a.Sought...), near, true
}
