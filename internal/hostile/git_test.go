//go:build unix

package hostile

import (
	"encoding/json"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"
)

// A state is one that a repository of git can be in.
type state struct {
	name string
	make func(t *testing.T, dir string) (at string, env []string) // where to look from, "" for dir
	// told says that what cannot be read is told with status 3, in these words.
	told string
}

// begin makes a repository with a few commits.
func begin(t *testing.T, dir string, options ...string) {
	t.Helper()
	git(t, dir, append([]string{"init", "--quiet"}, options...)...)
	git(t, dir, "commit", "--quiet", "--allow-empty", "-m", "zero")
	git(t, dir, "tag", "zero")
	write(t, dir, flask(map[string]string{".gitignore": "*.pyc\n", "app/views.py": "import os\n", "app/templates/card.html": "one\n"}))
	git(t, dir, "add", "--all")
	git(t, dir, "commit", "--quiet", "-m", "one")
	write(t, dir, map[string]string{"app/templates/card.html": "two\n", "app/ä ö.txt": "x\n"})
	git(t, dir, "add", "--all")
	git(t, dir, "commit", "--quiet", "-m", "two")
}

var states = []state{
	{"plain", func(t *testing.T, dir string) (string, []string) { begin(t, dir); return "", nil }, ""},
	{"packed", func(t *testing.T, dir string) (string, []string) {
		begin(t, dir)
		git(t, dir, "gc", "--quiet", "--aggressive", "--prune=now")
		return "", nil
	}, ""},
	{"no commit yet", func(t *testing.T, dir string) (string, []string) {
		git(t, dir, "init", "--quiet")
		write(t, dir, flask(nil))
		git(t, dir, "add", "run.py")
		return "", nil
	}, ""},
	{"nothing staged, no commit", func(t *testing.T, dir string) (string, []string) {
		git(t, dir, "init", "--quiet")
		write(t, dir, flask(nil))
		return "", nil
	}, ""},
	{"staged changes", func(t *testing.T, dir string) (string, []string) {
		begin(t, dir)
		write(t, dir, map[string]string{"app/views.py": "import sys\n", "new/b.py": ""})
		git(t, dir, "add", "--all")
		git(t, dir, "rm", "--quiet", "--cached", "run.py")
		return "", nil
	}, ""},
	{"only meant to be added", func(t *testing.T, dir string) (string, []string) {
		begin(t, dir)
		write(t, dir, map[string]string{"later.py": "x\n"})
		git(t, dir, "add", "--intent-to-add", "later.py")
		return "", nil
	}, ""},
	{"a merge in conflict", func(t *testing.T, dir string) (string, []string) {
		begin(t, dir)
		git(t, dir, "checkout", "--quiet", "-b", "side", "HEAD~1")
		write(t, dir, map[string]string{"app/templates/card.html": "three\n"})
		git(t, dir, "commit", "--quiet", "-a", "-m", "three")
		cmd := exec.Command("git", "-c", "user.name=Crew", "-c", "user.email=c@gannet.example", "merge", "main")
		cmd.Dir = dir
		_ = cmd.Run() // it is in conflict
		return "", nil
	}, ""},
	{"an index in two parts", func(t *testing.T, dir string) (string, []string) {
		begin(t, dir)
		git(t, dir, "update-index", "--split-index")
		write(t, dir, map[string]string{"app/views.py": "import sys\n", "more.py": ""})
		git(t, dir, "add", "--all")
		return "", nil
	}, ""},
	{"an index of the fourth version", func(t *testing.T, dir string) (string, []string) {
		begin(t, dir)
		git(t, dir, "update-index", "--index-version", "4")
		return "", nil
	}, ""},
	{"an index without a checksum", func(t *testing.T, dir string) (string, []string) {
		begin(t, dir)
		git(t, dir, "config", "index.skipHash", "true")
		git(t, dir, "rm", "--quiet", "--cached", "run.py")
		return "", nil
	}, ""},
	{"an index with what git remembers of the disk", func(t *testing.T, dir string) (string, []string) {
		begin(t, dir)
		git(t, dir, "update-index", "--untracked-cache")
		git(t, dir, "status", "--short")
		return "", nil
	}, ""},
	{"a sparse checkout", func(t *testing.T, dir string) (string, []string) {
		begin(t, dir)
		git(t, dir, "sparse-checkout", "set", "app/templates")
		return "", nil
	}, ""},
	{"a sparse index", func(t *testing.T, dir string) (string, []string) {
		begin(t, dir)
		write(t, dir, map[string]string{"manuals/a/b.py": "x\n", "manuals/c.py": "y\n"})
		git(t, dir, "add", "--all")
		git(t, dir, "commit", "--quiet", "-m", "docs")
		git(t, dir, "sparse-checkout", "set", "--cone", "--sparse-index", "app")
		return "", nil
	}, ""},
	{"a submodule", func(t *testing.T, dir string) (string, []string) {
		other := t.TempDir()
		begin(t, other)
		begin(t, dir)
		git(t, dir, "submodule", "--quiet", "add", other, "lib/tides")
		git(t, dir, "commit", "--quiet", "-m", "module")
		return "", nil
	}, ""},
	{"a work tree elsewhere", func(t *testing.T, dir string) (string, []string) {
		begin(t, dir)
		at := filepath.Join(t.TempDir(), "linked")
		git(t, dir, "worktree", "add", "--quiet", "-b", "linked", at)
		write(t, at, map[string]string{"other.py": ""})
		git(t, at, "add", "--all")
		return at, nil
	}, ""},
	{"a folder of the repository", func(t *testing.T, dir string) (string, []string) {
		begin(t, dir)
		return "", nil
	}, ""},
	{"borrowed objects", func(t *testing.T, dir string) (string, []string) {
		other := t.TempDir()
		begin(t, other)
		must(t, os.Remove(dir))
		git(t, filepath.Dir(dir), "clone", "--quiet", "--shared", other, dir)
		return "", nil
	}, ""},
	{"objects borrowed by a path that is not whole", func(t *testing.T, dir string) (string, []string) {
		other := dir + "-other"
		must(t, os.Mkdir(other, 0o755))
		begin(t, other)
		must(t, os.Remove(dir))
		git(t, filepath.Dir(dir), "clone", "--quiet", "--shared", other, dir)
		must(t, os.WriteFile(filepath.Join(dir, ".git/objects/info/alternates"), []byte("../../../"+filepath.Base(other)+"/.git/objects\n"), 0o644))
		return "", nil
	}, ""},
	{"another index", func(t *testing.T, dir string) (string, []string) {
		begin(t, dir)
		env := []string{"GIT_INDEX_FILE=" + filepath.Join(dir, ".git/other")}
		gitWith(t, dir, env, "read-tree", "HEAD~1")
		return "", env
	}, ""},
	{"another index, by a path that is not whole", func(t *testing.T, dir string) (string, []string) {
		begin(t, dir)
		env := []string{"GIT_INDEX_FILE=.git/other"}
		gitWith(t, dir, env, "read-tree", "HEAD~1")
		return "", env
	}, ""},
	{"a repository beside its work tree", func(t *testing.T, dir string) (string, []string) {
		begin(t, dir)
		away := filepath.Join(t.TempDir(), "away")
		must(t, os.Rename(filepath.Join(dir, ".git"), away))
		return "", []string{"GIT_DIR=" + away, "GIT_WORK_TREE=" + dir}
	}, ""},
	{"objects in another folder", func(t *testing.T, dir string) (string, []string) {
		begin(t, dir)
		more := filepath.Join(t.TempDir(), "more")
		must(t, os.Mkdir(more, 0o755))
		env := []string{"GIT_OBJECT_DIRECTORY=" + more, "GIT_ALTERNATE_OBJECT_DIRECTORIES=" + filepath.Join(dir, ".git/objects")}
		write(t, dir, map[string]string{"app/views.py": "import re\n"})
		gitWith(t, dir, env, "add", "--all")
		must(t, os.Remove(filepath.Join(dir, "app/views.py")))
		return "", env
	}, ""},
	{"names under SHA-256", func(t *testing.T, dir string) (string, []string) {
		begin(t, dir, "--object-format=sha256")
		write(t, dir, map[string]string{"app/views.py": "import sys\n"})
		git(t, dir, "add", "--all")
		must(t, os.Remove(filepath.Join(dir, "app/views.py")))
		return "", nil
	}, ""},
	{"a merge of three", func(t *testing.T, dir string) (string, []string) {
		begin(t, dir)
		for _, side := range []string{"left", "right"} {
			git(t, dir, "checkout", "--quiet", "-b", side, "HEAD~1")
			write(t, dir, map[string]string{side + ".py": ""})
			git(t, dir, "add", "--all")
			git(t, dir, "commit", "--quiet", "-m", side)
			git(t, dir, "checkout", "--quiet", "main")
		}
		git(t, dir, "merge", "--quiet", "-m", "both", "left", "right")
		return "", nil
	}, ""},
	{"a shallow clone", func(t *testing.T, dir string) (string, []string) {
		other := t.TempDir()
		begin(t, other)
		must(t, os.Remove(dir))
		git(t, filepath.Dir(dir), "clone", "--quiet", "--depth", "1", "file://"+other, dir)
		return "", nil
	}, ""},
	{"a partial clone", func(t *testing.T, dir string) (string, []string) {
		other := t.TempDir()
		begin(t, other)
		git(t, other, "config", "uploadpack.allowFilter", "true")
		must(t, os.Remove(dir))
		git(t, filepath.Dir(dir), "clone", "--quiet", "--no-checkout", "--filter=blob:none", "file://"+other, dir)
		return "", nil
	}, "has not fetched it"},
	{"an object that is missing", func(t *testing.T, dir string) (string, []string) {
		begin(t, dir)
		name := git(t, dir, "rev-parse", "HEAD:app/__init__.py")
		must(t, os.Chmod(filepath.Join(dir, ".git/objects", name[:2], name[2:]), 0o644))
		must(t, os.Remove(filepath.Join(dir, ".git/objects", name[:2], name[2:])))
		must(t, os.Remove(filepath.Join(dir, "app/__init__.py")))
		return "", nil
	}, "git fsck"},
	{"an object that is damaged", func(t *testing.T, dir string) (string, []string) {
		begin(t, dir)
		name := git(t, dir, "rev-parse", "HEAD:app/__init__.py")
		at := filepath.Join(dir, ".git/objects", name[:2], name[2:])
		must(t, os.Chmod(at, 0o644))
		must(t, os.WriteFile(at, []byte("nonsense"), 0o644))
		must(t, os.Remove(filepath.Join(dir, "app/__init__.py")))
		return "", nil
	}, "app/__init__.py"},
}

