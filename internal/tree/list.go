package tree

import (
	"io/fs"
	"os"
)

// An entry is a name in a folder with what stands under it.
type entry struct {
	name string
	kind Kind
}

// listed reads an open folder in the way that every system knows. What was
// read before an error counts.
func listed(dir *os.File, err error) ([]entry, error) {
	if err != nil {
		return nil, err
	}
	defer dir.Close()
	all, err := dir.ReadDir(-1)
	entries := make([]entry, len(all))
	for i, e := range all {
		entries[i] = entry{e.Name(), kindOf(e.Type())}
	}
	return entries, err
}

func kindOf(t fs.FileMode) Kind {
	switch {
	case t.IsDir():
		return IsFolder
	case t&fs.ModeSymlink != 0:
		return Link
	case t.IsRegular():
		return File
	}
	return Special
}
