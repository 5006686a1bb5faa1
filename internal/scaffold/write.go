package scaffold

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"os/exec"
	"path/filepath"
	"strings"

	"dicaxon/internal/changes"
	"dicaxon/internal/safe"
	"dicaxon/internal/tree"
)

// ErrNotEmpty is wrapped by the error for a folder that holds something.
var ErrNotEmpty = errors.New("is not empty")

// Fits says whether a project can be made at dir: dir is absent, or holds
// nothing but, perhaps, a fresh ".git". It writes nothing.
func Fits(dir string, git bool) error {
	info, err := os.Stat(dir)
	if errors.Is(err, os.ErrNotExist) {
		if _, err := os.Lstat(dir); err == nil {
			return fmt.Errorf("%s %w: it is a link to what is not there", dir, ErrNotEmpty)
		}
		return nil
	}
	if err != nil {
		return err
	}
	if !info.IsDir() {
		return fmt.Errorf("%s %w: it is a file", dir, ErrNotEmpty)
	}
	there, err := os.ReadDir(dir)
	if err != nil {
		return err
	}
	for _, e := range there {
		switch {
		case strings.HasPrefix(e.Name(), safe.Stage):
		case e.Name() != ".git":
			return fmt.Errorf("%s %w: it holds %s; nothing was written", dir, ErrNotEmpty, e.Name())
		case git:
			return fmt.Errorf("%s %w: it is a git repository already, so leave out --git; nothing was written", dir, ErrNotEmpty)
		}
	}
	return nil
}

// Clear removes or finishes what a run that was cut off left of a project at dir: in it or
// in a folder above it.
func Clear(ctx context.Context, dir string) error {
	for at := filepath.Clean(dir); ; at = filepath.Dir(at) {
		ended, err := changes.Clear(ctx, at)
		switch {
		case ended != nil:
			return fmt.Errorf("%s %w: an earlier run that was cut off there is finished now", at, ErrNotEmpty)
		case err != nil || at == filepath.Dir(at):
			return err
		}
	}
}

// Write makes the project at dir, with a git repository and a first commit where git is
// set. It is there whole or not at all: it is made aside and comes into its place by one
// rename or, in a folder that must stay the same one, by as many as it has names at its
// top, which the next run there finishes.
func (p *Plan) Write(ctx context.Context, dir string, git bool) error {
	dir = filepath.Clean(dir)
	if err := Fits(dir, git); err != nil {
		return err
	}
	beside, rest, err := ground(dir)
	if err != nil {
		return err
	}
	stage, err := changes.Begin(ctx, beside)
	if errors.Is(err, fs.ErrPermission) && rest != "" && tree.IsDir(dir) {
		beside, rest = dir, ""
		stage, err = changes.Begin(ctx, beside)
	}
	if err != nil {
		return unwritable(beside, err)
	}
	defer stage.Close()
	if stage.Ended != nil {
		return fmt.Errorf("%s %w: an earlier run that was cut off there is finished now", dir, ErrNotEmpty)
	}
	if err := Fits(dir, git); err != nil { // another run may have been quicker
		return err
	}
	if err := p.make(ctx, filepath.Join(stage.Dir, rest), git); err != nil {
		return named(err, filepath.Join(stage.Dir, rest), dir)
	}
	if rest == "" {
		err = stage.PlaceAll()
	} else {
		first, _, _ := strings.Cut(filepath.ToSlash(rest), "/")
		err = stage.Place(first)
	}
	switch {
	case err == nil:
		return nil
	case errors.Is(err, changes.ErrHalf):
		return fmt.Errorf("%s: half of it is there and cannot be taken back; %w", dir, changes.ErrHalf)
	case errors.Is(err, changes.ErrTaken), errors.Is(err, fs.ErrExist):
		return fmt.Errorf("%s %w: something came into it meanwhile; nothing was written", dir, ErrNotEmpty)
	}
	return unwritable(dir, err)
}

