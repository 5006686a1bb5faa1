// Package explain says what a folder or file is for: its role, who makes it,
// whether it is committed, what belongs there and what does not.
package explain

import (
	"cmp"
	"fmt"
	"path"
	"strings"

	"dicaxon/internal/check"
	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/match"
	"dicaxon/internal/tree"
)

// An Answer explains one path.
type Answer struct {
	Root    string `json:"root"`   // the repository, absolute
	Path    string `json:"path"`   // below the root, a folder's ends in "/"
	There   bool   `json:"there"`  // it is on the disk
	Folder  bool   `json:"folder"` // it is one, or would be
	Project string `json:"project"`
	Layout  string `json:"layout"`
	// Described says whether a layout or the commonplace names know it; then
	// Entry and Says tell which entry of which layout.
	Described bool              `json:"described"`
	Entry     string            `json:"entry"`
	Says      string            `json:"says"`
	Role      string            `json:"role"`
	Need      string            `json:"need"`
	Unit      string            `json:"unit,omitempty"` // such as: area "berths"
	MadeBy    string            `json:"madeBy"`
	Git       string            `json:"git"`
	Belongs   []Belonging       `json:"belongs,omitempty"`
	NotHere   []Elsewhere       `json:"notHere,omitempty"`
	Inside    string            `json:"inside,omitempty"` // the nearest folder around it that is described
	Findings  []finding.Finding `json:"findings,omitempty"`
}

// Belonging is one entry of a folder.
type Belonging struct {
	Label string `json:"label"`
	Need  string `json:"need"`
	Role  string `json:"role"`
}

// Elsewhere is something that people put here and that belongs elsewhere.
type Elsewhere struct {
	What   string `json:"what"`
	GoesTo string `json:"goesTo"`
}

// Path explains a path below the root of a report, there or not. Commonplace
// knows the names that may stand in any repository.
func Path(r *check.Report, commonplace *layout.Layout, asked string) Answer {
	asked = strings.TrimSuffix(asked, "/")
	p := projectOf(r, asked)
	a := Answer{Path: asked, Project: p.At, Layout: p.Layout.Name}
	w := walker{project: p, commonplace: commonplace, folder: p.Folder, entry: p.Layout.Root, state: match.Placed}
	_, w.env = p.Match.Folder(p.Folder)
	below := strings.Trim(strings.TrimPrefix("/"+asked, strings.TrimSuffix("/"+p.Folder.Path(), "/")), "/")
	if below == "" {
		a.There, a.Folder, a.Path = true, true, p.Folder.Path()
		w.describe(&a)
		a.Role, a.Need, a.Says = p.Layout.Title+".", "", p.Layout.Name
		a.Findings = findingsAt(p, a.Path)
		return a
	}
	names := strings.Split(below, "/")
	for i, name := range names {
		if !w.step(name, i == len(names)-1) {
			a.Inside = cmp.Or(w.path(), "./")
			break
		}
	}
	a.There, a.Folder = w.there && a.Inside == "", w.isFolder
	if a.Inside == "" {
		a.Path = w.path()
	}
	w.describe(&a)
	a.Findings = findingsAt(p, a.Path)
	if a.Role == "" && len(a.Findings) > 0 {
		a.Role = a.Findings[0].Why
	}
	return a
}

// projectOf gives the innermost project that the path lies in.
func projectOf(r *check.Report, asked string) *check.Project {
	best := &r.Projects[0]
	for i := range r.Projects {
		p := &r.Projects[i]
		if at := p.Folder.Path(); strings.HasPrefix(asked+"/", at) && (len(at) > len(best.Folder.Path()) || !strings.HasPrefix(asked+"/", best.Folder.Path())) {
			best = p
		}
	}
	return best
}

func findingsAt(p *check.Project, path string) []finding.Finding {
	var all []finding.Finding
	for _, f := range p.Match.Findings {
		if f.Path == path {
			all = append(all, f)
		}
	}
	return all
}

// A walker goes from a project's folder to a path, name by name, through the
// repository as far as it goes and through the layout from there.
type walker struct {
	project     *check.Project
	commonplace *layout.Layout
	names       []string
	folder      *tree.Folder // nil where the disk has none
	entry       *layout.Entry
	state       match.State
	env         *layout.Env
	there       bool
	isFolder    bool
}

func (w *walker) path() string {
	at := path.Join(append([]string{w.project.Folder.Path()}, w.names...)...)
	if w.isFolder && at != "" {
		at += "/"
	}
	return at
}

