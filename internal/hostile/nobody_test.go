//go:build unix

package hostile

import (
	"bytes"
	"os"
	"os/exec"
	"path/filepath"
	"syscall"
	"testing"
)

// binaryForAll lets everybody come down to the program.
func binaryForAll(t *testing.T) {
	t.Helper()
	for at := filepath.Dir(binary); at != "/" && at != filepath.Clean(os.TempDir()); at = filepath.Dir(at) {
		must(t, os.Chmod(at, 0o755))
	}
}

// asNobody runs the program without the rights of root, for whom nothing is unreadable.
func asNobody(t *testing.T, dir string, args ...string) outcome {
	t.Helper()
	cmd := exec.Command(binary, args...)
	cmd.Dir = dir
	if os.Getuid() == 0 {
		for at := dir; at != "/" && at != filepath.Clean(os.TempDir()); at = filepath.Dir(at) {
			must(t, os.Chmod(at, 0o755))
		}
		cmd.SysProcAttr = &syscall.SysProcAttr{Credential: &syscall.Credential{Uid: 65534, Gid: 65534}}
		cmd.Env = append(os.Environ(), "HOME=/nonexistent", "XDG_CACHE_HOME=/nonexistent")
	}
	var out, wrong bytes.Buffer
	cmd.Stdout, cmd.Stderr = &out, &wrong
	_ = cmd.Run()
	return outcome{out.String(), wrong.String(), cmd.ProcessState.ExitCode()}
}
