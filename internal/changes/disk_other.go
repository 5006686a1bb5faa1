//go:build !unix

package changes

import (
	"context"
	"io/fs"
	"os"
	"time"
)

// lock does nothing where folders cannot be locked; names that are new each time keep
// runs apart.
func lock(context.Context, string) (unlock func(), err error) { return func() {}, nil }

// dead says whether a stage was left behind: no run takes an hour.
func dead(e fs.DirEntry) bool {
	info, err := e.Info()
	return err == nil && time.Since(info.ModTime()) > time.Hour
}

// replace renames over a file, or over a folder that is empty.
func replace(from, to string) error {
	if info, err := os.Stat(to); err == nil && info.IsDir() {
		if err := os.Remove(to); err != nil {
			return err
		}
	}
	return os.Rename(from, to)
}
