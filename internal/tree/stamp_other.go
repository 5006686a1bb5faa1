//go:build !unix

package tree

import "io/fs"

func inodeOf(fs.FileInfo) (altered int64, inode uint64) { return 0, 0 }
