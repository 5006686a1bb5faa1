// Package realign turns findings into a plan: moves, new files, and the edits by which
// every reference still leads where it led. A plan is a value; nothing here writes.
package realign

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/changes"
	"dicaxon/internal/edit"
	"dicaxon/internal/refs"
)

// A moved is a project as it will be, for looking names up in it.
type moved struct {
	refs.Tree
	plan    *changes.Plan
	from    map[string]string // where files that are carried somewhere come from
	folders map[string][]string
	gone    map[string]bool // files and folders that are carried away
	texts   map[string][]byte
}

// carried gives the tree after the moves and the new files of a plan, whose paths are
// those of the project.
func carried(before refs.Tree, p *changes.Plan) *moved {
	m := &moved{Tree: before, plan: p, from: map[string]string{}, folders: map[string][]string{}, gone: map[string]bool{}, texts: map[string][]byte{}}
	for _, one := range p.Moves {
		m.each(strings.TrimSuffix(one.From, "/"), func(at string) {
			m.gone[at] = true
			m.add(p.After(at), at)
		})
		m.gone[strings.TrimSuffix(one.From, "/")] = true
	}
	for _, one := range p.Makes {
		if at, folder := strings.CutSuffix(one.Path, "/"); folder {
			m.name(at)
		} else {
			m.add(one.Path, "")
			m.texts[one.Path] = []byte(one.Text)
		}
	}
	return m
}

// each yields the files at and below a path.
func (m *moved) each(at string, yield func(string)) {
	if m.Tree.IsFile(at) {
		yield(at)
		return
	}
	m.gone[at] = true
	for _, name := range m.Tree.Names(at) {
		m.each(path.Join(at, name), yield)
	}
}

func (m *moved) add(at, from string) {
	if _, known := m.from[at]; !known {
		m.name(at)
	}
	m.from[at] = from
}

// name enters a path into the folder around it.
func (m *moved) name(at string) {
	for at != "." {
		dir := path.Dir(at)
		if slices.Contains(m.folders[dir], path.Base(at)) {
			return
		}
		m.folders[dir] = append(m.folders[dir], path.Base(at))
		at = dir
	}
}

// edited gives the text of files once edits are made, by the names of before.
func (m *moved) edited(all []edit.Edit) {
	for at, edits := range edit.ByFile(all) {
		text, err := m.Tree.Text(at)
		if err != nil {
			continue
		}
		if made, err := edit.Apply(text, edits); err == nil {
			m.texts[m.plan.After(at)] = made
		}
	}
}

func (m *moved) IsFile(at string) bool {
	at = path.Clean(at)
	if _, there := m.from[at]; there {
		return true
	}
	return !m.gone[at] && m.Tree.IsFile(at)
}

func (m *moved) IsFolder(at string) bool {
	at = path.Clean(at)
	if len(m.folders[at]) > 0 && at != "." {
		if _, file := m.from[at]; !file {
			return true
		}
	}
	return !m.gone[at] && m.Tree.IsFolder(at)
}

func (m *moved) Names(folder string) []string {
	folder = path.Clean(folder)
	var all []string
	if !m.gone[folder] {
		for _, name := range m.Tree.Names(folder) {
			if !m.gone[path.Join(folder, name)] {
				all = append(all, name)
			}
		}
	}
	for _, name := range m.folders[folder] {
		if !slices.Contains(all, name) {
			all = append(all, name)
		}
	}
	slices.Sort(all)
	return all
}

func (m *moved) Each(yield func(string)) {
	m.Tree.Each(func(at string) {
		if !m.gone[at] {
			yield(at)
		}
	})
	for at := range m.from {
		yield(at)
	}
}

func (m *moved) Text(at string) ([]byte, error) {
	at = path.Clean(at)
	if text, ok := m.texts[at]; ok {
		return text, nil
	}
	if from := m.from[at]; from != "" {
		return m.Tree.Text(from)
	}
	return m.Tree.Text(at)
}
