package changes

import (
	"cmp"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/edit"
	"dicaxon/internal/names"
)

// A Plan says what is to be changed below a folder. Paths have "/", are below that
// folder, and a folder's ends in "/". It is a value: nothing happens before Write.
type Plan struct {
	Moves []Move      `json:"moves"`
	Makes []Make      `json:"makes"`
	Edits []edit.Edit `json:"edits"` // of files under the names that they have before the moves
	// Drops are files without a byte that only kept a folder which is filled now.
	Drops []string `json:"drops,omitempty"`
	// Seen holds what the files hold that the plan was made by: Digest by path. Where one
	// is no longer so, nothing is written.
	Seen map[string]string `json:"seen"`
}

// A Move carries a file, or a folder with all that is in it, to where nothing stands.
type Move struct {
	From string `json:"from"`
	To   string `json:"to"`
}

// A Make is a new file or folder.
type Make struct {
	Path       string `json:"path"`
	Text       string `json:"text,omitempty"`
	Executable bool   `json:"executable,omitempty"`
}

// ErrChanged is wrapped by the error for a file that is no longer as it was when the plan
// was made; ErrOutside by that for a path that leads out of the folder or into git's own.
var (
	ErrChanged = errors.New("was changed meanwhile")
	ErrOutside = errors.New("is no path that may be written")
)

// Digest tells texts apart.
func Digest(text []byte) string {
	sum := sha256.Sum256(text)
	return hex.EncodeToString(sum[:])
}

// Empty says whether the plan changes nothing.
func (p *Plan) Empty() bool {
	return len(p.Moves)+len(p.Makes)+len(p.Edits)+len(p.Drops) == 0
}

// After gives where a path lies once the moves are made: the deepest move that carries it
// counts.
func (p *Plan) After(at string) string {
	best := -1
	for i := range p.Moves {
		from := p.Moves[i].From
		if (at == from || strings.HasSuffix(from, "/") && strings.HasPrefix(at, from) || at+"/" == from) && (best < 0 || len(from) > len(p.Moves[best].From)) {
			best = i
		}
	}
	if best < 0 {
		return at
	}
	m := p.Moves[best]
	if at+"/" == m.From {
		return strings.TrimSuffix(m.To, "/")
	}
	return m.To + strings.TrimPrefix(at, m.From)
}

// Below gives the plan as it is from a folder further up; folder is the path from there,
// "" or ending in "/".
func (p *Plan) Below(folder string) *Plan {
	up := &Plan{Seen: map[string]string{}}
	for _, m := range p.Moves {
		up.Moves = append(up.Moves, Move{folder + m.From, folder + m.To})
	}
	for _, m := range p.Makes {
		m.Path = folder + m.Path
		up.Makes = append(up.Makes, m)
	}
	for _, e := range p.Edits {
		e.Path = folder + e.Path
		up.Edits = append(up.Edits, e)
	}
	for _, at := range p.Drops {
		up.Drops = append(up.Drops, folder+at)
	}
	for at, digest := range p.Seen {
		up.Seen[folder+at] = digest
	}
	return up
}

// Back gives a plan whose After says where a path of after lay before the moves.
func (p *Plan) Back() *Plan {
	back := &Plan{}
	for _, m := range p.Moves {
		back.Moves = append(back.Moves, Move{From: m.To, To: m.From})
	}
	return back
}

// check says whether every path of the plan may be written at all.
func (p *Plan) check() error {
	var all []string
	for _, m := range p.Moves {
		if strings.HasSuffix(m.From, "/") != strings.HasSuffix(m.To, "/") {
			return fmt.Errorf("%s cannot become %s: one is a folder", m.From, m.To)
		}
		if strings.HasSuffix(m.From, "/") && strings.HasPrefix(m.To, m.From) {
			return fmt.Errorf("%s cannot go into itself, to %s", m.From, m.To)
		}
		all = append(all, m.From, m.To)
	}
	for _, m := range p.Makes {
		all = append(all, m.Path)
	}
	for _, e := range p.Edits {
		all = append(all, e.Path)
	}
	for _, at := range append(all, p.Drops...) {
		if err := Writable(at); err != nil {
			return err
		}
	}
	return nil
}

