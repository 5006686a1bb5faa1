//go:build unix

package changes

import (
	"context"
	"errors"
	"io/fs"
	"os"
	"time"

	"golang.org/x/sys/unix"
)

// lock keeps other runs from writing in a folder: the folder itself is locked, so nothing
// is left behind. A file system that knows no locks does without.
func lock(ctx context.Context, dir string) (unlock func(), err error) {
	file, err := os.Open(dir)
	if err != nil {
		return nil, err
	}
	for {
		err := unix.Flock(int(file.Fd()), unix.LOCK_EX|unix.LOCK_NB)
		if !errors.Is(err, unix.EWOULDBLOCK) && !errors.Is(err, unix.EINTR) {
			return func() { file.Close() }, nil
		}
		select {
		case <-ctx.Done():
			file.Close()
			return nil, ctx.Err()
		case <-time.After(20 * time.Millisecond):
		}
	}
}

// dead says whether a stage was left behind: under the lock, every one was.
func dead(fs.DirEntry) bool { return true }

// replace renames over a file, or over a folder that is empty, which package os refuses.
func replace(from, to string) error {
	if err := unix.Rename(from, to); err != nil {
		return &os.LinkError{Op: "rename", Old: from, New: to, Err: err}
	}
	return nil
}
