package rules

import (
	"bytes"
	"slices"
	"strings"

	"dicaxon/internal/finding"
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
	edges := map[string][]edge{}
	for i := range parts {
		from := &parts[i]
		text := bytes.Clone(from.text)
		for _, re := range c.regexps["aside"] {
			for _, m := range re.Get().FindAllIndex(text, -1) {
				lang.Blank(text[m[0]:m[1]])
			}
		}
		for k := range parts {
			if to := &parts[k]; k != i && to.folder != from.folder {
				if at := c.asksIn(text, to); at.Len() > 0 {
					edges[from.folder] = append(edges[from.folder], edge{to.folder, from.manifest, refs.Ref{Span: at}})
				}
			}
		}
	}
	prune(edges)
	told := map[string]bool{}
	for i := range parts {
		circle := circleFrom(parts[i].folder, edges)
		if circle == nil || told[parts[i].folder] || slices.ContainsFunc(circle, func(e edge) bool { return c.tangled(e.file) }) {
			continue // a wall may say so already
		}
		said := parts[i].folder
		for _, e := range circle {
			said += " → " + e.to
			told[e.to] = true
		}
		first, last := circle[0], circle[len(circle)-1]
		line, column := refs.Place(c.textOf(first.file), first.ref.Span)
		f := c.report(first.file, line, column, &finding.Place{Path: last.file}, "the parts ask for each other in a circle: %s", said)
		f.Kind, f.Level, f.Why = finding.Tangled, finding.Error, c.text("circles")
	}
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
