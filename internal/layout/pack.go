package layout

import (
	"encoding/json"
	"fmt"
	"io/fs"

	"dicaxon/internal/lazy"
	"dicaxon/internal/names"
	"dicaxon/internal/source"
)

// The built-in layouts are kept a second time in a packed form, resolved and
// checked, because reading YAML with positions takes longer than a whole check
// of a small repository may.

type packed struct {
	Name, Title, Suits, Describes string
	Base, General                 bool                   `json:",omitempty"`
	BuildsOn                      []string               `json:",omitempty"`
	Signs                         []Sign                 `json:",omitempty"`
	Shapes                        map[string]names.Shape `json:",omitempty"`
	Asks                          []Ask                  `json:",omitempty"`
	FirstSteps                    []string               `json:",omitempty"`
	Rules                         []Rule                 `json:",omitempty"`
	Marks                         [2]string
	Root                          packedEntry
}

type packedEntry struct {
	Key             string          `json:"k,omitempty"`
	Need            Need            `json:"n,omitempty"`
	Role            string          `json:"r,omitempty"`
	Others          Need            `json:"o,omitempty"`
	OthersSaid      bool            `json:"os,omitempty"`
	Unless          []string        `json:"x,omitempty"`
	Wish            bool            `json:"w,omitempty"`
	Executable      bool            `json:"ex,omitempty"`
	Unit            string          `json:"u,omitempty"`
	Kind            []string        `json:"ki,omitempty"`
	Starter         string          `json:"s,omitempty"`
	Shows           string          `json:"sh,omitempty"`
	Lacks           string          `json:"la,omitempty"`
	NotHere         []packedNotHere `json:"nh,omitempty"`
	MadeBy          string          `json:"mb,omitempty"`
	Git             string          `json:"g,omitempty"`
	When            *Condition      `json:"wn,omitempty"`
	AtLeast, AtMost int             `json:",omitempty"`
	Layout          string          `json:"l,omitempty"` // where it differs from the parent's
	File            string          `json:"f,omitempty"` // where it differs from the parent's
	Line            int             `json:"i,omitempty"`
	StartersOf      string          `json:"so,omitempty"` // the layout that the starter belongs to
	Marks           *[2]string      `json:"m,omitempty"`
	Entries         []packedEntry   `json:"e,omitempty"`
}

type packedNotHere struct{ What, GoesTo, Like, Shows string }

// Pack writes a built-in layout, resolved, in its packed form.
func Pack(l *Layout) ([]byte, error) {
	p := packed{Name: l.Name, Title: l.Title, Suits: l.Suits, Describes: l.Describes, Base: l.Base, General: l.General, BuildsOn: l.BuildsOn,
		Signs: l.Signs, Shapes: l.Shapes, Asks: l.Asks, FirstSteps: l.FirstSteps, Rules: l.Rules, Marks: l.Marks, Root: packEntry(l.Root, l.Name, "")}
	return json.Marshal(p)
}

func packEntry(e *Entry, layoutName, file string) packedEntry {
	p := packedEntry{Key: e.Key, Need: e.Need, Role: e.Role, Others: e.Others, OthersSaid: e.OthersSaid, Unless: e.unless, Wish: e.Wish, Executable: e.Executable, Unit: e.Unit, Kind: e.kind, Starter: e.Starter,
		MadeBy: e.MadeBy, Git: e.Git, When: e.When, AtLeast: e.AtLeast, AtMost: e.AtMost, Line: e.Line}
	if e.Layout != layoutName {
		p.Layout, layoutName = e.Layout, e.Layout
	}
	if e.File != file {
		p.File, file = e.File, e.File
	}
	if e.Shows != nil {
		p.Shows = e.Shows.String()
	}
	if e.Lacks != nil {
		p.Lacks = e.Lacks.String()
	}
	if e.Starter != "" {
		p.StartersOf, p.Marks = e.startersOf, &e.marks
	}
	for _, nh := range e.NotHere {
		n := packedNotHere{What: nh.What, GoesTo: nh.GoesTo}
		if nh.Like != nil {
			n.Like = nh.Like.Text
		}
		if nh.Shows != nil {
			n.Shows = nh.Shows.String()
		}
		p.NotHere = append(p.NotHere, n)
	}
	for _, c := range e.Entries {
		p.Entries = append(p.Entries, packEntry(c, layoutName, file))
	}
	return p
}

// Unpack reads the packed form. Starters gives the folder of a built-in layout
// by its name.
func Unpack(text []byte, starters func(name string) (fs.FS, error)) (*Layout, error) {
	var p packed
	if err := json.Unmarshal(text, &p); err != nil {
		return nil, fmt.Errorf("a packed layout is damaged: %w", err)
	}
	l := &Layout{Name: p.Name, Title: p.Title, Suits: p.Suits, Describes: p.Describes, Base: p.Base, General: p.General, BuildsOn: p.BuildsOn,
		Signs: p.Signs, Shapes: p.Shapes, Asks: p.Asks, FirstSteps: p.FirstSteps, Rules: p.Rules, Marks: p.Marks}
	for i := range l.Rules {
		l.Rules[i].Checked = true
	}
	root, err := unpackEntry(&p.Root, p.Name, "", p.Shapes, starters)
	if err != nil {
		return nil, err
	}
	root.Folder = true
	l.Root = root
	return l, (&parser{layout: l, checked: true}).finish()
}

func unpackEntry(p *packedEntry, layoutName, file string, own map[string]names.Shape, starters func(string) (fs.FS, error)) (*Entry, error) {
	e := &Entry{}
	if p.Key != "" {
		var err error
		if e, err = parseKey(&source.Node{Text: p.Key, File: &source.File{}}, own); err != nil {
			return nil, err
		}
	}
	if p.Layout != "" {
		layoutName = p.Layout
	}
	if p.File != "" {
		file = p.File
	}
	e.Need, e.Role, e.Others, e.OthersSaid, e.Unit, e.Starter = p.Need, p.Role, p.Others, p.OthersSaid, p.Unit, p.Starter
	e.unless, e.Wish, e.Executable = p.Unless, p.Wish, p.Executable
	e.kind, e.MadeBy, e.Git, e.When, e.AtLeast, e.AtMost = p.Kind, p.MadeBy, p.Git, p.When, p.AtLeast, p.AtMost
	e.Layout, e.File, e.Line, e.startersOf = layoutName, file, p.Line, p.StartersOf
	if p.Marks != nil {
		e.marks = *p.Marks
	}
	var err error
	if p.Shows != "" {
		e.Shows = lazy.New(p.Shows)
	}
	if p.Lacks != "" {
		e.Lacks = lazy.New(p.Lacks)
	}
	if p.StartersOf != "" {
		if e.starters, err = starters(p.StartersOf); err != nil {
			return nil, err
		}
	}
	for _, n := range p.NotHere {
		nh := NotHere{What: n.What, GoesTo: n.GoesTo}
		if n.Like != "" {
			like, err := parsePattern(n.Like)
			if err != nil {
				return nil, err
			}
			nh.Like = &like
		}
		if n.Shows != "" {
			nh.Shows = lazy.New(n.Shows)
		}
		e.NotHere = append(e.NotHere, nh)
	}
	for i := range p.Entries {
		c, err := unpackEntry(&p.Entries[i], layoutName, file, own, starters)
		if err != nil {
			return nil, err
		}
		c.Parent = e
		e.Entries = append(e.Entries, c)
	}
	return e, nil
}
