package history

import (
	"errors"
	"fmt"
	"os/exec"
	"strconv"
	"strings"

	"github.com/go-git/go-git/v5/plumbing"
	"github.com/go-git/go-git/v5/plumbing/storer"

	"dicaxon/internal/lazy"
)

// ancestor is what may stand behind a name: ~, ~3, ^, ^2, ^{commit}, ^{} (gitrevisions).
var ancestor = lazy.New(`^(.*?)((?:~\d*|\^\d*|\^\{(?:commit)?\})*)$`)

// places are where a name is looked up, in git's order (gitrevisions).
var places = []string{"%s", "refs/%s", "refs/tags/%s", "refs/heads/%s", "refs/remotes/%s", "refs/remotes/%s/HEAD"}

// errUnknown says that nothing of that name is there.
var errUnknown = errors.New("nothing is called so")

// resolve gives the commit that a revision names. What we cannot read, and the forms that
// go by git's diary or its settings, such as HEAD@{1}, git is asked for.
func (h *History) resolve(revision string) (id, error) {
	var err error
	if !h.foreign && !h.table {
		var commit id
		commit, err = h.read(revision)
		if err == nil || errors.Is(err, errUnborn) {
			return commit, err
		}
	}
	if strings.ContainsAny(revision, "\x00\n") || !h.asked.willing() {
		return "", unknown(revision, err)
	}
	if _, absent := exec.LookPath("git"); absent != nil {
		if strings.Contains(revision, "{") || h.foreign || h.table {
			return "", CallError(fmt.Sprintf("%q: git itself must be asked for that, and git is not installed", revision))
		}
		return "", unknown(revision, err)
	}
	commit, wrong := h.asked.commit(orHead(revision))
	if wrong == nil {
		return commit, nil
	}
	if orHead(revision) == "HEAD" && h.asked.unborn() {
		return "", errUnborn
	}
	return "", unknown(revision, err)
}

// unknown says that a revision is none, or why it cannot be read.
func unknown(revision string, err error) error {
	var called CallError
	if errors.As(err, &called) {
		return err
	}
	if err == nil || errors.Is(err, errUnknown) || errors.Is(err, errAbsent) {
		return CallError(fmt.Sprintf("git knows no revision %q", revision))
	}
	return err
}

// orHead gives HEAD for the names that stand for it.
func orHead(name string) string {
	if name == "" || name == "@" {
		return "HEAD"
	}
	return name
}

// read gives the commit that a revision names, from git's files.
func (h *History) read(revision string) (id, error) {
	m := ancestor.Get().FindStringSubmatch(revision)
	if m == nil {
		return "", errUnknown
	}
	hash, err := h.named(orHead(m[1]))
	if err != nil {
		return "", err
	}
	for steps := m[2]; steps != ""; {
		if rest, ok := strings.CutPrefix(steps, "^{commit}"); ok {
			steps = rest
			continue
		}
		if rest, ok := strings.CutPrefix(steps, "^{}"); ok {
			steps = rest
			continue
		}
		step, rest := steps[0], strings.TrimLeft(steps[1:], "0123456789")
		count := 1
		if digits := steps[1 : len(steps)-len(rest)]; digits != "" {
			if count, err = strconv.Atoi(digits); err != nil || count > 1<<20 {
				return "", errUnknown
			}
		}
		steps = rest
		for range map[byte]int{'~': count, '^': 1}[step] {
			which := 1
			if step == '^' {
				which = count
			}
			if hash, err = h.parent(hash, which); err != nil {
				return "", CallError(fmt.Sprintf("%s goes back beyond the first commit", revision))
			}
		}
	}
	if _, err := h.objects.get(plumbing.CommitObject, hash); err != nil {
		return "", err
	}
	return hash, nil
}

// parent gives a parent of a commit, counted from 1; 0 is the commit itself.
func (h *History) parent(commit id, which int) (id, error) {
	if which == 0 {
		return commit, nil
	}
	text, err := h.objects.whole(plumbing.CommitObject, commit)
	if err != nil {
		return commit, err
	}
	head, _, _ := strings.Cut(string(text), "\n\n")
	for line := range strings.SplitSeq(head, "\n") {
		if hash, ok := strings.CutPrefix(line, "parent "); ok {
			if which--; which == 0 {
				return named(hash)
			}
		}
	}
	return commit, errUnknown
}

// named gives the commit of a name without steps behind it: a branch, a tag, a
// hash or the beginning of one.
func (h *History) named(name string) (id, error) {
	refs := h.objects.stores[0]
	for _, place := range places {
		ref, err := storer.ResolveReference(refs, plumbing.ReferenceName(fmt.Sprintf(place, name)))
		if err == nil {
			hash := ref.Hash()
			return h.peeled(id(hash[:])), nil
		}
		if name == "HEAD" && place == "%s" {
			if at, err := refs.Reference(plumbing.HEAD); err == nil && at.Type() == plumbing.SymbolicReference {
				return "", errUnborn
			}
		}
	}
	if of, err := named(name); err == nil && len(of) == 20 {
		return h.peeled(of), nil
	}
	if len(name) >= 4 && len(name) < 40 && strings.Trim(name, "0123456789abcdef") == "" {
		return h.beginning(name)
	}
	return "", errUnknown
}

// peeled gives the commit that an annotated tag stands for.
func (h *History) peeled(hash id) id {
	for range 10 { // a tag of a tag of a tag …
		text, err := h.objects.whole(plumbing.TagObject, hash)
		if err != nil {
			break
		}
		to, err := named(headerOf(text, "object"))
		if err != nil {
			break
		}
		hash = to
	}
	return hash
}

// beginning gives the one commit whose hash begins so.
func (h *History) beginning(prefix string) (id, error) {
	var found id
	several := false
	for _, s := range h.objects.stores {
		commits, err := s.IterEncodedObjects(plumbing.CommitObject)
		if err != nil {
			return "", err
		}
		err = commits.ForEach(func(o plumbing.EncodedObject) error {
			if hash := o.Hash(); strings.HasPrefix(hash.String(), prefix) {
				several = several || found != "" && found != id(hash[:])
				found = id(hash[:])
			}
			return nil
		})
		commits.Close()
		if err != nil {
			return "", err
		}
	}
	if several || found == "" {
		return "", errUnknown
	}
	return found, nil
}
