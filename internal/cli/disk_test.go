//go:build unix

package cli_test

import (
	"bufio"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"syscall"
	"testing"

	"dicaxon/internal/treetest"
)

// asNobody lets a command run without the rights of root, for which no folder
// is unreadable.
func asNobody(cmd *exec.Cmd) {
	if os.Getuid() == 0 {
		cmd.SysProcAttr = &syscall.SysProcAttr{Credential: &syscall.Credential{Uid: 65534, Gid: 65534}}
		cmd.Env = append(os.Environ(), "HOME=/nonexistent")
	}
}

// open lets everybody come down to dir, and to the program.
func open(t *testing.T, dir string) {
	t.Helper()
	for _, path := range []string{dir, filepath.Dir(binary)} {
		for ; path != "/" && path != os.TempDir(); path = filepath.Dir(path) {
			if err := os.Chmod(path, 0o755); err != nil {
				t.Fatal(err)
			}
		}
	}
}

func TestUnreadableFolder(t *testing.T) {
	dir := t.TempDir()
	open(t, dir)
	app := filepath.Join(dir, "app")
	if o := run(t, dir, "scaffold", "flask/areas", "app", "--yes"); o.status != 0 {
		t.Fatal(o.err)
	}
	os.Chmod(filepath.Join(app, "app", "home"), 0)
	os.Remove(filepath.Join(app, "README.md"))
	defer os.Chmod(filepath.Join(app, "app", "home"), 0o755)
	cmd := exec.Command(binary, "check", app, "--layout", "flask/areas")
	asNobody(cmd)
	o := finish(t, cmd)
	if o.status != 3 || !strings.Contains(o.err, "app/home/: permission denied; what is in it was not checked") {
		t.Errorf("status %d, said %q", o.status, o.err)
	}
	if !strings.Contains(o.out, "README.md") || strings.Contains(o.out, "app/home/views.py") {
		t.Errorf("the rest must be checked, and nothing be missed in what was not read:\n%s", o.out)
	}
}

func TestReadOnlyFolder(t *testing.T) {
	dir := t.TempDir()
	open(t, dir)
	os.Chmod(dir, 0o555)
	defer os.Chmod(dir, 0o755)
	cmd := exec.Command(binary, "scaffold", "flask/areas", filepath.Join(dir, "app"), "--yes")
	asNobody(cmd)
	if o := finish(t, cmd); o.status != 3 || !strings.Contains(o.err, "permission denied") {
		t.Errorf("status %d, said %q", o.status, o.err)
	}
}

// TestNoSpace limits how long a file may get, which fails a write midway as a
// full disk does.
func TestNoSpace(t *testing.T) {
	dir := t.TempDir()
	cmd := exec.Command("sh", "-c", fmt.Sprintf("ulimit -f 0; exec %s scaffold flask/areas deep/er/app --yes", binary))
	cmd.Dir = dir
	o := finish(t, cmd)
	if o.status != 3 || !strings.Contains(o.err, "too large") {
		t.Errorf("status %d, said %q", o.status, o.err)
	}
	if left, _ := os.ReadDir(dir); len(left) != 0 {
		t.Errorf("left behind: %v", left)
	}
}

func TestClosedPipe(t *testing.T) {
	dir := t.TempDir()
	files := map[string]string{"go.mod": "module m\n"}
	for i := range 5000 {
		files[fmt.Sprintf("stray %d.xyz", i)] = ""
	}
	treetest.Add(t, dir, files)
	cmd := exec.Command(binary, "check", "--layout", "go/service", "--most", "0")
	cmd.Dir = dir
	var stderr strings.Builder
	cmd.Stderr = &stderr
	out, err := cmd.StdoutPipe()
	if err != nil {
		t.Fatal(err)
	}
	if err := cmd.Start(); err != nil {
		t.Fatal(err)
	}
	line, _, err := bufio.NewReader(out).ReadLine()
	if err != nil || !strings.Contains(string(line), "go/service") {
		t.Errorf("first line %q, %v", line, err)
	}
	out.Close()
	cmd.Wait()
	if stderr.Len() > 0 {
		t.Errorf("a closed pipe is no trouble, yet: %s", stderr.String())
	}
}

func TestStrangeNames(t *testing.T) {
	dir := treetest.Make(t, map[string]string{"go.mod": "module m\n", "bad \xff name": "", "new\nline": "", "esc\x1b[31m": "", "ünï": ""})
	o := run(t, dir, "check", "--layout", "go/service")
	for _, want := range []string{`bad \xff name`, `new\x0aline`, `esc\x1b[31m`, "ünï"} {
		if !strings.Contains(o.out, want) {
			t.Errorf("%q is not shown:\n%s", want, o.out)
		}
	}
	if strings.Contains(o.out, "\x1b") {
		t.Error("a name's escape reached the terminal")
	}
	if all := strings.Join(found(t, dir, "--layout", "go/service"), "\n"); !strings.Contains(all, `bad \xff name`) {
		t.Errorf("JSON: %s", all)
	}
}

func TestLinks(t *testing.T) {
	dir := t.TempDir()
	if o := run(t, dir, "scaffold", "go/service", "tides", "--yes"); o.status != 0 {
		t.Fatal(o.err)
	}
	root := filepath.Join(dir, "tides")
	os.Symlink(".", filepath.Join(root, "internal", "loop"))
	os.Symlink("/etc", filepath.Join(root, "outside"))
	os.Rename(filepath.Join(root, "README.md"), filepath.Join(dir, "README.md"))
	os.Symlink("../README.md", filepath.Join(root, "README.md"))
	for _, f := range found(t, root) {
		if strings.Contains(f, "README.md") || strings.Contains(f, "passwd") || strings.Contains(f, "loop/") {
			t.Errorf("a link was followed, or not taken for what it stands for: %s", f)
		}
	}
}

func TestDeepPaths(t *testing.T) {
	dir := t.TempDir()
	treetest.Add(t, dir, map[string]string{"go.mod": "module m\n"})
	at, err := os.OpenRoot(dir)
	if err != nil {
		t.Fatal(err)
	}
	name := strings.Repeat("d", 200)
	for range 30 { // a path of 6,000 characters
		if err := at.Mkdir(name, 0o755); err != nil {
			t.Fatal(err)
		}
		below, err := at.OpenRoot(name)
		if err != nil {
			t.Fatal(err)
		}
		at.Close()
		at = below
	}
	f, err := at.Create("deep.txt")
	if err != nil {
		t.Fatal(err)
	}
	f.Close()
	at.Close()
	o := run(t, dir, "check", "--layout", "go/service")
	if o.status != 0 || o.err != "" || !strings.Contains(o.out, "2 files in 31 folders") {
		t.Errorf("status %d, said %q:\n%.300s", o.status, o.err, o.out)
	}
}
