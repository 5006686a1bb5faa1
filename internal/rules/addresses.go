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
)

var addresses = &Rule{
	Name: "addresses", Kind: finding.Dangling, Level: finding.Warning,
	Doc: "An address of the application's own is that of a page, where pages lie by their address. It is silent where none of nearly that address is there, but where the framework itself looks the address up.",
	Example: `- rule: addresses
  files: "src/routes/**/*.svelte"
  by: '\bhref="(/[^"]*)"'
  pages: ["src/routes/**/+page.svelte", "src/routes/**/+server.ts"]`,
	Options: []Option{
		{"files", Paths, true, "the files that name addresses", true},
		{"by", Finders, true, "finds an address: its first group", false},
		{"pages", Paths, false, "what answers: the folders below what stands before \"**/\" are the address, and the name of a file too where its pattern leaves it open; a name in round brackets or behind an @ is no part of it, one in square brackets stands for any", true},
		{"written-in", Paths, false, "files that say which addresses answer", true},
		{"written", Finders, false, "finds one in such a file, whole or as it stands below another: its first group", false},
		{"stacked", Flag, false, "true where those that begin with a slash stand below others, too", false},
		{"under", Text, false, "the address below which such pages answer", false},
		{"without", Regexps, false, "parts of a file's name that are none of the address", false},
		{"surely", Finders, false, "finds an address that the framework itself looks up, in its first group: that nothing answers at it is told though no page is near", false},
		{"unless-in", Paths, false, "files that answer for addresses that stand in them", true},
		{"elsewhere", Regexps, false, "what such files, or those that say addresses, have where others make pages, too", false},
	},
	Run: runAddresses,
}

// An address is the names of its parts; one that may be anything is "", and a last one that
// stands for any number of parts is everyRest.
type address []string

const everyRest = "..."

func runAddresses(c *Call) {
	var pages []address
	for _, f := range c.files("pages") {
		if strings.Contains(f.path, "/(.") {
			continue // it stands for a page that answers elsewhere
		}
		pages = append(pages, c.addressOf(f))
	}
	pages = append(pages, c.writtenAddresses()...)
	if len(pages) == 0 {
		return
	}
	w := &walker{Call: c, pages: pages, causes: map[string]int{}}
	surely := len(pages) > 1 && c.regexps["surely"] != nil && !c.madeElsewhere()
	for _, f := range c.files("files") {
		if c.lends(f.path) {
			continue
		}
		code := c.Graph.Code(f.path)
		for _, s := range c.spokenIn(f, code, 0) {
			w.follow(s)
		}
		if surely && !isTest(path.Base(f.path)) && !strings.Contains(path.Base(f.path), ".stories.") && !inSample(f.path) { // which may have pages of their own
			for _, s := range c.spokenBy("surely", f, code, 0) {
				w.look(s)
			}
		}
	}
}

// madeElsewhere says whether a file that says addresses, or answers for them, has it that others make pages, too.
func (c *Call) madeElsewhere() bool {
	makes := func(f file) bool { return anyFits(c.regexps["elsewhere"], c.textOf(f.path)) }
	return slices.ContainsFunc(c.files("unless-in"), makes) || slices.ContainsFunc(c.files("written-in"), makes)
}

// mostNested is how many addresses below others are looked at, and mostBelow how many stand below one another.
const (
	mostNested = 100_000
	mostBelow  = 2
)

// writtenAddresses gives the addresses that files say: those that begin with a slash, and the others below each of them,
// below each other and alone, since nobody here knows what stands around them.
func (c *Call) writtenAddresses() []address {
	var whole, below []address
	for _, f := range c.files("written-in") {
		for _, s := range c.spokenBy("written", f, c.Graph.Code(f.path), 0) {
			text, rest := strings.CutSuffix(s.name, "/*")
			a := parsed(text)
			switch {
			case strings.HasPrefix(strings.TrimLeft(text, "/"), "*") || strings.Contains(text, "(.*)"):
				continue // what is shown where nothing is
			case rest:
				a = append(a, everyRest)
			}
			if strings.HasPrefix(text, "/") && !c.flag("stacked") {
				whole = append(whole, a)
			} else if len(a) > 0 {
				below = append(below, a)
			}
		}
	}
	return nested(whole, below)
}

// nested gives addresses with others below them, none where they are too many to look at.
func nested(whole, below []address) []address {
	if len(below)*len(below)*(len(whole)+len(below)) > mostNested {
		return nil
	}
	all, tops := whole, append([]address{{}}, whole...)
	for range mostBelow {
		var next []address
		for _, above := range tops {
			for _, a := range below {
				if len(above) > 0 || a[0] != "" { // what may be anything stands below something
					next = append(next, append(slices.Clone(above), a...))
				}
			}
		}
		tops, all = next, append(all, next...)
	}
	return all
}

// A walker follows addresses to pages.
type walker struct {
	*Call
	pages  []address
	causes map[string]int // what is told already, by where it is
}

// follow tells of an address that is nearly that of a page.
func (w *walker) follow(s spoken) {
	got := parsed(s.name)
	part, want := nearAddress(got, w.pages)
	if part < 0 || w.answered(s.name) {
		return
	}
	meant := slices.Clone(got)
	meant[part] = want
	w.tell(s, got[part]+"/"+want, "; did it mean /"+strings.Join(withAny(meant), "/")+"?", w.partNamed(s, part, want))
}

