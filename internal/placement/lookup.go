package placement

import (
	"slices"
	"strings"

	"dicaxon/internal/layout"
	"dicaxon/internal/tree"
)

// An Answer says what describes a path.
type Answer struct {
	Place
	Env    *layout.Env // the captured names in force
	There  bool
	Folder bool // it is one, or would be
	// Known says whether the path could be followed to its end; else Around is the
	// last part of it, below the project and with its slash, that could.
	Known  bool
	Around string
	// In is the entry of the folder that it lies in, nil where none has one.
	In *layout.Entry
}

// Lookup says what describes a path of the project, written with "/", there or
// not: the disk is asked as far as it goes, and the layout from there. A slash at
// the end says that the path is a folder's.
func (p *Placement) Lookup(path string) Answer {
	path, folder := strings.CutSuffix(path, "/")
	a := Answer{Place: p.at(p.Top).place, Env: p.at(p.Top).env, There: true, Folder: true, Known: true}
	if path == "" || path == "." {
		return a
	}
	in := p.Top
	var deep *deepChain
	var unknown *Answer // where the way was lost first
	for rest, more := path, true; more; {
		var name string
		if a.State == Placed && a.Entry.Scope != nil && a.Entry.Scope.Deep != nil {
			deep = &deepChain{a.Entry.Scope.Deep, a.Env, deep}
		}
		name, rest, more = strings.Cut(rest, "/")
		next, ok := p.next(a, in, name, deep, more || folder, !more && !folder)
		if !ok && unknown == nil {
			last := a
			last.Known, last.There, last.Folder = false, false, more || folder
			unknown = &last
		}
		if !ok && more && deep != nil { // on the way to what may lie at any depth
			next, ok = Answer{Place: Place{State: Passage}, Env: a.Env, Folder: true, Known: true}, true
		}
		if !ok {
			return *unknown
		}
		next.Around = a.Around + name + "/"
		next.In = nil
		if a.State == Placed {
			next.In = a.Entry
		}
		if next.There {
			if n := in.Find(name); n != nil {
				in = n.Folder
			}
		} else {
			in = nil
		}
		a = next
	}
	a.Around = ""
	return a
}

// next goes from what describes a folder to what describes a name in it. Either
// says whether it may be a folder or a file.
func (p *Placement) next(a Answer, in *tree.Folder, name string, deep *deepChain, folder, either bool) (Answer, bool) {
	if in != nil {
		// An empty folder counts as absent.
		if i, there := in.Index(name); there && !(in.Nodes[i].Folder != nil && p.Place(in, i).State == Unplaced && in.Nodes[i].Folder.Empty()) {
			return p.there(a, in, i), true
		}
	}
	here := &folderPlace{place: a.Place, env: a.Env}
	asked := func(folder bool) (Answer, bool) {
		place, env := p.findAs(here, name, folder, a.Env, deep, in == p.Top, true)
		return Answer{Place: place, Env: env, Folder: folder, Known: true}, place.State != Unplaced && (place.Entry != nil || place.State != Free)
	}
	if !either {
		return asked(folder)
	}
	// A name without a dot is rather a folder's; an exact one is what it is.
	dotted := strings.Contains(strings.TrimPrefix(name, "."), ".")
	first, ok := asked(!dotted)
	second, also := asked(dotted)
	switch {
	case !ok:
		return second, also
	case also && exactly(second, name) && !exactly(first, name):
		return second, true
	}
	return first, true
}

func exactly(a Answer, name string) bool {
	if a.Entry == nil {
		return false
	}
	settled, complete := a.Entry.Name(a.Env)
	return a.Entry.Spellings[0].Exact != "" || complete && settled == name
}

// there gives what pairing found of a node.
func (p *Placement) there(a Answer, in *tree.Folder, i int) Answer {
	n := &in.Nodes[i]
	next := Answer{Place: p.Place(in, i), Env: a.Env, There: true, Folder: n.Folder != nil, Known: true}
	if n.Folder != nil {
		if env := p.at(n.Folder).env; env != nil {
			next.Env = env
		}
	}
	if next.State == Placed {
		if bound, _, ok := next.Entry.Match(n.Name, next.Env); ok {
			next.Env = bound
		}
	}
	return next
}

// Called gives the path of an entry below the project, for people: under the names
// that its folders have here, else those that the layout prefers, with captured
// names put in where they are known.
func (p *Placement) Called(e *layout.Entry, env *layout.Env) string {
	path, in := "", p.Top
	var chain []*layout.Entry
	for up := e; up.Parent != nil; up = up.Parent {
		chain = append(chain, up)
	}
	for _, e := range slices.Backward(chain) {
		name := Label(e, env)
		in = p.standing(in, e, env)
		if in != nil {
			name = in.Name + "/"
		}
		path += name
	}
	return path
}

// standing gives the folder in another that has the place of an entry.
func (p *Placement) standing(in *tree.Folder, e *layout.Entry, env *layout.Env) *tree.Folder {
	if in == nil || !e.Folder {
		return nil
	}
	for i := range in.Nodes {
		f := in.Nodes[i].Folder
		if place := p.Place(in, i); f == nil || place.State != Placed || place.Entry != e {
			continue
		}
		if _, _, fits := e.Match(f.Name, env); fits {
			if _, complete := e.Name(env); complete || e.Spellings[0].Exact != "" {
				return f
			}
		}
	}
	return nil
}

// Label gives the name of an entry for people, with captured names put in where
// they are all known.
func Label(e *layout.Entry, env *layout.Env) string {
	text := e.Label()
	if name, complete := e.Name(env); complete && !e.Deep {
		text = name
		if e.Folder {
			text += "/"
		}
	}
	return text
}
