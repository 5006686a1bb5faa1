package realign

import (
	"fmt"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/changes"
	"dicaxon/internal/edit"
	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/names"
	"dicaxon/internal/placement"
	"dicaxon/internal/refs"
	"dicaxon/internal/workspace"
)

// A cutting takes declarations out of a file into a new one, with the imports that they need; whoever
// takes them out of the old file takes them out of the new one then, or the old one hands them on.
type cutting struct {
	files   placement.Files
	graph   *refs.Graph
	l       *cutLanguage
	at, to  string // below the project
	text    []byte
	all     []statement
	takes   []string
	brought []string     // those of takes that nobody asked for, since only the others use them
	acting  map[int]bool // those without a name that do something with what is taken alone, by where they begin
	taken   func(s *statement) bool
	imports []importing
	edits   []edit.Edit
}

var exportsDefault = lazy.New(`^export\s+default\b`)

// Cut makes a group that takes the declarations of some names out of a file into a new one. Its error says
// why that is not done: nothing is, where it would not be clean.
func Cut(w *workspace.Workspace, from string, takes []string, to string) (Group, error) {
	for _, p := range w.Projects {
		if !p.Has(from) || !p.Has(to) || p.Placement == nil {
			continue
		}
		top := p.Placement.Top.Path()
		c := &cutting{files: placement.Files{Placement: p.Placement}, graph: p.Placement.Graph, at: strings.TrimPrefix(from, top), to: strings.TrimPrefix(to, top), takes: takes}
		makes, err := c.cut()
		if err != nil {
			return Group{}, fmt.Errorf("%s is not cut: %w", from, err)
		}
		g := Group{Kind: finding.Misplaced, Level: finding.Note, Path: from, Says: "you asked for it: " + strings.Join(c.takes, ", ") + " in a file of its own", Asked: true}
		for _, m := range makes {
			m.Path = top + m.Path
			g.Makes = append(g.Makes, m)
		}
		for _, e := range c.edits {
			e.Path = top + e.Path
			g.Edits = append(g.Edits, e)
		}
		return g, nil
	}
	return Group{}, fmt.Errorf("%s and %s lie in no project that is known", from, to)
}

// cut makes the new file, and notes the edits of the others.
func (c *cutting) cut() ([]changes.Make, error) {
	var err error
	if c.text, err = c.files.Text(c.at); err != nil {
		return nil, err
	}
	if c.files.IsFile(c.to) || c.files.IsFolder(c.to) {
		return nil, fmt.Errorf("%s is there already", c.to)
	}
	if path.Ext(c.at) == ".go" {
		return c.cutGo()
	}
	if err := c.open(); err != nil {
		return nil, err
	}
	needs, back, err := c.between()
	if err != nil {
		return nil, err
	}
	handsOn := c.loads()
	if !handsOn {
		if handsOn, err = c.users(); err != nil {
			return nil, err
		}
	}
	if len(needs) > 0 && (len(back) > 0 || handsOn) {
		return nil, fmt.Errorf("they would import each other: %s is used there, and %s here", needs[0], append(back, c.takes...)[0])
	}
	made := changes.Make{Path: c.to, Text: c.written(needs, back)}
	c.leave(back, handsOn)
	makes := []changes.Make{made}
	if dir := path.Dir(c.to); path.Ext(c.to) == ".py" && !c.files.IsFolder(dir) && c.files.IsFile(path.Join(path.Dir(c.at), packageMarker)) {
		makes = append(makes, changes.Make{Path: path.Join(dir, packageMarker)})
	}
	return makes, nil
}

// declared says whether all that is to be taken is among what the file declares.
func (c *cutting) declared(known []string) error {
	for _, name := range c.takes {
		if slices.Contains(known, name) {
			continue
		}
		if meant := names.Closest(name, known); meant != "" {
			return fmt.Errorf("it declares no %s; did you mean %s?", name, meant)
		}
		return fmt.Errorf("it declares no %s", name)
	}
	return nil
}

// open divides the file, and finds what is to be taken out of it.
func (c *cutting) open() error {
	if c.l = cutLanguageOf(c.at); c.l == nil {
		return fmt.Errorf("only files of Python, JavaScript, TypeScript and Go are")
	}
	if cutLanguageOf(c.to) != c.l {
		return fmt.Errorf("%s is of another language", c.to)
	}
	if c.all = statementsOf(c.at, c.text); c.all == nil {
		return fmt.Errorf("it cannot be read as a row of statements")
	}
	var known []string
	for _, s := range c.all {
		known = append(known, s.names...)
	}
	if err := c.declared(known); err != nil {
		return err
	}
	c.acting = map[int]bool{}
	c.taken = func(s *statement) bool {
		return c.acting[s.start] || slices.ContainsFunc(s.names, func(name string) bool { return slices.Contains(c.takes, name) })
	}
	for i := range c.all {
		if s := &c.all[i]; c.taken(s) && exportsDefault.Match(c.text[s.body:s.end]) {
			return fmt.Errorf("%s is what it exports by default; that goes with the file", s.names[0])
		}
	}
	for c.along() {
	}
	for i := range c.all {
		if s := &c.all[i]; s.imports {
			one, ok := importOf(c.l, string(c.text[s.body:s.end]))
			if !ok {
				return fmt.Errorf("line %d imports in a way that is not looked through", s.line)
			}
			one.of = s
			c.imports = append(c.imports, one)
		}
	}
	return nil
}

