// Package memory keeps in the user's cache folder what one run found out and the
// next need not find out again. All of it may be deleted at any time.
package memory

import (
	"bytes"
	"crypto/sha256"
	"errors"
	"fmt"
	"hash/fnv"
	"os"
	"path/filepath"
	"sync"
	"time"

	"dicaxon/internal/safe"
)

// Settled is how long ago a file must have changed for its size and times to tell
// its text: within the grain of a clock, a second change would leave them the same.
var Settled = 2 * time.Second

// kept is how long something is kept that nobody writes anew.
const kept = 60 * 24 * time.Hour

// mostKept bounds what is read back: a million files take some hundred megabytes.
const mostKept = 2 << 30

// ErrForeign says that what is kept is damaged, or was written by another program.
var ErrForeign = errors.New("what is remembered was written by another program, or is damaged")

// Path gives where things of a kind are kept for the repository at root.
func Path(kind, root string) (string, error) {
	folder, err := os.UserCacheDir()
	if err != nil {
		return "", err
	}
	h := fnv.New64a()
	h.Write([]byte(root))
	return filepath.Join(folder, "dicaxon", kind, fmt.Sprintf("%016x", h.Sum64())), nil
}

// Program tells programs apart that may have other readers or rules: by their size
// and the time at which they were built.
var Program = sync.OnceValue(func() string {
	at, err := os.Executable()
	if err != nil {
		return ""
	}
	info, err := os.Stat(at)
	if err != nil {
		return ""
	}
	return fmt.Sprintf("dicaxon 1 %d %d", info.Size(), info.ModTime().UnixNano())
})

// Read gives what Write kept at a path. The error is ErrForeign, or what reading
// gave.
func Read(path string) ([]byte, error) {
	data, err := safe.ReadAny(path, mostKept)
	if err != nil {
		return nil, err
	}
	if len(data) < sha256.Size || Program() == "" {
		return nil, ErrForeign
	}
	seal, rest := data[:sha256.Size], data[sha256.Size:]
	if now := sealed(rest); !bytes.Equal(seal, now[:]) {
		return nil, ErrForeign
	}
	return rest, nil
}

// Write keeps data at a path, whole or not at all; of several programs that write it
// the last wins. What nobody wrote for long is taken out of the folder.
func Write(path string, data []byte) error {
	folder := filepath.Dir(path)
	if err := os.MkdirAll(folder, 0o700); err != nil {
		return err
	}
	file, err := os.CreateTemp(folder, "new-*")
	if err != nil {
		return err
	}
	seal := sealed(data)
	_, err = file.Write(append(seal[:], data...))
	if err = errors.Join(err, file.Close()); err == nil {
		// Not synced: what a crash damages does not fit its seal, and is found out anew.
		err = os.Rename(file.Name(), path)
	}
	if err != nil {
		_ = os.Remove(file.Name())
		return err
	}
	sweep(folder)
	return nil
}

// sealed gives the hash of data as this program would write it.
func sealed(data []byte) [sha256.Size]byte {
	h := sha256.New()
	h.Write([]byte(Program()))
	h.Write(data)
	return [sha256.Size]byte(h.Sum(nil))
}

// sweep removes what is older than kept.
func sweep(folder string) {
	entries, _ := os.ReadDir(folder)
	for _, e := range entries {
		if info, err := e.Info(); err == nil && info.Mode().IsRegular() && time.Since(info.ModTime()) > kept {
			_ = os.Remove(filepath.Join(folder, e.Name()))
		}
	}
}
