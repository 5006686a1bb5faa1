//go:build unix

package hostile

import (
	"bytes"
	"context"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"syscall"
	"testing"
	"time"
)

var binary, world string

// canary is a secret that lies outside of every repository.
const canary = "harbour-fog-canary"

// TestMain builds the program once, in a world of its own: a home, a cache, a secret.
func TestMain(m *testing.M) {
	dir, err := os.MkdirTemp("", "dicaxon-hostile-*")
	if err != nil {
		panic(err)
	}
	world, binary = dir, filepath.Join(dir, "dicaxon")
	build := exec.Command("go", "build", "-o", binary, "dicaxon/cmd/dicaxon")
	build.Env = append(os.Environ(), "CGO_ENABLED=0")
	if out, err := build.CombinedOutput(); err != nil {
		panic(string(out))
	}
	for _, folder := range []string{"home", "cache"} {
		_ = os.Mkdir(filepath.Join(dir, folder), 0o755)
	}
	_ = os.WriteFile(filepath.Join(dir, "secret"), []byte("password: "+canary+"\n"), 0o644)
	os.Setenv("HOME", filepath.Join(dir, "home"))
	os.Setenv("XDG_CACHE_HOME", filepath.Join(dir, "cache"))
	os.Setenv("GIT_CONFIG_NOSYSTEM", "1")
	os.Setenv("CANARY", canary)
	status := m.Run()
	os.RemoveAll(dir)
	os.Exit(status)
}

// What a call may take: an attack that takes more has worked.
const (
	mostTime   = 20 * time.Second
	mostMemory = 700 << 20 // bytes
)

type outcome struct {
	out, err string
	status   int
}

func (o outcome) all() string { return o.out + o.err }

// run runs the program in a folder and holds what holds of every call: it ends, in time
// and in memory, with no panic, a status of its own, and without the secret.
func run(t *testing.T, dir string, args ...string) outcome {
	t.Helper()
	return runWith(t, dir, nil, args...)
}

func runWith(t *testing.T, dir string, env []string, args ...string) outcome {
	t.Helper()
	ctx, cancel := context.WithTimeout(context.Background(), mostTime)
	defer cancel()
	cmd := exec.CommandContext(ctx, binary, args...)
	cmd.Dir, cmd.Env = dir, append(os.Environ(), env...)
	var out, wrong bytes.Buffer
	cmd.Stdout, cmd.Stderr = &out, &wrong
	err := cmd.Run()
	if cmd.ProcessState == nil {
		t.Fatal(err)
	}
	o := outcome{out.String(), wrong.String(), cmd.ProcessState.ExitCode()}
	switch {
	case ctx.Err() != nil:
		t.Fatalf("%q hangs: %s", args, tail(o.all()))
	case strings.Contains(o.err, "goroutine ") || strings.Contains(o.err, "fatal error"):
		t.Fatalf("%q panics: %s", args, tail(o.err))
	case o.status < 0 || o.status > 3:
		t.Fatalf("%q ends with status %d: %s", args, o.status, tail(o.all()))
	case strings.Contains(o.all(), canary):
		t.Errorf("%q shows the secret: %s", args, tail(o.all()))
	}
	if used, ok := cmd.ProcessState.SysUsage().(*syscall.Rusage); ok && used.Maxrss<<10 > mostMemory {
		t.Errorf("%q takes %d MB", args, used.Maxrss>>10)
	}
	return o
}

func tail(text string) string { return text[max(0, len(text)-600):] }

// git runs git in a folder, as nobody in particular.
func git(t *testing.T, dir string, args ...string) string {
	t.Helper()
	return gitWith(t, dir, nil, args...)
}

func gitWith(t *testing.T, dir string, env []string, args ...string) string {
	t.Helper()
	cmd := exec.Command("git", append([]string{"-c", "user.name=Crew", "-c", "user.email=crew@gannet.example", "-c", "init.defaultBranch=main", "-c", "protocol.file.allow=always"}, args...)...)
	cmd.Dir, cmd.Env = dir, append(os.Environ(), env...)
	out, err := cmd.CombinedOutput()
	if err != nil {
		t.Fatalf("git %v: %v\n%s", args, err, out)
	}
	return strings.TrimSpace(string(out))
}

// write makes files below a folder: a text, a link ("-> to"), a pipe ("|") or, with a
// slash at the end of its path, a folder.
func write(t *testing.T, dir string, files map[string]string) string {
	t.Helper()
	for path, text := range files {
		at := filepath.Join(dir, path)
		must(t, os.MkdirAll(filepath.Dir(at), 0o755))
		if to, ok := strings.CutPrefix(text, "-> "); ok {
			must(t, os.Symlink(to, at))
		} else if text == "|" {
			must(t, syscall.Mkfifo(at, 0o644))
		} else if strings.HasSuffix(path, "/") {
			must(t, os.MkdirAll(at, 0o755))
		} else {
			must(t, os.WriteFile(at, []byte(text), 0o644))
		}
	}
	return dir
}

func must(t *testing.T, err error) {
	t.Helper()
	if err != nil {
		t.Fatal(err)
	}
}

// here lists what is below a folder, links and pipes as such, with texts.
func here(t *testing.T, dir string) string {
	t.Helper()
	var all []string
	must(t, filepath.Walk(dir, func(at string, info os.FileInfo, err error) error {
		if err != nil {
			return err
		}
		rel, _ := filepath.Rel(dir, at)
		line := rel + " " + info.Mode().String()
		if info.Mode().IsRegular() {
			text, err := os.ReadFile(at)
			if err != nil {
				return err
			}
			line += " " + string(text)
		}
		all = append(all, line)
		return nil
	}))
	slices.Sort(all)
	return strings.Join(all, "\n")
}
