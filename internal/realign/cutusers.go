package realign

import (
	"bytes"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/edit"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
)

// respell writes what one reference takes its names out of as the new file is called, and says whether
// there is a way.
func (c *cutting) respell(e refs.Edge) bool {
	text, err := c.files.Text(e.From)
	name := c.called(e)
	if err != nil || name == "" {
		return false
	}
	start, span := int(e.Ref.Span.Start), e.Ref.Span
	if path.Ext(e.From) == ".py" {
		for e.Ref.Name != "" && start > 0 && text[start-1] == '.' {
			start--
		}
	} else if edits := e.Ref.Edit(); edits.Len() > 0 {
		start, span = int(edits.Start), edits
	}
	c.edits = append(c.edits, edit.Edit{Path: e.From, Line: e.Ref.Line, Start: start, End: int(span.End), Text: name})
	return true
}

// saidIn says whether the text of a file says a name that is taken.
func (c *cutting) saidIn(at string) bool {
	text, err := c.files.Text(at)
	return err != nil || slices.ContainsFunc(c.takes, func(name string) bool { return names.HasWords(string(text), name) })
}

// called gives what the new file is called where a reference names the old one, "" where there is no way.
func (c *cutting) called(e refs.Edge) string {
	all := refs.Respell(e.Ref, e.From, c.at, e.From, c.to)
	if len(all) == 0 {
		return ""
	}
	return strings.Repeat(".", all[0].Relative) + all[0].Name
}

// parted takes an import apart that takes names out of both files, each by itself, and says whether it can.
func (c *cutting) parted(e refs.Edge) bool {
	text, err := c.files.Text(e.From)
	l, module := cutLanguageOf(e.From), c.called(e)
	if err != nil || l == nil || module == "" {
		return false
	}
	all := statementsOf(e.From, text)
	k := slices.IndexFunc(all, func(s statement) bool {
		return s.imports && s.body <= int(e.Ref.Span.Start) && int(e.Ref.Span.End) <= s.end
	})
	if k < 0 {
		return false
	}
	said := bytes.TrimRight(text[all[k].body:all[k].end], "\r\n")
	one, ok := importOf(l, string(said))
	if !ok || one.whole != "" || one.single != "" {
		return false
	}
	own, remark := one, ""
	taken := func(item string) bool {
		name, _, _ := strings.Cut(strings.TrimPrefix(item, "type "), " as ")
		return slices.Contains(c.takes, name)
	}
	own.items = slices.DeleteFunc(slices.Clone(one.items), func(item string) bool { return !taken(item) })
	one.items = slices.DeleteFunc(slices.Clone(one.items), taken)
	if i := bytes.IndexByte(said, '#'); l == pythonCut && i > 0 { // what it says to a checker holds for both
		remark = "  " + string(said[i:])
	}
	if own.module = module; strings.ContainsAny(remark, "\n)") {
		return false
	}
	c.edits = append(c.edits, edit.Edit{Path: e.From, Line: all[k].line, Start: all[k].body, End: all[k].body + len(said), Text: own.write(l) + remark + "\n" + one.write(l) + remark})
	return true
}
