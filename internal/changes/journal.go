package changes

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"hash/fnv"
	"io/fs"
	"os"
	"path/filepath"
	"runtime"
	"slices"
	"strings"
	"time"

	"dicaxon/internal/safe"
)

// What steps do.
const (
	makeFolder = "make-folder"
	moveAway   = "move"
	writeFile  = "write"
	dropFile   = "drop"
	loseFolder = "lose-folder" // that nothing is left in
)

// A step is one change of the disk, with all that taking it back needs.
type step struct {
	Do   string `json:"do"`
	Path string `json:"path"`
	From string `json:"from,omitempty"` // of a move: where it was just before
	// Before is what stood there, nil for nothing; After the Digest of what was written.
	Before *kept       `json:"before,omitempty"`
	After  string      `json:"after,omitempty"`
	Mode   fs.FileMode `json:"mode,omitempty"`
	// Marks tell the files that were carried by a move: size and time by their paths in
	// it, so that one that was edited since is found.
	Marks map[string]mark `json:"marks,omitempty"`
}

// A kept is a file as it was.
type kept struct {
	Blob   string      `json:"blob,omitempty"` // the name of its text in the journal
	Digest string      `json:"digest"`
	Mode   fs.FileMode `json:"mode"`
	Time   time.Time   `json:"time"`
}

type mark struct {
	Size int64     `json:"size"`
	Time time.Time `json:"time"`
}

// The states of a record.
const (
	begun  = "begun" // and not ended: what is there is half done
	done   = "done"
	undone = "undone"
)

// A Record is one command that wrote, with all that taking it back needs.
type Record struct {
	Schema  string      `json:"schema"`
	Root    string      `json:"root"`
	Command string      `json:"command"`
	Summary string      `json:"summary"`
	Time    time.Time   `json:"time"`
	State   string      `json:"state"`
	Steps   []step      `json:"steps"`
	Index   []indexMove `json:"index,omitempty"`
	at      string      // its folder
}

const recordSchema, recordName = "dicaxon.record/1", "record.json"

// What is kept for undo, at most.
const (
	mostRecords = 30
	mostKept    = 256 << 20 // bytes, of all records of one folder
	longest     = 90 * 24 * time.Hour
)

// journalOf gives the folder that records of a root are kept in: in the user's state
// folder (XDG Base Directory), never in the work tree.
func journalOf(root string) (string, error) {
	state := os.Getenv("XDG_STATE_HOME")
	if !filepath.IsAbs(state) {
		home, err := os.UserHomeDir()
		if err != nil {
			return "", fmt.Errorf("there is no place to keep what undo needs: %w; XDG_STATE_HOME can name one", err)
		}
		if state = filepath.Join(home, ".local", "state"); runtime.GOOS == "windows" {
			if state, err = os.UserCacheDir(); err != nil {
				return "", err
			}
		}
	}
	h := fnv.New64a()
	h.Write([]byte(root))
	return filepath.Join(state, "dicaxon", "undo", fmt.Sprintf("%016x", h.Sum64())), nil
}

// whole gives a folder's absolute path without links, under which its records are kept.
func whole(root string) (string, error) {
	root, err := filepath.Abs(root)
	if err != nil {
		return "", err
	}
	return filepath.EvalSymlinks(root)
}

// Records lists the commands that wrote below a root and can be taken back, the last
// first.
func Records(root string) ([]*Record, error) {
	all, err := recordsOf(root)
	return slices.DeleteFunc(all, func(r *Record) bool { return r.State == undone }), err
}

// recordsOf lists all records of a root, the last first.
func recordsOf(root string) ([]*Record, error) {
	root, err := whole(root)
	if err != nil {
		return nil, err
	}
	journal, err := journalOf(root)
	if err != nil {
		return nil, err
	}
	there, err := os.ReadDir(journal)
	if errors.Is(err, fs.ErrNotExist) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	var all []*Record
	for _, e := range there {
		if !e.IsDir() {
			continue
		}
		at := filepath.Join(journal, e.Name())
		text, err := safe.ReadAny(filepath.Join(at, recordName), safe.Listing)
		if errors.Is(err, fs.ErrNotExist) {
			continue // cut off before it began
		}
		r := &Record{at: at}
		if err == nil {
			err = json.Unmarshal(text, r)
		}
		if err != nil || r.Schema != recordSchema || r.Root != root {
			return nil, fmt.Errorf("%s: what is kept for undo is damaged; without that folder, nothing before can be taken back", at)
		}
		all = append(all, r)
	}
	slices.SortStableFunc(all, func(a, b *Record) int { return b.Time.Compare(a.Time) })
	return all, nil
}

