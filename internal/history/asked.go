package history

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"time"

	"github.com/go-git/go-git/v5/plumbing/filemode"

	"dicaxon/internal/safe"
	"dicaxon/internal/tree"
)

// asked is git itself, where its files are of a kind that we cannot read. It runs nothing
// but itself, fetches nothing, and knows of the repository what we know.
type asked struct {
	places tree.Git
}

// mostSaid bounds what git may answer, and patience how long it may take.
const (
	mostSaid = 1 << 30
	patience = 5 * time.Minute
)

// ask gives what a call of git answers, no further than a limit.
func (a asked) ask(limit int64, args ...string) ([]byte, error) {
	ctx, cancel := context.WithTimeout(context.Background(), patience)
	defer cancel()
	given := []string{"LC_ALL=C", "GIT_DIR=" + a.places.Work, "GIT_WORK_TREE=" + a.places.Top, "GIT_INDEX_FILE=" + a.places.Index, "GIT_OBJECT_DIRECTORY=" + a.places.Objects[0]}
	if len(a.places.Objects) > 1 {
		given = append(given, "GIT_ALTERNATE_OBJECT_DIRECTORIES="+strings.Join(a.places.Objects[1:], ":"))
	}
	git := safe.Git(ctx, a.places.Top, given, args...)
	var wrong bytes.Buffer
	git.Stderr = &wrong
	out, err := git.StdoutPipe()
	if err != nil {
		return nil, err
	}
	if err := git.Start(); errors.Is(err, exec.ErrNotFound) {
		return nil, errors.New("only git itself can read this repository, and git is not installed")
	} else if err != nil {
		return nil, err
	}
	said, err := io.ReadAll(io.LimitReader(out, limit))
	if int64(len(said)) == limit {
		cancel() // the rest is not wanted
		_ = git.Wait()
		return said, err
	}
	if ended := git.Wait(); err == nil && ended != nil {
		line, _, _ := strings.Cut(strings.TrimSpace(wrong.String()), "\n")
		err = fmt.Errorf("git says: %s", strings.TrimPrefix(line, "fatal: "))
	}
	return said, err
}

// willing says whether git may be asked: of a pipe in place of one of its files it would
// wait for ever.
func (a asked) willing() bool {
	for _, at := range []string{a.places.Index, filepath.Join(a.places.Work, "HEAD"), filepath.Join(a.places.Common, "config"), filepath.Join(a.places.Common, "packed-refs"), filepath.Join(a.places.Common, "info", "exclude")} {
		if info, err := os.Stat(at); err == nil && !info.Mode().IsRegular() {
			return false
		}
	}
	return true
}

// commit gives the commit that a revision names.
func (a asked) commit(revision string) (id, error) {
	said, err := a.ask(4096, "rev-parse", "--verify", "--end-of-options", revision)
	if err != nil {
		return "", err
	}
	// What it names may be a tag; the text that some forms look for would take the mark up.
	if said, err = a.ask(4096, "rev-parse", "--verify", "--end-of-options", strings.TrimSpace(string(said))+"^{commit}"); err != nil {
		return "", err
	}
	return named(strings.TrimSpace(string(said)))
}

// unborn says whether HEAD is a branch without a commit.
func (a asked) unborn() bool {
	said, err := a.ask(4096, "symbolic-ref", "--quiet", "HEAD")
	if err != nil {
		return false
	}
	_, err = a.ask(4096, "rev-parse", "--verify", "--quiet", "--end-of-options", strings.TrimSpace(string(said)))
	return err != nil
}

// files gives the files of a commit.
func (a asked) files(commit id) ([]recorded, error) {
	said, err := a.ask(mostSaid, "ls-tree", "-r", "-z", "--full-tree", commit.String())
	if err != nil {
		return nil, err
	}
	var files []recorded
	for len(said) > 0 {
		line, rest, _ := bytes.Cut(said, []byte{0})
		said = rest
		about, path, _ := strings.Cut(string(line), "\t")
		fields := strings.Fields(about) // mode, kind, name
		if len(fields) != 3 {
			return nil, fmt.Errorf("git answers %q", about)
		}
		f, err := recordOf(fields[0], fields[2], path)
		if err != nil {
			return nil, err
		}
		files = append(files, f)
	}
	return files, nil
}

func recordOf(mode, name, path string) (recorded, error) {
	m, err := filemode.New(mode)
	if err != nil {
		return recorded{}, err
	}
	of, err := named(name)
	return recorded{path: path, mode: m, id: of}, err
}

// The flags of an index that git shows (git's cache.h).
const (
	flagMeant = 1 << 29
	flagLeft  = 1 << 30
)

// index gives what is staged, by the form that shows flags as well.
func (a asked) index() ([]recorded, error) {
	if !a.willing() {
		return nil, errors.New("one of git's files is none")
	}
	said, err := a.ask(mostSaid, "ls-files", "--stage", "--debug", "-z")
	if err != nil {
		return nil, err
	}
	var s staging
	for len(said) > 0 {
		line, rest, _ := bytes.Cut(said, []byte{0})
		about, path, _ := strings.Cut(string(line), "\t")
		fields := strings.Fields(about) // mode, name, stage
		if len(fields) != 3 {
			return nil, fmt.Errorf("git answers %q", about)
		}
		f, err := recordOf(fields[0], fields[1], path)
		if err != nil {
			return nil, err
		}
		// Indented lines about the file follow, the last of which ends in its flags.
		for bytes.HasPrefix(rest, []byte("  ")) {
			var more []byte
			more, rest, _ = bytes.Cut(rest, []byte("\n"))
			if _, flags, ok := strings.Cut(string(more), "flags: "); ok {
				bits, _ := strconv.ParseUint(strings.TrimSpace(flags), 16, 64)
				f.meant, f.left = bits&flagMeant != 0, bits&flagLeft != 0
			}
		}
		said = rest
		stage, _ := strconv.Atoi(fields[2])
		s.add(f, stage)
	}
	return s.files, nil
}

// text gives a file's text, no further than a text is read.
func (a asked) text(of id) ([]byte, error) {
	return a.ask(tree.TextLimit, "cat-file", "blob", of.String())
}
