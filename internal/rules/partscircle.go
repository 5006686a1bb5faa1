package rules

import (
	"bytes"
	"path"
	"slices"
	"strings"
	"unicode/utf8"

	"dicaxon/internal/finding"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
)

// tellCirclesOfParts tells of parts whose manifests ask for each other, directly or through others:
// no order is left in which they can be built. What stands aside, such as what only tests need, may
// ask back.
func (c *Call) tellCirclesOfParts(parts []part) {
	if c.text("circles") == "" {
		return
	}
	edges, given := map[string][]edge{}, map[string]int{}
	for i := range parts {
		for _, name := range slices.Compact(slices.Sorted(slices.Values(parts[i].called))) {
			given[name]++
		}
	}
	twice := func(name string) bool { return given[name] > 1 } // nobody can tell which of them is asked for
	for i := range parts {
		from := &parts[i]
		text := c.withoutAside(from.text)
		said := wordsOf(text)
		for k := range parts {
			to := &parts[k]
			asked := said[names.Stem(path.Base(to.manifest))] || slices.ContainsFunc(to.called, func(name string) bool { return said[name] })
			if to.folder == from.folder || !asked || slices.ContainsFunc(to.called, twice) {
				continue
			}
			if at := c.asksIn(text, to); at.Len() > 0 {
				edges[from.folder] = append(edges[from.folder], edge{to.folder, from.manifest, refs.Ref{Span: at}})
			}
		}
	}
	for _, circle := range c.untold(circlesIn(edges)) {
		first, last := circle[0], circle[len(circle)-1]
		line, column := refs.Place(c.textOf(first.file), first.ref.Span)
		f := c.report(first.file, line, column, &finding.Place{Path: last.file}, "the parts ask for each other in a circle: %s", around(circle, whole))
		f.Kind, f.Level, f.Why = finding.Tangled, finding.Error, c.text("circles")
	}
}

// wordsOf gives the words of a manifest that may be names of parts, also without what stands before
// or behind a dot in them: of very many parts few are asked for.
func wordsOf(text []byte) map[string]bool {
	all := map[string]bool{}
	for word := range bytes.FieldsFuncSeq(text, func(r rune) bool { return r >= utf8.RuneSelf || !ofName(byte(r)) }) {
		one := string(word)
		all[one], all[names.Stem(one)] = true, true
		for i := range one {
			if one[i] == '.' {
				all[one[i+1:]] = true
			}
		}
	}
	return all
}

// asksIn gives where a manifest asks for a part by its whole name; nowhere where it does not.
func (c *Call) asksIn(text []byte, to *part) lang.Span {
	for _, form := range c.formsOf(to) {
		for from := 0; ; {
			i := bytes.Index(text[from:], []byte(form))
			if i < 0 {
				break
			}
			start, end := from+i, from+i+len(form)
			from = end
			if (start == 0 || !ofName(text[start-1]) || !ofName(form[0])) && (end == len(text) || !ofName(text[end]) || !ofName(form[len(form)-1])) {
				return lang.At(start, end)
			}
		}
	}
	return lang.Span{}
}

func ofName(b byte) bool { return lang.WordByte(b) || strings.IndexByte(".-", b) >= 0 }