// save writes a record, whole or not at all.
func (r *Record) save() error {
	text, err := json.Marshal(r)
	if err != nil {
		return err
	}
	next := filepath.Join(r.at, "next")
	_ = os.Remove(next)
	if err := write(next, text, 0o600); err != nil {
		return err
	}
	if err := os.Rename(next, filepath.Join(r.at, recordName)); err != nil {
		return err
	}
	return syncFolder(r.at)
}

// syncFolder lets the disk have the names in a folder.
func syncFolder(at string) error {
	dir, err := os.Open(at)
	if err != nil {
		return err
	}
	err = dir.Sync()
	if runtime.GOOS == "windows" {
		err = nil
	}
	return errors.Join(err, dir.Close())
}

// newRecord makes the folder of a record that nothing is in yet.
func newRecord(root, command, summary string) (*Record, error) {
	journal, err := journalOf(root)
	if err != nil {
		return nil, err
	}
	if err := os.MkdirAll(journal, 0o700); err != nil {
		return nil, err
	}
	now := time.Now()
	at, err := os.MkdirTemp(journal, now.UTC().Format("20060102-150405-")+"*")
	if err != nil {
		return nil, err
	}
	return &Record{Schema: recordSchema, Root: root, Command: command, Summary: summary, Time: now, State: begun, at: at}, nil
}

// sweep removes the oldest records, and what never became one.
func sweep(root string) {
	all, err := recordsOf(root)
	if err != nil {
		return
	}
	size := int64(0)
	for i, r := range all {
		size += sizeOf(r.at)
		if r.State != begun && (i >= mostRecords || size > mostKept && i > 0 || time.Since(r.Time) > longest) {
			_ = os.RemoveAll(r.at)
		}
	}
	if journal, err := journalOf(root); err == nil {
		there, _ := os.ReadDir(journal)
		for _, e := range there {
			if _, err := os.Stat(filepath.Join(journal, e.Name(), recordName)); e.IsDir() && errors.Is(err, fs.ErrNotExist) {
				_ = os.RemoveAll(filepath.Join(journal, e.Name()))
			}
		}
	}
}

func sizeOf(folder string) (size int64) {
	there, _ := os.ReadDir(folder)
	for _, e := range there {
		if info, err := e.Info(); err == nil {
			size += info.Size()
		}
	}
	return size
}

// patience is how long a writer waits for another one.
const patience = 3 * time.Second

// hold keeps other writers from a root. The error says who writes there.
func hold(ctx context.Context, root, command string) (*Stage, error) {
	short, cancel := context.WithTimeout(ctx, patience)
	defer cancel()
	stage, err := Begin(short, root)
	journal, _ := journalOf(root)
	holder := filepath.Join(journal, "holder")
	if errors.Is(err, context.DeadlineExceeded) && ctx.Err() == nil {
		who, _ := safe.ReadAny(holder, safe.Settings)
		said := strings.TrimSpace(string(who))
		if said == "" {
			said = "another run"
		}
		return nil, fmt.Errorf("%s is writing in %s; nothing was changed", said, root)
	}
	if err != nil {
		return nil, err
	}
	if err := os.MkdirAll(journal, 0o700); err == nil {
		_ = os.WriteFile(holder, fmt.Appendf(nil, "%s (process %d)\n", command, os.Getpid()), 0o600) // only to be told
	}
	return stage, nil
}

// Note records what another writer made below a root, which nothing stood in the way of, so
// that it can be taken back. Files have their texts, folders end in "/" and come before
// what is in them.
func Note(root string, why Why, made []Make) error {
	root, err := whole(root)
	if err != nil {
		return err
	}
	r, err := newRecord(root, why.Command, why.Summary)
	if err != nil {
		return err
	}
	for _, m := range made {
		s := step{Do: writeFile, Path: m.Path, After: Digest([]byte(m.Text))}
		if strings.HasSuffix(m.Path, "/") {
			s = step{Do: makeFolder, Path: m.Path}
		}
		r.Steps = append(r.Steps, s)
	}
	r.State = done
	if err := r.save(); err != nil {
		_ = os.RemoveAll(r.at)
		return err
	}
	sweep(root)
	return nil
}
