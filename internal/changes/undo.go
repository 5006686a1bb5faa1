package changes

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"syscall"
	"time"

	"dicaxon/internal/safe"
)

// An EditedError says that files were edited after a command wrote them.
type EditedError struct{ Files []string }

func (e *EditedError) Error() string {
	return fmt.Sprintf("%s: edited since; nothing was taken back", strings.Join(e.Files, ", "))
}

// ErrNothing is the error where there is nothing to take back.
var ErrNothing = errors.New("there is nothing to take back here")

// Recover takes back what a command below a root had begun and did not end, and returns
// its record; nil where there is none.
func Recover(ctx context.Context, root string) (*Record, error) {
	root, err := whole(root)
	if err != nil {
		return nil, err
	}
	if half, err := unfinished(root); half == nil || err != nil {
		return nil, err
	}
	stage, err := hold(ctx, root, "dicaxon undo")
	if err != nil {
		return nil, err
	}
	defer stage.Close()
	return takeBackHalf(ctx, root, stage)
}

// Unfinished says which command was cut off below a root; "" for none.
func Unfinished(root string) string {
	root, err := whole(root)
	if err != nil {
		return ""
	}
	if half, _ := unfinished(root); half != nil {
		return half.Command
	}
	return ""
}

// unfinished gives the record of a command that was cut off, or nil.
func unfinished(root string) (*Record, error) {
	all, err := recordsOf(root)
	for _, r := range all {
		if r.State == begun {
			return r, err
		}
	}
	return nil, err
}

// takeBackHalf takes back what was cut off, while the root is held.
func takeBackHalf(ctx context.Context, root string, stage *Stage) (*Record, error) {
	half, err := unfinished(root)
	if half == nil || err != nil {
		return nil, err
	}
	below, err := os.OpenRoot(root)
	if err != nil {
		return nil, err
	}
	defer below.Close()
	if err := half.takeBack(ctx, below, stage.Dir); err != nil {
		return nil, err
	}
	return half, os.RemoveAll(half.at)
}

// Undo takes back the last command that wrote below a root and was not taken back yet.
// Where files were edited since, the error is an *EditedError, unless those edits are to
// be kept: then what was edited keeps its text. The error is ErrNothing where there is
// none.
func Undo(ctx context.Context, root string, keepEdits bool) (*Record, error) {
	root, err := whole(root)
	if err != nil {
		return nil, err
	}
	stage, err := hold(ctx, root, "dicaxon undo")
	if err != nil {
		return nil, err
	}
	defer stage.Close()
	if half, err := takeBackHalf(ctx, root, stage); half != nil || err != nil {
		return half, err
	}
	all, err := Records(root)
	if err != nil {
		return nil, err
	}
	if len(all) == 0 {
		return nil, ErrNothing
	}
	r := all[0]
	below, err := os.OpenRoot(root)
	if err != nil {
		return nil, err
	}
	defer below.Close()
	edited := r.edited(below)
	if len(edited) > 0 && !keepEdits {
		return nil, &EditedError{edited}
	}
	r.leave(edited)
	r.State = begun // cut off from here on, the next command goes on
	if err := r.save(); err != nil {
		return nil, err
	}
	if err := r.takeBack(ctx, below, stage.Dir); err != nil {
		return nil, err
	}
	r.State = undone
	return r, r.save()
}

// edited lists the files that are not what the command left.
func (r *Record) edited(root *os.Root) []string {
	written := map[string]bool{}
	var all []string
	for i := range r.Steps {
		s := &r.Steps[i]
		if s.Do != writeFile {
			continue
		}
		written[s.Path] = true
		if text, err := safe.ReadFile(root.Name(), s.Path, mostText); err != nil || Digest(text) != s.After {
			all = append(all, s.Path)
		}
	}
	for i := range r.Steps {
		s := &r.Steps[i]
		if s.Do != moveAway {
			continue
		}
		for below, was := range s.Marks {
			at := strings.TrimSuffix(s.Path, "/")
			if below != "" {
				at += "/" + below
			}
			at = r.later(i, at)
			if written[at] {
				continue
			}
			info, err := root.Lstat(native(at))
			if err != nil || info.Size() != was.Size || !info.ModTime().Equal(was.Time) {
				all = append(all, at)
			}
		}
	}
	slices.Sort(all)
	return slices.Compact(all)
}

