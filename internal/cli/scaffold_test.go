package cli_test

import (
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"dicaxon/internal/treetest"
)

// scaffolds are the options of the calls whose outcome is proved with the real
// toolchains.
var scaffolds = answerOptions(treetest.Answers)

func answerOptions(answers map[string]map[string]string) map[string][]string {
	all := map[string][]string{}
	for layout, given := range answers {
		for key, value := range given {
			all[layout] = append(all[layout], "--answer", key+"="+value)
		}
	}
	return all
}

func scaffolded(t *testing.T, layout string, more ...string) string {
	t.Helper()
	dir := t.TempDir()
	args := append([]string{"scaffold", layout, "new", "--yes"}, more...)
	if o := run(t, dir, args...); o.status != 0 || !strings.Contains(o.out, "First steps:") {
		t.Fatalf("%s: status %d, said %q\n%s", layout, o.status, o.err, o.out)
	}
	return filepath.Join(dir, "new")
}

// TestScaffoldPassesItsOwnCheck holds with and without answers, and the
// project is known for what it is.
func TestScaffoldPassesItsOwnCheck(t *testing.T) {
	for layout, answers := range scaffolds {
		for _, more := range [][]string{nil, answers} {
			root := scaffolded(t, layout, more...)
			if all := found(t, root); len(all) > 0 {
				t.Errorf("%s %v: %v", layout, more, all)
			}
			if o := run(t, root, "identify"); !strings.HasPrefix(o.out, ".  "+layout+"\n") {
				t.Errorf("%s is taken for %s", layout, o.out)
			}
		}
	}
}

func TestScaffoldSpeaksOnlyOfTheAnswers(t *testing.T) {
	example := regexp.MustCompile(`(?i)\b(todo|lorem|foo|acme|hello|sample)\b`)
	for layout, answers := range scaffolds {
		root := scaffolded(t, layout, answers...)
		filepath.WalkDir(root, func(path string, d os.DirEntry, err error) error {
			if err != nil || d.IsDir() {
				return err
			}
			text, err := os.ReadFile(path)
			if m := example.Find(text); m != nil {
				t.Errorf("%s speaks of %q", path, m)
			}
			if strings.Contains(string(text), "<no value>") {
				t.Errorf("%s has a hole", path)
			}
			return err
		})
	}
}

func TestScaffoldDryRunWritesNothing(t *testing.T) {
	dir := t.TempDir()
	o := run(t, dir, "scaffold", "flask/areas", "new", "--dry-run")
	if o.status != 0 || !strings.Contains(o.out, "Nothing was written") || !strings.Contains(o.out, "views.py") {
		t.Errorf("status %d: %s%s", o.status, o.out, o.err)
	}
	if left, _ := os.ReadDir(dir); len(left) > 0 {
		t.Errorf("left behind: %v", left)
	}
}

func TestScaffoldIntoAnEmptyFolder(t *testing.T) {
	dir := t.TempDir()
	command(t, dir, "git", "init", "--quiet")
	if o := run(t, dir, "scaffold", "dbt/layers", ".", "--yes"); o.status != 0 {
		t.Fatal(o.err)
	}
	if all := found(t, dir); len(all) > 0 {
		t.Error(all)
	}
	if o := run(t, dir, "scaffold", "dbt/layers", ".", "--yes"); o.status != 2 || !strings.Contains(o.err, "nothing was written") {
		t.Errorf("a second time: status %d, %s", o.status, o.err)
	}
}

