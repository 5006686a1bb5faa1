package tree

import "strings"

// Ignores says whether ignore files name what stands at a path, or would stand
// there: below the root, written with "/" and without a slash at its end.
func (r *Repository) Ignores(path string) bool {
	f, above := r.Top, r.above
	lists := r.listsIn(f)
	for there := true; ; {
		name, rest, more := strings.Cut(path, "/")
		if there {
			if n := f.Find(name); n != nil && n.Ignored {
				return true
			} else if n != nil && n.Folder != nil {
				f = n.Folder
				lists = r.listsIn(f)
			} else {
				there = false
			}
		}
		if !there && lists.ignored(above, name, more) {
			return true
		}
		if !more {
			return false
		}
		above, path = above+name+"/", rest
	}
}

// listsIn gives the ignore lists that hold in a folder. Those of a repository
// that was recorded are read when they are first asked for.
func (r *Repository) listsIn(f *Folder) *ignoreList {
	if r.recorded == nil {
		return f.lists
	}
	r.listing.Lock()
	defer r.listing.Unlock()
	return r.recordedLists(f)
}

func (r *Repository) recordedLists(f *Folder) *ignoreList {
	if f.lists != nil {
		return f.lists
	}
	var lists *ignoreList
	if f.Parent != nil {
		lists = r.recordedLists(f.Parent)
	}
	if n := f.Find(".gitignore"); n != nil && n.Kind == File {
		if text, err := r.Text(f.Path() + ".gitignore"); err == nil {
			lists = parseIgnore(text, r.above+f.Path(), false, lists)
		}
	}
	if lists == nil {
		lists = &ignoreList{}
	}
	f.lists = lists
	return lists
}
