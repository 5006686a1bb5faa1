package app_test

import (
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/manifest"
	"dicaxon/internal/names"
)

// entryOf finds the entry for a path by asking the layout name by name, with
// what was captured on the way. It knows nothing of how match does it.
func (c *changer) entryOf(path string) (*layout.Entry, *layout.Env) {
	e := c.layout.Root
	var env *layout.Env
	parts := strings.SplitAfter(strings.TrimSuffix(path, "/"), "/")
	for i, part := range parts {
		name, folder := strings.TrimSuffix(part, "/"), i < len(parts)-1 || strings.HasSuffix(path, "/")
		var next *layout.Entry
		for _, child := range e.Entries {
			bound, _, ok := child.Match(name, env)
			if ok && child.Folder == folder && !child.Deep && (next == nil || next.CatchAll() || child.Spellings[0].Exact != "") {
				next, env = child, bound
			}
		}
		if next == nil {
			return nil, nil
		}
		e = next
	}
	return e, env
}

// anyDepth lists names that may stand in any folder.
var anyDepth = map[string]bool{"README.md": true, ".gitignore": true, ".gitkeep": true}

// allowed says whether the layout lets a name stand in a folder, so that
// putting it there is no defect.
func (c *changer) allowed(folder, name string, isFolder bool) bool {
	e := c.layout.Root
	if folder != "" {
		if e, _ = c.entryOf(folder); e == nil || len(e.Entries) == 0 || e.Others == layout.May {
			return true // nothing can be said of what stands here
		}
	}
	for _, child := range e.Entries {
		if _, _, ok := child.Match(name, nil); ok && child.Folder == isFolder && !child.Need.Banned() && !(isFolder && child.CatchAll()) {
			return true
		}
	}
	for ; e != nil; e = e.Parent {
		for _, child := range e.Entries {
			if _, _, ok := child.Match(name, nil); ok && child.Deep && child.Folder == isFolder {
				return true
			}
			// Where files may lie at any depth, folders between are free.
			if isFolder && child.Deep && !child.Folder && child.MadeBy == "" && e.Parent != nil {
				return true
			}
		}
	}
	return anyDepth[name]
}

func split(path string) (folder, name string) {
	cut := strings.LastIndexByte(strings.TrimSuffix(path, "/"), '/') + 1
	return path[:cut], strings.TrimSuffix(path[cut:], "/")
}

// alone says whether the path is all that its folder holds: then the folder
// would go with it, as in version control.
func (c *changer) alone(path string) bool {
	folder, _ := split(path)
	all, _ := os.ReadDir(filepath.Join(c.root, folder))
	return len(all) < 2
}

func (c *changer) deleteNeeded() bool {
	path := c.pick(c.paths(false))
	e, _ := c.entryOf(path)
	if !c.fresh(path) || e == nil || !e.Need.Wanted() || e.Unit != "" || c.alone(path) || c.kept(path) {
		return false
	}
	os.Remove(filepath.Join(c.root, path))
	folder, _ := split(path)
	_, env := c.entryOf(folder)
	if c.forUnit(e, env) {
		return c.expect(finding.Unpaired, path, "")
	}
	// A name that the layout leaves open cannot be known once it is gone.
	name, _ := e.Name(env)
	return c.expect(finding.Missing, folder+name, "")
}

// forUnit says whether an entry stands once for each unit that lies elsewhere.
func (c *changer) forUnit(e *layout.Entry, env *layout.Env) bool {
	return slices.ContainsFunc(e.Spellings[0].Captures(), func(name string) bool {
		_, bound := env.Get(name)
		return !bound && slices.Contains(c.layout.Units(), name)
	})
}

// moveFile moves a file to a folder where it has no place.
func (c *changer) moveFile() bool {
	path, to := c.pick(c.paths(false)), c.pick(append(c.paths(true), ""))
	folder, name := split(path)
	e, _ := c.entryOf(path)
	if !c.fresh(path) || c.kept(path) || e == nil || e.Unit != "" || anyDepth[name] || to == folder || to != "" && !c.fresh(to) || c.allowed(to, name, false) || c.alone(path) {
		return false
	}
	return c.rename(path, to+name) && c.astray(e, to+name, path)
}

