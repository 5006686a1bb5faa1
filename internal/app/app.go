// Package app holds the use cases: what each command does, from a path to its
// answer, without a word about how it is shown.
package app

import (
	"context"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"time"

	"dicaxon/internal/baseline"
	"dicaxon/internal/finding"
	"dicaxon/internal/history"
	"dicaxon/internal/memory"
	"dicaxon/internal/placement"
	"dicaxon/internal/realign"
	"dicaxon/internal/reconcile"
	"dicaxon/internal/refs"
	"dicaxon/internal/rules"
	"dicaxon/internal/schemas"
	"dicaxon/internal/tree"
	"dicaxon/internal/workspace"
)

// Options of a check.
type Options struct {
	// Layout names the layout that the path itself follows, instead of what
	// dicaxon.yaml or the signs say.
	Layout string
	// Dir is the folder that a relative path of a layout starts from.
	Dir string
	// Progress is handed to tree.Read.
	Progress func(names int)
	// At is a revision of git that is checked instead of what is on the disk,
	// Staged says that the next commit is.
	At     string
	Staged bool
	// Since is a revision: what was found there already is left out.
	Since string
	// Only and Skip hold kinds or names of rules.
	Only, Skip []string
	// Anew leaves the file of accepted findings unread.
	Anew bool
	// Schemas names a database, or a saved list of its schemas, for the rule that
	// compares folders with them.
	Schemas string
	// Remember says to go by what an earlier run read and found, where nothing changed
	// since, and to remember this one. Findings says that no more than the findings of
	// the projects is asked for, so that they need not be paired with their layouts again.
	Remember, Findings bool
	// Today decides which waivers still hold; now, if zero.
	Today time.Time

	bring   bool // the projects are to become what their layouts describe
	apart   bool // tell every finding by itself
	made    func(watch func(string) bool) *tree.Repository
	tracked func() map[string]bool
	settled []*workspace.Project // whose layouts hold
}

// A Report is what a check found out.
type Report struct {
	*workspace.Workspace
	Within   string // the part of the repository that was asked for, "" for all
	Totals   finding.Totals
	Troubles []tree.Trouble
	baseline.Settlement
	byKinds []realign.Conversion // see conversions
}

// Check checks the repository that a path lies in, and tells what is about the
// path. Where a layout is named, the path itself is what is checked. The error is
// a *source.Error of a layout or of dicaxon.yaml, a workspace.CallError, or what
// reading gave.
func Check(ctx context.Context, at string, o Options) (*Report, error) {
	root, within, err := rootOf(at, o.Layout)
	if err != nil {
		return nil, err
	}
	known, err := schemasOf(ctx, o.Schemas)
	if err != nil {
		return nil, err
	}
	var before *workspace.Workspace
	if o.Since != "" {
		// What was settled in the revision stays: a change never flips a layout.
		past := o
		past.At, past.Staged = o.Since, false
		if before, err = look(ctx, root, past, known, nil); err != nil {
			return nil, err
		}
	}
	w, err := look(ctx, root, o, known, before)
	if err != nil {
		return nil, err
	}
	within = w.Repository.Spelled(within, w.Repository.OnDisk)
	asked := baseline.Options{Only: o.Only, Skip: o.Skip, Within: within, Today: o.Today}
	r := &Report{Workspace: w, Within: within}
	r.Settlement = baseline.Settle(w, asked)
	if before != nil {
		baseline.Settle(before, asked)
		var all []finding.Finding
		for _, p := range before.Projects {
			all = append(all, p.Findings...)
		}
		r.Known, _ = baseline.Leave(w, all)
	}
	if !o.Anew {
		if err := baseline.LeaveAccepted(w, &r.Settlement); err != nil {
			return nil, err
		}
	}
	for _, p := range w.Projects {
		p.Findings, p.Ended = finding.Split(p.Findings)
		finding.Sort(p.Findings)
		if !o.apart {
			p.Findings = finding.Fold(p.Findings)
		}
		for _, f := range p.Findings {
			r.Totals.Add(f.Level)
		}
	}
	r.Troubles = w.Repository.Troubles
	return r, nil
}

// rootOf gives the root of the repository and the part of it that a path asks
// for.
func rootOf(at, layout string) (root, within string, err error) {
	if layout != "" {
		return at, "", nil
	}
	root = workspace.Root(at, "")
	full, err := filepath.Abs(at)
	if err != nil {
		return "", "", err
	}
	if real, err := filepath.EvalSymlinks(full); err == nil {
		full = real
	}
	if real, err := filepath.EvalSymlinks(root); err == nil {
		if rel, err := filepath.Rel(real, full); err == nil && rel != "." && !strings.HasPrefix(rel, "..") {
			within = filepath.ToSlash(rel)
		}
	}
	if _, err := os.Stat(full); err != nil {
		return "", "", err
	}
	return root, within, nil
}