// TestStates holds what --staged and --at read against git itself, state by state.
func TestStates(t *testing.T) {
	for _, s := range states {
		t.Run(s.name, func(t *testing.T) {
			dir := filepath.Join(t.TempDir(), "repo")
			must(t, os.Mkdir(dir, 0o755))
			at, env := s.make(t, dir)
			if at == "" {
				at = dir
			}
			if s.told != "" {
				for _, args := range [][]string{{"check", ".", "--at", "HEAD", "--layout", "flask/areas"}, {"check", ".", "--staged", "--layout", "flask/areas", "--format", "json"}} {
					if o := runWith(t, at, env, args...); s.name != "a partial clone" && o.status != 3 || args[2] == "--at" && (o.status != 3 || !strings.Contains(o.err, s.told)) {
						t.Errorf("%q: status %d: %s", args, o.status, tail(o.err))
					}
				}
				return
			}
			staged := listing(gitWith(t, at, env, "ls-files", "--stage", "-z"))
			meant := strings.Split(gitWith(t, at, env, "diff-files", "--name-only", "--diff-filter=A", "-z"), "\x00")
			staged = slices.DeleteFunc(staged, func(path string) bool { return slices.Contains(meant, path) })
			since := "zero" // all of it is new
			if strings.Contains(s.name, "no commit") {
				since = "HEAD"
			}
			if s.name != "a shallow clone" {
				same(t, "staged", tree(t, at, env, "--staged", "--since", since), staged)
			}
			if strings.Contains(s.name, "no commit") {
				if o := runWith(t, at, env, "check", ".", "--at", "HEAD", "--format", "json"); o.status > 1 {
					t.Errorf("no commit yet: status %d: %s", o.status, o.err)
				}
				return
			}
			for _, revision := range []string{"HEAD", "HEAD~1", "HEAD^{commit}", "@", "HEAD@{0}", gitWith(t, at, env, "rev-parse", "HEAD"), gitWith(t, at, env, "rev-parse", "--short=8", "HEAD")} {
				if s.name == "a shallow clone" && revision == "HEAD~1" {
					if o := runWith(t, at, env, "check", ".", "--at", revision); o.status != 2 && o.status != 3 {
						t.Errorf("beyond a shallow clone: status %d", o.status)
					}
					continue
				}
				want := strings.Split(gitWith(t, at, env, "ls-tree", "-r", "-z", "--name-only", revision), "\x00")
				modules := strings.Fields(gitWith(t, at, env, "ls-tree", "-r", revision))
				want = slices.DeleteFunc(want, func(path string) bool { return path == "" || slices.Contains(modules, "commit") && path == "lib/tides" })
				same(t, revision, tree(t, at, env, "--at", revision), want)
			}
		})
	}
}

