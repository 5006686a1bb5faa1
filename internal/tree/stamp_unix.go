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

// SameDisk says whether two folders lie on one disk; what cannot be asked is taken to.
func SameDisk(a, b string) bool {
	var of [2]syscall.Stat_t
	for i, path := range []string{a, b} {
		if syscall.Stat(path, &of[i]) != nil {
			return true
		}
	}
	return of[0].Dev == of[1].Dev
}
