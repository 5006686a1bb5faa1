//go:build linux

package hostile

import (
	"fmt"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
	"testing"
	"time"
)

// A writing is a command that writes, with what it leaves when it is whole.
type writing struct {
	name  string
	args  []string
	in    string            // the folder that it is run in, below the one that is looked at
	begin map[string]string // what is there before
	first []string          // a command that is run before
}

var writings = []writing{
	{"a new folder", []string{"scaffold", "go/command", "new", "--yes"}, "", map[string]string{"other.txt": "x"}, nil},
	{"a new folder in a new folder", []string{"scaffold", "go/command", "a/b/new", "--yes"}, "", map[string]string{"other.txt": "x"}, nil},
	{"an empty folder", []string{"scaffold", "go/command", "new", "--yes"}, "", map[string]string{"new/": "", "other.txt": "x"}, nil},
	{"the folder that one is in", []string{"scaffold", "go/command", ".", "--yes", "--answer", "program=berths"}, "here", map[string]string{"here/": "", "other.txt": "x"}, nil},
	{"accepting", []string{"check", ".", "--accept"}, "", map[string]string{"requirements.txt": "flask\n", "app.py": "import nowhere.x\nfrom flask import Flask\napp = Flask(__name__)\n", "dicaxon-accepted.json": `{"schema":"dicaxon.accepted/1","accepted":[]}`}, nil},
	{"recording", []string{"identify", ".", "--write"}, "", flask(nil), nil},
	{"realigning", []string{"realign", "--write"}, "", areas, nil},
	{"adding", []string{"add", "area", "tides"}, "", areas, nil},
	{"moving", []string{"realign", "--map", "ferry/berths=ferry/piers", "--write"}, "", areas, nil},
	{"taking back", []string{"undo"}, "", areas, []string{"realign", "--write"}},
}

// areas is a project with something to put right.
var areas = map[string]string{
	"requirements.txt": "flask\n", "run.py": "from ferry import create_app\n\napp = create_app()\n",
	"ferry/__init__.py":                       "from flask import Flask\n\nfrom ferry import berths\n\n\ndef create_app():\n    app = Flask(__name__)\n    app.register_blueprint(berths.blueprint)\n    return app\n",
	"ferry/berths/__init__.py":                "from flask import Blueprint\n\nblueprint = Blueprint(\"berths\", __name__)\n\nfrom ferry.berths import view\n",
	"ferry/berths/view.py":                    "from ferry.berths import blueprint\n\n\n@blueprint.get(\"/\")\ndef list_all():\n    return \"\"\n",
	"ferry/berths/template/berths/index.html": "<p>berths</p>\n",
}

// afresh makes the folder that a writing starts from.
func (w writing) afresh(t *testing.T) (dir, in string) {
	t.Helper()
	dir = write(t, t.TempDir(), w.begin)
	if w.first != nil {
		if o := run(t, dir, w.first...); o.status != 0 {
			t.Fatalf("%v: status %d: %s", w.first, o.status, o.err)
		}
	}
	return dir, filepath.Join(dir, w.in)
}

// again runs the command once more after it was cut off, and holds that all is whole then:
// either it does its work now, or it says that it was done.
func (w writing) again(t *testing.T, how, dir, in, before, whole string) bool {
	t.Helper()
	cut := here(t, dir)
	o := run(t, in, w.args...)
	now := here(t, dir)
	if now != whole {
		t.Errorf("%s: after the run that was cut off:\n%s\nand after the next, which said %q:\n%s\nbefore:\n%s", how, names(cut), tail(o.err), names(now), names(before))
		return false
	}
	if o.status != 0 && !strings.Contains(o.err, "not empty") && !strings.Contains(o.err, "already") && !strings.Contains(o.err, "nothing to take back") && !strings.Contains(o.err, "no such file") {
		t.Errorf("%s: the next run: status %d: %s", how, o.status, tail(o.err))
		return false
	}
	return true
}

// TestKilledAtEveryCall kills a run at each of its system calls that write, one after the
// other, and lets each of them fail once, in three ways, and all of its kind from there on.
func TestKilledAtEveryCall(t *testing.T) {
	if out, err := exec.Command("strace", "-f", "-o", os.DevNull, "true").CombinedOutput(); err != nil {
		t.Fatalf("strace, which ./test installs, cannot trace here: %v\n%s", err, out)
	}
	calls := []string{"mkdirat", "openat", "write", "renameat,renameat2,rename", "unlinkat", "fsync", "fchmodat", "utimensat", "flock"}
	kills, fails := 0, 0
	for _, w := range writings {
		t.Run(w.name, func(t *testing.T) {
			before, whole := w.ends(t)
			for _, call := range calls {
				for _, inject := range []string{"signal=KILL", "signal=INT", "error=ENOSPC", "error=EIO", "error=EACCES", "error=EROFS"} {
					if testing.Short() && inject != "signal=KILL" {
						continue
					}
					if call == "openat" && inject != "signal=KILL" {
						continue // most of them read
					}
					from := ""
					if inject == "error=EROFS" {
						from = "+" // every one from there on, as a disk does that becomes one to read only
					}
					for n := 1; n < 60; n++ {
						dir, in := w.afresh(t)
						traced := filepath.Join(t.TempDir(), "trace")
						cmd := exec.Command("strace", append([]string{"-f", "-o", traced, "-e", "trace=" + call, "-e", fmt.Sprintf("inject=%s:%s:when=%d%s", call, inject, n, from), "--", binary}, w.args...)...)
						cmd.Dir = in
						cmd.Env = append(os.Environ(), "GOMAXPROCS=1", "XDG_CACHE_HOME=/nonexistent")
						_ = cmd.Run()
						seen, _ := os.ReadFile(traced)
						if !strings.Contains(string(seen), "INJECTED") && !strings.Contains(string(seen), "SIGKILL") && !strings.Contains(string(seen), "SIGINT") {
							break // there is no such call any more
						}
						if strings.HasPrefix(inject, "signal") {
							kills++
						} else {
							fails++
						}
						if !w.again(t, fmt.Sprintf("%s %s %d", call, inject, n), dir, in, before, whole) {
							return
						}
					}
				}
			}
		})
	}
	t.Logf("%d kills and %d failed calls", kills, fails)
}

