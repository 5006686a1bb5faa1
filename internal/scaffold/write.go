package scaffold

import (
	"bytes"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
)

// ErrNotEmpty is wrapped by the error for a folder that holds something.
var ErrNotEmpty = errors.New("is not empty")

// Fits says whether a project can be made at dir: dir is absent, or holds
// nothing but, perhaps, a fresh ".git". It writes nothing.
func Fits(dir string, git bool) error {
	info, err := os.Lstat(dir)
	if errors.Is(err, os.ErrNotExist) {
		return nil
	}
	if err != nil {
		return err
	}
	if info.Mode()&os.ModeSymlink != 0 {
		if info, err = os.Stat(dir); err != nil {
			return err
		}
	}
	if !info.IsDir() {
		return fmt.Errorf("%s %w: it is a file", dir, ErrNotEmpty)
	}
	there, err := os.ReadDir(dir)
	if err != nil {
		return err
	}
	for _, e := range there {
		if e.Name() != ".git" {
			return fmt.Errorf("%s %w: it holds %s; nothing was written", dir, ErrNotEmpty, e.Name())
		}
		if git {
			return fmt.Errorf("%s %w: it is a git repository already, so leave out --git; nothing was written", dir, ErrNotEmpty)
		}
	}
	return nil
}

// Write makes the project at dir, with a git repository and a first commit
// where git is set. Everything is made aside first and then moved into place;
// on an error nothing of it is left.
func (p *Plan) Write(dir string, git bool) (err error) {
	if err := Fits(dir, git); err != nil {
		return err
	}
	made, err := makeFolders(filepath.Dir(dir))
	defer func() {
		if err != nil {
			for i := len(made) - 1; i >= 0; i-- {
				_ = os.Remove(made[i])
			}
		}
	}()
	if err != nil {
		return err
	}
	_, statErr := os.Stat(dir)
	absent := errors.Is(statErr, os.ErrNotExist)
	beside := dir
	if absent {
		beside = filepath.Dir(dir)
	}
	stage, err := os.MkdirTemp(beside, ".dicaxon-*")
	if err != nil {
		return fmt.Errorf("%s: nothing can be written there: %w", beside, errors.Unwrap(err))
	}
	defer os.RemoveAll(stage)
	if err := os.Chmod(stage, 0o755); err != nil {
		return err
	}
	if err := p.fill(stage); err != nil {
		return named(err, stage, dir)
	}
	if git {
		if err := p.commit(stage); err != nil {
			return err
		}
	}
	if absent {
		return os.Rename(stage, dir)
	}
	return moveInto(stage, dir)
}

// makeFolders makes a folder and those above it, and gives the ones it made.
func makeFolders(dir string) (made []string, err error) {
	if _, err := os.Stat(dir); err == nil {
		return nil, nil
	} else if !errors.Is(err, os.ErrNotExist) {
		return nil, err
	}
	if made, err = makeFolders(filepath.Dir(dir)); err != nil {
		return made, err
	}
	if err := os.Mkdir(dir, 0o755); err != nil {
		return made, err
	}
	return append(made, dir), nil
}

func (p *Plan) fill(stage string) error {
	for _, item := range p.Items {
		at := filepath.Join(stage, filepath.FromSlash(item.Path))
		var err error
		if strings.HasSuffix(item.Path, "/") {
			err = os.Mkdir(at, 0o755)
		} else {
			err = os.WriteFile(at, item.Text, item.mode())
		}
		if err != nil {
			return err
		}
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

// moveInto moves everything in stage to dir, or nothing.
func moveInto(stage, dir string) error {
	entries, err := os.ReadDir(stage)
	if err != nil {
		return err
	}
	for i, e := range entries {
		to := filepath.Join(dir, e.Name())
		if _, err = os.Lstat(to); err == nil {
			err = fmt.Errorf("%s %w: %s came into it meanwhile", dir, ErrNotEmpty, e.Name())
		} else {
			err = os.Rename(filepath.Join(stage, e.Name()), to)
		}
		if err != nil {
			for _, done := range entries[:i] {
				_ = os.Rename(filepath.Join(dir, done.Name()), filepath.Join(stage, done.Name()))
			}
			return err
		}
	}
	return nil
}

// unprompted keeps git from running anything but itself: no hooks, monitors, templates or
// signing programs, whatever the settings of the machine say.
var unprompted = []string{"-c", "core.hooksPath=" + os.DevNull, "-c", "core.fsmonitor=false", "-c", "init.templateDir=", "-c", "commit.gpgSign=false"}

// ofAuthor says whether a setting of the environment only says who commits, and when.
func ofAuthor(set string) bool {
	return strings.HasPrefix(set, "GIT_AUTHOR_") || strings.HasPrefix(set, "GIT_COMMITTER_") || strings.HasPrefix(set, "GIT_CONFIG_")
}

// commit makes a git repository with a first commit in stage.
func (p *Plan) commit(stage string) error {
	for _, args := range [][]string{
		{"init", "--quiet"},
		{"add", "--all"},
		{"commit", "--quiet", "--message", "Start from the layout " + p.Layout.Name},
	} {
		git := exec.Command("git", append(unprompted, args...)...)
		git.Dir = stage
		// Inside a hook these name another repository than the new one.
		git.Env = slices.DeleteFunc(os.Environ(), func(set string) bool { return strings.HasPrefix(set, "GIT_") && !ofAuthor(set) })
		out, err := git.CombinedOutput()
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

// mode gives the permissions of a file: one that begins by naming the program
// that runs it may be run.
func (i *Item) mode() os.FileMode {
	if bytes.HasPrefix(i.Text, []byte("#!")) {
		return 0o755
	}
	return 0o644
}
