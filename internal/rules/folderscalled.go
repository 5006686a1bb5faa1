package rules

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/edit"
	"dicaxon/internal/finding"
	"dicaxon/internal/names"
)

// leastInFolder is how many files of a folder have to say alike that it is called otherwise.
const leastInFolder = 2

// foldersCalled tells of folders of which every file declares its constant as if the folder had another name, which
// none has: one finding for each, and what it is told of.
func (c *Call) foldersCalled() map[string]bool {
	said, order := map[string]map[string][]string{}, []string{} // of each folder: by the name that its files say, those files
	note := func(folder, name, at string) {
		if said[folder] == nil {
			said[folder] = map[string][]string{}
			order = append(order, folder)
		}
		said[folder][name] = append(said[folder][name], at)
	}
	for _, f := range c.files("files") {
		if path.Ext(f.path) != ".rb" || c.fits("except", f.path) || c.homeOf(f.path) != f.path || c.lends(f.path) {
			continue
		}
		k, other := c.constantAt(f)
		if k.said == "" || k.below == "" {
			continue
		}
		at, name := "", ""
		if other {
			at, name = otherFolder(f.path, k)
		}
		for dir := path.Dir(f.path); dir != "."; dir = path.Dir(dir) {
			if dir == at {
				note(dir, name, f.path)
			} else {
				note(dir, "", f.path)
			}
		}
	}
	told := map[string]bool{}
	for _, folder := range order {
		for name, files := range said[folder] {
			to := path.Join(path.Dir(folder), name)
			if name == "" || len(said[folder]) > 1 || len(files) < leastInFolder || c.isFolder(to) || c.node(to+".rb") != nil {
				continue
			}
			f := c.report(folder+"/", 0, 0, nil, "every file in it declares its constant as if it were called %s, by which it is loaded", name)
			f.Kind, f.Home = finding.Misnamed, c.Top.Path()+to+"/"
			f.Respelt = func() []edit.Edit { return c.allRespelt(files) }
			for _, at := range files {
				told[at] = true
			}
		}
	}
	return told
}

// allRespelt gives the edits by which some files declare the constants that their paths stand for.
func (c *Call) allRespelt(files []string) (all []edit.Edit) {
	for _, f := range c.files("files") {
		if !slices.Contains(files, f.path) {
			continue
		}
		if k, other := c.constantAt(f); other {
			all = append(all, c.constantRespelt(f.path, k.said, strings.Join(k.wanted, "::"))...)
		}
	}
	return all
}

// otherFolder gives the one folder on the path of a file by whose name its constant differs from what it says, and the
// name by which it does; "" where it differs in more.
func otherFolder(at string, k constant) (folder, name string) {
	parts := strings.Split(k.said, "::")
	if len(parts) != len(k.wanted) || slices.Contains(strings.Split(k.below, "/"), "concerns") {
		return "", ""
	}
	apart := -1
	for i := range parts {
		switch {
		case parts[i] == k.wanted[i]:
		case apart >= 0:
			return "", ""
		default:
			apart = i
		}
	}
	if apart == len(parts)-1 || strings.EqualFold(parts[apart], k.wanted[apart]) {
		return "", ""
	}
	folder = at
	for range len(parts) - 1 - apart {
		folder = path.Dir(folder)
	}
	return folder, names.To(names.Snake, parts[apart])
}
