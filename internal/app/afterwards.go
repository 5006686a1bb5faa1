package app

import (
	"context"
	"path"
	"slices"
	"strings"
	"sync"

	"dicaxon/internal/changes"
	"dicaxon/internal/edit"
	"dicaxon/internal/history"
	"dicaxon/internal/tree"
	"dicaxon/internal/workspace"
)

// madeSo checks a repository as it will be once a plan is carried out.
func madeSo(ctx context.Context, w *workspace.Workspace, p *changes.Plan, o Options) (*Report, error) {
	files, texts, err := carriedOut(w.Repository, p)
	if err != nil {
		return nil, err
	}
	o.Remember, o.apart = false, true
	back := p.Back()
	text := func(at string) ([]byte, error) {
		if text, known := texts[at]; known {
			return text, nil
		}
		return w.Repository.Text(back.After(at))
	}
	o.tracked = sync.OnceValue(func() map[string]bool {
		h, err := history.Open(w.Root)
		if err != nil {
			return nil
		}
		all, _ := h.Tracked()
		now := make(map[string]bool, len(all))
		for at := range all {
			now[p.After(at)] = true
		}
		return now
	})
	ignores := func(at string) bool { return path.Base(at) == ".gitignore" }
	if slices.ContainsFunc(p.Edits, func(e edit.Edit) bool { return ignores(e.Path) }) || slices.ContainsFunc(p.Makes, func(m changes.Make) bool { return ignores(m.Path) }) {
		// What it names from then on is seen no more, unless git tracks it.
		then := tree.FromRecord(w.Root, files, nil, text)
		files = slices.DeleteFunc(files, func(f tree.Recorded) bool { return then.Ignores(f.Path) && !o.tracked()[f.Path] })
	}
	o.made = func(watch func(string) bool) *tree.Repository { return tree.FromRecord(w.Root, files, watch, text) }
	o.settled = w.Projects
	return Check(ctx, w.Root, o)
}

// carriedOut lists the files of a repository after a plan, with the texts that change.
func carriedOut(r *tree.Repository, p *changes.Plan) (files []tree.Recorded, texts map[string][]byte, err error) {
	texts = map[string][]byte{}
	for _, f := range r.Folders {
		if f.Unread {
			continue
		}
		for i := range f.Nodes {
			n := &f.Nodes[i]
			at := f.Path() + n.Name
			if n.Kind == tree.IsFolder || n.Ignored || slices.Contains(p.Drops, at) {
				continue
			}
			files = append(files, tree.Recorded{Path: p.After(at), Kind: n.Kind})
		}
	}
	for at, edits := range edit.ByFile(p.Edits) {
		text, err := r.Text(at)
		if err != nil {
			return nil, nil, err
		}
		if texts[p.After(at)], err = edit.Apply(text, edits); err != nil {
			return nil, nil, err
		}
	}
	for _, m := range p.Makes {
		if strings.HasSuffix(m.Path, "/") {
			continue
		}
		files = append(files, tree.Recorded{Path: m.Path})
		texts[m.Path] = []byte(m.Text)
	}
	return files, texts, nil
}

// A Changed is one file before and after; a path is "" where it is not there.
type Changed struct {
	From, To   string
	Old, New   []byte
	Executable bool
}

// Changes gives every file that a plan changes in a workspace.
func Changes(w *workspace.Workspace, p *changes.Plan) ([]Changed, error) {
	files, texts, err := carriedOut(w.Repository, p)
	if err != nil {
		return nil, err
	}
	var all []Changed
	back := p.Back()
	for _, f := range files {
		from := back.After(f.Path)
		text, changed := texts[f.Path]
		made := slices.IndexFunc(p.Makes, func(m changes.Make) bool { return m.Path == f.Path })
		switch {
		case made >= 0:
			all = append(all, Changed{To: f.Path, New: text, Executable: p.Makes[made].Executable})
			continue
		case !changed && from == f.Path:
			continue
		}
		old, err := w.Repository.Text(from)
		if err != nil {
			return nil, err
		}
		if !changed {
			text = old
		}
		all = append(all, Changed{From: from, To: f.Path, Old: old, New: text, Executable: w.Repository.Executable(from)})
	}
	for _, at := range p.Drops {
		old, err := w.Repository.Text(at)
		if err != nil {
			return nil, err
		}
		all = append(all, Changed{From: at, Old: old, Executable: w.Repository.Executable(at)})
	}
	slices.SortFunc(all, func(a, b Changed) int { return strings.Compare(a.To+a.From, b.To+b.From) })
	return all, nil
}
