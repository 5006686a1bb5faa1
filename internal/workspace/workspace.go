// Package workspace finds the root of a repository, reads its dicaxon.yaml, and
// settles which project in it follows which layout.
package workspace

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"path"
	"path/filepath"
	"slices"
	"strings"
	"sync"

	"dicaxon/internal/catalogue"
	"dicaxon/internal/finding"
	"dicaxon/internal/history"
	"dicaxon/internal/identify"
	"dicaxon/internal/layout"
	"dicaxon/internal/placement"
	"dicaxon/internal/reconcile"
	"dicaxon/internal/source"
	"dicaxon/internal/tree"
)

// A Project is one root in a repository that follows one layout.
type Project struct {
	At       string         // below the root, "." for the root itself
	Layout   *layout.Layout // catalogue.Unknown where none that is known fits
	Answers  map[string]string
	Evidence []string // why this layout, where nobody named it
	Close    []string // layouts that fit almost as well
	Named    bool     // somebody named the layout: --layout or dicaxon.yaml
	Bring    bool     // it is to become what the layout describes, whole
	// Nearest is what came nearest where no layout fits, Framework the name of a
	// framework for which there is no layout.
	Nearest   *identify.Candidate
	Framework string
	Folder    *tree.Folder

	Files, Folders int // how many lie in it, those of other projects apart

	Placement *placement.Placement // once it is paired
	Moves     []reconcile.Move
	Findings  []finding.Finding
	Ended     []finding.Finding // those that carrying out one of Findings would end
}

// Known says whether the project follows a layout that is known.
func (p *Project) Known() bool { return p.Layout != catalogue.Unknown }

// Has says whether a path of the repository lies in the project's folder.
func (p *Project) Has(at string) bool {
	return p.At == "." || strings.HasPrefix(at+"/", p.At+"/")
}

// A Workspace is a repository with its projects.
type Workspace struct {
	Root        string // absolute
	Repository  *tree.Repository
	Configs     []*File // those of parts after that of the root
	Projects    []*Project
	Commonplace *layout.Layout

	identifier *identify.Identifier
	names      func() (*layout.Layout, error) // gives Commonplace
	roots      []identify.Root                // what signs point to, once asked for
}

// Options say how a repository is opened.
type Options struct {
	// Layout names the layout that the folder itself follows, instead of what
	// dicaxon.yaml or the signs say.
	Layout string
	// Dir is the folder that a relative path of a layout starts from.
	Dir string
	// Progress is handed to tree.Read.
	Progress func(names int)
	// At is a revision of git that is opened instead of what is on the disk,
	// Staged says that the next commit is.
	At     string
	Staged bool
	// Made gives a repository that is nowhere yet, to be opened instead; it is told
	// which names to watch for.
	Made func(watch func(name string) bool) *tree.Repository
	// Lazy says that it may well not come to Settle.
	Lazy bool
	// Settled holds projects whose layouts hold where they are still there.
	Settled []*Project
}

// A CallError is a mistake that the caller can mend, such as a layout that
// there is not.
type CallError string

func (e CallError) Error() string { return string(e) }

// Open reads the repository at root and settles which layout each project in it
// follows, as Read and Settle do.
func Open(ctx context.Context, root string, o Options) (*Workspace, error) {
	w, err := Read(root, o)
	if err != nil {
		return nil, err
	}
	return w, w.Settle(ctx, o)
}

// Read reads the repository at root with what dicaxon.yaml says in it, and settles
// nothing yet. The error is a *source.Error of a layout or of dicaxon.yaml, a
// CallError, or what reading root gave.
func Read(root string, o Options) (*Workspace, error) {
	id := identify.New(catalogue.Catalogue{})
	w := &Workspace{identifier: id, names: sync.OnceValues(catalogue.Catalogue{}.Commonplace)}
	if !o.Lazy {
		go w.names() // unpacked while the repository is read
	}
	return w, w.read(root, o, id)
}

// Settle settles which layout each project of what was read follows: what the
// options name, else dicaxon.yaml, else what was settled before, else the signs.
func (w *Workspace) Settle(ctx context.Context, o Options) error {
	if err := w.settle(ctx, o); err != nil {
		return err
	}
	w.conditions()
	return nil
}