// along takes what nobody else sees or uses along with what uses it, and says whether there is such.
func (c *cutting) along() bool {
	for i := range c.all {
		o := &c.all[i]
		if c.actsOnTaken(o) {
			c.acting[o.start] = true
			return true
		}
		if c.taken(o) || !c.own(o) {
			continue
		}
		name, own, others := o.names[0], false, false
		for k := range c.all {
			if s := &c.all[k]; k != i && !s.imports && s.words[name] {
				own, others = own || c.taken(s), others || !c.taken(s)
			}
		}
		if own && !others {
			c.takes, c.brought = append(c.takes, name), append(c.brought, name)
			return true
		}
	}
	return false
}

// actsOnTaken says whether a statement without a name does something with what is taken, and uses nothing of
// what stays but what nobody else uses.
func (c *cutting) actsOnTaken(s *statement) bool {
	if !c.isOn(s) || c.acting[s.start] {
		return false
	}
	for i := range c.all {
		o := &c.all[i]
		if o == s || c.taken(o) || o.imports || !slices.ContainsFunc(o.names, func(name string) bool { return s.words[name] }) {
			continue
		}
		if !c.own(o) || slices.ContainsFunc(c.all, func(by statement) bool {
			return by.start != o.start && !by.imports && by.words[o.names[0]] && !c.taken(&by) && !c.isOn(&by)
		}) {
			return false
		}
	}
	return true
}

// isOn says whether a statement without a name does something with what is taken.
func (c *cutting) isOn(s *statement) bool {
	return len(s.names) == 0 && len(s.on) == 1 && !s.several && slices.Contains(c.takes, s.on[0])
}

// own says whether a statement declares one name that the file keeps for itself.
func (c *cutting) own(s *statement) bool {
	return !s.imports && len(s.names) == 1 && !(c.l == scriptCut && s.exported) && !(c.l == pythonCut && !strings.HasPrefix(s.names[0], "_")) && !c.takenByOthers(s.names[0])
}

// loads says whether each of the two files has to be loaded whenever the old one was: something taken is
// registered with what stays or is of others, or something that stays does something with what is taken. Then
// nobody is sent past the old file.
func (c *cutting) loads() bool {
	for i := range c.all {
		s := &c.all[i]
		uses := func(name string) bool { return s.words[name] }
		if c.taken(s) && slices.ContainsFunc(s.on, func(name string) bool { return !slices.Contains(c.takes, name) }) {
			return true
		}
		if !c.taken(s) && len(s.on) > 0 && slices.ContainsFunc(c.takes, uses) {
			return true
		}
	}
	return false
}

// between gives the names of what stays that are used by what is taken, and those of what is taken that are
// used by what stays.
func (c *cutting) between() (needs, back []string, err error) {
	for i := range c.all {
		s := &c.all[i]
		for k := range c.all {
			o := &c.all[k]
			if o.imports || s.imports || c.taken(s) == c.taken(o) {
				continue
			}
			if o.several {
				for name := range o.words {
					if c.taken(s) && s.words[name] && !c.imported(name) {
						return nil, nil, fmt.Errorf("line %d uses %s, which line %d may set beside others", s.line, name, o.line)
					}
				}
			}
			for _, name := range o.names {
				switch {
				case s.words[name] && c.taken(s):
					if !o.exported {
						return nil, nil, fmt.Errorf("line %d uses %s, which is not exported", s.line, name)
					}
					needs = append(needs, name)
				case s.words[name]:
					back = append(back, name)
				case s.quoted[name] && slices.Contains(s.names, "__all__"):
					back = append(back, name)
				case s.quoted[name]:
					return nil, nil, fmt.Errorf("line %d has %q in a text, which may mean what is declared in line %d", s.line, name, o.line)
				}
			}
		}
	}
	slices.Sort(needs)
	slices.Sort(back)
	return slices.Compact(needs), slices.Compact(back), nil
}

// imported says whether a name is one that the file takes from elsewhere.
func (c *cutting) imported(name string) bool {
	return slices.ContainsFunc(c.imports, func(i importing) bool {
		_, any := i.only(func(of string) bool { return of == name })
		return any
	})
}

// users lets those follow that take only what is taken out of the file, and says whether others need that
// the file hands it on.
func (c *cutting) users() (handsOn bool, err error) {
	type place struct {
		from string
		span refs.Span
	}
	by := map[place][]refs.Edge{}
	var order []place
	for _, e := range c.graph.To(c.at) {
		if e.From == c.at {
			continue
		}
		at := place{e.From, e.Ref.Span}
		if by[at] == nil {
			order = append(order, at)
		}
		by[at] = append(by[at], e)
	}
	for _, at := range order {
		all, own, others := by[at], 0, 0
		for _, e := range all {
			if slices.Contains(c.takes, e.Ref.Value) {
				own++
			} else {
				others++
			}
			whole := e.Ref.Value == "" || e.Ref.Value == names.BeforeDot(path.Base(c.at))
			handsOn = handsOn || e.Ref.Value == "*" || whole && c.saidIn(e.From)
		}
		switch {
		case own == 0 || others > 0 && c.parted(all[0]):
		case others > 0:
			handsOn = true
		case !c.respell(all[0]):
			handsOn = true
		}
	}
	return handsOn, nil
}
