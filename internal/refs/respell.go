package refs

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/refs/lang"
	"dicaxon/internal/refs/lang/rust"
)

// A Spelling is one way to write a reference to a place: a name and, of a Python import,
// how many dots stand before it.
type Spelling struct {
	Name     string
	Relative int
}

// Respell gives the ways in which a reference that led from one file to a path could be
// written where the file is at newFrom and the path is at newTo, those first that are most
// like what is written now. Whether one leads there, only the graph of after can tell.
func Respell(r Ref, from, to, newFrom, newTo string) []Spelling {
	if r.Relative > 0 {
		return relativeModules(r, newFrom, newTo)
	}
	name, head, tail := r.Name, "", ""
	if i := strings.LastIndexByte(name, '!'); i >= 0 { // what a loader is to do with it
		head, name = name[:i+1], name[i+1:]
	}
	if i := strings.IndexAny(name, "?#"); i > 0 {
		name, tail = name[:i], name[i:]
	}
	var all []Spelling
	add := func(s string) {
		if s != "" && !slices.Contains(all, Spelling{Name: head + s + tail}) {
			all = append(all, Spelling{Name: head + s + tail})
		}
	}
	if name == path.Base(stemOf(to)) { // a name that no folder counts for
		add(path.Base(stemOf(newTo)))
	}
	for _, s := range fromHere(name, from, to, newFrom, newTo) {
		add(s)
	}
	add(rust.FromCrate(name, to, newTo))
	for _, separator := range []string{"/", ".", `\`, "::"} {
		if separator == "/" || strings.Contains(name, separator) || !strings.ContainsAny(name, `/\.:`) {
			for _, s := range fromRoots(name, separator, to, newTo) {
				add(s)
			}
		}
	}
	return all
}

// relativeModules writes a relative import of Python: with as many dots as lead up to what
// both lie in.
func relativeModules(r Ref, from, to string) []Spelling {
	module := strings.TrimSuffix(strings.TrimSuffix(to, path.Ext(to)), "/__init__")
	here := path.Dir(from)
	for dots := 1; ; dots++ {
		if here == "." || here == "/" {
			if dots == 1 {
				return []Spelling{{Name: strings.ReplaceAll(module, "/", "."), Relative: 1}}
			}
			return nil
		}
		if module == here {
			return []Spelling{{Relative: dots}}
		}
		if below, ok := strings.CutPrefix(module, here+"/"); ok {
			all := []Spelling{{Name: strings.ReplaceAll(below, "/", "."), Relative: dots}}
			if r.Value != "" && path.Base(module) == r.Value { // what is taken out is the module itself
				up := strings.TrimSuffix(strings.TrimSuffix(below, r.Value), "/")
				all = append([]Spelling{{Name: strings.ReplaceAll(up, "/", "."), Relative: dots}}, all...)
			}
			return all
		}
		here = path.Dir(here)
	}
}

// cut gives what a reference leaves out at the end of a path: an ending, or the name of a
// file that stands for its folder; swap says that it writes another ending.
func cut(written, to string) (left string, swapped string, ok bool) {
	written = strings.TrimSuffix(written, "/")
	switch {
	case written == to:
		return "", "", true
	case strings.HasPrefix(to, written+"/") && lang.EndsIn(to, path.Base(to)) && IsIndex(path.Base(to)) && path.Dir(to) == written:
		return to[len(written):], "", true
	case strings.HasPrefix(to, written+".") && !strings.Contains(to[len(written):], "/"):
		return to[len(written):], "", true
	}
	if ending := path.Ext(written); ending != "" && strings.TrimSuffix(written, ending) == strings.TrimSuffix(to, path.Ext(to)) {
		return "", ending, true
	}
	return "", "", false
}

// IsIndex says whether a file of that name stands for the folder that it lies in.
func IsIndex(name string) bool {
	return strings.HasPrefix(name, "index.") || strings.HasPrefix(name, "_index.") || strings.HasPrefix(name, "__init__.") || name == "mod.rs"
}

// without gives a path as a reference that leaves out the same would have it.
func without(to, left, swapped string) string {
	switch {
	case swapped != "":
		return strings.TrimSuffix(to, path.Ext(to)) + swapped
	case left == "":
		return to
	case strings.HasSuffix(to, left):
		return strings.TrimSuffix(to, left)
	case strings.HasPrefix(left, "/") && !IsIndex(path.Base(to)), !strings.HasPrefix(left, "/"):
		if IsIndex(path.Base(to)) {
			return path.Dir(to)
		}
		return strings.TrimSuffix(to, path.Ext(to))
	}
	return path.Dir(to)
}

// fromHere writes a path from the folder of the file that names it, where it is written so.
func fromHere(name, from, to, newFrom, newTo string) []string {
	left, swapped, ok := cut(path.Join(path.Dir(from), name), to)
	if !ok || strings.HasPrefix(name, "/") {
		return nil
	}
	at := relativeTo(path.Dir(newFrom), without(newTo, left, swapped))
	if strings.HasPrefix(name, ".") && !strings.HasPrefix(at, ".") {
		at = "./" + at
	}
	if strings.HasSuffix(name, "/") && !strings.HasSuffix(at, "/") {
		at += "/"
	}
	return []string{at}
}

// WayTo gives the path to a file as it is seen from another: with dots at its beginning.
func WayTo(from, to string) string {
	up, dir := "./", path.Dir(from)
	for dir != "." && !strings.HasPrefix(to, dir+"/") {
		up, dir = "../"+strings.TrimPrefix(up, "./"), path.Dir(dir)
	}
	return up + strings.TrimPrefix(to, strings.TrimPrefix(dir+"/", "./"))
}

// relativeTo gives a path from a folder.
func relativeTo(dir, to string) string {
	up := ""
	for ; dir != "." && dir != "/"; dir = path.Dir(dir) {
		if to == dir {
			return path.Clean(up + ".")
		}
		if below, ok := strings.CutPrefix(to, dir+"/"); ok {
			return up + below
		}
		up += "../"
	}
	return up + to
}

// fromRoots writes a path from where such names begin: what the end of the name and the
// path have in common is below it.
func fromRoots(name, separator, to, newTo string) []string {
	spelt := strings.Split(name, separator)
	var all []string
	// What stands behind is taken out of what is named.
	for last := len(spelt); last > 0; last-- {
		stem, newStem := to, newTo
		if separator != "/" || last < len(spelt) {
			stem, newStem = stemOf(to), stemOf(newTo)
		}
		written := strings.Join(spelt[:last], "/")
		for _, whole := range []string{stem, stemOf(to), strings.TrimSuffix(to, path.Ext(to))} {
			new := newStem
			if whole != stem {
				new = stemOf(newTo)
				if whole != stemOf(to) {
					new = strings.TrimSuffix(newTo, path.Ext(newTo))
				}
			}
			n := commonEnd(written, whole)
			if n == 0 || n > last {
				continue
			}
			parts := strings.Split(whole, "/")
			root := strings.Join(parts[:len(parts)-n], "/")
			below := new
			if root != "" {
				var ok bool
				if below, ok = strings.CutPrefix(new, root+"/"); !ok {
					below = new // from the top
				}
			}
			made := append(slices.Clone(spelt[:last-n]), strings.Split(below, "/")...)
			all = append(all, strings.Join(append(made, spelt[last:]...), separator))
			if root != "" && below == new {
				for _, source := range []string{"src/", "lib/"} {
					if rest, ok := strings.CutPrefix(new, source); ok {
						all = append(all, strings.Join(append(strings.Split(rest, "/"), spelt[last:]...), separator))
					}
				}
			}
		}
		if len(all) > 0 {
			break
		}
	}
	return all
}

// stemOf gives a path without its ending and without the name of a file that stands for
// its folder.
func stemOf(at string) string {
	if IsIndex(path.Base(at)) {
		return path.Dir(at)
	}
	return strings.TrimSuffix(at, path.Ext(at))
}

// commonEnd counts the names that two paths have in common at their ends.
func commonEnd(a, b string) int {
	as, bs := strings.Split(a, "/"), strings.Split(b, "/")
	n := 0
	for n < len(as) && n < len(bs) && as[len(as)-1-n] == bs[len(bs)-1-n] && as[len(as)-1-n] != "" {
		n++
	}
	return n
}
