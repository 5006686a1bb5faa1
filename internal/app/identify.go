package app

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"strings"

	"dicaxon/internal/changes"
	"dicaxon/internal/identify"
	"dicaxon/internal/layout"
	"dicaxon/internal/tree"
	"dicaxon/internal/workspace"
)

// Identified says which layouts the projects of a repository follow.
type Identified struct {
	Root     string // absolute
	Roots    []identify.Root
	Troubles []tree.Trouble
}

// Identify finds the projects of the repository that a path lies in. What
// dicaxon.yaml names is taken from there.
func Identify(ctx context.Context, at string, progress func(int)) (*Identified, error) {
	root, _, err := rootOf(at, "")
	if err != nil {
		return nil, err
	}
	w, err := workspace.Open(ctx, root, workspace.Options{Progress: progress})
	if err != nil {
		return nil, err
	}
	found := &Identified{Root: w.Root}
	if found.Roots, err = w.Roots(ctx); err != nil {
		return nil, err
	}
	for _, p := range w.Projects {
		if p.Named {
			found.name(p)
		}
	}
	found.Troubles = w.Repository.Troubles
	return found, nil
}

// name puts what somebody named in the place of what was found.
func (f *Identified) name(p *workspace.Project) {
	named := identify.Root{At: p.At, Folder: p.Folder, Best: &identify.Candidate{Layout: p.Layout.Name, Score: 1, Evidence: []string{workspace.FileName + " says so"}}}
	for i := range f.Roots {
		if f.Roots[i].At == p.At {
			f.Roots[i] = named
			return
		}
	}
	f.Roots = append(f.Roots, named)
}

// Record writes what was found into the dicaxon.yaml of the root, and returns its
// path and how many projects it names. It never changes one that is there.
func (f *Identified) Record(ctx context.Context) (at string, projects int, err error) {
	at = filepath.Join(f.Root, workspace.FileName)
	if _, err := changes.Clear(ctx, f.Root); err != nil {
		return "", 0, err
	}
	if _, err := os.Lstat(at); err == nil {
		return "", 0, workspace.CallError(fmt.Sprintf("there is a %s already; what it names holds", workspace.FileName))
	} else if !errors.Is(err, fs.ErrNotExist) {
		return "", 0, err
	}
	var b strings.Builder
	fmt.Fprintf(&b, "dicaxon: %s\nprojects:\n", layout.Version)
	for _, r := range f.Roots {
		if r.Best == nil {
			continue
		}
		projects++
		if r.At == "." {
			fmt.Fprintf(&b, "  - layout: %s\n", r.Best.Layout)
		} else {
			fmt.Fprintf(&b, "  - {at: %q, layout: %s}\n", r.At, r.Best.Layout)
		}
	}
	if projects == 0 {
		return "", 0, workspace.CallError("no layout that is known fits, so there is nothing to record; name one in " + workspace.FileName + " by hand")
	}
	return at, projects, changes.WriteFile(ctx, at, []byte(b.String()), 0o644)
}
