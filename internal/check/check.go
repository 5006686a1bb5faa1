// Package check is one check, from a path to findings: it reads the
// repository, settles which layout each project follows, and matches.
package check

import (
	"cmp"
	"errors"
	"fmt"
	"io/fs"
	"strings"
	"sync"
	"time"

	"dicaxon/internal/catalogue"
	"dicaxon/internal/finding"
	"dicaxon/internal/history"
	"dicaxon/internal/identify"
	"dicaxon/internal/layout"
	"dicaxon/internal/match"
	"dicaxon/internal/project"
	"dicaxon/internal/rules"
	"dicaxon/internal/schemas"
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
	// Today decides which waivers still hold; now, if zero.
	Today time.Time
}

// A Report is what a check found out.
type Report struct {
	Root     string // absolute
	Projects []Project
	Totals   finding.Totals
	Troubles []tree.Trouble
	Settlement
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
	report, err := run(root, o)
	if err != nil {
		return nil, err
	}
	if o.Since != "" {
		before := o
		before.At, before.Staged, before.Since = o.Since, false, ""
		known, err := run(root, before)
		var unknown *Unknown
		switch {
		case errors.As(err, &unknown): // there was nothing like it yet
		case err != nil:
			return nil, err
		default:
			var all []finding.Finding
			for _, p := range known.Projects {
				all = append(all, p.Match.Findings...)
			}
			report.Known, _ = report.leave(all)
		}
	}
	if !o.Anew {
		if err := report.leaveAccepted(); err != nil {
			return nil, err
		}
	}
	for _, p := range report.Projects {
		for _, f := range p.Match.Findings {
			report.Totals.Add(f.Level)
		}
	}
	return report, nil
}

// run checks one state of the repository, without what is known of it.
func run(root string, o Options) (*Report, error) {
	r, projects, config, err := settled(root, o)
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
	var known []string
	if o.Schemas != "" {
		if known, err = schemas.Read(o.Schemas); err != nil {
			return nil, err
		}
	}
	tracked := sync.OnceValue(func() map[string]bool {
		h, err := history.Open(root)
		if err != nil {
			return nil
		}
		all, _ := h.Tracked()
		return all
	})
	for i := range projects {
		p := &projects[i]
		p.Match = match.Run(match.Input{Repository: r, Top: p.Folder, Layout: p.Layout, Commonplace: commonplace, Answers: p.Answers, Apart: without(apart, p.Folder)})
		said, err := rules.Run(&rules.Project{Repository: r, Top: p.Folder, Layout: p.Layout, Commonplace: commonplace, Match: p.Match, Tracked: tracked, Schemas: known})
		if err != nil {
			return nil, err
		}
		p.Match.Findings = finding.Join(p.Match.Findings, said)
		report.Projects = append(report.Projects, p.Project)
	}
	report.settle(r, config, o)
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
	r, projects, _, err := settled(root, o)
	return r, projects, err
}

func settled(root string, o Options) (*tree.Repository, []Settled, *project.File, error) {
	id, err := identify.New(catalogue.Catalogue{})
	if err != nil {
		return nil, nil, nil, err
	}
	r, config, err := read(root, o, id)
	if err != nil {
		return nil, nil, nil, err
	}
	var named []project.Project
	if config != nil {
		named = config.Projects
	}
	var projects []Settled
	switch {
	case o.Layout != "":
		projects, err = asked(r, o, named)
	case len(named) > 0:
		projects, err = fromFile(r, named)
	default:
		projects, err = fromSigns(r, id)
	}
	return r, projects, config, err
}

// read reads the state of the repository that the options ask for, with what
// dicaxon.yaml said in it.
func read(root string, o Options, id *identify.Identifier) (*tree.Repository, *project.File, error) {
	if o.At == "" && !o.Staged {
		r, err := tree.Read(root, tree.Options{Progress: o.Progress, Watch: id.Watch})
		if err != nil {
			return nil, nil, err
		}
		config, err := project.Read(r.Root)
		return r, config, err
	}
	h, err := history.Open(root)
	if err != nil {
		return nil, nil, CallError(err.Error())
	}
	var r *tree.Repository
	if o.Staged {
		r, err = h.Staged(id.Watch)
	} else {
		r, err = h.At(o.At, id.Watch)
	}
	if err != nil {
		return nil, nil, CallError(err.Error())
	}
	text, err := r.Text(project.FileName)
	if err != nil {
		return r, nil, nil // there was no such file
	}
	config, err := project.Parse(r.Root, text)
	return r, config, err
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
