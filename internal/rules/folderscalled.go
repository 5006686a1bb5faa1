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
func (c *Call) foldersCalled(all []constant) map[string]bool {
	said, order := map[string]map[string][]*constant{}, []string{} // of each folder: what its files declare, by the name that they say
	for i := range all {
		k := &all[i]
		at, name := "", ""
		if k.other {
			at, name = otherFolder(k)
		}
		for dir := path.Dir(k.at); dir != "."; dir = path.Dir(dir) {
			if said[dir] == nil {
				said[dir] = map[string][]*constant{}
				order = append(order, dir)
			}
			called := ""
			if dir == at {
				called = name
			}
			said[dir][called] = append(said[dir][called], k)
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
			f.Respelt = func() (all []edit.Edit) {
				for _, k := range files {
					all = append(all, c.constantRespelt(k.at, k.said, strings.Join(k.wanted, "::"))...)
				}
				return all
			}
			for _, k := range files {
				told[k.at] = true
			}
		}
	}
	return told
}

// otherFolder gives the one folder on the path of a file by whose name the constant in it differs from what it says, and the
// name by which it does; "" where it differs in more.
func otherFolder(k *constant) (folder, name string) {
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
	folder = k.at
	for range len(parts) - 1 - apart {
		folder = path.Dir(folder)
	}
	return folder, names.To(names.Snake, parts[apart])
}
