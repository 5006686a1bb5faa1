package realign

import (
	"cmp"
	"fmt"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/changes"
	"dicaxon/internal/edit"
	"dicaxon/internal/refs"
	"dicaxon/internal/rules"
)

// A Remark is something that a plan leaves to people, with the place.
type Remark struct {
	Path string `json:"path"`
	Line int    `json:"line"`
	Says string `json:"says"`
	// About is the move that makes it doubtful, "" where it is no more than something that
	// stays to be done: what nobody asked for is not moved then.
	About string `json:"about,omitempty"`
	// Breaks says that the language does not allow it, so that it is not done though
	// somebody asked for it.
	Breaks bool `json:"breaks,omitempty"`
	// Bare says that it is no more than a word that a text has, and no part of a path.
	Bare bool `json:"-"`
	// Name and To are the name that cannot follow what it stands for, and where that goes, where it is about one.
	Name string `json:"-"`
	To   string `json:"-"`
}

// A follower finds the edits by which references of one project follow moves in it.
type follower struct {
	graph   *refs.Graph
	tree    refs.Tree
	after   *refs.Graph
	moved   *moved
	plan    *changes.Plan
	names   []rules.Named
	boxes   []boxing
	edits   []edit.Edit
	remarks []Remark
}

// Follow gives the edits that the references of a project need once the moves and makes of
// a plan are carried out, so that each leads where it led; and what has to be done by hand.
// Paths are those of the project.
func Follow(graph *refs.Graph, tree refs.Tree, named []rules.Named, p *changes.Plan) ([]edit.Edit, []Remark) {
	f := &follower{graph: graph, tree: tree, plan: p, names: named}
	f.moved = carried(tree, p)
	f.packages()
	f.moved.edited(f.edits)
	f.after = refs.NewGraph(f.moved)
	f.edges()
	f.mentions()
	f.compiled()
	f.globs()
	f.named()
	f.doubts()
	f.edits = settle(f.edits)
	f.format()
	return edit.InOrder(f.edits), f.remarks
}

// edges lets what the graph knows follow: what a file that moves names, and what names one.
func (f *follower) edges() {
	done := map[string]bool{}
	one := func(at string) {
		if !done[at] && refs.Reads(at) {
			done[at] = true
			f.file(at)
		}
	}
	var files []string
	for _, m := range f.plan.Moves {
		f.moved.each(strings.TrimSuffix(m.From, "/"), func(at string) { files = append(files, at) })
	}
	slices.Sort(files)
	for _, at := range files {
		one(at)
		for _, e := range f.graph.To(at) {
			one(e.From)
		}
	}
	for _, m := range f.plan.Moves {
		if strings.HasSuffix(m.From, "/") {
			for _, e := range f.graph.To(m.From) {
				one(e.From)
			}
		}
	}
	// A package of Go is its folder.
	for _, at := range files {
		for _, e := range f.graph.To(path.Dir(at)) {
			one(e.From)
		}
	}
}

// named writes anew the names by which a framework finds what moves.
func (f *follower) named() {
	stands := map[string]string{} // what a name stands for afterwards, "" for several
	for _, n := range f.names {
		if n.To == "" || n.Holds != "" {
			continue
		}
		to := f.plan.After(n.To)
		name := n.Name
		if to != n.To {
			name = n.Anew(f.plan.After(n.From), to)
		}
		if other, known := stands[n.From+"\x00"+name]; known && other != to {
			to = ""
		}
		stands[n.From+"\x00"+name] = to
	}
	for _, n := range f.names {
		from, to := f.plan.After(n.From), f.plan.After(n.To)
		if n.Holds != "" {
			f.keyOfFolder(n)
			continue
		}
		if n.To == "" || to == n.To && from == n.From {
			continue
		}
		text, err := f.tree.Text(n.From)
		name := n.Anew(from, to)
		if err != nil || name == n.Name || string(n.Span.In(text)) != n.Name {
			continue
		}
		if f.held(n.From, int(n.Span.Start)) || to == n.To && n.Anew(n.From, to) == name { // where it stands says nothing
			continue
		}
		line, _ := refs.Place(text, n.Span)
		switch {
		case n.Block != nil && f.box(n, text, line):
		case name == "":
			f.lost(Remark{Path: n.From, Line: line, Says: "it names " + n.Name + ", which goes to " + to + ", where it is not found by a name like that", Name: n.Name, To: to})
		case stands[n.From+"\x00"+name] == "":
			f.remark(n.From, line, "it names "+n.Name+", which goes to "+to+", where "+name+" would stand for something else, too")
		default:
			f.edit(n.From, line, int(n.Span.Start), int(n.Span.End), name)
		}
	}
	f.blocks()
}

