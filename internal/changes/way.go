package changes

import (
	"io/fs"
	"path"
	"path/filepath"
	"strings"

	"dicaxon/internal/names"
)

// makeWay lays out that an empty folder goes where one is to come that holds something.
func (w *writer) makeWay(p *Plan, s *state) {
	for _, m := range p.Moves {
		to := strings.TrimSuffix(m.To, "/")
		if to == m.To || names.Folded(m.To) == names.Folded(m.From) {
			continue
		}
		if steps, empty := w.losing(to); empty {
			s.steps = append(s.steps, steps...)
		}
	}
}

// losing gives the steps by which a folder goes that holds nothing but folders, the deepest
// first; false where it holds more, or is none.
func (w *writer) losing(at string) (all []step, empty bool) {
	info, err := w.root.Lstat(filepath.FromSlash(at))
	if err != nil || !info.IsDir() {
		return nil, false
	}
	inside, err := fs.ReadDir(w.root.FS(), at)
	if err != nil {
		return nil, false
	}
	for _, e := range inside {
		below, empty := w.losing(path.Join(at, e.Name()))
		if !empty {
			return nil, false
		}
		all = append(all, below...)
	}
	return append(all, step{Do: loseFolder, Path: at + "/", Mode: info.Mode().Perm()}), true
}