// ends gives what is there before and after a writing.
func (w writing) ends(t *testing.T) (before, whole string) {
	t.Helper()
	dir, in := w.afresh(t)
	before = here(t, dir)
	if o := run(t, in, w.args...); o.status != 0 {
		t.Fatalf("status %d: %s", o.status, o.err)
	}
	return before, here(t, dir)
}

// TestKilledAtAnyMoment kills a run that makes a repository of git as well, at random
// moments, and holds that the next is whole.
func TestKilledAtAnyMoment(t *testing.T) {
	rounds := 60
	if set, err := strconv.Atoi(os.Getenv("KILLS")); err == nil {
		rounds = set
	}
	dice := rand.New(rand.NewPCG(1, 2))
	for i := range rounds {
		dir := write(t, t.TempDir(), map[string]string{"other.txt": "x"})
		args := []string{"scaffold", "go/command", "a/new", "--yes", "--git"}
		signal := []syscall.Signal{syscall.SIGKILL, syscall.SIGINT, syscall.SIGTERM}[i%3]
		cmd := exec.Command(binary, args...)
		cmd.Dir = dir
		cmd.Env = append(os.Environ(), "GIT_AUTHOR_NAME=Crew", "GIT_AUTHOR_EMAIL=c@gannet.example", "GIT_COMMITTER_NAME=Crew", "GIT_COMMITTER_EMAIL=c@gannet.example")
		must(t, cmd.Start())
		time.Sleep(time.Duration(dice.IntN(90_000)) * time.Microsecond)
		_ = cmd.Process.Signal(signal)
		_ = cmd.Wait()
		if _, err := os.Stat(filepath.Join(dir, "a")); err == nil {
			if _, err := os.Stat(filepath.Join(dir, "a/new/.git/HEAD")); err != nil {
				t.Errorf("%v: it is half there", signal)
			}
		} else if signal != syscall.SIGKILL {
			if left, _ := filepath.Glob(filepath.Join(dir, ".dicaxon*")); left != nil {
				t.Errorf("%v: left behind: %v", signal, left)
			}
		}
		again := exec.Command(binary, args...)
		again.Dir, again.Env = dir, cmd.Env
		if out, err := again.CombinedOutput(); err != nil && !strings.Contains(string(out), "not empty") {
			t.Fatalf("%v: the next run: %s", signal, out)
		} else if _, err := os.Stat(filepath.Join(dir, "a/new")); err != nil {
			t.Fatalf("%v: the next run leaves nothing: %s", signal, out)
		}
		if all, _ := os.ReadDir(dir); len(all) != 2 {
			t.Errorf("%v: left behind: %v", signal, all)
		}
		if state := git(t, filepath.Join(dir, "a/new"), "status", "--porcelain"); state != "" {
			t.Errorf("%v: not all of it is committed: %s", signal, state)
		}
	}
}

// TestRace starts the same project many times at once: one makes it, the others say so.
func TestRace(t *testing.T) {
	dir := t.TempDir()
	var all []*exec.Cmd
	for range 8 {
		cmd := exec.Command(binary, "scaffold", "go/command", "new", "--yes")
		cmd.Dir = dir
		cmd.Stderr = new(strings.Builder)
		must(t, cmd.Start())
		all = append(all, cmd)
	}
	won := 0
	for _, cmd := range all {
		_ = cmd.Wait()
		switch said := cmd.Stderr.(*strings.Builder).String(); {
		case cmd.ProcessState.ExitCode() == 0:
			won++
		case cmd.ProcessState.ExitCode() != 2 || !strings.Contains(said, "not empty"):
			t.Errorf("status %d: %s", cmd.ProcessState.ExitCode(), said)
		}
	}
	if left, _ := os.ReadDir(dir); won != 1 || len(left) != 1 {
		t.Errorf("%d made it; there is %v", won, left)
	}
}

// TestTimeout holds that what takes too long ends, with the name of what it was at.
func TestTimeout(t *testing.T) {
	dir := write(t, t.TempDir(), flask(nil))
	for i := range 300 {
		must(t, os.WriteFile(filepath.Join(dir, "app", fmt.Sprintf("m%d.py", i)), []byte(strings.Repeat("import os\n", 3000)), 0o644))
	}
	began := time.Now()
	o := run(t, dir, "check", ".", "--timeout", "30ms", "--no-cache")
	if o.status != 3 || !strings.Contains(o.err, "this takes too long: ") || time.Since(began) > 5*time.Second {
		t.Errorf("status %d after %v: %s", o.status, time.Since(began), o.err)
	}
	for _, wrong := range []string{"0", "-1s", "soon", ""} {
		if o := run(t, dir, "check", ".", "--timeout="+wrong); o.status != 2 {
			t.Errorf("--timeout=%s: status %d: %s", wrong, o.status, o.err)
		}
	}
}