// ground gives the folder in which a project at dir is made aside, and the project's path
// below it: the nearest folder above that is there, or dir itself, with "", where it is
// there and has to stay the same folder, since it holds something or somebody stands in it.
func ground(dir string) (beside, rest string, err error) {
	if tree.IsDir(dir) {
		whole, err := filepath.EvalSymlinks(dir)
		if err != nil {
			return "", "", err
		}
		if whole, err = filepath.Abs(whole); err != nil {
			return "", "", err
		}
		there, err := os.ReadDir(whole)
		if err != nil || len(there) > 0 || whole == filepath.Dir(whole) || isHere(whole) {
			return whole, "", err
		}
		return filepath.Dir(whole), filepath.Base(whole), nil
	}
	for beside = dir; ; {
		above := filepath.Dir(beside)
		if rest = filepath.Join(filepath.Base(beside), rest); tree.IsDir(above) {
			return above, rest, nil
		}
		if _, err := os.Stat(above); !errors.Is(err, os.ErrNotExist) || above == beside {
			return "", "", &fs.PathError{Op: "mkdir", Path: above, Err: cmp.Or(err, errors.New("is no folder"))}
		}
		beside = above
	}
}

// isHere says whether a folder is the one that this program was started in.
func isHere(dir string) bool {
	here, err := os.Stat(".")
	if err != nil {
		return false
	}
	info, err := os.Stat(dir)
	return err == nil && os.SameFile(here, info)
}

// unwritable says that nothing can be written in a folder.
func unwritable(dir string, err error) error {
	if errors.Is(err, context.Canceled) || errors.Is(err, context.DeadlineExceeded) {
		return err
	}
	var path *fs.PathError
	var link *os.LinkError
	switch {
	case errors.As(err, &path):
		err = path.Err
	case errors.As(err, &link):
		err = link.Err
	}
	return fmt.Errorf("%s: nothing can be written there: %w", dir, err)
}

// make makes the project in a folder of its stage.
func (p *Plan) make(ctx context.Context, dir string, git bool) error {
	if err := os.MkdirAll(dir, 0o755); err != nil {
		return err
	}
	for _, item := range p.Items {
		if err := ctx.Err(); err != nil {
			return err
		}
		at := filepath.Join(dir, filepath.FromSlash(item.Path))
		var err error
		if strings.HasSuffix(item.Path, "/") {
			err = os.Mkdir(at, 0o755)
		} else {
			err = changes.Create(at, item.Text, item.mode())
		}
		if err != nil {
			return err
		}
	}
	if git {
		return p.commit(ctx, dir)
	}
	return nil
}

// named gives the error with the path that the user knows, not that of the
// place where the project was made aside.
func named(err error, stage, dir string) error {
	var path *os.PathError
	if !errors.As(err, &path) {
		return err
	}
	rel, _ := filepath.Rel(stage, path.Path)
	return fmt.Errorf("%s: %w; nothing was written", filepath.Join(dir, rel), path.Err)
}

// commit makes a git repository with a first commit in stage.
func (p *Plan) commit(ctx context.Context, stage string) error {
	for _, args := range [][]string{
		{"init", "--quiet"},
		{"add", "--all"},
		{"commit", "--quiet", "--message", "Start from the layout " + p.Layout.Name},
	} {
		out, err := safe.Git(ctx, stage, nil, args...).CombinedOutput()
		if errors.Is(err, exec.ErrNotFound) {
			return fmt.Errorf("--git needs git, which is not installed; nothing was written")
		}
		if err != nil {
			lines := strings.FieldsFunc(string(out), func(r rune) bool { return r == '\n' })
			why := err.Error()
			if len(lines) > 0 {
				why = lines[len(lines)-1]
			}
			return fmt.Errorf("git %s failed: %s; nothing was written", args[0], why)
		}
	}
	return nil
}

// mode gives the permissions of a file.
func (i *Item) mode() os.FileMode {
	if i.Entry.Executable {
		return 0o755
	}
	return 0o644
}