func (w *Workspace) settle(ctx context.Context, o Options) (err error) {
	if w.Commonplace, err = w.names(); err != nil {
		return err
	}
	if err := ctx.Err(); err != nil {
		return err
	}
	if o.Layout != "" {
		return w.asked(o)
	}
	if err := w.named(); err != nil {
		return err
	}
	for _, p := range o.Settled {
		if folder := w.Inside(p.At); folder != nil && p.Known() && w.at(p.At) == nil {
			again := *p
			again.Folder, again.Placement, again.Findings, again.Moves = folder, nil, nil, nil
			w.Projects = append(w.Projects, &again)
		}
	}
	if len(w.Projects) == 0 {
		err = w.signed(ctx)
	}
	w.complete()
	return err
}

// conditions gives each project its layout as it is for that project.
func (w *Workspace) conditions() {
	for _, p := range w.Projects {
		p.Layout = placement.For(w.Repository, p.Folder, p.Layout)
	}
}

// read reads the state of the repository that the options ask for, with what
// dicaxon.yaml says in it and in its parts.
func (w *Workspace) read(root string, o Options, id *identify.Identifier) (err error) {
	watch := func(name string) bool { return name == FileName || name == AcceptedName || id.Watch(name) }
	if o.Made != nil {
		w.Repository = o.Made(watch)
	} else if o.At == "" && !o.Staged {
		if w.Repository, err = tree.Read(root, tree.Options{Progress: o.Progress, Watch: watch}); err == nil {
			w.lend(watch)
		}
	} else {
		var h *history.History
		if h, err = history.Open(root); err == nil {
			if o.Staged {
				w.Repository, err = h.Staged(watch)
			} else {
				w.Repository, err = h.At(o.At, watch)
			}
		}
		if called := new(history.CallError); errors.As(err, called) || errors.Is(err, history.ErrNoGit) {
			return CallError(err.Error())
		}
	}
	if err != nil {
		return err
	}
	w.Root = w.Repository.Root
	return w.configs()
}

// lend adds what a sparse checkout leaves out to what lies on the disk: it is no more
// missing than a file that was not opened.
func (w *Workspace) lend(watch func(string) bool) {
	if g := tree.GitOf(w.Repository.Root); g.Top == "" || !g.Sparse() {
		return
	}
	if h, err := history.Open(w.Repository.Root); err == nil {
		files, text := h.LeftOut()
		w.Repository.Lend(files, watch, text)
	}
}

// Parts lists the folders that may have settings of their own: the root, and those
// in which reading saw a name that it watched for.
func (w *Workspace) Parts() []*tree.Folder {
	below := slices.DeleteFunc(slices.Clone(w.Repository.Watched), func(f *tree.Folder) bool { return f == w.Repository.Top })
	return append([]*tree.Folder{w.Repository.Top}, below...)
}

// configs reads the dicaxon.yaml of the root and of its parts, the root's first.
func (w *Workspace) configs() error {
	for _, f := range w.Parts() {
		if n := f.Find(FileName); n == nil || n.Kind != tree.File || n.Ignored && f != w.Repository.Top {
			continue
		}
		text, err := w.Repository.Text(f.Path() + FileName)
		if err != nil {
			return err
		}
		if len(text) == tree.TextLimit {
			return source.TooLarge(f.Path() + FileName)
		}
		config, err := parse(w.Repository, f, text)
		if err != nil {
			return err
		}
		w.Configs = append(w.Configs, config)
	}
	return nil
}

// asked settles the one project whose layout the caller named. The answers of
// dicaxon.yaml still hold where the layout asks for them.
func (w *Workspace) asked(o Options) error {
	l, err := catalogue.Catalogue{Dir: o.Dir}.Layout(o.Layout)
	if errors.Is(err, fs.ErrNotExist) {
		return CallError(NoLayout(o.Layout))
	}
	if err != nil {
		return err
	}
	p := &Project{At: ".", Layout: l, Folder: w.Repository.Top, Named: true}
	for _, c := range w.Configs {
		for _, named := range c.Projects {
			if named.At == "." {
				p.Answers = named.Answers
			}
		}
	}
	w.Projects = []*Project{p}
	return nil
}

