// Package explain says what a folder or file is for: its role, who makes it,
// whether it is committed, what belongs there and what does not.
package explain

import (
	"cmp"
	"fmt"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/catalogue"
	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/names"
	"dicaxon/internal/placement"
	"dicaxon/internal/workspace"
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
	Usual     bool              `json:"usual,omitempty"`  // Role is what a name like this usually stands for
	Inside    string            `json:"inside,omitempty"` // the nearest folder around it that is described
	Part      string            `json:"part,omitempty"`   // the folder that it is a part of, where no more is known of it
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

// Path explains a path of a repository that was checked, there or not; "" for the
// repository itself. A slash at the end says that it is a folder's.
func Path(w *workspace.Workspace, asked string) Answer {
	asked = w.Repository.Spelled(asked, w.Repository.OnDisk)
	p := w.ProjectOf(strings.TrimSuffix(asked, "/"))
	at := strings.TrimPrefix(strings.TrimPrefix(asked, strings.TrimSuffix(p.Folder.Path(), "/")), "/")
	found := p.Placement.Lookup(at)
	a := Answer{Path: asked, Project: p.At, There: found.There, Folder: found.Folder}
	if p.Known() {
		a.Layout = p.Layout.Name
	}
	if !found.Known {
		a.Inside = cmp.Or(p.Folder.Path()+found.Around, "./")
		return a
	}
	if a.Path = p.Folder.Path() + strings.TrimSuffix(at, "/"); a.Folder && at != "" {
		a.Path += "/"
	}
	d := describer{p, w}
	if at == "" {
		a.Path = p.Folder.Path()
		d.root(&a, found)
	} else {
		d.describe(&a, found)
	}
	for _, f := range p.Findings {
		if f.Path == a.Path {
			a.Findings = append(a.Findings, f)
		}
	}
	return a
}

// usual gives what names usually stand for, wherever they are.
func usual() *layout.Scope {
	l, err := catalogue.Catalogue{}.Layout(catalogue.UsualName)
	if err != nil {
		panic(err) // it is built in, and a test reads it
	}
	return l.Root.Scope.Deep
}

// A describer fills in what is known of one place.
type describer struct {
	project *workspace.Project
	*workspace.Workspace
}

func (d describer) root(a *Answer, found placement.Answer) {
	if !d.project.Known() {
		a.Role = "The repository; it follows no layout that is known."
		return
	}
	d.entry(a, found.Entry, found.Env)
	a.Role, a.Need, a.Says = d.project.Layout.Title+".", "", d.project.Layout.Name
}

func (d describer) describe(a *Answer, found placement.Answer) {
	e := found.Entry
	if found.State == placement.Unplaced || found.State == placement.Below {
		e = nil // what it might have been is for check to say
	}
	if e != nil {
		d.entry(a, e, found.Env)
		return
	}
	name := path.Base(strings.TrimSuffix(a.Path, "/"))
	if e := usual().Find(name, a.Folder); e != nil {
		a.Usual = true
		a.Role = e.Role
		return
	}
	switch {
	case found.State == placement.Apart:
		a.Role = "A project of its own, or a layout that the team keeps."
	case found.State == placement.Hidden:
		a.Role = "An ignore file names it, and no layout says more."
	case a.Folder:
		if a.Role = d.holds(a.Path); d.part(a) {
			return
		}
		a.Role = strings.TrimSuffix(a.Role, ".") + "; no layout says more."
	case d.part(a):
	case found.State == placement.Free || found.State == placement.Passage:
		a.Role = "A file" + kindOf(name) + ", which the layout leaves to the project."
		if d.project.Layout == catalogue.Unknown {
			a.Role = "A file" + kindOf(name) + "; nothing that is known says what it is for."
		}
	}
}

// part says of what is left to a folder whose role is known that it is a part of it,
// before what is said of it already.
func (d describer) part(a *Answer) bool {
	at := strings.TrimPrefix(strings.TrimSuffix(a.Path, "/"), d.project.Folder.Path())
	for at = path.Dir(at); at != "."; at = path.Dir(at) {
		found := d.project.Placement.Lookup(at + "/")
		if e := found.Entry; e != nil && e.Role != "" && found.State != placement.Unplaced && found.State != placement.Below {
			a.Part = d.project.Folder.Path() + at + "/"
			a.Role = strings.TrimSpace("Part of " + a.Part + ": " + names.Uncapital(e.Role) + " " + a.Role)
			return true
		}
	}
	return false
}

// entry fills in what an entry says.
func (d describer) entry(a *Answer, e *layout.Entry, env *layout.Env) {
	a.Described, a.Entry, a.Role, a.Need = true, e.Path(), e.Role, e.Need.String()
	a.MadeBy, a.Git = d.madeBy(a, e), e.Git
	if e.MadeBy != "" && a.Git == "" {
		a.Git = "either"
	}
	if e.Parent != nil {
		a.Says = fmt.Sprintf("%s, entry %s (%s)", e.Layout, e.Path(), e.Ref())
	}
	if e.Unit != "" {
		if value, ok := env.Get(e.Unit); ok {
			a.Unit = fmt.Sprintf("%s %q", e.Unit, value)
		} else {
			a.Unit = e.Unit
		}
	}
	for _, c := range e.Entries {
		if !c.Need.Banned() && c.MadeBy == "" {
			a.Belongs = append(a.Belongs, Belonging{placement.Label(c, env), c.Need.String(), c.Role})
		}
	}
	for _, nh := range e.NotHere {
		a.NotHere = append(a.NotHere, Elsewhere{nh.What, d.project.Placement.Called(nh.Home, env)})
	}
}

// madeBy says who makes what an entry describes: a program, the starter of a
// layout where the text still is that, or a person.
func (d describer) madeBy(a *Answer, e *layout.Entry) string {
	if e.MadeBy != "" {
		return e.MadeBy
	}
	if a.There && !a.Folder && e.Starter != "" {
		if text, err := d.Repository.Text(a.Path); err == nil && e.IsStarter(text) {
			return "dicaxon scaffold, and still as it made it"
		}
	}
	return "a person"
}

// holds describes a folder that the layout leaves open from what is in it.
func (d describer) holds(at string) string {
	n := d.Repository.Top.At(strings.TrimSuffix(at, "/"))
	if n == nil || n.Folder == nil {
		return ""
	}
	files, folders := map[string]int{}, 0
	var endings []string
	for i := range n.Folder.Nodes {
		switch in := &n.Folder.Nodes[i]; {
		case in.Ignored:
		case in.Folder != nil:
			folders++
		default:
			ending := kindOf(in.Name)
			if files[ending]++; files[ending] == 1 {
				endings = append(endings, ending)
			}
		}
	}
	slices.SortStableFunc(endings, func(a, b string) int { return files[b] - files[a] })
	var parts []string
	for _, ending := range endings[:min(len(endings), 3)] {
		parts = append(parts, counted(files[ending], "file")+ending)
	}
	if len(endings) > 3 {
		parts = append(parts, "others")
	}
	if folders > 0 {
		parts = append(parts, counted(folders, "folder"))
	}
	if len(parts) == 0 {
		return "An empty folder."
	}
	return "Holds " + strings.Join(parts, ", ") + "."
}

// kindOf says what kind of file a name's ending is, with a space before it.
func kindOf(name string) string {
	if ending := path.Ext(name); ending != "" && ending != name {
		return " of the kind " + ending
	}
	return ""
}

func counted(n int, what string) string {
	if n == 1 {
		return "1 " + what
	}
	return fmt.Sprintf("%d %ss", n, what)
}
