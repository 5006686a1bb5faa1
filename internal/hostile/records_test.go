//go:build unix

package hostile

import (
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
)

// hashed puts an object into a repository, and gives its name.
func hashed(t *testing.T, dir, kind, text string) string {
	t.Helper()
	cmd := exec.Command("git", "hash-object", "-w", "--stdin", "--literally", "-t", kind)
	cmd.Dir, cmd.Stdin = dir, strings.NewReader(text)
	out, err := cmd.CombinedOutput()
	if err != nil {
		t.Fatalf("git hash-object: %v\n%s", err, out)
	}
	return strings.TrimSpace(string(out))
}

// listed makes a tree of lines "mode kind name<TAB>path".
func listed(t *testing.T, dir string, lines ...string) string {
	t.Helper()
	cmd := exec.Command("git", "mktree", "--missing", "-z")
	cmd.Dir, cmd.Stdin = dir, strings.NewReader(strings.Join(lines, "\x00")+"\x00")
	out, err := cmd.CombinedOutput()
	if err != nil {
		t.Fatalf("git mktree: %v\n%s", err, out)
	}
	return strings.TrimSpace(string(out))
}

func commit(t *testing.T, dir, tree string) {
	t.Helper()
	git(t, dir, "update-ref", "refs/heads/bad", git(t, dir, "commit-tree", "-m", "bad", tree))
}

// TestRecords reads revisions that hold more than anybody has, or what is none.
func TestRecords(t *testing.T) {
	for name, c := range map[string]struct {
		make func(t *testing.T, dir string)
		want string // in what is said; "" where it is checked all the same
	}{
		"zeros without number": {func(t *testing.T, dir string) {
			at := filepath.Join(dir, "zeros.json")
			must(t, os.WriteFile(at, nil, 0o644))
			must(t, os.Truncate(at, 400<<20))
			git(t, dir, "-c", "core.compression=1", "-c", "core.bigFileThreshold=10m", "add", "zeros.json")
			git(t, dir, "commit", "--quiet", "-m", "zeros")
			git(t, dir, "update-ref", "refs/heads/bad", "HEAD")
			must(t, os.Remove(at))
		}, ""},
		"the same, packed": {func(t *testing.T, dir string) {
			at := filepath.Join(dir, "zeros.json")
			must(t, os.WriteFile(at, nil, 0o644))
			must(t, os.Truncate(at, 200<<20))
			git(t, dir, "-c", "core.compression=1", "add", "zeros.json")
			git(t, dir, "commit", "--quiet", "-m", "zeros")
			git(t, dir, "update-ref", "refs/heads/bad", "HEAD")
			must(t, os.Remove(at))
			git(t, dir, "gc", "--quiet", "--prune=now")
		}, ""},
		"a tree of ten thousand million files": {func(t *testing.T, dir string) {
			below := "100644 blob " + hashed(t, dir, "blob", "x")
			for range 10 {
				var lines []string
				for i := range 10 {
					lines = append(lines, fmt.Sprintf("%s\td%d", below, i))
				}
				below = "040000 tree " + listed(t, dir, lines...)
			}
			commit(t, dir, strings.Fields(below)[2])
		}, "holds more than"},
		"folders 300 deep, with long names": {func(t *testing.T, dir string) {
			below := "100644 blob " + hashed(t, dir, "blob", "x")
			for range 300 { // as many as is quick to make, each of many
				below = "040000 tree " + listed(t, dir, below+"\t"+strings.Repeat("d", 100))
			}
			commit(t, dir, strings.Fields(below)[2])
		}, ""},
		"paths that lead out": {func(t *testing.T, dir string) {
			blob := hashed(t, dir, "blob", "x")
			raw := ""
			for _, name := range []string{"..", ".", "", ".git", "a/b", "/etc"} {
				raw += "100644 " + name + "\x00" + unhex(blob)
			}
			commit(t, dir, hashed(t, dir, "tree", raw))
		}, ""},
		"a tree that is cut off": {func(t *testing.T, dir string) {
			commit(t, dir, hashed(t, dir, "tree", "100644 a\x00abc"))
		}, "damaged"},
		"a tree that is none": {func(t *testing.T, dir string) {
			git(t, dir, "update-ref", "refs/heads/bad", hashed(t, dir, "commit", "tree "+strings.Repeat("a", 40)+"\nauthor a <a> 1 +0000\ncommitter a <a> 1 +0000\n\nx\n"))
		}, "missing"},
		"a commit without a tree": {func(t *testing.T, dir string) {
			write(t, dir, map[string]string{".git/refs/heads/bad": hashed(t, dir, "commit", "nonsense\n\nx\n") + "\n"})
		}, "bad"},
		"a tag of a tag of a tag": {func(t *testing.T, dir string) {
			of := git(t, dir, "rev-parse", "HEAD")
			kind := "commit"
			for range 50 {
				of, kind = hashed(t, dir, "tag", "object "+of+"\ntype "+kind+"\ntag t\ntagger a <a> 1 +0000\n\nx\n"), "tag"
			}
			git(t, dir, "update-ref", "refs/tags/bad", of)
		}, "-"},
		"a pack that is cut off": {func(t *testing.T, dir string) {
			git(t, dir, "update-ref", "refs/heads/bad", "HEAD")
			git(t, dir, "gc", "--quiet", "--prune=now")
			for _, at := range glob(t, dir, ".git/objects/pack/*.pack") {
				must(t, os.Chmod(at, 0o644))
				must(t, os.Truncate(at, 60))
			}
			must(t, os.RemoveAll(filepath.Join(dir, "app")))
		}, "-"},
		"an index of a pack that is nonsense": {func(t *testing.T, dir string) {
			git(t, dir, "update-ref", "refs/heads/bad", "HEAD")
			git(t, dir, "gc", "--quiet", "--prune=now")
			for _, at := range glob(t, dir, ".git/objects/pack/*.idx") {
				must(t, os.Chmod(at, 0o644))
				must(t, os.WriteFile(at, []byte("\xfftOc\x00\x00\x00\x02"+strings.Repeat("\xff", 2000)), 0o644))
			}
		}, "-"},
	} {
		t.Run(name, func(t *testing.T) {
			dir := filepath.Join(t.TempDir(), "repo")
			must(t, os.Mkdir(dir, 0o755))
			begin(t, dir)
			c.make(t, dir)
			for _, args := range [][]string{{"check", ".", "--at", "bad"}, {"check", ".", "--since", "bad"}, {"check", ".", "--staged"}} {
				o := run(t, dir, args...)
				if args[1] == "." && args[2] == "--at" {
					switch {
					case c.want == "" && o.status > 1:
						t.Errorf("status %d: %s", o.status, tail(o.err))
					case c.want != "" && c.want != "-" && (o.status < 2 || !strings.Contains(o.err, c.want)):
						t.Errorf("status %d, want %q in %s", o.status, c.want, tail(o.err))
					}
				}
			}
		})
	}
}

func unhex(name string) string {
	var b strings.Builder
	for i := 0; i < len(name); i += 2 {
		var c byte
		_, _ = fmt.Sscanf(name[i:i+2], "%02x", &c)
		b.WriteByte(c)
	}
	return b.String()
}

func glob(t *testing.T, dir, pattern string) []string {
	t.Helper()
	all, err := filepath.Glob(filepath.Join(dir, pattern))
	must(t, err)
	return all
}
