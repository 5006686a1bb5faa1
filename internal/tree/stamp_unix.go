//go:build unix

package tree

import (
	"io/fs"
	"syscall"
)

// inodeOf gives the time at which the file itself was last changed, and its number.
func inodeOf(info fs.FileInfo) (altered int64, inode uint64) {
	if s, ok := info.Sys().(*syscall.Stat_t); ok {
		return alteredAt(s), uint64(s.Ino)
	}
	return 0, 0
}
