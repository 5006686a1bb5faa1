package app

import (
	"bytes"
	"encoding/gob"
	"os"
	"path/filepath"
	"time"

	"dicaxon/internal/catalogue"
	"dicaxon/internal/finding"
	"dicaxon/internal/history"
	"dicaxon/internal/identify"
	"dicaxon/internal/layout"
	"dicaxon/internal/memory"
	"dicaxon/internal/tree"
	"dicaxon/internal/workspace"
)

// A past is what was found in a repository by the run before. It holds as long as
// nothing that a check goes by has changed: the seal of the repository, what git
// recorded of it, and whatever was read besides. A nil past remembers nothing.
type past struct {
	path    string // of the file that keeps it
	began   time.Time
	recalls bool // what was found may be taken from there
	keeps   bool // and what is found now may be kept
	seal    tree.Seal
	git     string
	newest  int64 // when the latest of all that changed
}

// found is what is kept of a check.
type found struct {
	Seal     tree.Seal
	Git      string
	Asked    []asked
	Projects []project
}

// asked is a path that no seal covers, and what stood there.
type asked struct {
	Path                   string
	Size, Changed, Altered int64
	Inode                  uint64
}

// project is a workspace.Project as it is kept: what the findings are told with.
type project struct {
	At, Layout, Title, Framework string
	Known, Named                 bool
	Answers                      map[string]string
	Evidence, Close              []string
	Nearest                      *identify.Candidate
	Files, Folders               int
	Findings                     []finding.Finding
}

// pastFor opens the past of what lies on the disk, nil where the options ask for
// something else.
func pastFor(root string, o Options) *past {
	if !o.Remember || o.At != "" || o.Staged || o.Since != "" || o.Layout != "" || o.Schemas != "" {
		return nil
	}
	full, err := filepath.Abs(root)
	if err != nil {
		return nil
	}
	at, err := memory.Path("found", full)
	if err != nil {
		return nil
	}
	return &past{path: at, began: time.Now(), recalls: o.Findings, keeps: len(o.Only)+len(o.Skip) == 0}
}

// there says whether a run before left anything.
func (p *past) there() bool {
	if p == nil || !p.recalls {
		return false
	}
	_, err := os.Stat(p.path)
	return err == nil
}

// recall gives the workspace its projects with what was found in them, and says
// whether it could.
func (p *past) recall(w *workspace.Workspace) bool {
	if p == nil {
		return false
	}
	p.seal, p.newest = w.Repository.Seal()
	if h, err := history.Open(w.Root); err == nil {
		var written int64
		p.git, written = h.State()
		p.newest = max(p.newest, written)
	}
	if !p.recalls || len(w.Repository.Troubles) > 0 {
		return false
	}
	data, err := memory.Read(p.path)
	if err != nil {
		return false
	}
	var f found
	if err := gob.NewDecoder(bytes.NewReader(data)).Decode(&f); err != nil || f.Seal != p.seal || f.Git != p.git {
		return false
	}
	for _, a := range f.Asked {
		if a != stateOf(w, a.Path) {
			return false
		}
	}
	for i := range f.Projects {
		one := &f.Projects[i]
		folder := w.Inside(one.At)
		if folder == nil {
			return false
		}
		l := catalogue.Unknown
		if one.Known {
			l = &layout.Layout{Name: one.Layout, Title: one.Title}
		}
		w.Projects = append(w.Projects, &workspace.Project{At: one.At, Layout: l, Answers: one.Answers, Evidence: one.Evidence, Close: one.Close, Named: one.Named,
			Nearest: one.Nearest, Framework: one.Framework, Folder: folder, Files: one.Files, Folders: one.Folders, Findings: one.Findings})
	}
	return true
}

func stateOf(w *workspace.Workspace, path string) asked {
	a := asked{Path: path}
	a.Size, a.Changed, a.Altered, a.Inode = w.Repository.State(path)
	return a
}

// keep remembers what was found, unless something that it rests on changed a moment
// ago, could not be read, or lies where nobody watches: a team's own layout.
func (p *past) keep(w *workspace.Workspace) {
	if p == nil || !p.keeps || len(w.Repository.Troubles) > 0 {
		return
	}
	f := found{Seal: p.seal, Git: p.git}
	for _, at := range w.Repository.Asked() {
		a := stateOf(w, at)
		p.newest = max(p.newest, a.Changed, a.Altered)
		f.Asked = append(f.Asked, a)
	}
	if p.began.Sub(time.Unix(0, p.newest)) < memory.Settled {
		return
	}
	for _, one := range w.Projects {
		if one.Layout.Dir != "" {
			return
		}
		kept := project{At: one.At, Layout: one.Layout.Name, Title: one.Layout.Title, Framework: one.Framework, Known: one.Known(), Named: one.Named,
			Answers: one.Answers, Evidence: one.Evidence, Close: one.Close, Files: one.Files, Folders: one.Folders, Findings: one.Findings}
		if n := one.Nearest; n != nil {
			kept.Nearest = &identify.Candidate{Layout: n.Layout, Score: n.Score, Evidence: n.Evidence}
		}
		f.Projects = append(f.Projects, kept)
	}
	var data bytes.Buffer
	if gob.NewEncoder(&data).Encode(f) == nil {
		_ = memory.Write(p.path, data.Bytes()) // who cannot remember finds out again
	}
}