// Writable says whether a path lies below a folder and not in git's own.
func Writable(at string) error {
	plain := strings.TrimSuffix(at, "/")
	if plain == "" || path.IsAbs(plain) || path.Clean(plain) != plain || strings.ContainsAny(plain, "\x00\n\\") {
		return fmt.Errorf("%q %w", at, ErrOutside)
	}
	for part := range strings.SplitSeq(plain, "/") {
		if part == ".." || part == "." || names.IsGitFolder(part) {
			return fmt.Errorf("%q %w", at, ErrOutside)
		}
	}
	return nil
}

// A state is what stands where while steps are laid out, before any is done.
type state struct {
	steps  []step
	exists func(path string) bool // on the disk
}

// stands says whether something will be at a path after the steps so far.
func (s *state) stands(at string) bool {
	at = strings.TrimSuffix(at, "/")
	for _, done := range slices.Backward(s.steps) {
		to := strings.TrimSuffix(done.Path, "/")
		switch done.Do {
		case makeFolder, writeFile:
			if to == at {
				return true
			}
		case moveAway:
			from := strings.TrimSuffix(done.From, "/")
			switch {
			case at == to || strings.HasPrefix(at, to+"/"):
				at = from + at[len(to):]
			case at == from || strings.HasPrefix(at, from+"/"):
				return false
			}
		case dropFile, loseFolder:
			if to == at {
				return false
			}
		}
	}
	return s.exists(at)
}

// around lays out the folders that a path needs.
func (s *state) around(at string) {
	dir := path.Dir(strings.TrimSuffix(at, "/"))
	if dir == "." || s.stands(dir) {
		return
	}
	s.around(dir)
	s.steps = append(s.steps, step{Do: makeFolder, Path: dir + "/"})
}

// layOut puts the moves into an order in which each finds its place free.
func (s *state) layOut(moves []Move) error {
	left := slices.Clone(moves)
	slices.SortStableFunc(left, func(a, b Move) int {
		return cmp.Or(strings.Count(b.From, "/")-strings.Count(a.From, "/"), strings.Compare(a.From, b.From))
	})
	for len(left) > 0 {
		next := slices.IndexFunc(left, func(m Move) bool { return s.ready(m, left, true) })
		if next < 0 {
			next = slices.IndexFunc(left, func(m Move) bool { return s.ready(m, left, false) })
		}
		if next < 0 {
			return taken(left[0].To)
		}
		m := left[next]
		left = slices.Delete(left, next, next+1)
		s.around(m.To)
		s.steps = append(s.steps, step{Do: moveAway, Path: m.To, From: s.now(m.From)})
	}
	return nil
}

// ready says whether a move may be next: its place is free, nothing in it is to go
// out of it first and, where that is asked, no folder is to come where it goes into.
func (s *state) ready(m Move, left []Move, whole bool) bool {
	if s.stands(m.To) && names.Folded(m.To) != names.Folded(m.From) {
		return false
	}
	for _, o := range left {
		if o == m {
			continue
		}
		goesOn := strings.HasPrefix(o.To, m.To) // within it, where it lies then
		if strings.HasSuffix(m.From, "/") && strings.HasPrefix(o.From, m.From) && !goesOn || whole && strings.HasSuffix(o.To, "/") && strings.HasPrefix(m.To, o.To) {
			return false
		}
	}
	return true
}

// now gives where a path of before lies after the steps so far.
func (s *state) now(at string) string {
	for _, done := range s.steps {
		if done.Do == moveAway && strings.HasSuffix(done.From, "/") && strings.HasPrefix(at, done.From) {
			at = done.Path + at[len(done.From):]
		}
	}
	return at
}