// listing gives the paths of what git lists as staged, each once, without submodules.
func listing(said string) []string {
	var all []string
	for _, line := range strings.Split(said, "\x00") {
		about, path, ok := strings.Cut(line, "\t")
		if ok && !strings.HasPrefix(about, "160000") && !slices.Contains(all, path) {
			all = append(all, path)
		}
	}
	return all
}

// tree gives the files of a state as the program has them: a layout that knows no name
// says of each that it has no place.
func tree(t *testing.T, dir string, env []string, args ...string) []string {
	t.Helper()
	lay := write(t, t.TempDir(), map[string]string{"layout.yaml": "dicaxon: 1\nlayout: team/none\ntitle: T\ntree:\n  nothing-at-all: {role: R.}\n  '**/*': {need: must-not, role: Everything.}\n"})
	o := runWith(t, dir, env, append([]string{"check", ".", "--layout", lay, "--format", "json", "--only", "extra", "--no-cache"}, args...)...)
	if o.status > 1 {
		t.Fatalf("%q: status %d: %s", args, o.status, o.err)
	}
	var answer struct {
		Projects []struct {
			Findings []struct {
				Path string
				Also []string
			}
		}
	}
	must(t, json.Unmarshal([]byte(o.out), &answer))
	var all []string
	for _, p := range answer.Projects {
		for _, f := range p.Findings {
			all = append(append(all, f.Path), f.Also...)
		}
	}
	return all
}

