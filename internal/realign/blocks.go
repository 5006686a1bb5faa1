package realign

import (
	"bytes"
	"cmp"
	"slices"
	"strings"

	"dicaxon/internal/edit"
	"dicaxon/internal/rules"
)

// A boxing is a line that has to stand in a block, since what it names comes to a part of its own.
type boxing struct {
	rules.Block
	named      rules.Named
	line       int
	start, end int // of the line in its file, without what ends it
}

// box notes a name whose line has to stand in a block, and says whether it has to. A line that goes on, or that begins
// a block itself, is nobody's to move but people's.
func (f *follower) box(n rules.Named, text []byte, line int) bool {
	start := bytes.LastIndexByte(text[:n.Span.Start], '\n') + 1
	end := len(text)
	if i := bytes.IndexByte(text[n.Span.End:], '\n'); i >= 0 {
		end = int(n.Span.End) + i
	}
	end = start + len(bytes.TrimRight(text[start:end], "\r"))
	said := strings.TrimSpace(string(text[start:end]))
	b, ok := n.Block(said, f.plan.After(n.To))
	if !ok || strings.HasSuffix(said, ",") || strings.HasSuffix(said, "do") || strings.HasSuffix(said, "{") {
		return false
	}
	f.boxes = append(f.boxes, boxing{b, n, line, start, end})
	return true
}

// blocks writes the blocks of the lines that have to stand in one, lines that follow each other in one together.
func (f *follower) blocks() {
	slices.SortStableFunc(f.boxes, func(a, b boxing) int {
		return cmp.Or(cmp.Compare(a.named.From, b.named.From), cmp.Compare(a.line, b.line))
	})
	for i := 0; i < len(f.boxes); {
		k := i + 1
		for k < len(f.boxes) && f.boxes[k].named.From == f.boxes[i].named.From && f.boxes[k].line == f.boxes[k-1].line+1 && f.boxes[k].Opens == f.boxes[i].Opens {
			k++
		}
		f.inBlock(f.boxes[i:k])
		i = k
	}
}

// inBlock writes some lines that follow each other as a block.
func (f *follower) inBlock(lines []boxing) {
	at := lines[0].named.From
	text, err := f.tree.Text(at)
	if err != nil {
		return
	}
	first := string(text[lines[0].start:lines[0].end])
	indent := first[:len(first)-len(strings.TrimLeft(first, " \t"))]
	ending := "\n"
	if bytes.Contains(text, []byte("\r\n")) {
		ending = "\r\n"
	}
	for i, l := range lines {
		said := l.without(text[l.start:l.named.Span.Start]) + l.Name + l.without(text[l.named.Span.End:l.end])
		said = indent + "  " + strings.TrimSpace(said)
		if i == 0 {
			said = indent + l.Opens + ending + said
		}
		if i == len(lines)-1 {
			said += ending + indent + l.Closes
		}
		f.edits = append(f.edits, edit.Edit{Path: at, Line: l.line, Start: l.start, End: l.end, Text: said})
	}
}

// without gives a part of the line without what the block says already of a path in quotes.
func (l *boxing) without(part []byte) string {
	said := string(part)
	if l.Takes == "" {
		return said
	}
	for _, quote := range []string{`"`, `'`} {
		said = strings.Replace(said, quote+l.Takes+quote, quote+"/"+quote, 1)
		said = strings.Replace(said, quote+l.Takes+"/", quote+"/", 1)
	}
	return said
}
