// Package check is one check, from a path to findings: it reads the
// repository, settles which layout each project follows, and matches.
package check

import (
	"cmp"
	"errors"
	"fmt"
	"io/fs"
	"strings"

	"dicaxon/internal/catalogue"
	"dicaxon/internal/finding"
	"dicaxon/internal/identify"
	"dicaxon/internal/layout"
	"dicaxon/internal/match"
	"dicaxon/internal/project"
	"dicaxon/internal/rules"
	"dicaxon/internal/tree"
)

// Options of a check.
type Options struct {
	// Layout names the layout that the root follows, instead of what
	// dicaxon.yaml or the signs say.
	Layout string
	// Dir is the folder that a relative path of a layout starts from.
	Dir string
	// Progress is handed to tree.Read.
	Progress func(names int)
}

// A Report is what a check found out.
type Report struct {
	Root     string // absolute
	Projects []Project
	Totals   finding.Totals
	Troubles []tree.Trouble
}

// A Project is one project of the repository.
type Project struct {
	At       string // below the root, "." for the root itself
	Layout   *layout.Layout
	Evidence []string // why this layout, where nobody named it
	Close    []string // layouts that fit almost as well
	Match    *match.Result
	Folder   *tree.Folder
}

// An Unknown says that no layout fits the repository.
type Unknown struct {
	Root    string
	Nearest *identify.Candidate // nil where there is not even a sign
	Empty   bool                // there is no file at all
}

func (u *Unknown) Error() string {
	switch {
	case u.Empty:
		return fmt.Sprintf("%s is empty; `dicaxon scaffold` starts a project in it", u.Root)
	case u.Nearest == nil:
		return fmt.Sprintf("%s follows no layout that I know; name one with --layout", u.Root)
	}
	return fmt.Sprintf("%s follows no layout that I know; nearest is %s (%s); name one with --layout", u.Root, u.Nearest.Layout, strings.Join(u.Nearest.Evidence, ", "))
}

// A CallError is a mistake that the caller can mend, such as a layout that
// there is not.
type CallError string

func (e CallError) Error() string { return string(e) }

// Run checks the repository at root. The error is an *Unknown, a *source.Error
// of a layout or of dicaxon.yaml, a CallError, or what reading root gave.
func Run(root string, o Options) (*Report, error) {
	r, projects, err := Projects(root, o)
	if err != nil {
		return nil, err
	}
	commonplace, err := catalogue.Catalogue{}.Commonplace()
	if err != nil {
		return nil, err
	}
	report := &Report{Root: r.Root, Troubles: r.Troubles}
	apart := map[*tree.Folder]bool{}
	for _, p := range projects {
		apart[p.Folder] = true
	}
	for i := range projects {
		p := &projects[i]
		p.Match = match.Run(match.Input{Repository: r, Top: p.Folder, Layout: p.Layout, Commonplace: commonplace, Answers: p.Answers, Apart: without(apart, p.Folder)})
		said, err := rules.Run(&rules.Project{Repository: r, Top: p.Folder, Layout: p.Layout, Commonplace: commonplace, Match: p.Match})
		if err != nil {
			return nil, err
		}
		p.Match.Findings = finding.Join(p.Match.Findings, said)
		for _, f := range p.Match.Findings {
			report.Totals.Add(f.Level)
		}
		report.Projects = append(report.Projects, p.Project)
	}
	return report, nil
}

func without(all map[*tree.Folder]bool, one *tree.Folder) map[*tree.Folder]bool {
	some := map[*tree.Folder]bool{}
	for f := range all {
		some[f] = f != one
	}
	return some
}

// Settled is a project with the answers that hold for it.
type Settled struct {
	Project
	Answers map[string]string
}

// Projects reads the repository at root and settles which layout each project
// in it follows: what the options name, else dicaxon.yaml, else the signs.
func Projects(root string, o Options) (*tree.Repository, []Settled, error) {
	id, err := identify.New(catalogue.Catalogue{})
	if err != nil {
		return nil, nil, err
	}
	r, err := tree.Read(root, tree.Options{Progress: o.Progress, Watch: id.Watch})
	if err != nil {
		return nil, nil, err
	}
	named, err := project.Read(r.Root)
	if err != nil {
		return nil, nil, err
	}
	switch {
	case o.Layout != "":
		p, err := asked(r, o, named)
		return r, p, err
	case len(named) > 0:
		p, err := fromFile(r, named)
		return r, p, err
	}
	p, err := fromSigns(r, id)
	return r, p, err
}

// asked settles the one project whose layout the caller named. The answers of
// dicaxon.yaml still hold where the layout asks for them.
func asked(r *tree.Repository, o Options, named []project.Project) ([]Settled, error) {
	l, err := catalogue.Catalogue{Dir: o.Dir}.Layout(o.Layout)
	if errors.Is(err, fs.ErrNotExist) {
		return nil, CallError(project.NoLayout(o.Layout))
	}
	if err != nil {
		return nil, err
	}
	s := Settled{Project: Project{At: ".", Layout: l, Folder: r.Top}}
	for _, p := range named {
		if p.At == "" {
			s.Answers = p.Answers
		}
	}
	return []Settled{s}, nil
}

func fromFile(r *tree.Repository, named []project.Project) ([]Settled, error) {
	var all []Settled
	for _, p := range named {
		folder := r.Top
		if p.At != "" {
			n := r.Top.At(p.At)
			if n == nil || n.Folder == nil || n.Folder.Unread {
				return nil, CallError(fmt.Sprintf("%s names a project at %s, which is ignored by version control or could not be read", project.FileName, p.At))
			}
			folder = n.Folder
		}
		all = append(all, Settled{Project{At: cmp.Or(p.At, "."), Layout: p.Layout, Folder: folder}, p.Answers})
	}
	return all, nil
}

func fromSigns(r *tree.Repository, id *identify.Identifier) ([]Settled, error) {
	c := catalogue.Catalogue{}
	found, err := id.Projects(r)
	if err != nil {
		return nil, err
	}
	var all []Settled
	for _, p := range found {
		if p.Best == nil {
			u := &Unknown{Root: tree.Printable(r.Root), Empty: r.Top.Empty()}
			if len(p.Others) > 0 {
				u.Nearest = &p.Others[0]
			}
			return nil, u
		}
		l, err := c.Layout(p.Best.Layout)
		if err != nil {
			return nil, err
		}
		all = append(all, Settled{Project: Project{At: p.At, Layout: l, Evidence: p.Best.Evidence, Close: p.Close, Folder: p.Folder}})
	}
	return all, nil
}