// astray expects a move back. Where nothing waits for the thing, saying no more
// than that it is unknown there is as good; so it is of a manifest, of which each part of a
// repository has one: whose it was, nobody can tell.
func (c *changer) astray(e *layout.Entry, path, home string) bool {
	_, name := split(home)
	same := 0
	for _, other := range c.layout.Entries[1:] {
		if other.Spellings[0].Exact == name && manifest.Is(name) {
			same++
		}
	}
	if same > 1 {
		return c.expect(tolerated, path, home)
	}
	if e.Need.Wanted() && e.Spellings[0].Exact != "" {
		return c.expect(finding.Misplaced, path, home)
	}
	return c.expect(tolerated, path, home)
}

// tolerated stands for a finding that may be there or not.
const tolerated finding.Kind = ""

// liftFile puts a file one level too high.
func (c *changer) liftFile() bool {
	path := c.pick(c.paths(false))
	folder, name := split(path)
	up, _ := split(folder)
	e, _ := c.entryOf(path)
	if folder == "" || c.kept(path) || !c.fresh(path) || e == nil || e.Unit != "" || anyDepth[name] || c.allowed(up, name, false) || c.alone(path) {
		return false
	}
	return c.rename(path, up+name) && c.astray(e, up+name, path)
}

// moveFolder moves a folder that has a name of its own elsewhere.
func (c *changer) moveFolder() bool {
	path, to := c.pick(c.paths(true)), c.pick(append(c.paths(true), ""))
	folder, name := split(path)
	e, _ := c.entryOf(path)
	if !c.fresh(path) || e == nil || e.Spellings[0].Exact == "" || to == folder || strings.HasPrefix(to, path) ||
		to != "" && !c.fresh(to) || c.allowed(to, name, true) || c.alone(path) || !c.distinct(e) {
		return false
	}
	return c.rename(path, to+name) && c.astray(e, to+name+"/", path)
}

// distinct says whether a folder can be told by its contents.
func (c *changer) distinct(e *layout.Entry) bool { return len(e.Entries) > 0 }

// misspell writes a folder's name wrong: plural, case, separator, one letter.
func (c *changer) misspell() bool {
	path := c.pick(c.paths(true))
	folder, name := split(path)
	e, _ := c.entryOf(path)
	if !c.fresh(path) || e == nil || e.Spellings[0].Exact == "" {
		return false
	}
	wrong := name
	switch c.rand.IntN(4) {
	case 0:
		if wrong = names.Singular(name); wrong == name {
			wrong = names.Plural(name)
		}
	case 1:
		wrong = strings.ToUpper(name[:1]) + name[1:]
	case 2:
		wrong = name[:len(name)/2] + []string{"-", "_"}[c.rand.IntN(2)] + name[len(name)/2:]
	case 3:
		i := 1 + c.rand.IntN(max(1, len(name)-2))
		wrong = name[:i] + []string{"", string("bdfghkmqwz"[c.rand.IntN(10)]), name[i:i+1] + name[i:i+1]}[c.rand.IntN(3)] + name[i+1:]
	}
	if wrong == name || c.allowed(folder, wrong, true) {
		return false
	}
	if !c.rename(path, folder+wrong) {
		return false
	}
	if e.Need.Wanted() {
		return c.expect(finding.Misnamed, folder+wrong+"/", path)
	}
	return c.expect(tolerated, folder+wrong+"/", path)
}

// addStray adds a file, or a folder with files, that nothing describes.
func (c *changer) addStray() bool {
	folder := c.pick(append(c.paths(true), ""))
	name := fmt.Sprintf("zz leftover %d.xyz", c.rand.IntN(1000))
	if folder != "" && !c.fresh(folder) || c.allowed(folder, name, false) {
		return false
	}
	if c.rand.IntN(2) == 0 {
		os.WriteFile(filepath.Join(c.root, folder, name), []byte("old\n"), 0o644)
		return c.expect(finding.Extra, folder+name, "")
	}
	at := filepath.Join(c.root, folder, name+".d")
	os.Mkdir(at, 0o755)
	os.WriteFile(filepath.Join(at, "a.xyz"), []byte("old\n"), 0o644)
	os.WriteFile(filepath.Join(at, "b.xyz"), []byte("old\n"), 0o644)
	return c.expect(finding.Extra, folder+name+".d/", "")
}

// emptyFolder makes a folder and forgets the marker that keeps it.
func (c *changer) emptyFolder() bool {
	folder := c.pick(append(c.paths(true), ""))
	name := fmt.Sprintf("%s_%d", []string{"crews", "fares", "piers"}[c.rand.IntN(3)], c.rand.IntN(100))
	if folder != "" && !c.fresh(folder) {
		return false
	}
	os.Mkdir(filepath.Join(c.root, folder, name), 0o755)
	return c.expect(finding.Empty, folder+name+"/", "")
}
