package history

import (
	"fmt"
	"regexp"
	"strconv"
	"strings"

	"github.com/go-git/go-git/v5/plumbing"
	"github.com/go-git/go-git/v5/plumbing/storer"
)

// ancestor is what may stand behind a name: ~, ~3, ^, ^2 (gitrevisions).
var ancestor = regexp.MustCompile(`^(.*?)((?:~\d*|\^\d*)*)$`)

// places are where a name is looked up, in git's order (gitrevisions).
var places = []string{"%s", "refs/%s", "refs/tags/%s", "refs/heads/%s", "refs/remotes/%s", "refs/remotes/%s/HEAD"}

// resolve gives the commit that a revision names.
func (h *History) resolve(revision string) (plumbing.Hash, error) {
	m := ancestor.FindStringSubmatch(revision)
	hash, err := h.named(m[1])
	if err != nil {
		return hash, fmt.Errorf("git knows no revision %q", revision)
	}
	for steps := m[2]; steps != ""; {
		step, rest := steps[0], strings.TrimLeft(steps[1:], "0123456789")
		count := 1
		if digits := steps[1 : len(steps)-len(rest)]; digits != "" {
			if count, err = strconv.Atoi(digits); err != nil || count > 1<<20 {
				return hash, fmt.Errorf("git knows no revision %q", revision)
			}
		}
		steps = rest
		for range map[byte]int{'~': count, '^': 1}[step] {
			which := 1
			if step == '^' {
				which = count
			}
			if hash, err = h.parent(hash, which); err != nil {
				return hash, fmt.Errorf("%s goes back beyond the first commit", revision)
			}
		}
	}
	return hash, nil
}

// parent gives a parent of a commit, counted from 1; 0 is the commit itself.
func (h *History) parent(commit plumbing.Hash, which int) (plumbing.Hash, error) {
	if which == 0 {
		return commit, nil
	}
	text, err := h.object(plumbing.CommitObject, commit)
	if err != nil {
		return commit, err
	}
	head, _, _ := strings.Cut(string(text), "\n\n")
	for _, line := range strings.Split(head, "\n") {
		if hash, ok := strings.CutPrefix(line, "parent "); ok {
			if which--; which == 0 {
				return plumbing.NewHash(hash), nil
			}
		}
	}
	return commit, plumbing.ErrObjectNotFound
}

// named gives the commit of a name without steps behind it: a branch, a tag, a
// hash or the beginning of one.
func (h *History) named(name string) (plumbing.Hash, error) {
	if name == "" || name == "@" {
		name = "HEAD"
	}
	for _, place := range places {
		ref, err := storer.ResolveReference(h.store, plumbing.ReferenceName(fmt.Sprintf(place, name)))
		if err == nil {
			return h.peeled(ref.Hash()), nil
		}
	}
	if len(name) == 40 && plumbing.IsHash(name) {
		return h.peeled(plumbing.NewHash(name)), nil
	}
	if len(name) >= 4 && len(name) < 40 && strings.Trim(name, "0123456789abcdef") == "" {
		return h.beginning(name)
	}
	return plumbing.ZeroHash, plumbing.ErrReferenceNotFound
}

// peeled gives the commit that an annotated tag stands for.
func (h *History) peeled(hash plumbing.Hash) plumbing.Hash {
	for range 10 { // a tag of a tag of a tag …
		text, err := h.object(plumbing.TagObject, hash)
		if err != nil {
			break
		}
		hash = plumbing.NewHash(headerOf(text, "object"))
	}
	return hash
}

// beginning gives the one commit whose hash begins so.
func (h *History) beginning(prefix string) (plumbing.Hash, error) {
	commits, err := h.store.IterEncodedObjects(plumbing.CommitObject)
	if err != nil {
		return plumbing.ZeroHash, err
	}
	defer commits.Close()
	var found plumbing.Hash
	several := false
	err = commits.ForEach(func(o plumbing.EncodedObject) error {
		if strings.HasPrefix(o.Hash().String(), prefix) {
			several = several || !found.IsZero() && found != o.Hash()
			found = o.Hash()
		}
		return nil
	})
	if err != nil || several || found.IsZero() {
		return found, plumbing.ErrReferenceNotFound
	}
	return found, nil
}