// look tells of an address that the framework looks up and that nothing answers at; of one that is nearly that of a page,
// follow does.
func (w *walker) look(s spoken) {
	got := parsed(s.name)
	if got.answeredBy(w.pages) || w.answered(s.name) {
		return
	}
	if part, _ := nearAddress(got, w.pages); part < 0 {
		w.tell(s, s.name, "", nil)
	}
}

// tell tells of an address at which nothing answers, with what was likely meant: once for a cause.
func (w *walker) tell(s spoken, cause, meant string, fix []edit.Edit) {
	if k := w.causes[cause]; k > 0 {
		w.alsoNamed(&w.findings[k-1], s, fix)
		return
	}
	line, column := refs.Place(w.textOf(s.file.path), s.at)
	told := w.report(s.file.path, line, column, nil, "it leads to %s, where nothing answers%s", s.name, meant)
	told.About, told.Fix = s.name, fix
	w.causes[cause] = len(w.findings)
}

// ofLanguage is the first part of an address that says a language.
var ofLanguage = lazy.New(`^[a-z]{2}(?:-[A-Za-z]{2,4})?$`)

// answeredBy says whether a page may answer at an address, perhaps below a part that says the language.
func (a address) answeredBy(pages []address) bool {
	return len(a) == 0 || a[0] == "" || ofLanguage.MatchString(a[0]) || slices.ContainsFunc(pages, func(page address) bool {
		return a.leadsTo(page) || len(page) > 1 && page[0] == "" && a.leadsTo(page[1:])
	})
}

// addressOf gives the address at which a file answers.
func (c *Call) addressOf(f file) address {
	last, all := path.Base(f.path), parsed(c.text("under"))
	for _, name := range strings.Split(split(f).below, "/") {
		all = all.with(name)
	}
	if pattern := path.Base(f.pattern.Text); !strings.HasPrefix(pattern, "*") {
		return all // its name says what it is, and no more
	}
	last = strings.TrimSuffix(last, path.Ext(last))
	for _, re := range c.regexps["without"] {
		last = re.Get().ReplaceAllString(last, "")
	}
	if last != "index" {
		all = all.with(last)
	}
	return all
}

// with puts a name of a folder or file behind an address.
func (a address) with(name string) address {
	switch {
	case name == "" || strings.HasPrefix(name, "(") || strings.HasPrefix(name, "@"):
		return a
	case strings.Contains(name, "[..."):
		return append(a, everyRest)
	case strings.Contains(name, "["):
		return append(a, "")
	}
	return append(a, name)
}

// parsed takes an address apart; what is put in when the program runs may be anything.
func parsed(text string) (all address) {
	if i := strings.IndexAny(text, "?#"); i >= 0 {
		text = text[:i]
	}
	for _, part := range strings.FieldsFunc(text, func(r rune) bool { return r == '/' }) {
		if strings.ContainsAny(part, "${}:*[") {
			part = ""
		}
		all = append(all, part)
	}
	return all
}

// withAny writes the parts that may be anything as such.
func withAny(a address) []string {
	all := slices.Clone(a)
	for i := range all {
		if all[i] == "" {
			all[i] = "…"
		}
	}
	return all
}

// nearAddress gives the one part of an address that is a slip, with what it should be; -1
// where something answers at it or below it, or no page is that near, or several are.
func nearAddress(got address, pages []address) (part int, want string) {
	part = -1
	for _, page := range pages {
		if got.leadsTo(page) {
			return -1, ""
		}
	}
	for _, page := range pages {
		at, differ := -1, 0
		for i := range got {
			if len(got) != len(page) || got[i] != page[i] && got[i] != "" && page[i] != "" {
				at, differ = i, differ+1
			}
		}
		if differ != 1 || len(got) != len(page) || len(got[at]) < 4 || page[at] == everyRest || names.Near(got[at], page[at]) == names.Apart {
			continue
		}
		if part >= 0 && (part != at || want != page[at]) {
			return -1, ""
		}
		part, want = at, page[at]
	}
	return part, want
}

// leadsTo says whether a page answers at an address or somewhere below it, or whether nobody
// can tell.
func (a address) leadsTo(page address) bool {
	if len(a) == 0 || strings.Contains(a[len(a)-1], ".") {
		return true // the first page; a file
	}
	for i := range a {
		switch {
		case i >= len(page):
			return false
		case page[i] == everyRest:
			return true
		case a[i] != page[i] && a[i] != "" && page[i] != "":
			return false
		}
	}
	return true
}

// answered says whether a file that answers for others has an address.
func (c *Call) answered(name string) bool {
	return slices.ContainsFunc(c.files("unless-in"), func(f file) bool {
		for text := c.textOf(f.path); ; {
			i := bytes.Index(text, []byte(name))
			if i < 0 {
				return false
			}
			text = text[i+len(name):]
			if len(text) == 0 || strings.IndexByte("/:*?#'\"` \t\r\n(", text[0]) >= 0 {
				return true
			}
		}
	})
}

// partNamed writes one part of an address as it should be.
func (c *Call) partNamed(s spoken, part int, want string) []edit.Edit {
	from, to := whereOf(s.name, part)
	return []edit.Edit{c.edit(s.file.path, refs.Span{Start: s.at.Start + int32(from), End: s.at.Start + int32(to)}, want)}
}

// whereOf gives where one part of an address begins and ends, as parsed takes it apart.
func whereOf(text string, part int) (from, to int) {
	for ; ; part-- {
		for from < len(text) && text[from] == '/' {
			from++
		}
		to = from + strings.IndexAny(text[from:]+"/", "/?#")
		if part == 0 {
			return from, to
		}
		from = to
	}
}