// keyOfFolder lets the key of settings follow the folder that it names, where all files of a kind that lie in it go to
// another folder; where that cannot be, nobody asked to move them.
func (f *follower) keyOfFolder(n rules.Named) {
	to := f.plan.After(n.To)
	if to == n.To {
		to = f.holderAfter(n.To, n.Holds)
	}
	text, err := f.tree.Text(n.From)
	if to == n.To || err != nil {
		return
	}
	line, _ := refs.Place(text, n.Span)
	name := ""
	if to != "" {
		name = n.Anew(n.From, to)
	}
	switch {
	case name == "":
		for _, m := range f.plan.Moves {
			if strings.HasPrefix(m.From, n.To+"/") {
				f.remarks = append(f.remarks, Remark{Path: n.From, Line: line, Says: "its settings for " + n.To + "/ would hold for nothing", About: m.From})
			}
		}
	case name != n.Name && !f.held(n.From, int(n.Span.Start)):
		f.edit(n.From, line, int(n.Span.Start), int(n.Span.End), name)
	}
}

// holderAfter gives the folder in which all files of a kind lie that lie in one now: that one where some of them stay or
// none is there, "" where they go to several.
func (f *follower) holderAfter(folder, ending string) string {
	holders := map[string]bool{}
	f.tree.Each(func(at string) {
		below, in := strings.CutPrefix(at, folder+"/")
		if !in || path.Ext(at) != ending {
			return
		}
		after := path.Dir(f.plan.After(at))
		switch between := path.Dir(below); {
		case after == folder || strings.HasPrefix(after, folder+"/"):
			after = folder
		case between != ".": // with the same folders below it
			if holder, same := strings.CutSuffix(after, "/"+between); same {
				after = holder
			}
		}
		holders[after] = true
	})
	if len(holders) == 0 || holders[folder] {
		return folder
	}
	for holder := range holders {
		if len(holders) == 1 {
			return holder
		}
	}
	return ""
}

// A turn is a reference that has to be written otherwise.
type turn struct {
	edge refs.Edge
	to   refs.Spelling
	take string // what is taken out, where that is called otherwise now
}

// file respells the references of one file.
func (f *follower) file(at string) {
	newAt := f.plan.After(at)
	byPlace := map[refs.Span][]turn{}
	var order []refs.Span
	for _, e := range f.graph.From(at) {
		if len(e.To) == 0 || spaceLanguages[path.Ext(at)].whole {
			continue
		}
		t, needed := f.turn(e, newAt)
		span := e.Ref.Edit()
		if e.Ref.Relative > 0 {
			span = e.Ref.Span
		}
		if span.Len() == 0 {
			continue
		}
		if !needed {
			t = turn{edge: e, to: refs.Spelling{Name: e.Ref.Name, Relative: e.Ref.Relative}}
		}
		if byPlace[span] == nil {
			order = append(order, span)
		}
		byPlace[span] = append(byPlace[span], t)
	}
	for _, span := range order {
		f.write(at, span, byPlace[span])
	}
}

