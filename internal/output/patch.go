package output

import (
	"io"
	"strings"

	"github.com/go-git/go-git/v5/plumbing"
	"github.com/go-git/go-git/v5/plumbing/filemode"
	"github.com/go-git/go-git/v5/plumbing/format/diff"
	lines "github.com/go-git/go-git/v5/utils/diff"
	"github.com/sergi/go-diff/diffmatchpatch"

	"dicaxon/internal/app"
)

// WritePatch writes changes as a patch in git's form, which `git apply` takes: renames
// are renames, also where the text changes with them.
func WritePatch(w io.Writer, all []app.Changed) error {
	p := patches{}
	for i := range all {
		p = append(p, filePatch{&all[i]})
	}
	return diff.NewUnifiedEncoder(w, diff.DefaultContextLines).Encode(p)
}

type patches []diff.FilePatch

func (p patches) FilePatches() []diff.FilePatch { return p }
func (p patches) Message() string               { return "" }

type filePatch struct{ *app.Changed }

func (f filePatch) IsBinary() bool {
	return strings.IndexByte(string(f.Old), 0) >= 0 || strings.IndexByte(string(f.New), 0) >= 0
}

func (f filePatch) Files() (from, to diff.File) {
	if f.From != "" {
		from = fileSide{f.From, f.Old, f.Executable}
	}
	if f.To != "" {
		to = fileSide{f.To, f.New, f.Executable}
	}
	return from, to
}

func (f filePatch) Chunks() []diff.Chunk {
	if string(f.Old) == string(f.New) {
		return nil
	}
	var all []diff.Chunk
	for _, d := range lines.Do(string(f.Old), string(f.New)) {
		all = append(all, chunk{d})
	}
	return all
}

type fileSide struct {
	path       string
	text       []byte
	executable bool
}

func (s fileSide) Hash() plumbing.Hash { return plumbing.ComputeHash(plumbing.BlobObject, s.text) }
func (s fileSide) Path() string        { return s.path }

func (s fileSide) Mode() filemode.FileMode {
	if s.executable {
		return filemode.Executable
	}
	return filemode.Regular
}

type chunk struct{ diffmatchpatch.Diff }

func (c chunk) Content() string { return c.Text }

func (c chunk) Type() diff.Operation {
	switch c.Diff.Type {
	case diffmatchpatch.DiffInsert:
		return diff.Add
	case diffmatchpatch.DiffDelete:
		return diff.Delete
	}
	return diff.Equal
}
