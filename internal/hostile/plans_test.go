//go:build unix

package hostile

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"
)

// TestPlansOfStrangers writes plans that somebody made to do harm: nothing outside of the
// repository, nothing of git's own and nothing through a link is touched, and a plan that
// cannot be carried out whole changes nothing.
func TestPlansOfStrangers(t *testing.T) {
	outside := t.TempDir()
	must(t, os.WriteFile(filepath.Join(outside, "mine"), []byte("mine"), 0o644))
	plan := func(moves, makes, edits string) string {
		return fmt.Sprintf(`{"schema":"dicaxon.plan/1","plan":{"moves":[%s],"makes":[%s],"edits":[%s],"seen":{}}}`, moves, makes, edits)
	}
	move := func(from, to string) string { return plan(fmt.Sprintf(`{"from":%q,"to":%q}`, from, to), "", "") }
	made := func(at string) string { return plan("", fmt.Sprintf(`{"path":%q,"text":"x"}`, at), "") }
	for name, text := range map[string]string{
		"a move out":                    move("run.py", "../run.py"),
		"a move in from outside":        move("../"+filepath.Base(outside)+"/mine", "mine"),
		"an absolute path":              made(filepath.Join(outside, "new")),
		"through a link":                made("out/new"),
		"over a link":                   made("link"),
		"a move through a link":         move("run.py", "out/run.py"),
		"a move of what a link reaches": move("out/mine", "mine"),
		"a hook":                        made(".git/hooks/pre-commit"),
		"a hook, in another case":       made(".Git/hooks/pre-commit"),
		"a hook of a part":              made("app/.git/config"),
		"a hook by a short name":        made("git~1/config"),
		"the top itself":                move("./", "x/"),
		"nothing":                       move("", ""),
		"a line end":                    made("a\nb"),
		"a zero":                        made("a\x00b"),
		"a folder onto a file":          move("app/", "run.py/"),
		"an edit beyond the end":        plan("", "", `{"path":"run.py","start":5,"end":100000,"text":"x"}`),
		"an edit before the start":      plan("", "", `{"path":"run.py","start":-5,"end":1,"text":"x"}`),
		"an edit of a pipe":             plan("", "", `{"path":"pipe","start":0,"end":0,"text":"x"}`),
		"an edit of a link":             plan("", "", `{"path":"link","start":0,"end":0,"text":"x"}`),
		"another schema":                `{"schema":"dicaxon.plan/9","plan":{}}`,
		"no JSON":                       "plan: [",
		"deep":                          strings.Repeat("[", 200_000),
		"many moves into each other":    plan(strings.TrimSuffix(strings.Repeat(`{"from":"app/","to":"app/app/"},`, 2000), ","), "", ""),
		"one move many times":           plan(strings.TrimSuffix(strings.Repeat(`{"from":"run.py","to":"x.py"},`, 50), ","), "", ""),
		"a marker that is none":         `{"schema":"dicaxon.plan/1","plan":{"drops":["run.py"]}}`,
	} {
		t.Run(name, func(t *testing.T) {
			dir := write(t, t.TempDir(), flask(map[string]string{"out": "-> " + outside, "link": "-> " + filepath.Join(outside, "mine"), "pipe": "|", ".git/HEAD": "ref: refs/heads/main\n"}))
			file := filepath.Join(t.TempDir(), "plan.json")
			must(t, os.WriteFile(file, []byte(text), 0o644))
			before := here(t, dir)
			if o := run(t, dir, "realign", "--plan", file, "--write"); o.status != 2 && o.status != 3 {
				t.Errorf("status %d: %s", o.status, tail(o.all()))
			}
			if now := here(t, dir); now != before {
				t.Errorf("something changed:\n%s\n\n%s", names(before), names(now))
			}
			all, _ := os.ReadDir(outside)
			if mine, _ := os.ReadFile(filepath.Join(outside, "mine")); len(all) != 1 || string(mine) != "mine" {
				t.Errorf("outside: %v %q", all, mine)
			}
		})
	}
}

// TestPlanOfNames moves files of every nasty name, and takes it back.
func TestPlanOfNames(t *testing.T) {
	for _, name := range []string{"a b.py", "\x1b[2J.py", "tide\u202etable.py", "-x.py", "$(id).py", "ä.py", "a\tb.py", "'\".py", strings.Repeat("n", 200) + ".py"} {
		dir := write(t, t.TempDir(), flask(map[string]string{"app/" + name: "x = 1\n"}))
		before := here(t, dir)
		o := run(t, dir, "realign", "--map", "app/"+name+"=app/berths/"+name, "--write")
		if o.status != 0 || strings.ContainsAny(o.all(), "\x1b\u202e") {
			t.Errorf("%q: status %d: %q", name, o.status, tail(o.all()))
		}
		if _, err := os.Stat(filepath.Join(dir, "app/berths", name)); err != nil {
			t.Errorf("%q: %v", name, err)
		}
		if o := run(t, dir, "undo"); o.status != 0 || here(t, dir) != before {
			t.Errorf("%q, undone: status %d: %s", name, o.status, tail(o.all()))
		}
	}
}

// names gives what is here without its texts.
func names(all string) string {
	var b strings.Builder
	for line := range strings.Lines(all) {
		if fields := strings.Fields(line); len(fields) > 1 && len(fields[1]) == 10 {
			b.WriteString(fields[0] + " " + fields[1] + "\n")
		}
	}
	return b.String()
}
