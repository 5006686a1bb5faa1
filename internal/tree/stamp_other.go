//go:build !unix

package tree

import (
	"io/fs"
	"path/filepath"
)

func inodeOf(fs.FileInfo) (altered int64, inode uint64) { return 0, 0 }

// SameDisk says whether two folders lie on one disk.
func SameDisk(a, b string) bool { return filepath.VolumeName(a) == filepath.VolumeName(b) }
