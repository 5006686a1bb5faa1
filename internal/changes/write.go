package changes

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path"
	"path/filepath"
	"slices"
	"strconv"
	"strings"

	"dicaxon/internal/edit"
	"dicaxon/internal/safe"
)

// mostText bounds what a file may hold that is edited.
const mostText = 16 << 20

// A Why says who writes: the command as it was called, and what it does in a few words.
type Why struct{ Command, Summary string }

// A writer carries out one plan.
type writer struct {
	root   *os.Root
	stage  *Stage
	record *Record
	texts  map[string][]byte // what is to be written, by the paths of after
	blobs  int
}

// Write carries out a plan below a root, wholly or not at all: what it needs to be taken
// back is on the disk before the first change, and where a step fails all of them are
// taken back. Cut off, Recover takes them back. Moves of files that git tracks are moves
// in its index, too.
//
// The error wraps ErrTaken, ErrChanged or ErrOutside, is a *DirtyError, or what the disk
// said; nothing is changed then.
func (p *Plan) Write(ctx context.Context, root string, why Why) (*Record, error) {
	if err := p.check(); err != nil {
		return nil, err
	}
	root, err := whole(root)
	if err != nil {
		return nil, err
	}
	stage, err := hold(ctx, root, why.Command)
	if err != nil {
		return nil, err
	}
	defer stage.Close()
	if _, err := takeBackHalf(ctx, root, stage); err != nil {
		return nil, err
	}
	w := &writer{stage: stage, texts: map[string][]byte{}}
	if w.root, err = os.OpenRoot(root); err != nil {
		return nil, err
	}
	defer w.root.Close()
	if w.record, err = newRecord(root, why.Command, why.Summary); err != nil {
		return nil, err
	}
	if err := w.prepare(ctx, p); err != nil {
		_ = os.RemoveAll(w.record.at)
		return nil, err
	}
	if err := w.record.save(); err != nil {
		_ = os.RemoveAll(w.record.at)
		return nil, err
	}
	if err := w.carryOut(ctx); err != nil {
		if back := w.record.takeBack(context.WithoutCancel(ctx), w.root, w.stage.Dir); back != nil {
			return nil, fmt.Errorf("%w; and taking it back failed: %w; `dicaxon undo` tries again", err, back)
		}
		_ = os.RemoveAll(w.record.at)
		return nil, fmt.Errorf("%w; nothing was changed", err)
	}
	w.record.State = done
	if err := w.record.save(); err != nil {
		return nil, err
	}
	sweep(root)
	return w.record, nil
}

// prepare lays out the steps of a plan and keeps what they change. It changes nothing.
func (w *writer) prepare(ctx context.Context, p *Plan) error {
	if err := w.asSeen(p); err != nil {
		return err
	}
	s := &state{exists: func(at string) bool {
		_, err := w.root.Lstat(filepath.FromSlash(at))
		return err == nil
	}}
	for _, m := range p.Moves {
		if !s.exists(strings.TrimSuffix(m.From, "/")) {
			return fmt.Errorf("%s %w: it is gone", m.From, ErrChanged)
		}
		if err := w.within(m.To); err != nil {
			return err
		}
	}
	for _, m := range p.Makes {
		if err := w.within(m.Path); err != nil {
			return err
		}
	}
	w.makeWay(p, s)
	if err := s.layOut(p.Moves); err != nil {
		return err
	}
	for i := range s.steps {
		if s.steps[i].Do == moveAway {
			s.steps[i].Marks = w.marks(p, originOf(p, s.steps[i].Path), s.steps[i].Path)
		}
	}
	if err := w.edits(p, s); err != nil {
		return err
	}
	for _, m := range p.Makes {
		if s.stands(m.Path) {
			if strings.HasSuffix(m.Path, "/") {
				continue
			}
			return taken(m.Path)
		}
		s.around(m.Path)
		if strings.HasSuffix(m.Path, "/") {
			s.steps = append(s.steps, step{Do: makeFolder, Path: m.Path})
			continue
		}
		mode := fs.FileMode(0o644)
		if m.Executable {
			mode = 0o755
		}
		w.texts[m.Path] = []byte(m.Text)
		s.steps = append(s.steps, step{Do: writeFile, Path: m.Path, Mode: mode, After: Digest([]byte(m.Text))})
	}
	if err := w.drops(p, s); err != nil {
		return err
	}
	for _, dir := range left(p) {
		if info, err := w.root.Lstat(filepath.FromSlash(dir)); err == nil && p.After(dir+"/") == dir+"/" {
			s.steps = append(s.steps, step{Do: loseFolder, Path: dir + "/", Mode: info.Mode().Perm()})
		}
	}
	w.record.Steps = s.steps
	var err error
	w.record.Index, err = indexFor(ctx, w.record.Root, p)
	return err
}