func same(t *testing.T, what string, got, want []string) {
	t.Helper()
	got, want = slices.Compact(slices.Sorted(slices.Values(got))), slices.Compact(slices.Sorted(slices.Values(want)))
	want = slices.DeleteFunc(want, func(path string) bool { return path == "" })
	if !slices.Equal(got, want) {
		t.Errorf("%s: %q, git has %q", what, got, want)
	}
}

// TestHooks commits in every way with a hook that checks: what is judged is what the
// commit will hold.
func TestHooks(t *testing.T) {
	secret := "k: AKIA" + "IOSFODNN7ABCDEFG\n"
	for _, how := range [][]string{{"commit", "--quiet", "-m", "x"}, {"commit", "--quiet", "-a", "-m", "x"}, {"commit", "--quiet", "-m", "x", "settings.yml"}, {"commit", "--quiet", "--include", "-m", "x", "settings.yml"}, {"commit", "--quiet", "--amend", "-a", "--no-edit"}} {
		for _, linked := range []bool{false, true} {
			t.Run(fmt.Sprint(strings.Join(how, " "), " ", linked), func(t *testing.T) {
				dir := filepath.Join(t.TempDir(), "repo")
				must(t, os.Mkdir(dir, 0o755))
				begin(t, dir)
				write(t, dir, map[string]string{"settings.yml": "k: v\n"})
				git(t, dir, "add", "--all")
				git(t, dir, "commit", "--quiet", "-m", "settings")
				write(t, dir, map[string]string{".git/hooks/pre-commit": "#!/bin/sh\nexec " + binary + " check --staged --only exposed\n"})
				must(t, os.Chmod(filepath.Join(dir, ".git/hooks/pre-commit"), 0o755))
				at := dir
				if linked {
					at = filepath.Join(t.TempDir(), "linked")
					git(t, dir, "worktree", "add", "--quiet", "-b", "linked", at)
				}
				write(t, at, map[string]string{"settings.yml": secret})
				if len(how) == 4 && how[3] == "x" && !slices.Contains(how, "-a") {
					git(t, at, "add", "settings.yml")
				}
				cmd := exec.Command("git", append([]string{"-c", "user.name=Crew", "-c", "user.email=c@gannet.example"}, how...)...)
				cmd.Dir = at
				out, err := cmd.CombinedOutput()
				if err == nil || !strings.Contains(string(out), "settings.yml:1") {
					t.Errorf("the credential passes: %v\n%s", err, out)
				}
				if strings.Contains(string(out), "AKIA") {
					t.Error("it is shown")
				}
			})
		}
	}
}

// TestCallsOfRevisions holds the wrong ones.
func TestCallsOfRevisions(t *testing.T) {
	dir := t.TempDir()
	begin(t, dir)
	git(t, dir, "checkout", "--quiet", "-b", "side")
	git(t, dir, "checkout", "--quiet", "main")
	git(t, dir, "tag", "v1", "HEAD")
	for _, good := range []string{"@{-1}", "HEAD@{1}", "main@{0}", "v1^0", "v1^{}", "v1~1", ":/one", "HEAD^{/one}", "main@{now}"} {
		t.Run(good, func(t *testing.T) {
			same(t, good, tree(t, dir, nil, "--at", good), strings.Split(git(t, dir, "ls-tree", "-r", "-z", "--name-only", git(t, dir, "rev-parse", good)), "\x00"))
		})
	}
	for _, wrong := range []string{"", "none", "--help", "-x", "HEAD~99", "HEAD^{tree}x", "a..b", "@{u}", "HEAD:app", "\x00"[:0] + "a b", strings.Repeat("a", 5000), "--output=ran", "HEAD@{99999}"} {
		t.Run("wrong "+tail(wrong), func(t *testing.T) {
			for _, flag := range []string{"--at=", "--since="} {
				if o := run(t, dir, "check", ".", flag+wrong); o.status != 2 || o.err == "" {
					t.Errorf("%s%s: status %d: %s", flag, wrong, o.status, tail(o.all()))
				}
			}
		})
	}
	if o := run(t, dir, "check", ""); o.status != 2 {
		t.Errorf("an empty path: status %d", o.status)
	}
}
