package app_test

import (
	"context"
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"testing"
	"time"

	"dicaxon/internal/app"
	"dicaxon/internal/memory"
	"dicaxon/internal/scaffoldtest"
	"dicaxon/internal/treetest"
)

// told gives all that the formats tell of a check.
func told(t *testing.T, root string, o app.Options) (text string, recalled bool) {
	t.Helper()
	r, err := app.Check(context.Background(), root, o)
	if err != nil {
		return err.Error(), false
	}
	text = fmt.Sprint(r.Totals, r.Settlement, r.Repository.Files)
	for _, p := range r.Projects {
		one, err := json.Marshal([]any{p.At, p.Layout.Name, p.Layout.Title, p.Known(), p.Evidence, p.Close, p.Files, p.Folders, p.Findings, p.Folder.Empty()})
		if err != nil {
			t.Fatal(err)
		}
		text += string(one)
	}
	return text, len(r.Projects) > 0 && r.Projects[0].Placement == nil
}

// TestThePastNeverLies changes a repository at random, in every way that a check goes
// by, and holds a check that remembers against one that does not.
func TestThePastNeverLies(t *testing.T) {
	t.Setenv("XDG_CACHE_HOME", t.TempDir())
	outside := filepath.Join(t.TempDir(), "gitconfig")
	t.Setenv("GIT_CONFIG_GLOBAL", outside)
	settled := memory.Settled
	memory.Settled = 8 * time.Millisecond
	defer func() { memory.Settled = settled }()

	_, plan := scaffoldtest.Plan(t, "flask/areas", nil)
	root := scaffoldtest.Write(t, plan)
	git := func(args ...string) {
		cmd := exec.Command("git", append([]string{"-c", "user.name=a", "-c", "user.email=a@b.c"}, args...)...)
		cmd.Dir = root
		if out, err := cmd.CombinedOutput(); err != nil {
			t.Fatalf("%v: %s", args, out)
		}
	}
	git("init", "-q")
	write := func(at, text string) {
		treetest.Add(t, root, map[string]string{at: text})
	}
	dice := rand.New(rand.NewPCG(7, 11))
	changes := []func(){
		func() {
			write("app/tides.py", []string{"import app.nowhere\n", "import app.elsewhere\n", "x = 1\n"}[dice.IntN(3)])
		},
		func() { write(".gitignore", []string{"*.log\n", ".env\n", "app/tides.py\n"}[dice.IntN(3)]) },
		func() {
			write(".env", []string{"SECRET_KEY=change-me\n", "SECRET_KEY=a8f5f167f44f4964e6c998dee827110c\n"}[dice.IntN(2)])
		},
		func() { write(".env.example", "SECRET_KEY=a8f5f167f44f4964e6c998dee827110c\n") },
		func() { write("crew.log", fmt.Sprint(dice.IntN(3))) },
		func() {
			write("dicaxon.yaml", []string{"dicaxon: 1\n", "dicaxon: 1\nlevels: {missing: off}\n", "dicaxon: 9\n"}[dice.IntN(3)])
		},
		func() { os.Remove(filepath.Join(root, "dicaxon.yaml")) },
		func() { os.Rename(filepath.Join(root, "app"), filepath.Join(root, "appp")) },
		func() { os.Rename(filepath.Join(root, "appp"), filepath.Join(root, "app")) },
		func() { git("add", "-Af") },
		func() { git("add", "-A"); git("commit", "-qm", "x", "--allow-empty") },
		func() { git("rm", "-rfq", "--cached", "--ignore-unmatch", ".") },
		func() {
			os.WriteFile(outside, []byte("[core]\nexcludesFile = "+filepath.Join(root, "crew.log")+"\n"), 0o644)
		},
		func() { os.Remove(outside) },
		func() { os.Remove(filepath.Join(root, "run.py")) },
		func() { write("run.py", "from app import create_app\n\napp = create_app()\n") },
		func() {
			os.Remove(filepath.Join(root, "sample"))
			os.Symlink([]string{".env", "crew.log", "run.py"}[dice.IntN(3)], filepath.Join(root, "sample"))
		},
	}
	remembering := app.Options{Remember: true, Findings: true}
	secret := func(text string) func() { return func() { write(".env", "SECRET_KEY="+text+"\n") } }
	first := []func(){ // what is ignored counts, too
		func() { write(".gitignore", ".env\n") }, func() { write(".env.example", "SECRET_KEY=a8f5f167f44f4964e6c998dee827110c\n") },
		secret("a8f5f167f44f4964e6c998dee827110c"), secret("b8f5f167f44f4964e6c998dee827110d"), secret("a8f5f167f44f4964e6c998dee827110c"),
	}
	recalls := 0
	for i := range 200 {
		if i < len(first) {
			first[i]()
		} else {
			changes[dice.IntN(len(changes))]()
		}
		for range 2 { // the second time what the first kept
			said, recalled := told(t, root, remembering)
			if want, _ := told(t, root, app.Options{}); said != want {
				t.Fatalf("after change %d it says\n%s\nnot\n%s", i, said, want)
			}
			if recalled {
				recalls++
			}
			time.Sleep(2 * memory.Settled)
		}
	}
	if recalls < 50 {
		t.Errorf("%d of 400 checks went by what was remembered", recalls)
	}
}

// TestThePastIsUsed holds that a second check of what did not change takes what was
// found from the first, and that one with other wishes does not.
func TestThePastIsUsed(t *testing.T) {
	t.Setenv("XDG_CACHE_HOME", t.TempDir())
	settled := memory.Settled
	memory.Settled = 0
	defer func() { memory.Settled = settled }()
	root := treetest.Make(t, map[string]string{"ferry/__init__.py": "", "ferry/a.py": "from ferry.nowhere import x\n", "setup.py": "from setuptools import setup\nsetup(name='ferry')\n"})
	o := app.Options{Remember: true, Findings: true}
	paired := func(o app.Options) bool {
		r, err := app.Check(context.Background(), root, o)
		if err != nil || r.Totals.Error == 0 && len(o.Skip) == 0 {
			t.Fatal(err, r.Totals)
		}
		return r.Projects[0].Placement != nil
	}
	if !paired(o) {
		t.Error("the first check took its findings from nowhere")
	}
	if paired(o) {
		t.Error("the second check did it all again")
	}
	if !paired(app.Options{Remember: true}) || !paired(app.Options{}) {
		t.Error("who asks for the places gets none")
	}
	o.Skip = []string{"dangling"}
	if r, err := app.Check(context.Background(), root, o); err != nil || r.Totals.Error != 0 || r.Filtered != 1 {
		t.Error(err, r.Totals, r.Settlement)
	}
	at, err := memory.Path("found", root)
	if err != nil {
		t.Fatal(err)
	}
	data, err := os.ReadFile(at)
	if err != nil {
		t.Fatal(err)
	}
	data[len(data)/2] ^= 1
	if err := os.WriteFile(at, data, 0o600); err != nil {
		t.Fatal(err)
	}
	o.Skip = nil
	if !paired(o) || paired(o) {
		t.Error("what is damaged was not found out anew")
	}
}