// step goes to one name. It says no where nothing is known of what is below.
func (w *walker) step(name string, last bool) bool {
	folder, entry, env, state := w.folder, w.entry, w.env, w.state
	w.there = false
	if folder != nil {
		if n := folder.Find(name); n != nil {
			w.take(folder, n, name)
			return true
		}
	}
	for _, isFolder := range []bool{true, false} {
		if !isFolder && !last {
			break
		}
		var e *layout.Entry
		if state == match.Placed && entry != nil {
			e, env = lookUp(entry, name, isFolder, env)
		}
		if e == nil {
			e = w.common(name, isFolder, entry != nil && entry.Parent == nil)
		}
		if e != nil {
			w.names, w.folder, w.entry, w.env, w.isFolder = append(w.names, name), nil, e, env, isFolder
			w.state = match.Placed
			return true
		}
	}
	return false
}

// take goes to a node of the disk.
func (w *walker) take(folder *tree.Folder, n *tree.Node, name string) {
	index := 0
	for i := range folder.Nodes {
		if &folder.Nodes[i] == n {
			index = i
		}
	}
	place := w.project.Match.Place(folder, index)
	e, env := place.Entry, w.env
	switch {
	case place.State == match.Placed:
		if bound, _, ok := e.Match(name, env); ok {
			env = bound
		}
	case e == nil || place.State != match.Commonplace:
		// Findings do not need the name of what a folder may hold freely; a
		// reader wants it.
		e = w.common(name, n.Folder != nil, folder == w.project.Folder)
	}
	w.names = append(w.names, name)
	w.folder, w.entry, w.env, w.state = n.Folder, e, env, place.State
	w.there, w.isFolder = true, n.Folder != nil
}

// lookUp finds the entry that would describe name in the folder of entry e.
func lookUp(e *layout.Entry, name string, folder bool, env *layout.Env) (*layout.Entry, *layout.Env) {
	if e.Scope == nil {
		return nil, env
	}
	if c := e.Scope.Exact(name, folder); c != nil {
		return c, env
	}
	if c := e.Scope.Settled(name, folder, env); c != nil {
		return c, env
	}
	c, bound := e.Scope.Pattern(name, folder, env)
	if c != nil && !c.CatchAll() {
		return c, bound
	}
	for up := e; up != nil; up = up.Parent {
		if up.Scope == nil || up.Scope.Deep == nil {
			continue
		}
		if d := up.Scope.Deep.Exact(name, folder); d != nil {
			return d, env
		}
		if d, bound := up.Scope.Deep.Pattern(name, folder, env); d != nil {
			return d, bound
		}
	}
	return c, bound
}

// common looks a name up among the commonplace ones.
func (w *walker) common(name string, folder, top bool) *layout.Entry {
	root := w.commonplace.Root.Scope
	if top {
		if e := root.Find(name, folder); e != nil {
			return e
		}
	}
	if root.Deep == nil {
		return nil
	}
	return root.Deep.Find(name, folder)
}

// describe fills in what is known of the place that the walker stands at.
func (w *walker) describe(a *Answer) {
	e := w.entry
	if a.Inside != "" {
		if e != nil && e.Parent != nil {
			a.Role = e.Role
		}
		return
	}
	if e == nil {
		switch w.state {
		case match.Passage:
			a.Role = "A folder that sorts what is in it; the layout leaves its name open."
		case match.Free:
			a.Role = "The folder that it is in may hold anything."
		case match.Hidden:
			a.Role = "An ignore file names it, and no layout says more."
		}
		return
	}
	a.Described, a.Entry, a.Role, a.Need = true, e.Path(), e.Role, e.Need.String()
	a.MadeBy = MadeBy(e)
	a.Git = e.Git
	if e.MadeBy != "" && a.Git == "" {
		a.Git = "either"
	}
	if e.Parent != nil {
		a.Says = fmt.Sprintf("%s, entry %s (%s)", e.Layout, e.Path(), e.Ref())
	}
	if e.Unit != "" {
		if value, ok := w.env.Get(e.Unit); ok {
			a.Unit = fmt.Sprintf("%s %q", e.Unit, value)
		} else {
			a.Unit = e.Unit
		}
	}
	for _, c := range e.Entries {
		if !c.Need.Banned() && c.MadeBy == "" {
			a.Belongs = append(a.Belongs, Belonging{label(c, w.env), c.Need.String(), c.Role})
		}
	}
	for _, nh := range e.NotHere {
		a.NotHere = append(a.NotHere, Elsewhere{nh.What, fill(nh.Home, w.env)})
	}
}

// MadeBy says who makes an entry: a program, the starter of a layout, or a
// person.
func MadeBy(e *layout.Entry) string {
	switch {
	case e.MadeBy != "":
		return e.MadeBy
	case e.Starter != "":
		return "dicaxon scaffold, then a person"
	}
	return "a person"
}

// label gives an entry's label with captured names put in.
func label(e *layout.Entry, env *layout.Env) string {
	text := e.Label()
	if name, complete := e.Name(env); complete && !e.Deep {
		text = name
		if e.Folder {
			text += "/"
		}
	}
	return text
}

// fill gives an entry's path with captured names put in.
func fill(e *layout.Entry, env *layout.Env) string {
	if e.Parent == nil {
		return ""
	}
	return fill(e.Parent, env) + label(e, env)
}
