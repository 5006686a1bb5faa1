package rules

import (
	"cmp"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/names"
	"dicaxon/internal/refs"
)

// sameName lists the files and folders elsewhere that have the last name of a
// path, those first that have more of its way in common.
func (c *Call) sameName(at, from string) []string {
	base := path.Base(at)
	stem, whole := names.BeforeDot(base), c.ending(base) != ""
	if ending := path.Ext(base); whole && slices.Contains(compiledTo, ending) && kin(path.Ext(from), ".ts") {
		base, whole = strings.TrimSuffix(base, ending), false // it may be written in TypeScript
	}
	look := c.Graph.Look()
	var all []string
	switch {
	case stem == "" || markers[stem] || base == "README.md":
		return nil
	case !whole && path.Ext(from) == ".go":
		holds := func(at string) bool {
			return hasFile(c, at, func(name string) bool { return path.Ext(name) == ".go" && !isTest(name) })
		}
		if all = look.FoldersEnding(base); !slices.ContainsFunc(all, holds) {
			return c.loosePackage(base)
		}
	default:
		for _, f := range look.Called(stem) {
			if ending := path.Ext(f); f != from && (whole && ending == path.Ext(base) || !whole && path.Base(f) == base+ending && refs.IsCode(f) && kin(ending, path.Ext(from))) {
				all = append(all, f)
			}
		}
	}
	if len(all) == 0 || len(all) > mostMeant*2 {
		return nil
	}
	all = slices.Clone(all)
	slices.SortStableFunc(all, func(a, b string) int { return cmp.Compare(inCommon(b, at), inCommon(a, at)) })
	if inCommon(all[0], at) > 1 && len(all) > 1 && inCommon(all[1], at) < inCommon(all[0], at) {
		return all[:1]
	}
	if len(all) > 1 && !whole {
		// What names things as if it lay there was moved out of there.
		if one := only(all, func(f string) bool { return c.movedFrom(f, at) }); one != "" {
			return []string{one}
		}
		if one := only(all, func(f string) bool { return c.idle(f) && !c.comesTo(f, from) }); one != "" {
			return []string{one} // nobody else asks for it
		}
	}
	if len(all) > mostMeant {
		return nil
	}
	return all
}

// compiledTo are endings of what compilers write, by which sources name each other.
var compiledTo = []string{".js", ".mjs", ".cjs", ".jsx"}

// loosePackage gives the one file of Go that says that it is of a package, in a folder that has
// another name and that nobody imports.
func (c *Call) loosePackage(name string) []string {
	var all []string
	for _, st := range c.endings()[".go"] {
		at := strings.TrimPrefix(st.in.Path()+st.in.Nodes[st.index].Name, c.Top.Path())
		if said := c.refsOf(at).Package(); said != nil && said.Name == name && path.Base(path.Dir(at)) != name && c.idle(path.Dir(at)) {
			all = append(all, at)
		}
	}
	if len(all) > 1 {
		return nil
	}
	return all
}

// movedFrom says whether a file names something that is not there as it lies, and would be if it
// lay at a path whose ending may be left out.
func (c *Call) movedFrom(f, at string) bool {
	at = path.Join(path.Dir(at), path.Base(f))
	return slices.ContainsFunc(c.Graph.From(f), func(e refs.Edge) bool {
		return e.Broken() && e.Within == "" && len(c.Graph.Resolve(at, e.Ref)) > 0
	})
}

// inCommon counts the names that two paths have in common at their ends.
func inCommon(a, b string) int {
	as, bs := strings.Split(a, "/"), strings.Split(b, "/")
	n := 0
	for n < len(as) && n < len(bs) && names.BeforeDot(as[len(as)-1-n]) == names.BeforeDot(bs[len(bs)-1-n]) {
		n++
	}
	return n
}

// astray gives the one file that lies as a path says but for one folder that it leaves out.
func (c *Call) astray(sought string) string {
	parts := strings.Split(sought, "/")
	if len(parts) < 3 || c.ending(sought) == "" {
		return ""
	}
	short := map[string]bool{}
	for i := range parts[:len(parts)-1] {
		short[strings.Join(slices.Delete(slices.Clone(parts), i, i+1), "/")] = true
	}
	return only(c.Graph.Look().Called(names.BeforeDot(path.Base(sought))), func(f string) bool {
		for tail := range short {
			if f == tail || strings.HasSuffix(f, "/"+tail) {
				return true
			}
		}
		return false
	})
}

// backFor gives where a file lies by the name that a text has for it: below the folder around it
// that holds the first one that the name leads through.
func (c *Call) backFor(meant, sought string) string {
	if n := c.node(meant); n == nil || n.Folder != nil || path.Base(meant) != path.Base(sought) || !strings.Contains(sought, "/") {
		return ""
	}
	first, _, _ := strings.Cut(sought, "/")
	for dir := path.Dir(meant); ; dir = path.Dir(dir) {
		if to := path.Join(dir, sought); c.isFolder(path.Join(dir, first)) && to != meant && c.node(to) == nil {
			return to
		}
		if dir == "." {
			return ""
		}
	}
}

// folderElsewhere gives the one folder whose path ends as one that is not there does, by two
// names at least.
func (c *Call) folderElsewhere(sought string) string {
	parts := strings.Split(sought, "/")
	if len(parts) < 2 || c.ending(sought) != "" {
		return ""
	}
	return sole(c.Graph.Look().FoldersEnding(strings.Join(parts[len(parts)-2:], "/")))
}

// packageEnding gives the package of Python in a folder below whose path ends so: the own one,
// or the only one.
func (c *Call) packageEnding(at, own string) string {
	if strings.HasSuffix(own, "/"+at) {
		return own
	}
	return only(c.Graph.Look().FoldersEnding(at), func(one string) bool { return one != at && hasEnding(c, one, ".py") })
}

// moduleGiving gives the one module, where one is looked for, that gives a name.
func (c *Call) moduleGiving(at, given string) string {
	if given == "" {
		return ""
	}
	return only(c.standIns(at, at, nil), func(one string) bool { return c.givesAll(one, []string{given}) })
}

// inItsPlace gives the one file that a name likely stands for, of those that are where it is
// looked for: the only one, or the only one whose name begins alike.
func (c *Call) inItsPlace(sought string) string {
	at := strings.TrimSuffix(sought, ".*")
	alike := func(one string) bool { return beginAlike(one, at) }
	all := c.standIns(at, at, func(string) bool { return at != sought })
	all = slices.DeleteFunc(all, func(one string) bool { return strings.HasPrefix(path.Base(one), "__") })
	if at == sought && c.ending(at) == "" {
		all = append(all, slices.DeleteFunc(c.foldersBeside(at), func(one string) bool { return !alike(one) })...)
	}
	return cmp.Or(only(all, alike), sole(all))
}

// unnamedTwin gives the one file beside a path that is not there which nobody names and whose name begins with the same
// word, of several: it was called as is looked for, or is to be.
func (c *Call) unnamedTwin(all []spoken, sought string) string {
	words := names.Words(names.BeforeDot(path.Base(sought)))
	if len(words) < 2 || strings.Contains(sought, "*") {
		return ""
	}
	return sole(slices.DeleteFunc(c.standIns(sought, sought, nil), func(one string) bool {
		own := names.Words(names.BeforeDot(path.Base(one)))
		return len(own) < 2 || own[0] != words[0] || c.ledTo(all, one, nil)
	}))
}
