package tree

import (
	"bytes"
	"encoding/binary"
	"errors"
	"os"

	"golang.org/x/sys/unix"
)

// A lister reads folders with the system call itself. Reading is most of a
// check, and the portable way allocates several times for each name; this one
// once for each folder.
type lister struct {
	buffer  [1 << 15]byte
	names   []byte
	entries []entry
	ends    []int
}

// list gives the entries of the folder; they are good until the next call,
// their names for ever.
func (l *lister) list(path string) ([]entry, error) {
	fd, err := open(path)
	if err != nil {
		return nil, &os.PathError{Op: "open", Path: path, Err: err}
	}
	defer unix.Close(fd)
	l.names, l.entries, l.ends = l.names[:0], l.entries[:0], l.ends[:0]
	for {
		n, err := unix.ReadDirent(fd, l.buffer[:])
		if errors.Is(err, unix.EINTR) {
			continue
		}
		if n <= 0 || err != nil {
			l.name()
			if err != nil {
				err = &os.PathError{Op: "read", Path: path, Err: err}
			}
			return l.entries, err
		}
		l.parse(path, l.buffer[:n])
	}
}

func open(path string) (int, error) {
	for {
		fd, err := unix.Open(path, unix.O_RDONLY|unix.O_DIRECTORY|unix.O_CLOEXEC, 0)
		if !errors.Is(err, unix.EINTR) {
			return fd, err
		}
	}
}

// parse reads the records of getdents64(2): the inode number (8 bytes), an
// offset (8), the record's length (2), the type (1), and the name, which ends
// in NUL.
func (l *lister) parse(path string, records []byte) {
	const length, kind, name = 16, 18, 19
	for len(records) >= name {
		record := records[:binary.NativeEndian.Uint16(records[length:])]
		records = records[len(record):]
		text := record[name:]
		if end := bytes.IndexByte(text, 0); end >= 0 {
			text = text[:end]
		}
		if binary.NativeEndian.Uint64(record) == 0 || string(text) == "." || string(text) == ".." {
			continue
		}
		e := entry{kind: Special}
		switch record[kind] {
		case unix.DT_REG:
			e.kind = File
		case unix.DT_DIR:
			e.kind = IsFolder
		case unix.DT_LNK:
			e.kind = Link
		case unix.DT_UNKNOWN:
			// Some file systems do not say; ask for the one name.
			if info, err := os.Lstat(path + "/" + string(text)); err == nil {
				e.kind = kindOf(info.Mode().Type())
			}
		}
		l.names = append(l.names, text...)
		l.ends = append(l.ends, len(l.names))
		l.entries = append(l.entries, e)
	}
}

// name gives the entries their names, all cut from one string.
func (l *lister) name() {
	all, start := string(l.names), 0
	for i, end := range l.ends {
		l.entries[i].name = all[start:end]
		start = end
	}
}