// named settles the projects that dicaxon.yaml names.
func (w *Workspace) named() error {
	for _, c := range w.Configs {
		for _, named := range c.Projects {
			folder := w.Inside(named.At)
			if folder == nil {
				return CallError(fmt.Sprintf("%s names a project at %s, which is ignored by version control or could not be read", c.Path, named.At))
			}
			if w.at(named.At) == nil {
				w.Projects = append(w.Projects, &Project{At: named.At, Layout: named.Layout, Answers: named.Answers, Folder: folder, Named: true})
			}
		}
	}
	return nil
}

// Roots gives the projects that signs point to, whatever dicaxon.yaml names. They
// are looked for once.
func (w *Workspace) Roots(ctx context.Context) (found []identify.Root, err error) {
	if w.roots == nil {
		w.roots, err = w.identifier.Roots(ctx, w.Repository)
	}
	return w.roots, err
}

// signed settles the projects that signs point to.
func (w *Workspace) signed(ctx context.Context) error {
	found, err := w.Roots(ctx)
	if err != nil {
		return err
	}
	for _, root := range found {
		p := &Project{At: root.At, Layout: catalogue.Unknown, Folder: root.Folder, Framework: root.Framework}
		if root.Best == nil {
			if len(root.Others) > 0 {
				p.Nearest = &root.Others[0]
			}
		} else {
			if p.Layout, err = (catalogue.Catalogue{}).Layout(root.Best.Layout); err != nil {
				return err
			}
			p.Evidence, p.Close = root.Best.Evidence, root.Close
			if around := w.sunken(&root, p.Layout, found); around != nil {
				p.At, p.Folder = path.Dir(root.At), around
				w.Projects = slices.DeleteFunc(w.Projects, func(o *Project) bool { return o.Folder == around })
			}
		}
		w.Projects = append(w.Projects, p)
	}
	return nil
}

// complete puts the projects into the order of their paths, and adds one for the
// root where none is there: what holds in any repository holds in it, too.
func (w *Workspace) complete() {
	if w.at(".") == nil {
		w.Projects = append(w.Projects, &Project{At: ".", Layout: catalogue.Unknown, Folder: w.Repository.Top})
	}
	slices.SortStableFunc(w.Projects, func(a, b *Project) int { return strings.Compare(order(a.At), order(b.At)) })
}

func order(at string) string {
	if at == "." {
		return ""
	}
	return at
}

func (w *Workspace) at(at string) *Project {
	for _, p := range w.Projects {
		if p.At == at {
			return p
		}
	}
	return nil
}

// Inside returns the folder at a path of the repository, nil where there is none
// that can be looked into.
func (w *Workspace) Inside(at string) *tree.Folder {
	if at == "." {
		return w.Repository.Top
	}
	if n := w.Repository.Top.At(at); n != nil && n.Folder != nil && !n.Folder.Unread {
		return n.Folder
	}
	return nil
}

// ProjectOf returns the innermost project that a path of the repository lies in.
func (w *Workspace) ProjectOf(at string) *Project {
	var best *Project
	for _, p := range w.Projects {
		if p.Has(at) && (best == nil || len(order(p.At)) > len(order(best.At))) {
			best = p
		}
	}
	return best
}

// Apart returns what is no part of a project though it lies in it: the folders
// of other projects, and the team's own layouts.
func (w *Workspace) Apart(of *Project) map[*tree.Folder]bool {
	apart := map[*tree.Folder]bool{}
	for _, p := range w.Projects {
		if p != of {
			apart[p.Folder] = true
		}
	}
	for _, p := range w.Projects {
		if !filepath.IsAbs(p.Layout.Dir) {
			continue
		}
		if rel, err := filepath.Rel(w.Root, p.Layout.Dir); err == nil {
			if f := w.Inside(path.Clean(filepath.ToSlash(rel))); f != nil && f != w.Repository.Top {
				apart[f] = true
			}
		}
	}
	return apart
}