// within says whether what is around a path are folders, as far as it is there: no files,
// and no links, whichever way they lead.
func (w *writer) within(at string) error {
	for dir := path.Dir(strings.TrimSuffix(at, "/")); dir != "."; dir = path.Dir(dir) {
		if info, err := w.root.Lstat(filepath.FromSlash(dir)); err == nil && !info.IsDir() {
			return fmt.Errorf("%s %w: %s is no folder", at, ErrOutside, dir)
		}
	}
	return nil
}

// originOf gives where what a move brings to a path lay before.
func originOf(p *Plan, to string) string {
	for _, m := range p.Moves {
		if m.To == to {
			return m.From
		}
	}
	return to
}

// asSeen says whether every file that the plan was made by is as it was.
func (w *writer) asSeen(p *Plan) error {
	for at, digest := range p.Seen {
		text, err := w.read(at)
		if err != nil || Digest(text) != digest {
			return fmt.Errorf("%s %w", at, ErrChanged)
		}
	}
	return nil
}

// read reads a regular file below the root.
func (w *writer) read(at string) ([]byte, error) { return safe.ReadFile(w.root.Name(), at, mostText) }

// edits lays out the files whose text changes, under the names of after.
func (w *writer) edits(p *Plan, s *state) error {
	byFile := edit.ByFile(p.Edits)
	var files []string
	for at := range byFile {
		files = append(files, at)
	}
	slices.Sort(files)
	for _, at := range files {
		text, err := w.read(at)
		if err != nil {
			return err
		}
		if p.Seen[at] == "" {
			return fmt.Errorf("%s %w: the plan does not say what it held", at, ErrChanged)
		}
		made, err := edit.Apply(text, byFile[at])
		if err != nil {
			return err
		}
		before, err := w.keep(at, text)
		if err != nil {
			return err
		}
		to := p.After(at)
		w.texts[to] = made
		s.steps = append(s.steps, step{Do: writeFile, Path: to, Before: before, Mode: before.Mode, After: Digest(made)})
	}
	return nil
}

// drops lays out the files that only kept a folder.
func (w *writer) drops(p *Plan, s *state) error {
	for _, at := range p.Drops {
		info, err := w.root.Lstat(filepath.FromSlash(at))
		if err != nil || !info.Mode().IsRegular() || info.Size() > 0 {
			return fmt.Errorf("%s %w: it is no empty file any more", at, ErrChanged)
		}
		before, err := w.keep(at, nil)
		if err != nil {
			return err
		}
		s.steps = append(s.steps, step{Do: dropFile, Path: p.After(at), Before: before})
	}
	return nil
}

// keep keeps a file as it is, in the journal.
func (w *writer) keep(at string, text []byte) (*kept, error) {
	info, err := w.root.Lstat(filepath.FromSlash(at))
	if err != nil {
		return nil, err
	}
	if !info.Mode().IsRegular() {
		return nil, &fs.PathError{Op: "open", Path: at, Err: safe.ErrIrregular}
	}
	k := &kept{Digest: Digest(text), Mode: info.Mode().Perm(), Time: info.ModTime()}
	if len(text) > 0 {
		w.blobs++
		k.Blob = strconv.Itoa(w.blobs)
		err = write(filepath.Join(w.record.at, k.Blob), text, 0o600)
	}
	return k, err
}