func TestScaffoldGit(t *testing.T) {
	home := t.TempDir()
	t.Setenv("HOME", home)
	t.Setenv("GIT_CONFIG_NOSYSTEM", "1")
	t.Setenv("GIT_AUTHOR_NAME", "")
	dir := t.TempDir()
	// Without a name git refuses to commit, and nothing may be left.
	t.Setenv("GIT_CONFIG_COUNT", "1")
	t.Setenv("GIT_CONFIG_KEY_0", "user.useConfigOnly")
	t.Setenv("GIT_CONFIG_VALUE_0", "true")
	if o := run(t, dir, "scaffold", "dbt/layers", "new", "--yes", "--git"); o.status != 3 || !strings.Contains(o.err, "git commit failed") {
		t.Errorf("status %d, said %q", o.status, o.err)
	}
	if left, _ := os.ReadDir(dir); len(left) > 0 {
		t.Fatalf("left behind: %v", left)
	}
	os.Unsetenv("GIT_AUTHOR_NAME")
	treetest.Add(t, home, map[string]string{".gitconfig": "[user]\n\tname = Crew\n\temail = crew@gannet.example\n"})
	if o := run(t, dir, "scaffold", "dbt/layers", "new", "--yes", "--git"); o.status != 0 {
		t.Fatal(o.err)
	}
	out, err := exec.Command("git", "-C", filepath.Join(dir, "new"), "status", "--porcelain", "--branch").Output()
	if err != nil || strings.Count(string(out), "\n") != 1 {
		t.Errorf("the commit leaves something out: %s %v", out, err)
	}
	clone := filepath.Join(dir, "clone")
	command(t, dir, "git", "clone", "--quiet", "new", "clone")
	if all := found(t, clone); len(all) > 0 {
		t.Errorf("a fresh clone, where empty folders are gone: %v", all)
	}
}

// TestScaffoldGitRunsNothingElse: within a hook of another repository, and with hooks,
// monitors and templates in the settings, git makes the new repository and runs nothing.
func TestScaffoldGitRunsNothingElse(t *testing.T) {
	home, dir := t.TempDir(), t.TempDir()
	ran := filepath.Join(dir, "ran")
	program := "#!/bin/sh\necho x >> " + ran + "\n"
	treetest.Add(t, home, map[string]string{
		".gitconfig":       "[user]\n\tname = Crew\n\temail = crew@gannet.example\n[core]\n\thooksPath = " + home + "/hooks\n\tfsmonitor = " + home + "/hooks/post-commit\n[init]\n\ttemplateDir = " + home + "/template\n",
		"hooks/pre-commit": program, "hooks/post-commit": program, "template/hooks/pre-commit": program,
	})
	for _, hook := range []string{"hooks/pre-commit", "hooks/post-commit", "template/hooks/pre-commit"} {
		if err := os.Chmod(filepath.Join(home, hook), 0o755); err != nil {
			t.Fatal(err)
		}
	}
	t.Setenv("HOME", home)
	t.Setenv("GIT_CONFIG_NOSYSTEM", "1")
	command(t, dir, "git", "init", "--quiet", "other")
	t.Setenv("GIT_DIR", filepath.Join(dir, "other", ".git"))
	t.Setenv("GIT_INDEX_FILE", filepath.Join(dir, "other", ".git", "index"))
	t.Setenv("GIT_WORK_TREE", filepath.Join(dir, "other"))
	if o := run(t, dir, "scaffold", "rust/crate", "new", "--yes", "--git"); o.status != 0 {
		t.Fatal(o.err)
	}
	if text, err := os.ReadFile(ran); err == nil {
		t.Errorf("something ran: %s", text)
	}
	if _, err := os.Stat(filepath.Join(dir, "new", ".git", "HEAD")); err != nil {
		t.Error("the new project is no repository")
	}
	if logs, _ := os.ReadDir(filepath.Join(dir, "other", ".git", "logs")); len(logs) > 0 {
		t.Error("it committed into the other repository")
	}
}

func TestScaffoldAsks(t *testing.T) {
	dir := t.TempDir()
	// script gives the program a terminal of its own.
	cmd := exec.Command("script", "-qec", binary+" scaffold", "/dev/null")
	cmd.Dir = dir
	cmd.Stdin = strings.NewReader("99\nflask/areas\nferry-app\nFerry\nferry\nsailings, berths\n")
	o := finish(t, cmd)
	for _, want := range []string{"the numbers go from 1 to", "Folder of the project", "is written in snake case", "[app]", "Made 18 files"} {
		if !strings.Contains(o.out, want) {
			t.Errorf("%q is not said in\n%s%s", want, o.out, o.err)
		}
	}
	if all := found(t, filepath.Join(dir, "ferry-app")); len(all) > 0 {
		t.Error(all)
	}
}
