// Package changes writes: everything that is made is made aside, in a stage on the same
// file system, and comes into its place by a rename, so that it is there whole or not at
// all, wherever a run is cut off.
package changes

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"dicaxon/internal/safe"
)

// ErrTaken is wrapped by the error for a place where something stands already.
var ErrTaken = errors.New("is taken")

// ErrHalf is wrapped by the error where what came into its place cannot be taken back: the next run there finishes it.
var ErrHalf = errors.New("the next run there finishes it")

// A Stage is a folder in which something is made before it comes into its place. No two
// runs have one in the same folder at once, so one that is found was left by a run that
// was cut off.
type Stage struct {
	Dir    string // to make things in
	Ended  []string
	beside string
	unlock func()
}

// The names in a stage: what is made, and the list of what is being moved out of it.
const (
	making = "making"
	moving = "moving"
)

// Begin makes a stage in a folder, after waiting for other runs that have one there until
// the context ends. What a dead run left is removed or, where its last step had begun,
// finished: Ended has what it put into place. Close ends the stage.
func Begin(ctx context.Context, beside string) (*Stage, error) {
	unlock, err := lock(ctx, beside)
	if err != nil {
		return nil, err
	}
	s := &Stage{beside: beside, unlock: unlock}
	if err := s.bury(); err != nil {
		unlock()
		return nil, err
	}
	at, err := os.MkdirTemp(beside, safe.Stage+"*")
	if err != nil {
		unlock()
		return nil, err
	}
	s.Dir = filepath.Join(at, making)
	if err := os.Mkdir(s.Dir, 0o755); err != nil {
		s.Close()
		return nil, err
	}
	return s, nil
}

// Clear removes or finishes what dead runs left in a folder, as Begin does, and says what
// it finished. Where there is nothing of that kind it writes nothing.
func Clear(ctx context.Context, beside string) (ended []string, err error) {
	there, err := os.ReadDir(beside)
	if err != nil || !slices.ContainsFunc(there, func(e fs.DirEntry) bool { return strings.HasPrefix(e.Name(), safe.Stage) }) {
		return nil, nil // who wants to write there is told what is wrong
	}
	unlock, err := lock(ctx, beside)
	if err != nil {
		return nil, err
	}
	defer unlock()
	s := &Stage{beside: beside}
	err = s.bury()
	return s.Ended, err
}

// bury finishes or removes the stages of runs that were cut off.
func (s *Stage) bury() error {
	there, err := os.ReadDir(s.beside)
	if err != nil {
		return err
	}
	for _, e := range there {
		if !strings.HasPrefix(e.Name(), safe.Stage) || !dead(e) {
			continue
		}
		at := filepath.Join(s.beside, e.Name())
		names, err := list(filepath.Join(at, moving))
		if err != nil {
			return err
		}
		for _, name := range names {
			from, to := filepath.Join(at, making, name), filepath.Join(s.beside, name)
			if _, err := os.Lstat(from); errors.Is(err, fs.ErrNotExist) {
				continue // it was moved already
			}
			if err := rename(from, to); err != nil {
				return err
			}
		}
		if len(names) > 0 {
			s.Ended = append(s.Ended, names...)
		}
		if err := remove(at); err != nil {
			return err
		}
	}
	return nil
}

// remove removes a stage. What a run started that was killed may write a moment longer.
func remove(stage string) (err error) {
	for range 100 {
		if err = os.RemoveAll(stage); err == nil {
			break
		}
		time.Sleep(20 * time.Millisecond)
	}
	return err
}

// list reads the names of what was being moved; none where there is no whole list.
func list(path string) ([]string, error) {
	text, err := safe.ReadAny(path, safe.Listing)
	if errors.Is(err, fs.ErrNotExist) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	var names []string
	for lines := bufio.NewScanner(strings.NewReader(string(text))); lines.Scan(); {
		if name := lines.Text(); name != "" && filepath.IsLocal(name) && filepath.Base(name) == name {
			names = append(names, name)
		}
	}
	return names, nil
}

// Place moves one thing that was made to its place beside the stage, by one rename. What
// stands there must be an empty folder, or nothing.
func (s *Stage) Place(name string) error {
	return replace(filepath.Join(s.Dir, name), filepath.Join(s.beside, name))
}

// PlaceAll moves all that was made to beside the stage, or nothing. Cut off midway, or where
// what is there cannot be taken back either, the next Begin there finishes it.
func (s *Stage) PlaceAll() error {
	made, err := os.ReadDir(s.Dir)
	if err != nil {
		return err
	}
	var names []string
	for _, e := range made {
		names = append(names, e.Name())
		if _, err := os.Lstat(filepath.Join(s.beside, e.Name())); !errors.Is(err, fs.ErrNotExist) {
			return errors.Join(err, taken(filepath.Join(s.beside, e.Name())))
		}
	}
	record := filepath.Join(filepath.Dir(s.Dir), moving)
	if err := write(record, []byte(strings.Join(names, "\n")+"\n"), 0o644); err != nil {
		return err
	}
	for i, name := range names {
		if err := rename(filepath.Join(s.Dir, name), filepath.Join(s.beside, name)); err != nil {
			return errors.Join(err, s.takeBack(names[:i]))
		}
	}
	return nil
}

// takeBack moves what came into its place to the stage again. Where that fails the stage stays, with its
// list: to remove it would leave half of what was made.
func (s *Stage) takeBack(names []string) error {
	for _, name := range names {
		if err := os.Rename(filepath.Join(s.beside, name), filepath.Join(s.Dir, name)); err != nil {
			s.Dir = ""
			return fmt.Errorf("%w: %w", ErrHalf, err)
		}
	}
	return nil
}

func taken(path string) error { return fmt.Errorf("%s %w: it came there meanwhile", path, ErrTaken) }

// rename moves something to where nothing stands.
func rename(from, to string) error {
	if _, err := os.Lstat(to); !errors.Is(err, fs.ErrNotExist) {
		return errors.Join(err, taken(to))
	}
	return os.Rename(from, to)
}

// Close removes the stage with what is still in it.
func (s *Stage) Close() {
	if s.Dir != "" {
		_ = remove(filepath.Dir(s.Dir))
	}
	s.unlock()
}

// WriteFile writes a file whole or not at all, over what stood there.
func WriteFile(ctx context.Context, path string, text []byte, mode fs.FileMode) error {
	s, err := Begin(ctx, filepath.Dir(path))
	if err != nil {
		return err
	}
	defer s.Close()
	if err := write(filepath.Join(s.Dir, filepath.Base(path)), text, mode); err != nil {
		return err
	}
	return s.Place(filepath.Base(path))
}

// write writes a new file and waits until the disk has it.
func write(path string, text []byte, mode fs.FileMode) error {
	return create(path, text, mode, (*os.File).Sync)
}

// Create writes a new file in a stage.
func Create(path string, text []byte, mode fs.FileMode) error {
	return create(path, text, mode, func(*os.File) error { return nil })
}

func create(path string, text []byte, mode fs.FileMode, settle func(*os.File) error) error {
	file, err := os.OpenFile(path, os.O_WRONLY|os.O_CREATE|os.O_EXCL, mode)
	if err != nil {
		return err
	}
	_, err = file.Write(text)
	return errors.Join(err, settle(file), file.Close())
}
