package rules

import (
	"bytes"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/edit"
	"dicaxon/internal/lazy"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
)

// bareConstant finds constants that nothing stands before.
var bareConstant = lazy.New(`(?:^|[^\w:.@$"'])([A-Z]\w*)`)

// constantRespelt gives the edits by which a Ruby file that was moved declares the constant that its
// path stands for: as many modules around it as before under their new names, or fewer where the new one has
// fewer parts; and those by which others say it in full. None where a name in it, or in another file, would no
// longer be found.
func (c *Call) constantRespelt(at, said, wanted string) []edit.Edit {
	chain := c.opening(at)
	parts := strings.Split(wanted, "::")
	if len(chain) < 2 || len(parts) < 2 || strings.Contains(chain[len(chain)-1].Name, "::") {
		return nil
	}
	users, all := c.inFull(at, said, wanted)
	if !all || c.namesAround(at, chain) {
		return nil
	}
	edits := users
	if drop := len(chain) - len(parts); drop > 0 {
		inner := c.unnested(at, chain[len(chain)-1-drop:])
		if inner == nil {
			return nil
		}
		edits = append(edits, inner...)
		chain = append(slices.Clone(chain[:len(chain)-1-drop]), chain[len(chain)-1])
	}
	last := len(chain) - 1
	spelt := append(slices.Clone(parts[:last-1]), strings.Join(parts[last-1:len(parts)-1], "::"), parts[len(parts)-1])
	for i, t := range chain {
		if t.Name != spelt[i] {
			edits = append(edits, c.edit(at, t.Span, spelt[i]))
		}
	}
	return edits
}

// unnested gives the edits that take away the modules around a class, each of which stands on a line of its own with
// nothing else in it, and let what was in them stand further left; nil where that is not sure.
func (c *Call) unnested(at string, chain []refs.Ref) (all []edit.Edit) {
	text := c.textOf(at)
	lines := bytes.SplitAfter(text, []byte("\n"))
	first, class := chain[0].Line-1, chain[len(chain)-1].Line-1
	if class-first != len(chain)-1 || heredoc.Match(text) {
		return nil
	}
	begin := func(line []byte) int { return len(line) - len(bytes.TrimLeft(line, " \t")) }
	ends := func(i int) int { // the line of the end of what begins on one
		for k := i + 1; k < len(lines); k++ {
			if len(bytes.TrimSpace(lines[k])) > 0 && begin(lines[k]) <= begin(lines[i]) {
				if begin(lines[k]) == begin(lines[i]) && string(bytes.TrimSpace(lines[k])) == "end" {
					return k
				}
				return -1
			}
		}
		return -1
	}
	until, left := ends(class), begin(lines[class])-begin(lines[first])
	if until < 0 || left <= 0 {
		return nil
	}
	for i := range chain[1:] {
		if ends(first+i) != until+len(chain)-1-i {
			return nil
		}
	}
	start := 0
	for i, line := range lines {
		span := refs.Span{Start: int32(start), End: int32(start + len(line))}
		switch {
		case i >= first && i < class || i > until && i < until+len(chain):
			all = append(all, c.edit(at, span, ""))
		case i >= class && i <= until && begin(line) >= left:
			all = append(all, c.edit(at, refs.Span{Start: span.Start, End: span.Start + int32(left)}, ""))
		}
		start += len(line)
	}
	return all
}

// heredoc finds texts over several lines, and what stands behind the end of a program.
var heredoc = lazy.New(`<<[-~]?["'A-Z]|(?m:^=begin)|(?m:^__END__)`)

// inFull gives the edits by which other files say a constant of a file in full under its new name, and whether none
// of them says it by the end of its name alone.
func (c *Call) inFull(at, said, wanted string) (edits []edit.Edit, all bool) {
	parts := strings.Split(said, "::")
	tail := strings.Join(parts[max(0, len(parts)-2):], "::") // the shortest that is no common word
	for _, f := range c.everything() {
		if f.path == at || path.Ext(f.path) != ".rb" {
			continue
		}
		code := c.Graph.Code(f.path)
		for _, i := range lang.Words(code, tail) {
			start, end := i+len(tail)-len(said), i+len(tail)
			if start < 0 || string(code[start:end]) != said || start > 0 && lang.WordByte(code[start-1]) || bytes.HasSuffix(code[:start], []byte("::")) && !bytes.HasSuffix(code[:start], []byte(" ::")) {
				if slices.ContainsFunc(c.files("files"), func(o file) bool { return o.path == f.path }) {
					return nil, false
				}
				continue
			}
			edits = append(edits, c.edit(f.path, refs.Span{Start: int32(start), End: int32(end)}, wanted))
		}
	}
	return edits, true
}

// namesAround says whether a file names a constant that it finds by what stands around it.
func (c *Call) namesAround(at string, chain []refs.Ref) bool {
	own := map[string]bool{} // and what is declared at the top, which is found from anywhere
	for _, t := range chain {
		for _, part := range strings.Split(t.Name, "::") {
			own[part] = true
		}
	}
	declared := map[string]bool{}
	for _, f := range c.files("files") {
		for _, t := range c.refsOf(f.path).Of(refs.Type) {
			for i, part := range strings.Split(t.Name, "::") {
				declared[part] = true
				own[part] = own[part] || i == 0 && t.Column <= len("module ")+1
			}
		}
	}
	for _, m := range bareConstant.Get().FindAllSubmatch(c.Graph.Code(at), -1) {
		if name := string(m[1]); declared[name] && !own[name] {
			return true
		}
	}
	return false
}