// turn says how a reference is written after the moves, and whether that is otherwise.
func (f *follower) turn(e refs.Edge, newFrom string) (turn, bool) {
	old := target(e)
	want := f.plan.After(old)
	ownSuper := path.Ext(e.From) == ".rs" && newFrom != e.From && strings.HasPrefix(e.Ref.Name, "super::") // see module
	if ownSuper || f.leads(newFrom, e.Ref, want, e.Within) {
		return turn{}, false
	}
	ref := e.Ref
	module := path.Ext(e.From) == ".py" && len(e.To) > 1 && ref.Value != ""
	if module && ref.Relative == 0 {
		ref.Name = strings.TrimPrefix(ref.Name+"."+ref.Value, ".")
	}
	spellings := refs.Respell(ref, e.From, old, newFrom, want)
	if module && ref.Relative > 0 { // the module is what is taken out of its package
		stem := strings.TrimSuffix(strings.TrimSuffix(want, path.Ext(want)), "/__init__")
		spellings = refs.Respell(refs.Ref{Relative: ref.Relative}, e.From, path.Dir(old), newFrom, path.Dir(stem))
		for i := range spellings {
			spellings[i].Name = strings.TrimPrefix(spellings[i].Name+"."+path.Base(stem), ".")
		}
	}
	for _, s := range spellings {
		t := turn{edge: e, to: s}
		try := e.Ref
		if module {
			cut := strings.LastIndexByte(s.Name, '.')
			if cut < 0 && ref.Relative == 0 {
				continue
			}
			if t.to.Name, t.take = s.Name[:max(cut, 0)], s.Name[cut+1:]; t.take == e.Ref.Value {
				t.take = ""
			}
		}
		try.Name, try.Relative, try.Value = t.to.Name, t.to.Relative, cmp.Or(t.take, try.Value)
		if f.leads(newFrom, try, want, e.Within) {
			return t, true
		}
	}
	f.remark(e.From, e.Ref.Line, fmt.Sprintf("it names %s, which goes to %s, in a way that nobody but you can write anew", strings.Repeat(".", e.Ref.Relative)+e.Ref.Name, want))
	return turn{}, false
}

// target gives what a reference leads to first of all: of a module and what is taken out of
// it, the latter.
func target(e refs.Edge) string {
	if path.Ext(e.From) == ".py" && len(e.To) > 1 {
		return e.To[1]
	}
	return e.To[0]
}

// leads says whether a reference leads to a path after the moves. What lacked before what is
// taken out of it, within, may still do so.
func (f *follower) leads(from string, r refs.Ref, want, within string) bool {
	a := f.after.Answer(from, r)
	return (a.Within == "" || within != "" && a.Within == f.plan.After(within)) && slices.ContainsFunc(a.To, func(to string) bool {
		return to == want || path.Dir(to) == want && refs.IsIndex(path.Base(to)) // a folder that has a file to stand for it now
	})
}

// write makes the edits of the references that stand in one place.
func (f *follower) write(at string, span refs.Span, turns []turn) {
	first := turns[0]
	same := !slices.ContainsFunc(turns, func(t turn) bool { return t.to != first.to })
	text, err := f.tree.Text(at)
	if err != nil {
		return
	}
	if !same {
		f.part(at, text, turns)
		return
	}
	for _, t := range turns {
		if t.take != "" {
			f.take(at, text, t)
		}
	}
	if first.to.Name == first.edge.Ref.Name && first.to.Relative == first.edge.Ref.Relative {
		return
	}
	if path.Ext(at) == ".py" {
		start := int(span.Start)
		if first.edge.Ref.Name != "" {
			for start > 0 && text[start-1] == '.' {
				start--
			}
		}
		f.edit(at, first.edge.Ref.Line, start, int(span.End), strings.Repeat(".", first.to.Relative)+first.to.Name)
		if first.edge.Ref.Value == "" {
			f.uses(at, text, first)
		}
		return
	}
	f.edit(at, first.edge.Ref.Line, int(span.Start), int(span.End), first.to.Name)
}

func (f *follower) edit(at string, line, start, end int, text string) {
	f.edits = append(f.edits, edit.Edit{Path: at, Line: line, Start: start, End: end, Text: text})
}

func (f *follower) remark(at string, line int, says string) {
	f.lost(Remark{Path: at, Line: line, Says: says})
}

// lost notes a remark, each once.
func (f *follower) lost(one Remark) {
	if !slices.ContainsFunc(f.remarks, func(r Remark) bool { return r.Path == one.Path && r.Says == one.Says }) {
		f.remarks = append(f.remarks, one)
	}
}
