// Package safe opens files that a stranger may have made: regular ones alone, without
// waiting for a pipe, no further than a limit and, where a folder is named, never out of
// it by a link.
package safe

import (
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path"
	"path/filepath"
	"strings"
	"syscall"
)

// Limits of what is read whole, in bytes.
const (
	Settings = 1 << 20  // a file of settings, a list of ignored names
	Listing  = 64 << 20 // a list that a program wrote, such as accepted findings
)

// Stage begins the names of folders in which something is made before it comes into its
// place. One that is found was left by a run that was cut off, and is no part of the
// repository.
const Stage = ".dicaxon-stage-"

// ErrTooLarge is wrapped by the error for a file that is larger than its limit;
// ErrIrregular by that for a folder, a pipe, a device or a socket; ErrOutside by that for
// what a link leads out to.
var (
	ErrTooLarge  = errors.New("is too large")
	ErrIrregular = errors.New("is no regular file")
	ErrOutside   = errors.New("is a link that leads out of its folder")
)

// ReadFile reads a file below a folder, which no link leads out of.
func ReadFile(dir, name string, limit int64) ([]byte, error) {
	file, err := open(dir, name, false)
	if err != nil {
		return nil, err
	}
	return read(file, filepath.Join(dir, name), limit)
}

// ReadAny reads a file wherever it lies, such as git's own, which may be linked.
func ReadAny(name string, limit int64) ([]byte, error) {
	if info, err := os.Stat(name); err != nil {
		return nil, err
	} else if !info.Mode().IsRegular() {
		return nil, &fs.PathError{Op: "open", Path: name, Err: ErrIrregular}
	}
	file, err := os.OpenFile(name, os.O_RDONLY|syscall.O_NONBLOCK, 0)
	if err != nil {
		return nil, err
	}
	return read(file, name, limit)
}

// open opens a regular file below a folder or, where folders are taken, a folder.
func open(dir, name string, folders bool) (*os.File, error) {
	root, err := os.OpenRoot(dir)
	if err != nil {
		return nil, err
	}
	defer root.Close()
	at := filepath.FromSlash(path.Clean(name))
	info, err := root.Stat(at)
	if err != nil {
		return nil, plainly(name, err)
	}
	if !info.Mode().IsRegular() && !(folders && info.IsDir()) {
		return nil, &fs.PathError{Op: "open", Path: name, Err: ErrIrregular}
	}
	return root.OpenFile(at, os.O_RDONLY|syscall.O_NONBLOCK, 0)
}

// plainly says in plain words that a path leads out of its folder, for which package os
// has no error that could be asked for.
func plainly(name string, err error) error {
	if errors.Is(err, fs.ErrNotExist) || !strings.Contains(err.Error(), "escapes") {
		return err
	}
	return &fs.PathError{Op: "open", Path: name, Err: ErrOutside}
}

// read reads a file to its end and closes it. What was opened is asked again, since
// another may have come to its place.
func read(file *os.File, name string, limit int64) ([]byte, error) {
	defer file.Close()
	info, err := file.Stat()
	if err != nil {
		return nil, err
	}
	if !info.Mode().IsRegular() {
		return nil, &fs.PathError{Op: "open", Path: name, Err: ErrIrregular}
	}
	text, err := io.ReadAll(io.LimitReader(file, limit+1))
	if err == nil && int64(len(text)) > limit {
		err = fmt.Errorf("%s %w: more than %d bytes", name, ErrTooLarge, limit)
	}
	return text, err
}

// FS is a folder as a file system: its regular files and folders, and nothing that a link
// leads to outside of it.
type FS string

// Open opens a file or a folder.
func (f FS) Open(name string) (fs.File, error) {
	if !fs.ValidPath(name) {
		return nil, &fs.PathError{Op: "open", Path: name, Err: fs.ErrInvalid}
	}
	return open(string(f), name, true)
}

// ReadFile reads a regular file whole, of the size of settings at most.
func (f FS) ReadFile(name string) ([]byte, error) {
	if !fs.ValidPath(name) {
		return nil, &fs.PathError{Op: "open", Path: name, Err: fs.ErrInvalid}
	}
	return ReadFile(string(f), name, Settings)
}
