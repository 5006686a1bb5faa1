package app

import (
	"context"
	"path/filepath"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/place"
	"dicaxon/internal/placement"
	"dicaxon/internal/workspace"
)

// Place says where something belongs in the repository that a folder lies in: a file or
// folder that is there, a name that is not there yet, or what words describe. The error is
// as for Check.
func Place(ctx context.Context, folder, asked string, o Options) (*place.Answer, error) {
	root, within, err := rootOf(folder, o.Layout)
	if err != nil {
		return nil, err
	}
	at := workspace.Below(folder, filepath.Join(folder, asked))
	if strings.HasSuffix(asked, "/") && !strings.HasSuffix(at, "/") {
		at += "/"
	}
	o.Only, o.apart = []string{string(finding.Misplaced), string(finding.Misnamed), string(finding.Misdeclared)}, true
	w, err := workspace.Open(ctx, root, workspace.Options{Layout: o.Layout, Dir: o.Dir, Progress: o.Progress})
	if err != nil {
		return nil, err
	}
	if w.Repository.Top.At(strings.TrimSuffix(at, "/")) != nil {
		r, err := Check(ctx, root, o)
		if err != nil {
			return nil, err
		}
		a := place.Existing(r.Workspace, at)
		return &a, nil
	}
	p := w.ProjectOf(within)
	p.Placement = placement.Pair(placement.Input{Repository: w.Repository, Top: p.Folder, Layout: p.Layout, Commonplace: w.Commonplace, Answers: p.Answers, Apart: w.Apart(p)})
	var a place.Answer
	if strings.ContainsAny(asked, " ") || !strings.ContainsAny(asked, "./_-") && !hasCapital(asked) {
		a = place.Words(w, within, asked)
	} else {
		a = place.Named(w, within, asked)
	}
	return &a, nil
}

func hasCapital(name string) bool { return strings.ToLower(name) != name }
