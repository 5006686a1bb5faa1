// Package scaffold starts a project from a layout: it plans every file, then
// writes all of them or none.
package scaffold

import (
	"cmp"
	"fmt"
	"maps"
	"slices"
	"strings"

	"dicaxon/internal/changes"
	"dicaxon/internal/layout"
	"dicaxon/internal/names"
)

// An Item is one file or folder to be made.
type Item struct {
	Path   string // below the project, a folder's ends in "/"
	Text   []byte // of a file
	Entry  *layout.Entry
	Marker bool // it is only there to make version control keep its folder
}

// Made is the item as a change to a repository; folder is the path there of the project, ""
// or ending in "/".
func (i *Item) Made(folder string) changes.Make {
	return changes.Make{Path: folder + i.Path, Text: string(i.Text), Executable: i.Entry.Executable}
}

// A Plan is a project to be made.
type Plan struct {
	Layout     *layout.Layout
	Items      []Item // folders before what is in them
	FirstSteps []string
}

// marker keeps a folder that holds nothing else.
const marker = ".gitkeep"

// Complete gives the answers with defaults for those that are left out, or
// says which cannot be taken.
func Complete(l *layout.Layout, answers map[string]string) (map[string]string, error) {
	for _, name := range slices.Sorted(maps.Keys(answers)) {
		if err := l.CheckAnswer(name, answers[name]); err != nil {
			return nil, err
		}
	}
	all := map[string]string{}
	for i := range l.Asks {
		ask := &l.Asks[i]
		all[ask.Name] = cmp.Or(answers[ask.Name], ask.Default)
		seen := map[string]bool{}
		for _, one := range ask.Answers(all[ask.Name]) {
			if seen[one] {
				return nil, fmt.Errorf("%s names %q twice", ask.Name, one)
			}
			seen[one] = true
		}
	}
	return all, nil
}

// Make plans a project. Answers left out get their defaults. The error says
// which answer or which starter is at fault.
func Make(l *layout.Layout, answers map[string]string) (*Plan, error) {
	answers, err := Complete(l, answers)
	if err != nil {
		return nil, err
	}
	m := &maker{layout: l, answers: map[string][]string{}, data: map[string]any{}, plan: &Plan{Layout: l}, made: map[string]string{}}
	for i := range l.Asks {
		ask := &l.Asks[i]
		m.answers[ask.Name] = ask.Answers(answers[ask.Name])
		if ask.Several {
			m.data[names.Plural(ask.Name)] = m.answers[ask.Name]
		} else {
			m.data[ask.Name] = answers[ask.Name]
		}
	}
	if _, err := m.folder(l.Root, "", nil); err != nil {
		return nil, err
	}
	for _, step := range l.FirstSteps {
		text, err := m.render("first-steps", step, l.Marks, nil)
		if err != nil {
			return nil, err
		}
		m.plan.FirstSteps = append(m.plan.FirstSteps, string(text))
	}
	return m.plan, nil
}

// recordName is the file that says which layout a project follows.
const recordName = "dicaxon.yaml"

// Record adds the file that says which layout the project follows, called as it is
// from there, so that a check of it needs no options. Only the answers that name
// one thing are worth keeping.
func (p *Plan) Record(called string, answers map[string]string) {
	for _, item := range p.Items {
		if item.Path == recordName {
			return
		}
	}
	var b strings.Builder
	fmt.Fprintf(&b, "dicaxon: %s\nprojects:\n  - layout: %q\n", layout.Version, called)
	var kept []string
	for _, name := range slices.Sorted(maps.Keys(answers)) {
		if ask := p.Layout.Ask(name); ask != nil && !ask.Several {
			kept = append(kept, fmt.Sprintf("%s: %q", name, answers[name]))
		}
	}
	if kept != nil {
		fmt.Fprintf(&b, "    answers: {%s}\n", strings.Join(kept, ", "))
	}
	p.Items = append(p.Items, Item{Path: recordName, Text: []byte(b.String()), Entry: &layout.Entry{Role: "Says which layout the project follows."}})
}

type maker struct {
	layout  *layout.Layout
	answers map[string][]string
	data    map[string]any
	plan    *Plan
	made    map[string]string // by how a disk that is blind to case knows them
	size    int               // of all texts, in bytes
}

// What a project may hold that a layout starts.
const (
	mostItems = 10_000
	mostBytes = 64 << 20
)

// folder plans what is in a folder and says whether that is anything.
func (m *maker) folder(e *layout.Entry, at string, env *layout.Env) (any bool, err error) {
	for _, c := range e.Entries {
		if c.Deep || !starts(c) {
			continue
		}
		all, err := m.bind(c, env)
		if err != nil {
			return any, err
		}
		for _, bound := range all {
			if err := m.entry(e, c, at, bound); err != nil {
				return any, err
			}
			any = true
		}
	}
	return any, nil
}