// mostMarked bounds how many files of a folder are told apart after it was moved.
const mostMarked = 20_000

// marks tells what the files are like that a move carries, by their paths below it.
func (w *writer) marks(p *Plan, at, to string) map[string]mark {
	all := map[string]mark{}
	_ = fs.WalkDir(w.root.FS(), strings.TrimSuffix(at, "/"), func(name string, e fs.DirEntry, err error) error {
		if err != nil || e.IsDir() {
			return nil
		}
		below := strings.TrimPrefix(strings.TrimPrefix(name, strings.TrimSuffix(at, "/")), "/")
		if info, err := e.Info(); err == nil && info.Mode().IsRegular() && p.After(name) == to+below {
			all[below] = mark{info.Size(), info.ModTime()}
		}
		if len(all) >= mostMarked {
			return fs.SkipAll
		}
		return nil
	})
	return all
}

// left lists the folders that something was moved out of, the deepest first: those that
// nothing is left in go.
func left(p *Plan) []string {
	seen := map[string]bool{}
	var all []string
	for _, m := range p.Moves {
		for dir := path.Dir(strings.TrimSuffix(m.From, "/")); dir != "." && !seen[dir]; dir = path.Dir(dir) {
			seen[dir] = true
			all = append(all, dir)
		}
	}
	slices.SortStableFunc(all, func(a, b string) int { return strings.Count(b, "/") - strings.Count(a, "/") })
	return all
}

// carryOut does the steps of the record.
func (w *writer) carryOut(ctx context.Context) error {
	for i := range w.record.Steps {
		if err := ctx.Err(); err != nil {
			return err
		}
		if err := w.do(&w.record.Steps[i], i); err != nil {
			return err
		}
	}
	return moveInIndex(ctx, w.record.Root, w.record.Index, false)
}

func (w *writer) do(s *step, i int) error {
	at, from := native(s.Path), native(s.From)
	switch s.Do {
	case makeFolder:
		return w.root.Mkdir(at, 0o755)
	case moveAway:
		if err := w.free(at, from); err != nil {
			return err
		}
		return w.root.Rename(from, at)
	case writeFile:
		if err := w.unchanged(s); err != nil {
			return err
		}
		return put(w.root, filepath.Join(w.stage.Dir, strconv.Itoa(i)), at, w.texts[s.Path], s.Mode)
	case dropFile:
		return w.root.Remove(at)
	case loseFolder:
		if err := w.root.Remove(at); err != nil { // something is left in it
			s.Do = ""
		}
	}
	return nil
}

// free says whether nothing stands at a path but, on a disk that is blind to case, what is
// to be moved there.
func (w *writer) free(at, from string) error {
	there, err := w.root.Lstat(at)
	if errors.Is(err, fs.ErrNotExist) {
		return nil
	}
	if err != nil {
		return err
	}
	if moved, err := w.root.Lstat(from); err == nil && os.SameFile(there, moved) && strings.EqualFold(at, from) {
		return nil
	}
	return taken(at)
}

// unchanged says whether a file is still what it was when it was kept.
func (w *writer) unchanged(s *step) error {
	if s.Before == nil {
		return w.free(native(s.Path), "")
	}
	text, err := w.read(s.Path)
	if err != nil || Digest(text) != s.Before.Digest {
		return fmt.Errorf("%s %w", s.Path, ErrChanged)
	}
	return nil
}

// put writes a file aside and lets it come into its place.
func put(root *os.Root, aside, at string, text []byte, mode fs.FileMode) error {
	if err := write(aside, text, mode); err != nil {
		return err
	}
	if err := os.Chmod(aside, mode); err != nil { // whatever the process masks
		return err
	}
	rel, err := filepath.Rel(root.Name(), aside)
	if err != nil {
		return err
	}
	return root.Rename(rel, at)
}

func native(at string) string { return filepath.FromSlash(strings.TrimSuffix(at, "/")) }