// later gives where a path lies after the steps behind one.
func (r *Record) later(i int, at string) string {
	for _, s := range r.Steps[i+1:] {
		if s.Do != moveAway {
			continue
		}
		from, to := strings.TrimSuffix(s.From, "/"), strings.TrimSuffix(s.Path, "/")
		if at == from || strings.HasPrefix(at, from+"/") {
			at = to + at[len(from):]
		}
	}
	return at
}

// leave takes the texts of files out of what is taken back.
func (r *Record) leave(files []string) {
	for i := range r.Steps {
		if s := &r.Steps[i]; s.Do == writeFile && slices.Contains(files, s.Path) {
			s.Do = ""
		}
	}
}

// takeBack takes back the steps of a record, as many as were done, the last first. It may
// be cut off and done again.
func (r *Record) takeBack(ctx context.Context, root *os.Root, stage string) error {
	if err := moveInIndex(ctx, r.Root, r.Index, true); err != nil {
		return err
	}
	for i, s := range slices.Backward(r.Steps) {
		if err := r.back(root, &s, filepath.Join(stage, fmt.Sprint("back-", i))); err != nil {
			return err
		}
	}
	return nil
}

// back takes back one step; aside is where a text is written before it comes into place.
func (r *Record) back(root *os.Root, s *step, aside string) error {
	at, from := native(s.Path), native(s.From)
	switch s.Do {
	case makeFolder:
		if err := root.Remove(at); err != nil && !errors.Is(err, fs.ErrNotExist) && !holdsSomething(root, at) {
			return err
		}
	case loseFolder:
		if err := root.Mkdir(at, s.Mode); err != nil && !errors.Is(err, fs.ErrExist) && !errors.Is(err, fs.ErrNotExist) {
			return err // where what is around it is not there, it was not lost yet
		}
	case moveAway:
		there, err := root.Lstat(at)
		if fails(err) {
			return err
		}
		if err != nil {
			return nil // it was not moved yet, or is back
		}
		if old, err := root.Lstat(from); err == nil && !os.SameFile(old, there) {
			return nil // both are there: somebody made one anew
		}
		return root.Rename(at, from)
	case writeFile, dropFile:
		return r.restore(root, s, aside)
	}
	return nil
}

// fails says whether the disk could not tell what is at a path; that nothing is there, or nothing of ours,
// is an answer.
func fails(err error) bool {
	var disk syscall.Errno
	return errors.As(err, &disk) && !errors.Is(err, fs.ErrNotExist) && disk != syscall.ENOTDIR && disk != syscall.ELOOP
}

// holdsSomething says whether a folder is there and not empty.
func holdsSomething(root *os.Root, at string) bool {
	dir, err := root.Open(at)
	if err != nil {
		return false
	}
	defer dir.Close()
	names, _ := dir.Readdirnames(1)
	return len(names) > 0
}

// restore puts a file back as it was.
func (r *Record) restore(root *os.Root, s *step, aside string) error {
	at := native(s.Path)
	now, err := safe.ReadFile(root.Name(), s.Path, mostText)
	if fails(err) || err != nil && !errors.Is(err, fs.ErrNotExist) && s.Before != nil {
		return err
	}
	if s.Before == nil {
		if err != nil || Digest(now) != s.After {
			return nil // not made yet, or somebody else's
		}
		return root.Remove(at)
	}
	if err != nil || Digest(now) != s.Before.Digest {
		if s.Do == writeFile && err != nil {
			return nil // it was not even moved here
		}
		text := []byte{}
		if s.Before.Blob != "" {
			if text, err = safe.ReadAny(filepath.Join(r.at, s.Before.Blob), mostText); err != nil {
				return err
			}
		}
		if err := put(root, aside, at, text, s.Before.Mode); err != nil {
			return err
		}
	}
	if err := root.Chmod(at, s.Before.Mode); err != nil {
		return err
	}
	return root.Chtimes(at, time.Time{}, s.Before.Time)
}
