package tree

import (
	"bytes"
	"fmt"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"dicaxon/internal/treetest"
)

// ignoredBoth gives what Read and what git call ignored in the tree at root.
func ignoredBoth(t *testing.T, root string) (ours, gits []string) {
	t.Helper()
	r, err := Read(root, Options{})
	if err != nil {
		t.Fatal(err)
	}
	var all bytes.Buffer
	for _, f := range r.Folders {
		for _, n := range f.Nodes {
			path := f.Path() + n.Name
			fmt.Fprintf(&all, "%s\x00", path)
			if n.Ignored {
				ours = append(ours, path)
			}
		}
	}
	git := exec.Command("git", "-C", root, "check-ignore", "--no-index", "-z", "--stdin")
	git.Stdin = &all
	out, err := git.Output()
	if err != nil && git.ProcessState.ExitCode() != 1 {
		t.Fatalf("git check-ignore: %v", err)
	}
	gits = strings.FieldsFunc(string(out), func(r rune) bool { return r == 0 })
	slices.Sort(ours)
	slices.Sort(gits)
	return ours, gits
}

func gitInit(t *testing.T, root string) {
	t.Helper()
	if out, err := exec.Command("git", "-C", root, "init", "-q").CombinedOutput(); err != nil {
		t.Fatalf("git init: %v %s", err, out)
	}
}

// isolate points git and Read at a home of its own, with the given settings.
func isolate(t *testing.T, settings string) (home string) {
	t.Helper()
	home = t.TempDir()
	t.Setenv("HOME", home)
	t.Setenv("XDG_CONFIG_HOME", "")
	t.Setenv("GIT_CONFIG_GLOBAL", "")
	os.Unsetenv("GIT_CONFIG_GLOBAL")
	t.Setenv("GIT_CONFIG_NOSYSTEM", "1")
	treetest.Add(t, home, map[string]string{".gitconfig": settings})
	return home
}

// TestIgnoredLikeGit compares Read with git itself over generated trees.
func TestIgnoredLikeGit(t *testing.T) {
	home := isolate(t, "[core]\n\texcludesFile = ~/global-ignore\n")
	atoms := []string{"a", "b", "ab", "a.c", "b.c", "tide", "*", "?", "*.c", "a*", "[ab]", "[!a]", "[a-c]*", "**",
		`\a`, `a\*`, "[[:alpha:]]", "[[:alpha:]]*", "*b*", "[]a]", "[^b]?", "a ", `a\ `, "[a", "***", "**a", "x[:]y"}
	names := []string{"a", "b", "ab", "a.c", "b.c", "tide", "ba", "bc", "A", "a ", "c", "x:y", "[a", "a*"}
	rounds := 150
	if testing.Short() {
		rounds = 20
	}
	compared, ignored := 0, 0
	for seed := range rounds {
		r := rand.New(rand.NewPCG(uint64(seed), 7))
		pick := func(from []string) string { return from[r.IntN(len(from))] }
		list := func() string {
			var b strings.Builder
			b.WriteString([]string{"", "\ufeff", "# first\n", "\n\n"}[r.IntN(4)])
			for range 1 + r.IntN(6) {
				line := []string{"", "", "!", "/", "**/", "!/", `\!`, "#"}[r.IntN(8)] + pick(atoms)
				for range r.IntN(3) {
					line += "/" + pick(atoms)
				}
				b.WriteString(line + []string{"", "", "/", " ", "/**", "\r", "//"}[r.IntN(7)] + "\n")
			}
			return b.String()
		}
		files := map[string]string{".gitignore": list()}
		for range 30 {
			path := ""
			for range r.IntN(4) {
				path += pick(names) + "/"
				if r.IntN(4) == 0 {
					files[path+".gitignore"] = list()
				}
			}
			files[path+pick(names)+".f"] = "x"
			files[path+pick(names)+"/"] = ""
		}
		root := treetest.Make(t, files)
		gitInit(t, root)
		treetest.Add(t, root, map[string]string{".git/info/exclude": list()})
		treetest.Add(t, home, map[string]string{"global-ignore": list()})
		ours, gits := ignoredBoth(t, root)
		if !slices.Equal(ours, gits) {
			t.Fatalf("seed %d, in %s:\nours %q\ngit  %q", seed, root, ours, gits)
		}
		compared++
		ignored += len(gits)
	}
	t.Logf("%d trees, %d ignored names, no difference", compared, ignored)
	if ignored < rounds {
		t.Error("the trees ignore too little to show anything")
	}
}

func TestIgnoreCaseAndInclude(t *testing.T) {
	home := isolate(t, "[include]\n\tpath = more\n")
	treetest.Add(t, home, map[string]string{"more": "[core]\n\tignoreCase = true\n", ".config/git/ignore": "*.LOG\n"})
	root := treetest.Make(t, map[string]string{".gitignore": "Build/\n/Docs/*.TXT\n", "build/x": "", "docs/a.txt": "", "a.log": "", "b.c": ""})
	gitInit(t, root)
	// git init settles the case for this disk in the repository itself; let the user's word stand.
	exec.Command("git", "-C", root, "config", "--unset", "core.ignorecase").Run()
	ours, gits := ignoredBoth(t, root)
	if !slices.Equal(ours, gits) || len(ours) != 3 {
		t.Errorf("ours %q, git %q", ours, gits)
	}
}

func TestReadBelowTheTop(t *testing.T) {
	isolate(t, "")
	root := treetest.Make(t, map[string]string{".gitignore": "/app/gen/\n*.tmp\n", "app/gen/x": "", "app/a.tmp": "", "app/.gitignore": "!a.tmp\n"})
	gitInit(t, root)
	r, err := Read(filepath.Join(root, "app"), Options{})
	if err != nil {
		t.Fatal(err)
	}
	if n := r.Top.Find("gen"); n == nil || !n.Ignored || !n.Folder.Unread {
		t.Errorf("gen/ should be ignored from above: %+v", n)
	}
	if n := r.Top.Find("a.tmp"); n == nil || n.Ignored {
		t.Errorf("a.tmp is taken back by the nearer list: %+v", n)
	}
}

func TestNestedRepositoryHasItsOwnRules(t *testing.T) {
	isolate(t, "")
	root := treetest.Make(t, map[string]string{".gitignore": "*.log\n", "in/a.log": "", "in/.gitignore": "*.tmp\n", "in/b.tmp": "", "c.log": ""})
	gitInit(t, root)
	gitInit(t, filepath.Join(root, "in"))
	r, err := Read(root, Options{})
	if err != nil {
		t.Fatal(err)
	}
	for path, want := range map[string]bool{"c.log": true, "in/a.log": false, "in/b.tmp": true} {
		if n := r.Top.At(path); n == nil || n.Ignored != want {
			t.Errorf("%s: %+v, want ignored %v", path, n, want)
		}
	}
}

func FuzzParseIgnore(f *testing.F) {
	for _, seed := range []string{"*.pyc\n!a/\n", `\`, "[", "[[:", "a/**/b\r\n", "**/[a-\\", "[[:alpha:", "[a-\\"} {
		f.Add([]byte(seed), "a/b", "c.d")
	}
	f.Fuzz(func(t *testing.T, text []byte, folder, name string) {
		if len(text) > 200 || len(folder)+len(name) > 200 {
			return
		}
		list := parseIgnore(text, "", false, nil)
		list.ignored(folder+"/", name, true)
		list.ignored("", name, false)
	})
}
