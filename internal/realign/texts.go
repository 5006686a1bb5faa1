package realign

import (
	"fmt"
	"io/fs"
	"maps"
	"slices"
	"strings"
)

// Texts is a tree of files that are nowhere but here, for looking names up in it.
type Texts map[string][]byte

// IsFile says whether there is a file at a path.
func (t Texts) IsFile(at string) bool { _, ok := t[at]; return ok }

// IsFolder says whether something lies below a path.
func (t Texts) IsFolder(at string) bool {
	for f := range t {
		if strings.HasPrefix(f, at+"/") {
			return true
		}
	}
	return at == "." || at == ""
}

// Each calls yield with the path of every file, in order.
func (t Texts) Each(yield func(string)) {
	for _, f := range slices.Sorted(maps.Keys(t)) {
		yield(f)
	}
}

// Names gives the names in a folder, in order.
func (t Texts) Names(folder string) []string {
	all := map[string]bool{}
	for f := range t {
		below, ok := f, true
		if folder != "." && folder != "" {
			below, ok = strings.CutPrefix(f, folder+"/")
		}
		if name, _, _ := strings.Cut(below, "/"); ok {
			all[name] = true
		}
	}
	return slices.Sorted(maps.Keys(all))
}

// Text gives the text of a file.
func (t Texts) Text(at string) ([]byte, error) {
	if text, ok := t[at]; ok {
		return text, nil
	}
	return nil, fmt.Errorf("%s: %w", at, fs.ErrNotExist)
}
