//go:build unix

package safe

import (
	"errors"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"syscall"
	"testing"
	"time"
)

// TestOnlyRegularFilesWithinTheFolder tries what somebody may leave in a folder for a
// program that reads it.
func TestOnlyRegularFilesWithinTheFolder(t *testing.T) {
	outside, dir := t.TempDir(), t.TempDir()
	do := func(err error) {
		t.Helper()
		if err != nil {
			t.Fatal(err)
		}
	}
	do(os.WriteFile(filepath.Join(outside, "secret"), []byte("s"), 0o644))
	do(os.WriteFile(filepath.Join(dir, "plain"), []byte("text"), 0o644))
	do(os.WriteFile(filepath.Join(dir, "large"), []byte(strings.Repeat("x", 100)), 0o644))
	do(os.Symlink("plain", filepath.Join(dir, "inside")))
	do(os.Symlink(filepath.Join(outside, "secret"), filepath.Join(dir, "out")))
	do(os.Symlink("../"+filepath.Base(outside)+"/secret", filepath.Join(dir, "up")))
	do(os.Symlink("/dev/zero", filepath.Join(dir, "endless")))
	do(os.Symlink("/proc/self/environ", filepath.Join(dir, "environ")))
	do(os.Mkdir(filepath.Join(dir, "folder"), 0o755))
	do(syscall.Mkfifo(filepath.Join(dir, "pipe"), 0o644))
	late := time.AfterFunc(20*time.Second, func() { panic("it waits") })
	defer late.Stop()
	for name, want := range map[string]string{"plain": "text", "inside": "text"} {
		if got, err := ReadFile(dir, name, 50); err != nil || string(got) != want {
			t.Errorf("%s: %q %v", name, got, err)
		}
		if got, err := fs.ReadFile(FS(dir), name); err != nil || string(got) != want {
			t.Errorf("%s as a file system: %q %v", name, got, err)
		}
	}
	for _, name := range []string{"large", "out", "up", "endless", "environ", "folder", "pipe", "absent", "../" + filepath.Base(outside) + "/secret"} {
		if got, err := ReadFile(dir, name, 50); err == nil {
			t.Errorf("%s gives %q", name, got)
		}
		if name == "large" {
			continue
		}
		if got, err := fs.ReadFile(FS(dir), name); err == nil {
			t.Errorf("%s as a file system gives %q", name, got)
		}
	}
	for _, name := range []string{"out", "up", "endless"} {
		if _, err := ReadFile(dir, name, 50); !errors.Is(err, ErrOutside) {
			t.Errorf("%s: %v", name, err)
		}
	}
	for name, want := range map[string]error{"pipe": ErrIrregular, "endless": ErrIrregular, "large": ErrTooLarge, "absent": fs.ErrNotExist} {
		if _, err := ReadAny(filepath.Join(dir, name), 50); !errors.Is(err, want) {
			t.Errorf("%s: %v", name, err)
		}
	}
}
