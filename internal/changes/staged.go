package changes

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"

	"dicaxon/internal/safe"
)

// An indexMove is a file in git's index that goes with its file.
type indexMove struct {
	Mode string `json:"mode"`
	ID   string `json:"id"`
	From string `json:"from"`
	To   string `json:"to"`
}

// A DirtyError says that files to be changed have changes that are not committed.
type DirtyError struct{ Files []string }

func (e *DirtyError) Error() string {
	return fmt.Sprintf("%s: changed and not committed; commit or stash that first, so that it stays apart from what is written now", strings.Join(e.Files, ", "))
}

// mostNamed is how many paths git is asked about by name; of more it is asked about all.
const mostNamed = 500

// indexFor says which files of git's index go with the moves of a plan; none where there
// is no git. The error is a *DirtyError where a file that git knows, and that the plan
// touches, has changes that nobody committed.
func indexFor(ctx context.Context, root string, p *Plan) ([]indexMove, error) {
	if _, err := exec.LookPath("git"); err != nil {
		return nil, nil
	}
	touched := map[string]bool{}
	for _, m := range p.Moves {
		touched[strings.TrimSuffix(m.From, "/")] = true
	}
	for _, e := range p.Edits {
		touched[e.Path] = true
	}
	var paths []string
	for at := range touched {
		paths = append(paths, at)
	}
	if len(paths) == 0 {
		return nil, nil
	}
	if len(paths) > mostNamed {
		paths = nil
	}
	listed, err := git(ctx, root, nil, append([]string{"ls-files", "-z", "--stage", "--"}, paths...)...)
	if err != nil {
		return nil, nil // no repository, or none that git wants to look into
	}
	if err := clean(ctx, root, p, paths); err != nil {
		return nil, err
	}
	return movesIn(listed, root, p)
}

// movesIn reads a list of git's index.
func movesIn(listed []byte, root string, p *Plan) ([]indexMove, error) {
	var all []indexMove
	for _, line := range bytes.Split(listed, []byte{0}) {
		about, at, ok := strings.Cut(string(line), "\t")
		fields := strings.Fields(about)
		if !ok || len(fields) != 3 {
			continue
		}
		to := p.After(at)
		if to == at {
			continue
		}
		switch _, err := os.Lstat(filepath.Join(root, filepath.FromSlash(at))); {
		case fields[0] == "160000":
			return nil, fmt.Errorf("%s is a repository of its own within this one; `git mv` moves it", at)
		case fields[2] != "0":
			return nil, &DirtyError{[]string{at}}
		case err != nil:
			return nil, fmt.Errorf("%s is tracked, and not in the work tree: it could not go with %s", at, to)
		}
		all = append(all, indexMove{fields[0], fields[1], at, to})
	}
	return all, nil
}

// clean says whether what git knows of the files that a plan touches is what is there.
func clean(ctx context.Context, root string, p *Plan, paths []string) error {
	said, err := git(ctx, root, nil, append([]string{"status", "--porcelain", "-z", "--untracked-files=no", "--no-renames", "--ignore-submodules=all", "--"}, paths...)...)
	if err != nil {
		return nil
	}
	top, err := git(ctx, root, nil, "rev-parse", "--show-prefix")
	if err != nil {
		return nil
	}
	prefix := strings.TrimSuffix(string(top), "\n")
	var dirty []string
	for _, entry := range bytes.Split(said, []byte{0}) {
		if len(entry) < 4 || entry[0] == 'A' && entry[1] == ' ' {
			continue
		}
		at, below := strings.CutPrefix(string(entry[3:]), prefix)
		if below && (p.After(at) != at || edits(p, at)) {
			dirty = append(dirty, at)
		}
	}
	if dirty != nil {
		return &DirtyError{dirty}
	}
	return nil
}

func edits(p *Plan, at string) bool {
	for i := range p.Edits {
		if p.Edits[i].Path == at {
			return true
		}
	}
	return false
}

// moveInIndex moves files in git's index, or back. Of what is not there as it was left,
// nothing is moved back.
func moveInIndex(ctx context.Context, root string, all []indexMove, back bool) error {
	if len(all) == 0 {
		return nil
	}
	known := map[string]string{}
	if back {
		listed, err := git(ctx, root, nil, "ls-files", "-z", "--stage")
		if err != nil {
			return nil // the repository is gone
		}
		for _, line := range bytes.Split(listed, []byte{0}) {
			if about, at, ok := strings.Cut(string(line), "\t"); ok {
				known[at] = strings.Fields(about)[1]
			}
		}
	}
	prefix, err := git(ctx, root, nil, "rev-parse", "--show-prefix")
	if err != nil {
		return err
	}
	below := strings.TrimSuffix(string(prefix), "\n")
	var lines bytes.Buffer
	for _, m := range all {
		from, to := m.From, m.To
		if back {
			if from, to = to, from; known[from] == "" || known[to] != "" {
				continue
			}
			m.ID = known[from]
		}
		fmt.Fprintf(&lines, "0 %s\t%s\x00%s %s 0\t%s\x00", strings.Repeat("0", len(m.ID)), below+from, m.Mode, m.ID, below+to)
	}
	if lines.Len() == 0 {
		return nil
	}
	_, err = git(ctx, root, &lines, "update-index", "-z", "--index-info")
	return err
}

// git calls git in a folder and gives what it says; paths are taken as they are.
func git(ctx context.Context, root string, in *bytes.Buffer, args ...string) ([]byte, error) {
	cmd := safe.Git(ctx, root, []string{"GIT_LITERAL_PATHSPECS=1"}, args...)
	if in != nil {
		cmd.Stdin = in
	}
	said, err := cmd.Output()
	var failed *exec.ExitError
	if errors.As(err, &failed) {
		why, _, _ := strings.Cut(strings.TrimSpace(string(failed.Stderr)), "\n")
		return nil, fmt.Errorf("git %s: %s", args[0], why)
	}
	return said, err
}