func schemasOf(ctx context.Context, name string) ([]string, error) {
	if name == "" {
		return nil, nil
	}
	return schemas.Read(ctx, name)
}

// look opens one state of the repository and finds all there is to say of it.
func look(ctx context.Context, root string, o Options, known []string, before *workspace.Workspace) (*workspace.Workspace, error) {
	opening := workspace.Options{Layout: o.Layout, Dir: o.Dir, Progress: o.Progress, At: o.At, Staged: o.Staged, Made: o.made, Settled: o.settled}
	if before != nil {
		opening.Settled = before.Projects
	}
	past := pastFor(root, o)
	opening.Lazy = past.there()
	w, err := workspace.Read(root, opening)
	if err != nil {
		return nil, err
	}
	if past.recall(w) {
		return w, nil
	}
	if err := w.Settle(ctx, opening); err != nil {
		return nil, err
	}
	store := storeFor(w, o)
	facts := rules.Facts{Schemas: known, Wanted: wanted(o), Tracked: sync.OnceValue(func() map[string]bool {
		h, err := history.Open(root)
		if err != nil {
			return nil
		}
		all, _ := h.Tracked()
		return all
	})}
	if o.tracked != nil {
		facts.Tracked = o.tracked
	}
	switch {
	case o.made != nil: // what is nowhere yet has lost nothing
	case before != nil:
		facts.Gone = sync.OnceValue(func() map[string]string { return history.GoneBetween(before.Repository, w.Repository) })
	case o.At == "" && !o.Staged && w.Repository.Files < mostFollowed:
		facts.Gone = sync.OnceValue(func() map[string]string {
			h, err := history.Open(root)
			if err != nil {
				return nil
			}
			gone, _ := h.Gone(w.Repository) // what git cannot tell is not known
			return gone
		})
	}
	for _, p := range w.Projects {
		if err := ctx.Err(); err != nil {
			return nil, err
		}
		p.Bring = o.bring
		if err := find(ctx, w, p, facts, store); err != nil {
			return nil, err
		}
	}
	if store != nil {
		_ = store.Save() // who cannot remember reads again
	}
	past.keep(w)
	return w, nil
}

// mostFollowed is how many files a repository has at most for git's index to be read
// for what was renamed or deleted in the work tree.
const mostFollowed = 50_000

// worthRemembering is how many files a repository has at least whose contents are
// remembered from one run to the next; of fewer, reading again is as quick.
const worthRemembering = 500

// storeFor opens what was remembered of a repository on the disk, nil for nothing.
func storeFor(w *workspace.Workspace, o Options) *refs.Store {
	if !o.Remember || o.made != nil || o.At != "" || o.Staged || w.Repository.Files < worthRemembering {
		return nil
	}
	at, err := memory.Path("refs", w.Root)
	if err != nil {
		return nil
	}
	return refs.OpenStore(at)
}

// wanted says whether a rule need be run at all, by the words of the caller.
func wanted(o Options) func(finding.Kind, string) bool {
	if len(o.Only)+len(o.Skip) == 0 {
		return nil
	}
	asked := baseline.Options{Only: o.Only, Skip: o.Skip}
	return func(kind finding.Kind, rule string) bool {
		return asked.Wants(&finding.Finding{Kind: kind, Rule: rule})
	}
}

// find pairs a project with its layout, explains what is left over, and runs the
// layout's rules.
func find(ctx context.Context, w *workspace.Workspace, p *workspace.Project, facts rules.Facts, store *refs.Store) error {
	p.Placement = placement.Pair(placement.Input{Repository: w.Repository, Top: p.Folder, Layout: p.Layout, Commonplace: w.Commonplace, Answers: p.Answers, Named: p.Named, Bring: p.Bring, Apart: w.Apart(p), Store: store})
	p.Files, p.Folders = p.Placement.Files, p.Placement.Folders
	explained := reconcile.Run(p.Placement)
	p.Moves = explained.Moves
	said, err := rules.Run(ctx, p, facts)
	p.Findings = readable(w.Repository, append(explained.Findings, said...))
	return err
}

// readable leaves out what is said of a file, or against one, that could not be read:
// what is not readable is not known to be absent.
func readable(r *tree.Repository, all []finding.Finding) []finding.Finding {
	if len(r.Troubles) == 0 {
		return all
	}
	unread := map[string]bool{}
	for _, t := range r.Troubles {
		unread[t.Path] = true
	}
	return slices.DeleteFunc(all, func(f finding.Finding) bool { return unread[f.Path] || f.Other != nil && unread[f.Other.Path] })
}