// starts says whether scaffold makes the entry: it has a starter, something in
// it has one, or it is a folder that is wanted.
func starts(e *layout.Entry) bool {
	if e.MadeBy != "" || e.Need.Banned() {
		return false
	}
	return hasStarter(e) || e.Folder && e.Need.Wanted()
}

func hasStarter(e *layout.Entry) bool {
	return e.Starter != "" || slices.ContainsFunc(e.Entries, hasStarter)
}

// bind gives the captured names for each time that the entry is made: once, or
// once for each of several answers. An open name gives none.
func (m *maker) bind(e *layout.Entry, env *layout.Env) ([]*layout.Env, error) {
	all := []*layout.Env{env}
	for _, name := range e.Spellings[0].Captures() {
		if _, bound := env.Get(name); bound {
			continue
		}
		if len(all)*len(m.answers[name]) > mostItems {
			return nil, fmt.Errorf("%s would be made more than %d times: fewer answers make fewer", e.Label(), mostItems)
		}
		var next []*layout.Env
		for _, value := range m.answers[name] {
			for _, before := range all {
				next = append(next, before.Bind(name, value))
			}
		}
		all = next
	}
	return all, nil
}

func (m *maker) entry(parent, e *layout.Entry, at string, env *layout.Env) error {
	name, complete := e.Name(env)
	if !complete {
		return nil
	}
	if other := parent.Scope.Exact(name, e.Folder); other != nil && other != e {
		return fmt.Errorf("%q cannot stand for %s: %s has that name for another purpose (%s)", name, e.Label(), m.layout.Name, other.Role)
	}
	if err := layout.PlainName(name); err != nil {
		return fmt.Errorf("%q cannot stand for %s: %w", name, e.Label(), err)
	}
	if why := names.Unportable(name); why != "" {
		return fmt.Errorf("%q cannot stand for %s: it %s", name, e.Label(), why)
	}
	where := at + name
	if e.Folder {
		where += "/"
	}
	if len(m.plan.Items) >= mostItems {
		return fmt.Errorf("the project would hold more than %d files and folders: fewer answers make fewer", mostItems)
	}
	switch folded := names.Folded(where); m.made[folded] {
	case "":
		m.made[folded] = where
	case where:
		return fmt.Errorf("%s would be made twice: two answers give one name", where)
	default:
		return fmt.Errorf("%s and %s differ in case only: many disks hold one of them", m.made[folded], where)
	}
	item := Item{Path: where, Entry: e}
	if !e.Folder {
		text, err := e.StarterText()
		if err != nil {
			return err
		}
		if item.Text, err = m.render(e.Starter+layout.StarterEnding, text, e.Marks(), env); err != nil {
			return fmt.Errorf("a starter of %s does not render: %w", e.Layout, err)
		}
	}
	m.plan.Items = append(m.plan.Items, item)
	if !e.Folder {
		return nil
	}
	any, err := m.folder(e, where, env)
	if err == nil && !any {
		m.plan.Items = append(m.plan.Items, Item{Path: where + marker, Entry: e, Marker: true})
	}
	return err
}

// render fills in a starter.
func (m *maker) render(name, text string, marks [2]string, env *layout.Env) ([]byte, error) {
	data := maps.Clone(m.data)
	for ; env != nil; env = env.Next {
		data[env.Name] = env.Value
	}
	made, err := layout.Render(name, text, marks, data)
	if m.size += len(made); err == nil && m.size > mostBytes {
		err = fmt.Errorf("the project would hold more than %d bytes", mostBytes)
	}
	return made, err
}

// Part plans what an entry of a layout asks for in a project that is there: the file, or
// the folder with what is in it that is wanted. Several answers are given by the names of
// the units that there are, one by a captured name or the default; at is the path of the
// folder that it comes into, below the project.
func Part(l *layout.Layout, e *layout.Entry, at string, env *layout.Env, one map[string]string, units map[string][]string) ([]Item, error) {
	m := &maker{layout: l, answers: map[string][]string{}, data: map[string]any{}, plan: &Plan{Layout: l}, made: map[string]string{}}
	for i := range l.Asks {
		ask := &l.Asks[i]
		switch value, bound := env.Get(ask.Name); {
		case ask.Several:
			m.answers[ask.Name] = units[ask.Name]
			m.data[names.Plural(ask.Name)] = units[ask.Name]
		case bound:
			m.answers[ask.Name], m.data[ask.Name] = []string{value}, value
		default:
			value := cmp.Or(one[ask.Name], ask.Default)
			m.answers[ask.Name], m.data[ask.Name] = []string{value}, value
		}
	}
	if !starts(e) {
		return nil, nil
	}
	err := m.entry(e.Parent, e, at, env)
	return m.plan.Items, err
}
