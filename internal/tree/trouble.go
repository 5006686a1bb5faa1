package tree

import (
	"errors"
	"fmt"
	"io/fs"
	"os"
	"slices"

	"dicaxon/internal/safe"
)

// A Trouble is something that could not be read. The rest was.
type Trouble struct {
	Path string // below the root, a folder's ends in "/"
	Err  error
}

func (t Trouble) Error() string {
	var path *os.PathError
	if errors.As(t.Err, &path) {
		return fmt.Sprintf("%s: %v", Printable(t.Path), path.Err)
	}
	return fmt.Sprintf("%s: %v", Printable(t.Path), t.Err)
}

// trouble notes that a file which was listed could not be read. What is no file by its
// kind, such as a pipe, is passed over.
func (r *Repository) trouble(path string, err error) {
	r.texts.mu.Lock()
	reading := r.asked == nil && r.recorded == nil
	r.texts.mu.Unlock()
	if errors.Is(err, fs.ErrNotExist) || errors.Is(err, safe.ErrIrregular) {
		return
	}
	if !reading {
		if n := r.Top.At(path); n == nil || n.Kind != File {
			return
		}
	}
	r.troubled(path, err)
}

func (r *Repository) troubled(path string, err error) {
	r.telling.Lock()
	defer r.telling.Unlock()
	if !slices.ContainsFunc(r.Troubles, func(t Trouble) bool { return t.Path == path }) {
		r.Troubles = append(r.Troubles, Trouble{Path: path, Err: err})
	}
}
