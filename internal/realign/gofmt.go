package realign

import (
	"bytes"
	"go/ast"
	"go/format"
	"go/parser"
	"go/token"
	"path"
	"slices"
	"unicode"

	"dicaxon/internal/edit"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
)

// format keeps files of Go as gofmt writes them, where they were so: a name of another
// length moves what stands in columns beside it, and a path the order of imports.
func (f *follower) format() {
	for at, edits := range edit.ByFile(f.edits) {
		text, err := f.tree.Text(at)
		if err != nil || path.Ext(at) != ".go" || !formatted(text) {
			continue
		}
		if inOrder := importsInOrder(at, text, edits); inOrder != nil {
			edits = inOrder
		}
		spaces, ok := columns(at, text, edits)
		if !ok {
			continue // it is as right, and less tidy
		}
		f.edits = slices.DeleteFunc(f.edits, func(e edit.Edit) bool { return e.Path == at })
		f.edits = append(append(f.edits, edits...), spaces...)
	}
}

func formatted(text []byte) bool {
	want, err := format.Source(text)
	return err == nil && bytes.Equal(want, text)
}

// importsInOrder makes one edit of those of a file's imports, where they change their order;
// nil where they do not.
func importsInOrder(at string, text []byte, edits []edit.Edit) []edit.Edit {
	made, err := edit.Apply(text, edits)
	if err != nil {
		return nil
	}
	want, err := format.Source(made)
	if err != nil {
		return nil
	}
	now, then := importNames(made), importNames(want)
	start, end := importSpan(text)
	if start < 0 || slices.Equal(now, then) {
		return nil
	}
	first, last := importSpan(want)
	kept := slices.DeleteFunc(slices.Clone(edits), func(e edit.Edit) bool { return e.Start >= start && e.End <= end })
	line, _ := refs.Place(text, lang.At(start, end))
	return edit.InOrder(append(kept, edit.Edit{Path: at, Line: line, Start: start, End: end, Text: string(want[first:last])}))
}

func imports(text []byte) (*token.FileSet, []*ast.ImportSpec) {
	set := token.NewFileSet()
	file, err := parser.ParseFile(set, "", text, parser.ImportsOnly)
	if err != nil {
		return set, nil
	}
	return set, file.Imports
}

func importNames(text []byte) (all []string) {
	_, specs := imports(text)
	for _, s := range specs {
		all = append(all, s.Path.Value)
	}
	return all
}

// importSpan gives where the imports of a file begin and end, -1 where it has none.
func importSpan(text []byte) (start, end int) {
	set, specs := imports(text)
	if len(specs) == 0 {
		return -1, -1
	}
	return set.Position(specs[0].Pos()).Offset, set.Position(specs[len(specs)-1].End()).Offset
}

// columns gives the edits of blanks that make a file of Go what gofmt would, and whether
// nothing else is in the way.
func columns(at string, text []byte, edits []edit.Edit) (all []edit.Edit, ok bool) {
	made, err := edit.Apply(text, edits)
	if err != nil {
		return nil, false
	}
	want, err := format.Source(made)
	if err != nil {
		return nil, false
	}
	blanks := func(of []byte, i int) int {
		for i < len(of) && unicode.IsSpace(rune(of[i])) {
			i++
		}
		return i
	}
	for i, k := 0, 0; i < len(made) || k < len(want); {
		nextI, nextK := blanks(made, i), blanks(want, k)
		if !bytes.Equal(made[i:nextI], want[k:nextK]) {
			start, end, known := before(edits, i, nextI)
			if !known {
				return nil, false
			}
			line, _ := refs.Place(text, lang.At(start, end))
			all = append(all, edit.Edit{Path: at, Line: line, Start: start, End: end, Text: string(want[k:nextK])})
		}
		if i, k = nextI, nextK; i < len(made) && k < len(want) {
			if made[i] != want[k] {
				return nil, false
			}
			i, k = i+1, k+1
		} else if i < len(made) || k < len(want) {
			return nil, false
		}
	}
	return all, true
}

// before gives where a part of a text that was edited lay before, and whether it is none of
// what an edit brought.
func before(edits []edit.Edit, start, end int) (from, to int, known bool) {
	shift := 0
	for _, e := range edit.InOrder(edits) {
		at := e.Start + shift
		if end <= at {
			break
		}
		if start < at+len(e.Text) {
			return 0, 0, false
		}
		shift += len(e.Text) - (e.End - e.Start)
	}
	return start - shift, end - shift, true
}
