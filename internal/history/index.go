package history

import (
	"bytes"
	"errors"
	"io/fs"
	"os"

	"github.com/go-git/go-git/v5/plumbing/format/index"

	"dicaxon/internal/safe"
)

// mostIndex bounds the size of git's index: a million files take a hundred megabytes.
const mostIndex = 1 << 30

// A staging is git's index: the files that it tracks, each once, and the tree that they
// were last known to be, "" where that is not known.
type staging struct {
	files []recorded
	tree  id
}

// index reads what is staged; nothing where nothing ever was.
func (h *History) index() (*staging, error) {
	if !h.foreign {
		text, err := safe.ReadAny(h.places.Index, mostIndex)
		if errors.Is(err, fs.ErrNotExist) {
			return &staging{}, nil
		}
		if err != nil {
			return nil, err
		}
		if s, err := readIndex(text); err == nil {
			return s, nil
		}
	} else if _, err := os.Stat(h.places.Index); errors.Is(err, fs.ErrNotExist) {
		return &staging{}, nil
	}
	// An index in two parts, or with folders for files.
	files, err := h.asked.index()
	return &staging{files: files}, err
}

func readIndex(text []byte) (s *staging, err error) {
	defer func() {
		if recover() != nil {
			err = errors.New("the index is damaged")
		}
	}()
	var read index.Index
	if err := index.NewDecoder(bytes.NewReader(text)).Decode(&read); err != nil {
		return nil, err
	}
	s = &staging{files: make([]recorded, 0, len(read.Entries))}
	for _, e := range read.Entries {
		s.add(recorded{path: e.Name, mode: e.Mode, id: id(e.Hash[:]), meant: e.IntentToAdd, left: e.SkipWorktree}, int(e.Stage))
	}
	if read.Cache != nil && len(read.Cache.Entries) > 0 && read.Cache.Entries[0].Entries >= 0 {
		s.tree = id(read.Cache.Entries[0].Hash[:])
	}
	return s, nil
}

// ours is the stage of the version that the branch had before a merge (git-ls-files).
const ours = 2

// add takes a file in. Of the versions of one that is in conflict, the branch's own
// stands for it.
func (s *staging) add(f recorded, stage int) {
	if n := len(s.files); n > 0 && s.files[n-1].path == f.path {
		if stage == ours {
			s.files[n-1] = f
		}
		return
	}
	s.files = append(s.files, f)
}
