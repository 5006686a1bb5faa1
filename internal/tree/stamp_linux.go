package tree

import (
	"path/filepath"
	"syscall"

	"golang.org/x/sys/unix"
)

func alteredAt(s *syscall.Stat_t) int64 { return s.Ctim.Nano() }

// stampsIn gives stamps of the files in a folder, which it opens once for all of them.
func (r *Repository) stampsIn(folder string) (stamp stamper, done func()) {
	fd, err := unix.Open(filepath.Join(r.Root, folder), unix.O_PATH|unix.O_DIRECTORY|unix.O_CLOEXEC, 0)
	if err != nil {
		return r.stampsOf(folder) // such as a path that is too long
	}
	var s unix.Stat_t
	stamp = func(name string) (state, bool) {
		for {
			switch err := unix.Fstatat(fd, name, &s, unix.AT_SYMLINK_NOFOLLOW); {
			case err == unix.EINTR:
			case err != nil || s.Mode&unix.S_IFMT != unix.S_IFREG:
				return state{}, false
			default:
				return state{s.Size, s.Mtim.Nano(), s.Ctim.Nano(), s.Ino}, true
			}
		}
	}
	return stamp, func() { _ = unix.Close(fd) }
}
