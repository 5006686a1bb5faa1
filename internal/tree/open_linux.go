package tree

import (
	"errors"
	"io"
	"os"
	"runtime"

	"golang.org/x/sys/unix"
)

// A descriptor is an open file, read without more ado: a repository has many.
type descriptor int

func (d descriptor) Read(to []byte) (int, error) {
	for {
		n, err := unix.Read(int(d), to)
		switch {
		case err == unix.EINTR:
		case err != nil:
			return 0, err
		case n == 0 && len(to) > 0:
			return 0, io.EOF
		default:
			return n, nil
		}
	}
}

func (d descriptor) Close() error { return unix.Close(int(d)) }

// openBeneath opens a regular file below root in one step, by openat2(2), and tells
// its size. The error is errors.ErrUnsupported where the system has no such step.
func openBeneath(root *os.File, path string) (file io.ReadCloser, size int64, err error) {
	how := unix.OpenHow{Flags: unix.O_RDONLY | unix.O_CLOEXEC | unix.O_NONBLOCK | unix.O_NOCTTY, Resolve: unix.RESOLVE_BENEATH | unix.RESOLVE_NO_MAGICLINKS}
	fd := -1
	for tries := 0; fd < 0; tries++ {
		fd, err = unix.Openat2(int(root.Fd()), path, &how)
		switch {
		case err == nil:
		case (err == unix.EINTR || err == unix.EAGAIN) && tries < 100: // something was renamed meanwhile
		case err == unix.EAGAIN || errors.Is(err, unix.ENOSYS) || errors.Is(err, unix.EPERM) || errors.Is(err, unix.ENAMETOOLONG) || errors.Is(err, unix.EINVAL):
			return nil, 0, errors.ErrUnsupported
		default:
			return nil, 0, &os.PathError{Op: "open", Path: path, Err: err}
		}
	}
	runtime.KeepAlive(root)
	var s unix.Stat_t
	if err = unix.Fstat(fd, &s); err == nil && s.Mode&unix.S_IFMT != unix.S_IFREG {
		err = notRegular(path)
	}
	if err != nil {
		_ = unix.Close(fd)
		return nil, 0, err
	}
	return descriptor(fd), s.Size, nil
}
